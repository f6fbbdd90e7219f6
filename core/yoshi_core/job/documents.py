"""The job document as text: read, written, migrated; and the export that carries findings beside it.

`yoshi-job` is a JSON object `{format, version, job}`; an export adds `profile`, `now`,
`core_version` and `findings`. Unknown keys are refused, so nothing is lost silently.
"""

import json
from collections.abc import Callable
from datetime import datetime
from typing import Any

from yoshi_core import __version__
from yoshi_core.document import schema
from yoshi_core.document.model import Job, Run, StepEvent, StepRecord
from yoshi_core.document.version_4 import from_version_4
from yoshi_core.errors import CoreError, DocumentError
from yoshi_core.frozen import dataclass
from yoshi_core.job.evaluate import Findings, evaluate
from yoshi_core.message import told
from yoshi_core.profile.profile import Profile, check
from yoshi_core.steps.registry import STEPS

FORMAT = "yoshi-job"
VERSION = 5


@dataclass(frozen=True)
class Export:
    """A document as read: the job, and the profile and moment it was judged with, where given."""

    job: Job
    profile: Profile
    now: datetime | None
    findings: Any = None


def loads(text: str) -> Export:
    """Read a document. Raises `DocumentError` naming the wrong field, or a later version."""
    try:
        plain = json.loads(text, parse_constant=_refuse_constant)
    except json.JSONDecodeError as error:
        raise DocumentError(
            "This is not a whole JSON document: {msg} at line {lineno}, column {colno}. It may have been cut off; fetch it again.",
            words={"msg": error.msg, "lineno": error.lineno, "colno": error.colno},
            line=error.lineno,
        ) from None
    return load_plain(plain)


def load(text: str) -> Job:
    """The job in a document. Raises `DocumentError`."""
    return loads(text).job


def load_plain(plain: Any) -> Export:
    """Read an already parsed document."""
    plain = migrate(plain)
    for key in plain:
        if key not in {"format", "version", "job", "profile", "now", "core_version", "findings"}:
            raise DocumentError("/{key}: there is no such field.", words={"key": key}, path=f"/{key}")
    if "job" not in plain:
        raise DocumentError("/job: this field is missing.", path="/job")
    profile = schema.load(Profile, plain.get("profile", {}), "/profile")
    try:
        check(profile)
    except CoreError as error:
        raise DocumentError(
            "/profile{place}: {message}", words={"place": error.path, "message": told(error)}, path=f"/profile{error.path}"
        ) from None
    now = schema.load(datetime, plain["now"], "/now") if "now" in plain else None
    return Export(load_job(plain["job"], "/job"), profile, now, plain.get("findings"))


def load_job(plain: Any, path: str = "") -> Job:
    """A job from plain data; each run's sheet is read as the sheet of its step. Raises `DocumentError`."""
    try:
        job: Job = schema.load(Job, plain, path)
        steps = {step: _load_record(step, record, f"{path}/steps/{step}") for step, record in job.steps.items()}
    except DocumentError:
        raise
    except CoreError as error:
        raise DocumentError("{place}: {message}", words={"place": error.path, "message": told(error)}, path=error.path) from None
    return Job(**{**{name: getattr(job, name) for name in schema.types_of(Job)}, "steps": steps})


def _load_record(step: str, record: StepRecord, path: str) -> StepRecord:
    if step not in STEPS:
        raise DocumentError("{place}: there is no step called {step}.", words={"place": path, "step": step}, path=path)
    runs = tuple(
        Run(
            schema.load(STEPS[step].sheet, run.sheet, f"{path}/runs/{number}/sheet"),
            run.visit,
            run.started_at,
            run.ended_at,
            run.answers,
        )
        for number, run in enumerate(record.runs)
    )
    return StepRecord(runs, record.events)


def dump_job(job: Job) -> dict[str, Any]:
    """The job as plain data."""
    plain = schema.dump(job)
    assert isinstance(plain, dict)
    return plain


def dump(job: Job) -> str:
    """The document of a job, without findings."""
    return _text({"format": FORMAT, "version": VERSION, "job": dump_job(job)})


def export(job: Job, profile: Profile, now: datetime) -> str:
    """The document with the profile, the moment and the findings, so that the answer can be compared elsewhere."""
    return _text(
        {
            "format": FORMAT,
            "version": VERSION,
            "job": dump_job(job),
            "profile": schema.dump(profile),
            "now": now.isoformat(),
            "core_version": __version__,
            "findings": schema.dump_full(evaluate(job, profile, now)),
        }
    )


def _text(plain: Any) -> str:
    return json.dumps(plain, indent=1, ensure_ascii=False, allow_nan=False) + "\n"


def _refuse_constant(name: str) -> Any:
    raise DocumentError("{name} is not a number a document may hold.", words={"name": name})


