"""The shop's cards and its list of jobs kept in order, as a lead does it."""

from typing import Any

from playwright.sync_api import Page, expect

from e2e.acts import new_job


def add(page: Page, kind: str, **fields: str) -> None:
    page.get_by_role("button", name=f"Add a {kind}").click()
    dialog = page.get_by_role("dialog", name=f"Add a {kind}")
    for label, value in fields.items():
        box = dialog.get_by_label(label.replace("_", " "), exact=True)
        if box.evaluate("element => element.tagName") == "SELECT":
            box.select_option(label=value)
        else:
            box.fill(value)
    dialog.get_by_role("button", name="Add it").click()
    expect(dialog).to_have_count(0)


def test_a_customer_with_a_site_a_system_and_two_circuits_that_are_one(open_page: Any) -> None:
    page = open_page("vesk")
    page.goto("/customers")
    add(page, "customer", name="North hut club", contact="the warden", language_of_their_papers="French")
    page.get_by_role("heading", name="North hut club").wait_for()
    add(page, "site", name="North hut")
    expect(page.get_by_role("region", name="Sites")).to_contain_text("North hut")
    page.goto("/systems")
    page.get_by_role("button", name="Add", exact=True).click()
    add(page, "system", site="North hut, North hut club", name="Hut split")
    for number in ("NH-1", "NH-1x"):
        if number == "NH-1x":
            page.get_by_role("button", name="Add", exact=True).click()
        add(page, "circuit", system="Hut split, North hut", name="Hut split", number=number, refrigerant="R-32", factory_charge="2 lb 3 oz")
        page.keyboard.press("Escape")
        page.get_by_role("heading", name="Hut split").first.wait_for()
    page.get_by_role("navigation", name="Systems").get_by_role("link", name="NH-1 ·").click()
    expect(page.get_by_role("link", name="North hut club")).to_be_visible()
    page.get_by_role("button", name="Edit circuit").click()
    dialog = page.get_by_role("dialog", name="This circuit")
    dialog.get_by_label("find the other circuit").fill("NH-1x") if dialog.get_by_label("find the other circuit").count() else None
    dialog.get_by_label("the other circuit", exact=True).select_option(label="Hut split, Hut split")
    dialog.get_by_role("button", name="Merge the two").click()
    expect(dialog.get_by_role("region", name="What was done to it")).to_contain_text("merged with Hut split")
    page.keyboard.press("Escape")
    expect(page.get_by_role("navigation", name="Systems")).not_to_contain_text("NH-1x")
    page.get_by_role("button", name="Edit circuit").click()
    dialog.get_by_role("button", name="Undo this merge").click()
    expect(dialog.get_by_role("region", name="What was done to it")).to_contain_text("merge undone: Hut split")
    page.keyboard.press("Escape")
    expect(page.get_by_role("navigation", name="Systems")).to_contain_text("NH-1x")


def test_a_job_begun_for_nothing_is_renamed_discarded_and_taken_back(open_page: Any) -> None:
    page = open_page("vesk")
    new_job(page, "Wrong roof")
    page.get_by_role("button", name="Rename or discard").click()
    page.get_by_label("name of the job").fill("Right roof")
    page.get_by_role("button", name="Rename it").click()
    expect(page.get_by_role("banner")).to_contain_text("Right roof")
    page.get_by_role("button", name="Rename or discard").click()
    page.get_by_role("button", name="Discard this job").click()
    expect(page.get_by_text("This job was discarded")).to_be_visible()
    page.goto("/jobs")
    page.get_by_label("find").fill("Right roof")
    expect(page.get_by_text("No job here is like that.")).to_be_visible()
    page.get_by_role("radio", name="Discarded").click()
    page.get_by_role("link", name="Right roof").click()
    page.get_by_role("button", name="Take it back").click()
    expect(page.get_by_text("This job was discarded")).to_have_count(0)


def test_a_list_keeps_what_was_asked_of_it_over_a_reload(open_page: Any) -> None:
    page = open_page("vesk")
    page.get_by_label("says").select_option("Stop")
    page.get_by_label("sort by").select_option("name")
    expect(page.get_by_role("link", name="Gatehouse ductless, 14 psi lost")).to_be_visible()
    page.reload()
    expect(page.get_by_label("says")).to_have_value("Stop")
    titles = page.locator("main li b").all_inner_texts()
    assert titles == sorted(titles, key=str.lower)
    assert "Control room, circuit 1" not in titles


def test_the_clock_is_the_persons_choice_everywhere(open_page: Any) -> None:
    page = open_page("pell", first="/")
    page.get_by_role("heading", level=1).wait_for()
    page.goto("/shop")
    page.get_by_role("radio", name="5:00 pm").click()
    page.goto("/")
    page.get_by_test_id("said").wait_for()
    expect(page.get_by_test_id("said")).to_contain_text(" pm.")
    box = page.get_by_label("the van leaves at")
    box.fill("19:30")
    page.keyboard.press("Enter")
    expect(box).to_have_value("7:30 pm")
