"""What is printed, what forms are told, and what a refrigerant's page says."""

import dataclasses

import pytest

from tests.make import DRAW, NOW, PLATE, RUNNING, WEIGHED, findings, job
from yoshi_core.document.model import Job
from yoshi_core.document.schema import dump_full, facts_of
from yoshi_core.errors import InvalidInput, OutOfRange, UnknownRefrigerant
from yoshi_core.job import closing
from yoshi_core.job.evaluate import evaluate
from yoshi_core.job.forms import forms
from yoshi_core.message import Message
from yoshi_core.profile.profile import CHOICES, RULES, Profile, check
from yoshi_core.record import page as report
from yoshi_core.record.record import label_data, record_data
from yoshi_core.steps.registry import STEPS
from yoshi_core.units import Amount
from yoshi_core.views.lookup import catalogue, saturation_page

PROFILE = Profile()


def closed_job() -> Job:
    ending = {"outcome": "proven", "label_fixed": True, "customer": "the observatory", "note": "drier was wet"}
    subject = job(PLATE, WEIGHED, RUNNING, sheets={"close_out": ending}, title="Control room")
    for step in ("identify", "weigh_in", "verify", "close_out"):
        subject = closing.close_step(subject, PROFILE, step, "M. Orrin", NOW)
    return subject


def record(subject: Job, system: str = "us") -> dict[str, object]:
    return record_data(subject, evaluate(subject, PROFILE, NOW), "Field practice", system, NOW, "Brindlewick")


def test_the_record_of_a_proven_job() -> None:
    data = record(closed_job())
    assert data["outcome"] == "Proven"
    assert data["inside"]["lb_oz"] == "10 lb 7.5 oz"  # type: ignore[index]
    assert data["uncertainty"] == "2.4 oz"
    assert [event["what"] for event in data["events"]] == [f"{s} closed" for s in ("Identify", "Weigh in", "Verify", "Close out")]  # type: ignore[attr-defined]
    assert data["customer"] == "the observatory"
    assert sum(part["share"] for part in data["build_up"]["parts"]) == pytest.approx(100)  # type: ignore[index]
    assert [s["word"] for s in data["steps"]] == ["Holds"] * 4  # type: ignore[attr-defined]


def test_the_record_in_si_has_no_ounces() -> None:
    data = record(closed_job(), "si")
    text = str({key: data[key] for key in ("build_up", "marks", "cylinders", "readings", "steps", "plate")})
    assert "4.749 kg" in text
    assert " oz" not in text.replace("typed 9 lb 4 oz", "").replace("typed 0.6 oz/ft", "")


def test_the_label_of_a_proven_job_and_of_an_unproven_one() -> None:
    subject = closed_job()
    label = label_data(subject, evaluate(subject, PROFILE, NOW), "Brindlewick")
    assert (label["refrigerant"], label["closes"], label["date"], label["co2e"]) == ("R-410A", "proven", "18 Jun 2026", "9.91 t")
    assert label["class_line"] == "A1 · GWP 2088"
    empty = job({})
    bare = label_data(empty, evaluate(empty, PROFILE, NOW), "Brindlewick")
    assert (bare["charge"], bare["closes"], bare["refrigerant"]) == (None, "not yet proven", "refrigerant?")


def test_disputes_reopenings_and_reasons_stand_in_the_record() -> None:
    subject = closing.reopen_step(closed_job(), "close_out", "T. Vesk", NOW, "customer's name was wrong")
    dispute = {"path": "/steps/identify/runs/0/sheet/oil", "value": "AB", "by": "J. Pell", "at": NOW.isoformat()}
    disputed = dataclasses.replace(subject, disputes=job({}, disputes=[dispute]).disputes)
    data = record(disputed)
    assert data["disputes"] == ["oil: AB by J. Pell"]
    assert data["events"][-1]["reason"] == "customer's name was wrong"  # type: ignore[index]


def test_a_text_page_shows_problems_questions_and_what_is_missing() -> None:
    bad = job({**PLATE, "factory_charge_other": "201 oz"}, {"system_state": "empty", "draws": {"d1": {**DRAW, "gross_start": "8 lb"}}}, {})
    text = report.page(bad, evaluate(bad, PROFILE, NOW).steps)
    for part in (
        "Identify: Wait",
        "? The plate's other figure",
        "less than its tare",
        "… needs running for",
        "* Prove which units",
    ):
        assert part in text, part


def test_a_message_fills_only_the_names_it_has() -> None:
    assert (
        Message("{a} and {b}", {"a": Amount(1.0, "mass"), "b": Amount(300.0, "temperature", 0.5)}).show("si")
        == "1.000 kg and 26.9 °C ± 1.0 K"
    )
    assert Message("{a} typed by a person", {}).show() == "{a} typed by a person"


