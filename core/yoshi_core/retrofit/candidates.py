"""Another refrigerant in the same system: what stands against each candidate, what it would change, how much of it goes in.

The charge follows liquid density at 100 °F: `final = full·ρ_new/ρ_old`, begun at a share of it. `full` is the correct old
charge with its lines, never what was recovered after a leak. Common practice, no source; published guides agree.
"""

from collections.abc import Sequence

from yoshi_core import refrigerants
from yoshi_core.charge import room_limits
from yoshi_core.errors import CoreError, OutOfRange
from yoshi_core.frozen import dataclass
from yoshi_core.message import Message, headline, sentence, told
from yoshi_core.profile.profile import TRADE, Profile
from yoshi_core.properties import cycle, saturation
from yoshi_core.properties.atmosphere import GaugeReference, absolute_pa
from yoshi_core.properties.cycle import Conditions, Cycle
from yoshi_core.refrigerants import Refrigerant
from yoshi_core.units.display import Amount
from yoshi_core.units.quantities import FAHRENHEIT_K, ZERO_FAHRENHEIT_K

LIQUID_K = 100.0 * FAHRENHEIT_K + ZERO_FAHRENHEIT_K
OZONE = frozenset({"R-12", "R-22", "R-123"})


@dataclass(frozen=True)
class Present:
    """The system as it stands; None where not known.

    Refrigerant, metering, oil, full charge in kg, highest design pressure of its high side as a gauge at the site reads
    it in Pa, air on its worst day in K, the site, the flammable class it is listed for, and the smallest room: floor in
    m², volume in m³, mounting.
    """

    refrigerant: str
    conditions: Conditions
    metering: str = "txv"
    oil: str | None = None
    full_kg: float | None = None
    design_high_pa: float | None = None
    worst_outdoor_k: float = 95.0 * FAHRENHEIT_K + ZERO_FAHRENHEIT_K
    altitude_m: float = 0.0
    gauge_reference: GaugeReference = "vented"
    listed_class: str | None = None
    room_area_m2: float | None = None
    room_volume_m3: float | None = None
    mounting: str | None = None

    @property
    def site_pa(self) -> float:
        """What a gauge at the site calls zero, absolute in Pa."""
        return absolute_pa(0.0, self.gauge_reference, self.altitude_m)


@dataclass(frozen=True)
class Stop:
    """A hard reason against a candidate: the rule, what it found, and where the rule comes from."""

    rule_id: str
    message: Message
    source: str = TRADE


@dataclass(frozen=True)
class Charge:
    """Liquid densities' ratio, the charge to begin with and the one expected at the end, kg."""

    ratio: float
    start_kg: float
    final_kg: float


@dataclass(frozen=True)
class Candidate:
    """One refrigerant in this system.

    Ratios are over the present one in the same compressor; pressures as the gauge at the site reads them, Pa;
    temperatures and glides in K; `co2e_kg` of the final charge. Without a cycle the tables do not reach the conditions,
    and a stop says so.
    """

    name: str
    safety_class: str
    gwp: float
    stops: tuple[Stop, ...]
    changes: tuple[Message, ...]
    charge: Charge | None = None
    cycle: Cycle | None = None
    capacity_ratio: float | None = None
    power_ratio: float | None = None
    flow_ratio: float | None = None
    valve_ratio: float | None = None
    discharge_more_k: float | None = None
    worst_pa: float | None = None
    co2e_kg: float | None = None


def charge(old: str, new: str, full_kg: float, profile: Profile) -> Charge:
    """Start and expected final charge of a new refrigerant for a correct full charge of the old one in kg.

    Raises `OutOfRange` for a charge of zero or less or a refrigerant whose table does not reach 100 °F.
    """
    if not full_kg > 0.0:
        raise OutOfRange("The old full charge must be above zero; what was recovered after a leak is not it.", value=full_kg)
    ratio = saturation.liquid_density_kg_m3(new, LIQUID_K) / saturation.liquid_density_kg_m3(old, LIQUID_K)
    return Charge(ratio, profile.value("retrofit.start_share") * full_kg * ratio, full_kg * ratio)


