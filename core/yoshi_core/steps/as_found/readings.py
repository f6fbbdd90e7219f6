"""What As found reads: saturation and differences, what cannot be true, and the figures with their why."""

from yoshi_core import refrigerants
from yoshi_core.diagnosis.observed import EVAPORATOR_DEW_SHARE, SLACK_K
from yoshi_core.document.sheets import Entry, limit_of, value_of
from yoshi_core.errors import CoreError
from yoshi_core.message import Message, headline, joined, sentence, told
from yoshi_core.profile.profile import TRADE
from yoshi_core.properties import saturation
from yoshi_core.properties.atmosphere import absolute_pa
from yoshi_core.properties.cycle import CONDENSER_DEW_SHARE
from yoshi_core.running import readings
from yoshi_core.running.readings import Side
from yoshi_core.steps.as_found.handed import Read
from yoshi_core.steps.as_found.sheet import AsFoundSheet
from yoshi_core.steps.as_found.standing import at_air, read_standing, vapour_left
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.units.display import Amount
from yoshi_core.units.quantities import FAHRENHEIT_K, ZERO_FAHRENHEIT_K

WARM_ROOM_K = 80.0 * FAHRENHEIT_K + ZERO_FAHRENHEIT_K


def read(sheet: AsFoundSheet, notes: Notes, context: StepContext) -> Read:
    """Everything the readings give at once; what cannot be used is refused by name."""
    name = context.plate.refrigerant
    if name is None or not refrigerants.is_known(name):
        return Read()
    suction, liquid = _absolute(sheet.suction_pressure, context), _absolute(sheet.liquid_pressure, context)
    if _ports_swapped(sheet, suction, liquid, notes, context):
        return Read()
    standing, left = _standing(name, sheet, notes, context)
    heating = sheet.mode == "heating"
    if sheet.running == "cycling":
        return Read(standing=standing, left_kg=left)  # what it shows in its short turns is no state of the circuit
    evaporating = _mean(name, suction, EVAPORATOR_DEW_SHARE, "suction_pressure", notes, context) if not heating else None
    if heating:
        evaporating = _mean(name, _absolute(sheet.true_suction, context), EVAPORATOR_DEW_SHARE, "true_suction", notes, context)
    if _heating_as_cooling(sheet, evaporating, notes, context):
        return Read(standing=standing, left_kg=left)
    low = None if heating else _side("low", name, sheet, context)
    high = _side("high", name, sheet, context)
    if _clamps_swapped(low, high, notes, context):
        return Read(standing=standing, left_kg=left)
    condensing = _mean(name, liquid, CONDENSER_DEW_SHARE, "liquid_pressure", notes, context)
    if heating:
        condensing = _mean(name, suction, CONDENSER_DEW_SHARE, "suction_pressure", notes, context) or condensing
    found = Read(
        low=low,
        high=high,
        suction_pa=suction,
        liquid_pa=liquid,
        evaporating_k=evaporating,
        condensing_k=condensing,
        split_k=_split_k(sheet, heating),
        over_k=_difference(condensing, value_of(sheet.return_air if heating else sheet.outdoor)),
        under_k=_difference(value_of(sheet.outdoor if heating else sheet.box), evaporating),
        amps_share=_amps_share(sheet),
        standing=standing,
        left_kg=left,
    )
    if sheet.running == "settled":
        _believable(found, sheet, notes)
    return found


def _difference(one: float | None, other: float | None) -> float | None:
    return None if one is None or other is None else one - other


def _split_k(sheet: AsFoundSheet, heating: bool) -> float | None:
    """How much the air changes across the indoor coil, K; positive the way it should be in this mode."""
    returned, supplied = value_of(sheet.return_air), value_of(sheet.supply)
    return _difference(supplied, returned) if heating else _difference(returned, supplied)


def _amps_share(sheet: AsFoundSheet) -> float | None:
    amps, rated = value_of(sheet.amps), value_of(sheet.rated_amps)
    return None if amps is None or not rated else amps / rated


def _ports_swapped(sheet: AsFoundSheet, suction: float | None, liquid: float | None, notes: Notes, context: StepContext) -> bool:
    if sheet.mode == "heating" or suction is None or liquid is None or suction <= liquid:
        return False
    text = sentence(
        "Suction pressure is above liquid pressure. On a running unit that cannot be: the hoses or the two entries are swapped."
    )
    notes.refuse(context.path("suction_pressure"), "suction_above_liquid", text)
    return True


def _heating_as_cooling(sheet: AsFoundSheet, evaporating_k: float | None, notes: Notes, context: StepContext) -> bool:
    if sheet.running != "settled" or not _looks_like_heating(sheet, evaporating_k):
        return False
    text = sentence(
        "Cooling was chosen, yet this pressure is saturation far above the air it would cool: that is what a unit in heating shows, "
        "where the vapour port is the high side. Choose heating, or check that it runs."
    )
    notes.refuse(context.path("mode"), "heating_as_cooling", text)
    return True


def _clamps_swapped(low: Side | None, high: Side | None, notes: Notes, context: StepContext) -> bool:
    if low is None or high is None or not readings.clamps_swapped(low, high):
        return False
    text = sentence(
        "The liquid line reads colder than suction saturation allows and the suction line hotter than the liquid: the two clamps look swapped."
    )
    notes.refuse(context.path("suction_line"), "clamps_swapped", text)
    return True


def _looks_like_heating(sheet: AsFoundSheet, evaporating_k: float | None) -> bool:
    """Whether a suction meant as cooling saturates above any air it could cool: return air, else supply, else what is warm for a room."""
    if sheet.mode != "cooling" or evaporating_k is None:
        return False
    returned, supply, outdoor = value_of(sheet.return_air), value_of(sheet.supply), value_of(sheet.outdoor)
    air = returned if returned is not None else supply
    if air is None and outdoor is not None:
        air = max(outdoor, WARM_ROOM_K)
    return air is not None and evaporating_k > air + SLACK_K


