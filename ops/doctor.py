"""What is well in an installation, what is not, and the way out."""

import shutil
import socket
import time
from collections.abc import Callable
from urllib.parse import urlsplit

from ops import backup
from ops.console import Trouble, say
from ops.installation import SECRET, Installation

LEAST_FREE_MB = 2_000
BACKUP_DAYS = 2.0
WAITING_S = 600


def doctor(installation: Installation) -> int:
    """Look at everything and say it; 1 where something wants doing."""
    wrong = 0
    for label, look in LOOKS.items():
        try:
            found = look(installation)
        except Trouble as trouble:
            found = f"! {trouble}"
        wrong += found.startswith("!")
        say(f"  {'WRONG' if found.startswith('!') else 'well '}  {label}: {found.removeprefix('! ')}")
    say("All is well." if not wrong else f"{wrong} want{'s' if wrong == 1 else ''} doing.")
    return 1 if wrong else 0


def _settings(installation: Installation) -> str:
    mode = (installation.folder / SECRET).stat().st_mode & 0o077
    return (
        f"! others on this machine can read the secret key: chmod 600 {installation.folder / SECRET}" if mode else installation.settings.url
    )


def _tls(installation: Installation) -> str:
    parts = urlsplit(installation.settings.url)
    if parts.scheme != "https":
        return "! without TLS a phone has no camera, Bluetooth, work without signal or wake lock: docs/operating.md, “A TLS proxy”"
    try:
        with socket.create_connection((parts.hostname or "", parts.port or 443), timeout=5):
            return f"{parts.hostname} answers"
    except OSError as error:
        return f"! {parts.hostname} does not answer ({error}): is the proxy running?"


def _disk(installation: Installation) -> str:
    free = shutil.disk_usage(installation.folder).free // 1_000_000
    return f"{free} MB free" if free > LEAST_FREE_MB else f"! only {free} MB free; the database stops when the disk is full"


def _database(installation: Installation) -> str:
    if not installation.settings.server and installation.instance.running_pid() is None:
        return "! it is not running: ./yoshi-admin serve starts it"
    rows = backup.server_of(installation).rows("jobs_job")
    return f"answers, {rows.get('jobs_job', 0)} jobs" if rows else "! it is empty: ./yoshi-admin init, or restore a backup"


def _tasks(installation: Installation) -> str:
    if not installation.settings.server and installation.instance.running_pid() is None:
        return "! the database is not running"
    late = f"SELECT COUNT(*) FROM tasks_task WHERE state='waiting' AND run_at < UTC_TIMESTAMP() - INTERVAL {WAITING_S} SECOND"
    number = int(backup.server_of(installation).ask(late)[0][0])
    return (
        f"! {number} wait for more than {WAITING_S // 60} min: is `serve` running, and does the mail server answer?"
        if number
        else "none wait long"
    )


def _backups(installation: Installation) -> str:
    made = sorted((installation.folder / "backups").glob("yoshi-*.tar.gz*"), key=lambda path: path.stat().st_mtime)
    if not made:
        return "! there is none here: ./yoshi-admin backup, every night by the timer in docs/operating/"
    days = (time.time() - made[-1].stat().st_mtime) / 86_400.0
    return f"{made[-1].name}" if days < BACKUP_DAYS else f"! the last one is {days:.0f} days old: {made[-1].name}"


def _errors(installation: Installation) -> str:
    log = installation.folder / "log" / "errors.jsonl"
    lines = sum(1 for _ in log.open()) if log.exists() else 0
    return f"! {lines} in {log}: send the file to whoever looks after the code; no names or entries are in it" if lines else "none"


LOOKS: dict[str, Callable[[Installation], str]] = {
    "settings": _settings,
    "TLS": _tls,
    "disk": _disk,
    "database": _database,
    "tasks": _tasks,
    "last backup": _backups,
    "errors": _errors,
}
