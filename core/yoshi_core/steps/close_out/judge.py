"""Close out: how the job ends, what the label says, what the circuit's record should learn."""

from yoshi_core import refrigerants
from yoshi_core.document.model import OUTCOMES
from yoshi_core.findings.claims import Way
from yoshi_core.findings.pictures import CloseOutPicture
from yoshi_core.findings.result import StepResult
from yoshi_core.findings.verdict import Caution, Figure, Term, Why
from yoshi_core.message import Message, headline, sentence
from yoshi_core.profile.profile import TRADE
from yoshi_core.steps.close_out.sheet import CloseOutSheet
from yoshi_core.steps.close_out.ways import standing_danger, ways
from yoshi_core.steps.contract import Judged, Notes, StepContext
from yoshi_core.steps.plates import changes_to, differences
from yoshi_core.steps.verdicts import Otherwise, verdict
from yoshi_core.units.display import Amount

UNPROVEN = frozenset({"handed_over", "left_safe", "running_not_proven"})


def judge(context: StepContext) -> Judged:
    """Whether the job may close the way it is meant to."""
    notes = context.notes
    sheet: CloseOutSheet = context.run.sheet if context.run else CloseOutSheet()
    possible = ways(context)
    if notes.need(context.path("outcome"), "how the job closes", sheet.outcome) and sheet.outcome:
        _judge_way(next(way for way in possible if way.id == sheet.outcome), sheet, notes, context)
    if sheet.outcome not in UNPROVEN:
        notes.need(context.path("label_fixed"), "label fixed to the unit", sheet.label_fixed)
        if sheet.label_fixed is False:
            notes.say(
                "close_out.label",
                "Wait",
                "Fix the label: the next technician needs the whole charge on the unit.",
                TRADE,
            )
    charge = context.account.charge
    inside = None if charge is None else charge.low_kg
    changed = changes_to(context.job) is not None and inside is not None
    if not changed and context.job.circuit.id and differences(context.job) and sheet.outcome:
        notes.need(context.path("update_circuit"), "put this plate on the circuit's record", sheet.update_circuit)
    result = StepResult(
        step=context.step,
        state="open",
        verdict=verdict(
            notes,
            Otherwise(
                headline("{how:cap}.", how=OUTCOMES[sheet.outcome]) if sheet.outcome else Message("Not closed."),
                "Holds" if sheet.outcome else "Open",
            ),
        ),
        summary=headline("{how}", how=OUTCOMES[sheet.outcome]) if sheet.outcome else Message("record and label"),
        figures=_figures(context),
        missing=tuple(notes.missing),
        picture=CloseOutPicture(notes=differences(context.job, inside), claims=tuple(context.claims.values()), ways=possible),
        cautions=(Caution("prevails", Message("The maker's instructions, the data plate and local law prevail.")),),
    )
    return Judged(result)


def _judge_way(way: Way, sheet: CloseOutSheet, notes: Notes, context: StepContext) -> None:
    """The way that was chosen: barred by what it asks for, or open."""
    danger = standing_danger(context)
    if danger is not None:
        notes.tell("close_out.danger", "Stop", danger.message, danger.source, {}, role="hard")
    elif not way.open:
        notes.say("close_out.way", "Stop", "It may not close as “{way}”: {why}", TRADE, way=way.label, why=way.words)
    else:
        notes.tell("close_out.way", "Holds", way.words, TRADE, {})
    if way.reasoned:
        notes.need(context.path("reason"), "reason", sheet.reason)
    for step_id, earlier in context.earlier.items():
        if earlier.state == "changed":
            text = sentence("{step} changed since it was closed: close it again first.")
            notes.say("close_out.changed", "Wait", text, TRADE, step=_named(step_id))


def _named(step_id: str) -> str:
    """A step's name in a sentence."""
    return step_id.replace("_", " ").capitalize()


def _figures(context: StepContext) -> tuple[Figure, ...]:
    charge = context.account.charge
    if charge is None:
        return ()
    inside = charge.low_kg
    trimmed = context.account.moved_kg(row.line.id for row in context.account.since_emptied() if row.line.id in context.ids("verify"))
    terms = (
        Term("", Amount(inside - trimmed, "mass"), "weighed in"),
        Term("+", Amount(trimmed, "mass"), "trimmed"),
        Term("=", Amount(inside, "mass"), "in the system"),
    )
    amount = Amount(inside, "mass", charge.u_kg)
    found = [Figure("inside", "in the system now", amount, Why((terms,), (), "scale readings of this job", "weigh_in.tolerance"))]
    name = context.plate.refrigerant
    if name and refrigerants.is_known(name):
        gwp = refrigerants.get(name).gwp_ar4
        co2 = (
            Term("", Amount(inside, "mass"), "in the system"),
            Term("×", Amount(gwp, "number"), "GWP"),
            Term("=", Amount(inside * gwp, "co2e"), "CO₂ equivalent"),
        )
        found.append(
            Figure(
                "co2e", "CO₂ equivalent", Amount(inside * gwp, "co2e"), Why((co2,), (), "IPCC AR4, EU 517/2014 (from memory)", "gwp.ar4")
            )
        )
    return tuple(found)
