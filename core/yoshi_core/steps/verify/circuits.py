"""Two circuits not told apart: the smaller charge was weighed in; the running unit says which plate is its own."""

from dataclasses import replace

from yoshi_core.document.plate import Plate
from yoshi_core.document.sheets import value_of
from yoshi_core.message import sentence
from yoshi_core.profile.profile import TRADE
from yoshi_core.running.trim import TrimStep
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.steps.verify.trim import Worth
from yoshi_core.steps.weigh_in.handed import Weighed
from yoshi_core.units.display import Amount

HALF = 0.5


def between(plate: Plate) -> tuple[float, float] | None:
    """The smaller and the larger charge in kg of two circuits not told apart; None where there is nothing to decide."""
    one, other = value_of(plate.factory_charge), value_of(plate.other_charge)
    if plate.circuit_known is not False or one is None or other is None or one == other:
        return None
    return min(one, other), max(one, other)


def decide(
    step: TrimStep | None, held: bool, worth: Worth | None, weighed: Weighed, inside_kg: float | None, notes: Notes, context: StepContext
) -> TrimStep | None:
    """Inside its band it is the smaller; short by at least half of what lies between the two it is the larger. The step that is then left.

    Nothing is told where today's tolerance is worth more than lies between the two plates.
    """
    both = between(context.plate)
    if both is None or weighed.plan_kg is None or inside_kg is None:
        return step
    small, large = both
    difference = large - small
    add = max(weighed.plan_kg + difference - inside_kg, 0.0)
    amounts = {"small": Amount(small, "mass"), "large": Amount(large, "mass"), "add": Amount(add, "mass")}
    if held and worth is not None and worth.tolerance_kg > difference:
        amounts |= {"tolerance": Amount(worth.tolerance_kg, "mass"), "difference": Amount(difference, "mass")}
        text = sentence(
            "Which circuit this is, the reading cannot tell: its tolerance is worth {tolerance}, and the plates differ by {difference}."
        )
        notes.tell("verify.which_circuit", "Open", text, TRADE, amounts)
    elif held:
        text = sentence("It runs right on {small}: this is the smaller circuit. Mark it, and the other one with {large}.")
        notes.tell("verify.which_circuit", "Holds", text, TRADE, amounts, role="which_circuit")
    elif step is not None and step.short_share is not None and step.short_share * weighed.plan_kg >= HALF * difference:
        text = sentence("It answers like the larger circuit: {large} is its plate. Add {add} and read again; then mark both.")
        notes.reasons[:] = [reason for reason in notes.reasons if reason.role != "step"]  # never two amounts at once
        notes.tell("verify.which_circuit", "Wait", text, TRADE, amounts)
        return replace(step, mass_kg=add)
    return step
