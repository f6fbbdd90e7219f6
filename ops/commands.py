"""The commands: start, test, db."""

import argparse
import os
import secrets
import sys
from pathlib import Path

from ops import checks, database, setup
from ops.console import Trouble, run, say
from ops.paths import BIN, ROOT, STATE, digest, is_done, mark_done
from ops.serving import MANAGE, begin, server_environment, until_told, web_server

MAIL = STATE / "mail"
DEFAULT_PORT = 8420


def main(arguments: list[str]) -> int:
    parser = argparse.ArgumentParser(prog="ops")
    commands = parser.add_subparsers(required=True)
    start_command = commands.add_parser("start", prog="./start", description="Set up what is missing and serve Yoshi.")
    start_command.add_argument("--port", type=int, default=int(os.environ.get("YOSHI_PORT", DEFAULT_PORT)))
    start_command.set_defaults(go=start)
    test_command = commands.add_parser("test", prog="./test", description="Set up what is missing and run the checks.")
    test_command.add_argument("part", nargs="?", choices=[*checks.PARTS, "all"], default="all")
    test_command.add_argument("rest", nargs=argparse.REMAINDER, help="passed on to pytest")
    test_command.set_defaults(go=checks.test)
    db_command = commands.add_parser("db", description="Start or stop the database alone.")
    db_command.add_argument("what", choices=["start", "stop"])
    db_command.set_defaults(go=database_command)
    options = parser.parse_args(arguments)
    try:
        return int(options.go(options) or 0)
    except Trouble as trouble:
        print(f"\n{trouble}", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        print("\nStopped.", file=sys.stderr)
        return 130
    except OSError as error:
        if error.errno == 28:
            print("\nThe disk is full. Free some space (df -h shows where) and run the command again.", file=sys.stderr)
            return 1
        raise


def database_command(options: argparse.Namespace) -> int:
    """Start or stop the database alone."""
    if options.what == "start":
        database.ensure_running()
    else:
        database.stop()
    return 0


def demo_environment(port: int) -> dict[str, str]:
    """The environment the demo runs in; the secret key is made once and kept out of the repository."""
    key_file = STATE / "secret-key"
    if not key_file.exists():
        key_file.write_text(secrets.token_urlsafe(50))
        key_file.chmod(0o600)
    hosts = os.environ.get("YOSHI_HOSTS", "127.0.0.1,localhost")
    mail = {"YOSHI_MAIL_HOST": "127.0.0.1", "YOSHI_MAIL_PORT": str(database.free_port())}
    return server_environment(database.environment(), key_file.read_text(), port, YOSHI_HOSTS=hosts, **mail)


def start(options: argparse.Namespace) -> int:
    """`./start`: set up, migrate, load the demo world once, serve until Ctrl-C."""
    if not database.port_free(options.port):
        raise Trouble(
            f"Port {options.port} is taken by another program. Stop it, or choose another port: ./start --port {options.port + 1}"
        )
    say("Yoshi is getting ready.")
    setup.set_up("run")
    setup.build_web()
    started_database = database.ensure_running()
    env = demo_environment(options.port)
    key = digest(ROOT / "server", ROOT / "core" / "yoshi_core") + env["YOSHI_DB_PORT" if "YOSHI_DB_PORT" in env else "YOSHI_DB_HOST"]
    if not is_done("migrate", key):
        run("Database migration", [*MANAGE, "migrate", "--no-input", "-v", "0"], env=env)
        run("Demo world", [*MANAGE, "load_demo"], env=env)
        mark_done("migrate", key)
    kits = STATE / "standins.json"
    run("Simulated instruments", [*MANAGE, "live_demo", str(kits)], env=env)
    try:
        return serve(options.port, env, kits)
    finally:
        if started_database:
            database.stop()
            say("The database is stopped. Nothing is lost; ./start goes on from here.")


def serve(port: int, env: dict[str, str], kits: Path) -> int:
    """Run the web server in the foreground, the worker, the simulated instruments and a mail server that keeps mail beside it."""
    process = begin(web_server(port), env, ROOT / "server")
    post = [str(BIN / "python"), "-m", "standins", "--server", f"http://127.0.0.1:{port}", "--config", str(kits)]
    catch = [str(BIN / "python"), "-m", "standins.mail", "--port", env["YOSHI_MAIL_PORT"], "--folder", str(MAIL)]
    others = [begin(post, env, silent=True), begin(catch, env)]
    say(f"\nYoshi is at http://127.0.0.1:{port}/")
    say("Sign in as  orrin  with  quillon-ridge  (a made-up technician; also vesk, the lead, and hale, the owner).")
    say(f"Mail it sends leaves nothing here: it is kept in {MAIL.relative_to(ROOT)}.")
    say("Ctrl-C stops it.\n")
    return until_told(process, [([*MANAGE, "work"], env), ([*MANAGE, "practise"], env)], others)
