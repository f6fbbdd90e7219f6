"""A new unit with its charge shut in, from arrival to the printed record: two things answered for, the charge let back and made up by the scale."""

from typing import Any

import pytest
from playwright.sync_api import Page, expect

from e2e.acts import answered, begin_service, choose, closes_as, enter, leave_out, say_yes, verdict

SCREENS = [{"width": 1280, "height": 800}, {"width": 390, "height": 844, "dark": True}]
RUNNING = {"suction_pressure": "128", "suction_line": "54", "liquid_pressure": "372", "liquid_line": "102"}


def left_out(page: Page, reason: str, heading: str) -> None:
    leave_out(page, reason)
    page.get_by_role("heading", name=heading, exact=True).wait_for()


def there(page: Page, step: str, heading: str) -> None:
    page.goto(f"{page.url.rsplit('/', 1)[0]}/{step}")
    page.get_by_role("heading", name=heading, exact=True).wait_for()


@pytest.mark.parametrize("screen", SCREENS, ids=["desk", "phone-dark"])
def test_charge_let_back_and_two_things_answered_for(open_page: Any, screen: dict[str, Any]) -> None:
    page = open_page(**screen)
    begin_service(page)
    left_out(page, "new installation, never ran", "Leak search")
    left_out(page, "all new", "Recover")
    left_out(page, "nothing was in the lines", "Repair")

    there(page, "weigh_in", "Weigh in")
    choose(page, "system_state", "precharged")
    enter(page, "inside", "9 lb 4 oz")
    there(page, "repair", "Repair")
    for key, text in {"opened_for": "10 min"}.items():
        enter(page, key, text)
    choose(page, "joining", "flared")
    choose(page, "drier", "new")
    choose(page, "bulb", "placed")
    for key in ("at_zero", "drier_way", "drier_size", "cores"):
        say_yes(page, key)
    verdict(page, "Holds")
    page.get_by_role("button", name="Closed up: go on").click()
    page.get_by_role("heading", name="Pressure hold", exact=True).wait_for()
    answered(page, "roof to be cleared", "Evacuate", button="Close with a reason")
    answered(page, "pump is on another job", "Weigh in", button="Close with a reason")

    page.get_by_role("button", name="Refrigerant in or out").click()
    page.get_by_label("Its own charge let back").check()
    page.get_by_role("button", name="Valves are open: write it down").click()
    enter(page, "draws.d1.cylinder", "14")
    enter(page, "draws.d1.gross_start", "31 lb 0 oz")
    enter(page, "draws.d1.tare", "9 lb")
    expect(page.get_by_test_id("big-weight").first).to_contain_text("29lb14.0oz")
    enter(page, "draws.d1.gross_end", "29 lb 14 oz")
    verdict(page, "Holds")
    page.get_by_role("button", name="It is in: go to Verify").click()
    page.get_by_role("heading", name="Verify", exact=True).wait_for()
    choose(page, "mode", "cooling")
    enter(page, "run_in", "15 min")
    say_yes(page, "filter_ok")
    say_yes(page, "coils_ok")
    for key, text in RUNNING.items():
        enter(page, f"readings.r1.{key}", text)
    verdict(page, "Holds")
    page.get_by_role("button", name="Proven: go to Close out").click()

    page.get_by_role("heading", name="Close out", exact=True).wait_for()
    claims = page.get_by_role("region", name="What this job shows, and how")
    expect(claims).to_contain_text("2 answered for")
    expect(claims).to_contain_text("answers for it: roof to be cleared")
    closes_as(page, "proven")
    say_yes(page, "label_fixed")
    say_yes(page, "update_circuit")
    page.get_by_role("button", name="Close the job").click()
    expect(page.get_by_role("button", name="Correct this step")).to_be_visible()
    code = page.url.split("/job/")[1].split("/")[0]
    record = page.request.get(f"/api/jobs/{code}/record").text()
    for wanted in ("answers for it: pump is on another job", "Let back, valves opened", "Proven", "10 lb 6.0 oz"):
        assert wanted in record, wanted
    label = page.request.get(f"/api/jobs/{code}/label").text()
    assert "whole charge, with line set, proven" in label
