"""What a closed step is sealed on and rests on, what a job carries in one sentence, and how refusals name their place."""

from dataclasses import replace
from datetime import timedelta
from typing import Any

import pytest

from tests.make import NOW, PLATE, WEIGHED, job
from tests.whole_jobs.day import Day
from yoshi_core.document.acts import Act, Section
from yoshi_core.document.model import Visit
from yoshi_core.errors import InvalidInput
from yoshi_core.findings.claims import Claim
from yoshi_core.job import closing, patches, visits
from yoshi_core.job.evaluate import deciding, evaluate, inputs_hash
from yoshi_core.job.forms import forms
from yoshi_core.job.standing import standing_sentence
from yoshi_core.message import Message
from yoshi_core.profile.profile import Profile
from yoshi_core.units.display import Amount

PLAIN = job(PLATE, WEIGHED)
CLAIM = evaluate(PLAIN, Profile(), NOW).claim("tight")


class TestSeal:
    @pytest.mark.parametrize(
        "more",
        [
            {"acts": {"a1": Act(kind="in")}},
            {"acts": {"a1": Act(kind="out")}},
            {"sections": {"s1": Section("receiver")}},
            {"sections": {"s1": Section("loft")}},
        ],
    )
    def test_acts_and_parts_are_under_it_except_of_a_step_closed_before_there_were_any(self, more: dict[str, Any]) -> None:
        changed = replace(PLAIN, **more)
        assert inputs_hash(changed, "weigh_in") != inputs_hash(PLAIN, "weigh_in")
        assert inputs_hash(changed, "weigh_in", as_version_4=True) == inputs_hash(PLAIN, "weigh_in", as_version_4=True)

    def test_no_two_acts_or_parts_seal_alike(self) -> None:
        some = [
            {"acts": {"a1": Act(kind="in")}}, {"acts": {"a1": Act(kind="out")}}, {"sections": {"s1": Section("receiver")}}, {"sections": {"s1": Section("loft")}},
        ]  # fmt: skip
        assert len({inputs_hash(replace(PLAIN, **more), "weigh_in") for more in some}) == len(some)

    def test_words_of_then_and_of_now_seal_apart_where_they_differ(self) -> None:
        bubbles = Day("08:00")
        bubbles.type("identify", refrigerant="R-410A", kind="split")
        bubbles.type("pressure_hold", bubbles="no")
        assert inputs_hash(bubbles.job, "pressure_hold") != inputs_hash(bubbles.job, "pressure_hold", as_version_4=True)


def test_what_a_step_rests_on_is_its_own_claim_and_its_figures_as_shown() -> None:
    found = evaluate(PLAIN, Profile(), NOW)
    weighed = found.step("weigh_in")
    claims = [replace(CLAIM, step="weigh_in", standing="shown"), replace(CLAIM, step="evacuate", standing="contradicted")]
    said = deciding(weighed, claims)
    assert (said["step"], said["claim"]) == ("weigh_in", "shown")
    assert {key for key in said if key.startswith("figure:")} == {f"figure:{figure.id}" for figure in weighed.figures}
    for standing, kept in (("answered_for", "not_yet"), ("not_yet", "not_yet"), ("contradicted", "contradicted")):
        assert deciding(weighed, [replace(CLAIM, step="weigh_in", standing=standing)])["claim"] == kept
    assert "claim" not in deciding(weighed, claims[1:])


class TestCarried:
    def claim(self, standing: str, **more: Any) -> Claim:
        words = Message("{out} of {full} were not there.", {"out": Amount(0.5, "mass"), "full": Amount(1.0, "mass")})
        return replace(CLAIM, standing=standing, words=words, **more)

    def test_every_amount_goes_with_its_sentence(self) -> None:
        said = standing_sentence([self.claim("contradicted")])
        assert said is not None
        assert said.show() == f"{CLAIM.label}: 1 lb 1.6 oz of 2 lb 3.3 oz were not there."

    def test_who_answers_is_named_only_where_somebody_does(self) -> None:
        said = standing_sentence([self.claim("answered_for", by="J. Pell", reason="dusk")])
        assert said is not None
        assert said.show().endswith("were not there. J. Pell answers for it: dusk.")
        against = standing_sentence([self.claim("contradicted", by="J. Pell", reason="dusk")])
        assert against is not None
        assert "answers for it" not in against.show()

    def test_more_of_them_are_counted(self) -> None:
        said = standing_sentence([self.claim("answered_for", by="J. Pell", reason="dusk"), self.claim("contradicted")])
        assert said is not None
        assert said.show().endswith("were not there. And 1 more.")


class TestRefusals:
    def test_a_hard_stop_that_leaving_out_does_not_lift_names_itself_and_its_step(self) -> None:
        day = Day("08:00", stops={"hold.gas"})
        day.type("identify", refrigerant="R-410A", kind="split")
        day.type("pressure_hold", gas="other", test_pressure="100 psig")
        with pytest.raises(InvalidInput) as caught:
            closing.not_applicable(day.job, "pressure_hold", "orrin", NOW, "no time")
        assert caught.value.path == "/steps/pressure_hold"
        assert caught.value.message.startswith("A reason does not lift this: ")

    def test_a_claim_nobody_knows_is_named(self) -> None:
        with pytest.raises(KeyError, match="no such claim"):
            evaluate(PLAIN, Profile(), NOW).claim("no such claim")


def test_a_new_run_belongs_to_the_visit_that_goes_on() -> None:
    two = replace(PLAIN, visits=(Visit("v1", NOW, ("orrin",), outcome="left_safe"), Visit("v2", NOW + timedelta(days=1), ("orrin",))))
    closed = closing.close_step(two, Profile(), "identify", "orrin", NOW, "as it stands")
    again = closing.reopen_step(closed, "identify", "orrin", NOW, "a second look", new_run=True)
    assert again.steps["identify"].runs[-1].visit == "v2"


def test_forms_have_what_stands_beside_the_steps() -> None:
    found = forms()
    assert set(found["acts"]) >= {"kind", "cylinder", "gross_before"}
    assert set(found["sections"]) == {"label", "volume", "stamp"}


def test_an_entry_without_a_word_on_how_it_is_known_is_one_that_does_not_say() -> None:
    assert patches.same({"value": 1.0}, {"value": 1.0, "source": "typed"})
    assert not patches.same({"value": 1.0}, {"value": 1.0, "source": "weighed"})


def test_a_quick_total_has_no_ways_to_end_and_a_visit_of_it_takes_a_reason() -> None:
    quick = replace(PLAIN, kind="quick", steps={"identify": PLAIN.steps["identify"]}, visits=(Visit("v1", NOW, ("orrin",)),))
    found = evaluate(quick, Profile(), NOW)
    assert visits.ways(found) == ()
    with pytest.raises(InvalidInput) as caught:
        visits.end_visit(quick, found, visits.Ending("left_safe"), "orrin", NOW)
    assert caught.value.path == "/reason"
    assert visits.end_visit(quick, found, visits.Ending("left_safe", "done for today"), "orrin", NOW).visits[-1].outcome == "left_safe"
