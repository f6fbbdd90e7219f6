"""Each kind's own signs on the running unit, beside the proof by weight: box and room, vent air, approach, glass, the other mode.

They agree with the weight or ask for a look; none of them trims a charge.
"""

from yoshi_core.diagnosis.observed import EVAPORATOR_DEW_SHARE
from yoshi_core.document.sheets import value_of
from yoshi_core.errors import CoreError
from yoshi_core.findings.verdict import Role, Word
from yoshi_core.frozen import dataclass
from yoshi_core.message import Message, joined, sentence
from yoshi_core.profile.profile import TRADE
from yoshi_core.properties import saturation
from yoshi_core.properties.atmosphere import absolute_pa
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.steps.verify.points import Point
from yoshi_core.steps.verify.sheet import VerifyReading, VerifySheet
from yoshi_core.units.display import Amount
from yoshi_core.units.quantities import FAHRENHEIT_K, ZERO_FAHRENHEIT_K

BOXES = {"reach_in": "reach_in", "receiver": "walk_in"}
VENT_FROM_K = 70.0 * FAHRENHEIT_K + ZERO_FAHRENHEIT_K
HUMID_FROM = 0.4
AIR_KINDS = frozenset({"heat_pump", "split", "packaged", "ductless", "vrf"})
SPEEDS = frozenset({"ductless", "vrf"})
LOOK = Message("The charge is not trimmed by it: look for the cause.")
OVER_AIR = sentence("Condensing is {value} over the air, usual is {low} to {high}, give or take {slack}.")
OTHER_OVER_AIR = sentence("In the other mode: condensing is {value} over the air, usual is {low} to {high}, give or take {slack}.")
UNDER_BOX = sentence("Evaporating is {value} under the box, usual is {low} to {high}, give or take {slack}.")
CHILLED = sentence("Chilled water leaves {value} over evaporating, at most {limit} is usual.")
WARMED = sentence("Condensing is {value} over the water that leaves, at most {limit} is usual.")


@dataclass(frozen=True)
class Coils:
    """Mean temperatures of the coils in K, None where a pressure is missing."""

    evaporating_k: float | None
    condensing_k: float | None


def judge_kind(sheet: VerifySheet, points: list[Point], notes: Notes, context: StepContext) -> None:
    """Say what this kind's own signs say of the last reading."""
    kind = context.plate.kind
    other = next(reversed(list(sheet.other_mode.values())), None)
    if kind == "heat_pump" and other is not None and _read(other):
        _air("heating" if sheet.mode == "cooling" else "cooling", other, True, notes, context)
    elif kind == "heat_pump" and sheet.readings:
        text = sentence("Only one mode was run. A fault that shows in the other, a check valve or its metering, is not seen: run it too.")
        if sheet.both_modes:
            text = sentence("It ran in the other mode too, and nothing was read there: that shows no fault and no health. Read it there.")
        notes.say("verify.both_modes", "Open", text, TRADE)
    if kind == "receiver":
        _glass(sheet, notes, context)
    reading = points[-1].reading if points else None
    if reading is None:
        return
    coils = coils_of(reading, context)
    if kind in AIR_KINDS and (sheet.mode == "heating" or kind in SPEEDS):
        _air(sheet.mode or "cooling", reading, False, notes, context)
    if kind in AIR_KINDS and sheet.mode != "heating":
        _split(reading, notes, context)
    _drawn(reading, notes, context)
    if kind in BOXES:
        _box(BOXES[kind], reading, coils, notes, context)
    elif kind == "vehicle":
        _vent(reading, notes, context)
        _vehicle_gauges(reading, coils, notes, context)
    elif kind == "chiller":
        _approach(reading, coils, notes, context)


def _read(reading: VerifyReading) -> bool:
    return any(entry is not None for entry in (reading.suction_pressure, reading.liquid_pressure, reading.true_suction))


