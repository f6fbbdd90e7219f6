"""Parts of the circuit that valves shut off from the rest: what stands in each, and what work on the rest is of.

A part's state comes from what was done and read, never from a step being closed or left out. Unless something is said of it, there
is one part: the whole circuit. The unit whose charge was pumped into it, or came in it, is shut off from lines and coil by its line of the account.
"""

from collections.abc import Sequence
from dataclasses import replace
from datetime import UTC, datetime
from typing import Literal

from yoshi_core.account.account import Account
from yoshi_core.charge.volume import Volume
from yoshi_core.document.acts import MEDIA, Act, Medium, Section
from yoshi_core.document.model import Job
from yoshi_core.document.plate import LINELESS_KINDS, Plate
from yoshi_core.document.sheets import Entry, value_of
from yoshi_core.frozen import dataclass
from yoshi_core.message import Message, plural, sentence
from yoshi_core.profile.profile import TRADE
from yoshi_core.steps import volumes
from yoshi_core.steps.contract import Notes, StepContext

LINES_AND_COIL = 0.4  # share of a split's volume that is not in its outdoor unit; common practice, no source
LEAST_OPEN = 0.1
UNIT = "unit"  # the key of the unit itself, where its own valves stand shut on its charge
REFRIGERANT: frozenset[Medium] = frozenset({"charge", "liquid", "unknown"})
NEVER = datetime(1, 1, 1, tzinfo=UTC)


@dataclass(frozen=True)
class Part:
    """A part as it stands: shut off or open to the rest, what it holds, and whether a valve on it was seen to let through."""

    id: str
    label: str
    shut: bool = False
    holds: Medium = "unknown"
    passes: bool = False
    volume_m3: float | None = None
    stamp_pa: float | None = None

    @property
    def says(self) -> str:
        """What is in it, in words."""
        return "not known: a valve lets through" if self.passes else MEDIA[self.holds]


def parts_of(job: Job) -> tuple[Part, ...]:
    """Every part this job names, as what was done to it left it."""
    found = {key: _part(key, section) for key, section in job.sections.items()}
    for act in in_time(job):
        if act.kind not in {"shut", "at_zero", "passes", "let_back"} or not act.was_done:
            continue
        for key in (act.section,) if act.section else tuple(found) if act.kind == "let_back" else ():
            found[key] = _after(found.get(key) or _part(key, Section()), act)
    return tuple(found.values())


def standing_parts(job: Job, account: Account, plate: Plate) -> tuple[Part, ...]:
    """What is shut off from what now: the unit, where its own valves stand shut on its charge, before the parts that were named."""
    name = "Condensing unit" if plate.kind in LINELESS_KINDS else "Outdoor unit"
    unit = (Part(UNIT, name, shut=True, holds="charge"),) if _stands_shut(job, account, of_unit=True) else ()
    return (*unit, *parts_of(job))


def open_side(parts: Sequence[Part]) -> str:
    """What is open to the work while a part is shut; empty while none is."""
    if not any(part.shut for part in parts):
        return ""
    return "Lines and coil" if parts[0].id == UNIT else "All the rest"


def _stands_shut(job: Job, account: Account, *, of_unit: bool = False) -> bool:
    named = {f"/acts/{key}" for key, act in job.acts.items() if act.section} if of_unit else set()
    shut = False
    for row in account.booked:
        if row.line.kind in {"shut_in", "let_back", "emptied"} and row.line.origin not in named:
            shut = row.line.kind == "shut_in"
    return shut


def in_time(job: Job) -> list[Act]:
    """Acts in the order they were done: by the moment said, else when first typed."""
    return [job.acts[key] for key in sorted(job.acts, key=lambda key: moment(job, key))]


def moment(job: Job, key: str) -> datetime:
    """When an act was done: as said, else when it was first typed."""
    begun = job.begun.get(f"/acts/{key}")
    return job.acts[key].at or (begun.at if begun else NEVER)


def _part(key: str, section: Section) -> Part:
    return Part(key, section.label or key, volume_m3=value_of(section.volume), stamp_pa=value_of(section.stamp))


