"""The comparison of refrigerants while a condition is dragged: main-thread tasks over 50 ms, and how long the picture takes to follow.

    python bench/retrofit_drag.py [SECONDS]      needs the built front end and the database with its environment

The slider is moved thirty times a second. Makes its own database, `test_yoshi_bench`, and drops it.
"""

import os
import statistics
import sys

from django.db import connection
from django.test.utils import setup_databases, teardown_databases
from long_log import LONG_TASKS, PASSWORD, PORT
from playwright.sync_api import sync_playwright
from serving import serving

from accounts.models import Person, Shop
from systems.models import Circuit, Site, System
from yoshi_core.document import schema
from yoshi_core.document.plate import Plate

PLATE = {
    "refrigerant": "R-22", "factory_charge": "8 lb 12 oz", "included_length": "25 ft", "kind": "split", "metering": "orifice", "oil": "mineral",
    "design_high": "300 psig", "altitude": "2100 m", "gauge_reference": "vented",
    "lines": {"l1": {"length": "25 ft", "liquid_od": "3/8 in", "suction_od": "7/8 in"}},
}  # fmt: skip
DRAG = """(seconds) => new Promise((done) => {
  const slider = document.querySelector('input[type=range]');
  const put = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set;
  const picture = document.querySelector('[data-testid=ph-chart]');
  const followed = [];
  let moved = performance.now();
  new MutationObserver(() => {
    if (moved) { followed.push(performance.now() - moved); moved = 0; }
  }).observe(picture, { attributes: true, attributeFilter: ['aria-label'] });
  const begun = performance.now();
  const step = () => {
    const t = (performance.now() - begun) / 1000;
    if (t > seconds) return done(followed);
    put.call(slider, String(Math.round((40 + 12 * Math.sin(2 * t)) * 2) / 2));
    moved = moved || performance.now();
    slider.dispatchEvent(new Event('input', { bubbles: true }));
    setTimeout(step, 33);
  };
  step();
})"""


def main() -> None:
    seconds = float(sys.argv[1]) if len(sys.argv) > 1 else 15.0
    os.environ["YOSHI_TEST_SUFFIX"] = "_bench"
    old = setup_databases(verbosity=0, interactive=False)
    try:
        shop = Shop.objects.create(name="Bench")
        person = Person.objects.create(username="bench", shown_name="Bench", shop=shop)
        person.set_password(PASSWORD)
        person.save()
        system = System.objects.create(site=Site.objects.create(shop=shop, name="Bench"), name="Bench")
        plate = schema.dump(schema.load(Plate, PLATE, "/plate"))
        circuit = Circuit.objects.create(system=system, code="B-1", name="Bench split", plate=plate)
        server = serving(PORT, str(connection.settings_dict["NAME"]))
        try:
            with sync_playwright() as playwright:
                browser = playwright.chromium.launch(executable_path="/usr/bin/chromium-headless-shell", args=["--no-sandbox"])
                page = browser.new_page(viewport={"width": 1280, "height": 800})
                page.goto(f"http://127.0.0.1:{PORT}/systems/{circuit.pk}/retrofit")
                page.get_by_label("Name").fill("bench")
                page.get_by_label("Password").fill(PASSWORD)
                page.keyboard.press("Enter")
                page.get_by_test_id("ph-chart").wait_for()
                page.evaluate(DRAG, 2)
                page.evaluate(LONG_TASKS)
                followed = page.evaluate(DRAG, seconds)
                page.wait_for_timeout(500)
                tasks = page.evaluate("window.longTasks")
                browser.close()
        finally:
            server.terminate()
            server.wait()
        worst = max(tasks, default=0.0)
        print(f"a condition dragged for {seconds:g} s: {len(tasks)} tasks over 50 ms, the longest {worst:.0f} ms (goal: none)")
        print(f"    the picture followed {len(followed)} times, median {statistics.median(followed):.0f} ms after the slider")
    finally:
        connection.close()
        teardown_databases(old, verbosity=0)


if __name__ == "__main__":
    main()
