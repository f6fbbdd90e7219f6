"""What practice costs: the live unit at 60×, and twenty people at 10× beside one who works, on this machine.

    PYTHONPATH=bench:core:server:. python bench/practice_load.py

The database runs (`./start` once, or `python -m ops db start`). Two web servers and the process that lets practice time run are started here, as
a shop's `serve` does; twenty people of a shop made for this watch their readings as a browser does and ask for their bench twice a second. A
reading's time is from when it was written to when it came over the stream. One more person previews a real job, alone and then beside them.
"""

import http.client
import json
import multiprocessing
import os
import statistics
import sys
import threading
import time
import uuid
from collections.abc import Callable
from pathlib import Path
from typing import Any
from unittest import mock

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT / "core"), str(ROOT / "server"), str(ROOT / "bench"), str(ROOT)]
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "yoshi_server.settings")

import django

from ops import database

database.ensure_running()
os.environ.update(database.environment())
django.setup()

from django.conf import settings
from django.contrib.auth import BACKEND_SESSION_KEY, HASH_SESSION_KEY, SESSION_KEY
from serving import serving

from accounts.models import Person, Shop
from accounts.sessions import SessionStore
from instruments.actions import ingest as taking_in
from jobs.actions.create_job import create_job
from practice import running
from practice.actions.act import set_clock
from practice.actions.begin import begin
from practice.models import Run
from yoshi_core.document import schema
from yoshi_core.practice import exercise as exercises
from yoshi_core.practice.bench import Bench
from yoshi_core.practice.inside import inside
from yoshi_core.practice.seen import seen

PORT, PEOPLE, SPEED, LASTS_S = 8466, 20, 10, 25.0
EXERCISE = "orifice-by-superheat"
SPAWN = multiprocessing.get_context("spawn")
Written = list[tuple[str, str, float]]


def alone() -> None:
    """The share of one core a bench takes at 60×: the rig alone, and with what is shown and looked at twice a second."""
    bench = Bench(exercises.loads(exercises.shipped(EXERCISE)))
    bench.do("hook", "", "14")
    bench.do("turn", "", "upside_down")
    for valve in ("suction_port", "liquid_port", "cylinder"):
        bench.do("valve", valve, "open")
    rounds = 40
    for text, shows in (("the unit alone", False), ("with what is shown and a look inside twice a second", True)):
        bench.do("valve", "low_side", "cracked" if not shows else "shut")
        began = time.process_time()
        for _ in range(rounds):
            bench.run(30.0)
            if shows:
                json.dumps([schema.dump_full(seen(bench)), schema.dump_full(inside(bench))])
        share = (time.process_time() - began) / (rounds * 0.5)
        print(f"live unit at 60×, {text}: {share:.2%} of one core (goal under 10 %)")


def let_time_run(told: Any, seconds: float) -> None:
    """The process that lets practice time run; it tells when which reading was written, and its own share of a core."""
    written: Written = []
    taken_in = taking_in.ingest

    def noted(gateway: Any, rows: Any, sent_at: Any) -> Any:
        answer = taken_in(gateway, rows, sent_at)
        written.append((gateway.job.code, max(row["at"] for row in rows).isoformat(), time.time()))
        return answer

    runner = running.Runner("load")
    with mock.patch.object(running, "ingest", noted):
        began, cpu = time.time(), time.process_time()
        while time.time() - began < seconds:
            runner.round()
            time.sleep(0.25)
    told.put((written, (time.process_time() - cpu) / (time.time() - began)))


def shop_of_many() -> Any:
    """A shop made for this, with twenty who practise and one who works, each with a session; and a job of the one who works."""
    shop = Shop.objects.create(name="Bench of practice")
    found: list[tuple[str, str, str]] = []
    for n in range(PEOPLE + 1):
        person = Person(username=f"load-{uuid.uuid4().hex[:8]}", shown_name=f"Load {n}", shop=shop)
        person.set_unusable_password()
        person.save()
        store = SessionStore()
        store[SESSION_KEY], store[BACKEND_SESSION_KEY] = str(person.pk), "django.contrib.auth.backends.ModelBackend"
        store[HASH_SESSION_KEY] = person.get_session_auth_hash()
        store.save()
        if n == PEOPLE:
            return found, (str(store.session_key), create_job(person, uuid.uuid4().hex, "charge", "at work", None)["code"])
        run = begin(person, uuid.uuid4().hex, exercises.shipped(EXERCISE), {"shipped": EXERCISE}, n, test=False)
        run.acts.create(key="port-one-1", do="valve", what="suction_port", to="open")
        run.acts.create(key="port-two-2", do="valve", what="liquid_port", to="open")
        set_clock(person, run.code, SPEED)
        assert run.job is not None
        found.append((str(store.session_key), run.code, run.job.code))
    return None


