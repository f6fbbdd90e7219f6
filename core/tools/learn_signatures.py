"""Learns what each cause does to the readings, from the rig:  python core/tools/learn_signatures.py

Writes core/yoshi_core/diagnosis/signatures.json. The seed is fixed and the study (`bench/diagnosis_study.py`)
uses another. Every cause is drawn on its own, so that a test can draw a few again and compare.
"""

import json
import random
from pathlib import Path
from typing import Any

import numpy as np

from yoshi_core.diagnosis.causes import CAUSES, ONLY_FOR
from yoshi_core.diagnosis.observed import Family, Observed, derive
from yoshi_core.diagnosis.rank import basis, features
from yoshi_core.errors import CoreError
from yoshi_core.rig.design import CFM_M3_S, TON_W, Plate, design, fahrenheit
from yoshi_core.rig.solve import solve
from yoshi_core.rig.standing import standing
from yoshi_core.rig.unit import Faults, Unit, Weather
from yoshi_core.units.quantities import FAHRENHEIT_K, PSI_PA

HERE = Path(__file__).resolve().parents[1] / "yoshi_core" / "diagnosis" / "signatures.json"
SEED = 1
UNITS = 60
CASES = 48
WELL_CASES = 300
GRAVEST, BEYOND = 3, (1.6, 2.4)
WIDTHS = [1.6, 1.6, 1.8, 1.3, 1.0, 0.5, 0.8]
REFRIGERANTS = ("R-410A", "R-22", "R-32", "R-454B", "R-407C", "R-134a")
FAMILIES: tuple[Family, ...] = ("valve", "fixed")


def draw_faults(cause: str, dice: random.Random) -> Faults:
    """One case of a cause at a random severity, from plain to see up to grave."""
    u = dice.uniform
    if cause == "healthy":
        return Faults(high_load_k=max(u(-6.0, 8.0), 0.0))
    if cause == "condenser_air":
        return dice.choice(
            (Faults(dirty_condenser=u(0.35, 0.75)), Faults(recirculation_k=u(5.0, 12.0)), Faults(condenser_fan_off=u(0.45, 0.85)))
        )
    if cause == "other_refrigerant":
        return Faults(other_refrigerant=dice.choice(("R-22", "R-290", "R-407C", "R-410A")), other_share=u(0.1, 0.4))
    ranges = {
        "undercharge": ("charge_share", 0.45, 0.88),
        "overcharge": ("charge_share", 1.15, 1.6),
        "liquid_restriction": ("liquid_restriction", 0.6, 0.9),
        "valve_starving": ("valve_starving", 0.28, 0.6),
        "valve_flooding": ("valve_flooding", 0.35, 0.9),
        "orifice_large": ("orifice_scale", 1.15, 1.5),
        "orifice_small": ("orifice_scale", 0.6, 0.87),
        "low_airflow": ("low_airflow", 0.3, 0.7),
        "non_condensables": ("non_condensables", 0.3, 0.9),
        "compressor_leak": ("compressor_leak", 0.2, 0.6),
        "reversing_leak": ("reversing_leak", 0.1, 0.3),
    }
    name, low, high = ranges[cause]
    made: dict[str, Any] = {name: u(low, high)}
    return Faults(**made)


def draw_unit(family: Family, dice: random.Random) -> tuple[Plate, Unit]:
    """A unit of some refrigerant, size and efficiency."""
    while True:
        tons = dice.choice((1.5, 2.0, 3.0, 4.0, 5.0))
        plate = Plate(
            refrigerant=dice.choice(REFRIGERANTS),
            metering="txv" if family == "valve" else "orifice",
            capacity_w=tons * TON_W,
            charge_kg=tons * dice.uniform(0.8, 1.15),
            suction_dew_k=fahrenheit(dice.uniform(41, 47)),
            condensing_k=fahrenheit(dice.uniform(110, 122)),
            superheat_k=dice.uniform(8, 14) * FAHRENHEIT_K,
            subcooling_k=dice.uniform(8, 13) * FAHRENHEIT_K,
            line_m=dice.uniform(5, 20),
            outdoor_m3_s_per_w=dice.uniform(900, 1300) * CFM_M3_S / TON_W,
        )
        try:
            return plate, design(plate)
        except CoreError:
            continue


