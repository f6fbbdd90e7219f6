"""Plan the change: another refrigerant in this system, from what stands against it to how much of it goes in."""

from yoshi_core import refrigerants
from yoshi_core.errors import CoreError
from yoshi_core.findings.pictures import CycleWay, PlanChangePicture
from yoshi_core.findings.result import StepResult
from yoshi_core.findings.verdict import Caution, Figure, Problem, Term, Why
from yoshi_core.message import Message, headline, sentence, told
from yoshi_core.profile.profile import TRADE
from yoshi_core.properties import cycle, pressure_enthalpy, saturation
from yoshi_core.properties.cycle import CONDENSER_DEW_SHARE, mean_pressure_pa
from yoshi_core.retrofit import candidates as retrofit
from yoshi_core.retrofit.candidates import Candidate, Present
from yoshi_core.steps.contract import Judged, Notes, StepContext
from yoshi_core.steps.plan_change.case import by_weight, present_of, usual
from yoshi_core.steps.plan_change.handed import Change
from yoshi_core.steps.plan_change.sheet import PlanChangeSheet
from yoshi_core.steps.sheet_checks import ask_about_sheet
from yoshi_core.steps.verdicts import Otherwise, verdict
from yoshi_core.units.display import Amount


def judge(context: StepContext) -> Judged:
    """Stops first, each with its reason; then start, expected end and what changes."""
    notes = context.notes
    sheet: PlanChangeSheet = context.run.sheet if context.run else PlanChangeSheet()
    if context.run:
        ask_about_sheet(notes, sheet, context.path(), context.run.answers)
    change = _change(sheet, notes, context)
    if (
        notes.need(context.path("approved"), "the maker, or whoever is responsible for the unit, agrees", sheet.approved)
        and not sheet.approved
    ):
        text = sentence("Nobody responsible for the unit has agreed: nothing else goes in.")
        notes.say("retrofit.approved", "Stop", text, TRADE)
        notes.refuse(context.path("approved"), "retrofit.approved", text)
    if change is not None:
        _judge(change, notes, context)
    result = StepResult(
        step=context.step,
        state="open",
        verdict=verdict(notes, Otherwise(_headline(change))),
        summary=Message("which one goes in") if change is None else _summary(change),
        figures=() if change is None else _figures(change, context),
        missing=tuple(notes.missing),
        questions=tuple(notes.questions),
        problems=tuple(notes.problems),
        cautions=_cautions(change),
        picture=PlanChangePicture() if change is None else PlanChangePicture(notes=change.candidate.changes, cycles=_cycles(change)),
    )
    return Judged(result, change if change is not None and not change.candidate.stops else None)


def _change(sheet: PlanChangeSheet, notes: Notes, context: StepContext) -> Change | None:
    old = context.plate.refrigerant or ""
    if not notes.need(context.path("refrigerant"), "changes to", sheet.refrigerant) or sheet.refrigerant is None:
        return None
    new = refrigerants.normalize(sheet.refrigerant)
    if not refrigerants.is_known(new):
        text = sentence("“{name}” is not in the catalogue: without its tables nothing is planned.")
        notes.refuse(context.path("refrigerant"), "unknown_refrigerant", text, name=sheet.refrigerant)
        return None
    if not refrigerants.is_known(old):
        notes.need("/steps/identify/runs/0/sheet/refrigerant", "what is in it now", None)
        return None
    if new == refrigerants.normalize(old):
        notes.refuse(context.path("refrigerant"), "same_refrigerant", "{new} is in it already.", new=new)
        return None
    identified = context.handed.identify
    full = None if identified.careful is None else identified.careful.total_kg
    given = usual(context.plate.kind)
    given |= {key: entry.value for key in given if (entry := getattr(sheet, key)) is not None}
    present = present_of(context.plate, full, given)
    try:
        candidate = retrofit.compare(present, context.profile, [new])[0]
    except CoreError as error:
        notes.refuse(
            context.path("evaporating"),
            error.code,
            "At these conditions {old} itself cannot be worked out: {why}",
            old=old,
            why=told(error),
        )
        return None
    return Change(
        present.refrigerant, new, present, candidate, candidate.charge, by_weight(context.plate), _glide_more_k(present, candidate)
    )


def _glide_more_k(present: Present, candidate: Candidate) -> float:
    if candidate.cycle is None:
        return 0.0
    was = saturation.glide_k(
        present.refrigerant, mean_pressure_pa(present.refrigerant, present.conditions.condensing_k, CONDENSER_DEW_SHARE)
    )
    return candidate.cycle.condenser_glide_k - was


