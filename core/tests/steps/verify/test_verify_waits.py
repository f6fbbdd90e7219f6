"""Verify waits: for the run-in, for a step to settle, and for readings that stand still (common practice, no source)."""

from datetime import timedelta
from typing import Any

import pytest

from tests.make import NOW, RUNNING, findings, job, oz, reading_with
from tests.make_closed import rules, said
from yoshi_core.findings.pictures import VerifyPicture
from yoshi_core.findings.result import StepResult
from yoshi_core.job import documents
from yoshi_core.job.evaluate import evaluate
from yoshi_core.profile.profile import Profile
from yoshi_core.units.quantities import OZ_KG, PSI_PA

UNIT = {
    "refrigerant": "R-410A",
    "factory_charge": "6 lb",
    "kind": "packaged",
    "metering": "txv",
    "altitude": "0 m",
    "gauge_reference": "vented",
}
WEIGHED = {"system_state": "empty", "draws": {"d1": {"cylinder": "21", "gross_start": "20 lb", "tare": "9 lb", "gross_end": "14 lb"}}}


def ago(minutes: float) -> str:
    return (NOW - timedelta(minutes=minutes)).isoformat()


def verified(readings: dict[str, Any], **sheet: Any) -> StepResult:
    return findings(UNIT, WEIGHED, {**RUNNING, **sheet, "readings": readings}).step("verify")


class TestRunIn:
    def test_it_counts_from_the_start_to_now_and_waits(self) -> None:
        found = verified({}, run_in=None, started_at=ago(4))
        assert rules(found)["verify.run_in"] == "Wait"
        assert found.waiting is not None
        assert found.waiting.until - NOW == timedelta(minutes=6)

    def test_a_reading_taken_too_early_stays_too_early(self) -> None:
        early = {"r1": {**reading_with(12, 10), "at": ago(56)}}
        found = verified(early, run_in=None, started_at=ago(60))
        assert said(found, "verify.run_in").startswith("It has run 4 min")
        assert found.waiting is None
        assert found.figure("trim_step") is None

    def test_read_in_time_it_speaks(self) -> None:
        found = verified({"r1": {**reading_with(12, 10), "at": ago(2)}}, run_in=None, started_at=ago(20))
        assert rules(found)["verify.run_in"] == "Holds"
        assert found.verdict.word == "Holds"

    def test_a_start_after_the_reading_is_refused_by_name(self) -> None:
        found = verified({"r1": {**reading_with(12, 10), "at": ago(30)}}, run_in=None, started_at=ago(20))
        assert [p.code for p in found.problems] == ["starts_later"]


class TestSettling:
    FIRST = {**reading_with(12, 1), "at": ago(30)}

    def test_after_a_step_it_waits_and_offers_no_second_step(self) -> None:
        found = verified({"r1": self.FIRST, "r2": {"added": "3 oz", "changed_at": ago(2)}})
        assert found.verdict.headline.show() == "It settles for 10 min after the step."
        assert found.waiting is not None
        assert found.waiting.until - NOW == timedelta(minutes=8)
        assert found.figure("trim_step") is None
        assert oz(found.picture.tape.inside_kg) == pytest.approx(99.0)  # type: ignore[union-attr]

    def test_read_too_soon_it_is_read_again(self) -> None:
        rows = {"r1": self.FIRST, "r2": {"added": "3 oz", "changed_at": ago(20), **reading_with(12, 3), "at": ago(16)}}
        assert "It was read 4 min after the step" in said(verified(rows), "verify.settle")
        rows["r3"] = {**reading_with(12, 3), "at": ago(8)}
        assert "verify.settle" not in rules(verified(rows))


class TestSteady:
    def test_two_readings_without_a_change_must_agree(self) -> None:
        moving = verified({"r1": reading_with(12, 1), "r2": reading_with(12, 5)})
        assert rules(moving)["verify.steady"] == "Wait"
        assert "subcooling went from 1.0 °F to 5.0 °F" in said(moving, "verify.steady")
        assert moving.figure("trim_step") is None
        still = verified({"r1": reading_with(12, 1), "r2": reading_with(12, 5), "r3": reading_with(12, 5.5)})
        assert "verify.steady" not in rules(still)
        assert still.figure("trim_step") is not None


