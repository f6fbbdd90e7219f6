"""No signal, same judgement: a job begun, judged, closed and printed on the device alone, and what becomes of it at the office."""

import re
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from e2e.acts import closes_as, enter, field, fill_cylinder, fill_plate, fill_running, headline, new_job, say_yes, verdict
from e2e.device import on_device, saved

READY_MS = 120_000  # the rules are unpacked and started in a browser on a machine that others use too


def made_ready(page: Page) -> None:
    """The rules and the open jobs brought onto the device, as a person does it in the morning."""
    page.evaluate("() => navigator.serviceWorker.ready.then(() => true)")
    page.goto("/account")
    page.get_by_role("button", name=re.compile("Get this device ready")).click()
    expect(page.get_by_test_id("ready")).to_contain_text("Ready without signal, as of", timeout=READY_MS)
    expect(page.get_by_test_id("ready")).not_to_contain_text("Not all of it")


def test_a_whole_charge_without_signal_and_the_office_takes_it(open_page: Any) -> None:
    page = open_page(width=390, height=844, service_workers="allow")
    made_ready(page)
    page.goto("/")
    page.get_by_role("button", name="New job").wait_for()
    page.context.set_offline(True)
    page.reload()
    expect(page.get_by_role("region", name="On this device")).to_be_visible()
    new_job(page, "Basement at 2,100 m")
    expect(page.get_by_test_id("judged-by")).to_contain_text("This device works it out", timeout=READY_MS)
    fill_plate(page)
    expect(headline(page)).to_have_text("The whole system takes 10 lb 7.5 oz ± 2.4 oz.")
    page.get_by_role("button", name="Plate is right: go on").click()
    page.get_by_role("heading", name="Weigh in").wait_for()
    expect(page.get_by_text("Identify is asked to be closed.")).to_be_visible()
    fill_cylinder(page)
    expect(page.get_by_test_id("big-weight")).to_contain_text("20lb14.4oz")
    enter(page, "draws.d1.gross_end", "20 lb 14.4 oz")
    verdict(page, "Holds")
    page.reload()  # a dead battery
    expect(page.get_by_test_id("judged-by")).to_contain_text("This device works it out", timeout=READY_MS)
    expect(field(page, "draws.d1.gross_end")).to_have_value("20 lb 14.4 oz")
    page.get_by_role("button", name="It is in: go to Verify").click()
    page.get_by_role("heading", name="Verify").wait_for()
    fill_running(page)
    verdict(page, "Holds")
    page.get_by_role("button", name="Proven: go to Close out").click()
    page.get_by_role("heading", name="Close out").wait_for()
    closes_as(page, "proven")
    say_yes(page, "label_fixed")
    verdict(page, "Holds")
    page.get_by_role("button", name="Print the record").click()
    paper = page.frame_locator("iframe[title=record]")
    expect(paper.get_by_text("10 lb 7.5 oz").first).to_be_visible()
    expect(paper.get_by_text("Basement at 2,100 m").first).to_be_visible()
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Close the job").click()
    expect(page.get_by_text("Asked. It stands when the office has it.")).to_be_visible()
    code = page.url.split("/job/")[1].split("/")[0]

    from cylinders.models import Movement  # noqa: PLC0415 - after Django is set up
    from jobs.models import Job  # noqa: PLC0415

    assert not Job.objects.filter(code=code).exists()
    page.context.set_offline(False)
    page.get_by_role("button", name="Try now").click()
    expect(page.get_by_text("Asked. It stands when the office has it.")).to_have_count(0)
    saved(page)
    row = Job.objects.get(code=code)
    assert (row.closed, row.title, row.technician) == (True, "Basement at 2,100 m", "M. Orrin")
    assert [(m.kind, round(m.mass_kg, 3)) for m in Movement.objects.filter(job_code=code, kind="charge")]
    visit = row.document["visits"][0]
    typed = min(begun["at"] for begun in row.document["begun"].values())
    assert visit["started_at"] <= typed
    expect(page.get_by_text("The office says otherwise")).to_have_count(0)


