"""Readings against time: typed rows and an instrument's trace as one log, and what is wrong with it in words."""

from collections.abc import Mapping, Sequence
from datetime import datetime, timedelta
from itertools import pairwise

from yoshi_core.document.sheets import Entry
from yoshi_core.frozen import dataclass
from yoshi_core.instruments import make
from yoshi_core.message import headline, sentence
from yoshi_core.profile.profile import TRADE
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.steps.log_aside import LogAside, dropped
from yoshi_core.tight_and_dry import trace
from yoshi_core.tight_and_dry.trace import Row, Trace
from yoshi_core.units.display import Amount

AHEAD_S = 120.0
GAP_S, GAP_SHARE = 300.0, 0.25
NEAR_S = 90.0
DRAWN = 240


@dataclass(frozen=True)
class Typed:
    """A typed reading: where it stands in the job, when it was read, and what it says in SI."""

    path: str
    at: datetime | None
    entry: Entry | None


def rows(
    origin: datetime,
    typed: Sequence[Typed],
    logged: Trace | None,
    context: StepContext,
    notes: Notes,
    what: str,
    aside: Mapping[str, LogAside] | None = None,
) -> tuple[Row, ...]:
    """`(second after origin, SI value)` of both, in order; a typed reading wins over a logged one of the same second.

    Of the log nothing counts that was set `aside`.

    Notes typed readings without a time, from the future or out of order.
    """
    found: list[Row] = []
    if logged is not None:
        shift = (logged.starts_at - origin).total_seconds()
        out = dropped(moments_of(logged), aside or {})
        found += [
            (second + shift, value) for n, (second, value) in enumerate(zip(logged.seconds, logged.values, strict=False)) if n not in out
        ]
        if found and not context.is_past(origin + timedelta(seconds=found[-1][0] - AHEAD_S)):
            now = context.now
            text = sentence(
                "The log of {what} runs ahead of the clock by {value}: the instrument's clock is wrong. Set it and take the log again."
            )
            notes.say("log.future", "Wait", text, TRADE, what=what, value=Amount(found[-1][0] - (now - origin).total_seconds(), "duration"))
            found = [row for row in found if row[0] <= (now - origin).total_seconds()]
    before: datetime | None = None
    unordered = False
    for reading in typed:
        if reading.entry is None:
            continue
        if not notes.need(f"{reading.path}/at", headline("when {what} was read", what=what), reading.at) or reading.at is None:
            continue
        if not context.is_past(reading.at - timedelta(seconds=AHEAD_S)):
            notes.refuse(f"{reading.path}/at", "future", "This reading of {what} is from the future. Set its time right.", what=what)
            continue
        unordered = unordered or (before is not None and reading.at < before)
        before = reading.at
        found.append(((reading.at - origin).total_seconds(), reading.entry.value))
    if unordered:
        notes.say("log.order", "Open", "Readings of {what} are not in the order of their times; the times count.", TRADE, what=what)
    return trace.tidy(found)


def moments_of(logged: Trace) -> list[datetime]:
    """When each row of a log was read."""
    return [logged.starts_at + timedelta(seconds=second) for second in logged.seconds]


def tell_aside(spans: Mapping[str, LogAside], logs: Sequence[Trace | None], typed: Mapping[str, object], path: str, notes: Notes) -> bool:
    """Say what part of a log was set aside and why; whether it was the end of it, so that another reading is still to be taken."""
    why = [span.set_aside for span in spans.values() if span.set_aside and span.since is not None]
    for key, span in spans.items():
        if span.set_aside:
            notes.need(f"{path}/{key}/since", "from when the log does not count", span.since)
        if span.since is not None and span.until is not None and span.until < span.since:
            notes.refuse(f"{path}/{key}/until", "order", "The end of what is set aside comes after its beginning.")
    if why:
        notes.say("log.part_aside", "Open", "Part of the log is set aside: {why}.", TRADE, why=tuple(why))
    ended = [
        moments[-1] for log in logs if log is not None and (moments := moments_of(log)) and len(moments) - 1 in dropped(moments, spans)
    ]
    since = max((at for row in typed.values() if (at := getattr(row, "at", None)) is not None), default=None)
    waits = bool(ended) and (since is None or since <= max(ended))
    if waits:
        notes.need(path, "a reading after what is set aside", None)
    return waits


def widening(logged: Trace | None, what: str, notes: Notes, context: StepContext) -> float:
    """By how much the ± of the instrument that gave a log counts for more: 1, or the profile's factor, said, past its calibration."""
    if logged is None or not make.overdue(logged.calibrated_on, context.today, context.profile):
        return 1.0
    factor = context.profile.value("instrument.overdue")
    text = sentence("{what:cap} was calibrated on {on:day}, too long ago: its ± counts {factor}.")
    source = context.profile.source("instrument.calibrated")
    notes.say("log.calibration", "Open", text, source, factor=Amount(factor, "times"), what=what, on=str(logged.calibrated_on))
    return factor


def typed_rows(base: str, records: Mapping[str, object], field: str) -> list[Typed]:
    """The rows of a record with a moment `at` and a figure `field`."""
    return [Typed(f"{base}/{key}", getattr(row, "at", None), getattr(row, field, None)) for key, row in records.items()]


def note_gap(log: Sequence[Row], notes: Notes, what: str) -> None:
    """Say where readings failed to come, in a log that comes close together otherwise."""
    if len(log) < 8:
        return
    widest = max(pairwise(log), key=lambda pair: pair[1][0] - pair[0][0])
    gap = widest[1][0] - widest[0][0]
    usual = sorted(b[0] - a[0] for a, b in pairwise(log))[len(log) // 2]
    if gap > max(GAP_S, 5.0 * usual) or gap > GAP_SHARE * (log[-1][0] - log[0][0]) > 5.0 * usual:
        text = sentence("No reading of {what} came for {value}. What happened in between is not known.")
        notes.say("log.gap", "Open", text, TRADE, value=Amount(gap, "duration"), what=what)


def at_times(log: Sequence[Row], seconds: Sequence[float]) -> list[float | None]:
    """The value nearest to each second, None where nothing was read within a minute and a half."""
    found: list[float | None] = []
    place = 0
    for second in seconds:
        while place + 1 < len(log) and abs(log[place + 1][0] - second) <= abs(log[place][0] - second):
            place += 1
        found.append(log[place][1] if log and abs(log[place][0] - second) <= NEAR_S else None)
    return found


def drawn(log: Sequence[Row], exact: Sequence[float] = ()) -> tuple[tuple[float, ...], tuple[float, ...]]:
    """A log as seconds and values, thin enough to draw."""
    kept = trace.thin(log, exact, DRAWN)
    return tuple(row[0] for row in kept), tuple(row[1] for row in kept)
