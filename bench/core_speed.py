"""How fast the core is: look-ups against the property library, a plan, a whole job, first answers.

    python bench/core_speed.py

Only the ratios, measured in this one run, mean anything on another machine.
"""

import itertools
import json
import os
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT / "core")]

from CoolProp import CoolProp

from yoshi_core import refrigerants
from yoshi_core.document.model import Job
from yoshi_core.job import documents
from yoshi_core.job.evaluate import Memo, evaluate
from yoshi_core.profile.profile import Profile
from yoshi_core.properties import saturation
from yoshi_core.properties.cycle import Conditions
from yoshi_core.retrofit import candidates as retrofit
from yoshi_core.retrofit.candidates import Present
from yoshi_core.steps import registry

EXAMPLE = ROOT / "examples" / "01-control-room.json"
WHOLE = ROOT / "examples" / "04-whole-job.json"
CHANGE = ROOT / "examples" / "05-change-of-refrigerant.json"
NOW = datetime(2026, 6, 18, 15, 11, tzinfo=UTC)


def seconds(act: Callable[[], object], least: float = 0.25) -> float:
    """Median seconds of one call, over batches that last long enough to time."""
    count = 1
    while True:
        started = time.perf_counter()
        for _ in range(count):
            act()
        took = time.perf_counter() - started
        if took > least / 5:
            break
        count *= 3
    batches = []
    for _ in range(5):
        started = time.perf_counter()
        for _ in range(count):
            act()
        batches.append((time.perf_counter() - started) / count)
    return statistics.median(batches)


def process(*arguments: str) -> float:
    """Median wall seconds of a whole process whose code was compiled by an earlier one, as an installed one's is."""
    times = []
    with tempfile.TemporaryDirectory() as compiled:
        kept = {name: value for name, value in os.environ.items() if name != "PYTHONDONTWRITEBYTECODE"}
        kept["PYTHONPYCACHEPREFIX"] = compiled
        command = [sys.executable, "-m", "yoshi_core.cli", *arguments]
        for _ in range(8):
            started = time.perf_counter()
            subprocess.run(command, cwd=ROOT / "core", capture_output=True, check=True, env=kept)
            times.append(time.perf_counter() - started)
    return statistics.median(times[1:])


def with_suction(job: Job, psig: float) -> Job:
    """The job with another suction pressure as found."""
    plain = documents.dump_job(job)
    plain["steps"]["as_found"]["runs"][0]["sheet"]["suction_pressure"] = f"{psig} psig"
    return documents.load_job(plain)


def main() -> int:
    pure = seconds(lambda: saturation.dew_temperature_k("R-22", 600_000.0))
    pure_library = seconds(lambda: CoolProp.PropsSI("T", "P", 600_000.0, "Q", 1, "R22"))
    blend = seconds(lambda: saturation.dew_temperature_k("R-454B", 900_000.0))
    mixture = "HEOS::R32[0.8293]&R1234yf[0.1707]"
    blend_library = seconds(lambda: CoolProp.PropsSI("T", "P", 900_000.0, "Q", 1, mixture))
    job = documents.load(EXAMPLE.read_text())
    whole = seconds(lambda: evaluate(job, Profile(), NOW))
    quick = documents.load_job({**documents.dump_job(job), "kind": "quick"})
    plan = seconds(lambda: evaluate(quick, Profile(), NOW))
    service = documents.load(WHOLE.read_text())
    all_steps = seconds(lambda: evaluate(service, Profile(), NOW))
    memo, moments = Memo(), itertools.count()
    text = WHOLE.read_text()
    alike = itertools.cycle([documents.load(text) for _ in range(50)])
    again = seconds(lambda: evaluate(next(alike), Profile(), NOW + timedelta(seconds=next(moments)), memo=memo))
    fresh = itertools.cycle([with_suction(service, 95.0 + n / 50.0) for n in range(600)])  # more readings than are kept
    whole_typing = seconds(lambda: evaluate(next(fresh), Profile(), NOW))
    typing = seconds(lambda: evaluate(next(fresh), Profile(), NOW + timedelta(seconds=next(moments)), memo=memo))
    changing = documents.load(CHANGE.read_text())
    change = seconds(lambda: evaluate(changing, Profile(), NOW))
    apart = itertools.cycle([Conditions(278.0 + n / 1000.0, 315.0) for n in range(600)])
    compared = seconds(lambda: retrofit.compare(Present("R-22", next(apart), full_kg=4.0), Profile()))
    text = EXAMPLE.read_text()
    read = seconds(lambda: documents.loads(text))
    first_lookup = process("pt", "R-410A", "--psig", "118")
    first_judged = process("judge", str(EXAMPLE))
    rows = [
        ("saturation look-up, R-22", f"{pure * 1e6:.2f} µs", f"{pure_library / pure:.0f}× a library call (goal 100×)"),
        ("saturation look-up, R-454B", f"{blend * 1e6:.2f} µs", f"{blend_library / blend:.0f}× a library call (goal 1000×)"),
        ("evaluate, plan alone", f"{plan * 1e3:.2f} ms", "goal under 1 ms"),
        (f"evaluate, a charge job of {len(registry.order('charge'))} steps", f"{whole * 1e3:.2f} ms", "goal under 5 ms"),
        (f"evaluate, a whole job of {len(registry.order('service'))} steps, all filled", f"{all_steps * 1e3:.2f} ms", ""),
        ("the same again, only what changed", f"{again * 1e3:.2f} ms", f"goal under 2.5 ms; {again / all_steps:.2f}× of all of it"),
        (
            "the same while as-found readings are typed",
            f"{typing * 1e3:.2f} ms",
            f"goal under 4 ms; {typing / whole_typing:.2f}× of all of it",
        ),
        ("evaluate, a change of refrigerant, all filled", f"{change * 1e3:.2f} ms", "goal under 5 ms"),
        (f"compare {len(refrigerants.names()) - 1} refrigerants in one system", f"{compared * 1e3:.1f} ms", "goal under 150 ms"),
        ("read a document", f"{read * 1e3:.2f} ms", ""),
        ("first look-up, whole process", f"{first_lookup:.2f} s", "goal under 0.3 s"),
        ("first document judged, whole process", f"{first_judged:.2f} s", "goal under 0.35 s"),
    ]
    for label, figure, note in rows:
        print(f"{label:42}{figure:>12}   {note}")
    ratios = {"pure": pure_library / pure, "blend": blend_library / blend}
    print(json.dumps({"ratios": {name: round(value) for name, value in ratios.items()}}))
    return 0 if ratios["pure"] >= 60 and ratios["blend"] >= 500 else 1


if __name__ == "__main__":
    sys.exit(main())
