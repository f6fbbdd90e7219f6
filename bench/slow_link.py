"""The first visit and a press on a slow link: 400 kbit/s and 400 ms a round trip, set in the browser.

    python bench/slow_link.py [ROUNDS]      needs the built front end and the database with its environment

Prints, beside the same on a fast link in the same run: until the page's shell is painted, until a person can sign in, until
a signed-in person can go on, and until a press shows any answer. Makes its own database, `test_yoshi_bench`, and drops it.
"""

import os
import statistics
import sys
import time
from typing import Any

import django

django.setup()

from django.core.management import call_command
from django.db import connection
from django.test.utils import setup_databases, teardown_databases
from playwright.sync_api import Browser, Page, sync_playwright
from serving import serving

from demo.world import PASSWORD
from jobs.models import Job

PORT = 8523
SLOW = {"offline": False, "latency": 400, "downloadThroughput": 400_000 / 8, "uploadThroughput": 400_000 / 8}
GOALS_S = {"shell": 2.0, "sign in": 8.0, "signed in, go on": 8.0}
GOAL_PRESS_MS = 100.0
PAINTED = "() => performance.getEntriesByName('first-contentful-paint')[0]?.startTime ?? null"
# From the press to the first frame in which anything of the page is otherwise than before.
ANSWERED = """(name) => new Promise((done) => {
  const button = [...document.querySelectorAll('button, a')].find((el) => el.textContent.trim().startsWith(name) && el.getBoundingClientRect().width);
  const began = performance.now();
  const seen = new MutationObserver(() => { seen.disconnect(); requestAnimationFrame(() => done(performance.now() - began)); });
  seen.observe(document.body, { subtree: true, childList: true, attributes: true, characterData: true });
  button.click();
  setTimeout(() => done(null), 20000);
})"""


def page_of(browser: Browser, slow: bool, state: Any = None) -> Page:
    context = browser.new_context(viewport={"width": 390, "height": 844}, storage_state=state, service_workers="block")
    page = context.new_page()
    page.set_default_timeout(90_000)
    if slow:
        session = context.new_cdp_session(page)
        session.send("Network.enable")
        session.send("Network.emulateNetworkConditions", SLOW)
    return page


def visit(page: Page, ready: str) -> tuple[float, float]:
    """Seconds until the shell is painted, and until what is waited for can be used."""
    began = time.perf_counter()
    page.goto(f"http://127.0.0.1:{PORT}/", wait_until="commit")
    page.locator(ready).first.wait_for()
    usable = time.perf_counter() - began
    return page.evaluate(PAINTED) / 1000.0, usable


def presses(page: Page, code: str) -> dict[str, float | None]:
    """Milliseconds from a press to the first thing on screen that changes, for presses that ask the server."""
    found: dict[str, float | None] = {}
    page.goto(f"http://127.0.0.1:{PORT}/cylinders/14")
    page.get_by_role("button", name="Weigh now").wait_for()
    for where, name in ((f"/job/{code}/identify", "Weigh in"), ("/systems", "Add"), ("/jobs", "Closed"), ("/", "Quick total")):
        page.goto(f"http://127.0.0.1:{PORT}{where}")
        page.locator("main").first.wait_for()
        page.wait_for_timeout(4_000)
        if where.startswith("/job/"):
            page.locator(f'a[href$="{code}/weigh_in"]:visible').first.wait_for()
            found["another step"] = page.evaluate(
                ANSWERED.replace("el.textContent.trim().startsWith(name)", f"el.getAttribute('href') === '/job/{code}/weigh_in'"), name
            )
        else:
            found[name] = page.evaluate(ANSWERED, name)
    return found


def main() -> int:
    rounds = int(sys.argv[1]) if len(sys.argv) > 1 else 3
    os.environ["YOSHI_TEST_SUFFIX"] = "_bench"
    old = setup_databases(verbosity=0, interactive=False)
    missed = 0
    try:
        call_command("load_demo", verbosity=0)
        code = Job.objects.get(title="Control room, circuit 1").code
        server = serving(PORT, str(connection.settings_dict["NAME"]))
        try:
            with sync_playwright() as play:
                browser = play.chromium.launch(executable_path="/usr/bin/chromium-headless-shell", args=["--no-sandbox"])
                took: dict[str, dict[bool, list[float]]] = {}
                first = page_of(browser, False)
                visit(first, "input[type=password]")
                first.get_by_label("name").fill("orrin")
                first.get_by_label("password").fill(PASSWORD)
                first.get_by_role("button", name="Sign in").click()
                first.get_by_role("button", name="New job").wait_for()
                state = first.context.storage_state()
                for _ in range(rounds):
                    for slow in (False, True):
                        shell, usable = visit(page := page_of(browser, slow), "input[type=password]")
                        page.context.close()
                        _, goes_on = visit(page := page_of(browser, slow, state), "text=Go on with")
                        page.context.close()
                        for name, value in zip(GOALS_S, (shell, usable, goes_on), strict=True):
                            took.setdefault(name, {False: [], True: []})[slow].append(value)
                for name, both in took.items():
                    fast, slowly = (statistics.median(both[slow]) for slow in (False, True))
                    bad = slowly > GOALS_S[name]
                    missed += bad
                    print(
                        f"{name:<18} {slowly:6.2f} s on the slow link, {fast:5.2f} s on a fast one, {slowly / fast:5.1f}×{'  MISSED' if bad else ''}",
                        flush=True,
                    )
                slow_page = page_of(browser, True, state)
                for name, ms in presses(slow_page, code).items():
                    bad = ms is None or ms > GOAL_PRESS_MS
                    missed += bad
                    said = "no answer in 20 s" if ms is None else f"{ms:6.0f} ms"
                    print(f"press {name:<14} {said}{'  MISSED' if bad else ''}", flush=True)
                browser.close()
        finally:
            server.terminate()
            server.wait()
    finally:
        teardown_databases(old, verbosity=0)
    return 1 if missed else 0


if __name__ == "__main__":
    sys.exit(main())
