"""From arrival to recovered and booked: gauges, causes, the leak, the cylinder and its book; and the screens around it."""

from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import expect

from e2e.acts import begin_service, choose, enter, field, headline, say_yes, verdict
from tasks.queue import run_all

DESK, PHONE = {"width": 1280, "height": 800}, {"width": 390, "height": 844, "dark": True}
AS_FOUND = {
    "standing_pressure": "209 psig",
    "standing_cold": "72 °F",
    "suction_pressure": "101 psig",
    "suction_line": "62 °F",
    "liquid_pressure": "316 psig",
    "liquid_line": "97 °F",
    "outdoor": "88 °F",
    "return_air": "76 °F",
    "return_wet_bulb": "62 °F",
    "supply": "60 °F",
}


@pytest.mark.parametrize("screen", [DESK, PHONE], ids=["desk", "phone-dark"])
def test_from_arrival_to_recovered_and_booked(open_page: Any, screen: dict[str, Any]) -> None:
    page = open_page(**screen)
    begin_service(page)
    choose(page, "running", "settled")
    choose(page, "mode", "cooling")
    enter(page, "run_time", "18 min")
    for key, text in AS_FOUND.items():
        enter(page, key, text)
    expect(page.get_by_test_id("derived-superheat")).to_contain_text("31.7 °F")
    expect(page.get_by_test_id("cause-undercharge")).to_contain_text("fits best")
    expect(headline(page)).to_have_text("What fits best: charge is short.")
    page.get_by_role("button", name="Seen: go on").click()

    page.get_by_role("heading", name="Leak search").wait_for()
    choose(page, "inside", "refrigerant")
    here = page.locator("main section section").filter(has=page.get_by_role("button", name="Leak here"))
    expect(here).to_contain_text("Number 1 to look at")
    expect(here).to_contain_text("electronic")
    page.get_by_role("button", name="Clean, electronic").click()
    expect(page.get_by_test_id("headline")).to_contain_text("Next:")
    page.get_by_role("button", name="Leak here").click()
    expect(headline(page)).to_contain_text("A second method decides")
    page.get_by_role("button", name="Leak here").click()
    expect(headline(page)).to_contain_text("Leak found:")
    page.get_by_role("button", name="Found: go on").click()

    page.get_by_role("heading", name="Recover").wait_for()
    expect(page.get_by_test_id("expected")).to_contain_text("Expect")
    choose(page, "way", "cylinder")
    page.get_by_label("from the book").select_option("R4")
    expect(field(page, "cylinders.c1.cylinder")).to_have_value("R4")
    enter(page, "cylinders.c1.gross_start", "27 lb 2 oz")
    say_yes(page, "fan_on")
    say_yes(page, "valves_open")
    enter(page, "cylinders.c1.gross_now", "35 lb 4 oz")
    expect(headline(page)).to_contain_text("8 lb 2.0 oz so far")
    say_yes(page, "finished")
    for key, text in {"end_pressure": "0 psig", "waited": "6 min", "risen_to": "0.5 psig"}.items():
        enter(page, key, text)
    choose(page, "use", "reuse")
    choose(page, "acid", "clean")
    page.locator('[data-field="burnout"] label').filter(has_text="No").click()
    say_yes(page, "same_owner")
    expect(page.get_by_test_id("share")).to_contain_text("of what belongs there")
    verdict(page, "Holds")
    page.get_by_role("button", name="It is out: go on").click()
    page.get_by_role("heading", name="Repair").wait_for()

    page.goto("/cylinders/R4")
    expect(page.get_by_role("table")).to_contain_text("Control room, circuit 1")
    expect(page.get_by_role("table")).to_contain_text("+ 8 lb 2.0 oz")
    expect(page.get_by_test_id("big-weight").first).to_contain_text("8lb2.0oz")


