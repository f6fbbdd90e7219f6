"""Reading documents: versions, wrong fields, what is cut off; and their published schema."""

import json
from pathlib import Path
from typing import Any

import jsonschema
import pytest

from tests.make import NOW, PLATE, RUNNING, WEIGHED, job
from yoshi_core.errors import DocumentError
from yoshi_core.job import documents
from yoshi_core.profile.profile import RULES, Profile

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


def test_a_document_is_written_for_people_and_programs_alike() -> None:
    text = documents.dump(job({"serial": "Kühlhaus"}))
    assert text.startswith('{\n "format": "yoshi-job",\n "version": 5,\n "job": {\n  "id": "test-job"')
    assert "Kühlhaus" in text
    assert text.endswith("}\n")
    with pytest.raises(ValueError, match="JSON compliant"):
        documents._text({"mass": float("nan")})


@pytest.mark.parametrize(
    ("plain", "path", "said"),
    [
        ({"format": "other"}, "/format", "/format: this is not a yoshi-job document."),
        ([], "/format", "/format: this is not a yoshi-job document."),
        ({"format": "yoshi-job", "version": 0, "job": {}}, "/version", "/version: expected a whole number from 1."),
        (
            {"format": "yoshi-job", "version": 6, "job": {}}, "/version",
            "/version: this document is version 6; this Yoshi reads up to 5. Update Yoshi to open it.",
        ),
        ({"format": "yoshi-job", "version": 4}, "/job", "/job: this field is missing."),
        ({"format": "yoshi-job", "version": 4, "job": "x"}, "/job", "/job: expected an object."),
        ({**document(), "colour": 1}, "/colour", "/colour: there is no such field."),
        (document(steps={"dance": {}}), "/job/steps/dance", "/job/steps/dance: there is no step called dance."),
        ({**document(), "now": "noon"}, "/now", None),
        ({**document(), "profile": {"revision": "x"}}, "/profile/revision", None),
    ],
)  # fmt: skip
def test_what_is_wrong_with_a_document_and_where(plain: Any, path: str, said: str | None) -> None:
    with pytest.raises(DocumentError) as wrong:
        documents.load_plain(plain)
    assert wrong.value.path == path
    assert said is None or wrong.value.message == said


def test_a_profile_outside_its_ranges_is_refused_by_its_rule() -> None:
    rule = next(iter(RULES))
    with pytest.raises(DocumentError) as wrong:
        documents.load_plain({**document(), "profile": {"overrides": {rule: 1e12}}})
    assert wrong.value.path.startswith("/profile/overrides/")
    assert wrong.value.message.startswith(f"{wrong.value.path}: ")


def test_an_export_is_read_back_with_what_it_was_judged_by() -> None:
    profile = Profile(name="ours", revision=9)
    read = documents.loads(documents.export(job(PLATE), profile, NOW))
    assert (read.profile, read.now, read.job) == (profile, NOW, job(PLATE))
    assert read.findings["job_id"] == "test-job"
    bare = documents.loads(documents.dump(job(PLATE)))
    assert (bare.profile, bare.now, bare.findings) == (Profile(), None, None)


def test_where_a_broken_text_ends_and_what_is_no_number() -> None:
    with pytest.raises(DocumentError) as wrong:
        documents.loads('{\n "format": ')
    assert wrong.value.params == {"line": 2}
    assert wrong.value.message.startswith("This is not a whole JSON document: Expecting value at line 2, column 12. It may")
    with pytest.raises(DocumentError) as constant:
        documents.loads('{"format": NaN}')
    assert constant.value.message == "NaN is not a number a document may hold."


