"""Writes docs/tight-and-dry.md from the results of the two studies.

python bench/tables.py
"""

import json
from collections.abc import Mapping
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
PAGE = ROOT / "docs" / "tight-and-dry.md"
RESULTS = ROOT / "bench" / "results"
SCHOOLS = {
    "stays": "pulled to 500, stays under 500",
    "thousand": "pulled to 500, stays under 1,000",
    "deep": "pulled to 250, stays under 500",
}
KINDS = ("tight, dry", "moist", "half the limit", "twice the limit", "five times", "twice, and moist")
GENERATORS = ("curves", "rig")
NITROGEN = ("reference", "rig")
Row = Mapping[str, float]


def both(rows: Mapping[str, Row], kind: str, school: str, name: str) -> float:
    """A share over both generators."""
    some = [rows[f"{generator} | {kind} | {school}"] for generator in GENERATORS]
    return sum(row[name] * row["n"] for row in some) / sum(row["n"] for row in some)


def share(value: float) -> str:
    return f"{100 * value:.1f} %"


def decays(rows: Mapping[str, Row]) -> list[str]:
    lines = []
    for school, label in SCHOOLS.items():
        lines += [
            f"\n### {label} micron\n",
            "| case | passes | called leaking | called moist | still waiting | median time | two-point habit passes |",
        ]
        lines.append("|---|---|---|---|---|---|---|")
        for kind in KINDS:
            shares = [share(both(rows, kind, school, name)) for name in ("pass", "leaking", "moist", "waiting")]
            time = both(rows, kind, school, "median_time_in_watches")
            lines.append(f"| {kind} | {' | '.join(shares)} | {time:.1f} | {share(both(rows, kind, school, 'habit_pass'))} |")
    return lines


def rooms(rows: Mapping[str, Row]) -> list[str]:
    lines = ["| read, leak | passes | called leaking | called moist | still waiting | median time |", "|---|---|---|---|---|---|"]
    for key, row in rows.items():
        shares = [share(row[name]) for name in ("pass", "leaking", "moist", "waiting")]
        lines.append(
            f"| {key.replace(' | ', ', ').replace('0 × the limit', 'none')} | {' | '.join(shares)} | {row['median_time_in_watches']:.1f} |"
        )
    return lines


def holds(rows: Mapping[str, Row]) -> list[str]:
    lines = ["| leak | passes | called leaking | still waiting | the gauge alone passes |", "|---|---|---|---|---|"]
    for times in ("0", "1", "2.5", "5"):
        some = [rows[f"{generator} | {times} × the smallest seen"] for generator in NITROGEN]
        shares = [share(sum(row[name] for row in some) / len(some)) for name in ("pass", "leaking", "waiting", "habit_pass")]
        lines.append(f"| {'none' if times == '0' else f'{times} × the smallest it claims to see'} | {' | '.join(shares)} |")
    return lines


def typed(rows: Mapping[str, Row]) -> list[str]:
    lines = ["| case | passes | called leaking | called moist | still waiting | two-point habit passes |", "|---|---|---|---|---|---|"]
    for kind in KINDS:
        names = ("pass", "leaking", "moist", "waiting", "habit_pass")
        lines.append(f"| {kind} | {' | '.join(share(both(rows, kind, 'all', name)) for name in names)} |")
    return lines


def forecasts(rows: Mapping[str, Row]) -> list[str]:
    lines = ["| generator, system, log | pulls | within a fifth of the time left | of the whole pull | in its band | told it would never |"]
    lines.append("|---|---|---|---|---|---|")
    for key, row in rows.items():
        shares = [share(row[name]) for name in ("left_within", "whole_within", "in_band", "never")]
        lines.append(f"| {key.replace(' | ', ', ')} | {row['n']:.0f} | {' | '.join(shares)} |")
    return lines


def page() -> str:
    """The whole page."""
    study = json.loads((RESULTS / "tight_dry.json").read_text())
    pulls = json.loads((RESULTS / "forecast.json").read_text())
    parts = [
        "# How often tight and dry are judged wrongly\n",
        f"{study['cases']:,} decays from each of two generators (the practice rig; closed curves drawn in `bench/tight_dry_study.py`), seed {study['seed']},",
        "over 2 L to 5 m³ with instrument error and temperature drift. Each is looked at when the school's watch is over and",
        "again while it says wait. Times are multiples of that watch. The two-point habit: reach the number, look once when the time is up.\n",
        "## Decays, by school",
        *decays(study["decays"]),
        "\n## Decays of two rooms\n",
        "A small room with the gauge near the pump, a large one behind a narrow way: what the small one gives off stands as a peak that",
        "takes two to six minutes to come down (in three of ten cases longer, as the volume is larger), and hides a leak meanwhile",
        "(`bench/two_rooms.py`).",
        "Logged, or typed: two to four readings in the first watch, two before each later look, some gauges in tens of microns.\n",
        *rooms(study["two_rooms"]),
        "\n## Decays as people type them\n",
        "The same cases read three to five times in the first watch and once or twice before each later look, in whole microns or in",
        "tens of them (`bench/typed_logs.py`); all schools.\n",
        *typed(study["typed_decays"]),
        "\n## Holds under nitrogen\n",
        "From two generators: nitrogen on the practice rig, by its virial equation, and by the reference equation of state",
        "(Span and others 2000, as CoolProp has it), which is not the formula that judges.\n",
        *holds(study["holds"]),
        "\nTyped three to five times from a needle in whole pounds, fives or tens:\n",
        *holds(study["typed_holds"]),
        "\n## Forecasts of a pull, made half way down the logarithm\n",
        f"{pulls['pulls']} pulls of each kind and generator, seed {pulls['seed']}. Dry pulls of the rig and those up to 40 L of the other",
        "generator come within a fifth nine times in ten. Large volumes on thin hoses do not: what surfaces give off decides",
        "there, and the first half of the log does not show it; the band on the screen holds the truth. So high up a wet",
        "system has not shown its water: the screen says that the forecast is for a dry one.\n",
        *forecasts(pulls["rows"]),
    ]
    return "\n".join(parts) + "\n"


if __name__ == "__main__":
    PAGE.write_text(page())
