"""Logs of instruments for a job: which its open runs live from, and how a job keeps them."""

import dataclasses
from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import Any

from yoshi_core.document.model import Job, StepRecord
from yoshi_core.instruments.make import Make
from yoshi_core.steps import registry
from yoshi_core.steps.step import WantedLog
from yoshi_core.tight_and_dry.trace import Trace, seal, thin

LOGGED = frozenset(step.id for step in registry.STEPS.values() if step.logs is not None)


def wanted(job: Job) -> tuple[WantedLog, ...]:
    """The logs that the open runs of a job live from."""
    sheets = ((step, _open_sheet(job, step.id)) for step in registry.STEPS.values())
    return tuple(log for step, sheet in sheets if sheet is not None and step.logs is not None for log in step.logs(sheet))


def _open_sheet(job: Job, step: str) -> Any:
    record = job.steps.get(step, StepRecord())
    settled = record.events and record.events[-1].kind != "reopened"
    return record.runs[-1].sheet if record.runs and not settled else None


def as_trace(log: WantedLog, rows: Sequence[tuple[datetime, float]], make: Make, *, sealed: bool) -> Trace | None:
    """A log as a job keeps it: thinned, with the count of the whole and, where it is to be kept, its seal; None for fewer than two rows."""
    seconds = [((at - log.since).total_seconds(), value) for at, value in rows]
    if len(seconds) < 2:
        return None
    kept = thin(seconds, [(moment - log.since).total_seconds() for moment in log.exact])
    return Trace(
        log.since,
        tuple(s for s, _ in kept),
        tuple(v for _, v in kept),
        len(seconds),
        seal(seconds) if sealed else "",
        make.name,
        make.step,
        make.limit,
        make.relative,
        make.calibrated_on,
    )


def with_traces(job: Job, traces: Mapping[tuple[str, str], Trace]) -> Job:
    """The job with logs put into the sheets of its last runs."""
    steps = dict(job.steps)
    for (step, field), trace in traces.items():
        record = steps[step]
        run = dataclasses.replace(record.runs[-1], sheet=dataclasses.replace(record.runs[-1].sheet, **{field: trace}))
        steps[step] = dataclasses.replace(record, runs=(*record.runs[:-1], run))
    return dataclasses.replace(job, steps=steps)
