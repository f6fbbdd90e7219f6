"""Repair: what was opened and replaced, why it failed, and what must be right before it is closed again."""

from collections.abc import Sequence

from yoshi_core.charge.tubing import bore_m
from yoshi_core.document.plate import PartAdded
from yoshi_core.findings.result import StepResult
from yoshi_core.message import Message, headline, joined, sentence
from yoshi_core.profile.profile import TRADE
from yoshi_core.steps.contract import Judged, Notes, StepContext
from yoshi_core.steps.plates import repaired_parts
from yoshi_core.steps.repair.handed import Repaired
from yoshi_core.steps.repair.joints import judge_at_zero, judge_bottle, judge_joining, open_long
from yoshi_core.steps.repair.oil import judge_oil
from yoshi_core.steps.repair.report import cautions, figures
from yoshi_core.steps.repair.sheet import PARTS, PartReplaced, RepairSheet
from yoshi_core.steps.sheet_checks import ask_about_sheet
from yoshi_core.steps.verdicts import Otherwise, verdict
from yoshi_core.units.quantities import INCH_M

MAJOR = frozenset({"compressor", "coil", "metering"})


SAME_BORE_M = 0.0005 * INCH_M  # half of a thousandth, the step sizes are stamped in
WITHOUT_DRIER = frozenset({"ductless", "vrf", "reach_in", "vehicle"})


def judge(context: StepContext) -> Judged:
    """What still has to be done or said before the circuit is closed, and what the parts change."""
    notes = context.notes
    sheet: RepairSheet = context.run.sheet if context.run else RepairSheet()
    if context.run:
        ask_about_sheet(notes, sheet, context.path(), context.run.answers)
    _parts(sheet, notes, context)
    judge_at_zero(sheet, notes, context)
    judge_joining(sheet, notes, context)
    judge_bottle(sheet, notes, context)
    _drier(sheet, notes, context)
    _fittings(sheet, notes, context)
    _lines(sheet, notes)
    oil = judge_oil(sheet, notes, context)
    wet = open_long(sheet, notes, context)
    _hidden(sheet, notes, context)
    result = StepResult(
        step=context.step,
        state="open",
        verdict=verdict(notes, Otherwise(Message("Ready to be closed and put under nitrogen."))),
        summary=_summary(sheet),
        figures=figures(sheet, oil),
        missing=tuple(notes.missing),
        questions=tuple(notes.questions),
        problems=tuple(notes.problems),
        cautions=cautions(sheet, context),
    )
    return Judged(result, _repaired(wet, oil, context), _added(context))


def _repaired(wet: bool, oil: float | None, context: StepContext) -> Repaired:
    """What was done over all runs of this step, and of which parts it is known why they failed."""
    sheets: list[RepairSheet] = [run.sheet for run in context.record.runs]
    rows = [row for sheet in sheets for row in sheet.parts.values() if row.label or row.kind]
    done = bool(rows) or any(sheet.joinings - {"none"} or sheet.drier in {"new", "suction_too"} for sheet in sheets)
    unknown = tuple(_name(row) for row in rows if row.failed_by == "unknown" or (row.kind in MAJOR and row.failed_by is None))
    failed = tuple(_name(row) for row in rows if row.failed_by not in {None, "unknown"})
    return Repaired(wet, oil, done, tuple(_name(row) for row in rows), failed, unknown, context.typed("parts"))


def _added(context: StepContext) -> dict[str, PartAdded]:
    return repaired_parts(context.job)


def _name(row: PartReplaced) -> str:
    return row.label or (PARTS[row.kind] if row.kind else "the part")


