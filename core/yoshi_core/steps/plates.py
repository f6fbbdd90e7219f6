"""The plate as it stands in a job, and how it differs from what the circuit's record says."""

import dataclasses
from collections.abc import Iterator, Mapping
from math import fsum, isclose
from typing import Any

from yoshi_core import refrigerants
from yoshi_core.document.model import Job, StepRecord
from yoshi_core.document.plate import LineSet, PartAdded, Plate
from yoshi_core.document.schema import facts_of
from yoshi_core.document.sheets import Entry, Facts
from yoshi_core.message import Label, Message, Named, headline, sentence
from yoshi_core.steps.change_over.sheet import ChangeOverSheet
from yoshi_core.steps.repair.sheet import PARTS
from yoshi_core.units.display import Amount

REPAIRED = "repair-"  # parts this job put in; a whole charge on record does not have them yet
ROW_NAMES = {"lines": "line set", "parts": "part"}


def current_plate(job: Job) -> Plate:
    """The plate as it stands in this job: the circuit's copy with this job's own entries over it."""
    record = job.steps.get("identify", StepRecord())
    plate = _overlay(job.circuit.plate, record.runs[-1].sheet) if record.runs else job.circuit.plate
    if not any(line.unmeasured for line in plate.lines.values()):
        return plate
    return dataclasses.replace(plate, lines={key: _between(line, plate) for key, line in plate.lines.items()})


def _between(line: LineSet, plate: Plate) -> LineSet:
    """A line nobody measured, as long as the middle of what it can be, and out by half the way between; what the plate covers adds nothing."""
    least, most = line.length_least, line.length_most
    if not line.unmeasured or line.length is not None or least is None or most is None or most.value < least.value:
        return line
    covered = plate.included_length.value if plate.included_length is not None and len(plate.lines) == 1 else 0.0
    low = min(max(least.value, covered), most.value)
    middle, half = 0.5 * (low + most.value), 0.5 * (most.value - low)
    return dataclasses.replace(line, length=Entry(middle, unit=least.unit, source="assumed", limit=half))


def with_parts(plate: Plate, parts: Mapping[str, PartAdded]) -> Plate:
    """The plate with the parts a repair put in."""
    return dataclasses.replace(plate, parts={**plate.parts, **parts})


def retrofitted(plate: Plate, refrigerant: str, total_kg: float, limit_kg: float, oil: str | None, orifice: str | None) -> Plate:
    """The plate after a change of refrigerant: one whole charge in kg ± its limit, with the lines, parts and winter charge it then covers."""
    nothing = Entry(0.0, source="assumed")
    lines = {key: dataclasses.replace(line, allowance=None) for key, line in plate.lines.items()}
    length = fsum(line.length.value for line in plate.lines.values() if line.length is not None)
    return dataclasses.replace(
        plate,
        refrigerant=refrigerant,
        factory_charge=Entry(total_kg, source="note", limit=limit_kg),
        factory_charge_other=None,
        charge_told=None,
        included_length=Entry(length, source="note") if lines else plate.included_length,
        indoor_allowance=nothing if plate.indoor_allowance else None,
        branch_allowance=nothing if plate.branch_allowance else None,
        flooding_charge=nothing if plate.floods else None,
        oil=oil or plate.oil,
        orifice=orifice or plate.orifice,
        lines=lines,
        parts={},
    )


def changes_to(job: Job) -> str | None:
    """The refrigerant a retrofit changes to, as its plan names it; None in any other job, or while it is not named."""
    runs = job.steps.get("plan_change", StepRecord()).runs
    name = runs[-1].sheet.refrigerant if job.kind == "retrofit" and runs else None
    return refrigerants.normalize(name) if name else None


def left_plate(job: Job, inside_kg: float | None) -> Plate:
    """The plate as this job leaves it: repaired, and changed to another refrigerant once some of that is inside."""
    name = changes_to(job)
    if name is None or inside_kg is None:
        return repaired_plate(job)
    runs = job.steps.get("change_over", StepRecord()).runs
    sheet = runs[-1].sheet if runs else ChangeOverSheet()
    return retrofitted(repaired_plate(job), name, inside_kg, 0.0, sheet.oil_grade, sheet.orifice)


