"""How often a hold or a decay is judged wrongly: false passes, false fails, still waiting, time to a verdict.

    python bench/tight_dry_study.py [CASES]      writes bench/results/tight_dry.json with seed and the code's hash

Decays and holds over 2 L to 5 m³, with leaks from none to five times the limit, moisture, instrument error and
temperature drift, from generators that share nothing: the practice rig, curves drawn here from closed forms
with two time constants, drifting scale error and correlated noise, and two rooms with a peak between them (`two_rooms.py`); logged, and as
people type them (`typed_logs.py`). Beside each school stands the two-point habit.
"""

import json
import math
import random
import statistics
import sys
from collections.abc import Iterator
from dataclasses import dataclass, replace
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT / "core"), str(ROOT / "bench")]

import two_rooms
import typed_logs
from CoolProp.CoolProp import PropsSI
from stamp import code_stamp

from yoshi_core.profile.profile import Profile
from yoshi_core.properties.vapor import GAS_CONSTANT
from yoshi_core.rig.nitrogen import NitrogenHold
from yoshi_core.rig.vacuum import SORBED_PA_PER_KG, WATER_KG_MOL, VacuumSystem
from yoshi_core.tight_and_dry import evacuation, pressure_hold
from yoshi_core.tight_and_dry.decay import Noise
from yoshi_core.tight_and_dry.evacuation import Limits
from yoshi_core.tight_and_dry.pressure_hold import HoldSample, HoldTerms
from yoshi_core.units.quantities import MICRON_PA, PSI_PA

SEED, CASES = 5, 4000
NITROGEN_KG_MOL = 0.0280134
RESULTS = ROOT / "bench" / "results" / "tight_dry.json"
PROFILE = Profile()
LOOKS = (1.0, 1.5, 2.0, 3.0, 4.0)
SCHOOLS = {"stays": (500.0, 500.0), "thousand": (500.0, 1000.0), "deep": (250.0, 500.0)}
KINDS = ("tight, dry", "moist", "half the limit", "twice the limit", "five times", "twice, and moist")
Row = tuple[float, float]


@dataclass(frozen=True)
class Decay:
    """A case: the school's terms, a volume, and the rise after isolation in Pa by seconds."""

    kind: str
    school: str
    volume_m3: float
    limits: Limits
    rows: tuple[Row, ...]


def limits_for(school: str, volume: float) -> Limits:
    target, stays = (value * MICRON_PA for value in SCHOOLS[school])
    noise = Noise(PROFILE.value("vacuum.floor"), PROFILE.value("vacuum.share"))
    watch = PROFILE.value("vacuum.hold") * max(1.0, volume / PROFILE.value("vacuum.hold_volume"))
    return Limits(target, stays, PROFILE.value("vacuum.leak"), watch, noise, PROFILE.value("vacuum.discard"))


def leak_of(kind: str, limit: float) -> float:
    return (
        limit
        * {"tight, dry": 0.0, "moist": 0.0, "half the limit": 0.5, "twice the limit": 2.0, "five times": 5.0, "twice, and moist": 2.0}[kind]
    )


def moments(dice: random.Random, longest: float, watch: float) -> list[float]:
    """When it is read: typed every few minutes, or logged; more seldom in a long watch."""
    every = dice.choice((5.0, 15.0, 30.0, 60.0, 120.0)) * max(1.0, watch / 600.0) ** 0.8
    return [n * every for n in range(int(longest / every) + 1)]


