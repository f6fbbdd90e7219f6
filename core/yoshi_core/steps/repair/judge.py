"""Repair: what was opened and replaced, why it failed, and what must be right before it is closed again."""

from math import fsum

from yoshi_core.document.plate import PartAdded
from yoshi_core.document.sheets import value_of
from yoshi_core.findings.result import StepResult
from yoshi_core.findings.verdict import Message
from yoshi_core.profile.profile import TRADE
from yoshi_core.properties.atmosphere import site_pressure_pa
from yoshi_core.steps.contract import Judged, Notes, StepContext
from yoshi_core.steps.plates import repaired_parts
from yoshi_core.steps.repair.handed import Repaired
from yoshi_core.steps.repair.report import cautions, figures
from yoshi_core.steps.repair.sheet import PARTS, PartReplaced, RepairSheet
from yoshi_core.steps.sections import open_volume, shut_parts, was_shut_in
from yoshi_core.steps.sheet_checks import ask_about_sheet
from yoshi_core.steps.verdicts import Otherwise, verdict
from yoshi_core.tight_and_dry import nitrogen
from yoshi_core.tight_and_dry.nitrogen import Needs
from yoshi_core.units.display import Amount

MAJOR = frozenset({"compressor", "coil", "metering"})


WITHOUT_DRIER = frozenset({"ductless", "vrf", "reach_in", "vehicle"})


def judge(context: StepContext) -> Judged:
    """What still has to be done or said before the circuit is closed, and what the parts change."""
    notes = context.notes
    sheet: RepairSheet = context.run.sheet if context.run else RepairSheet()
    if context.run:
        ask_about_sheet(notes, sheet, context.path(), context.run.answers)
    _parts(sheet, notes, context)
    _at_zero(sheet, notes, context)
    _joining(sheet, notes, context)
    _nitrogen(sheet, notes, context)
    _drier(sheet, notes, context)
    _fittings(sheet, notes, context)
    _lines(sheet, notes)
    oil = _oil(sheet, notes, context)
    wet = _open_long(sheet, notes, context)
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
    done = bool(rows) or any(sheet.joining not in {None, "none"} or sheet.drier in {"new", "suction_too"} for sheet in sheets)
    unknown = tuple(_name(row) for row in rows if row.failed_by == "unknown" or (row.kind in MAJOR and row.failed_by is None))
    failed = tuple(_name(row) for row in rows if row.failed_by not in {None, "unknown"})
    return Repaired(wet, oil, done, tuple(_name(row) for row in rows), failed, unknown, context.typed("parts"))


def _added(context: StepContext) -> dict[str, PartAdded]:
    return repaired_parts(context.job)


def _name(row: PartReplaced) -> str:
    return row.label or (PARTS[row.kind] if row.kind else "the part")


def _nitrogen(sheet: RepairSheet, notes: Notes, context: StepContext) -> None:
    """Whether the bottle lasts for the flame, the test that follows and the breaks of a wet system."""
    reads, holds = value_of(sheet.bottle_pressure), value_of(sheet.bottle_volume)
    if reads is None or holds is None:
        return
    plate = context.plate
    volume = open_volume(context, None)
    site = site_pressure_pa(value_of(plate.altitude) or 0.0)
    test = value_of(plate.design_low) or context.profile.value("hold.second")
    breaks, sweeps = nitrogen.after(None, bool(sheet.water_seen))
    flow = value_of(sheet.flow_for) or 0.0 if sheet.joining == "brazed" else 0.0
    found = nitrogen.account(reads, holds, volume.m3 * volume.band, Needs(flow, test, breaks, sweeps), site, context.profile)
    amounts = {
        "flame": Amount(found.flame_m3, "volume"),
        "fill": Amount(found.test_m3, "volume"),
        "breaks": Amount(found.vacuum_m3, "volume"),
        "gives": Amount(found.gives_m3, "volume"),
        "test": Amount(test, "gauge_pressure"),
        "left": Amount(max(found.left_pa, 0.0), "gauge_pressure"),
    }
    uses = "{flame} for the flame, {fill} for the test at {test}" + (", {breaks} for two breaks" if breaks else "")
    if found.left_pa < test:
        text = f"The bottle does not last: it gives {{gives}} of nitrogen, and {uses} leave too little to reach the test. Bring another."
        notes.tell("repair.bottle", "Wait", text, TRADE, amounts)
    else:
        notes.tell("repair.bottle", "Holds", f"The bottle lasts: {uses}; {{left}} are left in it.", TRADE, amounts)


