"""From an empty job to the record, the label and the file, as a technician at 2,100 m does it."""

import json
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import expect

from e2e.acts import closes_as, enter, fill_cylinder, fill_plate, fill_running, headline, new_job, say_yes, verdict
from tasks.queue import run_all

ROOT = Path(__file__).resolve().parents[1]


@pytest.mark.parametrize(
    "screen", [{"width": 1280, "height": 800}, {"width": 390, "height": 844, "dark": True}], ids=["desk", "phone-dark"]
)
def test_from_data_plate_to_record(open_page: Any, screen: dict[str, Any], tmp_path: Path) -> None:
    page = open_page(**screen)
    new_job(page, "Control room at 2,100 m")
    fill_plate(page)
    expect(headline(page)).to_have_text("The whole system takes 10 lb 7.5 oz ± 2.4 oz.")
    page.get_by_role("button", name="Plate is right: go on").click()

    page.get_by_role("heading", name="Weigh in").wait_for()
    fill_cylinder(page)
    expect(headline(page)).to_have_text("Close the valve when the scale reads 20 lb 14.4 oz.")
    expect(page.get_by_test_id("big-weight")).to_contain_text("20lb14.4oz")
    enter(page, "draws.d1.gross_end", "20 lb 14.4 oz")
    verdict(page, "Holds")
    page.get_by_role("button", name="It is in: go to Verify").click()

    page.get_by_role("heading", name="Verify").wait_for()
    fill_running(page)
    expect(page.get_by_test_id("band-superheat")).to_contain_text("11.3 °F")
    expect(page.get_by_test_id("band-subcooling")).to_contain_text("8.4 °F")
    verdict(page, "Holds")
    page.get_by_role("button", name="Proven: go to Close out").click()

    page.get_by_role("heading", name="Close out").wait_for()
    closes_as(page, "proven")
    say_yes(page, "label_fixed")
    verdict(page, "Holds")
    page.get_by_role("button", name="Close the job").click()
    expect(page.get_by_role("button", name="Correct this step")).to_be_visible()

    code = page.url.split("/job/")[1].split("/")[0]
    for paper in ("record", "label"):
        with page.expect_response("**/papers"):
            page.get_by_role("button", name=f"Print the {paper}").click()
        expect(page.get_by_role("button", name=f"Setting the {paper}")).to_be_visible()
        assert run_all() == 1
        where = page.get_by_role("link", name=f"Open the {paper}").get_attribute("href")
        assert page.request.get(str(where)).body().startswith(b"%PDF")
    record = page.request.get(f"/api/jobs/{code}/record").text()
    assert "10 lb 7.5 oz" in record
    assert "Proven" in record

    with page.expect_download() as download:
        page.get_by_role("link", name="Data file").click()
    path = tmp_path / "job.json"
    download.value.save_as(path)
    judged = subprocess.run(
        [sys.executable, "-m", "yoshi_core.cli", "judge", str(path), "--json"],
        cwd=ROOT / "core",
        capture_output=True,
        text=True,
        check=False,
    )
    assert judged.returncode == 0, judged.stderr
    assert json.loads(judged.stdout) == json.loads(path.read_text())["findings"]
