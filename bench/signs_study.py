"""How often the trade's table of signs names the true cause: heating, single ports, few readings, on rig units with instrument error.

    python bench/signs_study.py [CASES]

Every case goes through As found as a technician would have typed it. Prints the true cause first and among three, by
what was read and by cause, and how often a well unit is called short. Refrigeration is a unit of the rig designed at a
box's own point (35 to 40 °F in it): a fixed restrictor without a receiver, evaporating 20 to 30 °F under it, or a valve with one, 8 to 15;
its coil does not frost there. Equal numbers of each cause.
"""

import random
import sys
from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from pathlib import Path

CORE = Path(__file__).resolve().parents[1] / "core"
sys.path[:0] = [str(CORE), str(CORE / "tools")]

from learn_signatures import CFM_M3_S, draw_faults, draw_unit, draw_weather, fahrenheit

from yoshi_core.diagnosis.causes import CAUSES, ONLY_FOR
from yoshi_core.document.model import Job, Run, StepRecord
from yoshi_core.document.plate import Plate
from yoshi_core.document.sheets import Entry
from yoshi_core.findings.pictures import AsFoundPicture
from yoshi_core.job.evaluate import evaluate
from yoshi_core.profile.profile import Profile
from yoshi_core.properties.atmosphere import SEA_LEVEL_PA
from yoshi_core.rig.design import TON_W, design
from yoshi_core.rig.design import Plate as RigPlate
from yoshi_core.rig.solve import solve
from yoshi_core.rig.unit import Faults, State, Unit, Weather
from yoshi_core.steps.as_found.sheet import AsFoundSheet
from yoshi_core.units.quantities import FAHRENHEIT_K, PSI_PA

SEED = 4
NOW = datetime(2026, 6, 18, 12, 0, tzinfo=UTC)
Typed = dict[str, Entry]


@dataclass(frozen=True)
class Shown:
    """A unit as it stands, in what weather, beside the power it takes when it is well, W; `dice` are the instruments' errors."""

    state: State
    weather: Weather
    well_w: float
    dice: random.Random


Reads = Callable[[Shown], Typed]


def entry(value: float) -> Entry:
    return Entry(value, source="measured")


def gauge(pa: float, dice: random.Random) -> Entry:
    return entry(pa - SEA_LEVEL_PA + dice.uniform(-PSI_PA, PSI_PA))


def clamp(k: float, dice: random.Random) -> Entry:
    return entry(k + dice.uniform(-FAHRENHEIT_K, FAHRENHEIT_K))


def suction_alone(at: Shown) -> Typed:
    return {"suction_pressure": gauge(at.state.suction_pa, at.dice)}


def suction_and_line(at: Shown) -> Typed:
    return {**suction_alone(at), "suction_line": clamp(at.state.suction_k, at.dice)}


def no_gauge(at: Shown) -> Typed:
    air = {
        "return_air": clamp(at.state.return_k, at.dice),
        "supply": clamp(at.state.supply_k, at.dice),
        "outdoor": clamp(at.weather.outdoor_k, at.dice),
    }
    return {
        **air,
        "amps": entry(10.0 * 0.8 * at.state.power_w / at.well_w * (1.0 + at.dice.uniform(-0.03, 0.03))),
        "rated_amps": entry(10.0),
    }


def in_heating(at: Shown) -> Typed:
    """The vapour port is the high side; the true suction at the compressor; the liquid line clamped."""
    return {
        "suction_pressure": gauge(at.state.liquid_pa, at.dice),
        "true_suction": gauge(at.state.suction_pa, at.dice),
        "liquid_pressure": gauge(at.state.liquid_pa, at.dice),
        "liquid_line": clamp(at.state.liquid_k, at.dice),
        "outdoor": clamp(at.weather.outdoor_k, at.dice),
        "return_air": clamp(at.state.return_k, at.dice),
    }


def heating_gauges(at: Shown) -> Typed:
    """As most read it: the vapour port and the air alone."""
    read = in_heating(at)
    return {name: read[name] for name in ("suction_pressure", "outdoor", "return_air")}


def box_and_suction(at: Shown) -> Typed:
    """One gauge on a reach-in, and the thermometer in it."""
    return {**suction_alone(at), "box": clamp(at.weather.indoor_k, at.dice)}


def box_whole(at: Shown) -> Typed:
    """Both gauges and both lines, the box and the room."""
    return {
        **box_and_suction(at),
        "suction_line": clamp(at.state.suction_k, at.dice),
        "liquid_pressure": gauge(at.state.liquid_pa, at.dice),
        "liquid_line": clamp(at.state.liquid_k, at.dice),
        "outdoor": clamp(at.weather.outdoor_k, at.dice),
    }


KINDS: dict[str, tuple[str, Reads]] = {
    "cooling, one suction gauge": ("cooling", suction_alone),
    "cooling, suction gauge and clamp": ("cooling", suction_and_line),
    "cooling, amps and air alone": ("cooling", no_gauge),
    "heating, vapour port and air": ("heating", heating_gauges),
    "heating, both ports named": ("heating", in_heating),
    "refrigeration, suction gauge and box": ("box", box_and_suction),
    "refrigeration, both gauges, lines, box and room": ("box", box_whole),
}


def unit_of(mode: str, dice: random.Random) -> tuple[object, Unit]:
    if mode == "box":
        return cabinet(dice)
    plate, unit = draw_unit(dice.choice(("valve", "fixed")), dice)
    return (plate, unit) if mode == "cooling" else (replace(plate, heat_pump=True), design(replace(plate, heat_pump=True)))


