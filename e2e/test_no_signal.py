"""No signal, same judgement: a job begun, judged, closed and printed on the device alone, and what becomes of it at the office."""

import re
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from e2e.acts import choose, closes_as, enter, field, fill_cylinder, fill_plate, headline, new_job, say_yes, verdict
from e2e.device import on_device, saved

HOUR = timedelta(hours=1)
AN_HOUR_AHEAD = """(() => {
  const True = Date;
  const now = () => True.now() + 3600000;
  globalThis.Date = class extends True {
    constructor(...given) { given.length ? super(...given) : super(now()); }
    static now() { return now(); }
  };
})()"""
READY_MS = 120_000  # the rules are unpacked and started in a browser on a machine that others use too


def made_ready(page: Page) -> None:
    """The rules and the open jobs brought onto the device, as a person does it in the morning."""
    page.evaluate("() => navigator.serviceWorker.ready.then(() => true)")
    page.goto("/account")
    page.get_by_role("button", name=re.compile("Get this device ready")).click()
    expect(page.get_by_test_id("ready")).to_contain_text("Ready without signal, as of", timeout=READY_MS)
    expect(page.get_by_test_id("ready")).not_to_contain_text("Not all of it")


ORIFICE_SPLIT = {
    "refrigerant": "r410a",
    "factory_charge": "6 lb",
    "included_length": "25 ft",
    "altitude": "0 m",
    "lines.l1.length": "55 ft",
    "lines.l1.allowance": "0.6 oz/ft",
    "lines.l1.liquid_od": "3/8 in",
    "lines.l1.suction_od": "7/8 in",
}
AT_THE_TARGET = {
    "suction_pressure": "118",
    "suction_line": "52",
    "liquid_pressure": "335",
    "liquid_line": "93",
    "outdoor": "95",
    "return_wet_bulb": "67",
}


def reopened(page: Page) -> Page:
    """The tab is closed, and a new one is opened where it stood: a dead battery."""
    url, context = page.url, page.context
    page.close()
    again: Page = context.new_page()
    again.goto(url)
    expect(again.get_by_test_id("judged-by")).to_contain_text("This device works it out", timeout=READY_MS)
    return again


def by_the_clock(text: str) -> datetime:
    return datetime.fromisoformat(text)


def test_an_orifice_split_without_signal_by_a_clock_an_hour_ahead_and_the_office_takes_it(open_page: Any) -> None:
    page = open_page(width=390, height=844, service_workers="allow")
    page.context.add_init_script(AN_HOUR_AHEAD)
    page.reload()
    made_ready(page)
    page.goto("/")
    page.get_by_role("button", name="New job").wait_for()
    arrived = datetime.now(UTC)
    page.context.set_offline(True)
    page.reload()
    expect(page.get_by_role("region", name="On this device")).to_be_visible()
    expect(page.get_by_test_id("clock-off")).to_contain_text("This device's clock is 60 min ahead.")
    new_job(page, "Basement at the Fell house")
    expect(page.get_by_test_id("judged-by")).to_contain_text("This device works it out", timeout=READY_MS)
    for key, text in ORIFICE_SPLIT.items():
        enter(page, key, text)
    choose(page, "metering", "orifice")
    choose(page, "kind", "split")
    choose(page, "gauge_reference", "vented")
    expect(headline(page)).to_have_text("The whole system takes 7 lb 2.0 oz ± 2.4 oz.")
    page = reopened(page)
    page.get_by_role("button", name="Plate is right: go on").click()
    page.get_by_role("heading", name="Weigh in").wait_for()
    expect(page.get_by_text("Identify is asked to be closed.")).to_be_visible()
    fill_cylinder(page)
    expect(headline(page)).to_contain_text("Close the valve when the scale reads")
    shut_at = headline(page).inner_text().partition("reads ")[2].rstrip(".")
    enter(page, "draws.d1.gross_end", shut_at)
    verdict(page, "Holds")
    page = reopened(page)
    expect(field(page, "draws.d1.gross_end")).to_have_value(shut_at)
    page.get_by_role("button", name="It is in: go to Verify").click()
    page.get_by_role("heading", name="Verify").wait_for()
    choose(page, "mode", "cooling")
    enter(page, "run_in", "15 min")
    say_yes(page, "filter_ok")
    say_yes(page, "coils_ok")
    for key, text in AT_THE_TARGET.items():
        enter(page, f"readings.r1.{key}", text)
    expect(page.get_by_test_id("band-superheat")).to_contain_text("target")
    verdict(page, "Holds")
    page = reopened(page)
    page.get_by_role("button", name="Proven: go to Close out").click()
    page.get_by_role("heading", name="Close out").wait_for()
    closes_as(page, "proven")
    say_yes(page, "label_fixed")
    verdict(page, "Holds")
    page.get_by_role("button", name="Print the record").click()
    paper = page.frame_locator("iframe[title=record]")
    expect(paper.get_by_text("7 lb 2.0 oz").first).to_be_visible()
    expect(paper.get_by_text("Basement at the Fell house").first).to_be_visible()
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
    assert (row.closed, row.title, row.technician) == (True, "Basement at the Fell house", "M. Orrin")
    assert [(m.kind, round(m.mass_kg, 3)) for m in Movement.objects.filter(job_code=code, kind="charge")]
    expect(page.get_by_text("The office says otherwise")).to_have_count(0)
    typed = sorted(row.document["begun"].values(), key=lambda begun: begun["at"])
    assert by_the_clock(row.document["visits"][0]["started_at"]) <= by_the_clock(typed[0]["at"])
    for begun in typed:  # when it was, and what the device showed then
        assert arrived <= by_the_clock(begun["at"]) <= datetime.now(UTC)
        assert by_the_clock(begun["device_at"]) - by_the_clock(begun["at"]) == pytest.approx(HOUR, abs=timedelta(seconds=2))


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


def test_two_tabs_without_signal_send_what_either_typed_once(open_page: Any) -> None:
    one = open_page(service_workers="allow")
    made_ready(one)
    one.goto("/")
    new_job(one, "Two tabs")
    enter(one, "refrigerant", "r410a")
    saved(one)
    code = one.url.split("/job/")[1].split("/")[0]
    other: Page = one.context.new_page()
    other.goto(one.url)
    expect(field(other, "refrigerant")).to_have_value("R-410A")
    one.context.set_offline(True)
    enter(one, "factory_charge", "9 lb 4 oz")
    enter(other, "included_length", "25 ft")
    choose(other, "metering", "txv")
    for tab in (one, other):
        expect(tab.get_by_test_id("judged-by")).to_contain_text("This device works it out", timeout=READY_MS)
    on_device(one, "25 ft")
    other.close()  # and what it typed stays
    one.context.set_offline(False)
    one.get_by_role("button", name="Try now").click()
    saved(one)

    from jobs.models import Job  # noqa: PLC0415 - after Django is set up

    row = Job.objects.get(code=code)
    sheet = row.document["steps"]["identify"]["runs"][0]["sheet"]
    assert (sheet["factory_charge"]["text"], sheet["included_length"]["text"], sheet["metering"]) == ("9 lb 4 oz", "25 ft", "txv")
    said = [path.rpartition("/")[2] for line in row.changes.all() for path in line.payload.get("accepted", {})]
    assert sorted(said) == ["factory_charge", "included_length", "metering", "refrigerant"]
    expect(field(one, "included_length")).to_have_value("25 ft")


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