def _from_version_1(plain: dict[str, Any]) -> dict[str, Any]:
    """Version 1 named the site altitude `site_altitude_m`, a bare number on the circuit."""
    job = dict(plain.get("job", {}))
    circuit = dict(job.get("circuit", {}))
    if "site_altitude_m" in circuit:
        altitude = circuit.pop("site_altitude_m")
        plate = dict(circuit.get("plate", {}))
        plate.setdefault("altitude", {"value": altitude, "text": f"{altitude:g} m", "unit": "m"})
        circuit["plate"] = plate
        job["circuit"] = circuit
    return {**plain, "version": 2, "job": job}


def _from_version_2(plain: dict[str, Any]) -> dict[str, Any]:
    """Version 2 kept As found, Leak search and Recover as named figures with a note."""
    return _figures_to_facts(plain, {"as_found", "leak_search", "recover"}, 3)


def _from_version_3(plain: dict[str, Any]) -> dict[str, Any]:
    """Version 3 kept Repair, Pressure hold and Evacuate as named figures with a note."""
    return _figures_to_facts(plain, {"repair", "pressure_hold", "evacuate"}, 4)


def _figures_to_facts(plain: dict[str, Any], named: set[str], version: int) -> dict[str, Any]:
    """Runs of steps that were only recorded become facts of the job; the steps keep their events."""
    job = dict(plain.get("job", {}))
    steps_plain = job.get("steps")
    if not isinstance(steps_plain, dict):
        return {**plain, "version": version}
    facts, kept = list(job.get("facts") or []), {}
    for step, record in steps_plain.items():
        if step not in named or not isinstance(record, dict):
            kept[step] = record
            continue
        runs = record.get("runs", [])
        for number, run in enumerate(runs):
            as_of = run.get("ended_at") or run.get("started_at") or "1970-01-01T00:00:00+00:00"
            facts.append(
                {"kind": "entries", "key": f"{step}/{number}", "as_of": as_of, "source": "an earlier Yoshi", "values": run.get("sheet", {})}
            )
        kept[step] = {**record, "runs": []}
    return {**plain, "version": version, "job": {**job, "steps": kept, "facts": facts} if facts else job}


def _from_version_4(plain: dict[str, Any]) -> dict[str, Any]:
    """Version 4 said of bubbles that they were done or not; what they showed was not asked."""
    steps_plain = plain.get("job", {}).get("steps")
    if not isinstance(steps_plain, dict):
        return {**plain, "version": 5}
    return {**plain, "version": 5, "job": {**plain["job"], "steps": from_version_4(steps_plain)}}


_MIGRATIONS: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {
    1: _from_version_1,
    2: _from_version_2,
    3: _from_version_3,
    4: _from_version_4,
}


def migrate(plain: Any) -> dict[str, Any]:
    """The document in the present version. Raises `DocumentError` for another format or a later version."""
    if not isinstance(plain, dict) or plain.get("format") != FORMAT:
        raise DocumentError("/format: this is not a {format} document.", words={"format": FORMAT}, path="/format")
    version = plain.get("version")
    if isinstance(version, bool) or not isinstance(version, int) or version < 1:
        raise DocumentError("/version: expected a whole number from 1.", path="/version")
    if version > VERSION:
        raise DocumentError(
            "/version: this document is version {version}; this Yoshi reads up to {newest}. Update Yoshi to open it.",
            words={"version": version, "newest": VERSION},
            path="/version",
        )
    if not isinstance(plain.get("job", {}), dict):
        raise DocumentError("/job: expected an object.", path="/job")
    while version < VERSION:
        plain = _MIGRATIONS[version](plain)
        version = plain["version"]
    return dict(plain)


def json_schema() -> dict[str, Any]:
    """JSON Schema (2020-12) of the document, as published in `docs/formats/`."""
    found: dict[str, Any] = {}
    job = schema.definitions(Job, found)
    profile = schema.definitions(Profile, found)
    schema.definitions(StepEvent, found)
    sheets = {name: schema.definitions(step.sheet, found) for name, step in STEPS.items()}
    found["Entry"] = {"anyOf": [{"type": "string"}, found["Entry"]]}
    entry_object = found["Entry"]["anyOf"][1]
    entry_object["anyOf"] = [{"required": ["value"]}, {"required": ["text"]}]
    del entry_object["required"]
    records = {}
    for step, sheet in sheets.items():
        run = {**found["Run"], "properties": {**found["Run"]["properties"], "sheet": sheet}}
        record = found["StepRecord"]
        records[step] = {**record, "properties": {**record["properties"], "runs": {"type": "array", "items": run}}}
    steps = {"type": "object", "properties": records, "additionalProperties": False}
    found["Job"]["properties"]["steps"] = steps
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Yoshi job document",
        "type": "object",
        "required": ["format", "version", "job"],
        "additionalProperties": False,
        "properties": {
            "format": {"const": FORMAT},
            "version": {"const": VERSION},
            "job": job,
            "profile": profile,
            "now": {"type": "string", "format": "date-time"},
            "core_version": {"type": "string"},
            "findings": {"description": "what the writer found; never read back", **schema.definitions(Findings, found, full=True)},
        },
        "$defs": found,
    }
