"""Every screen in both themes and sizes: accessibility, smallest text, Quick total, Refrigerants, files."""

import json
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from playwright.sync_api import Page, expect

from e2e.acts import enter, field, new_job

ROOT = Path(__file__).resolve().parents[1]
AXE = (ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js").read_text()
SMALLEST = """() => { const found = []; const walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  while (walk.nextNode()) { const el = walk.currentNode.parentElement; if (!walk.currentNode.textContent.trim() || !el) continue;
    if (['SCRIPT', 'STYLE', 'NOSCRIPT', 'OPTION'].includes(el.tagName)) continue;
    const box = el.getBoundingClientRect(); if (!box.width || !box.height || el.closest('.sr-only')) continue;
    const svg = el.closest('svg'); const scale = svg && svg.viewBox.baseVal.width ? svg.getBoundingClientRect().width / svg.viewBox.baseVal.width : 1;
    const size = parseFloat(getComputedStyle(el).fontSize) * scale; if (size < 12.95) found.push([size, walk.currentNode.textContent.trim()]); }
  return found; }"""
# A box inside a label is pressed by its label; a link inside a sentence is as wide as its words.
SMALL_TARGETS = """() => [...document.querySelectorAll('button, a, select, input.control, label:has(input[type=radio], input[type=checkbox]), [role=menuitem], [role=menuitemradio]')].filter((el) => {
    const box = el.getBoundingClientRect(); const narrow = getComputedStyle(el).display === 'inline' ? 24 : 43.5;
    return box.width && box.height && !el.closest('.sr-only') && (box.height < 43.5 || box.width < narrow); })
    .map((el) => [el.tagName, el.innerText || el.getAttribute('aria-label'), el.getBoundingClientRect().width, el.getBoundingClientRect().height])"""
NAMELESS = """() => [...document.querySelectorAll('a, button')].filter((el) => el.getBoundingClientRect().width
    && !(el.textContent.trim() || el.getAttribute('aria-label'))).map((el) => el.outerHTML.slice(0, 200))"""


RUN_AXE = """() => axe.run({ resultTypes: ['violations'], preload: false,
    runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'] })"""
SIDEWAYS = """() => [...document.querySelectorAll('main, main > *, div:has(> main)')].filter((el) => el.scrollWidth > el.clientWidth + 1
    && !el.closest('section[tabindex], footer')).map((el) => [el.tagName, el.className.slice(0, 60), el.scrollWidth, el.clientWidth])"""


@dataclass(frozen=True)
class Look:
    """How a screen is looked at; `axe` says whether more than sizes is checked."""

    width: int
    height: int
    dark: bool = False
    axe: bool = True


DESK, DARK_DESK, PHONE = Look(1280, 800), Look(1280, 800, dark=True), Look(390, 844, dark=True)
SMALLEST_PHONE = Look(320, 640, axe=False)  # it shows what the phone shows, so only sizes count there
TWICE = Look(640, 400, axe=False)  # a desk of 1280 at 200 %
EVERY = (DESK, PHONE, SMALLEST_PHONE, TWICE)


def check(page: Page, *looks: Look) -> None:
    """Every look at one screen, loaded once: axe finds nothing, no text under 13 px, no target under 44 px; then the desk again."""
    for look in looks or EVERY:
        page.set_viewport_size({"width": look.width, "height": look.height})
        page.emulate_media(color_scheme="dark" if look.dark else "light")
        page.wait_for_timeout(250)
        _check(page, look)
    page.set_viewport_size({"width": DESK.width, "height": DESK.height})
    page.emulate_media(color_scheme="light")


def _check(page: Page, look: Look) -> None:
    if look.axe:
        page.evaluate(AXE)
        found = page.evaluate(RUN_AXE)
        problems = [(v["id"], [n["html"][:160] for n in v["nodes"]][:4]) for v in found["violations"]]
        assert problems == [], f"{page.url} {look}: {json.dumps(problems, indent=1)}"
    assert page.evaluate(SMALLEST) == [], (page.url, look)
    assert page.evaluate(SMALL_TARGETS) == [], (page.url, look)
    assert page.evaluate("() => document.documentElement.scrollWidth <= innerWidth"), f"{page.url} {look}: the page scrolls sideways"
    tall = page.evaluate("() => document.documentElement.scrollHeight - innerHeight")
    assert tall <= 1 or "/api/" in page.url or "/print" in page.url, (
        f"{page.url} {look}: the page itself scrolls by {tall} px, its bar with it"
    )
    assert page.evaluate(NAMELESS) == [], (page.url, look)
    assert page.evaluate(SIDEWAYS) == [], f"{page.url} {look}: something in the page is wider than its place"


def test_sunlight_is_black_on_white_and_large_and_stays_after_a_reload(open_page: Any) -> None:
    page = open_page("vesk", width=390, height=844)
    page.get_by_role("button", name="T. Vesk, menu").click()
    page.get_by_role("menuitemradio", name="Sunlight").click()
    page.reload()
    expect(page.locator("html")).to_have_attribute("data-theme", "sunlight")
    page.get_by_role("button", name="New job").wait_for()
    page.get_by_text("Control room, circuit 1").first.click()
    page.locator("#step-name").wait_for()
    for step in ("identify", "weigh_in", "verify"):
        page.goto(f"{page.url.rsplit('/', 1)[0]}/{step}")
        page.locator("#step-name").wait_for()
        _check(page, Look(390, 844))
        small = page.evaluate(SMALLEST.replace("size < 12.95", "size < 15.95"))
        assert small == [], (step, small)


def test_the_bar_is_skipped_by_keyboard(open_page: Any) -> None:
    page = open_page("vesk")
    page.reload()
    page.get_by_role("button", name="New job").wait_for()
    page.keyboard.press("Tab")
    expect(page.get_by_role("button", name="Skip to the page")).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.locator("main")).to_be_focused()