def test_a_cylinder_is_added_weighed_and_moved_and_a_refusal_stays_on_the_form(open_page: Any) -> None:
    page = open_page("orrin")
    page.goto("/cylinders")
    page.get_by_role("button", name="Add a cylinder").click()
    dialog = page.get_by_role("dialog")
    for label, text in {"number or name on it": "R12", "tare": "26 lb", "water capacity": "47.7 lb", "retest due": "soon"}.items():
        dialog.get_by_label(label, exact=True).fill(text)
    dialog.get_by_label("evacuated and purged, ready for its first use").check()
    dialog.get_by_role("button", name="Add it").click()
    expect(dialog.get_by_role("alert")).to_have_text("Write the retest date as year and month, such as 2029-03.")
    dialog.get_by_label("retest due", exact=True).fill("2031-05")
    dialog.get_by_role("button", name="Add it").click()
    expect(page.get_by_test_id("cylinder-R12")).to_contain_text("Ready")

    page.goto("/cylinders/R3")
    page.get_by_role("button", name="Move", exact=True).click()
    dialog.get_by_label("cylinder", exact=True).select_option("R2")
    dialog.get_by_label("how much").fill("2 lb")
    dialog.get_by_role("button", name="Book it").click()
    expect(dialog.get_by_role("alert")).to_contain_text("retest was due 2026-05")
    dialog.get_by_label("cylinder", exact=True).select_option("R12")
    dialog.get_by_role("button", name="Book it").click()
    expect(page.get_by_role("table")).to_contain_text("− 2 lb 0.0 oz")

    page.get_by_role("button", name="Weigh now").click()
    dialog.get_by_label("the scale reads, gross").fill("36 lb")
    dialog.get_by_role("button", name="Book the reading").click()
    expect(dialog.get_by_role("alert")).to_contain_text("less than the book")
    dialog.get_by_label("why it differs").fill("hose left on the scale")
    dialog.get_by_role("button", name="Book the reading").click()
    expect(page.get_by_role("table")).to_contain_text("hose left on the scale")


def test_a_step_that_does_not_apply_says_why_and_the_visit_ends_in_plain_words(open_page: Any) -> None:
    page = open_page("pell")
    begin_service(page)
    page.get_by_role("button", name="Does not apply").click()
    page.get_by_role("button", name="it does not run, nothing to read").click()
    page.get_by_role("button", name="It does not apply").click()
    page.get_by_role("heading", name="Leak search").wait_for()
    page.get_by_role("button", name="End this visit").first.click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Running, not proven").check()
    dialog.get_by_label("why it ends this way").fill("compressor not in the van")
    dialog.get_by_role("button", name="End the visit").click()
    expect(dialog.get_by_role("alert")).to_contain_text("Say what is awaited")
    dialog.get_by_label("what is awaited").fill("compressor, three days")
    dialog.get_by_label("back on").fill("2030-07-01")
    dialog.get_by_role("button", name="End the visit").click()
    between = page.get_by_role("region", name="Between visits")
    expect(between).to_contain_text("Awaited: compressor, three days. Back on 2030-07-01.")
    between.get_by_role("button", name="Start a new visit").click()
    expect(between).to_have_count(0)


def test_two_circuits_of_one_machine_come_under_one_work_order(open_page: Any) -> None:
    page = open_page("vesk")
    page.goto("/systems")
    page.get_by_role("navigation", name="Systems").get_by_role("link", name="Dome chiller, circuit 2").click()
    page.get_by_role("heading", name="Dome chiller, circuit 2").wait_for()
    expect(page.get_by_label("Charge over the years")).to_be_visible()
    page.get_by_role("button", name="Work order: all 2 circuits").click()
    page.get_by_role("heading", name="Identify").wait_for()
    expect(page.get_by_text("Same work order:")).to_be_visible()
    page.get_by_role("link", name="Dome chiller, circuit 2").click()
    expect(page.get_by_text("Same work order:")).to_contain_text("Dome chiller, circuit 1")


