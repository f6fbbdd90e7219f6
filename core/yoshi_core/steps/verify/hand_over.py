"""When the charge is not the fault: the running unit's readings go to diagnosis, with what trimming has already excluded."""

from math import fsum

from yoshi_core.findings.pictures import CauseRow, NextCheck
from yoshi_core.frozen import dataclass
from yoshi_core.message import Message, headline, sentence
from yoshi_core.steps.as_found.ranking import NEEDED, Ranking, ranking, wanted
from yoshi_core.steps.as_found.readings import read
from yoshi_core.steps.as_found.sheet import AsFoundSheet
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.steps.verify.points import Point
from yoshi_core.steps.verify.sheet import VerifySheet
from yoshi_core.units.display import Amount

CHARGE = frozenset({"undercharge", "overcharge"})
AIR = ("outdoor", "return_air", "return_wet_bulb", "supply")
NO_FAULT = CHARGE | {"healthy", "other_refrigerant"}


@dataclass(frozen=True)
class HandedOver:
    """Causes that are left, the check that separates them, and what to know of the ranking."""

    causes: tuple[CauseRow, ...] = ()
    next_check: NextCheck | None = None
    notes: tuple[Message, ...] = ()


@dataclass(frozen=True)
class Running:
    """What diagnosis says of the last reading: the ranking, else the readings it lacks; `sharp` that all of the air was read."""

    ranking: Ranking | None = None
    missing: tuple[str, ...] = ()
    sharp: bool = False

    @property
    def others(self) -> float:
        """How likely a fault other than the charge is, by the engine that learned it; zero where that does not speak, or while a side of the air is unread."""
        if self.ranking is None or not self.ranking.learned or not self.sharp:
            return 0.0
        return fsum(item.share for item in self.ranking.ranked if item.cause not in NO_FAULT)

    @property
    def leader(self) -> str:
        """The likeliest of them, in words."""
        rows = self.ranking.ranked if self.ranking else ()
        return next((item.label for item in rows if item.cause not in NO_FAULT), "")


def diagnose(sheet: VerifySheet, points: list[Point], notes: Notes, context: StepContext) -> Running:
    """The last reading as As found would judge it."""
    speaking = [point for point in points if point.speaks]
    if not speaking:
        return Running()
    row = speaking[-1].reading
    given = AsFoundSheet(
        running="settled",
        mode=sheet.mode or "cooling",
        suction_pressure=row.suction_pressure,
        suction_line=row.suction_line,
        liquid_pressure=row.liquid_pressure,
        liquid_line=row.liquid_line,
        outdoor=row.outdoor,
        return_air=row.return_air,
        return_wet_bulb=row.return_wet_bulb,
        supply=row.supply,
        box=row.box,
        sight_glass=sheet.sight_glass,
        checks=sheet.checks,
    )
    missing = tuple(name for name in wanted(given, context.plate) if getattr(given, name) is None)
    if missing:
        return Running(missing=missing)
    apart = Notes()
    found = ranking(given, read(given, apart, context), apart, context)
    notes.problems.extend(problem for problem in apart.problems if "/checks/" in problem.path)
    return Running(found, sharp=all(getattr(row, name) is not None for name in AIR))


def hand_over(running: Running, points: list[Point], plan_kg: float | None, notes: Notes) -> HandedOver:
    """Nothing while the charge may still be it."""
    if not notes.speaks("not_the_charge", "Stop"):
        return HandedOver()
    if running.missing:
        lacking = tuple(NEEDED.get(name, name) for name in running.missing)
        return HandedOver(notes=(headline("For a ranking of causes this reading lacks: {lacking}.", lacking=lacking),))
    last = next((point for point in reversed(points) if point.speaks), None)
    return HandedOver() if running.ranking is None or last is None else _told(running.ranking, last, plan_kg)


def _told(found: Ranking, last: Point, plan_kg: float | None) -> HandedOver:
    if last.inside_kg is None or plan_kg is None:
        return HandedOver(found.rows(), found.check_row())
    kept = tuple(row for row in found.rows() if row.id not in CHARGE)
    text = sentence(
        "Charge is left out of the causes: {inside} were weighed in, the plan is {plan}. If all else is right, doubt the plan: plate and line."
    )
    note = Message(text, {"inside": Amount(last.inside_kg, "mass"), "plan": Amount(plan_kg, "mass")})
    return HandedOver(kept, found.check_row(), (note, *found.remarks))