def _air(mode: str, reading: VerifyReading, lead: bool, notes: Notes, context: StepContext) -> None:
    """Coils of an air-to-air unit against their bands, in the mode it runs; heating makes the vapour port the high side."""
    value, coils = context.profile.value, coils_of(reading, context)
    outdoor = value_of(reading.outdoor)
    rule = "verify.other_mode" if lead else "verify.air"
    out: Word = "Open" if context.plate.kind in SPEEDS else "Wait"
    if mode == "heating":
        _heating(rule, lead, out, reading, notes, context)
        return
    if coils.condensing_k is not None and outdoor is not None:
        low, high = value("coil.cooling_over_low"), value("coil.cooling_over_high")
        text = OTHER_OVER_AIR if lead else OVER_AIR
        _band(rule, text, coils.condensing_k - outdoor, low, high, notes, context, out)
    if coils.evaporating_k is not None:
        low, high = value("coil.cooling_evaporating_low"), value("coil.cooling_evaporating_high")
        inside = low - 1e-9 <= coils.evaporating_k <= high + 1e-9
        amounts = _usual(coils.evaporating_k, "temperature", "about_temperature", low=low, high=high)
        said = Message(
            sentence("In the other mode: evaporating is at {value}, usual is {low} to {high}.")
            if lead
            else sentence("Evaporating is at {value}, usual is {low} to {high}.")
        )
        notes.tell(f"{rule}_evaporating", "Holds" if inside else out, joined(said, None if inside else LOOK), TRADE, amounts, role="thumb")


def _split(reading: VerifyReading, notes: Notes, context: StepContext) -> None:
    """What the air loses over the indoor coil; a humid room splits less and a dry one more, so without its wet bulb the band is wider."""
    returned, supply = value_of(reading.return_air), value_of(reading.supply)
    if returned is None or supply is None:
        return
    value = context.profile.value
    humid = 0.0 if reading.return_wet_bulb is not None else value("coil.split_humid")
    _band(
        "verify.split", sentence("The air split is {value}, usual is {low} to {high}, give or take {slack}."), returned - supply, value("coil.split_low") - humid, value("coil.split_high") + humid, notes, context, "Open", "sign",
    )  # fmt: skip


def _drawn(reading: VerifyReading, notes: Notes, context: StepContext) -> None:
    """What the compressor draws of its rated current, as read here or as it stood on the plate when it was found."""
    rated = value_of(reading.rated_amps) or _rated_as_found(context)
    if reading.amps is None or not rated:
        return
    share, low, high = reading.amps.value / rated, context.profile.value("coil.amps_low"), context.profile.value("coil.amps_high")
    inside = low - 1e-9 <= share <= high + 1e-9
    amounts = {name: Amount(figure, "fraction") for name, figure in (("value", share), ("low", low), ("high", high))}
    said = joined(Message("The compressor draws {value} of its rated current, usual is {low} to {high}."), None if inside else LOOK)
    notes.tell("verify.drawn", "Holds" if inside else "Open", said, TRADE, amounts, role="sign")


def _rated_as_found(context: StepContext) -> float | None:
    record = context.job.steps.get("as_found")
    return value_of(record.runs[-1].sheet.rated_amps) if record is not None and record.runs else None


