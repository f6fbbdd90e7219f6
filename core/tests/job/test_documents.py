"""Reading documents: versions, wrong fields, what is cut off; and their published schema."""

import json
from pathlib import Path
from typing import Any

import jsonschema
import pytest

from tests.make import NOW, PLATE, RUNNING, WEIGHED, job
from yoshi_core.errors import DocumentError
from yoshi_core.job import documents
from yoshi_core.profile.profile import Profile

ROOT = Path(__file__).resolve().parents[3]


def document(**job_fields: Any) -> dict[str, Any]:
    return {"format": "yoshi-job", "version": documents.VERSION, "job": {"id": "d", **job_fields}}


def sheet(**fields: Any) -> dict[str, Any]:
    return document(steps={"identify": {"runs": [{"sheet": fields}]}})


@pytest.mark.parametrize(
    ("plain", "path"),
    [
        ({"format": "other", "version": 2}, "/format"),
        ({"format": "yoshi-job", "version": 99, "job": {}}, "/version"),
        ({"format": "yoshi-job", "version": "2", "job": {}}, "/version"),
        ({"format": "yoshi-job", "version": True, "job": {}}, "/version"),
        ({"format": "yoshi-job", "version": 2}, "/job"),
        ({"format": "yoshi-job", "version": 2, "job": {}}, "/job/id"),
        ({"format": "yoshi-job", "version": 2, "job": []}, "/job"),
        (document(colour="red"), "/job/colour"),
        (document(steps={"identify": {"runs": [{"sheet": {"refrigerant": 410}}]}}), "/job/steps/identify/runs/0/sheet/refrigerant"),
        (document(steps={"dance": {"runs": []}}), "/job/steps/dance"),
        (sheet(factory_charge="9 lb 17 oz"), "/job/steps/identify/runs/0/sheet/factory_charge"),
        (sheet(factory_charge={"value": "4"}), "/job/steps/identify/runs/0/sheet/factory_charge/value"),
        (sheet(factory_charge={"value": True}), "/job/steps/identify/runs/0/sheet/factory_charge/value"),
        (sheet(factory_charge="90000 lb"), "/job/steps/identify/runs/0/sheet/factory_charge"),
        (sheet(metering="magic"), "/job/steps/identify/runs/0/sheet/metering"),
        (sheet(lines={"l1": {"length": "fifty"}}), "/job/steps/identify/runs/0/sheet/lines/l1/length"),
        (document(visits=[{"id": "v", "started_at": "yesterday"}]), "/job/visits/0/started_at"),
        (document(visits=[{"id": "v", "started_at": "2026-06-18T10:00:00"}]), "/job/visits/0/started_at"),
        ({**document(), "profile": {"overrides": {"verify.run_in": -5.0}}}, "/profile/overrides/verify.run_in"),
        ({**document(), "profile": {"overrides": {"no.rule": 1.0}}}, "/profile/overrides/no.rule"),
        ({**document(), "extra": 1}, "/extra"),
    ],
)  # fmt: skip
def test_a_wrong_document_names_its_wrong_field(plain: dict[str, Any], path: str) -> None:
    with pytest.raises(DocumentError) as caught:
        documents.loads(json.dumps(plain))
    assert caught.value.path == path


def test_a_later_version_says_to_update() -> None:
    with pytest.raises(DocumentError, match="Update Yoshi"):
        documents.loads(json.dumps({"format": "yoshi-job", "version": documents.VERSION + 1, "job": {}}))


def test_a_truncated_document_says_where_it_ends() -> None:
    text = documents.dump(job(PLATE, WEIGHED))
    with pytest.raises(DocumentError, match="cut off"):
        documents.loads(text[: len(text) // 2])


@pytest.mark.parametrize("number", ["NaN", "Infinity", "-Infinity", "1e999"])
def test_what_is_no_number_is_refused(number: str) -> None:
    text = json.dumps(sheet(factory_charge={"value": 4321.5})).replace("4321.5", number)
    with pytest.raises(DocumentError):
        documents.loads(text)


def test_old_entries_are_not_range_checked_again() -> None:
    """Tightening a range must not lock old jobs: a stored value is read as it stands."""
    old = documents.loads(json.dumps(sheet(factory_charge={"value": 99999.0, "text": "99999 kg", "unit": "kg"}))).job
    assert old.steps["identify"].runs[0].sheet.factory_charge.value == 99999.0


def test_version_1_is_migrated_and_an_older_reader_would_refuse_it() -> None:
    plain = {"format": "yoshi-job", "version": 1, "job": {"id": "old", "circuit": {"id": "c", "site_altitude_m": 2100}}}
    loaded = documents.loads(json.dumps(plain)).job
    assert loaded.circuit.plate.altitude is not None
    assert loaded.circuit.plate.altitude.value == 2100
    assert json.loads(documents.dump(loaded))["version"] == documents.VERSION


def test_the_published_schema_accepts_what_is_written_and_refuses_what_is_not_read() -> None:
    published = json.loads((ROOT / "docs" / "formats" / "yoshi-job.schema.json").read_text())
    assert published == json.loads(json.dumps(documents.json_schema()))
    validator = jsonschema.Draft202012Validator(published)
    validator.validate(json.loads(documents.export(job(PLATE, WEIGHED, RUNNING), Profile(), NOW)))
    assert list(validator.iter_errors(document(colour="red")))
    assert list(validator.iter_errors(sheet(metering="magic")))


@pytest.mark.parametrize("path", sorted((ROOT / "examples").glob("*.json")), ids=lambda p: p.name)
def test_examples_are_valid_and_read(path: Path) -> None:
    published = json.loads((ROOT / "docs" / "formats" / "yoshi-job.schema.json").read_text())
    text = path.read_text()
    jsonschema.Draft202012Validator(published).validate(json.loads(text))
    assert documents.loads(text).job.title