def _parts(sheet: RepairSheet, notes: Notes, context: StepContext) -> None:
    for key, row in sheet.parts.items():
        name = _name(row)
        notes.need(context.path("parts", key, "kind"), f"what kind of part {name} is", row.kind)
        if row.kind in MAJOR or row.again:
            notes.need(context.path("parts", key, "failed_by"), f"why {name} failed", row.failed_by)
        if row.failed_by == "unknown" or (row.again and row.failed_by is not None):
            text = f"Why {name} failed stays open{' and it failed before' if row.again else ''}: read everything again at Verify, and come back once."
            notes.say("repair.cause", "Open", text, TRADE)
        if row.failed_by == "contamination":
            _contaminated(name, sheet, notes, context)
        if row.failed_by == "short":
            text = f"{name[0].upper()}{name[1:]} failed of its charge: a leak search and the weighed charge belong to this repair."
            notes.say("repair.cause_charge", "Open", text, TRADE)
        if row.kind == "coil" and row.pressurized is False:
            text = f"{name[0].upper()}{name[1:]} did not hiss when it was opened: new coils come under pressure. Test it alone before it goes in."
            notes.say("repair.hiss", "Wait", text, TRADE)


def _contaminated(name: str, sheet: RepairSheet, notes: Notes, context: StepContext) -> None:
    notes.need(context.path("acid_test"), "an acid test", sheet.acid_test)
    if sheet.acid_test is False:
        notes.say("repair.acid", "Wait", f"{name[0].upper()}{name[1:]} failed of dirt or acid: test for acid before it is closed.", TRADE)
    if sheet.drier in {"new", "kept"}:
        text = f"{name[0].upper()}{name[1:]} failed of dirt or acid: a second drier in the suction line, taken out again when it is clean."
        notes.say("repair.suction_drier", "Wait", text, TRADE)


def _at_zero(sheet: RepairSheet, notes: Notes, context: StepContext) -> None:
    """A pipe is heated, or cut beside a charge that stands shut in, only once somebody says that it is this unit's and at zero."""
    heated = sheet.joining in {"brazed", "soldered"} and not _closed_before(context)
    if not (heated or was_shut_in(context) or shut_parts(context)):
        return
    notes.need(context.path("at_zero"), "this pipe is this unit's, and at zero", sheet.at_zero, hard=True)
    if sheet.at_zero is False:
        text = "This pipe is not at zero, or not this unit's: neither cut it nor heat it."
        notes.say("repair.at_zero", "Stop", text, TRADE, role="hard")


def _closed_before(context: StepContext) -> bool:
    """Whether this step was closed before version 5, when a torch did not ask whose pipe it is: it shows what it showed."""
    events = context.record.events
    return bool(events) and events[-1].kind == "closed" and not events[-1].said


