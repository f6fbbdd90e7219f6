"""Readings a person set aside with a reason: they stay in the record and show nothing, neither for nor against; they are taken anew."""

from collections.abc import Mapping
from dataclasses import fields, replace
from typing import Any

from yoshi_core.message import Message, plural
from yoshi_core.profile.profile import TRADE
from yoshi_core.steps.contract import Notes

AGAIN = Message("A reading was set aside: it is to be read again.")
STAYS = frozenset({"at", "set_aside", "changed_at", "cylinder", "holds", "gross_before", "gross_after", "added", "removed"})


def without(sheet: Any, *records: str) -> Any:
    """The sheet with nothing read in rows that were set aside; what was moved before such a reading was moved all the same."""
    return replace(sheet, **{record: {key: _emptied(row) for key, row in getattr(sheet, record).items()} for record in records})


def _emptied(row: Any) -> Any:
    return replace(row, **{f.name: None for f in fields(row) if f.name not in STAYS}) if row.set_aside else row


def waits_for_another(rows: Mapping[str, Any]) -> bool:
    """Whether the last reading was set aside, and none was taken since: what stands before it is not the whole story."""
    stamped = sorted((row for row in rows.values() if row.at is not None), key=lambda row: row.at)
    last = stamped[-1] if stamped else next(iter([*rows.values()][-1:]), None)
    return bool(last is not None and last.set_aside)


def tell(rows: Mapping[str, Any], path: str, notes: Notes) -> bool:
    """Say what was set aside and why; whether another reading is still to be taken in its place."""
    why = [row.set_aside for row in rows.values() if row.set_aside]
    if why:
        said = plural(len(why), "A reading is set aside: {why}.", "{n} readings are set aside: {why}.", why=tuple(why))
        notes.say("log.set_aside", "Open", said, TRADE)
    waits = waits_for_another(rows)
    if waits:
        notes.need(path, "a reading in place of the one set aside", None)
    return waits