class TestOldVersions:
    """Written by hand as those versions wrote; nothing of them is lost."""

    def test_the_altitude_of_version_1(self) -> None:
        plain = documents.migrate(
            {"format": "yoshi-job", "version": 1, "job": {"id": "d", "circuit": {"id": "A", "site_altitude_m": 2100.5}}}
        )
        assert plain["version"] == 5
        assert plain["job"]["circuit"] == {"id": "A", "plate": {"altitude": {"value": 2100.5, "text": "2100.5 m", "unit": "m"}}}
        kept = {"id": "A", "site_altitude_m": 9, "plate": {"serial": "7", "altitude": "1 m"}}
        plain = documents.migrate({"format": "yoshi-job", "version": 1, "job": {"id": "d", "circuit": kept}})
        assert plain["job"]["circuit"] == {"id": "A", "plate": {"serial": "7", "altitude": "1 m"}}
        assert documents.migrate({"format": "yoshi-job", "version": 1, "job": {"id": "d"}})["job"] == {"id": "d"}
        assert documents.migrate({"format": "yoshi-job", "version": 1})["job"] == {}

    @pytest.mark.parametrize(
        ("version", "steps"), [(2, ["as_found", "leak_search", "recover"]), (3, ["repair", "pressure_hold", "evacuate"])]
    )
    def test_figures_become_facts_and_steps_keep_their_events(self, version: int, steps: list[str]) -> None:
        events = [{"kind": "closed", "at": NOW.isoformat(), "by": "M. Orrin"}]
        old = {
            "identify": {"runs": [{"sheet": {"serial": "7"}}]},
            steps[0]: {"runs": [{"sheet": {"a": 1}, "ended_at": "2025-02-02", "started_at": "2025-02-01"}, {"sheet": {"b": 2}, "started_at": "2025-02-03"}], "events": events},
            steps[1]: {"runs": [{}]},
            steps[2]: {},
            "verify": {"runs": []},
        }  # fmt: skip
        fact = {"kind": "told", "key": "k", "as_of": "2025-01-01", "source": "me", "values": {}}
        plain = documents.migrate({"format": "yoshi-job", "version": version, "job": {"id": "d", "facts": [fact], "steps": old}})
        assert plain["version"] == 5
        assert plain["job"]["steps"] == {
            "identify": old["identify"], steps[0]: {"runs": [], "events": events}, steps[1]: {"runs": []}, steps[2]: {"runs": []},
            "verify": {"runs": []},
        }  # fmt: skip
        early = "an earlier Yoshi"
        assert plain["job"]["facts"] == [
            fact,
            {"kind": "entries", "key": f"{steps[0]}/0", "as_of": "2025-02-02", "source": early, "values": {"a": 1}},
            {"kind": "entries", "key": f"{steps[0]}/1", "as_of": "2025-02-03", "source": early, "values": {"b": 2}},
            {"kind": "entries", "key": f"{steps[1]}/0", "as_of": "1970-01-01T00:00:00+00:00", "source": early, "values": {}},
        ]

    @pytest.mark.parametrize("version", [2, 3])
    def test_without_figures_nothing_is_added(self, version: int) -> None:
        for job_plain in ({"id": "d", "steps": {"verify": {"runs": []}}}, {"id": "d"}, {"id": "d", "steps": []}):
            plain = documents.migrate({"format": "yoshi-job", "version": version, "job": job_plain})
            assert (plain["version"], plain["job"]) == (5, job_plain)
        assert documents.migrate({"format": "yoshi-job", "version": version})["version"] == 5
        odd = {"id": "d", "steps": {"recover": "x", "repair": 3}}
        assert documents.migrate({"format": "yoshi-job", "version": version, "job": odd})["job"]["steps"] == odd["steps"]

    @pytest.mark.parametrize("version", [1, 2])
    def test_every_version_between_is_gone_through(self, version: int) -> None:
        old = {"recover": {"runs": [{"sheet": {"a": 1}}]}, "repair": {"runs": [{"sheet": {"b": 2}}]}}
        plain = documents.migrate({"format": "yoshi-job", "version": version, "job": {"id": "d", "steps": old}})
        assert [(fact["key"], fact["values"]) for fact in plain["job"]["facts"]] == [("recover/0", {"a": 1}), ("repair/0", {"b": 2})]
        assert plain["job"]["steps"] == {"recover": {"runs": []}, "repair": {"runs": []}}