def test_today_and_each_step_are_accessible(open_page: Any) -> None:
    page = open_page("vesk")
    check(page)
    page.goto("/")
    page.get_by_test_id("day").wait_for()
    check(page, *EVERY, DARK_DESK)
    page.get_by_role("button", name="as a chart").click()
    check(page)
    for address, heading in (("/customers/1", "Quillon Ridge Observatory"), ("/systems", "Loses most"), ("/jobs?list=closed", "Jobs")):
        page.goto(address)
        page.get_by_role("heading", name=heading).first.wait_for()
        check(page, *EVERY)
    page.get_by_role("button", name="New job").click()
    check(page)
    page.keyboard.press("Escape")
    for title, step, heading, looks in (
        ("Staff quarters heat pump", "verify", "Verify", (*EVERY, DARK_DESK)),
        ("Control room, short again?", "as_found", "As found", EVERY),
        ("Staff quarters, lost a pound in a month", "leak_search", "Leak search", (*EVERY, DARK_DESK)),
        ("Detector lab, circuit 2, compressor out", "recover", "Recover", EVERY),
        ("Gatehouse ductless, new coil going in", "repair", "Repair", EVERY),
        ("Gatehouse ductless, 14 psi lost", "pressure_hold", "Pressure hold", EVERY),
        ("Canteen walk-in, will not reach 500", "evacuate", "Evacuate", EVERY),
        ("Detector lab, circuit 2, after the compressor", "evacuate", "Evacuate", (DARK_DESK,)),
        ("Annex split, R-410A asked for", "plan_change", "Plan the change", EVERY),
        ("Cold store, R-404A to R-448A", "change_over", "Change over", EVERY),
    ):
        page.goto("/jobs")
        page.get_by_text(title).first.click()
        page.get_by_role("heading", name=heading, exact=True).wait_for()
        assert page.url.endswith(step)
        check(page, *looks)


