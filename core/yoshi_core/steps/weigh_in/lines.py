"""What Weigh in enters into the account: what a person says is inside, what another circuit gave, and what each draw brought."""

from collections.abc import Iterator
from dataclasses import replace

from yoshi_core.account.lines import SOURCES, How, Line
from yoshi_core.account.weighing import Weighing, weighed_in_kg
from yoshi_core.document.sheets import limit_of, value_of
from yoshi_core.errors import CoreError, InvalidInput
from yoshi_core.message import sentence
from yoshi_core.steps.entered import At, Entered
from yoshi_core.steps.weigh_in.sheet import Draw, WeighInSheet

TRANSFER_IN, TRANSFER = "transfer_in", "/transfer-"
COMING = "coming"
DRAWS = 1000  # draws stand behind what is said to be inside, and behind what another circuit gave


class BelowTare(InvalidInput):
    """A cylinder lighter than it is empty."""

    code = "below_tare"


def draw_kg(draw: Draw) -> float | None:
    """What reached the system from one finished draw; None while it is not finished. Raises `InvalidInput`."""
    if draw.gross_start is None or draw.gross_end is None:
        return None
    if draw.tare is not None and draw.gross_end.value < draw.tare.value:
        raise BelowTare(sentence("The scale reads less than the empty cylinder weighs. Check the reading and the tare."), path="/gross_end")
    return weighed_in_kg(draw.gross_start.value, draw.gross_end.value, value_of(draw.hose_loss) or 0.0)


def lines(entered: Entered) -> Iterator[Line]:
    """The lines of every run; transfers told to the job stand before the first draw."""
    runs = entered.record.runs
    for number, run in enumerate(runs):
        yield from _state(number, run.sheet, entered)
        if number == 0:
            yield from _transfers(entered)
        for row, (key, draw) in enumerate(run.sheet.draws.items(), DRAWS):
            yield from _draw(number, row, key, draw, run.sheet, entered)


def _state(number: int, sheet: WeighInSheet, entered: Entered) -> Iterator[Line]:
    mass, known = _stated(sheet, entered)
    if mass is None:
        return
    came = sheet.system_state == "precharged"
    yield entered.line(At(number, 0, "system_state", ("system_state",)), "replaced" if came else "opening", mass, known)
    if sheet.system_state == "precharged":
        yield entered.line(At(number, 0, "system_state/shut", ("system_state",)), "shut_in", 0.0, "stamped")


def _stated(sheet: WeighInSheet, entered: Entered) -> tuple[float | None, How]:
    """What a person says is inside, in kg, and how that is known; None where nothing is said."""
    if sheet.system_state == "empty":
        return 0.0, "measured"
    if sheet.system_state == "precharged":
        return value_of(sheet.inside or entered.plate.factory_charge), "stamped"
    if sheet.system_state == "holding" and sheet.inside is not None:
        return sheet.inside.value, SOURCES[sheet.inside.source]
    return None, "not_said"


def _transfers(entered: Entered) -> Iterator[Line]:
    """What another circuit gave to this one, by the weighed facts this job was told."""
    given = [fact for fact in entered.job.facts if fact.kind == TRANSFER_IN]
    for row, fact in enumerate(given, 1):
        yield entered.line(At(0, row, f"transfer-{row}"), "added", float(fact.values["mass_kg"]), "weighed")


def _draw(number: int, row: int, key: str, draw: Draw, sheet: WeighInSheet, entered: Entered) -> Iterator[Line]:
    try:
        mass = draw_kg(draw)
    except CoreError:
        return
    if not mass or draw.gross_start is None or draw.gross_end is None:
        return
    usual = sheet.scale_step.value if sheet.scale_step else entered.scale_limit_kg
    cylinder = draw.cylinder or key
    u_start, u_end = (entered.standard(limit_of(entry, usual)) for entry in (draw.gross_start, draw.gross_end))
    weighing = Weighing(cylinder, draw.gross_start.value, draw.gross_end.value, u_start, u_end)
    source = f"cylinder:{cylinder}"
    at = At(number, row, f"{key}/1", ("draws", key))
    yield entered.line(at, "added", mass, "weighed", weighing=weighing, places=(source, entered.circuit), provenance="weighed")
    if draw.hose_loss is not None and draw.hose_loss.value:
        lost = draw.hose_loss
        beside = replace(at, name=f"{key}/2")
        yield entered.line(beside, "beside", lost.value, SOURCES[lost.source], places=(source, "hose"), provenance=lost.source)
