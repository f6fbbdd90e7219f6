"""How near the forecast of a pull comes, made when the log has come half of ln(p₀/target).

    python bench/forecast_study.py [PULLS]      writes bench/results/forecast.json with seed and the code's hash

Pulls over 2 L to 200 L from two generators that share nothing but physics: the practice rig, and a pull integrated
here with a Knudsen hose, a pump that tires towards its end pressure, and surfaces that give off gas as one over time.
A log begins at the atmosphere, or at 25,000 micron where the gauge begins to show. Dry systems and wet ones apart:
half way down the logarithm a wet one has shown nothing of its water yet.
"""

import json
import math
import random
import sys
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT / "core"), str(ROOT / "bench")]

from stamp import code_stamp

from yoshi_core.rig.vacuum import Pump, VacuumSystem
from yoshi_core.tight_and_dry import pull_down
from yoshi_core.tight_and_dry.pull_down import Setup
from yoshi_core.units.quantities import MICRON_PA

SEED, PULLS = 7, 400
RESULTS = ROOT / "bench" / "results" / "forecast.json"
TARGET_PA, GAUGE_BEGINS_PA, SITE_PA = 500.0 * MICRON_PA, 25_000.0 * MICRON_PA, 101_325.0
WITHIN = 0.2
LONGEST_S = 12 * 3600.0
LEAST_READINGS = 13
SIZES = (("to 40 L", lambda m3: m3 <= 0.04), ("over 40 L", lambda m3: m3 > 0.04))
KINDS = ("dry", "damp surfaces", "wet, or leaking")
Log = list[tuple[float, float]]


@dataclass(frozen=True)
class Pull:
    """What is pulled, and what the technician told of it: pump and hose as rated, volume as guessed."""

    volume_m3: float
    setup: Setup
    told_volume_m3: float
    log: Log


def _setup(dice: random.Random) -> Setup:
    bore, length = dice.choice(((0.0064, 0.9), (0.0064, 1.5), (0.0095, 1.2), (0.0095, 1.8), (0.0127, 0.9)))
    return Setup(dice.choice((1.2e-3, 2.4e-3, 3.8e-3)), bore, length)


def _volume(dice: random.Random) -> float:
    return math.exp(dice.uniform(math.log(0.002), math.log(0.2)))


def _shown(dice: random.Random, scale: float, pressure_pa: float) -> float:
    return max(pressure_pa * scale * (1.0 + dice.gauss(0.0, 0.01)), MICRON_PA)


def from_rig(dice: random.Random, kind: str) -> Pull:
    """The practice rig: exact steps, water from a store and from surfaces."""
    volume, told = _volume(dice), _setup(dice)
    pump = Pump(told.pump_m3_s * dice.uniform(0.85, 1.05), ends_pa=dice.uniform(1.0, 6.0))
    system = VacuumSystem(volume, dice.uniform(285.0, 305.0), bore_m=told.bore_m, hose_m=told.length_m, pump=pump)
    system.sorbed_kg *= (volume / 0.01) ** 0.5 * dice.uniform(0.5, 1.5)
    if kind == "damp surfaces":
        system.sorbed_kg *= dice.uniform(4.0, 10.0)
    if kind == "wet, or leaking":
        system.water_kg, system.leak_pa_m3_s = dice.choice(((dice.uniform(0.2e-3, 3e-3), 0.0), (0.0, dice.uniform(0.02, 0.3))))
    system.pumping = True
    scale, every = dice.uniform(0.97, 1.03), max(1.0, round(volume / 0.002))
    log = [(0.0, SITE_PA)]
    while system.pressure_pa > TARGET_PA and system.time_s < LONGEST_S:
        system.step(every)
        log.append((system.time_s, _shown(dice, scale, system.pressure_pa)))
    return Pull(volume, told, volume * math.exp(dice.gauss(0.0, 0.2)), log)


