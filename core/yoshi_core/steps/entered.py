"""What a step's rows become lines of the account from: its runs, with what a line needs to know of the job."""

from collections.abc import Iterable
from datetime import datetime
from typing import Any

from yoshi_core.account.lines import How, Kind, Line, Order
from yoshi_core.account.weighing import Weighing
from yoshi_core.charge.total import LIMIT_TO_STANDARD
from yoshi_core.document.model import Job, Run, StepRecord
from yoshi_core.document.plate import Plate
from yoshi_core.document.sheets import Entry
from yoshi_core.frozen import dataclass
from yoshi_core.profile.profile import Profile


@dataclass(frozen=True)
class At:
    """Where a line was entered: the run, its place among the run's lines, the name that makes its id, and the keys to it in the sheet."""

    run: int
    row: int
    name: str
    keys: tuple[str, ...] = ()


@dataclass(frozen=True)
class Entered:
    """A step of a job as the account reads it.

    `place` is its place among the steps; `profile` says among others the ± of a scale nobody described; `full_kg` what belongs in by record or plate, None
    where that is not known.
    """

    job: Job
    step: str
    place: int
    plate: Plate
    refrigerant: str
    profile: Profile
    full_kg: float | None = None

    @property
    def scale_limit_kg(self) -> float:
        """The ± of a scale nobody described, in kg."""
        return self.profile.value("scale.limit")

    @property
    def record(self) -> StepRecord:
        """The step's runs."""
        return self.job.steps.get(self.step, StepRecord())

    @property
    def circuit(self) -> str:
        """The circuit as a place of the cylinder book."""
        return f"circuit:{self.job.circuit.id or self.job.id}"

    def standard(self, limit_kg: float) -> float:
        """The standard uncertainty of a ± limit, in kg."""
        return LIMIT_TO_STANDARD * limit_kg

    def line(
        self,
        at: At,
        kind: Kind,
        mass_kg: float,
        known: How,
        *,
        weighing: Weighing | None = None,
        places: tuple[str, str] = ("", ""),
        provenance: str = "",
        u_kg: float = 0.0,
        said: datetime | None = None,
    ) -> Line:
        """A line of known mass from a row of a run; its id is the cylinder book's key too. `said` is when a person says it was."""
        run = self.record.runs[at.run]
        path = "/".join((f"/steps/{self.step}/runs/{at.run}/sheet", *at.keys))
        begun = self.job.begun.get(path)
        return Line(
            id=f"{self.job.id}/{self.step}/{at.run}/{at.name}",
            kind=kind,
            step=self.step,
            order=Order(self._visit(begun.visit if begun else run.visit, said), self.place, at.run, at.row),
            low_kg=mass_kg,
            high_kg=mass_kg,
            known=known,
            refrigerant=self.refrigerant,
            said_at=said,
            typed_at=begun.at if begun else _first_typed(run, at.keys),
            u_kg=u_kg,
            weighing=weighing,
            origin=path,
            source=places[0],
            destination=places[1],
            provenance=provenance,
        )

    def _visit(self, typed_in: str, said: datetime | None) -> int:
        return visit_of(self.job, typed_in, said)


def visit_of(job: Job, typed_in: str, said: datetime | None) -> int:
    """A line's visit by number: the one it was typed in, or an earlier one that was not over yet when it is said to have been."""
    visits = job.visits
    last = next((n for n, known in enumerate(visits) if known.id == typed_in), 0)
    if said is None:
        return last
    return next((n for n, known in enumerate(visits[:last]) if known.ended_at is not None and said <= known.ended_at), last)


def _first_typed(run: Run, origin: tuple[str, ...]) -> datetime | None:
    """When the first figure of a row was written down; None where none says."""
    place: Any = run.sheet
    for key in origin:
        place = place.get(key) if hasattr(place, "get") else getattr(place, key, None)
    entries: Iterable[Any] = [place] if isinstance(place, Entry) else vars(place).values() if hasattr(place, "__dict__") else ()
    return min((entry.at for entry in entries if isinstance(entry, Entry) and entry.at is not None), default=None)
