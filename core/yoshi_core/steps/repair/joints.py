"""Cutting, joining and standing open: whose pipe, under what flame, and for how long."""

from yoshi_core.charge.oils import DRAWS_WATER, read_oil
from yoshi_core.document.sheets import value_of
from yoshi_core.message import sentence
from yoshi_core.profile.profile import TRADE
from yoshi_core.properties.atmosphere import site_pressure_pa
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.steps.repair.sheet import RepairSheet
from yoshi_core.steps.sections import open_volume, shut_parts, was_shut_in
from yoshi_core.tight_and_dry import nitrogen
from yoshi_core.tight_and_dry.nitrogen import Needs
from yoshi_core.units.display import Amount

WEATHER_TIMES = {"dry": 2.0, "usual": 1.0, "wet": 0.5}  # common practice, no source


def judge_at_zero(sheet: RepairSheet, notes: Notes, context: StepContext) -> None:
    """A pipe is heated, or cut beside a charge that stands shut in, only once somebody says that it is this unit's and at zero."""
    heated = sheet.hot and not _closed_before(context)
    if not (heated or was_shut_in(context) or shut_parts(context)):
        return
    notes.need(context.path("at_zero"), "right pipe, and at zero pressure", sheet.at_zero, hard=True)
    if sheet.at_zero is False:
        text = sentence("This pipe is not at zero, or not this unit's: neither cut it nor heat it.")
        notes.say("repair.at_zero", "Stop", text, TRADE, role="hard")


def _closed_before(context: StepContext) -> bool:
    """Whether this step was closed before version 5, when a torch did not ask whose pipe it is: it shows what it showed."""
    events = context.record.events
    return bool(events) and events[-1].kind == "closed" and not events[-1].said


def judge_joining(sheet: RepairSheet, notes: Notes, context: StepContext) -> None:
    """How joints were made; a flame takes both sides open, somebody who watches, and nitrogen flowing."""
    if not notes.need(context.path("joining"), "how joints were made", sheet.joining):
        return
    if not sheet.hot:
        return
    notes.need(context.path("both_open"), "both sides vented before heat", sheet.both_open, hard=True)
    notes.need(context.path("fire_watch"), "extinguisher at hand, fire watch kept", sheet.fire_watch, hard=True)
    if sheet.both_open is False:
        text = sentence(
            "Never heat a closed pipe: what is trapped in it bursts out burning or poisonous. Open both sides to the air first."
        )
        notes.say("repair.trapped", "Stop", text, TRADE, role="hard")
    if sheet.fire_watch is False:
        text = sentence("No flame without an extinguisher at hand and somebody who watches. Local hot-work rules prevail.")
        notes.say("repair.fire", "Stop", text, TRADE, role="hard")
    if "brazed" not in sheet.joinings:
        return
    notes.need(context.path("nitrogen_flow"), "nitrogen flowed while brazing", sheet.nitrogen_flow)
    if sheet.nitrogen_flow is False and sheet.capillary:
        text = sentence("Through a capillary nothing flows while you braze: fill it with nitrogen first and leave an end open.")
        notes.say("repair.nitrogen", "Open", text, TRADE)
    elif sheet.nitrogen_flow is False:
        text = sentence("Brazed without nitrogen, scale sits inside the pipe and ends in the valve: a fresh drier, and look at the screen.")
        met = sheet.drier in {"new", "suction_too"} and sheet.screen
        if met:
            text = sentence(
                "Brazed without nitrogen: a fresh drier is in and the screen was looked at. Look at it once more after some days."
            )
        notes.say("repair.nitrogen", "Open" if met else "Wait", text, TRADE)


def judge_bottle(sheet: RepairSheet, notes: Notes, context: StepContext) -> None:
    """Whether the bottle lasts for the flame, the test that follows and the breaks of a wet system."""
    reads, holds = value_of(sheet.bottle_pressure), nitrogen.bottle_m3(value_of(sheet.bottle_volume), sheet.bottle_size)
    if reads is None or holds is None:
        return
    plate = context.plate
    volume = open_volume(context, None)
    site = site_pressure_pa(value_of(plate.altitude) or 0.0)
    test = value_of(plate.design_low) or context.profile.value("hold.second")
    breaks, sweeps = nitrogen.after(None, bool(sheet.water_seen))
    flow = value_of(sheet.flow_for) or 0.0 if "brazed" in sheet.joinings else 0.0
    found = nitrogen.account(reads, holds, volume.m3 * volume.band, Needs(flow, test, breaks, sweeps), site, context.profile)
    amounts = {
        "flame": Amount(found.flame_m3, "volume"),
        "fill": Amount(found.test_m3, "volume"),
        "breaks": Amount(found.vacuum_m3, "volume"),
        "gives": Amount(found.gives_m3, "volume"),
        "test": Amount(test, "gauge_pressure"),
        "left": Amount(max(found.left_pa, 0.0), "gauge_pressure"),
    }
    if found.left_pa < test:
        text = (
            sentence(
                "The bottle does not last: it gives {gives}. The flame takes {flame}, two breaks {breaks}, and the test at {test} needs {fill}. Bring another."
            )
            if breaks
            else sentence(
                "The bottle does not last: it gives {gives}. The flame takes {flame}, and the test at {test} needs {fill}. Bring another."
            )
        )
        notes.tell("repair.bottle", "Wait", text, TRADE, amounts)
    else:
        text = (
            sentence(
                "The bottle lasts: {flame} for the flame, {fill} for the test at {test}, {breaks} for two breaks; {left} are left in it."
            )
            if breaks
            else sentence("The bottle lasts: {flame} for the flame, {fill} for the test at {test}; {left} are left in it.")
        )
        notes.tell("repair.bottle", "Holds", text, TRADE, amounts)


def open_long(sheet: RepairSheet, notes: Notes, context: StepContext) -> bool:
    """Whether it stood open so long, or got so wet, that one pull does not dry it."""
    limit = open_limit_s(sheet, context)
    opened = value_of(sheet.opened_for)
    notes.need(context.path("opened_for"), "open to the air for", sheet.opened_for)
    if sheet.water_seen:
        notes.say("repair.wet", "Open", "Water got in, or it burnt out: pull it three times with nitrogen between.", TRADE)
        return True
    if opened is not None and opened > limit:
        notes.say(
            "repair.open",
            "Open",
            "It stood open for {value}; {limit} are fine with this oil and this air. Pull it three times with nitrogen between.",
            context.profile.source("repair.open_limit"),
            value=Amount(opened, "duration"),
            limit=Amount(limit, "duration"),
        )
        return True
    return False


def open_limit_s(sheet: RepairSheet, context: StepContext) -> float:
    """How long it may stand open, in s: by what its oil draws out of the air, and by the air."""
    oil = read_oil(sheet.oil_grade or context.plate.oil).kind
    slow = oil is not None and oil not in DRAWS_WATER
    limit = context.profile.value("repair.open_limit_mineral" if slow else "repair.open_limit")
    return limit * WEATHER_TIMES[sheet.weather or "usual"]