def _joining(sheet: RepairSheet, notes: Notes, context: StepContext) -> None:
    if not notes.need(context.path("joining"), "how it was joined", sheet.joining):
        return
    if sheet.joining not in {"brazed", "soldered"}:
        return
    notes.need(context.path("both_open"), "both sides open before heat", sheet.both_open, hard=True)
    notes.need(context.path("fire_watch"), "extinguisher and fire watch", sheet.fire_watch, hard=True)
    if sheet.both_open is False:
        text = "Never heat a closed pipe: what is trapped in it bursts out burning or poisonous. Open both sides to the air first."
        notes.say("repair.trapped", "Stop", text, TRADE, role="hard")
    if sheet.fire_watch is False:
        text = "No flame without an extinguisher at hand and somebody who watches. Local hot-work rules prevail."
        notes.say("repair.fire", "Stop", text, TRADE, role="hard")
    if sheet.joining == "soldered":
        return
    notes.need(context.path("nitrogen_flow"), "nitrogen while brazing", sheet.nitrogen_flow)
    if sheet.nitrogen_flow is False and sheet.capillary:
        text = "Through a capillary nothing flows while you braze: fill it with nitrogen first and leave an end open."
        notes.say("repair.nitrogen", "Open", text, TRADE)
    elif sheet.nitrogen_flow is False:
        text = "Brazed without nitrogen, scale sits inside the pipe and ends in the valve: a fresh drier, and look at the screen."
        notes.say("repair.nitrogen", "Wait", text, TRADE)


def _drier(sheet: RepairSheet, notes: Notes, context: StepContext) -> None:
    if not notes.need(context.path("drier"), "the filter drier", sheet.drier):
        return
    if sheet.drier == "kept":
        notes.say("repair.drier", "Wait", "The old drier is full of what it caught, and of today's air: fit a new one.", TRADE)
    if sheet.drier == "none_by_maker" and context.plate.kind not in WITHOUT_DRIER:
        notes.say("repair.drier", "Open", "No drier on this kind of system is unusual; the maker's own drawing decides.", TRADE)
    if sheet.drier in {"new", "suction_too"}:
        notes.need(context.path("drier_way"), "the drier's direction", sheet.drier_way)
        notes.need(context.path("drier_size"), "the drier's size", sheet.drier_size)
        if sheet.drier_way is False:
            flow = "bi-flow, for it runs both ways here" if context.plate.kind == "heat_pump" else "its arrow towards the metering device"
            notes.say("repair.drier_way", "Stop", f"The drier sits the wrong way round: {flow}.", TRADE)
        if sheet.drier_size is False:
            notes.say("repair.drier_size", "Wait", "A drier smaller than the old one chokes the liquid line.", TRADE)


def _fittings(sheet: RepairSheet, notes: Notes, context: StepContext) -> None:
    notes.need(context.path("cores"), "new valve cores", sheet.cores)
    if sheet.cores is False:
        notes.say("repair.cores", "Wait", "Old cores leak slowly and unseen: new ones while it is empty.", TRADE)
    if context.job.kind == "retrofit":
        return
    if context.plate.metering == "orifice" and notes.need(context.path("orifice"), "the orifice fitted", sheet.orifice):
        _orifice(sheet.orifice or "", notes, context)
    if context.plate.metering == "txv" and notes.need(context.path("bulb"), "the valve's bulb", sheet.bulb) and sheet.bulb == "loose":
        notes.say(
            "repair.bulb", "Wait", "A loose or bare bulb floods the compressor: strap it on a clean straight run and insulate it.", TRADE
        )


def _orifice(fitted: str, notes: Notes, context: StepContext) -> None:
    wanted = context.plate.orifice
    if wanted is None:
        text = f"Orifice {fitted} is fitted; the size the outdoor unit states is not on record, so that they match is not proven."
        notes.say("repair.orifice", "Open", text, TRADE)
    elif _plain(fitted) != _plain(wanted):
        text = f"Orifice {fitted} is fitted, the outdoor unit asks for {wanted}: superheat will never come right. Change it."
        notes.say("repair.orifice", "Wait", text, TRADE)
    else:
        notes.say("repair.orifice", "Holds", f"Orifice {fitted} is what the outdoor unit asks for.", TRADE)


def _plain(size: str) -> str:
    """A size without its dressing: “0.059 in”, “.059” and “0.059” are the same."""
    return size.lower().replace("in", "").replace('"', "").replace(" ", "").lstrip("0")