class TestTheScaleSaysWhatWentIn:
    FIRST = reading_with(12, 4)

    def test_before_and_after_are_the_step(self) -> None:
        rows = {"r1": self.FIRST, "r2": {"gross_before": "14 lb", "gross_after": "13 lb 13 oz", **reading_with(12, 7)}}
        found = verified(rows)
        assert found.drawn(VerifyPicture).trims[1].added_kg == pytest.approx(3 * OZ_KG)
        assert [(m.kind, m.source, round(oz(m.mass_kg), 3)) for m in found.movements] == [("charge", "cylinder:21", 3.0)]

    def test_the_mark_stands_as_soon_as_the_scale_is_read(self) -> None:
        found = verified({"r1": self.FIRST, "r2": {"gross_before": "14 lb"}})
        step, tape, scale = found.figure("trim_step"), found.drawn(VerifyPicture).tape, found.drawn(VerifyPicture).scale
        assert step is not None
        assert tape is not None
        assert scale is not None
        assert tape.close_gross_kg == pytest.approx(14 * 16 * OZ_KG - step.amount.value)
        assert scale.marks[-1].gross_kg == tape.close_gross_kg
        assert scale.before_kg == pytest.approx(96 * OZ_KG)

    def test_a_step_broken_off_goes_on_with_what_is_left_of_it(self) -> None:
        whole = verified({"r1": self.FIRST}).figure("trim_step")
        part = {"gross_before": "14 lb", "gross_after": "13 lb 15 oz"}
        rest = verified({"r1": self.FIRST, "r2": part, "r3": {"gross_before": "13 lb 15 oz"}}).figure("trim_step")
        assert whole is not None
        assert rest is not None
        assert oz(rest.amount.value) == pytest.approx(oz(whole.amount.value) - 1.0)
        assert verified({"r1": self.FIRST, "r2": part}).figure("trim_step") is None

    def test_said_twice_it_is_refused(self) -> None:
        rows = {"r1": self.FIRST, "r2": {"gross_before": "14 lb", "gross_after": "13 lb 13 oz", "added": "4 oz"}}
        assert [p.code for p in verified(rows).problems] == ["change_said_twice"]

    def test_what_is_taken_out_wants_its_cylinder(self) -> None:
        found = verified({"r1": reading_with(12, 18), "r2": {"removed": "3 oz", **reading_with(12, 16)}})
        assert "the cylinder it was taken into" in [m.label for m in found.missing]
        rows = {"r1": reading_with(12, 18), "r2": {"removed": "3 oz", "cylinder": "R4", **reading_with(12, 16)}}
        assert [(m.kind, m.destination) for m in verified(rows).movements] == [("recover", "cylinder:R4")]


class TestPreparedFirst:
    @pytest.mark.parametrize("field", ["filter_ok", "coils_ok", "doors_ok", "load_ok"])
    def test_nothing_is_trimmed_before_it_is_right(self, field: str) -> None:
        found = verified({"r1": reading_with(12, 4)}, **{field: False})
        assert found.verdict.word == "Wait"
        assert found.verdict.reasons[0].rule_id == f"verify.{field}"
        assert found.figure("trim_step") is None