def test_the_other_screens_are_accessible(open_page: Any) -> None:
    page = open_page("pell")
    page.get_by_text("Staff quarters heat pump").first.click()
    page.get_by_role("heading", name="Verify").wait_for()
    base = page.url.rsplit("/", 1)[0]
    for step, heading in (("identify", "Identify"), ("weigh_in", "Weigh in"), ("close_out", "Close out")):
        page.goto(f"{base}/{step}")
        page.get_by_role("heading", name=heading, exact=True).wait_for()
        check(page)
    page.goto("/")
    page.get_by_role("button", name="Quick total").click()
    page.get_by_role("heading", name="Quick total").wait_for()
    check(page)
    for address, heading, looks in (
        ("/cylinders", "Cylinders", EVERY),
        ("/cylinders/R3", "Cylinder R3", (*EVERY, DARK_DESK)),
        ("/systems", "Systems", EVERY),
        ("/shop", "Brindlewick Service Co.", EVERY),
        ("/instruments", "Instruments", (*EVERY, DARK_DESK)),
        ("/account", "J. Pell", (*EVERY, DARK_DESK)),
    ):
        page.goto(address)
        page.get_by_role("heading", name=heading, exact=True).wait_for()
        page.wait_for_load_state("networkidle")
        check(page, *looks)
    page.goto("/systems")
    page.get_by_role("navigation", name="Systems").get_by_role("link", name="Canteen walk-in").click()
    page.get_by_role("heading", name="Canteen walk-in").wait_for()
    check(page)
    page.get_by_role("link", name="Compare other refrigerants").click()
    page.get_by_test_id("plan").wait_for()
    check(page)
    page.goto(f"{page.url}/print")
    page.get_by_role("button", name="Print", exact=True).wait_for()
    page.get_by_test_id("ph-chart").wait_for()
    check(page)
    page.goto("/profile")
    page.get_by_role("heading", name="Trimming").wait_for()
    check(page)
    for address, heading in (("/practice", "Exercises"), ("/practice/own", "A unit of your own")):
        page.goto(address)
        page.get_by_role("heading", name=heading).wait_for()
        check(page, *EVERY)
    page.goto("/refrigerants/R-407C")
    page.get_by_role("heading", name="R-407C", exact=True).wait_for()
    expect(page.get_by_role("table")).to_be_visible()
    page.get_by_test_id("ph-chart").wait_for()
    check(page, *EVERY, DARK_DESK)
    page.goto("/refrigerants/R-407C/print?altitude=2100+m&gauge=vented")
    page.get_by_role("button", name="Print", exact=True).wait_for()
    check(page)


def test_signing_in_is_accessible_and_says_what_is_wrong(chromium: Any, address: str) -> None:
    for dark in (False, True):
        context = chromium.new_context(base_url=address, color_scheme="dark" if dark else "light", service_workers="block")
        page = context.new_page()
        page.goto("/")
        page.get_by_label("name").fill("orrin")
        page.get_by_label("password").fill("wrong")
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("alert")).to_contain_text("do not belong together")
        _check(page, DARK_DESK if dark else DESK)
        context.close()


def test_quick_total_reaches_the_mark_is_kept_and_becomes_a_job(open_page: Any) -> None:
    page = open_page(width=390, height=844)
    page.get_by_role("button", name="Quick total").click()
    for key, text in {
        "refrigerant": "R-410A",
        "factory_charge": "9 lb 4 oz",
        "included_length": "25 ft",
        "lines.l1.length": "55 ft",
        "lines.l1.liquid_od": "3/8 in",
        "lines.l1.suction_od": "7/8 in",
    }.items():
        enter(page, key, text)
    expect(page.get_by_test_id("big-weight").first).to_contain_text("10lb7.3oz")
    for key, text in {"gross_start": "31 lb 6.5 oz", "tare": "9 lb", "hose_loss": "0.6 oz"}.items():
        enter(page, f"draws.d1.{key}", text)
    expect(page.get_by_text("Close the valve when the scale reads")).to_be_visible()
    page.reload()
    expect(field(page, "factory_charge")).to_have_value("9 lb 4 oz")
    page.get_by_role("button", name="Make it a job").click()
    page.get_by_label("name of the job").fill("Roof unit 3")
    page.get_by_role("dialog").get_by_role("button", name="Make it a job").click()
    page.get_by_role("heading", name="Identify").wait_for()
    expect(field(page, "factory_charge")).to_have_value("9 lb 4 oz")


