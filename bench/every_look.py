"""Every page in every theme at every size: axe, smallest text, touch targets, nothing sideways, no link without a name.

    python bench/every_look.py [PAGES]      needs the built front end and the database with its environment; about 12 minutes for all

`PAGES` is a part of the addresses to look at. The tests look at each page and theme at one size and at each size in one theme.
Makes its own database, `test_yoshi_bench`, and drops it.
"""

import json
import os
import sys
from itertools import product

import django

django.setup()

from django.core.management import call_command
from django.db import connection
from django.test.utils import setup_databases, teardown_databases
from playwright.sync_api import Page, sync_playwright
from serving import serving

from demo.world import PASSWORD
from e2e.test_screens import AXE, NAMELESS, RUN_AXE, SIDEWAYS, SMALL_TARGETS, SMALLEST
from jobs.models import Job

PORT = 8524
SIZES = ((1280, 800), (640, 400), (390, 844), (320, 640))
THEMES = ("daylight", "attic", "sunlight")
PLAIN = (
    "/", "/jobs", "/jobs?list=closed", "/customers", "/customers/1", "/systems", "/systems/1", "/systems/1/retrofit", "/cylinders", "/cylinders/R3",
    "/refrigerants", "/refrigerants/R-407C", "/refrigerants/R-407C/print", "/instruments", "/shop", "/shop/trail", "/account", "/profile",
)  # fmt: skip
LEAST_PX = {"sunlight": "(svg ? 13.95 : 15.95)"}  # words in a drawing have the room the drawing leaves them


def looked_at(page: Page, theme: str) -> list[str]:
    """What is wrong with the page as it stands."""
    page.evaluate(AXE)
    found = [f"axe {v['id']}: {v['nodes'][0]['html'][:90]}" for v in page.evaluate(RUN_AXE)["violations"]]
    smallest = SMALLEST.replace("size < 12.95", f"size < {LEAST_PX.get(theme, '12.95')}")
    for name, script in (("small text", smallest), ("small target", SMALL_TARGETS), ("no name", NAMELESS), ("sideways", SIDEWAYS)):
        found += [f"{name}: {json.dumps(row)[:110]}" for row in page.evaluate(script)[:3]]
    tall, wide = page.evaluate(
        "() => [document.documentElement.scrollHeight - innerHeight, document.documentElement.scrollWidth - innerWidth]"
    )
    if tall > 1 and "/print" not in page.url:
        found.append(f"the page itself scrolls by {tall} px")
    if wide > 1:
        found.append(f"the page scrolls sideways by {wide} px")
    return found


def pages() -> list[str]:
    """The plain ones, and every step of a job where the demo has one that stands at it."""
    steps = {job.step: f"/job/{job.code}/{job.step}" for job in Job.objects.filter(listed="open").order_by("-pk")}
    quick = Job.objects.filter(listed="quick").first()
    return [*PLAIN, *(steps[step] for step in sorted(steps)), *([f"/job/{quick.code}"] if quick else [])]


def main() -> int:
    part = sys.argv[1] if len(sys.argv) > 1 else ""
    os.environ["YOSHI_TEST_SUFFIX"] = "_bench"
    old = setup_databases(verbosity=0, interactive=False)
    wrong = looks = 0
    try:
        call_command("load_demo", verbosity=0)
        asked = [path for path in pages() if part in path]
        server = serving(PORT, str(connection.settings_dict["NAME"]))
        try:
            with sync_playwright() as play:
                browser = play.chromium.launch(executable_path="/usr/bin/chromium-headless-shell", args=["--no-sandbox"])
                page = browser.new_context(service_workers="block").new_page()
                page.set_default_timeout(60_000)
                page.goto(f"http://127.0.0.1:{PORT}/")
                page.get_by_label("name").fill("vesk")
                page.get_by_label("password").fill(PASSWORD)
                page.get_by_role("button", name="Sign in").click()
                page.get_by_role("button", name="New job").wait_for()
                for theme, path in product(THEMES, asked):
                    page.evaluate(f"localStorage.setItem('yoshi-theme', '{theme}')")
                    page.goto(f"http://127.0.0.1:{PORT}{path}")
                    page.locator("main").first.wait_for()
                    page.wait_for_timeout(900)
                    for width, height in SIZES:
                        page.set_viewport_size({"width": width, "height": height})
                        page.wait_for_timeout(150)
                        looks += 1
                        for said in looked_at(page, theme):
                            wrong += 1
                            print(f"{theme:<9} {width:>4} {path:<34} {said}", flush=True)
                browser.close()
        finally:
            server.terminate()
            server.wait()
    finally:
        connection.close()
        teardown_databases(old, verbosity=0)
    print(f"{len(asked)} pages, {len(THEMES)} themes, {len(SIZES)} sizes: {looks} looks, {wrong} things wrong (goal: none)")
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main())