def _after(part: Part, act: Act) -> Part:
    if act.kind == "shut":
        return replace(part, shut=True, holds=act.medium or "unknown", passes=False)
    if act.kind == "at_zero":
        return replace(part, holds="zero")
    if act.kind == "passes":
        return replace(part, holds="unknown", passes=True)
    return replace(part, shut=False, passes=False)


def shut_parts(context: StepContext) -> tuple[Part, ...]:
    """Parts that named valves shut off from where the work is."""
    return tuple(part for part in parts_of(context.job) if part.shut)


def lets_through(context: StepContext) -> Part | None:
    """A shut part whose valve was seen to let through what may be refrigerant: both sides are then not known."""
    return next((part for part in shut_parts(context) if part.passes), None)


def was_shut_in(context: StepContext) -> bool:
    """Whether a charge stands, or stood, behind shut valves in this round, while work is done on the rest."""
    return any(row.line.kind == "shut_in" for row in context.account.since_emptied())


def unit_shut_in(context: StepContext) -> bool:
    """Whether it is the unit itself whose charge stood behind shut valves, and not a part that was named."""
    named = {f"/acts/{key}" for key, act in context.job.acts.items() if act.section}
    return any(row.line.kind == "shut_in" and row.line.origin not in named for row in context.account.since_emptied())


def stands_shut_in(context: StepContext) -> bool:
    """Whether the valves are still shut on a charge."""
    return _stands_shut(context.job, context.account)


def open_volume(context: StepContext, entered: Entry | None) -> Volume:
    """The volume of what the work is open to: as entered, else of the circuit without what is shut off."""
    whole = volumes.of(context.plate, entered)
    if entered is not None:
        return whole
    if unit_shut_in(context):
        whole = volumes.of(context.plate, None, share=LINES_AND_COIL)
    less = sum(part.volume_m3 or 0.0 for part in shut_parts(context))
    return whole if less == 0.0 else replace(whole, m3=max(whole.m3 - less, LEAST_OPEN * whole.m3))


def open_stamps(context: StepContext) -> list[tuple[float, str]]:
    """The lowest pressures stamped on parts the work is open to, with what carries each."""
    return [(part.stamp_pa, part.label) for part in parts_of(context.job) if part.stamp_pa is not None and not part.shut]


def rest_alone(context: StepContext, work: Literal["hold", "pull"]) -> Message | None:
    """What the work is not on, as a sentence; None where it is on the whole circuit. `work` is the hold or the pull."""
    names = [part.label for part in shut_parts(context)]
    unit = unit_shut_in(context) and stands_shut_in(context)
    if unit and not names:
        return Message(
            sentence("The hold is of lines and coil alone: the unit keeps its charge behind shut valves.")
            if work == "hold"
            else sentence("The pull is of lines and coil alone: the unit keeps its charge behind shut valves.")
        )
    names = ["the unit", *names] if unit else names
    if not names:
        return None
    if work == "hold":
        one, many = (
            sentence("The hold is of the rest alone: {parts} stays behind shut valves."),
            sentence("The hold is of the rest alone: {parts} stay behind shut valves."),
        )
    else:
        one, many = (
            sentence("The pull is of the rest alone: {parts} stays behind shut valves."),
            sentence("The pull is of the rest alone: {parts} stay behind shut valves."),
        )
    return plural(len(names), one, many, parts=tuple(names))


def judge_liquid(notes: Notes, context: StepContext) -> None:
    """Liquid between two valves has nowhere to go as it warms: a Stop before they are shut, and as long as they are."""
    full = [part.label for part in shut_parts(context) if part.holds == "liquid"]
    planned = [act for act in context.job.acts.values() if act.kind == "shut" and act.medium == "liquid" and not act.was_done]
    if full or planned:
        where = tuple(full) or "that part"
        text = sentence("Liquid shut in between two valves: {where} bursts as it warms. Open one of them, or leave room for vapour.")
        notes.say("recover.liquid", "Stop", text, TRADE, role="hard", where=where)
