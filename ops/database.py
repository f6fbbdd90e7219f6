"""A MariaDB of our own: its data folder, socket and port; started and stopped here, no other touched."""

import fcntl
import hashlib
import json
import os
import secrets
import shutil
import signal
import socket
import subprocess
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path

from ops.console import Trouble, run, say
from ops.paths import STATE

PATIENCE_S = 90
STOPS_S = 60
PORT_S = 10.0
PORTS = range(20_100, 32_000)
NAME, USER = "yoshi", "yoshi"
BINLOG_DAYS = 14
MAKING, READY = ".yoshi-making", ".yoshi-ready"


@dataclass(frozen=True)
class Instance:
    """One database below a folder; with `logs_changes` it keeps binary logs, so that it can be brought back to any moment of the last days."""

    state: Path
    logs_changes: bool = False

    @property
    def data(self) -> Path:
        return self.state / "db"

    @property
    def settings(self) -> Path:
        return self.state / "database.json"

    @property
    def logs(self) -> Path:
        return self.state / "log"

    @property
    def binlogs(self) -> Path:
        return self.state / "binlog"

    @property
    def socket_dir(self) -> Path:
        """Short whatever the folder: a socket's path holds 107 bytes. A checkout's is named by it, as in every version."""
        name = str(self.state).removesuffix(f"/{STATE.name}")
        return Path(tempfile.gettempdir()) / f"yoshi-{hashlib.sha256(name.encode()).hexdigest()[:10]}"

    @property
    def socket(self) -> Path:
        return self.socket_dir / "db.sock"

    @property
    def pid(self) -> Path:
        return self.socket_dir / "db.pid"

    @property
    def error_log(self) -> Path:
        return self.logs / "mariadb.log"

    def environment(self) -> dict[str, str]:
        """Where the server finds it."""
        settings = json.loads(self.settings.read_text())
        return {
            "YOSHI_DB_HOST": "127.0.0.1",
            "YOSHI_DB_PORT": str(settings["port"]),
            "YOSHI_DB_NAME": NAME,
            "YOSHI_DB_USER": USER,
            "YOSHI_DB_PASSWORD": settings["password"],
        }

    def ensure_running(self) -> bool:
        """Make and start the database where needed; whether this call started it."""
        with self.one_at_a_time():
            if self.running_pid() is not None and self.answers():
                return False
            if not self.is_made():
                self.make()
            self.start()
            self.grant()
            return True

    def stop(self) -> None:
        """Stop it, if it runs."""
        pid = self.running_pid()
        if pid is None:
            return
        os.kill(pid, signal.SIGTERM)
        deadline = time.monotonic() + STOPS_S
        while time.monotonic() < deadline and self._is_ours(pid):
            time.sleep(0.1)

    @contextmanager
    def one_at_a_time(self) -> Iterator[None]:
        """Two starts at once must not make the data folder twice."""
        self.state.mkdir(parents=True, exist_ok=True)
        with (self.state / "db.lock").open("w") as lock:
            fcntl.flock(lock, fcntl.LOCK_EX)
            yield

    def is_made(self) -> bool:
        """Whether the data folder is whole; one that is empty or was left half-made is made again.

        Raises `Trouble` for one that holds anything else: nothing of it is touched.
        """
        if (self.data / READY).exists():
            return True
        if not self.data.exists() or (self.data / MAKING).exists() or not any(self.data.iterdir()):
            return False
        raise Trouble(
            f"{self.data} holds something that was not finished by Yoshi, so nothing in it was touched.\n"
            f"If it is a whole database of Yoshi, say so:  touch '{self.data / READY}'\n"
            "If it may go, or you are not sure, move it elsewhere and run the command again: a new one is made."
        )

    def make(self) -> None:
        """Make the data folder: the mark that it is being made is written first, and gives way to the other last."""
        if self.data.exists():
            shutil.rmtree(self.data)
        self.data.mkdir(parents=True)
        (self.data / MAKING).write_text("being made\n")
        scratch = self.state / "db-new"  # the installer wants an empty folder
        shutil.rmtree(scratch, ignore_errors=True)
        run(
            "New database",
            ["mariadb-install-db", "--no-defaults", f"--datadir={scratch}", "--auth-root-authentication-method=normal", "--skip-test-db"],
        )
        for part in scratch.iterdir():
            part.rename(self.data / part.name)
        scratch.rmdir()
        (self.data / READY).write_text("made\n")
        (self.data / MAKING).unlink()

    def _settings(self) -> dict[str, object]:
        if self.settings.exists():
            settings: dict[str, object] = json.loads(self.settings.read_text())
            until = time.monotonic() + PORT_S  # servers that run look for it where it was
            while time.monotonic() < until:
                if port_free(int(str(settings["port"]))):
                    return settings
                time.sleep(0.2)
        else:
            settings = {"password": secrets.token_urlsafe(24)}
        settings["port"] = free_port()
        self.settings.write_text(json.dumps(settings))
        self.settings.chmod(0o600)
        return settings

    def command(self) -> list[str]:
        """The server's command line."""
        user = subprocess.run(["id", "-un"], capture_output=True, text=True, check=True).stdout.strip()
        return [
            shutil.which("mariadbd") or "/usr/sbin/mariadbd",
            "--no-defaults",
            f"--user={user}",
            f"--datadir={self.data}",
            f"--socket={self.socket}",
            f"--pid-file={self.pid}",
            f"--log-error={self.error_log}",
            f"--port={self._settings()['port']}",
            "--bind-address=127.0.0.1",
            "--skip-name-resolve",
            "--character-set-server=utf8mb4",
            "--collation-server=utf8mb4_unicode_ci",
            "--transaction-isolation=READ-COMMITTED",
            "--innodb-buffer-pool-size=128M",
            "--slow-query-log=ON",
            "--long-query-time=0.5",
            f"--slow-query-log-file={self.logs / 'slow-queries.log'}",
            *(self._binary_logs() if self.logs_changes else ()),
        ]

    def _binary_logs(self) -> tuple[str, ...]:
        self.binlogs.mkdir(parents=True, exist_ok=True)
        return (
            f"--log-bin={self.binlogs / 'changes'}",
            "--binlog-format=ROW",
            "--sync-binlog=1",
            f"--binlog-expire-logs-seconds={BINLOG_DAYS * 86_400}",
            "--server-id=1",
        )

    def start(self) -> None:
        """Start it and wait until it answers. Raises `Trouble` with the end of its log when it does not."""
        self.socket_dir.mkdir(exist_ok=True, mode=0o700)
        self.logs.mkdir(parents=True, exist_ok=True)
        nowhere = subprocess.DEVNULL
        subprocess.run(["setsid", "--fork", *self.command()], stdin=nowhere, stdout=nowhere, stderr=nowhere, check=True)
        self._wait_until_up()

    def _wait_until_up(self) -> None:
        started = time.monotonic()
        told = False
        while time.monotonic() - started < PATIENCE_S:
            if self.answers():
                return
            if time.monotonic() - started > 2 and not told:
                say("  Database is starting …")
                told = True
            time.sleep(0.1)
        lines = self.error_log.read_text(errors="replace").splitlines()[-8:] if self.error_log.exists() else []
        tail = "\n".join("    " + line for line in lines)
        full = "The disk is full. Free some space and start again." if "no space" in tail.lower() else ""
        raise Trouble(f"The database did not start within {PATIENCE_S} s. {full}\n{tail}\nIts log is {self.error_log}.")

    def grant(self) -> None:
        """The one account and the one database of its own."""
        password = json.loads(self.settings.read_text())["password"]
        self.sql(f"""
            DELETE FROM mysql.global_priv WHERE User='' OR (User='root' AND Host NOT IN ('localhost'));
            CREATE DATABASE IF NOT EXISTS {NAME} CHARACTER SET utf8mb4;
            CREATE OR REPLACE USER '{USER}'@'127.0.0.1' IDENTIFIED BY '{password}';
            GRANT ALL ON {NAME}.* TO '{USER}'@'127.0.0.1';
            GRANT ALL ON `test\\_yoshi%`.* TO '{USER}'@'127.0.0.1';
            FLUSH PRIVILEGES;
        """)

    def sql(self, statements: str) -> str:
        """Run statements as its root. Raises `Trouble` with what it refused."""
        client = ["mariadb", "--no-defaults", f"--socket={self.socket}", "--user=root", "--batch", "--skip-column-names"]
        done = subprocess.run(client, input=statements, text=True, capture_output=True, check=False)
        if done.returncode != 0:
            raise Trouble(f"The database refused its set-up: {done.stderr.strip()}")
        return done.stdout

    def answers(self) -> bool:
        if not self.socket.exists():
            return False
        ping = ["mariadb-admin", "--no-defaults", f"--socket={self.socket}", "--user=root", "ping"]
        return subprocess.run(ping, capture_output=True, check=False).returncode == 0

    def running_pid(self) -> int | None:
        try:
            pid = int(self.pid.read_text())
        except (OSError, ValueError):
            return None
        return pid if self._is_ours(pid) else None

    def _is_ours(self, pid: int) -> bool:
        """A pid counts only when its command line names our data folder."""
        try:
            return f"--datadir={self.data}".encode() in Path(f"/proc/{pid}/cmdline").read_bytes()
        except OSError:
            return False


OWN = Instance(STATE)  # the checkout's: the demo's and the tests'


def environment() -> dict[str, str]:
    """Where the server finds its database; a shop's own server is named by the same variables."""
    return {} if os.environ.get("YOSHI_DB_HOST") else OWN.environment()


def ensure_running() -> bool:
    """Make and start the checkout's database where needed; whether this call started it."""
    return False if os.environ.get("YOSHI_DB_HOST") else OWN.ensure_running()


def stop() -> None:
    """Stop the checkout's database, if it runs."""
    OWN.stop()


def port_free(port: int) -> bool:
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            return False
    return True


def free_port() -> int:
    """A port nobody has, below those the system gives to whoever connects: one of those could be taken while ours is down."""
    while True:
        port = secrets.choice(PORTS)
        if port_free(port):
            return port
