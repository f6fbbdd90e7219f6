"""What is done beside the sheets of the steps: refrigerant in or out, and valves shut on a part or opened again."""

from datetime import datetime
from typing import Annotated, Literal

from yoshi_core.document.sheets import Entry, Facts
from yoshi_core.frozen import dataclass
from yoshi_core.units.quantities import PSI_PA

ACTS = {
    "in": "put in",
    "out": "taken out",
    "lost": "let off into the air",
    "tracer": "tracer, under nitrogen",
    "found": "inside when we came",
    "let_back": "valves opened, its own charge let back",
    "shut": "valves shut on a part",
    "at_zero": "a part let to zero",
    "passes": "a shut valve lets through",
    "freed": "a blocked port opened",
}
MEDIA = {
    "charge": "its charge",
    "liquid": "liquid, full to the valves",
    "nitrogen": "nitrogen",
    "vacuum": "vacuum",
    "zero": "nothing, at zero",
    "unknown": "not known",
}
ActKind = Literal["in", "out", "lost", "tracer", "found", "let_back", "shut", "at_zero", "passes", "freed"]
Medium = Literal["charge", "liquid", "nitrogen", "vacuum", "zero", "unknown"]


@dataclass(frozen=True)
class Section:
    """A part of the circuit that valves can shut off: what it is called, what it holds, and the lowest pressure stamped on it."""

    label: Annotated[str | None, Facts("text", "what part", max_length=60)] = None
    volume: Annotated[Entry | None, Facts("volume", "volume inside it", (1e-6, 20.0), (1e-4, 2.0), source="assumed")] = None
    stamp: Annotated[
        Entry | None, Facts("gauge_pressure", "stamped on it", (1000.0, 2e7), (100 * PSI_PA, 700 * PSI_PA), source="plate")
    ] = None


@dataclass(frozen=True)
class Act:
    """Refrigerant that came, went or was found: by a cylinder on the scale, as a mass, or with nobody weighing it; or a part shut off.

    An act with a day it is planned for is a reservation and moves nothing until it is done. `section` is the key of the part
    it was done to, empty for the whole circuit; `before` the key of another act that came after this one.
    """

    kind: Annotated[ActKind | None, Facts("choice", "what", options=ACTS)] = None
    at: Annotated[datetime | None, Facts("moment", "when")] = None
    before: Annotated[str | None, Facts("text", "before this one", max_length=160)] = None
    section: Annotated[str | None, Facts("text", "part of the circuit", max_length=40)] = None
    medium: Annotated[Medium | None, Facts("choice", "what was in it", options=MEDIA)] = None
    cylinder: Annotated[str | None, Facts("text", "cylinder or can", max_length=60)] = None
    holds: Annotated[str | None, Facts("text", "refrigerant in it, by the book", max_length=40)] = None
    gross_before: Annotated[Entry | None, Facts("mass", "scale before", (0.0, 5000.0), (0.2, 150.0), source="weighed")] = None
    gross_after: Annotated[Entry | None, Facts("mass", "scale after", (0.0, 5000.0), (0.2, 150.0), source="weighed")] = None
    mass: Annotated[Entry | None, Facts("mass", "how much", (0.0, 5000.0), (0.0, 60.0), source="told", unit_us="oz", unit_si="g")] = None
    at_most: Annotated[Entry | None, Facts("mass", "at most", (0.0, 5000.0), (0.0, 60.0), source="assumed", unit_us="oz", unit_si="g")] = (
        None
    )
    pressure: Annotated[
        Entry | None, Facts("gauge_pressure", "highest pressure put on it", (0.0, 4e7), (0.0, 650 * PSI_PA), source="measured")
    ] = None
    behind: Annotated[bool | None, Facts("yesno", "rest of the system was open")] = None
    empties: Annotated[bool | None, Facts("yesno", "all of it, down to zero")] = None
    circuit: Annotated[str | None, Facts("text", "from or to circuit", max_length=60)] = None
    planned_for: Annotated[str | None, Facts("text", "planned for, year-month-day", max_length=10)] = None
    done: Annotated[bool | None, Facts("yesno", "done")] = None
    reason: Annotated[str | None, Facts("text", "why, or by whom", max_length=200)] = None

    @property
    def reserved(self) -> bool:
        """Whether it is only planned: it moves nothing, and the receiver sees it coming."""
        return bool(self.planned_for) and not self.done

    @property
    def was_done(self) -> bool:
        """Whether it was done, and not only chosen or planned."""
        return not self.reserved and bool(self.done or self.at is not None)
