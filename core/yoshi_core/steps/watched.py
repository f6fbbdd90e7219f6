"""A step's judging, kept with what it read: while all of that is as it was, it need not be judged again.

A step judges what its context gives it and nothing else. Here that context notes what is read from it; the next time each
noted value is compared with what the context would give now. What a step reads decides, not what somebody thought it reads.
"""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import field, fields
from datetime import date, datetime
from typing import Any

from yoshi_core.document.model import Job
from yoshi_core.findings.claims import Claim
from yoshi_core.frozen import dataclass
from yoshi_core.steps.contract import Judged, StepContext
from yoshi_core.steps.handed import Handed

ALL = "*"
MISSING = object()
OF_CONTEXT = frozenset({"now", "record", "plate", "rivals", "profile", "account"})
OF_JOB = frozenset(f.name for f in fields(Job))
OF_HANDED = frozenset(f.name for f in fields(Handed))


class Seen:
    """What was read, by where and which."""

    def __init__(self) -> None:
        self.read: dict[tuple[str, str], Any] = {}

    def note(self, place: str, key: str, value: Any) -> None:
        """Note a value when it is first read; what is read of a frozen context never changes under it."""
        self.read.setdefault((place, key), value)


class LazyClaims(Mapping[str, Claim]):
    """What the steps before can show, worked out when it is first asked for: most steps never ask."""

    def __init__(self, work: Callable[[], Mapping[str, Claim]]) -> None:
        self._work = work
        self._found: Mapping[str, Claim] | None = None

    def _claims(self) -> Mapping[str, Claim]:
        if self._found is None:
            self._found = self._work()
        return self._found

    def __getitem__(self, key: str) -> Claim:
        return self._claims()[key]

    def __iter__(self) -> Iterator[str]:
        return iter(self._claims())

    def __len__(self) -> int:
        return len(self._claims())


class _WatchedMap(Mapping[str, Any]):
    def __init__(self, place: str, held: Mapping[str, Any], seen: Seen) -> None:
        self._place, self._held, self._seen = place, held, seen

    def __getitem__(self, key: str) -> Any:
        value = self._held.get(key, MISSING)
        self._seen.note(self._place, key, value)
        if value is MISSING:
            raise KeyError(key)
        return value

    def __iter__(self) -> Iterator[str]:
        self._seen.note(self._place, ALL, dict(self._held))
        return iter(self._held)

    def __len__(self) -> int:
        self._seen.note(self._place, ALL, dict(self._held))
        return len(self._held)


@dataclass(frozen=True)
class _WatchedJob(Job):
    seen: Seen = field(default_factory=Seen, compare=False, repr=False)

    def __getattribute__(self, name: str) -> Any:
        value = object.__getattribute__(self, name)
        if name not in OF_JOB:
            return value
        seen: Seen = object.__getattribute__(self, "seen")
        if name == "steps":
            return _WatchedMap("job.steps", value, seen)
        seen.note("job", name, value)
        return value


@dataclass(frozen=True)
class _WatchedHanded(Handed):
    seen: Seen = field(default_factory=Seen, compare=False, repr=False)

    def __getattribute__(self, name: str) -> Any:
        value = object.__getattribute__(self, name)
        if name in OF_HANDED:
            object.__getattribute__(self, "seen").note("handed", name, value)
        return value


@dataclass(frozen=True)
class _WatchedContext(StepContext):
    seen: Seen = field(default_factory=Seen, compare=False, repr=False)

    def __getattribute__(self, name: str) -> Any:
        value = object.__getattribute__(self, name)
        if name in OF_CONTEXT:
            object.__getattribute__(self, "seen").note("", name, value)
        return value

    def is_past(self, moment: datetime) -> bool:
        past: bool = moment <= object.__getattribute__(self, "now")
        self.seen.note("past", moment.isoformat(), past)
        return past

    @property
    def today(self) -> date:
        day: date = object.__getattribute__(self, "now").date()
        self.seen.note("", "today", day)
        return day


def _watched(context: StepContext, seen: Seen) -> _WatchedContext:
    job = {f.name: getattr(context.job, f.name) for f in fields(Job)}
    handed = {f.name: getattr(context.handed, f.name) for f in fields(Handed)}
    return _WatchedContext(
        _WatchedJob(**job, seen=seen),
        context.step,
        context.record,
        context.plate,
        context.rivals,
        _WatchedMap("earlier", context.earlier, seen),
        _WatchedHanded(**handed, seen=seen),
        context.profile,
        context.now,
        context.account,
        _WatchedMap("claims", context.claims, seen),
        context.notes,
        seen,
    )


def _now(context: StepContext, place: str, key: str) -> Any:
    if place == "past":
        return context.is_past(datetime.fromisoformat(key))
    if place in {"", "job", "handed"}:
        return getattr(context if place == "" else getattr(context, place), key)
    held: Mapping[str, Any] = context.job.steps if place == "job.steps" else getattr(context, place)
    return dict(held) if key == ALL else held.get(key, MISSING)


class Memo:
    """What the steps of one job were last judged from, and what they said; whoever judges a job again and again keeps one for it."""

    def __init__(self) -> None:
        self._steps: dict[str, tuple[Seen, Judged]] = {}
        self._seals: dict[str, tuple[Any, str]] = {}

    def judged(self, context: StepContext, judge: Callable[[StepContext], Judged]) -> Judged:
        """What the step says: as kept while all it read is as it was, else judged anew. What cannot be judged is not kept."""
        kept = self._steps.get(context.step)
        if kept is not None and all((now := _now(context, place, key)) is was or now == was for (place, key), was in kept[0].read.items()):
            return kept[1]
        seen = Seen()
        found = judge(_watched(context, seen))
        self._steps[context.step] = seen, found
        return found

    def seal(self, step: str, of: Any, work: Callable[[], str]) -> str:
        """The seal of what a step reads, as kept while that is as it was."""
        kept = self._seals.get(step)
        if kept is not None and kept[0] == of:
            return kept[1]
        found = work()
        self._seals[step] = of, found
        return found
