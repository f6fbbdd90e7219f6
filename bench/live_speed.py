"""Live instruments: judging a long decay, taking readings in against a raw bulk insert, 50 jobs at 1 Hz for some minutes.

    python bench/live_speed.py [MINUTES]      needs the database (`python -m ops db start`) and its environment

Makes its own database, `test_yoshi_bench`, and drops it.
"""

import asyncio
import json
import os
import random
import statistics
import sys
import threading
import time
import urllib.request
from datetime import UTC, datetime, timedelta
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT / "core"), str(ROOT / "server"), str(ROOT)]
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "yoshi_server.settings")

import django

django.setup()

from django.db import connection
from django.test.utils import setup_databases, teardown_databases
from django.utils import timezone
from serving import serving

from accounts.models import Person, Shop
from accounts.sessions import SessionStore
from api.routes_instruments import flood
from instruments.actions.ingest import INSERT, ingest
from instruments.actions.pair import begin_pairing, pair, put_on_job
from instruments.models import Gateway, Reading
from jobs.actions.create_job import create_job
from jobs.models import Job
from yoshi_core.tight_and_dry import evacuation
from yoshi_core.tight_and_dry.decay import Noise
from yoshi_core.tight_and_dry.evacuation import Limits
from yoshi_core.units.quantities import MICRON_PA

JOBS, PORT = 50, 8499
SHOWN = ("suction_pressure", "liquid_pressure", "suction_line", "liquid_line", "vacuum", "metal", "scale")
UNITS = dict(zip(SHOWN, ("psig", "psig", "°F", "°F", "micron", "°F", "lb"), strict=True))


def decay_2000() -> None:
    dice = random.Random(1)
    rows = [(float(n), (300 + n / 20 + dice.gauss(0, 4)) * MICRON_PA) for n in range(2000)]
    limits = Limits(500 * MICRON_PA, 500 * MICRON_PA, 2e-4, 600.0, Noise(5 * MICRON_PA, 0.02))
    times = []
    for _ in range(30):
        started = time.perf_counter()
        evacuation.judge(rows, 0.01, limits)
        times.append(time.perf_counter() - started)
    print(f"judging a decay of 2,000 points: median {statistics.median(times) * 1e3:.1f} ms (goal 20)")


def kit(person: Person, name: str) -> tuple[Gateway, str]:
    return pair(begin_pairing(person).code, name, [{"key": c, "channel": c, "unit": UNITS[c]} for c in SHOWN])


def rows_at(moment: datetime, dice: random.Random) -> list[dict[str, object]]:
    at = moment.isoformat()
    return [{"instrument": c, "value": 60.0 + dice.random(), "unit": UNITS[c], "at": at} for c in SHOWN]


def ingest_against_raw(person: Person) -> None:
    """Batches of 1,000 readings through the whole of taking in, and the same rows by one bare `executemany`."""
    gateway, _ = kit(person, "ingest")
    job = create_job(person, "bench-ingest-1", "charge", "ingest", None)["code"]
    put_on_job(person, gateway.pk, Job.objects.get(code=job).pk)
    gateway.refresh_from_db()
    [first, *_] = gateway.instruments.all()
    begun, dice = timezone.now() - timedelta(hours=20), random.Random(2)
    ours, raw = [], []
    for batch in range(30):
        base = begun + timedelta(seconds=batch * 400)
        rows = [row for n in range(143) for row in rows_at(base + timedelta(seconds=n), dice)][:1000]
        started = time.perf_counter()
        ingest(gateway, rows, None)
        ours.append(time.perf_counter() - started)
        bare = [(first.pk, None, 0, 1.0, base + timedelta(hours=40, microseconds=n * 37), base) for n in range(1000)]
        bare = [(a, b, c, d, at.replace(tzinfo=None), got.replace(tzinfo=None)) for a, b, c, d, at, got in bare]
        with connection.cursor() as cursor:
            started = time.perf_counter()
            cursor.executemany(INSERT, bare)
            raw.append(time.perf_counter() - started)
    one, two = statistics.median(ours), statistics.median(raw)
    print(f"ingest of 1,000 readings: {one * 1e3:.1f} ms, raw bulk insert {two * 1e3:.1f} ms: {one / two:.2f}x (goal 2)")