def _parts(sheet: RepairSheet, notes: Notes, context: StepContext) -> None:
    for key, row in sheet.parts.items():
        name = _name(row)
        notes.need(context.path("parts", key, "kind"), headline("what {part} is", part=name), row.kind)
        if row.kind in MAJOR or row.again:
            notes.need(context.path("parts", key, "failed_by"), headline("why {part} failed", part=name), row.failed_by)
        if row.failed_by == "unknown" or (row.again and row.failed_by is not None):
            text = (
                sentence("Why {name} failed stays open and it failed before: read everything again at Verify, and come back once.")
                if row.again
                else sentence("Why {name} failed stays open: read everything again at Verify, and come back once.")
            )
            short = None
            recovered = context.handed.recover
            if row.kind == "compressor" and recovered is not None and recovered.short is not None:
                short = Message("It was short of charge, and that alone can do it.")
            notes.say("repair.cause", "Open", joined(Message(text), short), TRADE, name=name)
        if row.used:
            text = sentence(
                "{name:cap} was used before: cleaned, blown through with nitrogen, its oil and refrigerant known, and tested before it goes in."
            )
            notes.say("repair.used", "Open", text, TRADE, name=name)
        if row.failed_by == "short":
            text = sentence("{name:cap} failed of its charge: a leak search and the weighed charge belong to this repair.")
            notes.say("repair.cause_charge", "Open", text, TRADE, name=name)
        if row.kind == "coil" and row.pressurized is False:
            text = sentence("{name:cap} did not hiss when it was opened: new coils come under pressure. Test it alone before it goes in.")
            notes.say("repair.hiss", "Wait", text, TRADE, name=name)
    dirty = [_name(row) for row in sheet.parts.values() if row.failed_by == "contamination"]
    if dirty:
        _contaminated(dirty, sheet, notes, context)


def _contaminated(names: Sequence[str], sheet: RepairSheet, notes: Notes, context: StepContext) -> None:
    """What follows where a part failed of dirt or acid; said once, whatever failed of it."""
    name = tuple(names)
    if notes.need(context.path("acid_test"), "acid test done", sheet.acid_test) and sheet.acid_test and not _is_closed(context):
        notes.need(context.path("acid"), "acid test says", sheet.acid)
    if sheet.acid_test is False:
        notes.say("repair.acid", "Wait", "{name:cap} failed of dirt or acid: test for acid before it is closed.", TRADE, name=name)
    if sheet.drier in {"new", "kept"}:
        text = sentence("{name:cap} failed of dirt or acid: a second drier in the suction line, taken out again when it is clean.")
        notes.say("repair.suction_drier", "Wait", text, TRADE, name=name)


def _is_closed(context: StepContext) -> bool:
    """Whether this step is closed: what it is asked since then is not asked of it."""
    return bool(context.record.events) and context.record.events[-1].kind == "closed"


def _drier(sheet: RepairSheet, notes: Notes, context: StepContext) -> None:
    if sheet.acid == "acid":
        notes.say("repair.acid_found", "Wait", "The acid test says acid: new driers, new oil, and test again until it is clean.", TRADE)
    if sheet.drier == "suction_too" and not sheet.suction_out:
        notes.say("repair.suction_out", "Open", "The suction drier comes out again once it runs clean: write down when.", TRADE)
    if not notes.need(context.path("drier"), "filter drier", sheet.drier):
        return
    if sheet.drier == "kept":
        notes.say("repair.drier", "Wait", "The old drier is full of what it caught, and of today's air: fit a new one.", TRADE)
    if sheet.drier == "none_by_maker" and context.plate.kind not in WITHOUT_DRIER:
        notes.say("repair.drier", "Open", "No drier on this kind of system is unusual; the maker's own drawing decides.", TRADE)
    if sheet.drier in {"new", "suction_too"}:
        notes.need(context.path("drier_way"), "arrow towards the metering device, or bi-flow", sheet.drier_way)
        notes.need(context.path("drier_size"), "not smaller than the old one", sheet.drier_size)
        if sheet.drier_way is False:
            flow = "bi-flow, for it runs both ways here" if context.plate.kind == "heat_pump" else "its arrow towards the metering device"
            notes.say("repair.drier_way", "Stop", "The drier sits the wrong way round: {flow}.", TRADE, flow=flow)
        if sheet.drier_size is False:
            text = sentence(
                "A drier smaller than the old one: fine only where the rating stamped on it covers this unit's load, else it chokes."
            )
            notes.say("repair.drier_size", "Open", text, TRADE)


