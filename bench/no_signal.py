"""Work without signal in a browser: how soon the core is there, what it takes, how fast it judges, and whether typing waits for it.

    python bench/no_signal.py [ROUNDS]      needs the built front end and the database with its environment

Prints, against their goals and beside the same on the server in this run: the engine ready on a second visit, Python's memory, what
the tab's process grew by, a whole job from document text to findings text, the longest task of the page while somebody types
without signal, and the shell out of the device's cache on the slow link. Makes its own database and drops it.
"""

import json
import statistics
import sys
import time
from pathlib import Path
from typing import Any

import django

django.setup()

from django.core.management import call_command
from django.db import connection
from django.test.utils import setup_databases, teardown_databases
from playwright.sync_api import Browser, BrowserContext, Page, sync_playwright
from serving import serving
from slow_link import PAINTED, SLOW

from demo.world import PASSWORD
from e2e.same_answer import asked, question, start
from yoshi_core.device.door import answer

ROOT = Path(__file__).resolve().parents[1]
PORT, NOW, ROUNDS = 8529, "2026-06-18T15:11:00+00:00", 40
GOALS = {"ready_s": 8.0, "python_mb": 64.0, "grown_mb": 150.0, "judged_ms": 50.0, "task_ms": 50.0, "shell_s": 1.0}
WATCH = """() => { window.tasks = []; new PerformanceObserver((list) => { for (const e of list.getEntries()) window.tasks.push(e.duration); })
  .observe({ type: 'longtask', buffered: false }); }"""


def renderers_mb() -> float:
    """Resident memory of every process that draws pages here, in MB."""
    total = 0.0
    for place in Path("/proc").glob("[0-9]*"):
        try:
            if b"--type=renderer" in (place / "cmdline").read_bytes():
                total += int((place / "statm").read_text().split()[1]) * 4096 / 1e6
        except (OSError, IndexError):
            continue
    return total


def signed_in(browser: Browser) -> tuple[BrowserContext, Page]:
    context = browser.new_context(viewport={"width": 390, "height": 844}, base_url=f"http://127.0.0.1:{PORT}")
    page = context.new_page()
    page.set_default_timeout(120_000)
    page.goto("/")
    page.get_by_label("name").fill("orrin")
    page.get_by_label("password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("button", name="New job").wait_for()
    page.evaluate("() => navigator.serviceWorker.ready.then(() => true)")
    page.goto("/account")
    page.get_by_role("button", name="Get this device ready").click()
    page.get_by_test_id("ready").wait_for()
    return context, page


def typing(page: Page) -> float:
    """The longest task of the page in ms while a quick total is typed without signal."""
    page.goto("/")
    page.get_by_role("button", name="New job").wait_for()
    page.context.set_offline(True)
    page.get_by_role("button", name="Quick total").click()
    page.get_by_role("heading", name="Quick total").wait_for()
    field = page.locator('[data-field="refrigerant"] input.control')
    field.fill("R-410A")
    field.blur()
    page.wait_for_timeout(3_000)
    page.evaluate(WATCH)
    for key, text in (
        ("factory_charge", "7 lb 11 oz"),
        ("included_length", "15 ft"),
        ("lines.l1.length", "42 ft"),
        ("lines.l1.allowance", "0.6 oz/ft"),
    ):
        page.locator(f'[data-field="{key}"] input.control').first.press_sequentially(text, delay=60)
    page.wait_for_timeout(2_000)
    found: list[float] = page.evaluate("() => window.tasks")
    page.context.set_offline(False)
    return max(found, default=0.0)


def shell(page: Page) -> float:
    """Seconds to the shell's paint out of the device's cache on the slow link."""
    session = page.context.new_cdp_session(page)
    session.send("Network.enable")
    session.send("Network.emulateNetworkConditions", SLOW)
    page.goto("/", wait_until="commit")
    page.wait_for_function(PAINTED)
    found = page.evaluate(PAINTED) / 1000.0
    session.detach()
    return float(found)


def measured(browser: Browser, rounds: int) -> dict[str, float]:
    context, page = signed_in(browser)
    page.goto("/")
    page.get_by_role("button", name="New job").wait_for()
    page.wait_for_timeout(2_000)
    before = renderers_mb()
    began = time.perf_counter()
    said = start(page)
    ready_s = time.perf_counter() - began
    whole = json.loads((ROOT / "examples" / "04-whole-job.json").read_text())
    texts = [question(typed(whole["job"], n), whole["version"], NOW) for n in range(rounds)]
    replies = list(asked(page, texts))
    grown = renderers_mb() - before
    here = []
    for text in texts:
        began = time.perf_counter()
        answer(text)
        here.append((time.perf_counter() - began) * 1e3)
    judged = statistics.median(reply["ms"] for reply in replies[1:])
    found = {
        "ready_s": ready_s,
        "python_mb": said["bytes"] / 1e6,
        "grown_mb": grown,
        "judged_ms": judged,
        "judged_here_ms": statistics.median(here[1:]),
    }
    page.reload()
    found["task_ms"] = typing(page)
    found["shell_s"] = shell(context.new_page())
    context.close()
    return found


def typed(job: dict[str, Any], n: int) -> dict[str, Any]:
    """The whole job with another reading typed."""
    after: dict[str, Any] = json.loads(json.dumps(job))
    readings = after["steps"]["verify"]["runs"][-1]["sheet"]["readings"]
    readings[max(readings)]["suction_pressure"] = f"{115 + n / 10} psig"
    return after


def main() -> int:
    """Run it and say what came out."""
    rounds = int(sys.argv[1]) if len(sys.argv) > 1 else ROUNDS
    old = setup_databases(verbosity=0, interactive=False)
    try:
        call_command("load_demo", verbosity=0)
        server = serving(PORT, connection.settings_dict["NAME"])
        try:
            with sync_playwright() as playwright:
                browser = playwright.chromium.launch(executable_path="/usr/bin/chromium-headless-shell", args=["--no-sandbox"])
                found = measured(browser, rounds)
                browser.close()
        finally:
            server.kill()
    finally:
        teardown_databases(old, verbosity=0)
    for name, value in found.items():
        goal = GOALS.get(name)
        print(f"{name:16}{value:10.2f}" + (f"   goal under {goal:g}{'' if value < goal else '   MISSED'}" if goal else ""))
    print(f"judged there against here: {found['judged_ms'] / found['judged_here_ms']:.1f}×")
    return 1 if any(found[name] >= goal for name, goal in GOALS.items()) else 0


if __name__ == "__main__":
    raise SystemExit(main())
