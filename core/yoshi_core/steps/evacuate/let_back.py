"""Valves about to be opened on a charge that stands shut in: never into lines that are open, under nitrogen, or under a running pump."""

from collections.abc import Sequence

from yoshi_core.frozen import dataclass
from yoshi_core.message import sentence
from yoshi_core.profile.profile import TRADE
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.steps.evacuate.phases import Phase
from yoshi_core.steps.sections import parts_of


@dataclass(frozen=True)
class Barred:
    """What is said where the valves were opened, and where they are about to be."""

    kept: str
    never: str


PUMP = Barred(
    sentence("The valves were opened while the pump was on: it is kept in the record."),
    sentence("Never open the valves on the charge while the pump is on: shut the pump off on a proven vacuum first."),
)
NITROGEN = Barred(
    sentence("The valves were opened while the lines were under nitrogen: it is kept in the record."),
    sentence("Never open the valves on the charge while the lines are under nitrogen: pull a vacuum, and shut the pump off on it, first."),
)
AIR = Barred(
    sentence("The valves were opened while the lines were open to the air: it is kept in the record."),
    sentence("Never open the valves on the charge while the lines are open to the air: pull a vacuum, and shut the pump off on it, first."),
)
WHERE = {"pull": PUMP, "nitrogen": NITROGEN, "sweep": NITROGEN}


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
        notes.say("vacuum.let_back", "Open", where.kept, TRADE)
        return
    notes.say("vacuum.let_back", "Stop", where.never, TRADE, role="hard")


def _other_side(done: Sequence[Phase], context: StepContext) -> Barred | None:
    """What stands against it on the other side of the valves; None where it is an isolated vacuum, or nothing was opened."""
    if done:
        return WHERE.get(done[-1].doing)
    held, repaired = context.handed.pressure_hold, context.handed.repair
    if held is not None and held.filled and not held.let_down:
        return NITROGEN
    return AIR if repaired is not None and repaired.done else None
