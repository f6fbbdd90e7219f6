"""A log while server and database are killed: no acknowledged reading lost, none doubled.

    python bench/crash_log.py [SECONDS]      with this checkout's own database; leaves its demo world with one kit more

Posts 20 readings a second through a real server, kills the server twice and the database once with SIGKILL, starts
them again, lets the poster repeat what was not acknowledged, and compares what is kept with what was posted.
"""

import json
import os
import signal
import subprocess
import sys
import time
import urllib.error
import urllib.request
from datetime import UTC, datetime, timedelta
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT / "core"), str(ROOT / "server"), str(ROOT)]

from ops import database

PORT = 8498


def start_database() -> None:
    """Start it and learn its port; while its address is named, it would be a shop's own server and not ours to start."""
    os.environ.pop("YOSHI_DB_HOST", None)
    database.ensure_running()
    os.environ.update(database.environment())


start_database()
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "yoshi_server.settings")
os.environ["YOSHI_PORT"] = str(PORT)

import django

django.setup()

from django.db import connection
from serving import serving

from accounts.models import Person
from instruments.actions.pair import begin_pairing, pair, revoke
from instruments.models import Reading


def post(token: str, rows: list[dict[str, object]]) -> bool:
    headers = {"Content-Type": "application/json", "Authorization": f"Bearer {token}"}
    request = urllib.request.Request(f"http://127.0.0.1:{PORT}/api/gateway/readings", json.dumps({"readings": rows}).encode(), headers)
    try:
        with urllib.request.urlopen(request, timeout=10) as answer:
            taken = json.loads(answer.read())
            return bool(taken["accepted"] + taken["repeated"] == len(rows))
    except OSError:
        return False


def kill_database() -> None:
    pid = int(
        subprocess.run(["pgrep", "-f", f"mariadbd.*{database.OWN.data}"], capture_output=True, text=True, check=True).stdout.split()[0]
    )
    os.kill(pid, signal.SIGKILL)
    while Path(f"/proc/{pid}/cmdline").exists() and Path(f"/proc/{pid}/cmdline").read_bytes():
        time.sleep(0.05)


def main() -> None:
    seconds = int(sys.argv[1]) if len(sys.argv) > 1 else 30
    person = Person.objects.get(username="orrin")
    gateway, token = pair(begin_pairing(person).code, "crash", [{"key": "m1", "channel": "vacuum"}])
    server = serving(PORT)
    begun = datetime.now(UTC) - timedelta(hours=1)
    acknowledged: list[datetime] = []
    waiting: list[dict[str, object]] = []
    kills = {seconds // 4: "server", seconds // 2: "database", 3 * seconds // 4: "server"}
    failures = 0
    for second in range(seconds):
        rows = [
            {
                "instrument": "m1",
                "value": 500.0 + n,
                "unit": "micron",
                "at": (begun + timedelta(seconds=second, milliseconds=50 * n)).isoformat(),
            }
            for n in range(20)
        ]
        waiting += rows
        if second in kills:
            child = os.fork()
            if child == 0:
                post(token, waiting)
                os._exit(0)
            time.sleep(0.004)
            if kills[second] == "server":
                server.kill()
                server.wait()
                os.waitpid(child, 0)
                server = serving(PORT)
            else:
                kill_database()
                os.waitpid(child, 0)
                start_database()
                server.kill()
                server.wait()
                server = serving(PORT)
        for _ in range(60):
            if post(token, waiting):
                acknowledged += [datetime.fromisoformat(str(row["at"])) for row in waiting]
                waiting = []
                break
            failures += 1
            time.sleep(0.5)
    server.terminate()
    server.wait()
    connection.close()
    connection.settings_dict["PORT"] = os.environ["YOSHI_DB_PORT"]
    kept = list(Reading.objects.filter(instrument__gateway=gateway).values_list("at", flat=True))
    lost, doubled = set(acknowledged) - set(kept), len(kept) - len(set(kept))
    print(
        f"posted {seconds * 20}, acknowledged {len(acknowledged)}, kept {len(kept)}; lost {len(lost)}, doubled {doubled}; {failures} posts failed and were repeated"
    )
    revoke(person, gateway.pk)
    sys.exit(1 if lost or doubled or len(kept) != seconds * 20 else 0)


if __name__ == "__main__":
    main()