def _heating(rule: str, lead: bool, out: Word, reading: VerifyReading, notes: Notes, context: StepContext) -> None:
    """The vapour port is the high side then; the true suction says what the outdoor coil does."""
    value = context.profile.value
    outdoor, returned = value_of(reading.outdoor), value_of(reading.return_air)
    hot = _mean(value_of(reading.suction_pressure or reading.liquid_pressure), 0.5, context)
    if hot is not None and returned is not None and outdoor is not None:
        shift = value("coil.heating_shift") * (outdoor - value("coil.heating_at"))
        low, high = value("coil.heating_over_low") + shift, value("coil.heating_over_high") + shift
        text = (
            sentence("In the other mode: condensing is {value} over return air, usual is {low} to {high}, give or take {slack}.")
            if lead
            else sentence("Condensing is {value} over return air, usual is {low} to {high}, give or take {slack}.")
        )
        _band(rule, text, hot - returned, low, high, notes, context, out)
    cold = _mean(value_of(reading.true_suction), EVAPORATOR_DEW_SHARE, context)
    if cold is None or outdoor is None:
        return
    low, high = value("coil.heating_under_low"), value("coil.heating_under_high")
    if outdoor - cold < low - 1e-9:
        amounts = _usual(outdoor - cold, "temperature_delta", "about_delta", low=low, high=high)
        text = sentence(
            sentence(
                "In the other mode: evaporating is only {value} under the outdoor air, usual is {low} to {high}: high suction, the outdoor valve floods."
            )
            if lead
            else sentence(
                "Evaporating is only {value} under the outdoor air, usual is {low} to {high}: high suction, the outdoor valve floods."
            )
        )
        notes.tell("verify.floods", "Wait", text, TRADE, amounts, role="outside_other" if lead else "outside")
        return
    text = (
        sentence("In the other mode: evaporating is {value} under the outdoor air, usual is {low} to {high}, give or take {slack}.")
        if lead
        else sentence("Evaporating is {value} under the outdoor air, usual is {low} to {high}, give or take {slack}.")
    )
    _band("verify.under_outdoor", text, outdoor - cold, low, high, notes, context, out)


def coils_of(reading: VerifyReading, context: StepContext) -> Coils:
    """Means of both coils by the pressures of a reading."""
    return Coils(
        _mean(value_of(reading.suction_pressure), EVAPORATOR_DEW_SHARE, context), _mean(value_of(reading.liquid_pressure), 0.5, context)
    )


def _mean(gauge: float | None, dew_share: float, context: StepContext) -> float | None:
    plate = context.plate
    if gauge is None or plate.refrigerant is None:
        return None
    pressure = absolute_pa(gauge, plate.gauge_reference or "vented", value_of(plate.altitude) or 0.0)
    try:
        return saturation.mean_temperature_k(plate.refrigerant, pressure, dew_share)
    except CoreError:
        return None


def _usual(value: float, quantity: str, about: str, **bounds: float) -> dict[str, Amount]:
    """What was read to its tenth, and what is usual to the degree."""
    return {"value": Amount(value, quantity), **{name: Amount(k, about) for name, k in bounds.items()}}


def _band(
    rule: str,
    text: str,
    value: float,
    low: float,
    high: float,
    notes: Notes,
    context: StepContext,
    outside: Word = "Wait",
    role: Role = "thumb",
) -> None:
    """One difference against its rule of thumb, stretched by the profile's slack."""
    slack = context.profile.value("coil.slack")
    inside = low - slack - 1e-9 <= value <= high + slack + 1e-9
    word: Word = "Holds" if inside else outside
    amounts = _usual(value, "temperature_delta", "about_delta", low=low, high=high, slack=slack)
    notes.tell(rule, word, joined(Message(text), None if inside else LOOK), TRADE, amounts, role=role)


def _box(name: str, reading: VerifyReading, coils: Coils, notes: Notes, context: StepContext) -> None:
    box, air = value_of(reading.box), value_of(reading.outdoor)
    value = context.profile.value
    if box is not None and coils.evaporating_k is not None:
        low, high = value(f"coil.{name}_under_low"), value(f"coil.{name}_under_high")
        _band("verify.under_box", UNDER_BOX, box - coils.evaporating_k, low, high, notes, context)
    if air is not None and coils.condensing_k is not None:
        low, high = value(f"coil.{name}_over_low"), value(f"coil.{name}_over_high")
        _band("verify.over_air", OVER_AIR, coils.condensing_k - air, low, high, notes, context)