async def watch(code: str, cookie: str, latencies: list[float], seen: dict[str, int], until: float) -> None:
    """One browser's stream: how long after a reading was received it was here."""
    reader, writer = await asyncio.open_connection("127.0.0.1", PORT)
    writer.write(f"GET /api/jobs/{code}/live HTTP/1.1\r\nHost: 127.0.0.1:{PORT}\r\nCookie: sessionid={cookie}\r\n\r\n".encode())
    while time.time() < until:
        try:
            line = await asyncio.wait_for(reader.readline(), 2.0)
        except TimeoutError:
            continue
        if line.startswith(b"data: ["):
            now = time.time()
            for reading in json.loads(line[6:]):
                latencies.append(now - datetime.fromisoformat(reading["received"]).timestamp())
                seen[code] = seen.get(code, 0) + 1
    writer.close()


def post_for(token: str, seconds: int, accepted: list[int], seed: int) -> None:
    """One gateway: seven readings a second."""
    dice = random.Random(seed)
    time.sleep(dice.random())
    begun = time.time()
    for n in range(seconds):
        body = json.dumps({"readings": rows_at(datetime.now(UTC), dice)}).encode()
        headers = {"Content-Type": "application/json", "Authorization": f"Bearer {token}"}
        request = urllib.request.Request(f"http://127.0.0.1:{PORT}/api/gateway/readings", body, headers)
        with urllib.request.urlopen(request, timeout=30) as answer:
            accepted.append(json.loads(answer.read())["accepted"])
        time.sleep(max(0.0, begun + n + 1 - time.time()))


def kits_on_jobs(person: Person, count: int) -> tuple[list[str], list[str]]:
    """So many kits, each on a job of its own: their tokens and the jobs' codes."""
    tokens, codes = [], []
    for n in range(count):
        gateway, token = kit(person, f"kit {n}")
        code = create_job(person, f"bench-live-{n}", "charge", f"live {n}", None)["code"]
        put_on_job(person, gateway.pk, Job.objects.get(code=code).pk)
        tokens.append(token)
        codes.append(code)
    return tokens, codes


def session_of(person: Person) -> str:
    """The key of a session somebody is signed in with."""
    session = SessionStore()
    session.update({"_auth_user_id": str(person.pk), "_auth_user_backend": "django.contrib.auth.backends.ModelBackend"})
    session.create()
    return str(session.session_key)


def fifty_jobs(person: Person, minutes: float) -> None:
    tokens, codes = kits_on_jobs(person, JOBS)
    key = session_of(person)
    server = serving(PORT, str(connection.settings_dict["NAME"]))
    seconds = int(minutes * 60)
    accepted: list[int] = []
    before = Reading.objects.count()
    latencies: list[float] = []
    seen: dict[str, int] = {}
    threads = [threading.Thread(target=post_for, args=(token, seconds, accepted, n)) for n, token in enumerate(tokens)]

    async def all_watch() -> None:
        until = time.time() + seconds + 6
        await asyncio.gather(*(watch(code, key, latencies, seen, until) for code in codes))

    for thread in threads:
        thread.start()
    asyncio.run(all_watch())
    for thread in threads:
        thread.join()
    kept = Reading.objects.count() - before
    latencies.sort()
    share = latencies[int(0.95 * len(latencies))] if latencies else float("nan")
    print(f"{JOBS} jobs at 1 Hz for {minutes:g} min: posted {JOBS * seconds * len(SHOWN):,}, accepted {sum(accepted):,}, kept {kept:,}")
    print(
        f"    seen by browsers {sum(seen.values()):,}; median {statistics.median(latencies) * 1e3:.0f} ms, 95 of 100 within {share * 1e3:.0f} ms (goal 250)"
    )
    server.terminate()
    server.wait()


def main() -> None:
    minutes = float(sys.argv[1]) if len(sys.argv) > 1 else 10.0
    flood.burst, flood.a_second = 1e9, 1e9
    decay_2000()
    os.environ["YOSHI_TEST_SUFFIX"] = "_bench"
    old = setup_databases(verbosity=0, interactive=False)
    try:
        shop = Shop.objects.create(name="Bench")
        person = Person.objects.create(username="bench", shown_name="Bench", shop=shop)
        ingest_against_raw(person)
        fifty_jobs(person, minutes)
    finally:
        connection.close()
        teardown_databases(old, verbosity=0)


if __name__ == "__main__":
    main()
