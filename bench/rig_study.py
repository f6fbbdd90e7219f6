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
from itertools import pairwise
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1] / "core"))

from tests.rig.test_rig_design import EXPECTED
from tests.rig.test_rig_signatures import cells
from yoshi_core.rig import scenario
from yoshi_core.rig.design import Plate, design, fahrenheit
from yoshi_core.rig.solve import solve
from yoshi_core.rig.unit import RANGES, Faults, Unit, Weather

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
    return Faults(charge_share=charge, **change)


def _jumps(units: dict[tuple[str, str], Unit]) -> None:
    """The largest change of any reading at half a percent of charge, 30 to 150 %."""
    most = dict.fromkeys(("suction_pa", "liquid_pa", "superheat_k", "subcooling_k"), 0.0)
    for unit in units.values():
        course = [solve(unit, Plate().weather, Faults(charge_share=n / 200)) for n in range(60, 301)]
        for a, b in pairwise([state for state in course if state.running]):
            for name in most:
                most[name] = max(most[name], abs(getattr(b, name) - getattr(a, name)))
    psi, f = 6894.757, 5 / 9
    print(
        f"largest step at 0.5 % of charge: suction {most['suction_pa'] / psi:.2f} psi, liquid {most['liquid_pa'] / psi:.2f} psi, "
        f"superheat {most['superheat_k'] / f:.2f} °F, subcooling {most['subcooling_k'] / f:.2f} °F"
    )


def _against_the_trade() -> None:
    """The two tables the tests hold, as figures."""
    pressure, difference = 0.0, 0.0
    for (device, share), row in EXPECTED.items():
        plate = Plate(metering=device)
        state = solve(design(plate), plate.weather, Faults(charge_share=share))
        found = [(p - 101_325.0) / 6894.757 for p in (state.suction_pa, state.liquid_pa)]
        pressure = max(pressure, *(abs(a - b) for a, b in zip(found, row[:2], strict=True)))
        found = [k / (5 / 9) for k in (state.superheat_k, state.subcooling_k)]
        difference = max(difference, *(abs(a - b) for a, b in zip(found, row[2:], strict=True)))
    print(f"gauges against charge, ten rows: within {pressure:.1f} psi and {difference:.1f} °F")
    signs = cells()
    right = sum(found in wanted for *_, wanted, found in signs)
    print(f"signs of faults: {right} of {len(signs)}, {right / len(signs):.1%}")


def _live() -> None:
    """Shipped unit scenarios against the clock: simulated seconds a second."""
    speeds = {}
    for name in scenario.SHIPPED:
        found = scenario.loads(scenario.shipped(name))
        if found.kind == "unit":
            started = time.perf_counter()
            for _ in scenario.run(found):
                pass
            speeds[name] = found.lasts_s / (time.perf_counter() - started)
    slowest = min(speeds, key=speeds.__getitem__)
    print(
        f"live: {len(speeds)} scenarios, median {statistics.median(speeds.values()):,.0f}× real time, slowest {speeds[slowest]:,.0f}× ({slowest})"
    )


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
    _against_the_trade()
    _jumps(units)
    _live()
    return 0 if named / points >= 0.999 else 1


if __name__ == "__main__":
    sys.exit(main(int(sys.argv[1]) if len(sys.argv) > 1 else 20_000))