def compare(present: Present, profile: Profile, names: Sequence[str] | None = None) -> tuple[Candidate, ...]:
    """Every candidate in this system: those that may go in first, by capacity from the nearest; then the stopped, most met first.

    Raises what the present refrigerant's own cycle raises: without it there is nothing to compare with.
    """
    base = cycle.run(present.refrigerant, present.conditions)
    wanted = [name for name in (names or refrigerants.names()) if refrigerants.normalize(name) != present.refrigerant]
    found = [_candidate(refrigerants.get(name), present, base, profile) for name in wanted]
    return tuple(sorted(found, key=lambda row: (bool(row.stops), 0.0 if row.stops else abs((row.capacity_ratio or 9.0) - 1.0))))


def oil_suits(new: Refrigerant, oil: str) -> bool:
    """Whether an oil, as a plate names it, carries with this refrigerant."""
    return any(name.lower() in oil.lower() for name in new.oils)


def _candidate(new: Refrigerant, present: Present, base: Cycle, profile: Profile) -> Candidate:
    amount = None
    if present.full_kg is not None:
        try:
            amount = charge(present.refrigerant, new.name, present.full_kg, profile)
        except CoreError:
            amount = None
    stops = [*_listing(new, present), *_rooms(new, present, amount, profile), *_rules(new, profile)]
    worst = _worst_pa(new, present, profile, stops)
    stops += _oil(new, present, profile, bool(stops))
    common = (new.name, new.safety_class, new.gwp_ar4)
    co2e = None if amount is None else amount.final_kg * new.gwp_ar4
    try:
        ran = cycle.run(new.name, present.conditions)
    except CoreError as error:
        stops.append(Stop("retrofit.tables", headline("Its tables do not reach these conditions: {why}", why=told(error))))
        return Candidate(*common, tuple(stops), _changes(new, None, base, present, profile), amount, worst_pa=worst, co2e_kg=co2e)
    return Candidate(
        *common,
        tuple(stops),
        _changes(new, ran, base, present, profile),
        amount,
        ran,
        ran.capacity_j_m3 / base.capacity_j_m3,
        ran.power_j_m3 / base.power_j_m3,
        ran.flow_kg_m3 / base.flow_kg_m3,
        ran.valve_size / base.valve_size,
        ran.discharge.temperature_k - base.discharge.temperature_k,
        worst,
        co2e,
    )


def _listing(new: Refrigerant, present: Present) -> list[Stop]:
    """Nothing flammable or toxic goes where the equipment is not listed for that very class: A2L is no leave for A3."""
    now = refrigerants.get(present.refrigerant).safety_class
    if new.is_flammable and new.safety_class != present.listed_class:
        return [Stop("retrofit.listed", headline("Class {class_}, and the equipment is not listed for it.", class_=new.safety_class))]
    if new.safety_class.startswith("B") and not now.startswith("B"):
        return [
            Stop(
                "retrofit.listed",
                headline("Class {safety_class}, toxic, and the equipment is made for class {now}.", safety_class=new.safety_class, now=now),
            )
        ]
    return []


def _rooms(new: Refrigerant, present: Present, amount: Charge | None, profile: Profile) -> list[Stop]:
    """The expected final charge against the smallest room: flammable by its floor, any by what may be breathed."""
    if amount is None:
        return []
    total = Amount(amount.final_kg, "mass")
    free = room_limits.free_kg(new, profile)
    if free is not None and amount.final_kg > free and present.room_area_m2 and present.mounting:
        most = room_limits.ceiling_kg(new, present.room_area_m2, present.mounting)
        if amount.final_kg > most:
            text = sentence("{value} would be more than the {limit} the smallest room may have.")
            return [Stop("room.ceiling", Message(text, {"value": total, "limit": Amount(most, "mass")}))]
    breathing = room_limits.breathing_kg_m3(new, profile)
    if breathing is not None and present.room_volume_m3 and amount.final_kg / present.room_volume_m3 > breathing:
        amounts = {"value": Amount(amount.final_kg / present.room_volume_m3, "concentration"), "limit": Amount(breathing, "concentration")}
        return [Stop("room.breathing", Message("All of it in the smallest room would be {value}, over {limit}.", amounts))]
    return []


