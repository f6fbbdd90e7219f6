"""A chart of a 50,000-point log panned for half a minute in Chromium: every main-thread task over 50 ms is counted.

    python bench/long_log.py [SECONDS]      needs the built front end and the database (`python -m ops db start`) with its environment

Makes its own database, `test_yoshi_bench`, and drops it.
"""

import csv
import io
import math
import os
import random
import sys
import time
from datetime import timedelta
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT / "core"), str(ROOT / "server"), str(ROOT)]
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "yoshi_server.settings")
os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "true")

import django

django.setup()

from django.db import connection
from django.test.utils import setup_databases, teardown_databases
from django.utils import timezone
from playwright.sync_api import Page, sync_playwright
from serving import serving

from accounts.models import Person, Shop
from instruments.actions.log_csv import import_log
from jobs.actions.create_job import create_job
from jobs.models import Job
from tasks.queue import run_all

POINTS, PORT, PASSWORD = 50_000, 8498, "bench-password"
LONG_TASKS = """() => {
  window.longTasks = [];
  new PerformanceObserver((list) => {
    for (const entry of list.getEntries()) window.longTasks.push(entry.duration);
  }).observe({ type: "longtask" });
}"""
BUSY = "() => setTimeout(() => { const until = performance.now() + 80; while (performance.now() < until) {} }, 10)"
CANVAS = "document.querySelector('.long-log canvas').toDataURL()"


def log_text() -> str:
    """Half a day of a micron gauge, a reading every 0.8 s."""
    dice, out = random.Random(3), io.StringIO()
    writer = csv.writer(out)
    writer.writerow(("instrument", "value", "unit", "at"))
    begins = timezone.now() - timedelta(hours=12)
    for n in range(POINTS):
        value = 300.0 + 1700.0 * (1.0 - math.exp(-n / 9000.0)) * (1.0 + dice.gauss(0.0, 0.01))
        writer.writerow(("vacuum", round(value, 1), "micron", (begins + timedelta(seconds=0.8 * n)).isoformat()))
    return out.getvalue()


def open_log(page: Page, code: str) -> None:
    page.goto(f"http://127.0.0.1:{PORT}/job/{code}/log")
    page.get_by_label("Name").fill("bench")
    page.get_by_label("Password").fill(PASSWORD)
    page.keyboard.press("Enter")
    page.locator(".long-log canvas").wait_for()
    page.get_by_text(f"{POINTS:,} readings").wait_for()


def pan(page: Page, seconds: float) -> tuple[list[float], int]:
    """Drag to and fro for so long at full width, then closer; the long tasks and how often the mouse moved."""
    box = page.locator(".long-log .u-over").bounding_box()
    assert box is not None
    page.evaluate(LONG_TASKS)
    page.evaluate(BUSY)
    page.wait_for_timeout(500)
    assert page.evaluate("window.longTasks.splice(0).length") == 1, "a task of 80 ms was not seen"
    before = page.evaluate(CANVAS)
    middle, until, moves = box["y"] + box["height"] / 2, time.monotonic() + seconds, 0
    begun = time.monotonic()
    for closer in range(3):
        page.get_by_role("button", name="Closer").click()
        left = begun + (closer + 1) * seconds / 3
        while time.monotonic() < min(left, until):
            page.mouse.move(box["x"] + 0.85 * box["width"], middle)
            page.mouse.down()
            for step in range(40):
                page.mouse.move(box["x"] + (0.85 - 0.7 * step / 40) * box["width"], middle)
                moves += 1
            page.mouse.up()
            page.get_by_role("button", name="Earlier").click()
            page.get_by_role("button", name="Earlier").click()
            page.get_by_role("button", name="Earlier").click()
    assert page.evaluate(CANVAS) != before, "nothing moved"
    return page.evaluate("window.longTasks"), moves


def main() -> None:
    seconds = float(sys.argv[1]) if len(sys.argv) > 1 else 30.0
    os.environ["YOSHI_TEST_SUFFIX"] = "_bench"
    old = setup_databases(verbosity=0, interactive=False)
    try:
        person = Person.objects.create(username="bench", shown_name="Bench", shop=Shop.objects.create(name="Bench"))
        person.set_password(PASSWORD)
        person.save()
        code = create_job(person, "bench-long-log", "charge", "long log", None)["code"]
        import_log(person, Job.objects.get(code=code).pk, code, log_text())
        run_all()
        server = serving(PORT, str(connection.settings_dict["NAME"]))
        try:
            with sync_playwright() as playwright:
                browser = playwright.chromium.launch(executable_path="/usr/bin/chromium-headless-shell", args=["--no-sandbox"])
                page = browser.new_page(viewport={"width": 1280, "height": 800})
                open_log(page, code)
                tasks, moves = pan(page, seconds)
                browser.close()
        finally:
            server.terminate()
            server.wait()
        worst = max(tasks, default=0.0)
        print(
            f"a log of {POINTS:,} points panned for {seconds:g} s, {moves:,} moves: {len(tasks)} tasks over 50 ms, the longest {worst:.0f} ms (goal: none)"
        )
    finally:
        connection.close()
        teardown_databases(old, verbosity=0)


if __name__ == "__main__":
    main()
