"""Recovering: the level to reach, the room in the cylinder, and what the weight says.

Levels and classes: 40 CFR 82.156 (from memory), for recovery machines made after November 1993.
Vacuum in inches of mercury counts down from 29.9 inHg absolute and is turned into an absolute
pressure before a gauge at the site is told what to read.
"""

from typing import Literal

from yoshi_core.charge import cylinders
from yoshi_core.errors import OutOfRange
from yoshi_core.frozen import dataclass
from yoshi_core.properties import saturation
from yoshi_core.properties.atmosphere import GaugeReference, absolute_pa
from yoshi_core.properties.saturation import AnyRefrigerant
from yoshi_core.refrigerants.tables import table
from yoshi_core.units.quantities import FAHRENHEIT_K, LB_KG, PSI_PA, ZERO_FAHRENHEIT_K

PressureClass = Literal["low", "medium", "high", "very_high"]
INHG_PA = 3386.389
FROM_INHG = 29.9
CLASS_AT_K = 104.0 * FAHRENHEIT_K + ZERO_FAHRENHEIT_K
CLASS_LIMITS_PSIA: tuple[tuple[float, PressureClass], ...] = ((45.0, "low"), (170.0, "medium"), (355.0, "high"))
LARGE_KG = 200.0 * LB_KG
LOW_PRESSURE_PA = 25.0 * 133.322
SMALL_KG = 5.0 * LB_KG
SMALL_VACUUM_INHG = 4.0
SMALL_SHARE_RUNNING, SMALL_SHARE_STOPPED = 0.90, 0.80


@dataclass(frozen=True)
class Level:
    """Where recovery may end: absolute pressure in Pa and what a gauge at the site then reads in Pa.

    `share` of the charge does as well for a small appliance; None elsewhere. `source` names the rule.
    """

    absolute_pa: float
    gauge_pa: float
    share: float | None
    source: str


@dataclass(frozen=True)
class Room:
    """What a recovery cylinder may still take, in kg; `stop_gross_kg` is the scale's reading at its limit."""

    most_net_kg: float
    room_kg: float
    stop_gross_kg: float


@dataclass(frozen=True)
class Share:
    """Recovered over what belongs there; `missing_kg` is negative when more came out than belongs in."""

    share: float
    missing_kg: float


def pressure_class(refrigerant: AnyRefrigerant) -> PressureClass:
    """Low, medium, high or very high by bubble pressure at 104 °F; very high when the critical point lies below that."""
    if table(refrigerant).critical_temperature_k < CLASS_AT_K:
        return "very_high"
    psia = saturation.bubble_pressure_pa(refrigerant, CLASS_AT_K) / PSI_PA
    return next((name for limit, name in CLASS_LIMITS_PSIA if psia < limit), "very_high")


def vacuum_absolute_pa(level_inhg: float) -> float:
    """Absolute pressure in Pa of a vacuum in inHg counted down from 29.9. Raises `OutOfRange` outside 0 to 29.9."""
    if not 0.0 <= level_inhg <= FROM_INHG:
        raise OutOfRange(
            "A vacuum is from 0 to {most} inHg; {level} is not.",
            words={"most": FROM_INHG, "level": f"{level_inhg:g}"},
            value=level_inhg,
            high=FROM_INHG,
        )
    return (FROM_INHG - level_inhg) * INHG_PA


