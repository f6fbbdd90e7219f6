"""Charged right: the account's balance against the total, within its tolerance."""

from yoshi_core.account.account import Balance
from yoshi_core.document.model import StepRecord
from yoshi_core.message import Message, joined, sentence
from yoshi_core.steps.claiming import Told, lost, opened
from yoshi_core.steps.contract import StepContext
from yoshi_core.steps.tolerance import Tolerance, tolerance_of
from yoshi_core.units.display import Amount

TOTAL_STANDS = frozenset({"plate", "note", "makers", "weighed", "measured"})
ONLY_SAID = frozenset({"told", "assumed"})
BALANCE_STANDS = frozenset({"weighed", "measured", "stamped"})
MOVES = frozenset({"added", "taken", "lost", "emptied", "let_back"})


def claim(context: StepContext) -> Told:
    """Shown by a balance that was weighed, or is a stamped charge still sealed; once weighing is over, a balance all outside is against it."""
    told, balance = Told(), context.account.balance
    goal = context.handed.weigh_in.goal_kg
    moved = any(row.line.kind in MOVES for row in context.account.booked)
    if not moved and not opened(context) and lost(context) is None:
        return told.say("not_in_question", Message("Nothing went in or out, and nothing says that the charge is wrong."))
    if goal is None:
        told.lacks("/steps/identify/runs/0/sheet/factory_charge", "the charge that belongs in")
        return told.say("not_yet", Message("What belongs in is not known: see Identify."))
    tolerance = tolerance_of(context.plate, goal, context.profile)
    mass = balance.mass_kg
    if mass is None:
        return _not_a_mass(balance, goal, tolerance, told, context)
    return _held_against(mass, goal, tolerance, told, context)


def _held_against(mass: float, goal: float, tolerance: Tolerance, told: Told, context: StepContext) -> Told:
    balance, verified = context.account.balance, context.handed.verify
    changed = context.handed.plan_change is not None
    amounts = {"inside": Amount(mass, "mass", balance.u_kg or None), "total": Amount(goal, "mass"), "limit": Amount(tolerance.kg, "mass")}
    trimmed = verified.trimmed and verified.shows == "target"
    if tolerance.holds(mass - goal) and changed and verified.shows != "target":
        told.later("verify", context)
        text = sentence("{inside} inside, to begin with; how much belongs in the running unit says.")
        return told.say("not_yet", Message(text, amounts))
    if tolerance.holds(mass - goal) and not changed:
        return _within(amounts, tolerance, told, context)
    if trimmed or (changed and verified.shows == "target"):
        text = sentence("{inside} inside, {total} to begin with; trimmed to what the running unit asks for.")
        told.pro("verify", Message(text, amounts))
        return told.say("shown", Message(text, amounts))
    gap = {**amounts, "gap": Amount(abs(mass - goal), "mass")}
    text = (
        sentence("{inside} inside, {gap} over {total}; {limit} is allowed.")
        if mass > goal
        else sentence("{inside} inside, {gap} short of {total}; {limit} is allowed.")
    )
    text = text if mass > 0.0 else sentence("Nothing is in it; {total} belong in.")
    if _ended(context) and not tolerance.holds(mass - goal):
        told.con(context.step, Message(text, gap))
        return told.say("contradicted", Message(text, gap))
    told.lacks(context.path("draws"), "the rest weighed in")
    return told.say("not_yet", Message(text, gap))


def _within(amounts: dict[str, Amount], tolerance: Tolerance, told: Told, context: StepContext) -> Told:
    balance, charge = context.account.balance, context.plate.factory_charge
    stands = Message("{inside} inside, of {total}, give or take {limit}.", amounts)
    if balance.known not in BALANCE_STANDS:
        return told.say("not_yet", joined(stands, Message("What is inside is not weighed.")))
    if charge is not None and charge.source not in TOTAL_STANDS:
        told.lacks("/steps/identify/runs/0/sheet/factory_charge", "the charge by plate, record or maker")
        return told.say("not_yet", joined(stands, Message("What belongs in is only said.")))
    said = _only_said(context)
    if said is not None:
        told.lacks(said, "the length measured, or by record or maker")
        return told.say("not_yet", joined(stands, Message("What the lines take is only said.")))
    if tolerance.strict and 2.0 * balance.u_kg > tolerance.kg:
        return told.say("not_yet", joined(stands, Message("The scale was too coarse for that.")))
    told.pro(context.step, stands)
    return told.say("shown", stands)


def _only_said(context: StepContext) -> str | None:
    """The field of a line whose share of the total rests on a told or guessed figure; None where none does."""
    build_up = context.handed.identify.careful
    for part in build_up.parts if build_up else ():
        line = context.plate.lines.get(part.id) if part.kind == "line" and part.kg else None
        for field, entry in (("length", line.length), ("allowance", line.allowance)) if line else ():
            if entry is not None and entry.source in ONLY_SAID:
                return f"/steps/identify/runs/0/sheet/lines/{part.id}/{field}"
    return None


def _not_a_mass(balance: Balance, goal: float, tolerance: Tolerance, told: Told, context: StepContext) -> Told:
    low, high = Amount(balance.low_kg, "mass"), None if balance.high_kg is None else Amount(balance.high_kg, "mass")
    amounts = {"total": Amount(goal, "mass"), "low": low, **({"high": high} if high else {})}
    if balance.low_kg > 0.0:
        text = (
            sentence("What is inside is not known: at least {low}, at most {high}; {total} belong in.")
            if high
            else sentence("What is inside is not known: at least {low}; {total} belong in.")
        )
    else:
        text = (
            sentence("What is inside is not known: at most {high}; {total} belong in.")
            if high
            else sentence("What is inside is not known; {total} belong in.")
        )
    outside = balance.low_kg > goal + tolerance.kg or (balance.high_kg is not None and balance.high_kg < goal - tolerance.kg)
    if _ended(context) and outside:
        told.con(context.step, Message(text, amounts))
        return told.say("contradicted", Message(text, amounts))
    told.lacks(context.path("draws"), "all of it weighed")
    return told.say("not_yet", Message(text, amounts))


def _ended(context: StepContext) -> bool:
    """Whether weighing is over: its step is closed, and Verify too where charge was trimmed there; or no visit goes on."""
    visits = context.job.visits
    closed = all(_closed(context, step) for step in (context.step, *(("verify",) if context.handed.verify.trimmed else ())))
    return closed or bool(visits and visits[-1].outcome is not None)


def _closed(context: StepContext, step: str) -> bool:
    events = context.job.steps.get(step, StepRecord()).events
    return bool(events) and events[-1].kind != "reopened"
