"""The account of a job's circuit: every step's rows as lines, in one order."""

from yoshi_core.account.account import Account, account_of
from yoshi_core.account.lines import Line
from yoshi_core.document.model import Job, StepRecord
from yoshi_core.document.plate import Plate
from yoshi_core.profile.profile import Profile
from yoshi_core.steps import registry
from yoshi_core.steps.act_lines import act_lines
from yoshi_core.steps.entered import Entered
from yoshi_core.steps.plates import changes_to


def account_of_job(job: Job, plate: Plate, profile: Profile, full_kg: float | None = None) -> Account:
    """What came, went and is inside by this job's document; `full_kg` is what belongs in by record or plate. After the step that changes the refrigerant, lines are of the new one."""
    old, new = plate.refrigerant or "", changes_to(job) or plate.refrigerant or ""
    scale = profile.value("scale.limit")
    found: list[Line] = []
    changed = False
    for place, step in enumerate(registry.order(job.kind)):
        changed = changed or step == "change_over"
        lines = registry.STEPS[step].lines
        if lines is not None:
            found += lines(Entered(job, step, place, plate, new if changed else old, scale, full_kg))
    found += act_lines(job, new if changed_over(job) else old, scale)
    return account_of(found)


def changed_over(job: Job) -> bool:
    """Whether the step that changes the refrigerant has been begun: what comes and goes after it is of the new one."""
    return bool(job.steps.get("change_over", StepRecord()).runs)
