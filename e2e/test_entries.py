"""What becomes of entries: lost network, reload, an expired session, slips, refusals, two people, corrections."""

import re
from typing import Any

from playwright.sync_api import expect

from e2e.acts import closes_as, enter, field, fill_cylinder, fill_plate, fill_running, headline, new_job, say_yes, verdict
from e2e.device import on_device, saved


def test_network_cut_while_typing_reloaded_and_restored(open_page: Any) -> None:
    page = open_page(service_workers="allow")
    page.evaluate("() => navigator.serviceWorker.ready.then(() => true)")
    new_job(page, "Attic without signal")
    enter(page, "refrigerant", "R-410A")
    enter(page, "factory_charge", "9 lb 4 oz")
    saved(page)
    page.context.set_offline(True)
    enter(page, "included_length", "25 ft")
    field(page, "lines.l1.length").press_sequentially("55 f")
    expect(page.get_by_text("No signal since")).to_be_visible()
    on_device(page, "55 f")
    page.reload()
    expect(page.get_by_text("No signal since")).to_be_visible()
    expect(field(page, "included_length")).to_have_value("25 ft")
    expect(field(page, "lines.l1.length")).to_have_value("55 f")
    expect(page.get_by_test_id("big-weight")).to_contain_text("9lb4.0oz")
    field(page, "lines.l1.length").fill("55 ft")
    enter(page, "lines.l1.allowance", "0.6 oz/ft")
    page.context.set_offline(False)
    expect(page.get_by_test_id("big-weight")).to_contain_text("10lb6.0oz")
    saved(page)
    page.reload()
    expect(field(page, "lines.l1.length")).to_have_value("55 ft")


def test_an_expired_session_in_mid_entry_loses_nothing(open_page: Any) -> None:
    page = open_page()
    new_job(page, "Session runs out")
    enter(page, "refrigerant", "R-410A")
    saved(page)
    page.context.clear_cookies(name="sessionid")
    enter(page, "factory_charge", "9 lb 4 oz")
    expect(page.get_by_text("You were signed out")).to_be_visible()
    page.get_by_label("name").fill("orrin")
    page.get_by_label("password").fill("quillon-ridge")
    page.get_by_role("button", name="Sign in").click()
    expect(field(page, "factory_charge")).to_have_value("9 lb 4 oz")
    saved(page)
    expect(page.get_by_test_id("big-weight")).to_contain_text("9lb4.0oz")


def test_a_slip_is_asked_about_and_mended_at_a_tap(open_page: Any) -> None:
    page = open_page()
    new_job(page, "Slip")
    enter(page, "refrigerant", "R-410A")
    enter(page, "factory_charge_other", "201 oz")
    enter(page, "factory_charge", "12 lb 5 oz")
    expect(page.get_by_text("tenths of a pound are not ounces")).to_be_visible()
    verdict(page, "Open")
    page.get_by_role("button", name="Use 201 oz").click()
    expect(page.get_by_test_id("big-weight")).to_contain_text("12lb9.0oz")
    expect(page.get_by_text("tenths of a pound")).to_have_count(0)


def test_an_unlikely_value_is_asked_once_and_kept(open_page: Any) -> None:
    page = open_page()
    new_job(page, "Unlikely")
    enter(page, "lines.l1.length", "130 m")
    expect(page.get_by_text("is unusual")).to_be_visible()
    page.get_by_role("button", name="It is right, keep it").click()
    expect(page.get_by_text("is unusual")).to_have_count(0)
    saved(page)
    page.reload()
    expect(field(page, "lines.l1.length")).to_have_value("130 m")
    expect(page.get_by_text("is unusual")).to_have_count(0)


def test_a_refused_entry_stays_on_screen_with_its_reason_and_a_way_back(open_page: Any) -> None:
    page = open_page()
    new_job(page, "Refused")
    enter(page, "factory_charge", "9 lb 4 oz")
    saved(page)
    for typed, says in (
        ("9 lb 17 oz", "16 oz are 1 lb"),
        ("9,5 lb", "decimal sign"),
        ("abc", "not a weight"),
        ("99999 kg", "must be from"),
        ("-3 lb", "below zero"),
    ):
        enter(page, "factory_charge", typed)
        expect(page.get_by_role("alert").filter(has_text=says)).to_be_visible()
        expect(field(page, "factory_charge")).to_have_value(typed)
    page.get_by_role("button", name="Back to 9 lb 4 oz").click()
    expect(field(page, "factory_charge")).to_have_value("9 lb 4 oz")