def from_curves(dice: random.Random, kind: str) -> Pull:
    """Integrated here: Knudsen's factor between viscous and molecular flow, a tiring pump, gas given off as one over time."""
    volume, told = _volume(dice), _setup(dice)
    pump, ends = told.pump_m3_s * dice.uniform(0.85, 1.05), dice.uniform(1.0, 6.0)
    load = 1.2e-3 * (volume / 0.01) ** 0.5 * dice.uniform(0.4, 1.6) * {"dry": 1.0}.get(kind, dice.uniform(4.0, 10.0))
    water_left = dice.uniform(0.2e-3, 3e-3) * 8.314 * 295.0 / 0.018 if kind == "wet, or leaking" else 0.0
    scale, every = dice.uniform(0.97, 1.03), max(1.0, round(volume / 0.002))
    air, water, now, due = SITE_PA, 0.0, 0.0, every
    log = [(0.0, SITE_PA)]
    while air + water > TARGET_PA and now < LONGEST_S:
        pressure = air + water
        through = _knudsen_m3_s(told.bore_m, told.length_m, 0.5 * pressure)
        tired = pump * max(1.0 - ends / pressure, 0.0) ** 1.2
        speed = tired * through / (tired + through) if tired > 0.0 else 0.0
        step = min(0.03 * volume / max(speed, 1e-9), 0.5 * every)
        gives = load / (1.0 + now / 1800.0)
        boils = 4.0e-3 * max(2400.0 - water, 0.0) if water_left > 0.0 else 0.0
        water_left -= boils * step
        air += (gives - speed * air) / volume * step
        water = max(water + (boils - speed * water) / volume * step, 0.0)
        now += step
        if now >= due:
            due += every
            log.append((now, _shown(dice, scale, air + water)))
    return Pull(volume, told, volume * math.exp(dice.gauss(0.0, 0.2)), log)


def _knudsen_m3_s(bore_m: float, length_m: float, mean_pa: float) -> float:
    """Conductance of a long tube for air at 20 °C by Knudsen's interpolation (vacuum handbooks, from memory)."""
    bore, length, mean = bore_m * 100.0, length_m * 100.0, mean_pa / 100.0
    steps = (1.0 + 203.0 * bore * mean + 2.78e3 * (bore * mean) ** 2) / (1.0 + 237.0 * bore * mean)
    return 12.1 * bore**3 / length * steps * 1e-3


@dataclass(frozen=True)
class Miss:
    """How far a forecast was off, as shares of the time left and of the whole pull; whether its band, widened by the same fifth, held the truth."""

    left: float
    whole: float
    in_band: bool


NEVER = Miss(math.inf, math.inf, False)


def miss(pull: Pull, begins_pa: float) -> Miss | None:
    """None where the log is too short to be looked at half way; `NEVER` where a pull that got there was told that it would not."""
    log = [row for row in pull.log if row[1] <= begins_pa]
    if len(log) < LEAST_READINGS:
        return None
    half = math.sqrt(log[0][1] * TARGET_PA)
    seen = next(n for n, row in enumerate(log) if row[1] <= half) + 1
    at = log[seen - 1][0]
    said = pull_down.forecast(log[:seen], TARGET_PA, pull.setup, pull.told_volume_m3)
    if said.seconds is None or said.bound_only:
        return NEVER
    true = pull.log[-1][0] - at
    off = abs(said.seconds - true)
    low, high = said.low_s or 0.0, said.high_s if said.high_s is not None else math.inf
    return Miss(off / true, off / (true + at - log[0][0]), (1.0 - WITHIN) * low <= true <= (1.0 + WITHIN) * high)


def study(pulls: int, seed: int) -> dict[str, dict[str, float]]:
    """By generator, kind of system, size and where the log begins: the share within a fifth, and the middle error."""
    dice = random.Random(seed)
    found: dict[str, dict[str, float]] = {}
    for kind in KINDS:
        for generator, make in (("rig", from_rig), ("curves", from_curves)):
            made = [pull for pull in (make(dice, kind) for _ in range(pulls)) if pull.log[-1][1] <= 1.1 * TARGET_PA]
            for begins, pa in (("atmosphere", 2.0 * SITE_PA), ("25,000 micron", GAUGE_BEGINS_PA)):
                for size, some in (("all", made), *((name, [p for p in made if fits(p.volume_m3)]) for name, fits in SIZES)):
                    misses = [m for pull in some if (m := miss(pull, pa)) is not None]
                    if misses:
                        found[f"{generator} | {kind} | from {begins} | {size}"] = _shares(misses)
    return found


def _shares(misses: list[Miss]) -> dict[str, float]:
    return {
        "n": len(misses),
        "left_within": sum(m.left <= WITHIN for m in misses) / len(misses),
        "whole_within": sum(m.whole <= WITHIN for m in misses) / len(misses),
        "in_band": sum(m.in_band for m in misses) / len(misses),
        "never": sum(m is NEVER for m in misses) / len(misses),
    }


def main() -> None:
    pulls = int(sys.argv[1]) if len(sys.argv) > 1 else PULLS
    found = study(pulls, SEED)
    for key, row in found.items():
        print(f"  {key:60}" + "  ".join(f"{name} {value:.3g}" for name, value in row.items()))
    if pulls == PULLS:
        RESULTS.write_text(json.dumps({"seed": SEED, "pulls": PULLS, "code": code_stamp(__file__), "rows": found}, indent=1) + "\n")


if __name__ == "__main__":
    main()
