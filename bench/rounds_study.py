"""What is inside after two rounds in one job, a pump-down, or a top-up nobody weighed: Yoshi's account against the truth.

    python bench/rounds_study.py [JOBS]      writes bench/results/rounds.json with seed and the code's hash

A job has a true charge, topped up, recovered, weighed in again or let back behind its valves. Every weighing is read
off a scale with its step, its offset and a hand; the hose keeps what it keeps. What is known by weight must come out
within two in a hundred of the truth; what nobody can know must be said to be unknown, its bounds around the truth.
Distributions are guesses (common practice, no source), not a survey.
"""

import json
import random
import sys
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT / "core"), str(ROOT / "bench")]

from stamp import code_stamp

from yoshi_core.job import documents
from yoshi_core.job.evaluate import evaluate
from yoshi_core.profile.profile import Profile
from yoshi_core.units.quantities import OZ_KG

SEED, JOBS = 17, 4000
RESULTS = ROOT / "bench" / "results" / "rounds.json"
NOW = datetime(2026, 6, 18, 15, 11, tzinfo=UTC)
STEP_KG = 0.002
RIGHT_SHARE = 0.02
HELD_KG = 0.02 * OZ_KG  # what a recovered circuit keeps as vapour
SLACK_KG = 2.0 * OZ_KG  # the scale's own error when a bound is held against the truth


@dataclass
class Work:
    """One job as it is done: what is truly inside, and what is typed of it."""

    dice: random.Random
    total_kg: float
    inside_kg: float = 0.0
    minute: int = 0
    sheets: dict[str, list[dict[str, Any]]] = field(default_factory=dict)
    acts: dict[str, dict[str, Any]] = field(default_factory=dict)
    bias_kg: float = 0.0

    def at(self) -> str:
        self.minute += 7
        return (NOW - timedelta(hours=20) + timedelta(minutes=self.minute)).isoformat()

    def reads(self, gross_kg: float) -> dict[str, Any]:
        shown = round((gross_kg + self.bias_kg + self.dice.uniform(-0.5, 0.5) * STEP_KG) / STEP_KG) * STEP_KG
        return {"text": f"{shown:.3f} kg", "source": "weighed", "at": self.at()}

    def draw(self, kg: float) -> dict[str, Any]:
        """From a cylinder on the scale; a hand a second late."""
        gross = self.dice.uniform(12.0, 14.0)
        drawn = kg + self.dice.uniform(0.0, 1.0) * self.dice.uniform(0.002, 0.008)
        self.inside_kg += drawn
        return {"cylinder": "14", "tare": "4 kg", "gross_start": self.reads(gross), "gross_end": self.reads(gross - drawn)}

    def add_run(self, step: str, sheet: dict[str, Any]) -> None:
        self.sheets.setdefault(step, []).append(sheet)

    def recover(self) -> None:
        start = self.dice.uniform(12.0, 13.0)
        out = max(self.inside_kg - HELD_KG, 0.0)
        row = {"cylinder": "R-1", "contents": "evacuated", "gross_start": self.reads(start), "gross_now": self.reads(start + out)}
        self.inside_kg = min(self.inside_kg, HELD_KG)
        self.add_run(
            "recover",
            {
                "way": "cylinder",
                "finished": True,
                "end_pressure": "0 psig",
                "waited": "6 min",
                "risen_to": "0 psig",
                "cylinders": {"c1": row},
            },
        )

    def whole(self) -> None:
        self.add_run("weigh_in", {"system_state": "empty", "draws": {f"d{self.minute}": self.draw(self.total_kg)}})

    def squirt(self, *, weighed: bool) -> None:
        """Charge from a cylinder that nobody looked at; `weighed`: it is put on the scale before and after all the same."""
        gross, kg = self.dice.uniform(10.0, 12.0), self.dice.uniform(2.0, 12.0) * OZ_KG
        self.inside_kg += kg
        act: dict[str, Any] = {"kind": "in", "cylinder": "15", "done": True, "at": self.at()}
        if weighed:
            act |= {"gross_before": self.reads(gross), "gross_after": self.reads(gross - kg)}
        self.acts[f"a{len(self.acts) + 1}"] = act

    def document(self) -> dict[str, Any]:
        ounces = round(self.total_kg / OZ_KG, 1)
        plate = {
            "refrigerant": "R-410A",
            "kind": "packaged",
            "metering": "txv",
            "altitude": "0 m",
            "factory_charge": f"{ounces} oz",
            "pairing_proven": True,
            "pairing_by": "only",
        }
        steps = {step: {"runs": [{"sheet": sheet} for sheet in runs]} for step, runs in {"identify": [plate], **self.sheets}.items()}
        begun = {f"/acts/{key}": {"at": act["at"], "visit": "v1"} for key, act in self.acts.items()}
        visits = [{"id": "v1", "started_at": (NOW - timedelta(hours=21)).isoformat()}]
        return {"id": "study", "kind": "service", "steps": steps, "acts": self.acts, "begun": begun, "visits": visits}


