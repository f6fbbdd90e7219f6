"""Refrigerant in or out, entered from any step at any time: what no sheet of a step holds."""

from dataclasses import dataclass
from datetime import datetime
from typing import Annotated, Literal

from yoshi_core.document.sheets import Entry, Facts

ACTS = {
    "in": "put in",
    "out": "taken out",
    "lost": "let off into the air",
    "tracer": "tracer, under nitrogen",
    "found": "inside when we came",
    "let_back": "valves opened, its own charge let back",
}
ActKind = Literal["in", "out", "lost", "tracer", "found", "let_back"]


@dataclass(frozen=True)
class Act:
    """Refrigerant that came, went or was found: by a cylinder on the scale, as a mass, or with nobody weighing it.

    An act with a day it is planned for is a reservation and moves nothing until it is done.
    """

    kind: Annotated[ActKind | None, Facts("choice", "what", options=ACTS)] = None
    at: Annotated[datetime | None, Facts("moment", "when")] = None
    cylinder: Annotated[str | None, Facts("text", "cylinder or can", max_length=60)] = None
    holds: Annotated[str | None, Facts("text", "refrigerant in it, by the book", max_length=40)] = None
    gross_before: Annotated[Entry | None, Facts("mass", "scale before", (0.0, 5000.0), (0.2, 150.0), source="weighed")] = None
    gross_after: Annotated[Entry | None, Facts("mass", "scale after", (0.0, 5000.0), (0.2, 150.0), source="weighed")] = None
    mass: Annotated[Entry | None, Facts("mass", "how much", (0.0, 5000.0), (0.0, 60.0), source="told", unit_us="oz", unit_si="g")] = None
    at_most: Annotated[Entry | None, Facts("mass", "at most", (0.0, 5000.0), (0.0, 60.0), source="assumed", unit_us="oz", unit_si="g")] = (
        None
    )
    empties: Annotated[bool | None, Facts("yesno", "all of it, down to zero")] = None
    circuit: Annotated[str | None, Facts("text", "from or to circuit", max_length=60)] = None
    planned_for: Annotated[str | None, Facts("text", "planned for, year-month-day", max_length=10)] = None
    done: Annotated[bool | None, Facts("yesno", "done")] = None
    reason: Annotated[str | None, Facts("text", "why, or by whom", max_length=200)] = None

    @property
    def reserved(self) -> bool:
        """Whether it is only planned: it moves nothing, and the receiver sees it coming."""
        return bool(self.planned_for) and not self.done
