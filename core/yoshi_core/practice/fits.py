"""Which units would read so: a real job's readings put on the rig, and what an addition would then do.

The unit that was read is not known, only its plate. For each cause the diagnosis holds likely, the rig is solved for a usual unit of that
plate with that fault, more or less grave, until it reads as near as it can. It is the rig's opinion, with how far off it reads, and no
verdict: units differ from the usual one, and a wrong line length or a tired compressor looks like many things.
"""

from collections.abc import Callable, Mapping
from dataclasses import replace
from math import exp, fsum
from typing import Any

from yoshi_core.diagnosis.causes import CAUSES
from yoshi_core.diagnosis.observed import Derived, Family, Observed, derive
from yoshi_core.diagnosis.rank import diagnose
from yoshi_core.errors import InvalidInput
from yoshi_core.frozen import dataclass
from yoshi_core.properties.atmosphere import SEA_LEVEL_PA
from yoshi_core.rig.design import Plate, design
from yoshi_core.rig.solve import solve
from yoshi_core.rig.unit import Faults, State, Unit, Weather

# What each cause is on the rig, from hardly to be seen to grave. Another refrigerant has no figure of its own to turn.
TURNED: Mapping[str, tuple[str, float, float]] = {
    "undercharge": ("charge_share", 0.97, 0.40),
    "overcharge": ("charge_share", 1.03, 1.60),
    "liquid_restriction": ("liquid_restriction", 0.30, 0.92),
    "valve_starving": ("valve_starving", 0.10, 0.65),
    "valve_flooding": ("valve_flooding", 0.15, 0.95),
    "orifice_large": ("orifice_scale", 1.05, 1.55),
    "orifice_small": ("orifice_scale", 0.95, 0.55),
    "low_airflow": ("low_airflow", 0.15, 0.75),
    "condenser_air": ("dirty_condenser", 0.20, 0.85),
    "non_condensables": ("non_condensables", 0.15, 0.95),
    "compressor_leak": ("compressor_leak", 0.08, 0.65),
    "reversing_leak": ("reversing_leak", 0.04, 0.35),
}
KG_A_WATT = 0.97 / 3516.8528  # the middle of usual charges, a kilogram a ton; common practice, no source
USUAL_INDOOR_K, USUAL_WET_BULB_K = 299.8, 292.6
WIDTHS_K = {"evaporating_k": 2.0, "over_outdoor_k": 2.5, "superheat_k": 1.8, "subcooling_k": 1.6, "split_k": 2.0}
TRIED, COARSE, FINER = 6, 5, 3
SHOWN = 3
READ_SHARE = 0.7
NEVER_CERTAIN = 0.02
FAR, NOT_RUNNING = 25.0, 1e3


@dataclass(frozen=True)
class Asked:
    """What is known of the unit that was read: the charge that belongs in it, kg, and what was read of it; the site's air pressure, Pa."""

    observed: Observed
    charge_kg: float
    site_pa: float = SEA_LEVEL_PA


@dataclass(frozen=True)
class Fit:
    """A unit that would read so: the cause, how likely it is among those tried, the charge inside, and how far off it still reads.

    `off` is in widths of what units of one plate differ by: about 1 is as near as units are to one another.
    """

    cause: str
    label: str
    share: float
    charge_kg: float
    off: float
    unit: Unit
    weather: Weather
    faults: Faults
    state: State


@dataclass(frozen=True)
class After:
    """What would be read after so much more was inside: K; None where the unit would not run."""

    superheat_k: float | None
    subcooling_k: float | None


def fits(asked: Asked) -> tuple[Fit, ...]:
    """The few units that read most like this one, likeliest first. Raises `InvalidInput` where too little was read, as `diagnose` does."""
    seen = derive(asked.observed)
    ranked = diagnose(asked.observed).ranked
    unit, weather = _usual(asked)
    found = []
    for row in [row for row in ranked if row.cause in TURNED or row.cause == "healthy"][:TRIED]:
        faults, state, loss = _nearest(row.cause, unit, weather, seen)
        if state.running:
            found.append((row.share, loss, row.cause, faults, state))
    if not found:
        raise InvalidInput("No unit of this plate reads anything like this on the rig. Look at the readings again.", path="/readings")
    weights = [share * exp(-0.5 * READ_SHARE * loss) + NEVER_CERTAIN * share for share, loss, *_ in found]
    together = fsum(weights)
    made = [
        Fit(
            cause,
            CAUSES[cause].label,
            weight / together,
            faults.charge_share * asked.charge_kg,
            (loss / len(WIDTHS_K)) ** 0.5,
            unit,
            weather,
            faults,
            state,
        )
        for weight, (_, loss, cause, faults, state) in zip(weights, found, strict=True)
    ]
    return tuple(sorted(made, key=lambda fit: -fit.share)[:SHOWN])


