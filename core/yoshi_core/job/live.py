"""Instruments as the core sees them: channels and what may come over them, whether a value is steady, and logs for a job.

An instrument says one thing over one channel. What comes is checked here, in SI, before anything keeps it.
"""

import dataclasses
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from yoshi_core.document.model import Job, StepRecord
from yoshi_core.instruments.make import Make
from yoshi_core.steps.evacuate.sheet import EvacuateSheet
from yoshi_core.steps.pressure_hold.sheet import HoldSheet
from yoshi_core.tight_and_dry.trace import Trace, seal, thin

STEPS = ("pressure_hold", "evacuate")


@dataclass(frozen=True)
class WantedLog:
    """A log an open run asks for: the field of its sheet, the channels that can give it, and from when."""

    step: str
    field: str
    channels: tuple[str, ...]
    since: datetime
    exact: tuple[datetime, ...] = ()


def wanted(job: Job) -> tuple[WantedLog, ...]:
    """The logs that the open runs of a job live from."""
    found: list[WantedLog] = []
    hold = _open_sheet(job, "pressure_hold")
    if isinstance(hold, HoldSheet) and hold.filled_at is not None:
        found.append(WantedLog("pressure_hold", "pressure_trace", ("liquid_pressure", "suction_pressure"), hold.filled_at))
        found.append(WantedLog("pressure_hold", "metal_trace", ("metal", "liquid_line", "suction_line"), hold.filled_at))
    pull = _open_sheet(job, "evacuate")
    if isinstance(pull, EvacuateSheet):
        moments = tuple(sorted(event.at for event in pull.events.values() if event.at is not None))
        if moments:
            found.append(WantedLog("evacuate", "trace", ("vacuum",), moments[0], moments))
            found.append(WantedLog("evacuate", "second_trace", ("second_vacuum",), moments[0], moments))
    return tuple(found)


def _open_sheet(job: Job, step: str) -> object:
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
