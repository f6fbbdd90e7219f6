"""Record and label: complete, printable, refusing to claim what is not proven; the API's committed documents."""

import io

import pytest
from pypdf import PdfReader

from conftest import PLATE, Api
from yoshi_server.management.commands.export_api import generated

pytestmark = pytest.mark.django_db


def text_of(pdf: bytes) -> tuple[int, str]:
    reader = PdfReader(io.BytesIO(pdf))
    return len(reader.pages), "\n".join(page.extract_text() for page in reader.pages)


def weighed_job(api: Api) -> str:
    code = str(api.new_job(title="Control room")["code"])
    draw = {"cylinder": "14", "gross_start": "31 lb 6.5 oz", "tare": "9 lb", "hose_loss": "0.6 oz", "gross_end": "20 lb 14.4 oz"}
    sheet = "/steps/weigh_in/runs/0/sheet"
    api.save(code, {**PLATE, f"{sheet}/system_state": "empty", **{f"{sheet}/draws/d1/{k}": v for k, v in draw.items()}})
    return code


def test_the_record_holds_plate_build_up_marks_and_who_judged(api: Api) -> None:
    code = weighed_job(api)
    pages, text = text_of(api.get(f"/jobs/{code}/record", form="pdf").content)
    assert pages <= 3
    for wanted in (
        "Charge record",
        "10 lb 7.5 oz",
        "9 lb 4.0 oz",
        "20 lb 14.4 oz",
        "R-410A",
        "Field practice, revision 1",
        "Not closed",
        "total charge",
    ):
        assert wanted in text, wanted
    html = api.get(f"/jobs/{code}/record").content.decode()
    assert "common practice, no source" in html
    assert "http://" not in html.replace("http://www.w3.org", "")


def test_the_label_says_the_whole_charge_and_that_it_is_not_yet_proven(api: Api) -> None:
    code = weighed_job(api)
    pages, text = text_of(api.get(f"/jobs/{code}/label", form="pdf").content)
    assert pages == 1
    for wanted in ("R-410A", "10", "7.5", "4.749 kg", "not yet proven", "liquid only", "9.91 t"):
        assert wanted in text, wanted


def test_a_record_of_an_empty_job_does_not_fail(api: Api) -> None:
    code = api.new_job()["code"]
    for paper in ("record", "label"):
        for form in ("html", "pdf"):
            assert api.get(f"/jobs/{code}/{paper}", form=form).status_code == 200
    assert api.get(f"/jobs/{code}/record", form="docx").status_code == 422


def test_what_a_person_typed_is_never_markup(api: Api) -> None:
    code = api.new_job(title="<script>alert(1)</script>")["code"]
    api.save(code, {"serial": "<b>x</b>"})
    html = api.get(f"/jobs/{code}/record").content.decode()
    assert "<script>" not in html
    assert "&lt;b&gt;x" in html


def test_si_readers_get_kilograms(api: Api) -> None:
    code = weighed_job(api)
    api.client.patch("/api/me", '{"units": "si"}', content_type="application/json")
    assert "16.76 m" in api.get(f"/jobs/{code}/record").content.decode()


def test_committed_api_documents_are_in_step() -> None:
    for path, text in generated().items():
        assert path.read_text(encoding="utf-8") == text, f"{path.name} is stale: python server/manage.py export_api"
