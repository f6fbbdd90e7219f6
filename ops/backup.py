"""Backups of an installation: taken while it is in use, checked, encrypted on request; and brought back.

A backup is one tar file: the database, `manifest.json` with every table's rows and sums, and a digest of each part. It does
not hold the secret key, nor the password of a database server elsewhere: keep those apart, or whoever has the backup has both.
"""

import hashlib
import json
import os
import shutil
import subprocess
import tarfile
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path
from typing import IO, Any

from ops.console import Trouble, run, say
from ops.database import NAME, READY, Instance
from ops.installation import Installation

LEFT_OUT = "It does not hold the secret key (secret-key) nor passwords of servers elsewhere (settings.json): keep those apart."
POSITION = ("xtrabackup_binlog_info", "mariadb_backup_binlog_info")


@dataclass(frozen=True)
class Server:
    """A way to ask a database: the installation's own by its socket, one elsewhere by its address."""

    options: tuple[str, ...]
    env: dict[str, str]
    name: str

    def ask(self, statement: str) -> list[list[str]]:
        """Rows of a statement. Raises `Trouble`."""
        command = ["mariadb", *self.options, "--batch", "--skip-column-names", self.name]
        done = subprocess.run(command, input=statement, env=self.env, text=True, capture_output=True, check=False)
        if done.returncode:
            raise Trouble(f"The database does not answer: {done.stderr.strip()}")
        return [line.split("\t") for line in done.stdout.splitlines()]

    def tables(self) -> list[str]:
        return [row[0] for row in self.ask(f"SELECT TABLE_NAME FROM information_schema.TABLES WHERE TABLE_SCHEMA='{self.name}' ORDER BY 1")]

    def rows(self, *tables: str) -> dict[str, int]:
        """How many rows these tables have; of one that is not there nothing."""
        there = set(self.tables())
        return {name: int(self.ask(f"SELECT COUNT(*) FROM `{name}`")[0][0]) for name in tables if name in there}

    def figures(self) -> dict[str, Any]:
        """What two databases with the same content agree in: rows and a checksum of every table, and the mass in every book."""
        tables = self.tables()
        sums = (
            {row[0].partition(".")[2]: row[1] for row in self.ask(f"CHECKSUM TABLE {', '.join(f'`{name}`' for name in tables)}")}
            if tables
            else {}
        )
        rows = self.rows(*tables)
        mass = (
            self.ask("SELECT shop_id, COUNT(*), SUM(mass_kg) FROM cylinders_movement GROUP BY shop_id ORDER BY 1")
            if "cylinders_movement" in rows
            else []
        )
        return {"rows": rows, "checksums": sums, "mass": mass}


def server_of(installation: Installation) -> Server:
    """How to ask the installation's database."""
    there = installation.settings.server
    if not there:
        return of_instance(installation.instance)
    env = {**os.environ, "MYSQL_PWD": there["YOSHI_DB_PASSWORD"]}
    options = ("--no-defaults", f"--host={there['YOSHI_DB_HOST']}", f"--port={there['YOSHI_DB_PORT']}", f"--user={there['YOSHI_DB_USER']}")
    return Server(options, env, there["YOSHI_DB_NAME"])


def of_instance(instance: Instance) -> Server:
    return Server(("--no-defaults", f"--socket={instance.socket}", "--user=root"), dict(os.environ), NAME)


