"""What one step says about the runs it holds."""

from dataclasses import field
from datetime import datetime
from typing import Literal, TypeVar

from yoshi_core.findings.pictures import NoPicture, Picture
from yoshi_core.findings.verdict import Caution, Figure, Missing, Movement, Problem, Question, Verdict
from yoshi_core.frozen import dataclass
from yoshi_core.message import Message

_P = TypeVar("_P", bound=Picture)


@dataclass(frozen=True)
class Waiting:
    """A wait that goes on by itself: from when to when, and what it will decide."""

    since: datetime
    until: datetime
    decides: str


@dataclass(frozen=True)
class StepResult:
    """What one step says about the runs it holds."""

    step: str
    state: Literal["open", "closed", "changed", "not_applicable"]
    verdict: Verdict
    summary: Message
    figures: tuple[Figure, ...] = ()
    missing: tuple[Missing, ...] = ()
    questions: tuple[Question, ...] = ()
    problems: tuple[Problem, ...] = ()
    cautions: tuple[Caution, ...] = ()
    movements: tuple[Movement, ...] = ()
    waiting: Waiting | None = None
    picture: Picture = field(default_factory=NoPicture)

    def figure(self, figure_id: str) -> Figure | None:
        """The figure of that id, if the step produced it."""
        return next((f for f in self.figures if f.id == figure_id), None)

    def drawn(self, kind: type[_P]) -> _P:
        """The picture where it is of that kind, else an empty one of it."""
        return self.picture if isinstance(self.picture, kind) else kind()
