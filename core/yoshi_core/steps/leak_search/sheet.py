"""The places searched, by what and with what result, and drops under nitrogen."""

from collections.abc import Mapping
from dataclasses import field
from typing import Annotated, Literal

from yoshi_core.document.sheets import Entry, Facts
from yoshi_core.frozen import dataclass
from yoshi_core.units.quantities import PSI_PA

RESULTS = {"clean": "clean", "hit": "leak here", "unsure": "not sure"}
REACHES = {"open": "reachable", "closed": "not reachable"}
CONTENTS = {"refrigerant": "refrigerant", "little": "a little refrigerant", "empty": "nothing: empty", "nitrogen": "dry nitrogen"}
Result = Literal["clean", "hit", "unsure"]
Reach = Literal["open", "closed"]
Contents = Literal["refrigerant", "little", "empty", "nitrogen"]


@dataclass(frozen=True)
class PlaceSearched:
    """One place, and what each method showed there. `access` is what it takes to reach it."""

    label: Annotated[str | None, Facts("text", "place", max_length=80)] = None
    reach: Annotated[Reach | None, Facts("choice", "can you reach it", options=REACHES)] = None
    access: Annotated[Entry | None, Facts("duration", "minutes to open it", (0.0, 1e6), (0.0, 28800.0))] = None
    eyes: Annotated[Result | None, Facts("choice", "by eye, oil", options=RESULTS)] = None
    electronic: Annotated[Result | None, Facts("choice", "electronic", options=RESULTS)] = None
    bubbles: Annotated[Result | None, Facts("choice", "bubbles", options=RESULTS)] = None
    ultrasonic: Annotated[Result | None, Facts("choice", "ultrasonic", options=RESULTS)] = None
    tracer: Annotated[Result | None, Facts("choice", "tracer gas", options=RESULTS)] = None
    isolation: Annotated[Result | None, Facts("choice", "shut in alone", options=RESULTS)] = None
    note: Annotated[str | None, Facts("text", "note", max_length=200)] = None


@dataclass(frozen=True)
class NitrogenDrop:
    """What the pressure did under dry nitrogen, the metal's temperature with it; before or after a repair."""

    after_repair: Annotated[bool | None, Facts("yesno", "after the repair")] = None
    pressure_start: Annotated[
        Entry | None, Facts("gauge_pressure", "pressure at the start", (0.0, 8e6), (20 * PSI_PA, 650 * PSI_PA), source="measured")
    ] = None
    pressure_end: Annotated[
        Entry | None, Facts("gauge_pressure", "pressure at the end", (0.0, 8e6), (0.0, 650 * PSI_PA), source="measured")
    ] = None
    metal_start: Annotated[
        Entry | None, Facts("temperature", "pipe temperature at the start", (223.15, 343.15), (250.0, 328.15), source="measured")
    ] = None
    metal_end: Annotated[
        Entry | None, Facts("temperature", "pipe temperature at the end", (223.15, 343.15), (250.0, 328.15), source="measured")
    ] = None
    lasted: Annotated[Entry | None, Facts("duration", "how long", (1.0, 1e7), (60.0, 864000.0))] = None


@dataclass(frozen=True)
class Decision:
    """What the customer was asked where access or advice costs money, and what was chosen by whom."""

    question: Annotated[str | None, Facts("text", "asked", max_length=200)] = None
    advice: Annotated[str | None, Facts("text", "advised", max_length=200)] = None
    chosen: Annotated[str | None, Facts("text", "chosen", max_length=200)] = None
    by: Annotated[str | None, Facts("text", "by whom", max_length=80)] = None


@dataclass(frozen=True)
class LeakSearchSheet:
    """The map of places with what was tried where, and the loss it has to explain."""

    inside: Annotated[Contents | None, Facts("choice", "in the system now", options=CONTENTS)] = None
    lost: Annotated[Entry | None, Facts("mass", "charge lost", (0.0, 2000.0), (0.0, 60.0), source="weighed")] = None
    lost_over: Annotated[Entry | None, Facts("duration", "lost over", (3600.0, 1e9), (86400.0, 3e8), unit_us="d", unit_si="d")] = None
    volume: Annotated[Entry | None, Facts("volume", "volume of the system", (1e-5, 20.0), (2e-4, 5.0), source="assumed")] = None
    places: Annotated[Mapping[str, PlaceSearched], Facts("record", "places")] = field(default_factory=dict)
    drops: Annotated[Mapping[str, NitrogenDrop], Facts("record", "nitrogen")] = field(default_factory=dict)
    decisions: Annotated[Mapping[str, Decision], Facts("record", "decisions")] = field(default_factory=dict)

    @property
    def loss_kg_s(self) -> float | None:
        """What was lost a second since it was full, kg/s; None where weight or time was not entered."""
        return None if self.lost is None or self.lost_over is None else self.lost.value / self.lost_over.value
