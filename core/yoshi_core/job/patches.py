"""Saving and previewing: a change names a path, the value seen, and the new value.

Different fields merge; the same field with another value seen is refused for that field alone and
both values are kept. A bad value is refused on saving and counts as empty in a preview.
"""

import dataclasses
import re
from collections.abc import Container, Mapping, Sequence
from dataclasses import field
from datetime import datetime, timedelta
from typing import Any, get_args, get_origin

from jsonpointer import JsonPointer, JsonPointerException

from yoshi_core import refrigerants
from yoshi_core.document import schema
from yoshi_core.document.acts import Act, Section
from yoshi_core.document.bounds import is_of_our_time
from yoshi_core.document.model import Job
from yoshi_core.document.sheets import Entry, Facts
from yoshi_core.errors import CoreError, DocumentError, OutOfRange
from yoshi_core.findings.verdict import Problem
from yoshi_core.frozen import dataclass
from yoshi_core.job import documents
from yoshi_core.message import Message, sentence, told
from yoshi_core.steps.registry import STEPS
from yoshi_core.units.mass import Echo, ParsedMass, echo
from yoshi_core.units.quantities import QUANTITIES

MAX_ROWS = 200
LONGEST_KEY = 40
WIDEST = 1e9
BESIDE: Mapping[str, type] = {"acts": Act, "sections": Section}  # what belongs to no step
OLDEST = timedelta(days=365)  # a device that was longer without a network has a wrong clock
RUN = re.compile(r"0|[1-9][0-9]{0,2}")
CLOSED = sentence("This step is closed. Open it again with a reason to correct it.")


@dataclass(frozen=True)
class Change:
    """One field: JSON pointer inside the job, the plain value the person saw, and what they typed (None: cleared).

    `typed_at` is when it was typed, where that is known; `device_at` what the device's own clock showed then, where that is off.
    """

    path: str
    seen: Any
    value: Any
    force: bool = False
    typed_at: datetime | None = None
    device_at: datetime | None = None


@dataclass(frozen=True)
class Conflict:
    """A field another person changed meanwhile: theirs stands, yours is kept beside it."""

    path: str
    theirs: Any
    yours: Any
    by: str
    at: datetime | None


@dataclass(frozen=True)
class Saved:
    """The job after saving; what was stored per path; what was refused and why."""

    job: Job
    accepted: Mapping[str, Any] = field(default_factory=dict)
    problems: tuple[Problem, ...] = ()
    conflicts: tuple[Conflict, ...] = ()

    def echoes(self) -> dict[str, Echo]:
        """How each accepted weight was read, by path."""
        return {
            path: echo(ParsedMass(value["value"], value["unit"], value["text"]))
            for path, value in self.accepted.items()
            if isinstance(value, dict) and value.get("unit") in {"lb oz", "lb", "oz", "kg", "g"}
        }


def save(job: Job, changes: Sequence[Change], by: str, at: datetime, asked: Container[str] = ()) -> Saved:
    """Apply changes one field at a time; nothing half-written. Raises `DocumentError` for a path that is no field.

    `asked` are paths an open step asks for: in a closed step they take a first answer, and nothing else does.
    """
    plain = documents.dump_job(job)
    accepted: dict[str, Any] = {}
    problems: list[Problem] = []
    conflicts: list[Conflict] = []
    for change in changes:
        where = locate(change.path)
        current = JsonPointer(change.path).resolve(plain, None)
        if _is_closed(job, change.path) and not (current is None and change.path in asked):
            problems.append(Problem(change.path, "step_closed", Message(CLOSED)))
            continue
        try:
            value = where.read(change.value, by, at)
        except CoreError as error:
            problems.append(Problem(change.path, error.code, told(error)))
            continue
        if not change.force and not same(current, change.seen) and not same(current, value):
            conflicts.append(_keep_both(plain, change, current, value, by, at))
            continue
        try:
            trial = _with(plain, _parts(change.path), value, change.path)
        except CoreError as error:
            problems.append(Problem(change.path, error.code, told(error)))
            continue
        plain = _settled(trial, change.path)
        if where.facts is not None and where.facts.kept and not change.force:
            plain = _earlier_kept(plain, job, change.path, current, value, by, at)
        plain = plain if value is None else _begun(plain, change.path, by, _typed(change, at), change.device_at)
        accepted[change.path] = value
    return Saved(documents.load_job(plain), accepted, tuple(problems), tuple(conflicts))