def from_curves(dice: random.Random, kind: str, school: str) -> Decay:
    """Closed forms: a leak, two levelling parts, a scale error that drifts with temperature, correlated noise."""
    volume = math.exp(dice.uniform(math.log(0.002), math.log(5.0)))
    limits = limits_for(school, volume)
    slope = leak_of(kind, limits.leak_pa_m3_s) / volume
    start = limits.target_pa * dice.uniform(0.35, 0.95)
    wet = "moist" in kind
    room = limits.stays_pa - start
    first = (dice.uniform(1.5, 6.0) * limits.stays_pa if wet else dice.uniform(0.02, 0.45) * room) * dice.uniform(0.6, 0.9)
    second = first * dice.uniform(0.1, 0.5)
    tau_1 = dice.uniform(0.1, 0.5) * limits.hold_s
    tau_2 = tau_1 * dice.uniform(2.0, 4.0)
    scale, drift = 1.0 + dice.gauss(0.0, 0.01), dice.gauss(0.0, 0.004)
    day = max(limits.hold_s * 4.0, 3600.0)
    noise, memory, rows = 0.0, dice.uniform(0.0, 0.7), []
    scatter = dice.uniform(0.2, 1.0)
    for second_s in moments(dice, limits.hold_s * LOOKS[-1], limits.hold_s):
        true = start + slope * second_s + first * (1 - math.exp(-second_s / tau_1)) + second * (1 - math.exp(-second_s / tau_2))
        noise = memory * noise + math.sqrt(1 - memory**2) * dice.gauss(0.0, 1.0)
        shown = true * (scale + drift * math.sin(2 * math.pi * second_s / day)) + noise * scatter * max(3.0 * MICRON_PA, 0.008 * true)
        rows.append((second_s, max(round(shown / MICRON_PA), 1) * MICRON_PA))
    return Decay(kind, school, volume, limits, tuple(rows))


def from_rig(dice: random.Random, kind: str, school: str) -> Decay:
    """The practice rig from its isolation on: air left by the pull, water held by surfaces, a leak, a surface that drifts."""
    volume = math.exp(dice.uniform(math.log(0.002), math.log(5.0)))
    limits = limits_for(school, volume)
    surface = dice.uniform(283.0, 303.0)
    start = limits.target_pa * dice.uniform(0.35, 0.95)
    rises = dice.uniform(1.5, 6.0) * limits.stays_pa if "moist" in kind else dice.uniform(0.02, 0.45) * (limits.stays_pa - start)
    takes = SORBED_PA_PER_KG * volume * WATER_KG_MOL / (GAS_CONSTANT * surface)
    water = rises * (1.0 + takes) / SORBED_PA_PER_KG
    system = VacuumSystem(volume, surface, leak_pa_m3_s=leak_of(kind, limits.leak_pa_m3_s), sorbed_kg=water)
    system.air_pa = start
    bias, rows, now = dice.uniform(-0.01, 0.01), [], 0.0
    drift = dice.uniform(-2.0, 2.0) / 3600.0
    for second_s in moments(dice, limits.hold_s * LOOKS[-1], limits.hold_s):
        while now < second_s - 1e-9:
            part = min(max(limits.hold_s / 400.0, 1.0), second_s - now)
            system.surface_k = surface + drift * min(now, 7200.0)
            system._advance(part)
            now += part
        shown = system.pressure_pa * (1.0 + bias) + dice.gauss(0.0, 1.0) * max(2.0 * MICRON_PA, 0.004 * system.pressure_pa)
        rows.append((second_s, max(round(shown / MICRON_PA), 1) * MICRON_PA))
    return Decay(kind, school, volume, limits, tuple(rows))


def decide(case: Decay) -> tuple[str, float]:
    """What Yoshi says and when: looked at once the time is served, then again as long as it says wait."""
    for look in LOOKS:
        until = case.limits.hold_s * look
        rows = [row for row in case.rows if row[0] <= until + 1e-6]
        said = evacuation.judge(rows, case.volume_m3, case.limits)
        if said.kind == "tight":
            return "pass", rows[-1][0]
        if said.kind in {"leaking", "leaking and moist", "moist"}:
            return said.kind, rows[-1][0]
    return "waiting", case.rows[-1][0]


def habit(case: Decay) -> str:
    """The two-point habit: one number when it is shut off, one when the school's time is up."""
    end = min((row for row in case.rows if row[0] >= case.limits.hold_s * 0.999), default=case.rows[-1])
    return "pass" if end[1] <= case.limits.stays_pa else "fail"