def _fittings(sheet: RepairSheet, notes: Notes, context: StepContext) -> None:
    notes.need(context.path("cores"), "new valve cores", sheet.cores)
    if sheet.cores is False:
        notes.say("repair.cores", "Wait", "Old cores leak slowly and unseen: new ones while it is empty.", TRADE)
    if context.job.kind == "retrofit":
        return
    if context.plate.metering == "orifice" and notes.need(context.path("orifice"), "orifice fitted", sheet.orifice):
        _orifice(sheet.orifice or "", notes, context)
    if context.plate.metering == "txv" and notes.need(context.path("bulb"), "sensing bulb", sheet.bulb) and sheet.bulb == "loose":
        notes.say(
            "repair.bulb", "Wait", "A loose or bare bulb floods the compressor: strap it on a clean straight run and insulate it.", TRADE
        )


def _orifice(fitted: str, notes: Notes, context: StepContext) -> None:
    wanted = context.plate.orifice
    if wanted is None:
        text = headline(
            "Orifice {fitted} is fitted; the size the outdoor unit states is not on record, so that they match is not proven.",
            fitted=fitted,
        )
        notes.say("repair.orifice", "Open", text, TRADE)
    elif not _same_size(fitted, wanted):
        text = headline(
            "Orifice {fitted} is fitted, the outdoor unit asks for {wanted}: superheat will never come right. Change it.",
            fitted=fitted,
            wanted=wanted,
        )
        notes.say("repair.orifice", "Wait", text, TRADE)
    else:
        notes.say("repair.orifice", "Holds", "Orifice {fitted} is what the outdoor unit asks for.", TRADE, fitted=fitted)


def _same_size(one: str, other: str) -> bool:
    """Whether two sizes are the same, however written: 57, .057 and 0.057 in; else word for word."""
    first, second = bore_m(one), bore_m(other)
    if first is None or second is None:
        return " ".join(one.lower().split()) == " ".join(other.lower().split())
    return abs(first - second) < SAME_BORE_M


def _lines(sheet: RepairSheet, notes: Notes) -> None:
    if sheet.lines == "as_they_were":
        text = sentence("Lines kept from another refrigerant hold its oil: flush or replace them, and check their size for the new one.")
        notes.say("repair.lines", "Wait", text, TRADE)
    elif sheet.lines == "washed":
        text = sentence(
            "Washed out with the unit's own liquid: a new drier catches what that loosened, and the size is checked for this refrigerant."
        )
        notes.say("repair.lines", "Open", text, TRADE)
    elif sheet.lines == "flushed":
        notes.say(
            "repair.lines",
            "Open",
            "Flushed lines: blow the flushing fluid out with nitrogen, and check their size for this refrigerant.",
            TRADE,
        )


def _hidden(sheet: RepairSheet, notes: Notes, context: StepContext) -> None:
    for key, row in sheet.hidden.items():
        if notes.need(context.path("hidden", key, "label"), "the place soon out of reach", row.label) and row.label and not row.tested:
            text = headline("{label:cap} goes out of reach: test it before it closes, with nitrogen and bubbles.", label=row.label)
            notes.say("repair.hidden", "Wait", text, TRADE)


def _summary(sheet: RepairSheet) -> Message:
    done = [_name(row) for row in sheet.parts.values() if row.label or row.kind]
    if sheet.drier in {"new", "suction_too"} and not any(row.kind == "drier" for row in sheet.parts.values()):
        done.append("drier")
    if sheet.cores:
        done.append("cores")
    return headline("{done}", done=tuple(done[:3])) if done else Message("what is replaced")
