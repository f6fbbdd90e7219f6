"""What As found enters into the account: that it stood at the air's own pressure, so nothing was in it."""

from collections.abc import Iterator

from yoshi_core.account.lines import Line
from yoshi_core.steps.as_found.sheet import AsFoundSheet
from yoshi_core.steps.entered import At, Entered


def lines(entered: Entered) -> Iterator[Line]:
    """An opening of nought for a run that found it so."""
    for number, run in enumerate(entered.record.runs):
        sheet: AsFoundSheet = run.sheet
        if at_air(sheet):
            yield entered.line(At(number, 0, "standing", ("standing_pressure",)), "opening", 0.0, "measured")


def at_air(sheet: AsFoundSheet) -> bool:
    """Whether it stood at the air's own pressure, or under it."""
    return sheet.standing_pressure is not None and sheet.standing_pressure.value <= 0.0
