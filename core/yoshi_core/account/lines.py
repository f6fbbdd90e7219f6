"""A line of the account: refrigerant that came, went, was emptied or counted, with how it is known and where it was entered."""

from datetime import datetime
from typing import Literal

from yoshi_core.account.weighing import Weighing
from yoshi_core.findings.verdict import Movement
from yoshi_core.frozen import dataclass

Kind = Literal["opening", "replaced", "added", "taken", "lost", "emptied", "shut_in", "let_back", "beside"]
How = Literal["weighed", "measured", "stamped", "on_record", "makers", "told", "assumed", "not_said"]
KNOWN_BEST_FIRST: tuple[How, ...] = ("weighed", "measured", "stamped", "on_record", "makers", "told", "assumed", "not_said")
SOURCES: dict[str, How] = {
    "weighed": "weighed", "measured": "measured", "plate": "stamped", "note": "on_record", "makers": "makers", "told": "told", "assumed": "assumed", "typed": "not_said",
}  # fmt: skip
Moves = Literal["charge", "recover", "transfer", "lost"]
MOVES: dict[Kind, Moves] = {"added": "charge", "taken": "recover"}


@dataclass(frozen=True)
class Order:
    """Where a line stands: the visit, then the step, the run, and the row in it, each counted from nought."""

    visit: int
    step: int
    run: int
    row: int


@dataclass(frozen=True)
class Line:
    """One line, kept under an `id` that never changes; `step` entered it.

    `low_kg` and `high_kg` are the least and the most it can be, in kg; `high_kg` is None where nobody knows. A line of
    kind `opening` or `emptied` says what is inside, the others by how much that changes; `replaced` is a unit that came with a charge of its
    own: it is what is inside where nothing was known, and joins what was; `shut_in` and `let_back` change
    nothing, and `beside` never touched the circuit (a hose let off, a transfer from a cylinder). `u_kg` is its standard
    uncertainty where it was not weighed; `weighing` the scale's two readings where it was. `said_at` is when
    a person says it was, `typed_at` when its first figure was typed; None where that is not known. `origin` is the JSON pointer of what was entered. `source` and `destination` are places of the cylinder
    book, `provenance` what it says of the mass. A `tracer` went in on purpose, under nitrogen, to find a leak by.
    `before` is the origin of a line that a person says came after it.
    """

    id: str
    kind: Kind
    step: str
    order: Order
    low_kg: float
    high_kg: float | None
    known: How
    refrigerant: str = ""
    said_at: datetime | None = None
    typed_at: datetime | None = None
    u_kg: float = 0.0
    weighing: Weighing | None = None
    origin: str = ""
    source: str = ""
    destination: str = ""
    provenance: str = ""
    tracer: bool = False
    before: str = ""

    @property
    def at(self) -> datetime | None:
        """When it was: as said, else as typed; None where neither is known."""
        return self.said_at or self.typed_at

    @property
    def mass_kg(self) -> float | None:
        """Its mass in kg; None where only bounds are known."""
        return self.low_kg if self.high_kg is not None and self.high_kg - self.low_kg <= MASS_WITHIN_KG else None


MASS_WITHIN_KG = 1e-9


def movement(line: Line) -> Movement | None:
    """The line in the cylinder book; None where its mass is not known, or it has no two places."""
    mass = line.mass_kg
    if not mass or not line.source or not line.destination:
        return None
    to_circuit = line.destination.startswith("circuit:")
    how: Moves = "transfer" if to_circuit and line.kind in {"beside", "taken"} else MOVES.get(line.kind, "lost")
    return Movement(line.id, how, line.source, line.destination, line.refrigerant, mass, line.provenance)
