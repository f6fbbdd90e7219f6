"""From the comparison to a labelled unit: another refrigerant in a demo split, every step on the screen."""

from typing import Any

from playwright.sync_api import Page, expect

from e2e.acts import answered, choose, closes_as, enter, field, headline, leave_out, say_yes, verdict

READINGS = {
    "suction_pressure": "72.6 psig",
    "suction_line": "54.1 °F",
    "liquid_pressure": "222.4 psig",
    "liquid_line": "90.4 °F",
    "outdoor": "84 °F",
    "return_wet_bulb": "62 °F",
}


def go_on(page: Page, button: str, heading: str) -> None:
    page.get_by_role("button", name=button).click()
    page.get_by_role("heading", name=heading, exact=True).wait_for()


def test_from_comparison_to_labelled_unit(open_page: Any) -> None:
    page = open_page("orrin")
    page.goto("/systems")
    page.get_by_role("navigation", name="Systems").get_by_role("link", name="Annex split").click()
    page.get_by_role("link", name="Compare other refrigerants").click()
    page.get_by_role("button", name="R-407C").click()
    slider = page.get_by_role("slider", name="condensing, mean")
    slider.focus()
    slider.press("ArrowLeft")
    slider.press("ArrowRight")
    page.get_by_role("button", name="Make it the job: R-407C").click()

    page.get_by_role("heading", name="Identify").wait_for()
    choose(page, "pairing_by", "switched")
    enter(page, "orifice", "0.070")
    go_on(page, "Plate is right: go on", "As found")
    leave_out(page, "it does not run")
    page.get_by_role("heading", name="Plan the change").wait_for()
    expect(field(page, "refrigerant")).to_have_value("R-407C")
    expect(page.get_by_test_id("big-weight")).to_contain_text("7lb7.4oz")
    enter(page, "refrigerant", "R-410A")
    expect(page.get_by_test_id("stops")).to_contain_text("395.6 psig on the worst day, and the plate says 300.0 psig.")
    enter(page, "refrigerant", "R-407C")
    say_yes(page, "approved")
    verdict(page, "Holds")
    go_on(page, "Planned: go on", "Leak search")
    leave_out(page, "a loose core was found")

    page.get_by_role("heading", name="Recover").wait_for()
    choose(page, "way", "cylinder")
    page.get_by_label("from the book").select_option("R4")
    enter(page, "cylinders.c1.gross_start", "27 lb 2 oz")
    for key in ("fan_on", "valves_open", "compressor_runs"):
        say_yes(page, key)
    enter(page, "cylinders.c1.gross_now", "33 lb 4 oz")
    say_yes(page, "finished")
    for key, text in {"end_pressure": "-4 psig", "waited": "6 min", "risen_to": "-3.5 psig"}.items():
        enter(page, key, text)
    choose(page, "use", "reuse")
    expect(headline(page)).to_contain_text("This system gets another refrigerant")
    choose(page, "use", "new")
    go_on(page, "It is out: go on", "Repair")

    enter(page, "opened_for", "10 min")
    choose(page, "joining", "flared")
    choose(page, "drier", "new")
    for key in ("drier_way", "drier_size", "cores"):
        say_yes(page, key)
    answered(page, "some of it was gone, no place found", "Change over")

    enter(page, "oil_grade", "POE 32")
    enter(page, "oil_system", "1.2 L")
    page.get_by_role("button", name="The oil was changed").click()
    for number in (1, 2, 3):
        enter(page, f"oil_changes.o{number}.drained", "0.9 L")
        enter(page, f"oil_changes.o{number}.filled", "0.9 L")
        if number > 1:
            say_yes(page, f"oil_changes.o{number}.mixed")
        expect(page.get_by_test_id("old-oil")).to_contain_text({1: "25.0 %", 2: "6.2 %", 3: "1.6 %"}[number])
        if number < 3:
            page.get_by_role("button", name="Another change").click()
    enter(page, "orifice", "0.070")
    page.get_by_role("button", name="A control works by pressure").click()
    choose(page, "controls.k1.kind", "low_cut_out")
    enter(page, "controls.k1.was", "25 psig")
    expect(page.get_by_test_id("wanted-k1")).to_contain_text("24.2 psig")
    enter(page, "controls.k1.set_to", "24 psig")
    say_yes(page, "seals")
    say_yes(page, "tagged")
    expect(page.get_by_test_id("tag")).to_contain_text("Never top up with R-22.")
    verdict(page, "Holds")
    go_on(page, "Changed over: go on", "Pressure hold")
    leave_out(page, "held by the shop, its sheet is kept")
    page.get_by_role("heading", name="Evacuate").wait_for()
    leave_out(page, "pulled by the shop, its sheet is kept")

    page.get_by_role("heading", name="Weigh in").wait_for()
    page.get_by_label("from the book").select_option("C7")
    enter(page, "draws.d1.gross_start", "23 lb 9.9 oz")
    enter(page, "draws.d1.hose_loss", "0 oz")
    expect(page.get_by_test_id("big-weight").first).to_contain_text("16lb2.5oz")
    enter(page, "draws.d1.gross_end", "16 lb 2.5 oz")
    go_on(page, "It is in: go to Verify", "Verify")

    choose(page, "mode", "cooling")
    enter(page, "run_in", "20 min")
    for key in ("filter_ok", "coils_ok", "doors_ok", "load_ok"):
        if page.locator(f'[data-field="{key}"]').count():
            say_yes(page, key)
    for key, text in READINGS.items():
        enter(page, f"readings.r1.{key}", text)
    expect(page.get_by_test_id("before-after")).to_contain_text("R-407C")
    verdict(page, "Holds")
    go_on(page, "Proven: go to Close out", "Close out")
    closes_as(page, "proven")
    say_yes(page, "label_fixed")
    expect(page.get_by_text("on record R-22, in this job R-407C")).to_be_visible()
    verdict(page, "Holds")
    page.get_by_role("button", name="Close the job").click()
    expect(page.get_by_role("button", name="Correct this step")).to_be_visible()

    code = page.url.split("/job/")[1].split("/")[0]
    label = page.request.get(f"{page.url.split('/job/')[0]}/api/jobs/{code}/label").text()
    assert "R-407C" in label
    assert "Changed from R-22 · oil POE 32 · never top up with R-22" in label
    page.goto("/systems")
    page.get_by_role("navigation", name="Systems").get_by_role("link", name="Annex split").click()
    expect(page.locator("header").filter(has_text="AX-1")).to_contain_text("R-407C")
    expect(page.get_by_role("region", name="The record over time")).to_contain_text("changed from R-22 to R-407C")
    page.goto("/cylinders/R4")
    expect(page.get_by_role("table")).to_contain_text("+ 6 lb 2.0 oz")
    expect(page.locator("main")).to_contain_text("R-22")
