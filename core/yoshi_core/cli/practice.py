"""`yoshi practice`: exercises, and a careful technician who does them; loaded only when one is asked for."""

import argparse
import json
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from yoshi_core.job import documents
from yoshi_core.practice import exercise as exercises
from yoshi_core.practice.asked import asked_of
from yoshi_core.practice.careful import play
from yoshi_core.practice.exercise import Exercise
from yoshi_core.practice.fits import after, fits
from yoshi_core.practice.hands import Played
from yoshi_core.practice.marking import Marked, marked
from yoshi_core.units.display import System, show
from yoshi_core.units.text import parse

OPINION = "The rig's opinion of a usual unit with this plate, and no verdict."
MODEL = "What the model works out, not a measured unit."


def list_command(_options: argparse.Namespace) -> int:
    """`yoshi practice list`: the exercises that come with Yoshi, in the order of the work."""
    for name, found in sorted(
        ((name, exercises.loads(exercises.shipped(name))) for name in exercises.SHIPPED), key=lambda row: row[1].number
    ):
        print(f"{found.number:3} {name:24}{found.aim}")
    return 0


def run_command(options: argparse.Namespace) -> int:
    """`yoshi practice run`: an exercise done by a policy, with its marks; 0 where all are met."""
    path = Path(options.exercise)
    text = (
        path.read_text(encoding="utf-8")
        if options.exercise not in exercises.SHIPPED and path.exists()
        else exercises.shipped(options.exercise)
    )
    found = exercises.loads(text, options.seed)
    played = play(found)
    result = marked(found, played.bench, played.job)
    if options.json:
        print(json.dumps(_plain(found, played, result), indent=1, ensure_ascii=False))
    else:
        _print(found, played, result, options.units)
    return 0 if result.met else 1


def what_if_command(options: argparse.Namespace) -> int:
    """`yoshi practice what-if`: which units would read as a job's last reading does, and what an addition would do."""
    export = documents.loads(Path(options.file).read_text(encoding="utf-8"))
    asked = asked_of(export.job, export.profile, export.now or datetime.now(UTC))
    added_kg = parse("mass", options.add).value if options.add else 0.0
    for fit in fits(asked):
        print(f"{fit.share:5.0%}  {fit.label}; {show(fit.charge_kg, 'mass', options.units)} inside; {fit.off:.1f} widths off")
        if added_kg:
            then = after(fit, asked.observed, added_kg)
            for name, value in (("superheat", then.superheat_k), ("subcooling", then.subcooling_k)):
                said = "not known, it would not run" if value is None else show(value, "temperature_delta", options.units)
                print(f"       then {name} {said}")
    print(OPINION)
    return 0


def _print(found: Exercise, played: Played, result: Marked, system: System) -> None:
    print(f"{found.number}. {found.name}: {found.aim}")
    for act in played.bench.acts:
        print(f"{act.at_s / 60.0:8.1f} min  {' '.join(part.replace('_', ' ') for part in (act.do, act.what, act.to) if part)}")
    belongs, inside = found.unit.charge_kg, played.bench.live.charge_kg
    print(f"{played.ended}: {played.why}" if played.why else played.ended)
    print(f"inside {show(inside, 'mass', system)}, belongs {show(belongs, 'mass', system)}")
    for mark in result.marks:
        print(f"{'met' if mark.met else 'not met':8} {mark.text.show(system)}")
    print(MODEL)


def _plain(found: Exercise, played: Played, result: Marked) -> dict[str, Any]:
    where = played.bench.where
    return {
        "name": found.name,
        "seed": found.seed,
        "ended": played.ended,
        "answers": {answer.question: {"said": answer.text, "right": answer.right} for answer in played.bench.answers.values()},
        "met": result.met,
        "off_kg": result.off_kg,
        "time_s": played.bench.time_s,
        "drawn_kg": played.bench.drawn_kg,
        "lost_kg": where.lost_kg,
        "marks": [{"id": mark.id, "met": mark.met, "text": mark.text.show()} for mark in result.marks],
        "acts": [{"at_s": act.at_s, "do": act.do, "what": act.what, "to": act.to} for act in played.bench.acts],
    }


COMMANDS = {"list": list_command, "run": run_command, "what_if": what_if_command}