def two_rounds(work: Work) -> None:
    """A top-up by the scale, then everything out, then the whole charge: the first pounds are not inside any more."""
    work.inside_kg = work.dice.uniform(0.1, 0.8) * work.total_kg
    work.add_run("weigh_in", {"draws": {"d0": work.draw(work.dice.uniform(4.0, 20.0) * OZ_KG)}})
    work.recover()
    work.whole()


def top_up_not_weighed_then_recovered(work: Work) -> None:
    """Nobody weighed the top-up, and it does not matter: all of it came out."""
    work.inside_kg = work.dice.uniform(0.1, 0.8) * work.total_kg
    work.squirt(weighed=False)
    work.recover()
    work.whole()


def squirted_afterwards(work: Work) -> None:
    """A few squirts onto a weighed charge, nobody weighed them."""
    work.inside_kg = work.dice.uniform(0.5, 1.0) * work.total_kg
    work.recover()
    work.whole()
    work.squirt(weighed=False)


def squirted_and_weighed_afterwards(work: Work) -> None:
    """The same, and the cylinder was on the scale."""
    work.inside_kg = work.dice.uniform(0.5, 1.0) * work.total_kg
    work.recover()
    work.whole()
    work.squirt(weighed=True)


def pumped_down(work: Work) -> None:
    """Shut in and let back: some had leaked, nobody weighed it."""
    work.inside_kg = work.dice.uniform(0.6, 1.0) * work.total_kg
    work.add_run(
        "recover",
        {
            "way": "pump_down",
            "finished": True,
            "compressor_runs": True,
            "low_breach": False,
            "small_condenser": False,
            "into_vacuum": False,
            "shut_at": "1 psig",
        },
    )
    work.acts["a1"] = {"kind": "let_back", "done": True, "at": work.at()}


def as_it_came(work: Work) -> None:
    """A new unit with most of its charge in it, the rest weighed in."""
    work.inside_kg = work.total_kg - work.dice.uniform(4.0, 24.0) * OZ_KG
    came = round(work.inside_kg / OZ_KG, 1)
    work.inside_kg = came * OZ_KG
    work.add_run(
        "weigh_in", {"system_state": "precharged", "inside": f"{came} oz", "draws": {"d1": work.draw(work.total_kg - work.inside_kg)}}
    )


KNOWN: tuple[Callable[[Work], None], ...] = (two_rounds, top_up_not_weighed_then_recovered, squirted_and_weighed_afterwards, as_it_came)
UNKNOWN: tuple[Callable[[Work], None], ...] = (squirted_afterwards, pumped_down)


def play(jobs: int, seed: int) -> dict[str, dict[str, float]]:
    """By kind of work: how many, how many came out as a mass, and how near the truth; else how many bounds hold the truth."""
    dice = random.Random(seed)
    rows: dict[str, dict[str, float]] = {kind.__name__: {"n": 0, "mass": 0, "within": 0, "bounds hold": 0} for kind in (*KNOWN, *UNKNOWN)}
    for _ in range(jobs):
        kind = dice.choice((*KNOWN, *UNKNOWN))
        work = Work(dice, round(dice.uniform(48.0, 260.0), 1) * OZ_KG, bias_kg=dice.uniform(-1, 1) * 0.005)
        kind(work)
        inside = evaluate(documents.load_job(work.document()), Profile(), NOW).inside
        low, high = inside.low.value, None if inside.high is None else inside.high.value
        row = rows[kind.__name__]
        row["n"] += 1
        if high is not None and high - low < 1e-6:
            row["mass"] += 1
            row["within"] += abs(low / work.inside_kg - 1.0) <= RIGHT_SHARE
        else:
            row["bounds hold"] += low - SLACK_KG <= work.inside_kg and (high is None or work.inside_kg <= high + SLACK_KG)
    return rows


def main() -> None:
    jobs = int(sys.argv[1]) if len(sys.argv) > 1 else JOBS
    found = play(jobs, SEED)
    print(json.dumps(found, indent=1))
    if jobs == JOBS:
        RESULTS.write_text(json.dumps({"seed": SEED, "jobs": JOBS, "code": code_stamp(__file__), "rows": found}, indent=1) + "\n")


if __name__ == "__main__":
    main()
