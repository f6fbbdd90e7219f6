"""How often the true cause is named, on as-found cases from the rig with instrument error; another seed than was learned.

    python bench/diagnosis_study.py [CASES]

Prints shares named first and among the first three, by metering and by cause, for all readings and for gauges
and clamps alone; how often a well or merely loaded unit is called short; how sure it says it is against how often it is
right; what is called unlike anything learned; pairs of faults, which nobody taught it; and the time of one.
"""

import random
import statistics
import sys
import time
from collections import defaultdict
from dataclasses import fields, replace
from pathlib import Path

CORE = Path(__file__).resolve().parents[1] / "core"
sys.path[:0] = [str(CORE), str(CORE / "tools")]

from learn_signatures import FAMILIES, cases_with_faults, draw_faults, draw_unit, draw_weather, read

from yoshi_core.diagnosis.causes import CAUSES, ONLY_FOR
from yoshi_core.diagnosis.observed import Observed
from yoshi_core.diagnosis.rank import diagnose
from yoshi_core.rig.unit import Faults

SEED = 2


def named(observed: Observed) -> list[str]:
    return [r.cause for r in diagnose(observed).ranked]


def without_air(observed: Observed) -> Observed:
    """Gauges, clamps and the outdoor air only, nothing standing."""
    return replace(observed, return_k=None, return_wet_bulb_k=None, supply_k=None, power_share=None, standing_pa=None)


def score(found: dict[tuple[str, str], list[Observed]], label: str, change=lambda o: o) -> None:  # type: ignore[no-untyped-def]
    first = three = total = short = well = 0
    by: dict[str, list[int]] = defaultdict(lambda: [0, 0, 0])
    for (family, cause), some in found.items():
        for observed in some:
            order = named(change(observed))
            total += 1
            first += order[0] == cause
            three += cause in order[:3]
            for key in (family, cause):
                by[key][0] += 1
                by[key][1] += order[0] == cause
                by[key][2] += cause in order[:3]
            if cause == "healthy":
                well += 1
                short += order[0] == "undercharge"
    print(
        f"{label}: {total:,} cases, first {first / total:.1%}, among three {three / total:.1%}; well or loaded called short {short / well:.2%}"
    )
    for key, (n, a, b) in by.items():
        print(f"    {key:20} {n:5}  first {a / n:6.1%}  among three {b / n:6.1%}")


def gravity(faults: Faults) -> float:
    """How far a case is from a well unit, comparable within one cause."""
    moved = [
        (item.name, getattr(faults, item.name)) for item in fields(Faults) if getattr(faults, item.name) != getattr(Faults(), item.name)
    ]
    numbers = [
        abs(value - 1.0) if name in {"charge_share", "orifice_scale"} else value for name, value in moved if isinstance(value, float)
    ]
    return max(numbers, default=0.0)


