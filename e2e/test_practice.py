"""The practice bench through the browser, from the exercise that is chosen to looking back: found right, read right, and failed on purpose."""

import re
from typing import Any

from playwright.sync_api import Page, expect

from e2e.conftest import Open
from e2e.test_screens import EVERY, check
from practice.models import Run
from yoshi_core.rig.solve import as_read
from yoshi_core.units.quantities import FAHRENHEIT_K, ZERO_FAHRENHEIT_K

SITE_PA = 101_325.0


def choose_exercise(page: Page, name: str, button: str = "Start the clock") -> None:
    page.goto("/practice")
    page.get_by_role("button", name=re.compile(name)).click()
    page.get_by_role("heading", name=re.compile(name)).wait_for()
    page.get_by_role("button", name=button).click()
    page.get_by_test_id("tools").wait_for()


def turn(page: Page, valve: str, to: str) -> None:
    """A valve of the bench, and wait until it stands so."""
    page.get_by_role("button", name=re.compile(f"^{valve} ?,")).click()
    page.get_by_role("menuitem", name=to, exact=True).click()
    page.get_by_role("button", name=re.compile(f"^{valve} ?, ?{to}$")).wait_for()


def gauges_on(page: Page) -> None:
    turn(page, "suction port", "open")
    turn(page, "liquid port", "open")


def hang_upside_down(page: Page, cylinder: str) -> None:
    """A cylinder on the hose and the scale, liquid at its valve."""
    page.get_by_role("button", name=re.compile("^no cylinder")).click()
    page.get_by_role("menuitem", name=re.compile(f"^{cylinder},")).click()
    page.get_by_role("button", name=re.compile("^Turn it")).click()
    page.get_by_role("button", name=re.compile("^Turn it upside down")).wait_for()


def wait_for_minutes(page: Page, minutes: int, speed: str = "60×") -> None:
    """Let practice time run up to a minute of it, and stand."""
    page.get_by_role("radio", name=speed, exact=True).click()
    page.wait_for_function(
        "at => document.querySelector('[data-testid=practice-time]').textContent.split(':').reduce((a, b) => a * 60 + +b, 0) >= at",
        arg=minutes * 60,
    )
    page.get_by_role("radio", name="Pause").click()


def capture(page: Page) -> None:
    """Hold the button: what the instruments say goes into the step."""
    page.get_by_role("button", name="Hold to capture").press("Enter")
    page.get_by_text(re.compile("^Captured")).wait_for()


def end(page: Page) -> None:
    page.get_by_role("button", name="End", exact=True).click()
    page.get_by_role("button", name="End it").click()
    page.get_by_test_id("look-back").wait_for()


def marks(page: Page) -> dict[str, bool]:
    rows = page.locator("[data-mark]").evaluate_all("rows => rows.map(row => [row.dataset.mark, row.dataset.met])")
    return {name: met == "true" for name, met in rows}


def shown() -> Any:
    run = Run.objects.latest("pk")
    assert run.shown is not None
    return run.shown["shown"]


def test_low_air_is_found_and_the_charge_left_alone(open_page: Open, bench_time: None) -> None:
    page = open_page()
    choose_exercise(page, "Low air taken for low charge")
    expect(page.get_by_role("link", name="Practice", exact=True)).to_be_visible()
    gauges_on(page)
    wait_for_minutes(page, 3)
    page.get_by_role("link", name=re.compile("As found")).click()
    page.get_by_role("heading", name="As found").wait_for()
    capture(page)
    page.get_by_test_id("look-inside").click()
    page.get_by_test_id("whereabouts").wait_for()
    check(page)
    expect(page.get_by_test_id("whereabouts")).to_have_attribute("aria-label", re.compile("condenser .* evaporator"))
    page.get_by_role("link", name="Close it up again").first.click()
    page.get_by_role("button", name=re.compile("^Look")).last.click()
    page.get_by_role("menuitem", name=re.compile("^Filter and indoor coil")).click()
    page.get_by_role("button", name=re.compile("at 1 things|at 1")).wait_for()
    page.get_by_label("What is wrong with it?").select_option("low_airflow")
    page.get_by_text("all answered").wait_for()
    page.get_by_role("radio", name="Pause").click()
    check(page, *EVERY)
    end(page)
    check(page, *EVERY)
    expect(page.get_by_test_id("met")).to_have_text("All marks met")
    assert marks(page) == dict.fromkeys(("cause", "left_alone", "lost", "refrigerant", "time"), True)
    expect(page.get_by_test_id("look-back")).to_contain_text("Too little indoor air.")
    page.goto("/jobs")
    expect(page.get_by_text("Low air taken")).to_have_count(0)


