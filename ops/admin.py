"""`./yoshi-admin`: an installation of a shop's own, from its first day to its upgrades. The demo is `./start` and has nothing of this."""

import argparse
import json
import os
import shutil
import subprocess
import sys
import time
import urllib.request
from pathlib import Path

from ops import backup, doctor, setup
from ops.console import Trouble, run, say
from ops.database import port_free
from ops.installation import Installation, Settings, default_folder
from ops.paths import ROOT
from ops.serving import MANAGE, begin, until_told, web_server

DEBIAN_SHOP = {
    "mariadb-backup": "takes backups while the database is in use",
    "age": "encrypts backups",
}
READY_S = 30.0


def main(arguments: list[str]) -> int:
    parser = argparse.ArgumentParser(prog="./yoshi-admin", description="Install and look after Yoshi for a shop.")
    parser.add_argument("--data", type=Path, default=default_folder(), help="the installation's folder (YOSHI_DATA; /var/lib/yoshi)")
    commands = parser.add_subparsers(required=True)

    first = commands.add_parser("init", help="make an installation: database, first shop and its owner; no demo")
    first.add_argument("--shop", required=True, help="the shop's name, as records show it")
    first.add_argument("--owner", required=True, help="the owner's name for signing in")
    first.add_argument("--name", required=True, help="the owner's name, as records show it")
    first.add_argument("--mail", default="", help="the owner's mail address")
    first.add_argument("--url", required=True, help="how phones reach it, such as https://yoshi.shop.example")
    first.add_argument("--port", type=int, default=8420, help="the port on this machine the proxy passes on to")
    first.add_argument("--server", default="", help="a MariaDB elsewhere, as user:password@host:port/name; else one of its own")
    first.add_argument("--mail-server", default="", help="host:port for mail that goes out")
    first.add_argument("--mail-from", default="", help="the address mail comes from")
    first.set_defaults(go=init)

    serving = commands.add_parser("serve", help="run the web servers and the worker, behind a TLS proxy")
    serving.add_argument("--workers", type=int, default=0, help="web server processes; else what the settings say")
    serving.set_defaults(go=serve)

    keeping = commands.add_parser("backup", help="take a backup while it is in use, and look it through")
    keeping.add_argument("--to", type=Path, help="the folder; else DATA/backups")
    keeping.add_argument("--encrypt-to", default="", help="an age recipient (age1…): only its key opens the backup")
    keeping.set_defaults(go=take_backup)

    back = commands.add_parser("restore", help="bring a backup back into an empty database")
    back.add_argument("file", type=Path)
    back.add_argument("--identity", default="", help="the age key of an encrypted backup")
    back.add_argument("--until", default="", help="go on to this moment, as 2026-11-30 12:00:00 (UTC), from the binary logs")
    back.add_argument("--binlogs", type=Path, help="the folder of the binary logs")
    back.set_defaults(go=restore)

    looked = commands.add_parser("check-backup", help="read a backup through against its digests")
    looked.add_argument("file", type=Path)
    looked.set_defaults(go=lambda options: say(f"  Whole: {len(backup.check(options.file)['parts'])} parts."))

    newer = commands.add_parser("upgrade", help="backup, then migrate, then look whether it is well; back on failure")
    newer.set_defaults(go=upgrade)

    well = commands.add_parser("doctor", help="what is well here, what is not, and the way out")
    well.set_defaults(go=lambda options: doctor.doctor(_of(options)))
    options = parser.parse_args(arguments)
    try:
        return int(options.go(options) or 0)
    except Trouble as trouble:
        print(f"\n{trouble}", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        print("\nStopped.", file=sys.stderr)
        return 130


def _of(options: argparse.Namespace) -> Installation:
    return Installation(options.data.resolve())


def init(options: argparse.Namespace) -> None:
    """Make the installation; run again on the same folder it goes on where it broke off."""
    installation = _of(options)
    mail = _mail(options.mail_server, options.mail_from)
    if not installation.exists():
        installation.keep(Settings(options.url.rstrip("/"), options.port, server=_server(options.server), mail=mail))
    setup.set_up("run")
    setup.debian_packages(DEBIAN_SHOP)
    setup.build_web()
    started = installation.ensure_database()
    try:
        env = installation.environment()
        run("Database migration", [*MANAGE, "migrate", "--no-input", "-v", "0"], env=env)
        command = [*MANAGE, "new_shop", "--shop", options.shop, "--owner", options.owner, "--name", options.name, "--mail", options.mail]
        done = subprocess.run(command, env=env, text=True, capture_output=True, check=False)
        if done.returncode:
            raise Trouble(done.stderr.strip().splitlines()[-1] if done.stderr.strip() else "The shop could not be made.")
        say(f"\nThe installation is in {installation.folder}.")
        say(f"{options.name} chooses a password here, within 7 days:\n  {done.stdout.strip()}")
        say(f"Keep {installation.folder / 'secret-key'} apart from the backups.")
        say("Next:  ./yoshi-admin serve   behind a TLS proxy (docs/operating.md); phones need TLS for camera, Bluetooth and no signal.")
    finally:
        if started:
            installation.instance.stop()


def _server(text: str) -> dict[str, str]:
    """A database server elsewhere, from user:password@host:port/name."""
    if not text:
        return {}
    account, _, place = text.rpartition("@")
    user, _, password = account.partition(":")
    address, _, name = place.partition("/")
    host, _, port = address.partition(":")
    if not (user and host and name):
        raise Trouble("Write the database server as user:password@host:port/name.")
    values = {"HOST": host, "PORT": port or "3306", "NAME": name, "USER": user, "PASSWORD": password}
    return {f"YOSHI_DB_{key}": value for key, value in values.items()}


def _mail(server: str, sender: str) -> dict[str, str]:
    host, _, port = server.partition(":")
    given = {"YOSHI_MAIL_HOST": host, "YOSHI_MAIL_PORT": port, "YOSHI_MAIL_FROM": sender}
    return {name: value for name, value in given.items() if value}


def serve(options: argparse.Namespace) -> int:
    """Run in the foreground until told to end."""
    installation = _of(options)
    settings = installation.settings
    if not port_free(settings.port):
        raise Trouble(f"Port {settings.port} is taken by another program. Is Yoshi running already?")
    started = installation.ensure_database()
    env = installation.environment()
    for old in (installation.folder / "metrics").glob("*.db"):
        old.unlink()
    try:
        main_process = begin(web_server(settings.port, options.workers or settings.workers), env, ROOT / "server")
        say(f"Yoshi serves {settings.url} by port {settings.port}. Ctrl-C stops it.")
        return until_told(main_process, [([*MANAGE, "work"], env), ([*MANAGE, "practise"], env)], [])
    finally:
        if started:
            installation.instance.stop()


def take_backup(options: argparse.Namespace) -> None:
    """A backup of an installation that may be in use."""
    installation = _of(options)
    started = installation.ensure_database()
    try:
        backup.backup(installation, options.to or installation.folder / "backups", options.encrypt_to)
    finally:
        if started:
            installation.instance.stop()


def restore(options: argparse.Namespace) -> None:
    """Bring a backup back, and say what is in it."""
    installation = _of(options)
    if not installation.exists():
        raise Trouble(f"Make {installation.folder} first: put settings.json and secret-key of the installation there, or run init.")
    backup.restore(installation, options.file.resolve(), options.identity, options.until, options.binlogs)
    rows = backup.server_of(installation).rows("jobs_job", "cylinders_movement", "accounts_person")
    installation.instance.stop()
    say(f"  Back: {rows.get('jobs_job', 0)} jobs, {rows.get('cylinders_movement', 0)} movements, {rows.get('accounts_person', 0)} people.")


def upgrade(options: argparse.Namespace) -> None:
    """After new code was put in place: a backup, the migration, a look whether it is well; back to the backup where it is not."""
    installation = _of(options)
    setup.set_up("run")
    setup.debian_packages(DEBIAN_SHOP)
    setup.build_web()
    started = installation.ensure_database()
    try:
        kept = backup.backup(installation, installation.folder / "backups")
        env = installation.environment()
        try:
            run("Database migration", [*MANAGE, "migrate", "--no-input", "-v", "0"], env=env)
            _is_well(installation, env)
        except Trouble as trouble:
            _back(installation, kept)
            raise Trouble(
                f"The upgrade failed, and the database is as it was before. Put the code of before back too.\n{trouble}"
            ) from None
        say("  The upgrade is done. Start the servers again.")
    finally:
        if started:
            installation.instance.stop()


def _is_well(installation: Installation, env: dict[str, str]) -> None:
    """A web server of the new code says it is ready, on a port of its own."""
    port = installation.settings.port + 1
    process = begin(web_server(port), {**env, "YOSHI_PORT": str(port)}, ROOT / "server")
    try:
        until = time.monotonic() + READY_S
        while time.monotonic() < until:
            try:
                with urllib.request.urlopen(f"http://127.0.0.1:{port}/api/health/ready", timeout=5) as answer:
                    if json.loads(answer.read())["status"] == "ready":
                        return
            except OSError:
                time.sleep(0.3)
        raise Trouble("The new servers do not say that they are ready.")
    finally:
        process.terminate()
        process.wait()


def _back(installation: Installation, kept: Path) -> None:
    """The database as it was; what failed is kept beside for whoever looks into it."""
    if installation.settings.server:
        raise Trouble(f"Bring the backup back by hand: ./yoshi-admin restore {kept}")
    instance = installation.instance
    instance.stop()
    failed = instance.state / f"db-failed-{int(time.time())}"
    shutil.move(instance.data, failed)
    backup.restore(installation, kept)


def entry() -> None:
    os.chdir(ROOT)
    sys.exit(main(sys.argv[1:]))


if __name__ == "__main__":
    entry()
