"""No field moves or is replaced under a thumb: not by the tap that goes to it, and not by what is typed in it."""

from typing import Any

from playwright.sync_api import ElementHandle, Locator, Page

from e2e.acts import new_job

MOVED_PX = 2.0
WORTH = {  # what is typed where a figure would be out of range or a word is wanted
    "refrigerant": "R-410A",
    "factory_charge": "9 lb 4 oz",
    "altitude": "2100 m",
    "retest": "2029-03",
}
PLACE = "el => [el.isConnected, el.getBoundingClientRect().top]"


def worth(key: str) -> str:
    return WORTH.get(key.rsplit(".", 1)[-1], "10")


def typing_box(field: Locator) -> ElementHandle | None:
    """The field's own input; None where it is not to be typed in."""
    box = field.locator("input.control").first
    if not box.count() or not box.is_visible() or box.is_disabled() or box.get_attribute("list"):
        return None
    return box.element_handle()


def top(page: Page, box: ElementHandle, key: str) -> float:
    there, place = box.evaluate(PLACE)
    assert there, f"{key} was replaced under the thumb"
    return float(place)


def moves(page: Page, box: ElementHandle, key: str) -> tuple[float, float]:
    """How far the field moved on the screen while it was tapped, and while a value was typed in it and answered."""
    page.evaluate("el => el.scrollIntoView({ block: 'center' })", box)
    found = top(page, box, key)
    box.click()
    page.wait_for_timeout(250)  # the keys of the field before fold away, and its own come
    tapped = top(page, box, key)
    box.type(worth(key), delay=15)
    page.wait_for_timeout(900)  # the preview is asked after a pause, and answered
    return abs(tapped - found), abs(top(page, box, key) - tapped)


def test_no_field_moves_under_the_thumb(open_page: Any) -> None:
    page = open_page("orrin", width=390, height=844)
    new_job(page, "Steady")
    job = page.url.rsplit("/", 1)[0]
    tried, moved = 0, []
    for step in ("identify", "as_found", "recover", "weigh_in", "verify"):
        page.goto(f"{job}/{step}")
        page.locator("#step-name").wait_for()
        page.wait_for_timeout(600)
        keys = [name for name in page.locator("main [data-field]").evaluate_all("all => all.map((el) => el.dataset.field)") if name]
        for key in dict.fromkeys(keys[:14]):
            field = page.locator(f'main [data-field="{key}"]').first
            box = typing_box(field) if field.count() and field.is_visible() else None
            if box is None:
                continue
            tried += 1
            by_tap, by_typing = moves(page, box, key)
            moved += [(step, key, way, round(px)) for way, px in (("tapped", by_tap), ("typed", by_typing)) if px > MOVED_PX]
    assert moved == []
    assert tried > 15