def into_closed(job: Job, changes: Sequence[Change]) -> bool:
    """Whether any of these changes is of a step that is closed."""
    return any(_is_closed(job, change.path) for change in changes)


def _is_closed(job: Job, path: str) -> bool:
    keys = _parts(path) or [""]
    record = job.steps.get("close_out" if keys[0] in BESIDE else keys[1] if keys[0] == "steps" and len(keys) > 1 else "")
    return bool(record and record.events and record.events[-1].kind == "closed")


def _keep_both(plain: dict[str, Any], change: Change, current: Any, value: Any, by: str, at: datetime) -> Conflict:
    disputes = [d for d in plain.get("disputes", []) if not (d["path"] == change.path and d["by"] == by)]
    if value is not None:
        disputes.append({"path": change.path, "value": value, "by": by, "at": at.isoformat()})
    plain["disputes"] = disputes
    entry = current if isinstance(current, dict) else {}
    seen_at = datetime.fromisoformat(entry["at"]) if entry.get("at") else None
    return Conflict(change.path, current, value, str(entry.get("by", "")), seen_at)


def _earlier_kept(plain: dict[str, Any], job: Job, path: str, current: Any, value: Any, by: str, at: datetime) -> dict[str, Any]:
    """With what stood in a field before, beside what was typed now; typing on, or taking it all away, is no second value."""
    if value is None:
        return plain
    before = [schema.dump(dispute) for dispute in job.disputes if dispute.path == path]
    if current is not None and not str(value).lower().startswith(str(current).lower()):
        before.append({"path": path, "value": current, "by": by, "at": at.isoformat()})
    kept = [dispute for dispute in before if dispute["value"] != value]
    return {**plain, "disputes": [*plain.get("disputes", []), *kept]} if kept else plain


def _settled(plain: dict[str, Any], path: str) -> dict[str, Any]:
    """A value chosen for a field ends the dispute about it."""
    if "disputes" not in plain:
        return plain
    return {**plain, "disputes": [d for d in plain["disputes"] if d["path"] != path]}


def _typed(change: Change, at: datetime) -> datetime:
    """When it was typed, as its device has it; when it came, where that lies ahead or is long ago."""
    typed = change.typed_at
    return at if typed is None or not timedelta(0) <= at - typed <= OLDEST else typed


def _begun(plain: dict[str, Any], path: str, by: str, at: datetime, device_at: datetime | None) -> dict[str, Any]:
    """With the moment a row, or a word that is a moment of the job, was first entered; it is set once."""
    match _parts(path):
        case ["steps", step, "runs", run, "sheet", record, row, *_]:
            key = f"/steps/{step}/runs/{run}/sheet/{record}/{row}"
        case ["acts", row, *_]:
            key = f"/acts/{row}"
        case ["steps", step, "runs", run, "sheet", word] if word in STEPS[step].begins:
            key = path
        case _:
            return plain
    known = plain.get("begun", {})
    if key in known:
        return plain
    visits = plain.get("visits", [])
    now = {"at": at.isoformat(), "by": by, **({"visit": visits[-1]["id"]} if visits else {})}
    if device_at is not None and is_of_our_time(device_at):  # a clock that stands nowhere costs nobody an entry
        now["device_at"] = device_at.isoformat()
    return {**plain, "begun": {**known, key: now}}


def same(first: Any, second: Any) -> bool:
    """Whether two stored values say the same; when and by whom do not matter."""
    return bool(_face(first) == _face(second))


def _face(value: Any) -> Any:
    if isinstance(value, dict) and "value" in value:
        return value["value"], value.get("source", "typed"), value.get("limit")
    return value