def test_forms_know_every_field_of_every_built_step() -> None:
    told = forms()
    assert set(told["sheets"]) == {
        "identify",
        "as_found",
        "plan_change",
        "leak_search",
        "recover",
        "repair",
        "change_over",
        "pressure_hold",
        "evacuate",
        "weigh_in",
        "verify",
        "close_out",
    }
    for step, fields in told["sheets"].items():
        assert set(fields) == set(facts_of(STEPS[step].sheet))
        for name, facts in fields.items():
            assert facts["label"], (step, name)
            if "unit" in facts:
                symbols = [u["symbol"] for u in told["quantities"][facts["quantity"]]["units"]]
                assert {facts["unit"]["us"], facts["unit"]["si"]} <= set(symbols)
    assert [s["id"] for s in told["steps"]["quick"]] == ["identify", "weigh_in"]


def test_every_threshold_has_a_source_and_a_default_inside_its_range() -> None:
    for rule in RULES.values():
        assert rule.source
        assert rule.text
        assert rule.low <= rule.default <= rule.high, rule.id
    for choice in CHOICES.values():
        assert choice.default in choice.options
        assert choice.reason
        assert len(choice.options) >= 2


def test_a_profile_out_of_its_range_is_refused_with_the_rule() -> None:
    check(Profile(overrides={"verify.run_in": 900.0}, choices={"charge.set_by": "readings"}))
    with pytest.raises(OutOfRange) as caught:
        check(Profile(overrides={"trim.cap_share": 0.9}))
    assert caught.value.path == "/overrides/trim.cap_share"
    for wrong in (Profile(overrides={"no.such": 1.0}), Profile(choices={"charge.set_by": "luck"}), Profile(choices={"nothing": "x"})):
        with pytest.raises(InvalidInput):
            check(wrong)


def test_the_catalogue_page() -> None:
    rows = {row["name"]: row for row in catalogue()}
    assert rows["R-454C"]["glide_k"] > rows["R-454B"]["glide_k"] > rows["R-410A"]["glide_k"] > 0
    assert rows["R-290"]["glide_k"] == pytest.approx(0, abs=1e-9)
    assert all(row["last_k"] > row["first_k"] for row in rows.values())


@pytest.mark.parametrize("units", ["us", "si"])
def test_a_saturation_page_in_both_units(units: str) -> None:
    page = saturation_page("r 407c", "66.5" if units == "us" else "4.585", "", "2100 m", "vented", units)
    assert page["refrigerant"] == "R-407C"
    assert page["dew_k"] > page["bubble_k"]
    assert page["glide_k"] == pytest.approx(page["dew_k"] - page["bubble_k"])
    assert page["temperature_k"] is None
    temperatures = [row["temperature_k"] for row in page["table"]]
    assert temperatures == sorted(temperatures)
    assert len(temperatures) > 10


def test_what_a_sealed_gauge_would_read_is_told_either_way() -> None:
    vented = saturation_page("R-410A", "128", "", "2100 m", "vented")
    sealed = saturation_page("R-410A", "128", "", "2100 m", "sealed")
    assert vented["sealed_dew_k"] == pytest.approx(sealed["dew_k"])
    assert sealed["sealed_dew_k"] == pytest.approx(vented["dew_k"])


def test_a_page_of_an_unknown_refrigerant_or_gauge() -> None:
    with pytest.raises(UnknownRefrigerant):
        saturation_page("R-999", "1", "", "", "vented")
    with pytest.raises(InvalidInput):
        saturation_page("R-32", "1", "", "", "open")


def test_findings_are_complete_as_plain_data() -> None:
    plain = dump_full(evaluate(closed_job(), PROFILE, NOW))
    assert set(plain) == {
        "job_id",
        "core_version",
        "profile_id",
        "profile_revision",
        "now",
        "steps",
        "standing",
        "inside",
        "claims",
        "movements",
        "grams_first",
    }
    for step in plain["steps"]:
        assert {"verdict", "figures", "missing", "questions", "problems", "cautions", "movements", "picture", "state", "summary"} <= set(
            step
        )


def test_every_rule_stands_in_exactly_one_group_of_the_profile_page() -> None:
    shown = [rule for group in forms()["rule_groups"] for rule in group["rules"]]
    assert sorted(shown) == sorted(forms()["rules"])


def test_a_step_tells_the_interface_how_it_is_left_out_and_what_fills_it() -> None:
    steps = forms()["step"]
    assert {name for name, step in steps.items() if step["must"]} == {"identify", "plan_change", "change_over", "close_out"}
    for name, step in steps.items():
        assert set(step["channels"]) <= set(forms()["channels"]), name
        for field in step["capture"]["fields"] if step["capture"] else ():
            record = step["capture"]["record"]
            fields = forms()["sheets"][name][record]["row"] if record else forms()["sheets"][name]
            assert field["field"] in fields
            assert set(field["channels"]) <= set(forms()["channels"])


def test_the_place_to_look_at_next_names_the_field_of_its_method() -> None:
    found = findings(PLATE, kind="service", sheets={"leak_search": {"inside": "refrigerant"}}).step("leak_search")
    places = found.picture.places  # type: ignore[union-attr]
    assert {place.method_id for place in places if place.rank} <= set(forms()["sheets"]["leak_search"]["places"]["row"])
    assert all(place.method_id for place in places if place.rank)