def cabinet(dice: random.Random) -> tuple[RigPlate, Unit]:
    """A box's unit at its own design point: 95 °F around it, its coil below the box by what is usual."""
    valve, box = dice.random() < 0.5, dice.uniform(35.0, 40.0)
    watts = dice.uniform(0.3, 2.0) * TON_W
    plate = RigPlate(
        refrigerant=dice.choice(("R-134a", "R-404A", "R-448A")),
        metering="txv" if valve else "orifice",
        capacity_w=watts,
        charge_kg=watts / TON_W * dice.uniform(0.9, 1.3) * (2.0 if valve else 1.0),
        suction_dew_k=fahrenheit(box - (dice.uniform(8.0, 15.0) if valve else dice.uniform(20.0, 30.0))),
        condensing_k=fahrenheit(dice.uniform(110.0, 120.0)),
        superheat_k=dice.uniform(6.0, 12.0) * FAHRENHEIT_K,
        subcooling_k=dice.uniform(5.0, 12.0) * FAHRENHEIT_K,
        line_m=dice.uniform(5.0, 20.0) if valve else 1.0,
        indoor_m3_s_per_w=(dice.uniform(1000.0, 1500.0) if valve else dice.uniform(400.0, 700.0)) * CFM_M3_S / TON_W,
        receiver_m3=watts / TON_W * 0.0025 if valve else 0.0,
        low_cut_out_k=fahrenheit(-40.0),
        weather=Weather(fahrenheit(95.0), fahrenheit(box), fahrenheit(box - 3.0)),
    )
    return plate, design(plate)


def weather_of(mode: str, dice: random.Random) -> Weather:
    if mode == "cooling":
        drawn: Weather = draw_weather(dice)
        return drawn
    if mode == "box":
        box = dice.uniform(35.0, 40.0)
        return Weather(fahrenheit(dice.uniform(70.0, 100.0)), fahrenheit(box), fahrenheit(box - 3.0))
    outdoor = dice.uniform(25.0, 60.0)
    return Weather(fahrenheit(outdoor), fahrenheit(dice.uniform(66, 74)), fahrenheit(58), fahrenheit(outdoor - 4.0), mode="heating")


def asked(plate: Plate, mode: str, read: Typed) -> list[str]:
    sheet = AsFoundSheet(running="settled", run_time=entry(1200.0), mode="cooling" if mode == "box" else mode, **read)  # type: ignore[arg-type]
    steps = {"identify": StepRecord((Run(plate),)), "as_found": StepRecord((Run(sheet),))}
    picture = evaluate(Job("case", "service", steps=steps), Profile(), NOW).step("as_found").picture
    assert isinstance(picture, AsFoundPicture)
    return [row.id for row in picture.causes]


def cases(mode: str, reads: Reads, cause: str, count: int) -> list[list[str]]:
    dice = random.Random(f"{SEED}-{mode}-{reads.__name__}-{cause}")
    found: list[list[str]] = []
    tries = 0
    while len(found) < count and tries < 40 * count:
        tries += 1
        try:
            plate, unit = unit_of(mode, dice)
            family = "valve" if unit.metering == "txv" else "fixed"
            if ONLY_FOR.get(cause, family) != family:
                continue
            weather = weather_of(mode, dice)
            state = solve(unit, weather, draw_faults(cause, dice))
            well = solve(unit, weather, Faults())
        except Exception:  # noqa: BLE001 - a unit or weather the rig cannot design or run is drawn again
            continue
        if not state.running or not well.running:
            continue
        kind = kind_of(mode, reads, family)
        target = entry(unit_subcooling(plate))
        sheet = Plate(refrigerant=unit.refrigerant, kind=kind, metering=unit.metering, subcooling_target=target, altitude=entry(0.0))  # type: ignore[arg-type]
        order = asked(sheet, mode, reads(Shown(state, weather, well.power_w, dice)))
        if order:
            found.append(order)
    return found


def kind_of(mode: str, reads: Reads, family: str) -> str:
    """What stands on the plate."""
    if mode == "box":
        return "receiver" if family == "valve" else "reach_in"
    return "heat_pump" if mode == "heating" else "ductless" if reads is suction_alone else "split"


def unit_subcooling(plate: object) -> float:
    return float(getattr(plate, "subcooling_k", 5.5))


def main(count: int) -> int:
    for label, (mode, reads) in KINDS.items():
        first = three = total = short = well = 0
        rows = []
        for cause in CAUSES:
            if cause == "reversing_leak" and mode != "heating":
                continue
            orders = cases(mode, reads, cause, max(count // len(CAUSES), 1))
            if not orders:
                rows.append((cause, 0, 0.0, 0.0, ""))
                continue
            a, b = (sum(cause in order[:many] for order in orders) for many in (1, 3))
            first, three, total = first + a, three + b, total + len(orders)
            if cause == "healthy":
                well, short = len(orders), sum(order[0] == "undercharge" for order in orders)
            lead = Counter(order[0] for order in orders).most_common(1)[0][0]
            rows.append((cause, len(orders), a / len(orders), b / len(orders), "" if lead == cause else f"mostly {lead}"))
        print(
            f"{label}: {total} cases, first {first / total:.1%}, among three {three / total:.1%}; a well unit called short {short} of {well}"
        )
        for cause, many, once, thrice, lead in rows:
            print(f"    {cause:20} {many:5}  first {once:6.1%}  among three {thrice:6.1%}  {lead}")
    return 0


if __name__ == "__main__":
    sys.exit(main(int(sys.argv[1]) if len(sys.argv) > 1 else 1_400))
