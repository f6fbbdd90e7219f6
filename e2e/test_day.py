"""The day on the clock, as a technician reads it."""

from datetime import datetime, timedelta
from typing import Any

from playwright.sync_api import expect


def work_now(page: Any) -> None:
    """Whoever tries the plan at night or on a Sunday works now."""
    page.get_by_test_id("day").wait_for()
    said = page.get_by_role("button", name="I work now: plan from now on")
    if said.is_visible():
        said.click()


def test_everybodys_day_is_the_leads(open_page: Any) -> None:
    page = open_page("vesk", first="/")
    day = page.get_by_role("region", name="The day")
    day.get_by_text("Everybody's").click()
    work_now(page)
    expect(day).to_contain_text("M. Orrin")
    expect(day).to_contain_text("J. Pell")


def test_the_day_says_what_is_proven_what_is_left_safe_and_keeps_what_is_left_out(open_page: Any) -> None:
    page = open_page("pell", first="/")
    leave = (datetime.now() + timedelta(hours=5)).strftime("%H:%M")
    page.get_by_label("the van leaves at").fill(leave)
    page.keyboard.press("Enter")
    work_now(page)
    said = page.get_by_test_id("day")
    expect(said).to_contain_text("proven")
    day = page.get_by_role("region", name="The day")
    expect(day).to_contain_text("Staff quarters heat pump")
    expect(day.get_by_text("Shared kit:")).to_be_visible()
    expect(day).to_contain_text("another has it to")
    day.get_by_role("button", name="as a chart").click()
    expect(day.get_by_role("img", name="runs alone").first).to_be_visible()
    day.get_by_role("button", name="as a list").click()
    day.get_by_role("button", name="move: Staff quarters heat pump").click()
    page.get_by_role("button", name="Not today", exact=True).click()
    expect(day.get_by_role("button", name="Staff quarters heat pump, take it in")).to_be_visible()
    expect(day.get_by_text("Everybody's")).to_have_count(0)
    page.reload()
    expect(page.get_by_label("the van leaves at")).to_have_value(leave)
    expect(day.get_by_role("button", name="Staff quarters heat pump, take it in")).to_be_visible()