def test_a_quick_total_a_look_up_a_chart_and_a_comparison_without_signal(open_page: Any) -> None:
    page = open_page(service_workers="allow")
    made_ready(page)
    with page.expect_response(re.compile("pressure=200")):
        at_200_psig(page)
    by_office = settled(page)
    known = page.request.get("/api/device").json()["circuits"]
    circuit = next(one["id"] for one in known if one["circuit"]["plate"].get("refrigerant") == "R-410A")
    page.goto(f"/systems/{circuit}/retrofit")
    expect(page.get_by_role("heading", name="What can replace R-410A here")).to_be_visible()
    compared = settled(page)
    page.goto("/")
    page.get_by_role("button", name="New job").wait_for()
    page.context.set_offline(True)
    page.get_by_role("button", name="Quick total").click()
    page.get_by_role("heading", name="Quick total").wait_for(timeout=READY_MS)
    for key, text in {
        "refrigerant": "R-410A",
        "factory_charge": "7 lb 8 oz",
        "included_length": "15 ft",
        "lines.l1.length": "42 ft",
    }.items():
        enter(page, key, text)
    enter(page, "lines.l1.allowance", "0.6 oz/ft")
    expect(page.get_by_test_id("big-weight").first).to_contain_text("8lb8.2oz")
    enter(page, "factory_charge", "7 lb 17 oz")
    expect(page.get_by_role("alert").filter(has_text="16 oz are 1 lb")).to_be_visible()
    at_200_psig(page)
    expect(page.locator("main")).to_have_text(by_office, use_inner_text=True, timeout=READY_MS)
    page.goto(f"/systems/{circuit}/retrofit")
    expect(page.locator("main")).to_have_text(compared, use_inner_text=True, timeout=READY_MS)


def settled(page: Page) -> str:
    """What the page says once it says the same for a second, with nothing under way."""
    page.wait_for_load_state("networkidle")
    said, before = page.locator("main").inner_text(), ""
    while said != before:
        page.wait_for_timeout(1_000)
        said, before = page.locator("main").inner_text(), said
    return said


def at_200_psig(page: Page) -> None:
    """The page of a refrigerant at 200 psig, with its chart."""
    page.goto("/refrigerants/R-454B")
    page.get_by_label("pressure", exact=False).first.fill("200")
    expect(page.locator("main svg").first).to_be_visible()


def test_two_devices_that_both_went_on_are_shown_side_by_side(open_page: Any) -> None:
    phone, tablet = open_page(service_workers="allow"), open_page("vesk")
    made_ready(phone)
    phone.goto("/")
    new_job(phone, "Two devices")
    fill_plate(phone)
    saved(phone)
    tablet.goto(phone.url)
    expect(field(tablet, "lines.l1.length")).to_have_value("55 ft")
    phone.context.set_offline(True)
    enter(phone, "lines.l1.length", "42 ft")
    on_device(phone, "42 ft")
    expect(phone.get_by_test_id("judged-by")).to_contain_text("This device works it out", timeout=READY_MS)
    phone.get_by_role("button", name="Plate is right: go on").click()
    expect(phone.get_by_text("Identify is asked to be closed.")).to_be_visible()
    enter(tablet, "lines.l1.length", "45 ft")
    saved(tablet)
    phone.context.set_offline(False)
    phone.get_by_role("button", name="Try now").click()
    both = phone.get_by_role("region", name=re.compile("Two answers for"))
    expect(both.get_by_role("button", name="Keep 42 ft")).to_be_visible()
    expect(both.get_by_text("9 lb 15.7 oz")).to_be_visible()
    both.get_by_role("button", name="Keep 45 ft").click()
    expect(both).to_have_count(0)
    saved(phone)
    phone.get_by_role("link", name=re.compile("^Identify")).click()
    expect(phone.get_by_role("button", name="Correct this step")).to_be_visible()
    expect(field(phone, "lines.l1.length")).to_have_value("45 ft")


@pytest.mark.parametrize("way", ["sign out", "take off"])
def test_the_rules_and_the_jobs_go_from_the_device_again(open_page: Any, way: str) -> None:
    page = open_page(service_workers="allow")
    made_ready(page)
    if way == "take off":
        page.get_by_role("button", name="Take the rules off this device").click()
        expect(page.get_by_role("button", name=re.compile("Get this device ready"))).to_be_visible()
        assert page.evaluate("async () => (await (await caches.open('yoshi-engine')).keys()).length") == 0
        return
    page.get_by_role("button", name=re.compile("menu$")).click()
    page.get_by_role("menuitem", name="Sign out").click()
    page.get_by_role("button", name="Sign in").wait_for()
    kept = page.evaluate(
        """async () => new Promise((done) => { const open = indexedDB.open('keyval-store'); open.onsuccess = () => {
          const all = open.result.transaction('keyval').objectStore('keyval').getAllKeys();
          all.onsuccess = () => { done(all.result.filter((name) => name.includes('/answer/')).length); open.result.close(); }; }; })"""
    )
    assert kept == 0
