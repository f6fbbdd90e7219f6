"""Makes docs/screenshots/ from the demo world:  ./test pictures"""

from datetime import datetime, timedelta
from pathlib import Path
from typing import Any

import pytest
from django.core.management import call_command
from playwright.sync_api import Page

from e2e.acts import answered, enter, fill_running, verdict
from e2e.test_day import work_now
from e2e.test_no_signal import READY_MS, made_ready
from e2e.test_practice import capture, choose_exercise, end, gauges_on, hang_upside_down, turn, wait_for_minutes
from e2e.test_weigh_live import Scale, made_to_weigh

PICTURES = Path(__file__).resolve().parents[1] / "docs" / "screenshots"


def shoot(page: Page, name: str) -> None:
    understood = page.get_by_role("button", name="Understood")
    if understood.count():
        understood.first.click()
        page.get_by_test_id("safety").wait_for(state="detached")
    page.evaluate("() => document.activeElement?.blur()")
    page.wait_for_timeout(600)
    page.screenshot(path=PICTURES / f"{name}.png")


def test_pictures_of_the_main_views(open_page: Any, address: str, tmp_path: Path) -> None:
    PICTURES.mkdir(exist_ok=True)
    call_command("live_demo", str(tmp_path / "kits.json"))
    page = open_page("orrin", first="/")
    page.get_by_label("the van leaves at").fill((datetime.now() + timedelta(hours=4)).strftime("%H:%M"))
    page.keyboard.press("Enter")
    work_now(page)
    shoot(page, "day")
    page = open_page("vesk")  # a lead sees everybody's jobs
    for title, heading, name in (
        ("Control room, short again?", "As found", "as-found"),
        ("Staff quarters, lost a pound in a month", "Leak search", "leak-search"),
        ("Detector lab, circuit 2, compressor out", "Recover", "recover"),
        ("Detector lab, circuit 2, after the compressor", "Evacuate", "evacuate"),
    ):
        page.goto("/jobs")
        page.get_by_text(title).click()
        page.get_by_role("heading", name=heading, exact=True).wait_for()
        shoot(page, name)
    answered(page, "must leave at five", "Weigh in")
    page.goto(f"{page.url.rsplit('/', 1)[0]}/close_out")
    page.get_by_role("heading", name="Close out", exact=True).wait_for()
    page.get_by_role("region", name="What this job shows, and how").scroll_into_view_if_needed()
    shoot(page, "close-out")
    weighed = made_to_weigh("picture-weigh")
    scale = Scale(address, weighed, back_s=72.0)
    page.goto(f"/job/{weighed}/weigh_in")
    scale.reads(12.0, 12.0, 12)
    scale.reads(12.0, 10.4, 60)
    page.locator('[data-following="flowing"]').wait_for()
    shoot(page, "weigh-in")
    page.goto("/cylinders/R3")
    page.get_by_role("table").wait_for()
    shoot(page, "cylinders")
    page.goto("/systems")
    page.get_by_role("navigation", name="Systems").get_by_role("link", name="Canteen walk-in").click()
    page.get_by_role("heading", name="Canteen walk-in").wait_for()
    shoot(page, "systems")
    page.goto("/jobs")
    page.get_by_text("Control room, circuit 1", exact=True).click()
    page.get_by_role("heading", name="Weigh in").wait_for()
    job = page.url.rsplit("/", 1)[0]
    page.goto(f"{job}/identify")
    page.get_by_role("heading", name="Identify").wait_for()
    shoot(page, "identify")
    page.goto(f"{job}/weigh_in")
    enter(page, "draws.d1.gross_end", "20 lb 14.4 oz")
    page.get_by_role("button", name="It is in: go to Verify").click()
    page.get_by_role("heading", name="Verify").wait_for()
    fill_running(page)
    verdict(page, "Holds")
    page.get_by_role("button", name="Proven: go to Close out").click()
    page.get_by_role("heading", name="Close out").wait_for()
    code = job.rsplit("/", 1)[1]
    page.goto(f"/api/jobs/{code}/record")
    shoot(page, "record")
    page.goto("/jobs")
    page.get_by_text("Guest house heat pump, trimming").click()
    page.get_by_role("heading", name="Verify").wait_for()
    shoot(page, "verify")
    page.goto("/refrigerants/R-407C")
    page.get_by_role("table").wait_for()
    shoot(page, "refrigerants")

    page.goto("/systems")
    page.get_by_role("navigation", name="Systems").get_by_role("link", name="Annex split").click()
    page.get_by_role("link", name="Compare other refrigerants").click()
    page.get_by_role("button", name="R-407C").click()
    page.get_by_test_id("ph-chart").wait_for()
    shoot(page, "retrofit")

    phone = open_page("orrin", width=390, height=844, service_workers="allow")
    phone.get_by_text("Canteen reach-in").first.click()
    phone.get_by_role("heading", name="Weigh in").wait_for()
    shoot(phone, "weigh-in-phone")
    made_ready(phone)
    phone.goto("/")
    phone.get_by_role("button", name="Quick total").wait_for()
    phone.context.set_offline(True)
    phone.get_by_role("button", name="Quick total").click()
    phone.get_by_role("heading", name="Quick total").wait_for(timeout=READY_MS)
    for key, text in {
        "refrigerant": "R-410A",
        "factory_charge": "7 lb 11 oz",
        "included_length": "15 ft",
        "lines.l1.length": "52 ft",
        "lines.l1.liquid_od": "3/8 in",
        "lines.l1.suction_od": "3/4 in",
    }.items():
        enter(phone, key, text)
    for key, text in {"gross_start": "31 lb 6.5 oz", "tare": "9 lb", "hose_loss": "0"}.items():
        enter(phone, f"draws.d1.{key}", text)
    phone.wait_for_timeout(2_000)
    phone.evaluate("() => document.querySelector('main').scrollTo(0, 0)")
    shoot(phone, "quick-total-phone")


@pytest.mark.parametrize("bench_time", [1], indirect=True)
def test_pictures_of_practice(open_page: Any, bench_time: None) -> None:
    page = open_page("orrin")
    choose_exercise(page, "Fixed orifice, by superheat")
    gauges_on(page)
    page.get_by_role("link", name="Verify").click()
    hang_upside_down(page, "14")
    wait_for_minutes(page, 12)
    page.get_by_role("radio", name="1×", exact=True).click()
    capture(page)
    turn(page, "cylinder", "open")
    turn(page, "low side", "just cracked")
    page.get_by_text("a minute, liquid").wait_for()
    page.wait_for_timeout(25_000)
    shoot(page, "practice-bench")
    dark = open_page("orrin", dark=True)
    dark.goto(page.url.rsplit("/", 1)[0] + "/inside")
    dark.get_by_test_id("warmth").wait_for()
    shoot(dark, "practice-inside")
    page.wait_for_timeout(8_000)
    turn(page, "low side", "shut")
    turn(page, "cylinder", "shut")
    wait_for_minutes(page, 15)
    capture(page)
    wait_for_minutes(page, 32)
    capture(page)
    end(page)
    shoot(page, "practice-back")
