"""What other schools would change in a job, before anything is saved."""

from tests.make import NOW, PLATE, WEIGHED, job
from tests.make_closed import HELD, RECOVERED, REPAIRED, UNIT, vacuum_sheet
from yoshi_core.job import what_if
from yoshi_core.job.what_if import SchoolChange
from yoshi_core.profile.profile import CHOICES, Profile


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
