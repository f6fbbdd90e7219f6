"""Writes the OpenAPI document, the form facts and the JSON Schema that are committed."""

import json
from pathlib import Path
from typing import Any, get_args

from django.conf import settings
from django.core.management.base import BaseCommand

from api.root import api
from yoshi_core.document.schema import dump_full
from yoshi_core.job import documents
from yoshi_core.job.forms import forms
from yoshi_core.message import Message, headline, joined, plural
from yoshi_core.practice import exercise
from yoshi_core.units import show
from yoshi_core.units.display import Amount, System


def generated() -> dict[Path, str]:
    """Every generated file with its text."""
    root: Path = settings.ROOT
    return {
        root / "docs" / "formats" / "openapi.json": _text(api.get_openapi_schema(path_prefix="/api/")),
        root / "docs" / "formats" / "yoshi-job.schema.json": _text(documents.json_schema()),
        root / "docs" / "formats" / "yoshi-exercise.schema.json": exercise.json_schema(),
        root / "web" / "src" / "api" / "forms.gen.json": _text(forms()),
        root / "web" / "src" / "format" / "cases.gen.json": _text(_display_cases()),
        root / "web" / "src" / "format" / "sentences.gen.json": _text(_sentence_cases()),
    }


def _display_cases() -> list[dict[str, Any]]:
    """How the core shows values, for the interface's own formatter to agree with."""
    values = {
        "mass": [0.0, 0.001, 0.0101, 0.4252, 0.45359237, 4.195729, 4.74855, 7.2574, -4.58978, 0.999 * 0.45359237, 100.0],
        "temperature": [255.372, 273.15, 311.0],
        "temperature_delta": [0.0, 6.26, -1.4],
        "gauge_pressure": [882528.0, -20000.0],
        "length": [16.764, 0.0],
        "tube_od": [0.009525, 0.022225, 0.028575, 0.01],
        "linear_density": [0.0558],
        "duration": [900.0],
        "co2e": [0.0, 47.2, 99.0, 9912.0],
        "fraction": [0.0912],
        "vacuum_rate": [0.0, 0.0167, 5.8e-5, 1e-6, -5.8e-5],
    }
    return [
        {"quantity": name, "value": value, **{system: show(value, name, system) for system in get_args(System)}}
        for name, numbers in values.items()
        for value in numbers
    ]


def _sentence_cases() -> list[dict[str, Any]]:
    """How the core reads sentences out: amounts, names, rows, days, sentences inside sentences."""
    mass, climb = Amount(4.195729, "mass", 0.01), Amount(5.8e-5, "vacuum_rate")
    leak = {"low": Amount(1e-9, "mass_rate"), "high": Amount(4e-6, "mass_rate")}
    messages = [
        headline("{value} of {name} are in.", value=mass, name="R-410A"),
        headline("It has {what} and {nothing}.", what="{value}"),
        headline("Still needed: {needed}.", needed=("plate",)),
        headline("Still needed: {needed}.", needed=("plate", headline("{n} more", n=Amount(2.0, "count")))),
        headline("It takes {oils:or}, in {rows:list}.", oils=("POE", "PVE", "mineral"), rows=("a can", "a bottle")),
        headline("{field:cap} was read on {on:day}.", field="suction line", on="2026-06-09"),
        headline("{parts:cap} done.", parts=("drier", "cores")),
        plural(1, "One reading of {value}.", "{n} readings of {value}.", value=climb),
        plural(3, "One reading of {value}.", "{n} readings of {value}.", value=climb),
        joined(Message("It leaks {low} to {high}."), headline("{low} is its own.", low=mass)).naming(leak, {"who": "hale"}),
        headline("{said}", said=headline("{who} says {value}.", value=mass), who="hale"),
        headline("{a}", a=Message("{a}")),
        Message("{low} to {high}", leak),
    ]
    return [{"message": dump_full(one), "us": one.show("us"), "si": one.show("si"), "grams": one.show("grams")} for one in messages]


def _text(plain: Any) -> str:
    return json.dumps(plain, indent=1, ensure_ascii=False, sort_keys=False, default=str) + "\n"


class Command(BaseCommand):
    help = "Write the committed OpenAPI document, form facts and JSON Schema."

    def handle(self, *args: Any, **options: Any) -> None:
        for path, text in generated().items():
            path.parent.mkdir(parents=True, exist_ok=True)
            path.write_text(text, encoding="utf-8")
            self.stdout.write(str(path))