def decays(count: int, seed: int) -> Iterator[tuple[str, Decay]]:
    dice = random.Random(seed)
    for n in range(count):
        kind, school = KINDS[n % len(KINDS)], tuple(SCHOOLS)[(n // len(KINDS)) % len(SCHOOLS)]
        yield "curves", from_curves(dice, kind, school)
        yield "rig", from_rig(dice, kind, school)


def study_decays(count: int, seed: int) -> dict[str, dict[str, float]]:
    """Shares by generator, school and kind of case."""
    found: dict[str, dict[str, list[float]]] = {}
    for generator, case in decays(count, seed):
        said, when = decide(case)
        for key in (f"{generator} | {case.kind} | {case.school}", f"{generator} | {case.kind} | all"):
            row = found.setdefault(key, {"n": [], "pass": [], "leaking": [], "moist": [], "waiting": [], "habit_pass": [], "time": []})
            row["n"].append(1)
            row["pass"].append(said == "pass")
            row["leaking"].append(said.startswith("leaking"))
            row["moist"].append(said == "moist")
            row["waiting"].append(said == "waiting")
            row["habit_pass"].append(habit(case) == "pass")
            if said != "waiting":
                row["time"].append(when / case.limits.hold_s)
    return {
        key: {
            "n": len(row["n"]),
            **{name: sum(row[name]) / len(row["n"]) for name in ("pass", "leaking", "moist", "waiting", "habit_pass")},
            "median_time_in_watches": statistics.median(row["time"]) if row["time"] else 0.0,
        }
        for key, row in sorted(found.items())
    }


def study_typed_decays(count: int, seed: int) -> dict[str, dict[str, float]]:
    """The same decays as typed: three to five readings in the first watch, one or two before each later look. Shares by kind, all schools."""
    dice, found = random.Random(seed), {}
    for generator, make in (("curves", from_curves), ("rig", from_rig)):
        for kind in KINDS:
            said, habits = [], []
            for n in range(count // (2 * len(KINDS))):
                case = make(dice, kind, tuple(SCHOOLS)[n % len(SCHOOLS)])
                rows = typed_logs.decay(dice, case.rows, case.limits.hold_s, LOOKS)
                said.append(decide(replace(case, rows=rows))[0])
                habits.append(habit(replace(case, rows=rows)) == "pass")
            found[f"{generator} | {kind} | all"] = {
                "n": len(said),
                "pass": said.count("pass") / len(said),
                "leaking": sum(word.startswith("leaking") for word in said) / len(said),
                "moist": said.count("moist") / len(said),
                "waiting": said.count("waiting") / len(said),
                "habit_pass": sum(habits) / len(habits),
            }
    return found


def study_two_rooms(count: int, seed: int) -> dict[str, dict[str, float]]:
    """Shares by how it is read and how much leaks: none, and two to four times the limit, behind a peak that takes minutes to come down."""
    dice, found = random.Random(seed), {}
    for way in ("logged", "typed"):
        for times in (0.0, 2.0, 4.0):
            said, when = [], []
            for n in range(count // 6):
                school, volume = tuple(SCHOOLS)[n % len(SCHOOLS)], math.exp(dice.uniform(math.log(0.002), math.log(5.0)))
                limits = limits_for(school, volume)
                read = two_rooms.moments(dice, way, limits.hold_s, LOOKS)
                shown = two_rooms.rows(dice, volume, limits, times, read, typed=way == "typed")
                word, second = decide(Decay("two rooms", school, volume, limits, shown))
                said.append(word)
                when.append(second / limits.hold_s)
            found[f"{way} | {times:g} × the limit"] = {
                "n": len(said),
                "pass": said.count("pass") / len(said),
                "leaking": sum(word.startswith("leaking") for word in said) / len(said),
                "moist": said.count("moist") / len(said),
                "waiting": said.count("waiting") / len(said),
                "median_time_in_watches": statistics.median(when),
            }
    return found


@dataclass(frozen=True)
class Hold:
    """A case under nitrogen: leak as a multiple of the smallest the hold claims to see."""

    times: float
    terms: HoldTerms
    samples: tuple[HoldSample, ...]


def hold_case(dice: random.Random, times: float, *, rig: bool, typed: bool = False) -> Hold:
    """Nitrogen on the rig (virial), else by the reference equation of state (Span and others 2000, by CoolProp), which judges nothing here."""
    volume = math.exp(dice.uniform(math.log(0.002), math.log(5.0)))
    start_pa = dice.uniform(150.0, 550.0) * PSI_PA + 101_325.0
    metal_k, drift = dice.uniform(275.0, 310.0), dice.uniform(-4.0, 4.0) / 3600.0
    step = typed_logs.gauge_step_pa(dice) if typed else dice.choice((0.1, 0.1, 0.5, 1.0)) * PSI_PA
    least = 900.0 * max(1.0, volume / 0.02)
    terms = HoldTerms(900.0, least, step, 0.3, 3.0, 294.26, volume)
    spread = pressure_hold.spread_pa(start_pa, metal_k, step, 0.3)
    leak = times * spread * volume / least
    clamp_bias, every = dice.gauss(0.0, 0.3), dice.choice((10.0, 60.0, 300.0)) * max(1.0, least / 900.0) ** 0.7
    slow = dice.uniform(0.0, 1.0)
    samples = []
    held = NitrogenHold(volume, start_pa, metal_k, leak) if rig else None
    density, let_off = (PropsSI("D", "T", metal_k, "P", pa, "Nitrogen") for pa in (start_pa, 150_000.0))
    for n in range(int((900.0 + least) / every) + int(900.0 / every) + 4):
        second = n * every
        metal = metal_k + drift * min(second, 5400.0) + slow * math.sin(second / 1700.0)
        if held is not None:
            pressure = held.step(every if n else 0.0, metal)
        else:
            density = max(density, let_off)
            density -= leak * NITROGEN_KG_MOL / (GAS_CONSTANT * metal) / volume * (every if n else 0.0)
            pressure = PropsSI("P", "T", metal, "D", density, "Nitrogen")
        error = dice.gauss(0.0, typed_logs.NEEDLE) if typed else dice.uniform(-0.5, 0.5)
        shown = round(pressure / step + error) * step
        samples.append(HoldSample(second, shown, metal + clamp_bias * 0.3 + dice.gauss(0.0, 0.2)))
    read = typed_logs.hold(dice, samples, terms.settle_s, least) if typed else tuple(samples)
    return Hold(times, terms, read)


def study_holds(count: int, seed: int, *, typed: bool = False) -> dict[str, dict[str, float]]:
    """Shares by generator and leak, Yoshi's word and the habit of looking at the gauge alone (2 psi lost: it leaks).

    `typed`: three to five readings of a gauge in whole pounds, in fives or in tens.
    """
    dice, found = random.Random(seed), {}
    for rig in (False, True):
        for times in (0.0, 1.0, 2.5, 5.0):
            kinds, habits = [], []
            for _ in range(count // 8):
                case = hold_case(dice, times, rig=rig, typed=typed)
                said = pressure_hold.judge(case.samples, case.terms)
                kinds.append(said.kind)
                settled = [s for s in case.samples if s.second >= 899.0]
                habits.append(settled[0].pressure_pa - settled[-1].pressure_pa < 2.0 * PSI_PA)
            name = f"{'rig' if rig else 'reference'} | {times:g} × the smallest seen"
            found[name] = {
                "n": len(kinds),
                "pass": kinds.count("holds") / len(kinds),
                "leaking": kinds.count("drops") / len(kinds),
                "waiting": sum(k not in {"holds", "drops"} for k in kinds) / len(kinds),
                "habit_pass": sum(habits) / len(habits),
            }
    return found


def study(cases: int, seed: int) -> dict[str, object]:
    """Everything, as it is written down."""
    return {
        "decays": study_decays(cases, seed),
        "holds": study_holds(cases, seed + 1),
        "two_rooms": study_two_rooms(cases, seed + 2),
        "typed_decays": study_typed_decays(cases, seed + 3),
        "typed_holds": study_holds(cases, seed + 4, typed=True),
    }


def main() -> None:
    cases = int(sys.argv[1]) if len(sys.argv) > 1 else CASES
    found = study(cases, SEED)
    for part in ("decays", "typed_decays", "two_rooms", "holds", "typed_holds"):
        print(part)
        for key, row in found[part].items():  # type: ignore[attr-defined]
            print(
                f"  {key:44}"
                + "  ".join(
                    f"{name} {value:.2%}" if name not in {"n", "median_time_in_watches"} else f"{name} {value:.3g}"
                    for name, value in row.items()
                )
            )
    if cases == CASES:
        RESULTS.write_text(json.dumps({"seed": SEED, "cases": CASES, "code": code_stamp(__file__), **found}, indent=1) + "\n")


if __name__ == "__main__":
    main()
