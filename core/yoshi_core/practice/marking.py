"""What a run is worth: each mark with what was wanted, what came of it, and whether it is met; the same for a person and the policy."""

from datetime import datetime

from yoshi_core.charge.cylinders import fill_limit_kg
from yoshi_core.document.model import Job
from yoshi_core.frozen import dataclass
from yoshi_core.message import Message, headline
from yoshi_core.practice.bench import Bench
from yoshi_core.practice.entries import at
from yoshi_core.practice.exercise import Exercise
from yoshi_core.practice.looking import causes_in
from yoshi_core.steps.verify.sheet import VerifySheet
from yoshi_core.units.display import Amount

CHANGES = ("low_side", "high_side")
TOO_MUCH_KG = 1e-3
LEFT_SHARE, PUMPED_SHARE, VACUUM_S = 0.02, 0.04, 20.0
BEFORE_S = 1.0  # what is done in the second of the reading comes after it


@dataclass(frozen=True)
class RunMark:
    """One thing that counts: its id and words, what came of it, the most it may be, and whether that holds."""

    id: str
    text: Message
    met: bool


@dataclass(frozen=True)
class Reading:
    """A reading of the running unit, with how long the unit had been left alone, s; too soon where that is less than is marked."""

    time_s: float
    left_alone_s: float
    too_soon: bool


@dataclass(frozen=True)
class Marked:
    """All marks of a run. `off_kg`: how far what is inside is from what belongs there; positive is too much."""

    marks: tuple[RunMark, ...]
    off_kg: float
    readings: tuple[Reading, ...]

    @property
    def met(self) -> bool:
        """Whether every mark is."""
        return all(mark.met for mark in self.marks)


def marked(exercise: Exercise, bench: Bench, job: Job) -> Marked:
    """The marks of a bench as it stands now, with what was answered at it, and of the job kept on it."""
    off = bench.live.charge_kg - exercise.unit.charge_kg
    readings = _readings(exercise, bench, job)
    found = [_answers(exercise, bench)] if exercise.asks else []
    found += [_charge_mark(exercise, bench, off), *_overfull(bench)]
    lost = bench.where.lost_kg + bench.where.hose_kg  # what is still in the hose goes when that comes off
    found += [
        RunMark(
            "lost",
            headline("{lost} went to the air, of {most} at most.", lost=Amount(lost, "mass"), most=Amount(exercise.marks.lost_kg, "mass")),
            lost <= exercise.marks.lost_kg,
        ),
        RunMark(
            "refrigerant",
            headline(
                "{drawn} came from the cylinders, of {most} at most.",
                drawn=Amount(bench.drawn_kg, "mass"),
                most=Amount(exercise.refrigerant_kg, "mass"),
            ),
            bench.drawn_kg <= exercise.refrigerant_kg + TOO_MUCH_KG,
        ),
        RunMark(
            "time",
            headline("It took {took}, of {most}.", took=Amount(bench.time_s, "duration"), most=Amount(exercise.time_s, "duration")),
            bench.time_s <= exercise.time_s,
        ),
    ]
    if readings:
        soon = sum(reading.too_soon for reading in readings)
        wait = Amount(exercise.marks.settle_s, "duration")
        text = headline("Readings taken before the unit was left alone for {wait}: {count}.", wait=wait, count=str(soon))
        found.append(RunMark("settled", text, soon == 0))
    if bench.slugged_s:
        text = headline("Liquid ran into the compressor for {slugged}.", slugged=Amount(bench.slugged_s, "duration"))
        found.append(RunMark("slugged", text, False))
    return Marked(tuple(found), off, readings)


def _charge_mark(exercise: Exercise, bench: Bench, off_kg: float) -> RunMark:
    """What the charge is asked to be: left as it is, gone, shut in the condenser, or right."""
    if exercise.marks.cause or not exercise.marks.charge_counts:
        return _left_alone(exercise, bench)
    if exercise.marks.leave == "empty":
        left = Amount(bench.live.charge_kg, "mass")
        text = headline("{left} are left inside, of {most} at most.", left=left, most=Amount(LEFT_SHARE * exercise.unit.charge_kg, "mass"))
        return RunMark("emptied", text, bench.live.charge_kg <= LEFT_SHARE * exercise.unit.charge_kg)
    if exercise.marks.leave == "pumped_down":
        return _pumped_down(exercise, bench)
    return _charge(exercise, off_kg)