def _rules(new: Refrigerant, profile: Profile) -> list[Stop]:
    """What the shop, or the law where it works, no longer puts in."""
    found = []
    limit = profile.value("retrofit.gwp")
    if limit > 0.0 and new.gwp_ar4 > limit:
        amounts = {"value": Amount(new.gwp_ar4, "number"), "limit": Amount(limit, "number")}
        text = sentence("Its GWP of {value} is over the {limit} this shop still puts in.")
        found.append(Stop("retrofit.gwp", Message(text, amounts), profile.source("retrofit.gwp")))
    if new.name in OZONE and profile.choice("retrofit.ozone") == "never":
        found.append(Stop("retrofit.ozone", Message("It depletes ozone: phased out, and no way to go.")))
    return found


def _oil(new: Refrigerant, present: Present, profile: Profile, stopped: bool) -> list[Stop]:
    """Another oil is work, not a stop, unless the shop does not change oil; what is stopped anyway has it named too."""
    oil = (present.oil or "").strip()
    if not oil or oil_suits(new, oil) or not (stopped or profile.choice("retrofit.oil") == "stop"):
        return []
    return [Stop("retrofit.oil", headline("It needs {oils:or}, and {oil} is in it.", oils=tuple(new.oils), oil=oil))]


def _worst_pa(new: Refrigerant, present: Present, profile: Profile, stops: list[Stop]) -> float | None:
    """Gauge pressure on the worst day, bubble so far over its air; over the plate's design pressure it is a stop."""
    at_k = present.worst_outdoor_k + profile.value("retrofit.worst_over")
    try:
        pressure = saturation.bubble_pressure_pa(new.name, at_k)
    except CoreError:
        amounts = {"at": Amount(at_k, "temperature")}
        stops.append(Stop("retrofit.pressure", Message("It is not liquid at {at} any more, the worst day here.", amounts)))
        return None
    gauge = pressure - present.site_pa
    if present.design_high_pa is not None and gauge > present.design_high_pa:
        amounts = {"value": Amount(gauge, "gauge_pressure"), "limit": Amount(present.design_high_pa, "gauge_pressure")}
        stops.append(Stop("retrofit.pressure", Message("{value} on the worst day, and the plate says {limit}.", amounts)))
    return gauge


def _changes(new: Refrigerant, ran: Cycle | None, base: Cycle, present: Present, profile: Profile) -> tuple[Message, ...]:
    """What is done with it: oil, drier, seals, metering, gauges, label."""
    found = [Message("New filter drier; new seals at valves and cores; a label that says what is in it now.")]
    oil = (present.oil or "").strip()
    if oil and not oil_suits(new, oil):
        text = sentence("Oil to {oils:or}: drain, fill, run and drain again until what is left of {oil} is under its limit.")
        found.append(headline(text, oils=tuple(new.oils), oil=oil))
    elif not oil:
        found.append(headline("Its oil is {oils:or}: find out what is in the compressor.", oils=tuple(new.oils)))
    if ran is None:
        return tuple(found)
    size = ran.valve_size / base.valve_size
    amounts = {"size": Amount(size, "fraction")}
    if present.metering == "orifice" and abs(size**0.5 - 1.0) > profile.value("retrofit.orifice"):
        found.append(Message("Another orifice: it takes {size} of this one's area.", amounts))
    elif present.metering in {"txv", "eev"}:
        text = (
            sentence("Valve: set its superheat again.")
            if abs(size - 1.0) <= profile.value("retrofit.size")
            else sentence("Valve: it takes {size} of this one's size; another orifice, or valve.")
        )
        found.append(Message(text, amounts))
    elif present.metering == "capillary":
        found.append(Message("Capillary: by weight only; it takes {size} of this one's opening, and nothing can be set.", amounts))
    if ran.evaporator_glide_k > profile.value("glide.zeotrope"):
        glide = {"glide": Amount(ran.evaporator_glide_k, "temperature_delta")}
        found.append(Message("Filled as liquid; superheat from dew, subcooling from bubble: its glide is {glide}.", glide))
    return tuple(found)