def after(fit: Fit, observed: Observed, added_kg: float) -> After:
    """What this unit would read with so much more in it (less, below nought): what was read, moved by what the rig's moves by.

    Raises `OutOfRange` for more than twice the charge.
    """
    share = max(fit.faults.charge_share + added_kg / fit.unit.charge_kg, 0.0)
    state = solve(fit.unit, fit.weather, replace(fit.faults, charge_share=share), fit.state.unknowns)
    if not state.running:
        return After(None, None)
    seen = derive(observed)

    def moved(read: float | None, before: float, now: float) -> float | None:
        return None if read is None else max(read + now - before, 0.0)

    return After(
        moved(seen.superheat_k, fit.state.superheat_k, state.superheat_k),
        moved(seen.subcooling_k, fit.state.subcooling_k, state.subcooling_k),
    )


def _usual(asked: Asked) -> tuple[Unit, Weather]:
    """The usual unit of this plate, in the weather that was read; a room of 80 °F and 67 °F wet where it was not."""
    observed = asked.observed
    plate = Plate(
        refrigerant=observed.refrigerant,
        metering="txv" if observed.family == "valve" else "orifice",
        capacity_w=asked.charge_kg / KG_A_WATT,
        charge_kg=asked.charge_kg,
    )
    if observed.subcooling_target_k is not None:
        plate = replace(plate, subcooling_k=min(max(observed.subcooling_target_k, 3.0), 9.0))
    if observed.outdoor_k is None:
        raise InvalidInput("The outdoor air is needed to put this on the rig.", path="/outdoor")
    indoor = observed.return_k if observed.return_k is not None else USUAL_INDOOR_K
    wet = observed.return_wet_bulb_k if observed.return_wet_bulb_k is not None else min(USUAL_WET_BULB_K, indoor)
    return design(plate), Weather(observed.outdoor_k, indoor, min(wet, indoor), site_pa=asked.site_pa)


def _nearest(cause: str, unit: Unit, weather: Weather, seen: Derived) -> tuple[Faults, State, float]:
    """The gravity of this cause at which the rig reads nearest, looked for coarsely and then between its neighbours."""
    if cause == "healthy":
        state = solve(unit, weather, Faults())
        return Faults(), state, _loss(state, unit, weather, seen)
    name, light, grave = TURNED[cause]

    def at(share: float) -> tuple[float, Faults, State]:
        turned: dict[str, Any] = {name: light + (grave - light) * share}
        faults = Faults(**turned)
        state = solve(unit, weather, faults)
        return _loss(state, unit, weather, seen), faults, state

    loss, faults, state = _between(at)
    return faults, state, loss


def _between(at: Callable[[float], tuple[float, Faults, State]]) -> tuple[float, Faults, State]:
    step = 1.0 / (COARSE - 1)
    tried = {n * step: at(n * step) for n in range(COARSE)}
    for _ in range(FINER):
        best = min(tried, key=lambda share: tried[share][0])
        step /= 2.0
        for share in (best - step, best + step):
            if 0.0 <= share <= 1.0:
                tried[share] = at(share)
    return min(tried.values(), key=lambda one: one[0])


def _loss(state: State, unit: Unit, weather: Weather, seen: Derived) -> float:
    """How far it reads from what was read, in squares of widths; what does not run is far."""
    if not state.running:
        return NOT_RUNNING
    family: Family = "valve" if unit.metering == "txv" else "fixed"
    readings = (state.suction_pa, state.suction_k, state.liquid_pa, state.liquid_k, weather.outdoor_k, state.return_k, None, state.supply_k)
    read = derive(Observed(unit.refrigerant, family, *readings))
    gaps = [
        (mine - its) / width
        for name, width in WIDTHS_K.items()
        if (mine := getattr(seen, name)) is not None and (its := getattr(read, name)) is not None
    ]
    return fsum(min(gap * gap, FAR) for gap in gaps)
