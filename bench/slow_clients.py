"""Slow clients and open streams: health and readings beside 300 requests that fall silent and 300 streams, against the same server alone.

    python bench/slow_clients.py [SECONDS]      needs the database (`python -m ops db start`) and its environment

Makes its own database, `test_yoshi_slow`, and drops it.
"""

import asyncio
import contextlib
import json
import os
import sys
import threading
import time
import urllib.request
from datetime import datetime
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT / "core"), str(ROOT / "server"), str(ROOT), str(ROOT / "bench")]
os.environ["YOSHI_TEST_SUFFIX"] = "_slow"

import live_speed
from django.db import connection
from django.test.utils import setup_databases, teardown_databases
from serving import serving

from accounts.models import Person, Shop

SILENT, STREAMS, JOBS = 300, 300, 10
PORT = live_speed.PORT
HEAD = f"POST /api/jobs HTTP/1.1\r\nHost: 127.0.0.1:{PORT}\r\nCookie: sessionid=x\r\nContent-Type: application/json\r\nContent-Length: 4000\r\n\r\n"


async def silent(until: float) -> None:
    """A client that says half of it and no more, again whenever it is cut off."""
    while time.time() < until:
        with contextlib.suppress(OSError, TimeoutError):
            reader, writer = await asyncio.open_connection("127.0.0.1", PORT)
            writer.write(HEAD.encode() + b'{"ki')
            await asyncio.wait_for(reader.read(), max(until - time.time(), 0.1))
            writer.close()


async def watch(code: str, cookie: str, seen: list[float], until: float) -> None:
    reader, writer = await asyncio.open_connection("127.0.0.1", PORT)
    writer.write(f"GET /api/jobs/{code}/live HTTP/1.1\r\nHost: 127.0.0.1:{PORT}\r\nCookie: sessionid={cookie}\r\n\r\n".encode())
    while time.time() < until:
        with contextlib.suppress(TimeoutError):
            line = await asyncio.wait_for(reader.readline(), 2.0)
            if line.startswith(b"data: ["):
                now = time.time()
                seen += [now - datetime.fromisoformat(row["received"]).timestamp() for row in json.loads(line[6:])]
    writer.close()


def health_ms(seconds: float) -> list[float]:
    """Answers of the health page, one after the other."""
    found, until = [], time.time() + seconds
    while time.time() < until:
        started = time.perf_counter()
        with urllib.request.urlopen(f"http://127.0.0.1:{PORT}/api/health", timeout=30) as answer:
            answer.read()
        found.append((time.perf_counter() - started) * 1e3)
        time.sleep(0.1)
    return sorted(found)


def told(name: str, times: list[float]) -> str:
    return f"{name}: {len(times)} asked, median {times[len(times) // 2]:.1f} ms, 99 of 100 within {times[int(0.99 * len(times))]:.1f} ms"


def run(person: Person, seconds: int) -> None:
    tokens, codes = live_speed.kits_on_jobs(person, JOBS)
    key = live_speed.session_of(person)
    server = serving(PORT, str(connection.settings_dict["NAME"]))
    alone = health_ms(10.0)
    accepted: list[int] = []
    seen: list[float] = []
    beside: list[float] = []
    until = time.time() + seconds + 4
    posting = [threading.Thread(target=live_speed.post_for, args=(token, seconds, accepted, n)) for n, token in enumerate(tokens)]
    asking = threading.Thread(target=lambda: beside.extend(health_ms(seconds)))

    async def all_of_them() -> None:
        await asyncio.gather(*(silent(until) for _ in range(SILENT)), *(watch(codes[n % JOBS], key, seen, until) for n in range(STREAMS)))

    for thread in (*posting, asking):
        thread.start()
    asyncio.run(all_of_them())
    for thread in (*posting, asking):
        thread.join()
    server.terminate()
    server.wait()
    wanted = sum(accepted) * STREAMS // JOBS
    seen.sort()
    print(told("health alone", alone))
    print(told(f"health beside {SILENT} silent clients and {STREAMS} streams", beside) + " (goal 100)")
    print(f"    {beside[len(beside) // 2] / alone[len(alone) // 2]:.1f} times as long as alone")
    print(f"readings at the streams: {len(seen):,} of {wanted:,}, {len(seen) / max(wanted, 1):.1%}")
    if seen:
        print(
            f"    median {seen[len(seen) // 2] * 1e3:.0f} ms, 95 of 100 within {seen[int(0.95 * len(seen))] * 1e3:.0f} ms after they were received"
        )


def main() -> None:
    seconds = int(sys.argv[1]) if len(sys.argv) > 1 else 60
    old = setup_databases(verbosity=0, interactive=False)
    try:
        run(Person.objects.create(username="slow", shown_name="Slow", shop=Shop.objects.create(name="Slow")), seconds)
    finally:
        connection.close()
        teardown_databases(old, verbosity=0)


if __name__ == "__main__":
    main()