def by_severity(found: dict[tuple[str, str], list[tuple[Observed, Faults]]]) -> None:
    """The thirds of each cause by severity, mildest first; and well units, warm room or not."""
    thirds = [[0, 0, 0] for _ in range(3)]
    well = {"well, usual room": [0, 0], "well, warm room": [0, 0]}
    for (_, cause), some in found.items():
        if cause == "healthy":
            for observed, faults in some:
                row = well["well, warm room" if faults.high_load_k > 0.0 else "well, usual room"]
                row[0] += 1
                row[1] += named(observed)[0] == "undercharge"
            continue
        graded = sorted(some, key=lambda pair: gravity(pair[1]))
        for n, (observed, _) in enumerate(graded):
            order = named(observed)
            row = thirds[min(3 * n // len(graded), 2)]
            row[0] += 1
            row[1] += order[0] == cause
            row[2] += cause in order[:3]
    for label, (n, a, b) in zip(("mildest third", "middle third", "gravest third"), thirds, strict=True):
        print(f"    {label:20} {n:5}  first {a / n:6.1%}  among three {b / n:6.1%}")
    for label, (n, a) in well.items():
        print(f"    {label:20} {n:5}  called short {a / n:6.2%}")


def pairs(count: int) -> None:
    """Two faults at once: is one of them first, are both among the first four?"""
    dice = random.Random(SEED)
    first = both = done = 0
    said = 0.0
    while done < count:
        family = dice.choice(FAMILIES)
        names = [c for c in CAUSES if c != "healthy" and ONLY_FOR.get(c, family) == family]
        one, two = dice.sample(names, 2)
        a, b = draw_faults(one, dice), draw_faults(two, dice)
        changed = {item.name: getattr(b, item.name) for item in fields(Faults) if getattr(b, item.name) != getattr(Faults(), item.name)}
        plate, unit = draw_unit(family, dice)
        weather = draw_weather(dice)
        observed = read(plate, unit, weather, replace(a, **changed), family, dice)
        if observed is None:
            continue
        done += 1
        said += diagnose(observed).ranked[0].share
        order = named(observed)
        first += order[0] in (one, two)
        both += {one, two} <= set(order[:4])
    print(
        f"two faults at once: {count:,} cases, one of them first {first / count:.1%} (said {said / count:.1%}), both among four {both / count:.1%}"
    )


LEFT_OUT = {
    "all readings": {},
    "without the outdoor air": {"outdoor_k": None},
    "without return air": {"return_k": None, "return_wet_bulb_k": None},
    "without supply air": {"supply_k": None},
    "without amps": {"power_share": None},
    "without a standing pressure": {"standing_pa": None},
    "without the liquid line": {"liquid_line_k": None},
    "without the suction line": {"suction_line_k": None},
    "gauges, clamps, outdoor air": {
        "return_k": None,
        "return_wet_bulb_k": None,
        "supply_k": None,
        "power_share": None,
        "standing_pa": None,
    },
}


def reliability(found: dict[tuple[str, str], list[Observed]]) -> None:
    """Of what is called so many in ten, how much is right, each cause as often as it is met; the error by bins, with each reading left out in turn."""
    for label, left_out in LEFT_OUT.items():
        bins: dict[int, list[float]] = defaultdict(lambda: [0.0, 0.0, 0.0])
        for (_, cause), some in found.items():
            for observed in some:
                first = diagnose(replace(observed, **left_out)).ranked[0]
                row = bins[min(int(first.share * 10.0), 9)]
                for n, value in enumerate((1.0, first.share, float(first.cause == cause))):
                    row[n] += CAUSES[cause].prior * value
        whole = sum(row[0] for row in bins.values())
        error = sum(abs(said - right) for _, said, right in bins.values()) / whole
        drawn = ", ".join(f"{said / n:.0%} said {right / n:.0%} right" for _, (n, said, right) in sorted(bins.items()))
        print(f"reliability, {label}: error {error:.1%}; {drawn}")


def unlike(found: dict[tuple[str, str], list[Observed]]) -> None:
    """How often a known case is called unlike anything learned, and how often one with a clamp that hangs in the air is."""
    some = [observed for group in found.values() for observed in group]
    off = [replace(o, suction_line_k=o.suction_line_k + 15.0) for o in some if o.suction_line_k is not None]
    off += [replace(o, liquid_line_k=o.liquid_line_k - 15.0) for o in some if o.liquid_line_k is not None]
    known, wild = (sum(diagnose(o).unlike for o in group) / len(group) for group in (some, off))
    print(f"called unlike anything learned: {known:.1%} of {len(some):,} known cases, {wild:.0%} of {len(off):,} with a clamp 27 °F off")


def main(count: int) -> int:
    keys = [(f, c) for f in FAMILIES for c in CAUSES if ONLY_FOR.get(c, f) == f]
    each = max(count // len(keys), 1)
    pairs_of = {(f, c): cases_with_faults(c, f, each, SEED) for f, c in keys}
    found = {key: [observed for observed, _ in some] for key, some in pairs_of.items()}
    score(found, "all readings")
    by_severity(pairs_of)
    score(found, "gauges, clamps, outdoor air", without_air)
    reliability(found)
    unlike(found)
    pairs(count // 5)
    some = [o for group in found.values() for o in group[:20]]
    times = []
    for observed in some:
        started = time.perf_counter()
        diagnose(observed)
        times.append(time.perf_counter() - started)
    print(f"one diagnosis: median {statistics.median(times) * 1e3:.2f} ms")
    return 0


if __name__ == "__main__":
    sys.exit(main(int(sys.argv[1]) if len(sys.argv) > 1 else 4_800))
