"""What Verify enters into the account: each step of charge added or taken between readings, by the scale where it was weighed."""

from collections.abc import Iterator

from yoshi_core.account.lines import SOURCES, How, Kind, Line
from yoshi_core.account.weighing import Weighing
from yoshi_core.document.model import StepRecord
from yoshi_core.document.sheets import limit_of, value_of
from yoshi_core.steps.entered import At, Entered
from yoshi_core.steps.verify.sheet import VerifyReading

MOVED: dict[bool, Kind] = {True: "added", False: "taken"}


def change_kg(reading: VerifyReading) -> float:
    """Charge in kg that went in before a reading; negative where it was taken out, zero where nothing was done or is still open."""
    if reading.gross_before is not None and reading.gross_after is not None:
        return reading.gross_before.value - reading.gross_after.value
    return (value_of(reading.added) or 0.0) - (value_of(reading.removed) or 0.0)


def cylinder_of(reading: VerifyReading, weigh_in: StepRecord) -> str:
    """The cylinder a step was drawn from or taken into; unsaid, the last one on the scale at Weigh in."""
    if reading.cylinder:
        return reading.cylinder
    names = [draw.cylinder for run in weigh_in.runs for draw in run.sheet.draws.values()]
    return next((name for name in reversed(names) if name), "trim")


def lines(entered: Entered) -> Iterator[Line]:
    """A line for each reading before which the charge was changed, over all runs."""
    weigh_in = entered.job.steps.get("weigh_in", StepRecord())
    for number, run in enumerate(entered.record.runs):
        for row, (key, reading) in enumerate(run.sheet.readings.items()):
            change = change_kg(reading)
            if change != 0.0:
                yield _line(number, row, key, reading, change, cylinder_of(reading, weigh_in), entered)


def _line(number: int, row: int, key: str, reading: VerifyReading, change: float, cylinder: str, entered: Entered) -> Line:
    place = f"cylinder:{cylinder}"
    weighing = _weighing(reading, cylinder, entered)
    typed = reading.added if change > 0.0 else reading.removed
    known: How = "weighed" if weighing else SOURCES[typed.source] if typed else "not_said"
    u_kg = 0.0 if weighing else entered.standard(2.0**0.5 * limit_of(typed, entered.scale_limit_kg))
    name = f"{key}/1" if change > 0.0 else f"{key}/2"
    places = (place, entered.circuit) if change > 0.0 else (entered.circuit, place)
    at, kind = At(number, row, name, ("readings", key)), MOVED[change > 0.0]
    said = reading.changed_at
    return entered.line(at, kind, abs(change), known, weighing=weighing, places=places, provenance="weighed", u_kg=u_kg, said=said)


def _weighing(reading: VerifyReading, cylinder: str, entered: Entered) -> Weighing | None:
    if reading.gross_before is None or reading.gross_after is None:
        return None
    before, after = (entered.standard(limit_of(entry, entered.scale_limit_kg)) for entry in (reading.gross_before, reading.gross_after))
    return Weighing(cylinder, reading.gross_before.value, reading.gross_after.value, before, after)