def test_systems_come_from_a_file_as_a_whole_or_not_at_all(open_page: Any, tmp_path: Path) -> None:
    page = open_page("vesk")
    page.goto("/systems")
    path = tmp_path / "systems.csv"
    rows = "site,system,circuit,name,refrigerant,factory_charge\nNorth hut,Hut split,NH-1,Hut split,R-32,2 lb 3 oz\nNorth hut,Hut split,NH-2,Hut split 2,R-32,lots\n"
    path.write_text(rows)
    page.get_by_role("button", name="Add", exact=True).click()
    page.get_by_role("button", name="From CSV").click()
    dialog = page.get_by_role("dialog", name="Systems from a CSV file")
    dialog.locator("input[type=file]").set_input_files(path)
    expect(dialog).to_contain_text("waits its turn")
    run_all()
    expect(dialog).to_contain_text("Nothing was written")
    expect(dialog).to_contain_text("Row 2, NH-2: factory_charge:")
    path.write_text(rows.replace("lots", "1 lb 9 oz"))
    dialog.locator("input[type=file]").set_input_files(path)
    expect(dialog).to_contain_text("waits its turn")
    run_all()
    expect(dialog).to_contain_text("2 rows written.")
    path.write_text(rows)
    dialog.locator("input[type=file]").set_input_files(path)
    dialog.get_by_role("button", name="Stop it").click()
    expect(dialog).to_contain_text("It was stopped. Nothing was written before.")
    page.keyboard.press("Escape")
    page.keyboard.press("Escape")
    expect(page.get_by_role("link", name="Hut split 2")).to_be_visible()


def test_anything_is_found_by_a_few_letters(open_page: Any) -> None:
    page = open_page("orrin")
    page.keyboard.press("Control+k")
    box = page.get_by_role("combobox")
    box.fill("r5")
    expect(page.get_by_role("option").first).to_contain_text("R5")
    box.fill("mirror")
    expect(page.get_by_role("option").first).to_contain_text("Mirror shop chiller")
    page.keyboard.press("Enter")
    page.get_by_role("heading", name="Mirror shop chiller").wait_for()


def test_other_refrigerants_side_by_side(open_page: Any) -> None:
    page = open_page("orrin")
    page.goto("/systems")
    page.get_by_role("navigation", name="Systems").get_by_role("link", name="Annex split").click()
    page.get_by_role("link", name="Compare other refrigerants").click()
    stopped = page.get_by_role("region", name="Stopped first")
    stopped.get_by_role("button", name="more are stopped").click()
    expect(stopped.get_by_role("listitem").filter(has_text="R-410A")).to_contain_text(
        "395.6 psig on the worst day, and the plate says 300.0 psig"
    )
    expect(stopped.get_by_role("listitem").filter(has_text="R-290")).to_contain_text("not listed for it")
    page.get_by_role("button", name="R-407C").click()
    plan = page.get_by_test_id("plan")
    expect(plan.get_by_test_id("big-weight")).to_contain_text("7lb7.4oz")
    expect(plan).to_contain_text("8 lb 4.7 oz")
    expect(plan).to_contain_text("Oil to POE")
    page.get_by_label("air on the worst day").fill("115 °F")
    page.get_by_label("air on the worst day").blur()
    expect(stopped.get_by_role("listitem").filter(has_text="R-407C")).to_be_visible()
    page.get_by_role("textbox", name="condensing, mean").fill("warm")
    page.get_by_role("textbox", name="condensing, mean").blur()
    expect(page.get_by_role("alert")).to_contain_text("condensing, mean")
    expect(page.get_by_role("textbox", name="condensing, mean")).to_have_value("warm")


def test_the_owner_sees_what_a_changed_practice_would_do_first(open_page: Any) -> None:
    page = open_page("hale")
    page.goto("/profile")
    page.get_by_label("as found: readings count after").fill("30 min")
    page.get_by_role("button", name="What it would change in open jobs").click()
    expect(page.get_by_text("would say something else")).to_be_visible()
    expect(page.locator("main")).to_contain_text("As found: Holds")
    expect(page.locator("main")).to_contain_text("readings count after 30 min")


def test_the_owner_gives_roles_and_others_read_them(open_page: Any) -> None:
    page = open_page("hale")
    page.goto("/shop")
    page.get_by_label("role of M. Orrin").select_option("lead")
    page.reload()
    expect(page.get_by_label("role of M. Orrin")).to_have_value("lead")
    page.get_by_label("role of R. Hale").select_option("technician")
    expect(page.get_by_role("alert")).to_contain_text("The shop needs an owner")
    reader = open_page("pell")
    reader.goto("/shop")
    expect(reader.get_by_text("The owner invites people and changes what they may do.")).to_be_visible()