def _lines(sheet: RepairSheet, notes: Notes) -> None:
    if sheet.lines == "as_they_were":
        text = "Lines kept from another refrigerant hold its oil: flush or replace them, and check their size for the new one."
        notes.say("repair.lines", "Wait", text, TRADE)
    elif sheet.lines == "flushed":
        notes.say(
            "repair.lines",
            "Open",
            "Flushed lines: blow the flushing fluid out with nitrogen, and check their size for this refrigerant.",
            TRADE,
        )


def _oil(sheet: RepairSheet, notes: Notes, context: StepContext) -> float | None:
    """Oil to add in m³: what came out, what new parts need, less what is in them and what dye brings."""
    moved = sheet.oil_out is not None or any(row.oil_needs or row.oil_inside for row in sheet.parts.values())
    compressor = any(row.kind == "compressor" for row in sheet.parts.values())
    if compressor or moved:
        notes.need(context.path("oil_out"), "the oil that came out", sheet.oil_out)
    if sheet.oil_out == "blown_out":
        text = "Oil was blown out and not measured: how much to add cannot be reckoned. Check the level by the maker's way before it runs long."
        notes.say("repair.oil", "Wait" if compressor else "Open", text, TRADE)
        return None
    if sheet.oil_out == "measured" and not notes.need(context.path("oil_removed"), "how much oil came out", sheet.oil_removed):
        return None
    if not moved:
        return None
    if sheet.oil_out == "measured" or any(row.oil_needs or row.oil_inside for row in sheet.parts.values()):
        notes.need(context.path("oil_grade"), "the oil's grade", sheet.oil_grade)
    plus = fsum(value_of(row.oil_needs) or 0.0 for row in sheet.parts.values())
    minus = fsum(value_of(row.oil_inside) or 0.0 for row in sheet.parts.values())
    to_add = (value_of(sheet.oil_removed) or 0.0) + plus - minus - (value_of(sheet.oil_dye) or 0.0)
    amounts = {"value": Amount(abs(to_add), "oil_volume")}
    grade = f" of {sheet.oil_grade}" if sheet.oil_grade else ""
    if to_add < 0.0:
        notes.tell("repair.oil", "Wait", "{value} too much oil: the new parts bring more than came out. Drain it first.", TRADE, amounts)
    else:
        notes.tell("repair.oil", "Holds", f"{{value}}{grade} to add.", TRADE, amounts)
    return to_add


def _open_long(sheet: RepairSheet, notes: Notes, context: StepContext) -> bool:
    limit = context.profile.value("repair.open_limit")
    opened = value_of(sheet.opened_for)
    notes.need(context.path("opened_for"), "how long it stood open", sheet.opened_for)
    if sheet.water_seen:
        notes.say("repair.wet", "Open", "Water got in, or it burnt out: pull it three times with nitrogen between.", TRADE)
        return True
    if opened is not None and opened > limit:
        notes.say(
            "repair.open",
            "Open",
            "It stood open for {value}; its oil draws water after {limit}. Pull it three times with nitrogen between.",
            context.profile.source("repair.open_limit"),
            value=Amount(opened, "duration"),
            limit=Amount(limit, "duration"),
        )
        return True
    return False


def _hidden(sheet: RepairSheet, notes: Notes, context: StepContext) -> None:
    for key, row in sheet.hidden.items():
        if notes.need(context.path("hidden", key, "label"), "the place soon out of reach", row.label) and row.label and not row.tested:
            text = f"{row.label[0].upper()}{row.label[1:]} goes out of reach: test it before it closes, with nitrogen and bubbles."
            notes.say("repair.hidden", "Wait", text, TRADE)


def _summary(sheet: RepairSheet) -> Message:
    done = [_name(row) for row in sheet.parts.values() if row.label or row.kind]
    if sheet.drier in {"new", "suction_too"} and not any(row.kind == "drier" for row in sheet.parts.values()):
        done.append("drier")
    if sheet.cores:
        done.append("cores")
    return Message(", ".join(done[:3]) if done else "what is replaced")