def _judge(change: Change, notes: Notes, context: StepContext) -> None:
    for stop in change.candidate.stops:
        notes.tell(stop.rule_id, "Stop", stop.message, stop.source, {})
        notes.problems.append(Problem(context.path("refrigerant"), stop.rule_id, stop.message))
    notes.need("/steps/identify/runs/0/sheet/design_high", "the high side's design pressure", context.plate.design_high)
    notes.need("/steps/identify/runs/0/sheet/oil", "the oil in it", context.plate.oil)
    if change.charge is None:
        notes.need("/steps/identify/runs/0/sheet/factory_charge", "the correct full charge of what is in it", None)
    ratio = change.candidate.capacity_ratio
    if ratio is not None and not change.candidate.stops:
        text = (
            sentence("It cools {value} more with the same compressor, by a simple cycle.")
            if ratio >= 1.0
            else sentence("It cools {value} less with the same compressor, by a simple cycle.")
        )
        notes.say("retrofit.capacity", "Holds", text, TRADE, value=Amount(abs(ratio - 1.0), "fraction"))


def _cycles(change: Change) -> tuple[CycleWay, ...]:
    """What runs in it now, and what would."""
    ran = ((change.old, cycle.run(change.old, change.present.conditions)), (change.new, change.candidate.cycle))
    return tuple(CycleWay(name, pressure_enthalpy.corners(name, one)) for name, one in ran if one is not None)


def _headline(change: Change | None) -> Message:
    if change is None or change.charge is None:
        return Message("Not planned yet.")
    final = Amount(change.charge.final_kg, "mass")
    if change.by_weight:
        return headline("{final} of {new}, by weight alone; nothing is trimmed.", final=final, new=change.new)
    start = Amount(change.charge.start_kg, "mass")
    return headline("Start with {start} of {new}; {final} are expected in the end.", start=start, final=final, new=change.new)


def _summary(change: Change) -> Message:
    return headline("{old} to {new}", old=change.old, new=change.new)


def _figures(change: Change, context: StepContext) -> tuple[Figure, ...]:
    amount, full = change.charge, change.present.full_kg
    if amount is None or full is None or change.candidate.stops:
        return _worst_figure(change, context)
    share = context.profile.value("retrofit.start_share")
    final = Amount(amount.final_kg, "mass")
    ends = (
        Term("", Amount(full, "mass"), headline("{old}, full, with its lines", old=change.old)),
        Term("×", Amount(amount.ratio, "number"), "liquid at 100 °F, new over old"),
        Term("=", final, "expected in the end"),
    )
    never = Message("From the correct full charge, never from what was recovered after a leak.")
    why = Why(
        (ends,),
        (never,),
        f"common practice, no source; {change.new} is by weight alone here" if change.by_weight else TRADE,
        "retrofit.start_share",
    )
    found = [Figure("final", "expected in the end", final, why)]
    if not change.by_weight:
        begins = (
            Term("", final, "expected in the end"),
            Term("×", Amount(share, "fraction"), "to begin with"),
            Term("=", Amount(amount.start_kg, "mass"), "start with"),
        )
        told = Why((begins,), (never,), context.profile.source("retrofit.start_share"), "retrofit.start_share")
        found.insert(0, Figure("start", "start with", Amount(amount.start_kg, "mass"), told))
    return (*found, *_worst_figure(change, context))


def _worst_figure(change: Change, context: StepContext) -> tuple[Figure, ...]:
    worst = change.candidate.worst_pa
    if worst is None:
        return ()
    lift = context.profile.value("retrofit.worst_over")
    terms = (
        Term("", Amount(change.present.worst_outdoor_k, "temperature"), "air on the worst day"),
        Term("+", Amount(lift, "temperature_delta"), "condensing over it"),
        Term("=", Amount(worst, "gauge_pressure"), "bubble, on this site's gauge"),
    )
    why = Why((terms,), (), context.profile.source("retrofit.worst_over"), "retrofit.pressure")
    return (Figure("worst", "pressure on the worst day", Amount(worst, "gauge_pressure"), why),)


def _cautions(change: Change | None) -> tuple[Caution, ...]:
    rows = [
        Caution("prevails", Message("The maker's instructions, the data plate and local law prevail; certified hands only.")),
        Caution("never_topped_up", Message("Nothing is ever topped up with another refrigerant: the old charge comes out, all of it.")),
    ]
    if change is not None and refrigerants.get(change.new).is_flammable:
        rows.append(Caution("flammable", Message("Flammable: rated tools, no ignition source, air moving, never in unlisted equipment.")))
    return tuple(rows)
