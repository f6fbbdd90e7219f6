"""Close out: how the job ends, what the label says, what the circuit's record should learn."""

from yoshi_core import refrigerants
from yoshi_core.findings.pictures import CloseOutPicture
from yoshi_core.findings.result import StepResult
from yoshi_core.findings.verdict import Caution, Figure, Message, Term, Why
from yoshi_core.profile.profile import TRADE
from yoshi_core.steps.close_out.sheet import OUTCOMES, CloseOutSheet
from yoshi_core.steps.contract import Judged, Notes, StepContext
from yoshi_core.steps.plates import changes_to, differences
from yoshi_core.steps.verdicts import Otherwise, verdict
from yoshi_core.steps.verify.handed import Verified
from yoshi_core.units.display import Amount

UNPROVEN = frozenset({"handed_over", "left_safe"})


def judge(context: StepContext) -> Judged:
    """Whether the job may close the way it is meant to."""
    notes = context.notes
    sheet: CloseOutSheet = context.run.sheet if context.run else CloseOutSheet()
    verified = context.handed.verify
    if notes.need(context.path("outcome"), "how the job closes", sheet.outcome) and sheet.outcome:
        _judge_outcome(sheet, verified, notes, context)
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
        notes.need(context.path("update_circuit"), "whether the circuit's record takes this job's plate", sheet.update_circuit)
    result = StepResult(
        step=context.step,
        state="open",
        verdict=verdict(
            notes,
            Otherwise(Message(f"{OUTCOMES[sheet.outcome]}." if sheet.outcome else "Not closed."), "Holds" if sheet.outcome else "Open"),
        ),
        summary=Message(OUTCOMES[sheet.outcome] if sheet.outcome else "record and label"),
        figures=_figures(context),
        missing=tuple(notes.missing),
        picture=CloseOutPicture(notes=differences(context.job, inside)),
        cautions=(Caution("prevails", Message("The maker's instructions, the data plate and local law prevail.")),),
    )
    return Judged(result)


def _judge_outcome(sheet: CloseOutSheet, verified: Verified, notes: Notes, context: StepContext) -> None:
    weighed_holds = context.earlier["weigh_in"].verdict.word == "Holds"
    if sheet.outcome == "proven":
        if not verified.holds:
            notes.say(
                "close_out.proven",
                "Stop",
                "Verify does not hold, so the job is not proven. Go on there, or close it another way with the reason.",
                TRADE,
            )
        else:
            notes.say("close_out.proven", "Holds", "Weighed in, and the running unit agrees.", TRADE)
    elif sheet.outcome == "proven_by_weight":
        if not weighed_holds:
            notes.say("close_out.by_weight", "Stop", "Weigh in does not hold, so weight proves nothing yet.", TRADE)
        else:
            notes.need(context.path("reason"), "why weight alone is the proof", sheet.reason)
    else:
        notes.need(context.path("reason"), "the reason", sheet.reason)
    for step_id, earlier in context.earlier.items():
        if earlier.state == "changed":
            notes.say(
                "close_out.changed",
                "Wait",
                f"{step_id.replace('_', ' ').capitalize()} changed since it was closed: close it again first.",
                TRADE,
            )
        elif earlier.state == "open" and sheet.outcome not in UNPROVEN:
            notes.say("close_out.open", "Wait", f"{step_id.replace('_', ' ').capitalize()} is not closed yet.", TRADE)


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
            Term("=", Amount(inside * gwp, "mass"), "CO₂ equivalent"),
        )
        found.append(
            Figure(
                "co2e", "CO₂ equivalent", Amount(inside * gwp, "mass"), Why((co2,), (), "IPCC AR4, EU 517/2014 (from memory)", "gwp.ar4")
            )
        )
    return tuple(found)
