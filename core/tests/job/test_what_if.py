"""What other schools would change in a job, before anything is saved."""

from typing import Any

import pytest

from tests.make import NOW, PLATE, WEIGHED, job
from tests.make_closed import HELD, RECOVERED, REPAIRED, UNIT, vacuum_sheet
from yoshi_core.account.account import Account
from yoshi_core.findings.result import StepResult
from yoshi_core.findings.verdict import Figure, Verdict
from yoshi_core.job import what_if
from yoshi_core.job.evaluate import Findings
from yoshi_core.job.inside import inside_of
from yoshi_core.job.standing import Standing
from yoshi_core.job.what_if import FigureChange, SchoolChange, StepChange
from yoshi_core.message import Message
from yoshi_core.profile.profile import CHOICES, Profile
from yoshi_core.units.display import Amount


def by_option(found: tuple[SchoolChange, ...]) -> dict[tuple[str, str], SchoolChange]:
    return {(change.choice, change.option): change for change in found}


def test_a_shorter_line_deducted_changes_total_and_mark() -> None:
    short = {**PLATE, "included_length": "50 ft", "lines": {"l1": {"length": "30 ft", "allowance": "0.6 oz/ft"}}}
    found = by_option(what_if.other_schools(job(short, WEIGHED), Profile(), NOW))
    change = found[("line.shorter_than_included", "deduct")]
    identify = next(step for step in change.steps if step.step == "identify")
    total = next(figure for figure in identify.figures if figure.label == "total charge")
    assert total.before is not None
    assert total.after is not None
    assert round((total.before.value - total.after.value) / 0.028349523, 1) == 12.0
    assert any(step.step == "weigh_in" for step in change.steps)


def test_a_vacuum_at_700_after_ten_minutes_passes_by_one_school_and_not_by_another() -> None:
    readings = [(30.0 + n, 480.0 + 150.0 * (1 - 2.718 ** (-n / 3.0))) for n in range(31)]
    sheets = {
        "recover": RECOVERED,
        "repair": REPAIRED,
        "pressure_hold": HELD,
        "evacuate": vacuum_sheet([(0, "pump"), (30, "isolated")], readings),
    }
    found = by_option(what_if.other_schools(job(UNIT, kind="service", sheets=sheets), Profile(), NOW))
    change = next(step for step in found[("vacuum.proof", "thousand")].steps if step.step == "evacuate")
    assert change.word_before != "Holds"
    assert change.word_after == "Holds"


def test_the_schools_that_change_nothing_here_are_not_named_and_the_profile_stays() -> None:
    profile = Profile()
    found = what_if.other_schools(job(PLATE, WEIGHED), profile, NOW)
    named = {change.choice for change in found}
    assert "leak.rate" not in named
    assert named < set(CHOICES)
    assert profile.choices == Profile().choices


NOTHING = Message("as it was")


def result(
    step: str, word: Any = "Holds", headline: Message = NOTHING, state: Any = "open", figures: tuple[Figure, ...] = ()
) -> StepResult:
    return StepResult(step, state, Verdict(word, headline), NOTHING, figures=figures)


def figure(name: str, kg: float) -> Figure:
    return Figure(name, name.upper(), Amount(kg, "mass"), NOTHING)


def found(*results: StepResult) -> Findings:
    return Findings("j", "0", "p", 0, NOW, results, Standing(None, None, None, NOTHING), inside_of(Account(), None))


def test_a_change_is_another_word_another_headline_or_another_figure() -> None:
    other = Message("otherwise")
    before = found(result("a"), result("b"), result("c"), result("d", figures=(figure("x", 1.0), figure("y", 2.0))), result("e"))
    after = found(
        result("a"),
        result("b", "Wait"),
        result("c", headline=other),
        result("d", figures=(figure("x", 1.1), figure("z", 3.0))),
        result("e"),
    )
    assert list(what_if.changes(before, after)) == [
        StepChange("b", "Holds", "Wait", NOTHING, ()),
        StepChange("c", "Holds", "Holds", other, ()),
        StepChange(
            "d", "Holds", "Holds", NOTHING,
            (
                FigureChange("X", Amount(1.0, "mass"), Amount(1.1, "mass")), FigureChange("Y", Amount(2.0, "mass"), None),
                FigureChange("Z", None, Amount(3.0, "mass")),
            ),
        ),
    ]  # fmt: skip


@pytest.mark.parametrize(("state", "told"), [("open", True), ("changed", True), ("closed", False), ("not_applicable", False)])
def test_what_is_closed_stays_as_it_was_shown(state: str, told: bool) -> None:
    before = found(result("a", state=state), result("b"))
    after = found(result("a", "Stop", state=state), result("b", "Stop"))
    assert [change.step for change in what_if.changes(before, after)] == (["a", "b"] if told else ["b"])


@pytest.mark.parametrize(
    ("before", "after", "changed"), [(1.0, 1.0 + 9e-7, False), (1.0, 1.0 + 2e-6, True), (0.0, 9e-13, False), (0.0, 1e-10, True)]
)
def test_a_millionth_is_the_same_figure(before: float, after: float, changed: bool) -> None:
    told = what_if.changes(found(result("a", figures=(figure("x", before),))), found(result("a", figures=(figure("x", after),))))
    assert bool(list(told)) is changed


def test_two_jobs_with_other_steps_are_not_compared() -> None:
    with pytest.raises(ValueError, match="zip"):
        list(what_if.changes(found(result("a")), found(result("a"), result("b"))))


def test_a_school_is_named_with_its_own_words_and_the_chosen_ones() -> None:
    short = {**PLATE, "included_length": "50 ft", "lines": {"l1": {"length": "30 ft", "allowance": "0.6 oz/ft"}}}
    choice = CHOICES["line.shorter_than_included"]
    told = by_option(what_if.other_schools(job(short, WEIGHED), Profile(), NOW))[(choice.id, "deduct")]
    assert (told.text, told.option_text, told.chosen_text) == (choice.text, choice.options["deduct"], choice.options[choice.default])
    back = Profile(choices={choice.id: "deduct"})
    again = by_option(what_if.other_schools(job(short, WEIGHED), back, NOW))
    assert (choice.id, "deduct") not in again
    assert again[(choice.id, choice.default)].chosen_text == choice.options["deduct"]
