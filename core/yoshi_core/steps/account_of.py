"""The account of a job's circuit: every step's rows as lines, in one order."""

from dataclasses import replace

from yoshi_core.account.account import Account, account_of
from yoshi_core.account.lines import Line
from yoshi_core.document.model import Job, StepRecord
from yoshi_core.document.patched import rivals
from yoshi_core.document.plate import Plate
from yoshi_core.profile.profile import Profile
from yoshi_core.steps import registry
from yoshi_core.steps.act_lines import act_lines
from yoshi_core.steps.entered import Entered
from yoshi_core.steps.plates import changes_to


def account_of_job(job: Job, plate: Plate, profile: Profile, full_kg: float | None = None) -> Account:
    """What came, went and is inside by this job's document.

    `full_kg` is what belongs in by record or plate. Where two values of a figure stand it spans both. After the step that changes the
    refrigerant, lines are of the new one.
    """
    found = _lines(job, plate, profile, full_kg)
    for rival in rivals(job):
        found = _spanning(found, _lines(rival, plate, profile, full_kg))
    return account_of(found)


def _spanning(lines: list[Line], others: list[Line]) -> list[Line]:
    """Lines that cover both of two values two people left standing; a line only one of them makes may be nought."""
    second = {line.id: line for line in others}
    found = []
    for line in lines:
        other = second.pop(line.id, None)
        found.append(line if other == line else _both(line, other))
    return [*found, *(_both(line, None) for line in second.values())]


def _both(line: Line, other: Line | None) -> Line:
    lows, highs = (line.low_kg, other.low_kg if other else 0.0), (line.high_kg, other.high_kg if other else line.high_kg)
    high = None if None in highs else max(bound for bound in highs if bound is not None)
    return replace(line, low_kg=min(lows), high_kg=high, u_kg=max(line.u_kg, other.u_kg if other else 0.0), weighing=None)


def _lines(job: Job, plate: Plate, profile: Profile, full_kg: float | None) -> list[Line]:
    old, new = plate.refrigerant or "", changes_to(job) or plate.refrigerant or ""
    scale = profile.value("scale.limit")
    found: list[Line] = []
    changed = False
    for place, step in enumerate(registry.order(job.kind)):
        changed = changed or step == "change_over"
        lines = registry.STEPS[step].lines
        if lines is not None:
            found += lines(Entered(job, step, place, plate, new if changed else old, profile, full_kg))
    return [*found, *act_lines(job, new if changed_over(job) else old, scale)]


def changed_over(job: Job) -> bool:
    """Whether the step that changes the refrigerant has been begun: what comes and goes after it is of the new one."""
    return bool(job.steps.get("change_over", StepRecord()).runs)