def repaired_parts(job: Job) -> dict[str, PartAdded]:
    """Parts the repair of this job put in that change the charge, named so that no part of the plate is hidden by them."""
    record = job.steps.get("repair", StepRecord())
    if not record.runs or (record.events and record.events[-1].kind == "not_applicable"):
        return {}
    return {
        f"{REPAIRED}{number}-{key}": PartAdded(row.label or (PARTS[row.kind] if row.kind else "a part"), row.charge, row.removes)
        for number, run in enumerate(record.runs)
        for key, row in run.sheet.parts.items()
        if row.charge is not None
    }


def repaired_plate(job: Job) -> Plate:
    """The plate as it stands when the job is done: as identified, with what the repair put in."""
    return with_parts(current_plate(job), repaired_parts(job))


def differences(job: Job, inside_kg: float | None = None) -> tuple[Message, ...]:
    """What this job reads differently from the circuit's copy, one sentence a field; empty without a circuit.

    `inside_kg` is what it leaves inside, which after a change of refrigerant is the whole charge.
    """
    if not job.circuit.id:
        return ()
    return tuple(_differences(Plate, job.circuit.plate, left_plate(job, inside_kg), ""))


def _differences(kind: type, before: Any, after: Any, prefix: str) -> Iterator[Message]:
    for name, (facts, row) in facts_of(kind).items():
        old, new = getattr(before, name), getattr(after, name)
        if _same(old, new):
            continue
        if row is None:
            yield _said(facts, prefix, old, new)
            continue
        for key in dict.fromkeys((*old, *new)):
            if key in old:
                yield from _differences(row, old[key], new[key], ROW_NAMES[name])
            else:
                yield _added(row, new[key], ROW_NAMES[name])


def _same(old: Any, new: Any) -> bool:
    """Whether two fields say the same; who typed it, and in which unit, makes no difference."""
    if isinstance(old, Entry) and isinstance(new, Entry):
        return isclose(old.value, new.value, rel_tol=1e-9)
    return bool(old == new)


def _said(facts: Facts, prefix: str, old: Any, new: Any) -> Message:
    label: Label = headline("{row}: {field}", row=prefix, field=facts.label) if prefix else facts.label
    words: dict[str, Named] = {"label": label, "here": _word(facts, new)}
    if old is None:
        return Message("{label:cap}: not on record, in this job {here}.", {}, words)
    return Message("{label:cap}: on record {before}, in this job {here}.", {}, {**words, "before": _word(facts, old)})


def _added(kind: type, row: Any, name: str) -> Message:
    """A line set or part the record does not have, in one sentence."""
    given = [(facts, getattr(row, field)) for field, (facts, _) in facts_of(kind).items()]
    said = tuple(_word(facts, value) for facts, value in given if value is not None)
    return headline("Not on record, in this job: {row} {said:list}.", row=name, said=said)


def _word(facts: Facts, value: Any) -> Label:
    if isinstance(value, Entry):
        return headline("{entry}", entry=Amount(value.value, facts.quantity))
    if isinstance(value, bool):
        return sentence("yes") if value else sentence("no")
    return (facts.options or {}).get(value, str(value))


def _overlay(under: Plate, over: Plate) -> Plate:
    changes: dict[str, Any] = {}
    for item in dataclasses.fields(Plate):
        value = getattr(over, item.name)
        if isinstance(value, Mapping):
            changes[item.name] = _overlay_rows(getattr(under, item.name), value)
        elif value is not None:
            changes[item.name] = value
    return dataclasses.replace(under, **changes)


def _overlay_rows(under: Mapping[str, LineSet | PartAdded], over: Mapping[str, LineSet | PartAdded]) -> dict[str, LineSet | PartAdded]:
    rows = dict(under)
    for key, row in over.items():
        below = rows.get(key)
        if below is None:
            rows[key] = row
            continue
        given = {f.name: v for f in dataclasses.fields(row) if (v := getattr(row, f.name)) is not None}
        rows[key] = dataclasses.replace(below, **given)
    return rows
