"""What the running unit showed, for what the job can say of it: against a target, or by the rules of thumb of its kind."""

from dataclasses import replace
from typing import Literal

from yoshi_core.findings.verdict import Verdict
from yoshi_core.message import Message, joined
from yoshi_core.steps.as_found.sheet import MODES
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.steps.verify.handed import Verified
from yoshi_core.steps.verify.moments import is_read
from yoshi_core.steps.verify.sheet import VerifyReading, VerifySheet

FAULT_SIGNS = 2


def verified(base: Verified, sheet: VerifySheet, said: Verdict, notes: Notes, context: StepContext, *, by_target: bool) -> Verified:
    """With what was read. One rule of thumb out of its band is no fault yet; two of them are, and so is a reading outside its target."""
    read = [key for key, row in sheet.readings.items() if is_read(row) or _air_or_water(row)]
    waits = notes.speaks("condition", "Wait") or notes.speaks("clock", "Wait") or notes.speaks("no_method")
    thumbs = [reason.word for reason in notes.reasons if reason.role == "thumb"]
    off = sum(word != "Holds" for word in thumbs)
    signs = sum(reason.role == "sign" and reason.word != "Holds" for reason in notes.reasons)
    outside = notes.speaks("outside") or notes.speaks("not_the_charge", "Stop") or off + signs >= FAULT_SIGNS
    against = bool(read) and not waits and outside
    other = notes.speaks("outside_other")
    speaks = bool(read) and not against and not waits and not any(reason.word == "Stop" for reason in notes.reasons)
    by: Literal["target", "thumb"] | None = (
        "target" if by_target and _right(notes) else "thumb" if thumbs and not off + signs and not by_target else None
    )
    stale = _stale(read, context)
    return replace(
        base,
        shows=by if speaks and not stale and not other else None,
        gone=speaks and not stale and by is not None,
        against=(against or (bool(read) and other)) and not stale,
        read=bool(read),
        trimmed=any(row.line.kind in {"added", "taken"} for row in context.account.since_emptied() if row.line.step == context.step),
        stale=stale,
        which_circuit=any(reason.role == "which_circuit" and reason.word == "Holds" for reason in notes.reasons),
        mode=MODES.get(sheet.mode or "", ""),
        words=_words(said, notes, base.judged_by == "weight") if read else None,
    )


def _words(said: Verdict, notes: Notes, by_weight: bool) -> Message:
    """What the running unit said: where only weight judges the charge, what its kind's own signs said beside it."""
    if not by_weight:
        return said.headline
    thumbs = [
        reason.message for reason in notes.reasons if reason.role in {"thumb", "outside", "outside_other"} and reason.value is not None
    ]
    return joined(*thumbs) if thumbs else Message("Nothing was read that judges this kind of system.")


def _air_or_water(row: VerifyReading) -> bool:
    return any(entry is not None for entry in (row.supply, row.box, row.chilled_out, row.condenser_out))


def _right(notes: Notes) -> bool:
    """Whether nothing but remarks, and what the other mode says, keeps it from holding."""
    waits = [reason for reason in notes.reasons if reason.word == "Wait" and reason.role not in {"outside_other", "thumb"}]
    return not waits and not notes.problems and not notes.missing and not notes.questions


def _stale(read: list[str], context: StepContext) -> bool:
    """Whether charge went in or out after the last reading: that reading says nothing of what is inside now."""
    moves = [row.line for row in context.account.booked if row.line.kind in {"added", "taken", "lost", "let_back", "emptied"}]
    if not read or not moves:
        return False
    last = moves[-1]
    if last.step == context.step:
        rows = list(context.run.sheet.readings) if context.run else []
        name = last.origin.rsplit("/", 1)[-1]
        return name in rows and rows.index(name) > rows.index(read[-1])
    typed = context.job.begun.get(context.path("readings", read[-1]))
    return typed is not None and last.typed_at is not None and last.typed_at > typed.at