def test_both_gauges_are_read_and_every_answer_is_right(open_page: Open, bench_time: None) -> None:
    page = open_page(width=390, height=844, dark=True)
    page.goto("/practice?exercise=both-gauges")
    page.get_by_role("button", name="Start the clock").click()
    page.get_by_test_id("at-the-unit").wait_for()
    gauges_on(page)
    expect(page.locator("[data-live=liquid_pressure]")).to_be_attached()
    read = shown()
    low, high = read["suction_pa"] + SITE_PA, read["liquid_pa"] + SITE_PA
    superheat, subcooling = as_read("R-410A", low, read["suction_line_k"], high, read["liquid_line_k"])
    boils, condenses = read["suction_line_k"] - superheat, read["liquid_line_k"] + subcooling
    answers = {
        "At what temperature has all of it boiled off": (boils - ZERO_FAHRENHEIT_K) / FAHRENHEIT_K,
        "At what temperature is all of it liquid": (condenses - ZERO_FAHRENHEIT_K) / FAHRENHEIT_K,
        "Superheat at the suction port": superheat / FAHRENHEIT_K,
        "Subcooling at the liquid port": subcooling / FAHRENHEIT_K,
    }
    for label, value in answers.items():
        box = page.get_by_label(re.compile(label))
        box.fill(f"{value:.0f}")
        box.press("Enter")
    page.get_by_text("all answered").wait_for()
    end(page)
    expect(page.get_by_test_id("met")).to_have_text("All marks met")
    assert marks(page)["answers"]
    page.get_by_role("button", name="Try again").click()
    page.get_by_test_id("at-the-unit").wait_for()


def test_read_too_soon_and_filled_by_the_eye_it_is_not_yet_right(open_page: Open, bench_time: None) -> None:
    page = open_page()
    choose_exercise(page, "Fixed orifice, by superheat", "Take it as a test")
    expect(page.get_by_text("no looking inside")).to_be_visible()
    expect(page.get_by_test_id("look-inside")).to_have_count(0)
    page.get_by_role("radio", name="Pause").click()
    gauges_on(page)
    hang_upside_down(page, "14")
    page.get_by_role("link", name=re.compile("^Verify")).click()
    turn(page, "cylinder", "open")
    turn(page, "low side", "just cracked")
    wait_for_minutes(page, 3, "10×")
    turn(page, "low side", "shut")
    turn(page, "cylinder", "shut")
    capture(page)
    expect(page.get_by_text("saved")).to_be_visible()
    end(page)
    expect(page.get_by_test_id("met")).to_have_text("Not yet")
    met = marks(page)
    assert (met["charge"], met["settled"]) == (False, False)
    expect(page.get_by_test_id("timeline")).to_contain_text("too soon")
    expect(page.get_by_test_id("look-back")).to_contain_text("too much")
    page.get_by_role("button", name="Share with the lead").click()
    page.get_by_role("button", name=re.compile("Shared")).wait_for()
    lead = open_page("vesk")
    lead.goto("/practice")
    row = lead.get_by_test_id("team").get_by_role("row", name=re.compile("Fixed orifice"))
    expect(row).to_contain_text("not yet")
    page.get_by_role("button", name=re.compile("Shared")).click()
    page.get_by_role("button", name="Share with the lead").wait_for()
    lead.reload()
    expect(lead.get_by_test_id("team").get_by_role("row", name=re.compile("Fixed orifice"))).to_contain_text("not shared")


def test_a_jobs_readings_are_put_on_the_bench(open_page: Open, bench_time: None) -> None:
    page = open_page()
    page.get_by_role("link", name=re.compile("short again")).first.click()
    page.get_by_role("link", name="Put it on the bench").click()
    page.get_by_test_id("what-if").wait_for()
    expect(page.get_by_test_id("what-if").get_by_role("listitem").first).to_contain_text(re.compile("charge is short", re.IGNORECASE))
    before = page.get_by_test_id("would-read").get_attribute("aria-label")
    slider = page.get_by_label("How much would be put in")
    for _ in range(12):
        slider.press("ArrowRight")
    page.get_by_text(re.compile("If I put .* in, I should read")).wait_for()
    expect(page.get_by_test_id("would-read")).not_to_have_attribute("aria-label", before or "")
    page.get_by_role("button", name="Practise on A").click()
    page.get_by_test_id("at-the-unit").wait_for()
