"""What As found enters into the account: that nothing was in it, or vapour alone, as its standing pressure says."""

from collections.abc import Iterator
from dataclasses import replace

from yoshi_core import refrigerants
from yoshi_core.account.lines import Line
from yoshi_core.errors import CoreError
from yoshi_core.steps.as_found.sheet import AsFoundSheet
from yoshi_core.steps.as_found.standing import Vapour, at_air, read_standing, vapour_left
from yoshi_core.steps.entered import At, Entered

FIELD = "standing_pressure"


def lines(entered: Entered) -> Iterator[Line]:
    """An opening for a run that found it empty, or with no liquid left: what vapour there is, between the least and the most it can be."""
    for number, run in enumerate(entered.record.runs):
        sheet: AsFoundSheet = run.sheet
        at = At(number, 0, "standing", (FIELD,))
        if at_air(sheet):
            yield entered.line(at, "opening", 0.0, "measured")
            continue
        left = _vapour(sheet, entered)
        if left is not None:
            yield replace(entered.line(at, "opening", left.low_kg, "measured"), high_kg=left.high_kg)


def _vapour(sheet: AsFoundSheet, entered: Entered) -> Vapour | None:
    name = entered.refrigerant
    if not refrigerants.is_known(name):
        return None
    try:
        standing = read_standing(name, sheet, entered.plate, entered.profile)
    except CoreError:
        return None
    return None if standing is None else vapour_left(name, standing, sheet, entered.plate)
