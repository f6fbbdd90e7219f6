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
from pathlib import Path

from ops.console import Trouble, run, say
from ops.paths import LOGS, ROOT, STATE

DATA = STATE / "db"
MARKER = DATA / ".yoshi-ready"
SETTINGS = STATE / "database.json"
PATIENCE_S = 90
SOCKET_DIR = Path(tempfile.gettempdir()) / f"yoshi-{hashlib.sha256(str(ROOT).encode()).hexdigest()[:10]}"
SOCKET = SOCKET_DIR / "db.sock"
PID = SOCKET_DIR / "db.pid"
ERROR_LOG = LOGS / "mariadb.log"


def environment() -> dict[str, str]:
    """Where the server finds its database; a shop's own server is named by the same variables."""
    if os.environ.get("YOSHI_DB_HOST"):
        return {}
    settings = json.loads(SETTINGS.read_text())
    return {
        "YOSHI_DB_HOST": "127.0.0.1",
        "YOSHI_DB_PORT": str(settings["port"]),
        "YOSHI_DB_NAME": "yoshi",
        "YOSHI_DB_USER": "yoshi",
        "YOSHI_DB_PASSWORD": settings["password"],
    }


@contextmanager
def one_at_a_time() -> Iterator[None]:
    """Two starts at once must not make the data folder twice."""
    STATE.mkdir(exist_ok=True)
    with (STATE / "db.lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        yield


def ensure_running() -> bool:
    """Make and start the database where needed; whether this call started it."""
    if os.environ.get("YOSHI_DB_HOST"):
        return False
    with one_at_a_time():
        if _running_pid() is not None and _answers():
            return False
        if not MARKER.exists():
            _make()
        _start()
        _grant()
        return True


def stop() -> None:
    """Stop our database, if it runs."""
    pid = _running_pid()
    if pid is None:
        return
    os.kill(pid, signal.SIGTERM)
    deadline = time.monotonic() + 30
    while time.monotonic() < deadline and _is_ours(pid):
        time.sleep(0.1)


def _make() -> None:
    shutil.rmtree(DATA, ignore_errors=True)
    DATA.mkdir(parents=True)
    run(
        "New database",
        ["mariadb-install-db", "--no-defaults", f"--datadir={DATA}", "--auth-root-authentication-method=normal", "--skip-test-db"],
    )
    MARKER.write_text("made\n")


def _settings() -> dict[str, object]:
    if SETTINGS.exists():
        settings: dict[str, object] = json.loads(SETTINGS.read_text())
        if port_free(int(str(settings["port"]))):
            return settings
    else:
        settings = {"password": secrets.token_urlsafe(24)}
    settings["port"] = _free_port()
    SETTINGS.write_text(json.dumps(settings))
    SETTINGS.chmod(0o600)
    return settings


def _start() -> None:
    settings = _settings()
    SOCKET_DIR.mkdir(exist_ok=True, mode=0o700)
    LOGS.mkdir(parents=True, exist_ok=True)
    daemon = shutil.which("mariadbd") or "/usr/sbin/mariadbd"
    user = subprocess.run(["id", "-un"], capture_output=True, text=True, check=True).stdout.strip()
    command = [
        daemon,
        "--no-defaults",
        f"--user={user}",
        f"--datadir={DATA}",
        f"--socket={SOCKET}",
        f"--pid-file={PID}",
        f"--log-error={ERROR_LOG}",
        f"--port={settings['port']}",
        "--bind-address=127.0.0.1",
        "--skip-name-resolve",
        "--character-set-server=utf8mb4",
        "--collation-server=utf8mb4_unicode_ci",
        "--transaction-isolation=READ-COMMITTED",
        "--innodb-buffer-pool-size=128M",
    ]
    subprocess.Popen(command, stdin=subprocess.DEVNULL, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, start_new_session=True)
    _wait_until_up()


def _wait_until_up() -> None:
    started = time.monotonic()
    told = False
    while time.monotonic() - started < PATIENCE_S:
        if _answers():
            return
        if time.monotonic() - started > 2 and not told:
            say("  Database is starting …")
            told = True
        time.sleep(0.1)
    tail = "\n".join("    " + line for line in ERROR_LOG.read_text(errors="replace").splitlines()[-8:]) if ERROR_LOG.exists() else ""
    full = "The disk is full. Free some space and start again." if "no space" in tail.lower() else ""
    raise Trouble(f"The database did not start within {PATIENCE_S} s. {full}\n{tail}\nIts log is {ERROR_LOG}.")


def _grant() -> None:
    password = json.loads(SETTINGS.read_text())["password"]
    statements = f"""
        DELETE FROM mysql.global_priv WHERE User='' OR (User='root' AND Host NOT IN ('localhost'));
        CREATE DATABASE IF NOT EXISTS yoshi CHARACTER SET utf8mb4;
        CREATE OR REPLACE USER 'yoshi'@'127.0.0.1' IDENTIFIED BY '{password}';
        GRANT ALL ON yoshi.* TO 'yoshi'@'127.0.0.1';
        GRANT ALL ON `test\\_yoshi%`.* TO 'yoshi'@'127.0.0.1';
        FLUSH PRIVILEGES;
    """
    client = ["mariadb", "--no-defaults", f"--socket={SOCKET}", "--user=root"]
    done = subprocess.run(client, input=statements, text=True, capture_output=True, check=False)
    if done.returncode != 0:
        raise Trouble(f"The database refused its set-up: {done.stderr.strip()}")


def _answers() -> bool:
    if not SOCKET.exists():
        return False
    ping = ["mariadb-admin", "--no-defaults", f"--socket={SOCKET}", "--user=root", "ping"]
    return subprocess.run(ping, capture_output=True, check=False).returncode == 0


def _running_pid() -> int | None:
    try:
        pid = int(PID.read_text())
    except (OSError, ValueError):
        return None
    return pid if _is_ours(pid) else None


def _is_ours(pid: int) -> bool:
    """A pid counts only when its command line names our data folder."""
    try:
        return f"--datadir={DATA}".encode() in Path(f"/proc/{pid}/cmdline").read_bytes()
    except OSError:
        return False


def port_free(port: int) -> bool:
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            return False
    return True


def _free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])