def test_the_echo_says_how_a_weight_was_read_and_what_it_is_not(open_page: Any) -> None:
    page = open_page()
    new_job(page, "Echo")
    field(page, "factory_charge").press_sequentially("7 lb 11 oz")
    expect(page.get_by_text("read as 7.69 lb, 123.0 oz, 3.487 kg")).to_be_visible()
    expect(page.get_by_text("not 7.11 lb, which is 7 lb 1.8 oz")).to_be_visible()


def test_two_browsers_on_one_step_merge_and_ask(open_page: Any) -> None:
    orrin = open_page("orrin")
    new_job(orrin, "Two people")
    enter(orrin, "refrigerant", "R-410A")
    enter(orrin, "factory_charge", "7 lb 11 oz")
    enter(orrin, "included_length", "15 ft")
    enter(orrin, "lines.l1.allowance", "0.6 oz/ft")
    saved(orrin)
    vesk = open_page("vesk")
    vesk.goto(orrin.url)
    expect(field(vesk, "factory_charge")).to_have_value("7 lb 11 oz")
    vesk.context.set_offline(True)
    enter(vesk, "oil", "POE") if field(vesk, "oil").is_visible() else None
    enter(vesk, "lines.l1.length", "46 ft")
    enter(orrin, "subcooling_target", "10 °F")
    enter(orrin, "lines.l1.length", "52 ft")
    saved(orrin)
    vesk.context.set_offline(False)
    for page in (vesk, orrin):
        expect(page.get_by_text("Two values, both kept")).to_be_visible()
        expect(page.get_by_role("button", name=re.compile("Use 52 ft"))).to_be_visible()
        expect(page.get_by_role("button", name=re.compile("Use 46 ft"))).to_be_visible()
    expect(field(vesk, "subcooling_target")).to_have_value("10 °F")
    orrin.get_by_role("button", name=re.compile("Use 46 ft")).click()
    for page in (orrin, vesk):
        expect(page.get_by_text("Two values, both kept")).to_have_count(0)
        expect(field(page, "lines.l1.length")).to_have_value("46 ft")
        expect(page.get_by_test_id("big-weight")).to_contain_text("8lb13.6oz")


def test_a_closed_step_is_corrected_with_a_reason_and_shows_what_changed(open_page: Any) -> None:
    page = open_page()
    new_job(page, "Correction")
    fill_plate(page)
    page.get_by_role("button", name="Plate is right: go on").click()
    fill_cylinder(page)
    enter(page, "draws.d1.gross_end", "20 lb 14.4 oz")
    page.get_by_role("button", name="It is in: go to Verify").click()
    page.get_by_role("heading", name="Verify").wait_for()
    page.get_by_role("link", name=re.compile("^Identify")).click()
    expect(field(page, "factory_charge")).to_be_disabled()
    page.get_by_role("button", name="Correct this step").click()
    page.get_by_label("Reason, kept in the record").fill("line paced again")
    page.get_by_role("button", name="Open it again").click()
    enter(page, "lines.l1.length", "60 ft")
    page.get_by_role("button", name="Plate is right: go on").click()
    expect(page.get_by_text("Changed since closing.")).to_be_visible()
    verdict(page, "Wait")


def test_a_tap_is_not_lost_when_the_page_moves_under_it(open_page: Any) -> None:
    page = open_page()
    new_job(page, "Moving page")
    fill_plate(page)
    button = page.get_by_role("button", name="Plate is right: go on")
    expect(button).to_be_enabled()
    button.scroll_into_view_if_needed()
    button.evaluate(
        "b => b.addEventListener('mousedown', () => { b.style.transform = 'translateY(-90px)'; }, { once: true })",
    )
    box = button.bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.down()
    page.wait_for_timeout(120)
    page.mouse.up()
    page.get_by_role("heading", name="Weigh in").wait_for()


