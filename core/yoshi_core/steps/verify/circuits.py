"""Two circuits not told apart: the smaller charge was weighed in; the running unit says which plate is its own."""

from yoshi_core.document.plate import Plate
from yoshi_core.document.sheets import value_of
from yoshi_core.profile.profile import TRADE
from yoshi_core.running.trim import TrimStep
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.units.display import Amount

HALF = 0.5


def between(plate: Plate) -> tuple[float, float] | None:
    """The smaller and the larger charge in kg of two circuits not told apart; None where there is nothing to decide."""
    one, other = value_of(plate.factory_charge), value_of(plate.other_charge)
    if plate.circuit_known is not False or one is None or other is None or one == other:
        return None
    return min(one, other), max(one, other)


def decide(step: TrimStep | None, held: bool, plan_kg: float | None, inside_kg: float | None, notes: Notes, context: StepContext) -> None:
    """Inside its band it is the smaller; short by at least half of what lies between the two it is the larger."""
    both = between(context.plate)
    if both is None or plan_kg is None or inside_kg is None:
        return
    small, large = both
    difference = large - small
    amounts = {
        "small": Amount(small, "mass"),
        "large": Amount(large, "mass"),
        "add": Amount(max(plan_kg + difference - inside_kg, 0.0), "mass"),
    }
    if held:
        text = "It runs right on {small}: this is the smaller circuit. Mark it, and the other one with {large}."
        notes.tell("verify.which_circuit", "Holds", text, TRADE, amounts, role="which_circuit")
    elif step is not None and step.short_share is not None and step.short_share * plan_kg >= HALF * difference:
        text = "It answers like the larger circuit: {large} is its plate. Add {add} and read again; then mark both."
        notes.tell("verify.which_circuit", "Wait", text, TRADE, amounts)
