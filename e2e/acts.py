"""What a technician does on the screen, by the labels they read."""

from playwright.sync_api import Locator, Page, expect


def field(page: Page, key: str) -> Locator:
    return unfolded(page.locator(f'[data-field="{key}"]')).locator("input.control, select.control, textarea.control").first


def unfolded(place: Locator) -> Locator:
    """The field, with what it is folded under opened."""
    place.first.wait_for(state="attached")
    folds = place.first.locator("xpath=ancestor::details[not(@open)]")
    while folds.count():
        folds.first.locator("summary").first.click()
    return place


def enter(page: Page, key: str, text: str) -> None:
    """Type into a field and leave it."""
    box = field(page, key)
    box.fill(text)
    box.blur()


def choose(page: Page, key: str, value: str) -> None:
    pick(unfolded(page.locator(f'[data-field="{key}"]')).first, value)


def pick(place: Locator, value: str) -> None:
    """Choose in a closed list, or among the buttons a phone has instead."""
    place.locator("select.control, input[type=radio]").first.wait_for(state="attached")
    button = place.locator(f'label:has(input[type="radio"][value="{value}"])')
    if button.count():
        button.click()
    else:
        place.locator("select.control").select_option(value)


def say_yes(page: Page, key: str) -> None:
    page.locator(f'[data-field="{key}"] label').filter(has_text="Yes").click()


def closes_as(page: Page, way: str) -> None:
    """Choose how the job closes, once that way is open."""
    page.locator(f'[data-field="outcome"] input[value="{way}"]').check()


def answered(page: Page, reason: str, heading: str, button: str = "Close it all the same") -> None:
    """Close a step over what it does not show, with a reason, and be at the next."""
    page.get_by_role("button", name=button).click()
    page.get_by_label("Reason, kept in the record").fill(reason)
    page.get_by_role("button", name="Close with this reason").click()
    page.get_by_role("heading", name=heading, exact=True).wait_for()


def headline(page: Page) -> Locator:
    return page.get_by_test_id("headline")


def verdict(page: Page, word: str) -> None:
    expect(page.locator("section header [data-verdict]")).to_have_attribute("data-verdict", word)


def new_job(page: Page, title: str) -> None:
    page.get_by_role("button", name="New job").click()
    page.get_by_label("name of the job").fill(title)
    page.get_by_role("button", name="Charge only: it is empty already").click()
    page.get_by_role("heading", name="Identify").wait_for()


PLATE = {
    "refrigerant": "r410a",
    "factory_charge": "9 lb 4 oz",
    "included_length": "25 ft",
    "subcooling_target": "10",
    "altitude": "2100 m",
    "lines.l1.length": "55 ft",
    "lines.l1.allowance": "0.6 oz/ft",
    "lines.l1.liquid_od": "3/8 in",
    "lines.l1.suction_od": "7/8 in",
}


def fill_plate(page: Page) -> None:
    for key, text in PLATE.items():
        enter(page, key, text)
    choose(page, "metering", "txv")
    choose(page, "kind", "split")
    choose(page, "gauge_reference", "vented")
    page.get_by_role("button", name="Add a part").click()
    enter(page, "parts.p1.charge", "1.5 oz")


def fill_cylinder(page: Page) -> None:
    choose(page, "system_state", "empty")
    for key, text in {"cylinder": "14", "gross_start": "31 lb 6.5 oz", "tare": "9 lb", "hose_loss": "0.6 oz"}.items():
        enter(page, f"draws.d1.{key}", text)


def fill_running(page: Page) -> None:
    choose(page, "mode", "cooling")
    enter(page, "run_in", "15 min")
    say_yes(page, "filter_ok")
    say_yes(page, "coils_ok")
    readings = {"suction_pressure": "128", "suction_line": "54", "liquid_pressure": "372", "liquid_line": "102"}
    for key, text in readings.items():
        enter(page, f"readings.r1.{key}", text)


def begin_service(page: Page) -> None:
    page.get_by_role("button", name="New job").click()
    page.get_by_label("circuit", exact=True).select_option(label="Quillon Ridge Observatory: Control room, circuit 1")
    page.get_by_role("button", name="Whole job: gauges on first").click()
    page.get_by_role("heading", name="Identify").wait_for()
    choose(page, "pairing_by", "switched")
    page.get_by_role("button", name="Plate is right: go on").click()
    page.get_by_role("heading", name="As found").wait_for()


def leave_out(page: Page, reason: str) -> None:
    """Leave a step out, with a reason of one's own."""
    page.get_by_role("button", name="Does not apply").click()
    page.get_by_label("reason").fill(reason)
    page.get_by_role("button", name="It does not apply").click()