def draw_weather(dice: random.Random) -> Weather:
    wet = dice.uniform(60, 71)
    return Weather(fahrenheit(dice.uniform(72, 108)), fahrenheit(dice.uniform(max(wet + 6, 72), 82)), fahrenheit(wet))


def read(plate: Plate, unit: Unit, weather: Weather, faults: Faults, family: Family, dice: random.Random) -> Observed | None:
    """The unit as instruments show it, standing first: ±1 psi, ±1 °F, power ±3 %. None where it does not run."""
    state = solve(unit, weather, faults)
    if not state.running:
        return None
    warmer = state.return_k - weather.indoor_k
    rated = solve(unit, plate.weather).power_w

    def off(limit: float) -> float:
        return dice.uniform(-limit, limit)

    clamp = FAHRENHEIT_K
    return Observed(
        plate.refrigerant,
        family,
        state.suction_pa + off(PSI_PA),
        state.suction_k + off(clamp),
        state.liquid_pa + off(PSI_PA),
        state.liquid_k + off(clamp),
        weather.outdoor_k + off(clamp),
        state.return_k + off(clamp),
        weather.indoor_wet_bulb_k + 0.8 * warmer + off(clamp),
        state.supply_k + off(clamp),
        state.power_w / rated * (1.0 + off(0.03)),
        plate.subcooling_k,
        standing(unit, weather, faults).suction_pa + off(PSI_PA),
        min(weather.outdoor_k, weather.indoor_k) + off(clamp),
    )


def cases(cause: str, family: Family, count: int, seed: int) -> list[Observed]:
    """Readings of a cause on units of a family; the same seed gives the same ones."""
    return [observed for observed, _ in cases_with_faults(cause, family, count, seed)]


def cases_with_faults(cause: str, family: Family, count: int, seed: int) -> list[tuple[Observed, Faults]]:
    """The same with the faults that made each."""
    dice = random.Random(f"{seed}-{family}-{cause}")
    found: list[tuple[Observed, Faults]] = []
    while len(found) < count:
        plate, unit = draw_unit(family, dice)
        for _ in range(3):
            weather = draw_weather(dice)
            faults = draw_faults(cause, dice)
            one = read(plate, unit, weather, faults, family, dice)
            if one is not None and len(found) < count:
                found.append((one, faults))
    return found


def beyond(moved: list[np.ndarray]) -> list[np.ndarray]:
    """Graver than the rig can run without tripping: the gravest cases, continued in their own direction."""
    gravest = sorted(moved, key=lambda row: -float(np.linalg.norm(row / np.array(WIDTHS))))[:GRAVEST]
    return [row * scale for row in gravest for scale in BEYOND]


def learn(family: Family) -> dict[str, object]:
    """Expectation of a well unit by least squares, and deviations of every cause's cases from it."""
    well = cases("healthy", family, WELL_CASES, SEED)
    rows = np.array([basis(o) for o in well])
    values = np.array([features(o, derive(o)) for o in well], dtype=float)
    expectation, *_ = np.linalg.lstsq(rows, values, rcond=None)
    learned: dict[str, list[list[float]]] = {}
    for cause in CAUSES:
        if ONLY_FOR.get(cause, family) != family:
            continue
        some = cases(cause, family, CASES, SEED)
        moved = [np.array(features(o, derive(o)), dtype=float) - np.array(basis(o)) @ expectation for o in some]
        learned[cause] = [[round(float(v), 3) for v in row] for row in moved + ([] if cause == "healthy" else beyond(moved))]
    return {"expectation": [[round(float(v), 5) for v in row] for row in expectation], "widths": WIDTHS, "cases": learned}


if __name__ == "__main__":
    text = json.dumps({"made_by": "core/tools/learn_signatures.py", "seed": SEED, **{f: learn(f) for f in FAMILIES}})
    HERE.write_text(text.replace("]], ", "]],\n").replace("}, ", "},\n") + "\n")
    print(f"{HERE.name}: {len(text) / 1024:.0f} kB")
