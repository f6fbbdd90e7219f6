"""What is inside, and what goes in from which cylinder."""

from collections.abc import Mapping
from dataclasses import field
from typing import Annotated, Literal

from yoshi_core.document.sheets import Entry, Facts
from yoshi_core.frozen import dataclass

WARMED = {"water": "warm water", "blanket": "a blanket made for it", "flame": "a flame"}
CONTENTS = {"new": "new refrigerant", "recovered": "recovered from this owner"}


@dataclass(frozen=True)
class Draw:
    """One cylinder or can on the scale: readings before and after, and what stays in it."""

    cylinder: Annotated[str | None, Facts("text", "cylinder", max_length=60)] = None
    holds: Annotated[str | None, Facts("text", "refrigerant in it, by the book", max_length=40)] = None
    gross_start: Annotated[Entry | None, Facts("mass", "scale reads now, gross", (0.0, 5000.0), (0.2, 700.0), source="weighed")] = None
    book_gross: Annotated[Entry | None, Facts("mass", "gross by the book", (0.0, 5000.0), source="note")] = None
    tare: Annotated[Entry | None, Facts("mass", "tare", (0.0, 2000.0), (0.1, 160.0), source="plate")] = None
    water_capacity: Annotated[Entry | None, Facts("mass", "water capacity", (0.1, 2000.0), (0.3, 120.0), source="plate")] = None
    hose_loss: Annotated[
        Entry | None, Facts("mass", "lost in the hose", (0.0, 2.0), (0.0, 0.15), source="assumed", unit_us="oz", unit_si="g")
    ] = None
    contents: Annotated[Literal["new", "recovered"] | None, Facts("choice", "it holds", options=CONTENTS)] = None
    label_net: Annotated[
        Entry | None, Facts("mass", "net on its label", (0.01, 100.0), (0.1, 30.0), source="plate", unit_us="oz", unit_si="g")
    ] = None
    residue: Annotated[Entry | None, Facts("mass", "left in it", (0.0, 50.0), (0.0, 3.0), source="assumed", unit_us="oz", unit_si="g")] = (
        None
    )
    vapour_too: Annotated[bool | None, Facts("yesno", "rest drawn as vapour")] = None
    gross_end: Annotated[Entry | None, Facts("mass", "scale reads after", (0.0, 5000.0), (0.1, 700.0), source="weighed")] = None


SYSTEM_STATES = {
    "empty": "empty: recovered and evacuated",
    "precharged": "new and precharged by its maker",
    "holding": "holds a weighed charge",
}


@dataclass(frozen=True)
class WeighInSheet:
    """What is inside, and what goes in from which cylinder."""

    system_state: Annotated[Literal["empty", "precharged", "holding"] | None, Facts("choice", "system now", options=SYSTEM_STATES)] = None
    inside: Annotated[Entry | None, Facts("mass", "already inside", (0.0, 2000.0), source="weighed")] = None
    scale_step: Annotated[Entry | None, Facts("mass", "smallest step of the scale", (0.00005, 2.0), unit_us="oz", unit_si="g")] = None
    volume: Annotated[Entry | None, Facts("volume", "volume of the system", (1e-5, 20.0), (2e-4, 5.0), source="assumed")] = None
    system_temperature: Annotated[
        Entry | None, Facts("temperature", "coldest part of the system", (223.15, 343.15), (250.0, 325.0), source="measured")
    ] = None
    cylinder_temperature: Annotated[
        Entry | None, Facts("temperature", "cylinder temperature", (223.15, 373.15), (255.0, 322.0), source="measured")
    ] = None
    warmed_by: Annotated[Literal["water", "blanket", "flame"] | None, Facts("choice", "cylinder warmed by", options=WARMED)] = None
    water_safe: Annotated[bool | None, Facts("yesno", "water flows, or the tubes are drained")] = None
    draws: Annotated[Mapping[str, Draw], Facts("record", "cylinders")] = field(default_factory=dict)
