"""The job document: circuit, visits, facts, runs and events. Pure data; rules live elsewhere."""

from collections.abc import Mapping
from dataclasses import field
from datetime import datetime
from typing import Any, Literal

from yoshi_core.document.acts import Act, Section
from yoshi_core.document.plate import Plate
from yoshi_core.findings.verdict import Movement
from yoshi_core.frozen import dataclass
from yoshi_core.profile.profile import Profile

OUTCOMES = {
    "proven": "Proven",
    "proven_by_weight": "Proven by weight",
    "proven_running": "Proven on the running unit",
    "running_not_proven": "Running, not proven",
    "left_safe": "Left safe, not running",
    "handed_over": "Handed over",
}
Outcome = Literal["proven", "proven_by_weight", "proven_running", "running_not_proven", "left_safe", "handed_over"]


@dataclass(frozen=True)
class Circuit:
    """The circuit as copied for this job; `revision` is the circuit's own at that time."""

    id: str = ""
    name: str = ""
    system: str = ""
    site: str = ""
    revision: int = 0
    plate: Plate = field(default_factory=Plate)


@dataclass(frozen=True)
class Visit:
    """One visit; an outcome ends it, with what is awaited and the day to come back."""

    id: str
    started_at: datetime
    people: tuple[str, ...] = ()
    ended_at: datetime | None = None
    outcome: Outcome | None = None
    reason: str = ""
    awaited: str = ""
    return_on: str = ""


@dataclass(frozen=True)
class Fact:
    """Something known from outside the job, copied in with its time and source."""

    kind: str
    key: str
    as_of: datetime
    source: str
    values: Mapping[str, Any] = field(default_factory=dict)


@dataclass(frozen=True)
class Run:
    """One go at a step; `sheet` has the type of its step. `answers` settle questions by id."""

    sheet: Any
    visit: str = ""
    started_at: datetime | None = None
    ended_at: datetime | None = None
    answers: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True)
class StepEvent:
    """A step closed, reopened or declared not applicable; `shown` is the result as seen at closing, never read back.

    `said` is what it rested on then, in words; only what changes is read from it.
    """

    kind: Literal["closed", "reopened", "not_applicable"]
    at: datetime
    by: str
    reason: str = ""
    inputs_hash: str = ""
    profile: Profile | None = None
    core_version: str = ""
    shown: Any = None
    said: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True)
class StepRecord:
    """All runs and events of one step, oldest first."""

    runs: tuple[Run, ...] = ()
    events: tuple[StepEvent, ...] = ()


@dataclass(frozen=True)
class Posting:
    """A ledger line: a movement, or the reversal of one with the same key."""

    kind: Literal["movement", "reversal"]
    movement: Movement
    at: datetime
    by: str = ""


@dataclass(frozen=True)
class ProfileEvent:
    """The profile revision this job is judged by from `at` on; a switch needs a reason."""

    profile: Profile
    at: datetime
    by: str = ""
    reason: str = ""


@dataclass(frozen=True)
class Dispute:
    """A second value for one field, kept until a person chooses."""

    path: str
    value: Any
    by: str
    at: datetime


@dataclass(frozen=True)
class Begun:
    """When a row or a word of a sheet was first entered, in which visit, and by whom; no later correction moves it.

    `device_at` is what the clock of the device showed, where it went wrong and `at` is corrected by what the server's clock said last.
    """

    at: datetime
    visit: str = ""
    by: str = ""
    device_at: datetime | None = None


JobKind = Literal["service", "charge", "quick", "retrofit"]


PRACTICE = "practice-"  # how the number of a job begins that was done on the practice bench: no unit was there


@dataclass(frozen=True)
class Job:
    """One job on one circuit. `begun` is by JSON pointer of the row or field; `acts` are what came and went beside the sheets, `sections` the parts valves can shut off."""

    id: str
    kind: JobKind = "charge"
    title: str = ""
    circuit: Circuit = field(default_factory=Circuit)
    visits: tuple[Visit, ...] = ()
    facts: tuple[Fact, ...] = ()
    steps: Mapping[str, StepRecord] = field(default_factory=dict)
    ledger: tuple[Posting, ...] = ()
    profile_events: tuple[ProfileEvent, ...] = ()
    disputes: tuple[Dispute, ...] = ()
    begun: Mapping[str, Begun] = field(default_factory=dict)
    acts: Mapping[str, Act] = field(default_factory=dict)
    sections: Mapping[str, Section] = field(default_factory=dict)