class TestWhatADegreeIsWorth:
    def test_the_relation_first_then_the_units_own_answer(self) -> None:
        """SC* 10 °F: 3 °F over 10/((1 − 0.75)·0.73) is 5.475 % of 96 oz."""
        first = verified({"r1": reading_with(12, 4)}).figure("tolerance_worth")
        assert first is not None
        assert oz(first.amount.value) == pytest.approx(96 * 0.3 * 0.25 * 0.73, rel=1e-3)
        own = verified({"r1": reading_with(12, 4), "r2": {"added": "3 oz", **reading_with(12, 5.5)}}).figure("tolerance_worth")
        assert own is not None
        assert oz(own.amount.value) == pytest.approx(6.0, rel=1e-3)
        assert own.why.source == "this unit's own answer to the steps logged"

    def test_an_instruments_own_error_is_what_the_probes_are_worth(self) -> None:
        """Captured readings carry their ±: a clamp of 0.2 °F and a gauge of 0.1 psi against the usual 1 °F and 1 psi."""
        plain = reading_with(12, 4)
        fine = {
            **plain,
            "liquid_pressure": {"text": plain["liquid_pressure"], "limit": 0.1 * PSI_PA, "source": "measured"},
            "liquid_line": {"text": plain["liquid_line"], "limit": 0.2 / 1.8, "source": "measured"},
        }
        usual, better = (verified({"r1": row}).figure("probes_worth") for row in (plain, fine))
        assert usual is not None
        assert better is not None
        assert better.amount.value < usual.amount.value / 4

    def test_what_is_expected_after_the_step_is_drawn(self) -> None:
        found = verified({"r1": reading_with(12, 4), "r2": {"added": "3 oz", **reading_with(12, 5.5)}})
        band = next(b for b in found.drawn(VerifyPicture).bands if b.id == "subcooling")
        step = found.figure("trim_step")
        assert step is not None
        assert band.expected == pytest.approx(band.amount.value + oz(step.amount.value) * 0.5 / 1.8, rel=1e-3)

    def test_subcooling_over_what_the_air_allows_is_an_instrument(self) -> None:
        found = verified({"r1": {**reading_with(12, 16), "outdoor": "90 °F"}})
        assert found.verdict.word == "Stop"
        assert "cannot be over 9.8 °F" in said(found, "verify.subcooling_most")


class TestSafety:
    def test_a_caution_is_seen_once_a_job_over_all_runs_of_its_step(self) -> None:
        plain = documents.dump_job(job(UNIT, WEIGHED, {**RUNNING, "readings": {}}))
        fresh = evaluate(documents.load_job(plain), Profile(), NOW).step("weigh_in").cautions
        assert fresh
        assert not any(caution.seen for caution in fresh)
        plain["steps"]["weigh_in"]["runs"][0]["answers"] = {f"safety:{fresh[0].id}": "seen"}
        plain["steps"]["weigh_in"]["runs"].append(plain["steps"]["weigh_in"]["runs"][0] | {"answers": {}})
        found = evaluate(documents.load_job(plain), Profile(), NOW)
        assert [caution.id for caution in found.step("weigh_in").cautions if caution.seen] == [fresh[0].id]
        assert not any(caution.seen for caution in found.step("verify").cautions)

    @pytest.mark.parametrize("kind", ["flammable", "skin", "air"])
    def test_a_flammable_refrigerant_has_its_own_at_the_scale(self, kind: str) -> None:
        found = findings({**UNIT, "refrigerant": "R-32"}, WEIGHED).step("weigh_in")
        assert kind in {caution.id for caution in found.cautions}


class TestAtTheEdge:
    """Out by less than the probes can be wrong, a weighed charge nobody trimmed yet is left alone."""

    def test_the_weight_stands_and_no_step_is_begun(self) -> None:
        found = verified({"r1": reading_with(12, 6.2)})
        assert found.verdict.word == "Holds"
        assert found.verdict.headline.show() == "The weighed charge stands; subcooling is at its edge."
        assert rules(found)["verify.subcooling_tolerance"] == "Open"
        assert found.figure("trim_step") is None
        assert next(b.word for b in found.drawn(VerifyPicture).bands if b.id == "subcooling") == "Open"

    def test_further_out_a_step_is_due(self) -> None:
        assert verified({"r1": reading_with(12, 5.5)}).figure("trim_step") is not None

    def test_once_trimming_has_begun_it_goes_on_to_the_band(self) -> None:
        rows = {"r1": reading_with(12, 4), "r2": {"added": "3 oz", **reading_with(12, 6.2)}}
        assert verified(rows).figure("trim_step") is not None

    def test_where_readings_set_the_charge_the_band_decides(self) -> None:
        profile = Profile(choices={"charge.set_by": "readings"})
        found = findings(UNIT, WEIGHED, {**RUNNING, "readings": {"r1": reading_with(12, 6.2)}}, profile=profile).step("verify")
        assert found.verdict.word == "Wait"