def backup(installation: Installation, folder: Path, encrypt_to: str = "") -> Path:
    """Take a backup into a folder, look it through, and say what it does not hold. Raises `Trouble`."""
    folder.mkdir(parents=True, exist_ok=True)
    started, stamp = time.monotonic(), datetime.now(UTC).strftime("%Y%m%d-%H%M%S")
    target = folder / f"yoshi-{stamp}.tar.gz"
    with tempfile.TemporaryDirectory(dir=folder, prefix="making-") as scratch:
        made = Path(scratch)
        kind = _copy_own(installation, made / "db") if not installation.settings.server else _dump(installation, made / "dump.sql")
        manifest = {"made": stamp, "kind": kind, "parts": _digests(made)}
        (made / "manifest.json").write_text(json.dumps(manifest, indent=1))
        half = folder / f"{target.name}.part"
        half.touch(mode=0o600)
        with tarfile.open(half, "w:gz", compresslevel=3) as tar:
            tar.add(made / "manifest.json", "manifest.json")
            for part in sorted(made.iterdir()):
                if part.name != "manifest.json":
                    tar.add(part, part.name)
    check(half)
    if encrypt_to:
        target = target.with_name(target.name + ".age")
        run("Encryption", ["age", "-r", encrypt_to, "-o", str(target), str(half)])
        half.unlink()
    else:
        half.rename(target)
    target.chmod(0o600)
    say(f"  {target}, {target.stat().st_size / 1e6:.1f} MB, in {time.monotonic() - started:.0f} s. {LEFT_OUT}")
    return target


def _copy_own(installation: Installation, into: Path) -> str:
    """The data folder as it is at one moment, while it is in use."""
    instance = installation.instance
    command = ["mariadb-backup", "--no-defaults", f"--datadir={instance.data}", f"--socket={instance.socket}", "--user=root"]
    run("Backup of the database", [*command, "--backup", f"--target-dir={into}"])
    run("Preparing the backup", ["mariadb-backup", "--no-defaults", "--prepare", f"--target-dir={into}"])
    return "folder"


def _dump(installation: Installation, into: Path) -> str:
    """All statements that make the database again, as of one moment, from a server elsewhere."""
    server = server_of(installation)
    command = ["mariadb-dump", *server.options, "--single-transaction", "--routines", "--default-character-set=utf8mb4", server.name]
    with into.open("wb") as out:
        done = subprocess.run(command, env=server.env, stdout=out, stderr=subprocess.PIPE, check=False)
    if done.returncode:
        raise Trouble(f"The database server gave no dump: {done.stderr.decode().strip()}")
    return "dump"


def _digests(folder: Path) -> dict[str, str]:
    return {str(path.relative_to(folder)): _digest(path) for path in sorted(folder.rglob("*")) if path.is_file()}


def _digest(path: Path) -> str:
    with path.open("rb") as file:
        return _digest_of(file)


def _digest_of(file: IO[bytes]) -> str:
    total = hashlib.sha256()
    while piece := file.read(1 << 20):
        total.update(piece)
    return total.hexdigest()


def check(file: Path) -> dict[str, Any]:
    """Read a backup through and hold every part against its digest; what it says of itself. Raises `Trouble`."""
    with opened(file) as tar:
        first = tar.next()
        reader = tar.extractfile(first) if first is not None and first.name == "manifest.json" else None
        if reader is None or first is None:
            raise Trouble(f"{file} is no backup of Yoshi: its first part is not manifest.json.")
        manifest: dict[str, Any] = json.loads(reader.read())
        left = dict(manifest["parts"])
        for member in tar:
            if member.name == first.name:
                continue
            content = tar.extractfile(member) if member.isfile() else None
            if content is not None and _digest_of(content) != left.pop(member.name, None):
                raise Trouble(f"{file} is damaged: {member.name} is not what was written.")
    if left:
        raise Trouble(f"{file} is not whole: {next(iter(left))} and {len(left) - 1} other parts are missing.")
    return manifest


@contextmanager
def opened(file: Path) -> Iterator[tarfile.TarFile]:
    """The tar of a backup. Raises `Trouble` for a file that is none."""
    if not file.exists():
        raise Trouble(f"There is no {file}.")
    try:
        with tarfile.open(file, "r:gz") as tar:
            yield tar
    except (tarfile.TarError, EOFError, OSError) as error:
        raise Trouble(f"{file} cannot be read as a backup: {error}") from None