def _pumped_down(exercise: Exercise, bench: Bench) -> RunMark:
    pumped, most = bench.pumped, Amount(PUMPED_SHARE * exercise.unit.charge_kg, "mass")
    if pumped is None or pumped.suction_open or bench.live.running:
        return RunMark("pumped_down", Message("It is not shut in: both valves shut, and the unit off."), False)
    if pumped.vacuum_s > VACUUM_S:
        text = headline(
            "The compressor pulled a vacuum for {long}; oil and windings do not bear that.", long=Amount(pumped.vacuum_s, "duration")
        )
        return RunMark("pumped_down", text, False)
    text = headline("{left} are left before the compressor, of {most} at most.", left=Amount(pumped.low_kg, "mass"), most=most)
    return RunMark("pumped_down", text, pumped.low_kg <= most.value)


def _overfull(bench: Bench) -> list[RunMark]:
    """Every cylinder that is fuller than it may be."""
    found = []
    for name, one in bench.cylinders.items():
        most = fill_limit_kg(one.refrigerant, one.water_capacity_kg)
        if one.net_kg > most + TOO_MUCH_KG and one.net_kg > bench.exercise.cylinders()[name].net_kg:
            text = headline(
                "Cylinder {code} holds {net}, and may hold {most}.", code=name, net=Amount(one.net_kg, "mass"), most=Amount(most, "mass")
            )
            found.append(RunMark("overfull", text, False))
    return found


def _charge(exercise: Exercise, off_kg: float) -> RunMark:
    full, within = exercise.unit.charge_kg, exercise.marks.charge_within
    off, most = Amount(abs(off_kg), "mass"), Amount(within * full, "mass")
    if off_kg > 0.0:
        text = headline("There is {off} too much inside; {most} either way is right.", off=off, most=most)
    else:
        text = headline("There is {off} too little inside; {most} either way is right.", off=off, most=most)
    return RunMark("charge", text, abs(off_kg) <= within * full)


def _answers(exercise: Exercise, bench: Bench) -> RunMark:
    """Every question right; of one alone it is said whether what is wrong was named."""
    right = [one.id in bench.answers and bench.answers[one.id].right for one in exercise.asks]
    if len(right) == 1 and exercise.marks.cause:
        return RunMark("cause", Message("What is wrong was named.") if right[0] else Message("What is wrong was not named."), right[0])
    text = headline("{right} of {asked} answers are right.", right=str(sum(right)), asked=str(len(right)))
    return RunMark("answers", text, all(right))


def _left_alone(exercise: Exercise, bench: Bench) -> RunMark:
    short = {"undercharge", "overcharge"} & set(causes_in(exercise.faults))
    began = exercise.faults.charge_share * exercise.unit.charge_kg if exercise.start in {"running", "off"} else 0.0
    moved = abs(bench.live.charge_kg - began)
    text = headline("The charge was changed by {moved}; it was not what is wrong.", moved=Amount(moved, "mass"))
    left = moved <= exercise.marks.charge_within * exercise.unit.charge_kg
    return RunMark("left_alone", Message("The charge was left alone.") if left else text, left or bool(short))


def _readings(exercise: Exercise, bench: Bench, job: Job) -> tuple[Reading, ...]:
    """The readings at Verify that count, each against the last change of charge or switch before it."""
    record = job.steps.get("verify")
    if record is None:
        return ()
    changed = [act.at_s for act in bench.acts if (act.do == "valve" and act.what in CHANGES) or act.do in {"switch", "clean"}]
    found = []
    for run in record.runs:
        sheet = run.sheet
        assert isinstance(sheet, VerifySheet)
        for row in sheet.readings.values():
            if row.at is None or row.set_aside:
                continue
            moment = _seconds(row.at)
            alone = moment - max(
                (time for time in [*changed, *_flowing(bench, moment)] if time < moment - BEFORE_S), default=-exercise.marks.settle_s
            )
            found.append(Reading(moment, alone, alone < exercise.marks.settle_s))
    return tuple(sorted(found, key=lambda reading: reading.time_s))


def _flowing(bench: Bench, moment: float) -> list[float]:
    """Until when refrigerant went in or came out before a moment; until just before it where it still did."""
    return [min(ended, moment - 2.0 * BEFORE_S) for began, ended in bench.moved if began < moment - 2.0 * BEFORE_S]


def _seconds(moment: datetime) -> float:
    return (moment - at(0.0)).total_seconds()