def ask(session: str, method: str, path: str, body: Any = None) -> bytes:

    token = "a" * 32
    link = http.client.HTTPConnection("127.0.0.1", PORT, timeout=30)
    head = {
        "Cookie": f"{settings.SESSION_COOKIE_NAME}={session}; csrftoken={token}",
        "X-CSRFToken": token,
        "Content-Type": "application/json",
    }
    link.request(method, path, None if body is None else json.dumps(body), {**head, "Referer": f"http://127.0.0.1:{PORT}"})
    answer = link.getresponse()
    text = answer.read()
    assert answer.status < 300, (answer.status, text[:200])
    link.close()
    return text


def watch(session: str, job: str, until: float, came: dict[tuple[str, str], float]) -> None:
    """The stream of a job as a browser reads it: when the newest reading of each batch came."""
    link = http.client.HTTPConnection("127.0.0.1", PORT, timeout=30)
    link.request("GET", f"/api/jobs/{job}/live", headers={"Cookie": f"{settings.SESSION_COOKIE_NAME}={session}"})
    answer, event = link.getresponse(), b""
    while time.time() < until:
        line = answer.readline().strip()
        event = line if line.startswith(b"event") else event
        if line.startswith(b"data:") and event == b"event: readings":
            newest = max(row["at"] for row in json.loads(line[5:]))
            came.setdefault((job, newest), time.time())
    link.close()


def poll(session: str, run: str, until: float, took: list[float]) -> None:
    while time.time() < until:
        began = time.time()
        ask(session, "GET", f"/api/practice/runs/{run}")
        took.append(time.time() - began)
        time.sleep(max(0.5 - (time.time() - began), 0.0))


def previews(session: str, job: str, seconds: float) -> list[float]:
    changes = [
        {"path": f"/steps/identify/runs/0/sheet/{name}", "value": value}
        for name, value in (("refrigerant", "R-410A"), ("factory_charge", "9 lb 4 oz"))
    ]
    times, until = [], time.time() + seconds
    while time.time() < until:
        began = time.time()
        ask(session, "POST", f"/api/jobs/{job}/preview", {"changes": changes})
        times.append(time.time() - began)
        time.sleep(0.2)
    return times


def main() -> int:

    alone()
    server = serving(PORT, workers=2)
    try:
        people, (worker, job) = shop_of_many()
        quiet = previews(worker, job, 8.0)
        told: Any = SPAWN.Queue()
        beside = SPAWN.Process(target=let_time_run, args=(told, LASTS_S + 2.0))
        beside.start()
        until = time.time() + LASTS_S
        came: dict[tuple[str, str], float] = {}
        took: list[float] = []
        tasks: list[tuple[Callable[..., None], tuple[Any, ...]]] = []
        for session, run, its_job in people:
            tasks += [(watch, (session, its_job, until, came)), (poll, (session, run, until, took))]
        threads = [threading.Thread(target=work, args=args, daemon=True) for work, args in tasks]
        for thread in threads:
            thread.start()
        time.sleep(3.0)
        next_to = previews(worker, job, LASTS_S - 6.0)
        written, share = told.get(timeout=60)
        late = sorted(came[key] - at for code, moment, at in written if (key := (code, moment)) in came)
        Run.objects.filter(code__in=[run for _, run, _ in people]).update(state="ended")
    finally:
        server.terminate()
    print(
        f"{PEOPLE} practising at {SPEED}×: the process that lets time run takes {share:.0%} of one core, {len(late)} of {len(written)} posts seen"
    )
    print(
        f"from written to the browser: median {1000 * statistics.median(late):.0f} ms, 95 of 100 within {1000 * late[int(0.95 * len(late))]:.0f} ms (goal 250)"
    )
    print(
        f"their bench asked for: median {1000 * statistics.median(took):.0f} ms, 95 of 100 within {1000 * sorted(took)[int(0.95 * len(took))]:.0f} ms"
    )
    a, b = statistics.median(quiet), statistics.median(next_to)
    print(f"a real job's preview: {1000 * a:.0f} ms alone, {1000 * b:.0f} ms beside them, {b / a:.2f}× (goal under 2×)")
    return 0 if b < 2.0 * a and late[int(0.95 * len(late))] < 0.25 else 1


if __name__ == "__main__":
    sys.exit(main())