def restore(installation: Installation, file: Path, identity: str = "", until: str = "", binlogs: Path | None = None) -> None:
    """Bring a backup back into an installation whose database folder is empty or not there, up to a moment where binary logs are given."""
    with tempfile.TemporaryDirectory(dir=file.parent, prefix="reading-") as scratch:
        plain = file
        if file.suffix == ".age":
            plain = Path(scratch) / "backup.tar.gz"
            run("Decryption", ["age", "-d", "-i", identity, "-o", str(plain), str(file)], hint="Name the key by --identity.")
        manifest = check(plain)
        with opened(plain) as tar:
            _unpack(tar, manifest["parts"], Path(scratch))
        if manifest["kind"] == "folder":
            _into_folder(installation.instance, Path(scratch) / "db", until, binlogs)
        else:
            _load_dump(installation, Path(scratch) / "dump.sql")


def _unpack(tar: tarfile.TarFile, parts: dict[str, str], into: Path) -> None:
    """Every part the manifest names, below the folder and nowhere else."""
    for name in parts:
        target = (into / name).resolve()
        content = tar.extractfile(name)
        if content is None or not target.is_relative_to(into.resolve()):
            raise Trouble(f"{name} is no part that belongs in a backup.")
        target.parent.mkdir(parents=True, exist_ok=True)
        with target.open("wb") as file:
            shutil.copyfileobj(content, file)


def _into_folder(instance: Instance, source: Path, until: str, binlogs: Path | None) -> None:
    if instance.data.exists() and any(instance.data.iterdir()):
        raise Trouble(f"{instance.data} is not empty. Move it elsewhere first; nothing was changed.")
    position = next((words for name in POSITION if (words := _words(source / name))), None)
    instance.data.parent.mkdir(parents=True, exist_ok=True)
    instance.data.mkdir(exist_ok=True)
    for part in source.iterdir():
        shutil.move(part, instance.data / part.name)
    (instance.data / READY).write_text("restored\n")
    instance.ensure_running()
    if until or binlogs:
        if position is None or binlogs is None:
            raise Trouble("To go on to a later moment takes the binary logs: --binlogs FOLDER. The backup itself is back.")
        _replay(instance, binlogs, position, until)


def _words(path: Path) -> list[str] | None:
    return path.read_text().split() if path.exists() else None


def _replay(instance: Instance, binlogs: Path, position: list[str], until: str) -> None:
    """What changed after the backup, from the binary logs."""
    files = [path for path in sorted(binlogs.glob("*.[0-9]*")) if path.name >= Path(position[0]).name]
    stop = [f"--stop-datetime={until}"] if until else []
    reader = ["mariadb-binlog", "--no-defaults", f"--start-position={position[1]}", *stop, *map(str, files)]
    with tempfile.TemporaryFile() as statements:
        done = subprocess.run(reader, stdout=statements, stderr=subprocess.PIPE, check=False)
        if done.returncode:
            raise Trouble(f"The binary logs cannot be read: {done.stderr.decode().strip()}")
        statements.seek(0)
        server = of_instance(instance)
        loaded = subprocess.run(["mariadb", *server.options, "--binary-mode"], stdin=statements, stderr=subprocess.PIPE, check=False)
    if loaded.returncode:
        raise Trouble(f"The binary logs do not fit the backup: {loaded.stderr.decode().strip()}")


def _load_dump(installation: Installation, dump: Path) -> None:
    server = server_of(installation)
    if server.ask(f"SELECT 1 FROM information_schema.TABLES WHERE TABLE_SCHEMA='{server.name}' LIMIT 1"):
        raise Trouble(f"The database {server.name} is not empty. Make an empty one first; nothing was changed.")
    with dump.open("rb") as statements:
        done = subprocess.run(
            ["mariadb", *server.options, server.name], env=server.env, stdin=statements, stderr=subprocess.PIPE, check=False
        )
    if done.returncode:
        raise Trouble(f"The dump does not load: {done.stderr.decode().strip()}")