def _absolute(entry: Entry | None, context: StepContext) -> float | None:
    value = value_of(entry)
    if value is None:
        return None
    return absolute_pa(value, context.plate.gauge_reference or "vented", value_of(context.plate.altitude) or 0.0)


def _side(which: str, name: str, sheet: AsFoundSheet, context: StepContext) -> Side | None:
    field = "suction" if which == "low" else "liquid"
    gauge, clamp = getattr(sheet, f"{field}_pressure"), getattr(sheet, f"{field}_line")
    pressure, line = value_of(gauge), value_of(clamp)
    if pressure is None or line is None:
        return None
    given = readings.Readings(
        pressure_limit_pa=limit_of(gauge, context.profile.value("probe.pressure_limit")),
        temperature_limit_k=limit_of(clamp, context.profile.value("probe.temperature_limit")),
    )
    site = readings.Site(value_of(context.plate.altitude) or 0.0, context.plate.gauge_reference or "vented")
    make = readings.low_side if which == "low" else readings.high_side
    try:
        return make(name, pressure, line, given, site)
    except CoreError:
        return None  # said once by the coil's own saturation


def _mean(name: str, pressure: float | None, dew_share: float, field: str, notes: Notes, context: StepContext) -> float | None:
    if pressure is None:
        return None
    try:
        return saturation.mean_temperature_k(name, pressure, dew_share)
    except CoreError as error:
        text = headline(
            "{name} cannot give this pressure: {why} Check the gauge, its unit and what is really in the system.",
            name=name,
            why=told(error),
        )
        notes.refuse(context.path(field), "refrigerant_cannot", text)
        return None


def _standing(name: str, sheet: AsFoundSheet, notes: Notes, context: StepContext) -> tuple[str | None, float | None]:
    """Standing pressure against saturation at the coldest part, with the gauge's and the clamp's own error."""
    if _absolute(sheet.standing_pressure, context) is None or sheet.standing_cold is None:
        return None, None
    try:
        found = read_standing(name, sheet, context.plate, context.profile)
    except CoreError as error:
        notes.refuse(context.path("standing_cold"), error.code, told(error))
        return None, None
    if found is None:
        return None, None
    air = absolute_pa(0.0, context.plate.gauge_reference or "vented", _altitude(context))
    amounts = {
        "pressure": Amount(found.pressure_pa - air, "gauge_pressure"),
        "dew": Amount(found.dew_pa - air, "gauge_pressure"),
        "bubble": Amount(found.bubble_pa - air, "gauge_pressure"),
        "cold": Amount(found.cold_k, "temperature"),
        "margin": Amount(found.margin_pa, "gauge_pressure_delta"),
    }
    if found.vapour_only:
        left = vapour_left(name, found, sheet, context.plate)
        tail = Message("What is left is vapour: density times volume.")
        if at_air(sheet):
            tail = Message("It stands at the air's own pressure: its charge is gone.")
        elif left is not None:
            amounts |= {"left": Amount(left.about_kg, "mass"), "most": Amount(left.high_kg, "mass")}
            tail = Message("About {left} of vapour is all that is left, at most {most}.")
        text = sentence("Standing at {pressure}, below the {dew} of liquid at {cold}: no liquid is left, the system is nearly empty.")
        notes.tell("standing.below", "Holds", joined(Message(text), tail), TRADE, amounts)
        return "below", None if left is None else left.about_kg
    if found.too_high:
        text = sentence(
            "Standing at {pressure}, above the {bubble} of saturation at {cold} by more than {margin}: air in it, or another refrigerant."
        )
        notes.tell("standing.above", "Wait", text, TRADE, amounts)
        return "above", None
    notes.tell("standing.at", "Holds", "Standing at saturation for {cold}: liquid is there; how much, this does not say.", TRADE, amounts)
    return "at", None


def _altitude(context: StepContext) -> float:
    return value_of(context.plate.altitude) or 0.0


def _believable(found: Read, sheet: AsFoundSheet, notes: Notes) -> None:
    """What cannot be true on a unit that runs and has settled."""
    outdoor = value_of(sheet.outdoor)
    if sheet.mode == "cooling" and found.condensing_k is not None and outdoor is not None and found.condensing_k < outdoor - SLACK_K:
        notes.say(
            "as_found.condensing_under_air",
            "Wait",
            "Condensing at {value}, under the {limit} of the air that cools it: no condenser does that. "
            "Check the gauge, the refrigerant, and that it runs.",
            TRADE,
            value=Amount(found.condensing_k, "temperature"),
            limit=Amount(outdoor, "temperature"),
        )
    subcooling, over = found.subcooling_k, found.over_k
    if sheet.mode == "cooling" and subcooling is not None and over is not None and subcooling > over + SLACK_K:
        notes.say(
            "as_found.subcooling_over_air",
            "Wait",
            "Subcooling of {value} is more than condensing is over outdoor air, {limit}: the liquid would be colder than the air that cools it. "
            "An instrument is wrong, or it is another refrigerant.",
            TRADE,
            value=Amount(subcooling, "temperature_delta"),
            limit=Amount(over, "temperature_delta"),
        )
    if found.superheat_k is not None and found.superheat_k < -2.0 * SLACK_K:
        notes.say(
            "as_found.negative_superheat",
            "Wait",
            "Superheat of {value} is below zero by more than clamps are wrong: check the clamp, the gauge and the refrigerant.",
            TRADE,
            value=Amount(found.superheat_k, "temperature_delta"),
        )
