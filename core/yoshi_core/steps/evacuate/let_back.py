"""Valves about to be opened on a charge that stands shut in: never into lines that are open, under nitrogen, or under a running pump."""

from collections.abc import Sequence

from yoshi_core.profile.profile import TRADE
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.steps.evacuate.phases import Phase
from yoshi_core.steps.sections import parts_of

WHERE = {"pull": "the pump is on", "nitrogen": "the lines are under nitrogen", "sweep": "the lines are under nitrogen"}


def judge_let_back(done: Sequence[Phase], notes: Notes, context: StepContext) -> None:
    """A Stop while the valves are still shut; once they were opened, what stood there is a remark."""
    nothing = {part.id for part in parts_of(context.job) if part.holds in {"nitrogen", "vacuum", "zero"}}
    acts = [act for act in context.job.acts.values() if act.kind == "let_back" and act.section not in nothing]
    if not acts:
        return
    where = _other_side(done, context)
    if where is None:
        return
    if all(act.done or act.at is not None for act in acts):
        notes.say("vacuum.let_back", "Open", f"The valves were opened while {where}: it is kept in the record.", TRADE)
        return
    text = f"Never open the valves on the charge while {where}: shut the pump off on a proven vacuum first."
    notes.say("vacuum.let_back", "Stop", text, TRADE, role="hard")


def _other_side(done: Sequence[Phase], context: StepContext) -> str | None:
    """What stands against it on the other side of the valves; None where it is an isolated vacuum, or nothing was opened."""
    if done:
        return WHERE.get(done[-1].doing)
    held, repaired = context.handed.pressure_hold, context.handed.repair
    if held is not None and held.filled and not held.let_down:
        return "the lines are under nitrogen"
    return "the lines are open to the air" if repaired is not None and repaired.done else None
