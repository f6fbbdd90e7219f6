"""A step as one thing: what it reads, its sheet, its judging, its share of the day's clock, what is left after it."""

from collections.abc import Callable, Iterator, Mapping
from datetime import datetime
from typing import Any, Literal

from yoshi_core.account.lines import Line
from yoshi_core.document.model import Job
from yoshi_core.document.plate import Plate
from yoshi_core.findings.pictures import NoPicture, Picture
from yoshi_core.findings.result import StepResult
from yoshi_core.frozen import dataclass
from yoshi_core.message import sentence
from yoshi_core.profile.profile import Profile
from yoshi_core.steps.claiming import Told
from yoshi_core.steps.contract import Judged, StepContext
from yoshi_core.steps.entered import Entered

PUMP, NITROGEN, RECOVERY, SCALE = "vacuum pump", "nitrogen", "recovery machine", "scale"
UNDER_NITROGEN = "under nitrogen pressure: becomes a long hold"
UNDER_VACUUM = "isolated under vacuum: becomes a standing test"
NOT_OPENED = "not opened"
CLOSED = "closed, with what was in it"
CAPPED = "empty, capped"
CHARGED = "charged, not proven"
PROVEN = "running, proven"
MUST_CHANGE = sentence("A change of refrigerant is planned and made. Where it is not, this is another kind of job.")
GAUGES_AND_AIR = (
    "suction_pressure", "liquid_pressure", "suction_line", "liquid_line", "return_air", "return_wet_bulb", "supply", "outdoor",
)  # fmt: skip
RUNNING = (
    "suction_pressure", "suction_line", "liquid_pressure", "liquid_line", "return_air", "return_wet_bulb", "supply", "outdoor",
)  # fmt: skip
GAUGES_AND_METAL = ("liquid_pressure", "suction_pressure", "metal", "liquid_line", "suction_line")

Known = Mapping[tuple[str, str], float]


@dataclass(frozen=True)
class Task:
    """One piece of a job's work, with a word of it for narrow places. `hands` says that a person is needed all the while; `kit` what it holds.

    `safe_after` is how the job may be left once it is done, empty where it may not; `safe_during` likewise while it
    runs alone.
    """

    id: str
    label: str
    duration_s: float
    hands: bool
    kit: tuple[str, ...] = ()
    safe_after: str = ""
    safe_during: str = ""
    short: str = ""


@dataclass(frozen=True)
class OnTheClock:
    """What a step's share of the clock is reckoned from: its result now, the plate as repaired, and the shop's own times where known."""

    job: Job
    plate: Plate
    result: StepResult
    profile: Profile
    now: datetime
    known: Known

    @property
    def left_s(self) -> float | None:
        """Seconds of a wait that goes on, None where nothing waits."""
        waiting = self.result.waiting
        return None if waiting is None else max((waiting.until - self.now).total_seconds(), 0.0)

    def own_time_s(self) -> float | None:
        """How long this shop usually takes for the step on this kind of unit; None before that is known."""
        return self.known.get((self.plate.kind or "", self.result.step))

    def time_s(self) -> float:
        """The shop's own time for the step, else the profile's."""
        own = self.own_time_s()
        return self.profile.value(f"time.{self.result.step}") if own is None else own


@dataclass(frozen=True)
class Share:
    """A step's tasks in order, and whether the first of them runs already."""

    tasks: tuple[Task, ...]
    running: bool = False


@dataclass(frozen=True)
class WantedLog:
    """A log an open run asks for: the field of its sheet, the channels that can give it, from when, and moments to keep exactly."""

    step: str
    field: str
    channels: tuple[str, ...]
    since: datetime
    exact: tuple[datetime, ...] = ()


@dataclass(frozen=True)
class Capture:
    """Where a step puts what instruments say: fields of its sheet, or of a row of a record, with the channels that can fill each.

    `way`: into the `sheet` itself; a `new_row`; the last row until one of `begun` is filled (`unread_row`); or the row
    on the `scale`: its first field before, its second after (`first_open` takes the first row without it, else the last row).
    """

    way: Literal["sheet", "new_row", "unread_row", "scale"]
    fields: tuple[tuple[str, tuple[str, ...]], ...]
    record: str = ""
    row: str = "r"
    begun: tuple[str, ...] = ()
    first_open: bool = False


@dataclass(frozen=True)
class Step:
    """A step of a job.

    `reads`: ids of earlier steps whose entries it reads. `left_after`: how the job stands when it is closed, empty where
    it may not be left, None where as before. `opens`: what it begins is open until something closes it again. `must`: why it may not be left
    out, empty where it may; `left_out` are common reasons. `early`: before the system is opened or charged, so that what
    was read last is As found's. `holds_kit`: while it runs, nobody else has its kit. `channels` are shown first while it is worked on; `logs` are what
    its sheet lives from. `picture` is what it draws. `lines` turns its rows into lines of the account; `begins` are words of its sheet whose first
    entry is a moment of the job. `claim` is what it can show without anybody's word for it.
    `compares` are figures that hold what it found against something else: where that other thing turns out to be none of its business they go, and it has not changed.
    `holds` is the word shown where nothing stands against it: a step that looks for something has *found* it.
    `keeps` are fields of its sheet that stand for the next run too, so that a second hold or pull is not typed anew.
    """

    id: str
    label: str
    short: str
    sheet: type
    judge: Callable[[StepContext], Judged]
    share: Callable[[OnTheClock, "Step"], Share]
    reads: tuple[str, ...] = ()
    left_after: str | None = None
    opens: bool = False
    must: str = ""
    left_out: tuple[str, ...] = ()
    early: bool = False
    holds_kit: bool = False
    channels: tuple[str, ...] = ()
    capture: Capture | None = None
    logs: Callable[[Any], tuple[WantedLog, ...]] | None = None
    picture: type[Picture] = NoPicture
    lines: Callable[[Entered], Iterator[Line]] | None = None
    begins: tuple[str, ...] = ()
    claim: Callable[[StepContext], Told] | None = None
    compares: frozenset[str] = frozenset()
    keeps: tuple[str, ...] = ()
    holds: str = "Holds"


def by_hand(kit: tuple[str, ...] = ()) -> Callable[[OnTheClock, Step], Share]:
    """The share of a step that takes a person all the while."""
    return lambda clock, step: Share((Task(step.id, step.label, clock.time_s(), True, kit, step.left_after or "", short=step.short),))


def alone(kit: tuple[str, ...]) -> Callable[[OnTheClock, Step], Share]:
    """The share of a step that runs by itself once it is set up."""
    return lambda clock, step: Share((Task(step.id, step.label, clock.time_s(), False, kit, step.left_after or "", short=step.short),))