def test_an_orifice_unit_is_trimmed_in_one_bounded_step(open_page: Any) -> None:
    page = open_page("pell")
    page.get_by_text("Staff quarters heat pump").first.click()
    expect(page.get_by_test_id("big-weight").first).to_contain_text("4.8oz")
    expect(page.get_by_test_id("band-superheat")).to_contain_text("target 13.0 °F ± 5.0 °F")
    verdict(page, "Wait")
    page.get_by_role("button", name="Why this target").click()
    expect(page.get_by_text("return wet bulb, three times")).to_be_visible()
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Add on the scale").click()
    enter(page, "readings.r2.gross_before", "18 lb 8 oz")
    expect(page.get_by_test_id("close-at")).to_contain_text("18 lb 3.2 oz")
    readings = {
        "gross_after": "18 lb 3.2 oz",
        "suction_pressure": "118 psig",
        "suction_line": "52 °F",
        "liquid_pressure": "335 psig",
        "liquid_line": "93 °F",
        "outdoor": "95 °F",
        "return_wet_bulb": "67 °F",
    }
    for key, text in readings.items():
        enter(page, f"readings.r2.{key}", text)
    verdict(page, "Holds")
    expect(page.get_by_role("table")).to_contain_text("6 lb 4.8 oz")


def test_a_method_out_of_range_is_refused_with_what_to_do(open_page: Any) -> None:
    page = open_page("pell")
    page.get_by_text("Staff quarters heat pump").first.click()
    enter(page, "readings.r1.return_wet_bulb", "60 °F")
    enter(page, "readings.r1.outdoor", "110 °F")
    expect(headline(page)).to_contain_text("Weigh it in, use the unit’s own chart".replace("’", "'"))
    expect(page.get_by_text("Outdoor air 110.0 °F is over 100.0 °F")).to_be_visible()
    expect(page.get_by_text("too little to tell from liquid coming back")).to_be_visible()


def test_readings_that_cannot_be_are_named_at_their_field(open_page: Any) -> None:
    page = open_page("pell")
    page.get_by_text("Staff quarters heat pump").first.click()
    enter(page, "readings.r1.suction_pressure", "400 psig")
    expect(page.get_by_role("alert").filter(has_text="hoses or the two entries are swapped")).to_be_visible()
    enter(page, "readings.r1.suction_pressure", "110 psig")
    enter(page, "readings.r1.suction_line", "95 °F")
    enter(page, "readings.r1.liquid_line", "61 °F")
    expect(page.get_by_role("alert").filter(has_text="clamps look swapped")).to_be_visible()


def test_by_keyboard_alone_on_a_desk(open_page: Any) -> None:
    page = open_page()
    keys = page.keyboard

    def to(name: str, role: str = "button") -> None:
        for _ in range(60):
            keys.press("Tab")
            if page.evaluate("() => document.activeElement.innerText ?? ''").strip().startswith(name):
                return
        raise AssertionError(f"{name} is not reached by Tab")

    def tab_to(key: str) -> None:
        for _ in range(80):
            if page.evaluate("() => document.activeElement.closest('[data-field]')?.dataset.field ?? ''") == key:
                return
            keys.press("Tab")
        raise AssertionError(f"{key} is not reached by Tab")

    to("New job")
    keys.press("Enter")
    page.get_by_role("heading", name="New job").wait_for()
    page.get_by_label("name of the job").focus()
    keys.type("By keyboard")
    to("Charge only")
    keys.press("Enter")
    page.get_by_role("heading", name="Identify").wait_for()
    for key, text in {"refrigerant": "R-410A", "factory_charge": "9 lb 4 oz", "included_length": "25 ft"}.items():
        tab_to(key)
        keys.type(text)
        keys.press("Enter")
    tab_to("metering")
    keys.type("TXV")
    for key, text in {"lines.l1.length": "55 ft", "lines.l1.allowance": "0.6 oz/ft"}.items():
        tab_to(key)
        keys.type(text)
    to("Add a part")
    keys.press("Enter")
    page.locator('[data-field="parts.p1.charge"]').wait_for()
    keys.press("Shift+Tab")
    tab_to("parts.p1.charge")
    keys.type("1.5 oz")
    expect(page.get_by_test_id("big-weight")).to_contain_text("10lb7.5oz")
    to("Plate is right")
    keys.press("Enter")
    page.get_by_role("heading", name="Weigh in").wait_for()
    tab_to("system_state")
    keys.type("emp")
    for key, text in {"gross_start": "31 lb 6.5 oz", "tare": "9 lb", "hose_loss": "0.6 oz"}.items():
        tab_to(f"draws.d1.{key}")
        keys.type(text)
    expect(headline(page)).to_have_text("Close the valve when the scale reads 20 lb 14.4 oz.")
    tab_to("draws.d1.gross_end")
    keys.type("20 lb 14.4 oz")
    keys.press("Tab")
    expect(page.get_by_role("button", name="It is in: go to Verify")).to_be_enabled()
    to("It is in")
    keys.press("Enter")
    page.get_by_role("heading", name="Verify").wait_for()
    for key, text in {"suction_pressure": "128", "suction_line": "54", "liquid_pressure": "372", "liquid_line": "102"}.items():
        tab_to(f"readings.r1.{key}")
        keys.type(text)
    tab_to("mode")
    keys.type("cool")
    tab_to("run_in")
    keys.type("15")
    for key in ("filter_ok", "coils_ok"):
        tab_to(key)
        keys.press("Space")
    verdict(page, "Holds")
    keys.press("Alt+1")
    page.get_by_role("heading", name="Identify").wait_for()
    keys.press("Alt+t")
    page.get_by_role("button", name="New job").wait_for()
    keys.press("?")
    expect(page.get_by_role("heading", name="Keys")).to_be_visible()


