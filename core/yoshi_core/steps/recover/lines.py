"""What Recover enters into the account: what went into each cylinder, what stayed in hoses and machine, and that it is over."""

from collections.abc import Iterator
from dataclasses import replace

from yoshi_core.account.lines import SOURCES, How, Line
from yoshi_core.account.weighing import Weighing
from yoshi_core.document.sheets import limit_of
from yoshi_core.steps.entered import At, Entered
from yoshi_core.steps.recover.sheet import RecoverSheet, RecoveryCylinder

LAST = 10_000  # what ends a run stands behind all its cylinders


def taken_kg(row: RecoveryCylinder) -> float | None:
    """What went into a cylinder in kg; None while it was not weighed twice."""
    return None if row.gross_start is None or row.gross_now is None else row.gross_now.value - row.gross_start.value


def lines(entered: Entered) -> Iterator[Line]:
    """The lines of every run: cylinders, residue, what was told where nothing was weighed, and the end."""
    for number, run in enumerate(entered.record.runs):
        sheet: RecoverSheet = run.sheet
        weighed = False
        for row, (key, cylinder) in enumerate(sheet.cylinders.items()):
            for line in _cylinder(number, row, key, cylinder, entered):
                weighed = True
                yield line
        yield from _beside(number, sheet, entered, weighed=weighed)
        if sheet.finished and sheet.way == "cylinder":
            yield entered.line(At(number, LAST + 2, "emptied", ("finished",)), "emptied", 0.0, "measured")
        elif sheet.finished and sheet.way == "handed":
            known: How = "measured" if sheet.others_show_it else "told"
            yield entered.line(At(number, LAST + 2, "emptied", ("finished",)), "emptied", 0.0, known)
        elif sheet.finished and sheet.way == "pump_down":
            if entered.full_kg is not None:
                at = At(number, LAST + 1, "pumped", ("finished",))
                yield replace(entered.line(at, "opening", entered.full_kg, "on_record"), low_kg=0.0)
            yield entered.line(At(number, LAST + 2, "shut_in", ("finished",)), "shut_in", 0.0, "measured")


def _cylinder(number: int, row: int, key: str, cylinder: RecoveryCylinder, entered: Entered) -> Iterator[Line]:
    mass = taken_kg(cylinder)
    if mass is None or mass <= 0.0 or cylinder.gross_start is None or cylinder.gross_now is None:
        return
    name = cylinder.cylinder or key
    u_start, u_now = (entered.standard(limit_of(entry, entered.scale_limit_kg)) for entry in (cylinder.gross_start, cylinder.gross_now))
    weighing = Weighing(name, cylinder.gross_start.value, cylinder.gross_now.value, u_start, u_now)
    places = (entered.circuit, f"cylinder:{name}")
    at = At(number, row, f"{key}/1", ("cylinders", key))
    yield entered.line(at, "taken", mass, "weighed", weighing=weighing, places=places, provenance="weighed")


def _beside(number: int, sheet: RecoverSheet, entered: Entered, *, weighed: bool) -> Iterator[Line]:
    if sheet.residue is not None and sheet.residue.value:
        left = sheet.residue
        places = (entered.circuit, "machine:recovery")
        at = At(number, LAST, "residue/1", ("residue",))
        yield entered.line(at, "taken", left.value, SOURCES[left.source], places=places, provenance=left.source)
    if sheet.told is not None and not weighed:
        yield entered.line(At(number, LAST, "told", ("told",)), "taken", sheet.told.value, "told")
    if sheet.use == "other_circuit" and sheet.to_circuit and sheet.to_circuit_mass is not None and sheet.cylinders:
        key, first = next(iter(sheet.cylinders.items()))
        given = sheet.to_circuit_mass
        places = (f"cylinder:{first.cylinder or key}", f"circuit:{sheet.to_circuit}")
        at = At(number, LAST + 1, "transfer/1", ("to_circuit_mass",))
        yield entered.line(at, "beside", given.value, SOURCES[given.source], places=places, provenance=given.source)
