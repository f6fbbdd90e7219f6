"""How often a careful technician ends right on the practice bench, with other seeds than the exercises have.

    python bench/practice_study.py [RUNS]      writes bench/results/practice.json with seed and the code's hash

Every run draws its own hidden fault and its own instruments, each somewhere inside its sheet's limits. Where the exercise lets the
whole charge be weighed in, the charge must end within two in a hundred of the truth; where it is done by reading, inside the target
by the method's tolerance or stopped for the right reason, and its error in charge is published beside it; where a cause is asked, it
must be named and the charge left alone; where questions are asked or a circuit is to be emptied, every mark must be met. The rig is a model: this says that the advice, followed, leads where it says on that model.
"""

import json
import statistics
import sys
from concurrent.futures import ProcessPoolExecutor
from dataclasses import replace
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT / "core"), str(ROOT / "bench")]

from stamp import code_stamp

from yoshi_core.practice import exercise as exercises
from yoshi_core.practice.careful import BY_READING, play
from yoshi_core.practice.exercise import Exercise
from yoshi_core.practice.hands import Played
from yoshi_core.practice.marking import marked
from yoshi_core.profile.profile import Profile
from yoshi_core.rig.solve import solve
from yoshi_core.running.targets import superheat_target_k
from yoshi_core.units.quantities import FAHRENHEIT_K

SEED, RUNS, WORKERS = 100_000, 1000, 2
RESULTS = ROOT / "bench" / "results" / "practice.json"
INSTRUMENTS_K = 1.5 * FAHRENHEIT_K  # a clamp's ± 1 °F with a gauge's ± 1 psi beside it
CAP_SHARE = 0.08  # nearer than that a stop to trimming is for no right reason
RIGHT_SHARE, BY_WEIGHT_GOAL, BY_READING_GOAL = 0.02, 0.99, 0.95
Run = dict[str, Any]


def one(task: tuple[str, int]) -> Run:
    """One exercise with one seed, done carefully."""
    name, seed = task
    found = exercises.loads(exercises.shipped(name), seed)
    played = play(found)
    result = marked(found, played.bench, played.job)
    way = way_of(found)
    off = result.off_kg / found.unit.charge_kg
    right = {
        "named": result.met,
        "answered": result.met,
        "emptied": result.met,
        "weight": abs(off) <= RIGHT_SHARE,
        "reading": inside_its_target(found, played) if played.ended == "proven" else abs(found.faults.charge_share - 1.0) > CAP_SHARE,
    }[way]
    return {
        "name": name,
        "seed": seed,
        "way": way,
        "right": right,
        "met": result.met,
        "off": off,
        "ended": played.ended,
        "why": played.why,
        "unmet": [mark.id for mark in result.marks if not mark.met],
        "minutes": played.bench.time_s / 60.0,
        "lost_kg": played.bench.where.lost_kg,
    }


def way_of(found: Exercise) -> str:
    """How it is judged: by a cause, by answers, by what is left inside, by weight, or by reading."""
    if found.marks.cause:
        return "named"
    if not found.marks.charge_counts:
        return "answered"
    if found.marks.leave != "full":
        return "emptied"
    return "weight" if found.start == "empty" or found.marks.charge_within < BY_READING else "reading"


def inside_its_target(found: Exercise, played: Played) -> bool:
    """Whether the unit, left alone, truly settles inside its target by the method's tolerance and the instruments' own limits."""
    share = played.bench.live.charge_kg / found.unit.charge_kg
    settled = solve(played.bench.unit, found.weather, replace(played.bench.live.faults, charge_share=share))
    profile = Profile()
    if found.unit.metering == "txv":
        off, tolerance = settled.subcooling_k - found.unit.subcooling_k, profile.value("verify.subcooling_tolerance")
    else:
        target = superheat_target_k(found.weather.indoor_wet_bulb_k, found.weather.outdoor_k)
        off, tolerance = settled.superheat_k - target, profile.value("verify.superheat_tolerance")
    return settled.running and abs(off) <= tolerance + INSTRUMENTS_K


def tasks(runs: int, seed: int = SEED) -> list[tuple[str, int]]:
    """As many of each exercise, each with its own seed."""
    return [(exercises.SHIPPED[n % len(exercises.SHIPPED)], seed + n) for n in range(runs)]


def summed(runs: list[Run]) -> dict[str, Any]:
    """Per exercise: how many, how often right and all marks met, and the error in charge."""
    found = {}
    for name in exercises.SHIPPED:
        own = [run for run in runs if run["name"] == name]
        if not own:
            continue
        off: list[float] = [100.0 * run["off"] for run in own]
        worst = max(off) if max(off) > -min(off) else min(off)
        found[name] = {
            "way": own[0]["way"],
            "runs": len(own),
            "right": sum(run["right"] for run in own),
            "all_marks": sum(run["met"] for run in own),
            "off_mean_percent": round(statistics.fmean(off), 2),
            "off_worst_percent": round(worst, 2),
            "minutes_median": round(statistics.median(run["minutes"] for run in own), 1),
        }
    return found


def shares(rows: dict[str, Any]) -> dict[str, float]:
    """How often right, by the way the charge is judged."""
    found = {}
    for way in sorted({row["way"] for row in rows.values()}):
        own = [row for row in rows.values() if row["way"] == way]
        found[way] = sum(row["right"] for row in own) / sum(row["runs"] for row in own)
    return found


def main() -> int:
    runs = int(sys.argv[1]) if len(sys.argv) > 1 else RUNS
    with ProcessPoolExecutor(WORKERS) as pool:
        done = list(pool.map(one, tasks(runs), chunksize=8))
    rows = summed(done)
    for name, row in rows.items():
        print(f"{name:24}{row['way']:9}{row['right']:4} of {row['runs']} right, all marks {row['all_marks']}; ", end="")
        print(
            f"charge off {row['off_mean_percent']:+.2f} % on average, {row['off_worst_percent']:+.2f} % at worst; {row['minutes_median']} min"
        )
    for run in [run for run in done if not run["right"]][:12]:
        print(f"    {run['name']} seed {run['seed']}: {run['ended']}, {100 * run['off']:+.1f} %, {run['unmet']}: {run['why']}")
    by_way = shares(rows)
    print(", ".join(f"{way}: {share:.1%}" for way, share in by_way.items()))
    if runs == RUNS:
        content = {"seed": SEED, "runs": runs, "code": code_stamp(__file__), "exercises": rows}
        RESULTS.write_text(json.dumps(content, indent=1) + "\n")
    goals = {"weight": BY_WEIGHT_GOAL}
    return 0 if all(share >= goals.get(way, BY_READING_GOAL) for way, share in by_way.items()) else 1


if __name__ == "__main__":
    sys.exit(main())