def test_units_change_what_is_large_and_never_what_is_stored(open_page: Any) -> None:
    page = open_page()
    page.get_by_text("Control room, circuit 1").first.click()
    expect(page.get_by_test_id("big-weight")).to_contain_text("20lb14.4oz")
    page.get_by_role("button", name=re.compile("^Units")).click()
    expect(page.get_by_test_id("big-weight")).to_contain_text("9.480kg")
    expect(field(page, "draws.d1.gross_start")).to_have_value("31 lb 6.5 oz")
    page.reload()
    expect(page.get_by_test_id("big-weight")).to_contain_text("9.480kg")


def test_the_scale_mark_counts_down_at_a_tap_and_why_shows_the_formula(open_page: Any) -> None:
    page = open_page()
    page.get_by_text("Control room, circuit 1").first.click()
    page.get_by_role("radio", name="From zero").first.click()
    expect(page.get_by_test_id("big-weight")).to_contain_text("−10lb8.1oz")
    page.get_by_role("button", name="Why counted down from zero").click()
    dialog = page.get_by_role("dialog")
    for text in ("31 lb 6.5 oz", "10 lb 7.5 oz", "0.6 oz", "20 lb 14.4 oz", "Source", "Rule"):
        expect(dialog).to_contain_text(text)


def test_the_whole_job_from_a_known_circuit_needs_no_plate(open_page: Any) -> None:
    page = open_page()
    page.get_by_role("button", name="New job").click()
    page.get_by_label("circuit", exact=True).select_option(label="Quillon Ridge Observatory: Control room, circuit 1")
    page.get_by_role("button", name="Charge only: it is empty already").click()
    expect(page.get_by_test_id("big-weight")).to_contain_text("10lb6.0oz")
    enter(page, "serial", "QR-0417-B")
    page.get_by_role("button", name="Plate is right: go on").click()
    fill_cylinder(page)
    enter(page, "draws.d1.gross_end", "21 lb 0 oz")
    page.get_by_role("button", name="It is in: go to Verify").click()
    page.get_by_role("heading", name="Verify").wait_for()
    fill_running(page)
    verdict(page, "Holds")
    page.get_by_role("button", name="Proven: go to Close out").click()
    closes_as(page, "proven")
    say_yes(page, "label_fixed")
    expect(page.get_by_text("Serial: on record")).to_contain_text("in this job QR-0417-B.")
    verdict(page, "Open")
    say_yes(page, "update_circuit")
    verdict(page, "Holds")


def test_the_last_change_is_undone_by_a_new_entry(open_page: Any) -> None:
    """A figure typed over, a part taken away: each comes back as it was, and the history keeps all of it."""
    page = open_page()
    new_job(page, "Undone")
    fill_plate(page)
    saved = page.get_by_test_id("saved")
    enter(page, "factory_charge", "12 lb")
    expect(saved).to_contain_text("Undo")
    saved.get_by_role("button", name="Undo").click()
    expect(field(page, "factory_charge")).to_have_value("9 lb 4 oz")
    expect(headline(page)).to_contain_text("10 lb 7.5 oz")
    page.get_by_role("button", name="Remove part p1").click()
    expect(headline(page)).to_contain_text("10 lb 6.0 oz")
    saved.get_by_role("button", name="Undo").click()
    expect(field(page, "parts.p1.charge")).to_have_value("1.5 oz")
    expect(headline(page)).to_contain_text("10 lb 7.5 oz")
    code = page.url.split("/job/")[1].split("/")[0]
    typed = [line["payload"].get("accepted", {}) for line in page.request.get(f"/api/jobs/{code}/history").json()]
    assert sum("/steps/identify/runs/0/sheet/factory_charge" in accepted for accepted in typed) == 3