def _glass(sheet: VerifySheet, notes: Notes, context: StepContext) -> None:
    notes.need(context.path("sight_glass"), "sight glass", sheet.sight_glass)
    if sheet.sight_glass == "clear":
        notes.say("verify.glass", "Holds", "The glass is clear at load, after a defrost: there is liquid before the valve.", TRADE)
    elif sheet.sight_glass == "empty":
        notes.say("verify.glass", "Wait", "No liquid passes the glass: far too little is in, or it is pumped down.", TRADE)
    elif sheet.sight_glass == "bubbles":
        text = sentence(
            "Bubbles in the glass: short, or it flashes before the glass. Judge it at load and after a defrost, then the receiver's level."
        )
        notes.say("verify.glass", "Wait", text, TRADE)
    level, most = value_of(sheet.receiver_level), context.profile.value("receiver.level")
    if level is None:
        return
    amounts = {"value": Amount(level, "fraction"), "limit": Amount(most, "fraction")}
    if level > most:
        notes.tell(
            "verify.receiver",
            "Stop",
            "Pumped down the receiver stands at {value}, over {limit}: too much is in.",
            TRADE,
            amounts,
            role="not_the_charge",
        )
    else:
        notes.tell("verify.receiver", "Holds", "Pumped down the receiver stands at {value}, under {limit}.", TRADE, amounts)


def _vent(reading: VerifyReading, notes: Notes, context: StepContext) -> None:
    vent, outdoor, humid = value_of(reading.supply), value_of(reading.outdoor), value_of(reading.humidity)
    if vent is None or outdoor is None:
        return
    value = context.profile.value
    most = value("vehicle.vent") + value("vehicle.vent_slope") * max(outdoor - VENT_FROM_K, 0.0)
    most += value("vehicle.vent_humid") * 10.0 * max((humid or HUMID_FROM) - HUMID_FROM, 0.0)
    amounts = {"value": Amount(vent, "temperature"), "limit": Amount(most, "temperature"), "outdoor": Amount(outdoor, "temperature")}
    if vent <= most + 1e-9:
        text = sentence("The vents blow {value} at {outdoor} outdoors, under {limit}: windows open, vents centred, rear on.")
        notes.tell("verify.vent", "Holds", text, TRADE, amounts, role="thumb")
    else:
        text = sentence(
            "The vents blow {value} at {outdoor} outdoors, over the {limit} that is usual. The weighed charge stands: look at air, doors and fans."
        )
        notes.tell("verify.vent", "Wait", text, TRADE, amounts, role="thumb")


def _vehicle_gauges(reading: VerifyReading, coils: Coils, notes: Notes, context: StepContext) -> None:
    """Both gauges of a vehicle against its own rules of thumb: its condenser stands behind grilles, and its evaporator is kept from freezing."""
    value, outdoor = context.profile.value, value_of(reading.outdoor)
    if coils.condensing_k is not None and outdoor is not None:
        low, high = value("vehicle.over_low"), value("vehicle.over_high")
        _band("verify.vehicle_head", OVER_AIR, coils.condensing_k - outdoor, low, high, notes, context)
    if coils.evaporating_k is not None:
        low, high = value("vehicle.evaporating_low"), value("vehicle.evaporating_high")
        inside = low - 1e-9 <= coils.evaporating_k <= high + 1e-9
        amounts = _usual(coils.evaporating_k, "temperature", "about_temperature", low=low, high=high)
        said = joined(Message("Evaporating is at {value}, usual is {low} to {high}."), None if inside else LOOK)
        notes.tell("verify.vehicle_suction", "Holds" if inside else "Wait", said, TRADE, amounts, role="thumb")


def _approach(reading: VerifyReading, coils: Coils, notes: Notes, context: StepContext) -> None:
    limit = context.profile.value("chiller.approach")
    chilled, warmed = value_of(reading.chilled_out), value_of(reading.condenser_out)
    for rule, text, water, coil, sign in (
        ("verify.evaporator_approach", CHILLED, chilled, coils.evaporating_k, 1.0),
        ("verify.condenser_approach", WARMED, warmed, coils.condensing_k, -1.0),
    ):
        if water is None or coil is None:
            continue
        approach = sign * (water - coil)
        inside = -0.5 <= approach <= limit + 1e-9
        amounts = {"value": Amount(approach, "temperature_delta"), "limit": Amount(limit, "temperature_delta")}
        notes.tell(rule, "Holds" if inside else "Wait", joined(Message(text), None if inside else LOOK), TRADE, amounts, role="thumb")
