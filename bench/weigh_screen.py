"""The weigh-in screen under a scale at 10 Hz: main-thread tasks over 50 ms, and how long a value takes from arriving to the screen.

    python bench/weigh_screen.py [SECONDS]      needs the built front end and the database with its environment

Forty-nine other jobs post at 1 Hz meanwhile. Makes its own database, `test_yoshi_bench`, and drops it.
"""

import json
import os
import statistics
import sys
import threading
import time
import urllib.request
from datetime import UTC, datetime

import live_speed
from django.db import connection
from django.test.utils import setup_databases, teardown_databases
from long_log import LONG_TASKS, PASSWORD, PORT
from playwright.sync_api import sync_playwright
from serving import serving

from accounts.models import Person, Shop
from api.routes_instruments import flood
from instruments.actions.pair import begin_pairing, pair, put_on_job
from jobs.actions.change_job import save_changes
from jobs.actions.create_job import create_job
from jobs.models import Job
from yoshi_core.job.patches import Change

OTHERS, HZ = 49, 10
STAMPS = """() => {
  window.took = [];
  const Plain = window.EventSource;
  window.EventSource = class extends Plain {
    constructor(...all) {
      super(...all);
      this.addEventListener("readings", (event) => {
        const received = JSON.parse(event.data).map((row) => Date.parse(row.received));
        requestAnimationFrame(() => setTimeout(() => { for (const at of received) window.took.push(Date.now() - at); }));
      });
    }
  };
}"""


def weighing(person: Person) -> tuple[str, str]:
    """A job at its weigh-in with a scale on it; its code and the scale's token."""
    gateway, token = pair(begin_pairing(person).code, "scale", [{"key": "s", "channel": "scale", "unit": "lb"}])
    code = create_job(person, "bench-weigh-in", "charge", "weigh", None)["code"]
    put_on_job(person, gateway.pk, Job.objects.get(code=code).pk)
    plate = {"refrigerant": "R-410A", "factory_charge": "9 lb", "kind": "packaged", "metering": "txv"}
    weigh = {"system_state": "empty", "draws/d1/gross_start": "30 lb", "draws/d1/tare": "9 lb"}
    changes = [Change(f"/steps/identify/runs/0/sheet/{key}", None, value) for key, value in plate.items()]
    changes += [Change(f"/steps/weigh_in/runs/0/sheet/{key}", None, value) for key, value in weigh.items()]
    save_changes(person, code, "bench-weigh-save", changes)
    return code, token


def post_scale(token: str, seconds: float) -> None:
    """A scale that falls from 30 lb, ten times a second."""
    begun = time.time()
    for n in range(int(seconds * HZ)):
        row = {"instrument": "s", "value": round(30.0 - 0.01 * n / HZ * 6, 3), "unit": "lb", "at": datetime.now(UTC).isoformat()}
        headers = {"Content-Type": "application/json", "Authorization": f"Bearer {token}"}
        body = json.dumps({"readings": [row]}).encode()
        with urllib.request.urlopen(urllib.request.Request(f"http://127.0.0.1:{PORT}/api/gateway/readings", body, headers), timeout=30):
            pass
        time.sleep(max(0.0, begun + (n + 1) / HZ - time.time()))


def main() -> None:
    seconds = float(sys.argv[1]) if len(sys.argv) > 1 else 30.0
    flood.burst, flood.a_second = 1e9, 1e9
    os.environ["YOSHI_TEST_SUFFIX"] = "_bench"
    old = setup_databases(verbosity=0, interactive=False)
    try:
        person = Person.objects.create(username="bench", shown_name="Bench", shop=Shop.objects.create(name="Bench"))
        person.set_password(PASSWORD)
        person.save()
        code, token = weighing(person)
        tokens = []
        for n in range(OTHERS):
            gateway, other = live_speed.kit(person, f"kit {n}")
            job = create_job(person, f"bench-other-{n}", "charge", f"other {n}", None)["code"]
            put_on_job(person, gateway.pk, Job.objects.get(code=job).pk)
            tokens.append(other)
        server = serving(PORT, str(connection.settings_dict["NAME"]))
        live_speed.PORT = PORT
        posted: list[int] = []
        threads = [threading.Thread(target=live_speed.post_for, args=(t, int(seconds) + 8, posted, n)) for n, t in enumerate(tokens)]
        threads.append(threading.Thread(target=post_scale, args=(token, seconds + 8)))
        try:
            with sync_playwright() as playwright:
                browser = playwright.chromium.launch(executable_path="/usr/bin/chromium-headless-shell", args=["--no-sandbox"])
                page = browser.new_page(viewport={"width": 1280, "height": 800})
                page.add_init_script(f"({STAMPS})()")
                page.goto(f"http://127.0.0.1:{PORT}/job/{code}/weigh_in")
                page.get_by_label("Name").fill("bench")
                page.get_by_label("Password").fill(PASSWORD)
                page.keyboard.press("Enter")
                page.get_by_role("heading", name="Weigh in").wait_for()
                for thread in threads:
                    thread.start()
                page.locator("[data-following]").wait_for()
                page.wait_for_timeout(2000)
                page.evaluate(LONG_TASKS)
                page.evaluate("window.took = []")
                page.wait_for_timeout(seconds * 1000)
                tasks, took = page.evaluate("window.longTasks"), sorted(page.evaluate("window.took"))
                browser.close()
            for thread in threads:
                thread.join()
        finally:
            server.terminate()
            server.wait()
        worst = max(tasks, default=0.0)
        print(
            f"weigh-in screen, scale at {HZ} Hz for {seconds:g} s: {len(tasks)} tasks over 50 ms, the longest {worst:.0f} ms (goal: none)"
        )
        median, most = statistics.median(took), took[int(0.95 * len(took))]
        print(
            f"    {len(took)} values to the screen with {OTHERS} other live jobs: median {median:.0f} ms, 95 of 100 within {most:.0f} ms (goal 250)"
        )
    finally:
        connection.close()
        teardown_databases(old, verbosity=0)


if __name__ == "__main__":
    main()