def test_the_owner_changes_the_practice_and_new_jobs_follow(open_page: Any) -> None:
    page = open_page("hale")
    page.get_by_role("button", name="R. Hale, menu").click()
    page.get_by_role("menuitem", name="Practice profile").click()
    run_in = page.get_by_label("the unit has run this long before it is judged")
    run_in.fill("a while")
    page.get_by_label("why this is changed; records show it").fill("units here settle slowly")
    page.get_by_role("button", name="Make it our practice").click()
    expect(page.get_by_role("alert")).to_contain_text("not a number")
    expect(run_in).to_have_value("a while")
    run_in.fill("45 min")
    page.get_by_role("button", name="Make it our practice").click()
    expect(page.get_by_text("units here settle slowly")).to_be_visible()
    expect(run_in).to_have_value("45 min")
    page.goto("/")
    new_job(page, "By the new practice")
    page.goto(f"{page.url.rsplit('/', 1)[0]}/verify")
    page.get_by_role("heading", name="Verify").wait_for()
    enter(page, "run_in", "15 min")
    expect(page.get_by_text("Brindlewick field profile, revision 2").first).to_be_visible()


def test_refrigerants_both_ways_at_the_sites_altitude(open_page: Any) -> None:
    page = open_page()
    page.goto("/refrigerants/R-410A")
    expect(page.get_by_label("site altitude")).to_have_value("2100 m")
    page.get_by_role("textbox", name="pressure, psig").fill("128")
    expect(page.get_by_test_id("dew-temperature")).to_contain_text("42.7")
    expect(page.get_by_text("The same reading on a sealed gauge: dew 44.1 °F")).to_be_visible()
    page.get_by_label("or temperature, °F").fill("40")
    expect(page.get_by_test_id("dew-gauge_pressure")).to_contain_text("121.7")
    page.get_by_role("textbox", name="pressure, psig").fill("9999")
    expect(page.get_by_text("outside the R-410A table")).to_be_visible()
    page.get_by_label("find a refrigerant").fill("407")
    expect(page.get_by_role("link", name="R-407C")).to_be_visible()
    page.get_by_label("find a refrigerant").fill("nothing")
    expect(page.get_by_text("A plan by weight is still possible")).to_be_visible()


def test_a_file_is_opened_or_refused_in_words(open_page: Any, tmp_path: Path) -> None:
    page = open_page()
    broken = tmp_path / "broken.json"
    broken.write_text((ROOT / "examples" / "01-control-room.json").read_text()[:300])
    page.get_by_label("Job file to open").set_input_files(broken)
    expect(page.get_by_role("alert")).to_contain_text("cut off")
    page.get_by_label("Job file to open").set_input_files(ROOT / "examples" / "01-control-room.json")
    page.get_by_role("heading", name="Identify").wait_for()
    expect(page.get_by_test_id("big-weight")).to_contain_text("10lb7.5oz")


def test_a_page_that_is_not_there_says_so(open_page: Any) -> None:
    page = open_page()
    page.goto("/job/nothing-here")
    expect(page.get_by_role("heading", name="There is no such job here")).to_be_visible()
    page.get_by_role("link", name="Go to Today").click()
    page.get_by_role("button", name="New job").wait_for()


def test_the_back_button_goes_through_the_steps(open_page: Any) -> None:
    page = open_page()
    page.get_by_text("Control room, circuit 1").first.click()
    page.get_by_role("heading", name="Weigh in").wait_for()
    page.get_by_role("link", name="Identify").click()
    page.get_by_role("heading", name="Identify").wait_for()
    page.go_back()
    page.get_by_role("heading", name="Weigh in").wait_for()
    page.go_back()
    page.get_by_role("button", name="New job").wait_for()
