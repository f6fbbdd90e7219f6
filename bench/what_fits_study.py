"""How often the rig's fits to readings name the true fault, and how near what they say of an addition comes; another seed than was learned.

    python bench/what_fits_study.py [CASES]      writes bench/results/what_fits.json with seed and the code's hash

Cases are drawn as for the diagnosis: units of any size and efficiency, in any weather, read with real instruments' errors. The fits
know the plate and the readings alone. Twice: with all that a careful technician reads, and with gauges, clamps and outdoor air alone.
"""

import json
import random
import sys
from concurrent.futures import ProcessPoolExecutor
from dataclasses import replace
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT / "core"), str(ROOT / "core" / "tools"), str(ROOT / "bench")]

from diagnosis_study import without_air
from learn_signatures import FAMILIES, draw_faults, draw_unit, draw_weather, read
from stamp import code_stamp

from yoshi_core.diagnosis.causes import CAUSES, ONLY_FOR
from yoshi_core.errors import InvalidInput
from yoshi_core.practice.fits import TURNED, Asked, after, fits
from yoshi_core.rig.solve import solve
from yoshi_core.units.quantities import FAHRENHEIT_K

SEED, CASES, WORKERS = 41, 40, 2  # cases of each cause and family
RESULTS = ROOT / "bench" / "results" / "what_fits.json"
STEP_SHARE = 0.05  # the step limit of a trim
NEAR_K = 3.0 * FAHRENHEIT_K
GOAL = 0.90
Row = dict[str, Any]


def causes() -> list[tuple[str, str]]:
    """Every cause the rig can be turned to, in each family that has it."""
    return [
        (family, cause)
        for family in FAMILIES
        for cause in CAUSES
        if (cause in TURNED or cause == "healthy") and ONLY_FOR.get(cause, family) == family
    ]


def of_a_cause(task: tuple[str, str, int, int]) -> list[Row]:
    """So many cases of a cause: whether it was named, and how near the addition's superheat came."""
    family, cause, count, seed = task
    dice = random.Random(f"{seed}-{family}-{cause}")
    rows: list[Row] = []
    while len(rows) < 2 * count:
        plate, unit = draw_unit(family, dice)
        weather, faults = draw_weather(dice), draw_faults(cause, dice)
        observed = read(plate, unit, weather, faults, family, dice)
        if observed is None:
            continue
        added_kg = STEP_SHARE * plate.charge_kg * dice.choice((-1.0, 1.0))
        share = faults.charge_share + added_kg / plate.charge_kg
        truth = solve(unit, weather, replace(faults, charge_share=share))
        for readings, seen in (("all", observed), ("gauges and clamps", without_air(observed))):
            rows.append({"readings": readings, "family": family, "cause": cause, "named": False, "first": False, "near": None})
            try:
                found = fits(Asked(seen, plate.charge_kg))
            except InvalidInput:
                continue
            names = [fit.cause for fit in found]
            then = after(found[0], seen, added_kg)
            near = None if not truth.running else then.superheat_k is not None and abs(then.superheat_k - truth.superheat_k) <= NEAR_K
            rows[-1].update(named=cause in names, first=names[0] == cause, near=near)
    return rows


def summed(rows: list[Row]) -> dict[str, dict[str, Any]]:
    """Shares by what was read: named first, among three, and the addition's superheat within 3 °F."""
    found = {}
    for readings in dict.fromkeys(row["readings"] for row in rows):
        own = [row for row in rows if row["readings"] == readings]
        told = [row for row in own if row["near"] is not None]
        found[readings] = {
            "cases": len(own),
            "among_three": round(sum(row["named"] for row in own) / len(own), 4),
            "first": round(sum(row["first"] for row in own) / len(own), 4),
            "superheat_near": round(sum(row["near"] for row in told) / len(told), 4),
        }
    return found


def main() -> int:
    count = int(sys.argv[1]) if len(sys.argv) > 1 else CASES
    with ProcessPoolExecutor(WORKERS) as pool:
        done = list(pool.map(of_a_cause, [(*one, count, SEED) for one in causes()]))
    rows = [row for part in done for row in part]
    found = summed(rows)
    for readings, row in found.items():
        print(f"{readings:20}{row['cases']:6} cases: among three {row['among_three']:.1%}, first {row['first']:.1%}, ", end="")
        print(f"superheat after a step within 3 °F {row['superheat_near']:.1%}")
    if count == CASES:
        content = {"seed": SEED, "cases_each": count, "code": code_stamp(__file__), "found": found}
        RESULTS.write_text(json.dumps(content, indent=1) + "\n")
    best = found["all"]
    return 0 if best["among_three"] >= GOAL and best["superheat_near"] >= GOAL else 1


if __name__ == "__main__":
    sys.exit(main())
