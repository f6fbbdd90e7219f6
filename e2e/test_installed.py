"""Yoshi on a home screen: what its manifest promises, tried through the addresses it calls."""

import json
from pathlib import Path
from typing import Any

from playwright.sync_api import expect

ROOT = Path(__file__).resolve().parents[1]
SHARED = """async ([name, text]) => {
  const form = document.createElement('form');
  form.method = 'POST'; form.action = '/open'; form.enctype = 'multipart/form-data';
  const input = document.createElement('input'); input.type = 'file'; input.name = 'file';
  const data = new DataTransfer(); data.items.add(new File([text], name, { type: 'application/json' }));
  input.files = data.files; form.append(input); document.body.append(form); form.submit();
}"""


def test_the_manifest_names_what_is_there(open_page: Any) -> None:
    page = open_page(service_workers="allow")
    manifest = page.request.get("/manifest.webmanifest").json()
    sizes = set()
    for icon in manifest["icons"]:
        answer = page.request.get(icon["src"])
        assert (answer.status, answer.headers["content-type"].partition(";")[0]) == (200, icon["type"])
        sizes.add((icon["sizes"], icon.get("purpose", "any")))
    assert {("192x192", "any"), ("512x512", "any"), ("512x512", "maskable")} <= sizes
    assert [shortcut["name"] for shortcut in manifest["shortcuts"]] == ["Quick total", "Go on"]
    assert manifest["share_target"]["action"] == manifest["file_handlers"][0]["action"] == "/open"


def test_the_shortcuts_lead_straight_there(open_page: Any) -> None:
    page = open_page()
    page.goto("/quick")
    page.get_by_role("heading", name="Quick total").wait_for()
    code = page.url.split("/job/")[1]
    page.locator('[data-field="refrigerant"] input.control').first.fill("R-410A")
    page.locator('[data-field="refrigerant"] input.control').first.blur()
    page.goto("/jobs")
    first = page.locator("main ul a").first.get_attribute("href")
    page.goto("/on")
    page.wait_for_url(f"**{first}/*")
    assert code not in str(first)  # a quick total is no open job


def test_a_job_file_that_is_shared_to_it_is_taken_over(open_page: Any) -> None:
    page = open_page(service_workers="allow")
    page.evaluate("() => navigator.serviceWorker.ready.then(() => true)")
    page.reload()
    text = (ROOT / "examples" / "01-control-room.json").read_text()
    page.evaluate(SHARED, ["01-control-room.json", text])
    title = json.loads(text)["job"]["title"]
    expect(page.locator("header").get_by_text(title)).to_be_visible()
    page.evaluate(SHARED, ["broken.json", text[:400]])
    expect(page.get_by_role("alert").filter(has_text="broken.json was not taken")).to_be_visible()


def test_a_page_of_an_earlier_version_whose_parts_are_gone_loads_the_present_one(open_page: Any) -> None:
    page = open_page()
    gone = {"once": True}

    def serve(route: Any) -> None:
        if gone.pop("once", False):
            route.fulfill(status=404, body="")
        else:
            route.continue_()

    page.route("**/assets/CylindersPage-*.js", serve)
    page.get_by_role("link", name="Cylinders").first.click()
    expect(page.get_by_role("heading", name="Cylinders").first).to_be_visible()
    assert "once" not in gone