@dataclass(frozen=True)
class Place:
    """What a path leads to: the type of the field and its facts."""

    kind: Any
    facts: Facts | None
    path: str

    def read(self, value: Any, by: str, at: datetime) -> Any:
        """The plain value to store for what was typed. Raises a `CoreError` at the path."""
        if value is None:
            return None
        if self.facts is not None and self.facts.quantity in QUANTITIES:
            if isinstance(value, str) and not value.strip():
                return None
            if not isinstance(value, (str, dict)):
                raise DocumentError("Write the figure with its unit.", path=self.path)
            entry = schema.read_entry(self.facts, value, self.path)
            self._limited(entry)
            return schema.dump(dataclasses.replace(entry, by=by, at=at))
        if isinstance(value, str) and self.facts is not None and self.facts.quantity == "text":
            return self._text(value)
        return schema.dump(schema.load(self.kind, value, self.path))

    def _limited(self, entry: Entry) -> None:
        """A ± is never below nothing, and no wider than the figure itself may be."""
        assert self.facts is not None
        span = self.facts.hard[1] - self.facts.hard[0] if self.facts.hard else WIDEST
        if entry.limit is not None and not 0.0 <= entry.limit <= span:
            raise OutOfRange(
                "The ± of {label} cannot be so; leave it out where it is not known.",
                words={"label": self.facts.label},
                path=self.path,
                value=entry.limit,
                low=0.0,
                high=span,
            )

    def _text(self, value: str) -> str | None:
        assert self.facts is not None
        if len(value) > self.facts.max_length:
            raise DocumentError(
                "{label:cap} takes up to {max_length} characters; this has {count}.",
                words={"label": self.facts.label, "max_length": self.facts.max_length, "count": len(value)},
                path=self.path,
            )
        text = value.strip()
        if self.path.endswith("/refrigerant"):
            text = refrigerants.normalize(text)
        return text or None


def locate(path: str) -> Place:
    """The field a JSON pointer leads to: a sheet's field, an answer, or the title. Raises `DocumentError`."""
    if path == "/title":
        return Place(str, Facts("text", "title", max_length=160), path)
    match _parts(path):
        case ["steps", step, "runs", run, "answers", _] if step in STEPS and RUN.fullmatch(run):
            return Place(str, None, path)
        case [("acts" | "sections") as where, row, _] as keys if row and len(row) <= LONGEST_KEY:
            return _walk(BESIDE[where], keys[2:], path)
        case ["steps", step, "runs", run, "sheet", _, *_] as keys if step in STEPS and RUN.fullmatch(run):
            return _walk(STEPS[step].sheet, keys[5:], path)
    raise DocumentError("{place}: there is no field to save here.", words={"place": path}, path=path)


def _parts(path: str) -> list[str]:
    try:
        return list(JsonPointer(path).parts)
    except JsonPointerException:
        raise DocumentError("{place}: this is no JSON pointer.", words={"place": path}, path=path) from None


def _walk(kind: Any, keys: list[str], path: str) -> Place:
    facts: Facts | None = None
    for key in keys:
        if dataclasses.is_dataclass(kind) and isinstance(kind, type) and kind is not Entry:
            hint = schema.types_of(kind).get(key)
            if hint is None:
                raise DocumentError("{place}: there is no field called {key}.", words={"place": path, "key": key}, path=path)
            facts = next((a for a in get_args(hint)[1:] if isinstance(a, Facts)), None)
            kind = get_args(hint)[0] if facts else hint
        elif isinstance(get_origin(kind), type) and issubclass(get_origin(kind), Mapping):
            if not key or len(key) > LONGEST_KEY:
                raise DocumentError("{place}: a row needs a short name.", words={"place": path}, path=path)
            kind, facts = get_args(kind)[1], None
        else:
            raise DocumentError("{place}: there is no field called {key}.", words={"place": path, "key": key}, path=path)
    return Place(kind, facts, path)


def _with(place: Any, keys: Sequence[str], value: Any, path: str) -> Any:
    """A copy of plain data with another value at a path; what is not on the path is shared. None takes the field away."""
    key, rest = keys[0], keys[1:]
    if isinstance(place, list):
        number = int(key)
        if number > len(place):
            raise DocumentError("{place}: there is no run {number}.", words={"place": path, "number": number}, path=path)
        here = place[number] if number < len(place) else {"sheet": {}}
        return [*place[:number], _with(here, rest, value, path), *place[number + 1 :]]
    if not rest:
        return {**place, key: value} if value is not None else {name: item for name, item in place.items() if name != key}
    if key not in place and len(place) >= MAX_ROWS:
        raise DocumentError("{place}: more than {max_rows} rows.", words={"place": path, "max_rows": MAX_ROWS}, path=path)
    return {**place, key: _with(place.get(key, [] if key == "runs" else {}), rest, value, path)}
