"""Record and label: complete, printable, refusing to claim what is not proven; the API's committed documents."""

import io
import json
import re

import pytest
from django.utils import timezone
from pypdf import PdfReader

from accounts.pruning import ENDED_TASKS, prune
from conftest import PLATE, Api
from jobs import store
from jobs.models import KeptRecord
from records import papers, render
from tasks.models import Made, Task
from tasks.queue import run_all
from yoshi_core.job.evaluate import Findings
from yoshi_server.management.commands.export_api import generated

pytestmark = pytest.mark.django_db


def set_by_a_task(api: Api, code: str, paper: str) -> bytes:
    asked = api.post(f"/jobs/{code}/papers", keyed=False, paper=paper)
    assert asked.status_code == 202, asked.content
    task = asked.json()["id"]
    assert api.get(f"/tasks/{task}/file").status_code == 404
    assert api.post(f"/jobs/{code}/papers", keyed=False, paper=paper).json()["id"] == task, "asked twice, set once"
    run_all()
    file = api.get(f"/tasks/{task}/file")
    assert file["Content-Type"] == "application/pdf"
    assert f'"{code}-{paper}.pdf"' in file["Content-Disposition"]
    return bytes(file.content)


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
    pages, text = text_of(set_by_a_task(api, code, "record"))
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
    pages, text = text_of(set_by_a_task(api, code, "label"))
    assert pages == 1
    for wanted in ("R-410A", "10", "7.5", "4.749 kg", "not yet proven", "liquid only", "9.91 t"):
        assert wanted in text, wanted


def test_a_record_of_an_empty_job_does_not_fail(api: Api) -> None:
    code = api.new_job()["code"]
    for paper in ("record", "label"):
        assert api.get(f"/jobs/{code}/{paper}").status_code == 200
        assert set_by_a_task(api, code, paper).startswith(b"%PDF")
    assert api.post(f"/jobs/{code}/papers", keyed=False, paper="poster").status_code == 422


def test_papers_are_set_in_the_interface_s_typeface_without_complaint(api: Api, caplog: pytest.LogCaptureFixture) -> None:
    code = weighed_job(api)
    for paper in ("record", "label"):
        reader = PdfReader(io.BytesIO(set_by_a_task(api, code, paper)))
        fonts = {str(font.get_object()["/BaseFont"]) for page in reader.pages for font in page["/Resources"]["/Font"].values()}  # type: ignore[index]
        assert {"Archivo-Variable", "Archivo-Variable-Bold"} <= {font.partition("+")[2] for font in fonts}
    assert [line.getMessage() for line in caplog.records if line.name.startswith("weasyprint")] == []


def test_a_paper_that_was_begun_is_set_again_after_a_kill_and_goes_with_its_task(api: Api, monkeypatch: pytest.MonkeyPatch) -> None:
    code = weighed_job(api)
    task = api.post(f"/jobs/{code}/papers", keyed=False, paper="label").json()["id"]
    monkeypatch.setattr(papers, "to_pdf", lambda html: (_ for _ in ()).throw(OSError("killed")))
    run_all()
    assert api.get(f"/tasks/{task}").json()["state"] == "waiting"
    monkeypatch.undo()
    Task.objects.filter(pk=task).update(run_at=timezone.now())
    run_all()
    assert api.get(f"/tasks/{task}/file").content.startswith(b"%PDF")
    Task.objects.filter(pk=task).update(ended_at=timezone.now() - ENDED_TASKS * 2)
    prune()
    assert not Made.objects.exists()


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


def closed_job(api: Api) -> str:
    code = weighed_job(api)
    api.save(code, {"/steps/close_out/runs/0/sheet/outcome": "handed_over", "/steps/close_out/runs/0/sheet/reason": "sold"})
    closed = api.post(f"/jobs/{code}/steps/close_out/close", reason="sold")
    assert closed.status_code == 200, closed.json()
    assert closed.json()["closed"]
    return code


def shown(api: Api, code: str) -> tuple[str, str, str]:
    """Record, label and screen, without the moment the record is printed at."""
    record = re.sub(r"printed [^<]*", "", api.get(f"/jobs/{code}/record").content.decode())
    return record, api.get(f"/jobs/{code}/label").content.decode(), json.dumps(api.get(f"/jobs/{code}").json()["findings"], sort_keys=True)


def test_a_closed_job_says_and_prints_for_ever_what_it_was_closed_with(api: Api, monkeypatch: pytest.MonkeyPatch) -> None:
    """Another version judges otherwise, or not at all: words and figures stay; an open job is judged by the new one."""
    code, other = closed_job(api), weighed_job(api)
    before = shown(api, code)

    def otherwise(*of: object, **more: object) -> Findings:
        raise AssertionError("a closed job is not judged anew")

    monkeypatch.setattr(render, "judged", otherwise)
    monkeypatch.setattr(store, "judged", otherwise)
    monkeypatch.setattr(store, "__version__", "99.0.0")
    assert shown(api, code) == before
    assert api.get(f"/jobs/{other}").status_code == 500  # judged by the new one, which fails here


def test_findings_of_another_shape_keep_their_words_and_gain_what_is_new(api: Api, monkeypatch: pytest.MonkeyPatch) -> None:
    code = closed_job(api)
    kept = KeptRecord.objects.get(job__code=code)
    kept.content["findings"].pop("grams_first")
    kept.content["findings"]["steps"][0]["verdict"]["headline"]["text"] = "As it was said then."
    KeptRecord.objects.filter(pk=kept.pk).update(content=kept.content)
    found = api.get(f"/jobs/{code}").json()["findings"]
    assert found["grams_first"] is False
    assert found["steps"][0]["verdict"]["headline"]["text"] == "As it was said then."


def test_opened_again_it_is_judged_anew_and_closed_again_kept_beside(api: Api) -> None:
    code = closed_job(api)
    assert api.post(f"/jobs/{code}/steps/close_out/reopen", reason="a slip").status_code == 200
    api.save(code, {"/steps/close_out/runs/0/sheet/note": "looked at once more"})
    assert "looked at once more" in api.get(f"/jobs/{code}/record").content.decode()
    assert api.post(f"/jobs/{code}/steps/close_out/close", reason="sold").status_code == 200
    assert KeptRecord.objects.filter(job__code=code).count() == 2


def test_a_small_charge_is_printed_in_grams_first(api: Api) -> None:
    code = str(api.new_job(title="Cooler")["code"])
    sheet = "/steps/weigh_in/runs/0/sheet"
    draw = {"gross_start": "2120 g", "tare": "1800 g", "gross_end": "1970 g"}
    plate = {"refrigerant": "R-290", "kind": "reach_in", "metering": "capillary", "factory_charge": "150 g"}
    api.save(code, {**plate, f"{sheet}/system_state": "empty", **{f"{sheet}/draws/d1/{k}": v for k, v in draw.items()}})
    assert "150 <small>g</small>" in api.get(f"/jobs/{code}/record").content.decode()
    assert "150 <small>g</small>" in api.get(f"/jobs/{code}/label").content.decode()