def level(
    refrigerant: AnyRefrigerant,
    charge_kg: float,
    altitude_m: float = 0.0,
    reference: GaugeReference = "vented",
    *,
    small_appliance: bool = False,
    compressor_runs: bool = False,
) -> Level:
    """The level for a full charge in kg at a site.

    Where it lands above the air at the site, zero on the site's gauge is asked for all the same. A small
    appliance is factory-sealed with 5 lb or less. Raises `OutOfRange` for a charge that is none, or too
    large for a small appliance.
    """
    if not charge_kg > 0.0:
        raise OutOfRange("The full charge must be above zero.", value=charge_kg)
    zero = absolute_pa(0.0, reference, altitude_m)
    source = "40 CFR 82.156 (from memory)"
    if small_appliance:
        if charge_kg > SMALL_KG + 1e-9:
            raise OutOfRange("A small appliance holds 5 lb or less.", value=charge_kg, high=SMALL_KG)
        wanted = vacuum_absolute_pa(SMALL_VACUUM_INHG)
        return Level(wanted, min(wanted - zero, 0.0), SMALL_SHARE_RUNNING if compressor_runs else SMALL_SHARE_STOPPED, source)
    kind, large = pressure_class(refrigerant), charge_kg >= LARGE_KG
    if kind == "low":
        wanted = LOW_PRESSURE_PA
    else:
        inches = {"very_high": (0.0, 0.0), "high": (0.0, 10.0), "medium": (10.0, 15.0)}[kind][large]
        wanted = vacuum_absolute_pa(inches)
    return Level(min(wanted, zero), min(wanted - zero, 0.0), None, source)


def room(refrigerant: AnyRefrigerant, water_capacity_kg: float, tare_kg: float, net_kg: float, share: float = cylinders.FILL_SHARE) -> Room:
    """Room of a recovery cylinder that holds `net_kg` of this refrigerant. Raises `OutOfRange`."""
    if net_kg < 0.0:
        raise OutOfRange("What is in the cylinder cannot be below zero: check its tare.", value=net_kg)
    most = cylinders.fill_limit_kg(refrigerant, water_capacity_kg, share)
    return Room(most, max(0.0, most - net_kg), tare_kg + most)


def cylinders_needed(expected_kg: float, rooms: tuple[float, ...]) -> int | None:
    """How many of the cylinders, in order, take an expected weight; None when all together do not."""
    left = expected_kg
    for number, free in enumerate(rooms, start=1):
        left -= free
        if left <= 1e-9:
            return number
    return None


def liquid_full_k(refrigerant: AnyRefrigerant, water_capacity_kg: float, net_kg: float) -> float | None:
    """Temperature in K at which liquid alone fills the cylinder; None when it does not below the table's end.

    Saturated liquid density; a hot van matters when this is near.
    """
    dense = net_kg / cylinders.volume_m3(water_capacity_kg)
    first, last = saturation.temperature_range_k(refrigerant)
    if saturation.liquid_density_kg_m3(refrigerant, last) > dense:
        return None
    low, high = first, last
    for _ in range(60):
        middle = 0.5 * (low + high)
        low, high = (middle, high) if saturation.liquid_density_kg_m3(refrigerant, middle) > dense else (low, middle)
    return 0.5 * (low + high)


EXPECTED_SHARES: dict[str, tuple[float, float]] = {
    "undercharge": (0.40, 0.95),
    "overcharge": (1.02, 1.35),
    "healthy": (0.95, 1.05),
    "": (0.70, 1.10),
}
LEFT_SPREAD = (0.5, 1.5)


def expected_kg(full_kg: float, lead: str | None, left_kg: float | None = None) -> tuple[float, float]:
    """What will come out, lowest and highest in kg, from what as-found said leads; `left_kg` where only vapour is left.

    A share of the full charge by the leading cause; common practice, no source. Raises `OutOfRange` for no full charge.
    """
    if not full_kg > 0.0:
        raise OutOfRange("There is no full charge to compare with.", value=full_kg)
    if left_kg is not None:
        return LEFT_SPREAD[0] * left_kg, LEFT_SPREAD[1] * left_kg
    low, high = EXPECTED_SHARES.get(lead or "", EXPECTED_SHARES[""])
    return low * full_kg, high * full_kg


def recovered_share(recovered_kg: float, belongs_kg: float) -> Share:
    """Share of what belongs in the system. Raises `OutOfRange` for a negative weight or nothing to compare with."""
    if recovered_kg < 0.0:
        raise OutOfRange("A recovered weight cannot be below zero: the two scale readings may be swapped.", value=recovered_kg)
    if not belongs_kg > 0.0:
        raise OutOfRange("There is no full charge to compare with.", value=belongs_kg)
    return Share(recovered_kg / belongs_kg, belongs_kg - recovered_kg)
