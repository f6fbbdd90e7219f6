"""Looking back: a run and the careful technician's on one timeline, with what each reading meant when it was taken.

Both are played again from their acts. Nothing here judges otherwise than `marking`; it shows when what was so.
"""

from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise

from yoshi_core.diagnosis.causes import CAUSES
from yoshi_core.document.model import Job
from yoshi_core.errors import InvalidInput
from yoshi_core.frozen import dataclass
from yoshi_core.message import Message, headline
from yoshi_core.practice.bench import Bench
from yoshi_core.practice.bench_time import Act
from yoshi_core.practice.careful import play
from yoshi_core.practice.exercise import Exercise
from yoshi_core.practice.looking import causes_in
from yoshi_core.practice.marking import Marked, RunMark, marked
from yoshi_core.practice.questions import Answer
from yoshi_core.rig.solve import as_read, solve
from yoshi_core.units.display import Amount, show

POINTS = 240
MOVED_KG = 2e-3
APART_S = 90.0  # two pours so near one another are one


@dataclass(frozen=True)
class Track:
    """What was so at equal moments: seconds, what was inside, superheat and subcooling in K as gauges and clamps had them; None while it stood still.

    `pressure_pa` is of a circuit without refrigerant, absolute; None of one with.
    """

    times_s: tuple[float, ...]
    inside_kg: tuple[float, ...]
    superheat_k: tuple[float | None, ...]
    subcooling_k: tuple[float | None, ...]
    pressure_pa: tuple[float | None, ...]


@dataclass(frozen=True)
class Span:
    """A stretch of a run: it ran, or so much went in (above nought) or came out, kg; nitrogen or the pump on it."""

    what: str
    from_s: float
    to_s: float
    mass_kg: float = 0.0


@dataclass(frozen=True)
class Moment:
    """A reading of the running unit: when, what it was, how long it had been left alone, and where it was on its way to, K."""

    time_s: float
    superheat_k: float
    subcooling_k: float
    left_alone_s: float
    too_soon: bool
    settles_at_k: float | None
    subcooling_settles_k: float | None


@dataclass(frozen=True)
class Answered:
    """A question with the answer, what was true, and whether it was right."""

    title: Message
    text: str
    truth: str
    right: bool
    time_s: float


@dataclass(frozen=True)
class Side:
    """One of the two runs. `off_kg` is what is inside less what belongs there."""

    marks: tuple[RunMark, ...]
    met: bool
    off_kg: float
    took_s: float
    drawn_kg: float
    lost_kg: float
    superheat_k: float | None
    subcooling_k: float | None
    track: Track
    spans: tuple[Span, ...]
    moments: tuple[Moment, ...]
    answers: tuple[Answered, ...]


@dataclass(frozen=True)
class Debrief:
    """A run looked back at. `belongs_kg` is the true charge, `within_kg` how near it counts, `hidden` what was wrong in words."""

    belongs_kg: float
    began_kg: float
    within_kg: float
    hidden: tuple[Message, ...]
    metering: str
    by_weight: bool
    limit_s: float
    settle_s: float
    person: Side
    careful: Side


def replayed(exercise: Exercise, acts: Sequence[Act], until_s: float) -> Bench:
    """The bench of a run, from its acts, at a moment."""
    return _followed(exercise, acts, until_s)[0]


def debrief(exercise: Exercise, acts: Sequence[Act], until_s: float, job: Job) -> Debrief:
    """A person's run beside the careful one. `job` is the job kept on it. Raises `InvalidInput` for acts that cannot be played."""
    played = play(exercise)
    mine = _side(exercise, acts, until_s, job)
    its = _side(exercise, played.bench.acts, played.bench.time_s, played.job)
    full = exercise.unit.charge_kg
    return Debrief(
        full,
        exercise.faults.charge_share * full if exercise.start not in {"empty", "open"} else 0.0,
        exercise.marks.charge_within * full,
        hidden_in(exercise),
        exercise.unit.metering,
        exercise.start in {"empty", "open"},
        exercise.time_s,
        exercise.marks.settle_s,
        mine,
        its,
    )


def hidden_in(exercise: Exercise) -> tuple[Message, ...]:
    """What was wrong, in sentences; told once the run is over."""
    full, share = exercise.unit.charge_kg, exercise.faults.charge_share
    found = []
    if exercise.start not in {"empty", "open"} and abs(share - 1.0) > 1e-3:
        off = Amount(abs(share - 1.0) * full, "mass")
        found.append(headline("It was {off} short.", off=off) if share < 1.0 else headline("There was {off} too much in it.", off=off))
    named = {"undercharge", "overcharge"}
    found += [headline("{cause:cap}.", cause=CAUSES[cause].label) for cause in causes_in(exercise.faults) if cause not in named]
    if exercise.tight.leak_pa_m3_s > 0.0:
        found.append(Message("It leaked."))
    elif exercise.start == "open" and exercise.tight.water_kg > 0.0:
        found.append(Message("There was water in it."))
    return tuple(found) or (Message("Nothing was wrong with it."),)


def _followed(
    exercise: Exercise, acts: Sequence[Act], until_s: float, every_s: float = 0.0
) -> tuple[Bench, Track, list[tuple[float, float, bool]]]:
    bench, waiting = Bench(exercise), list(acts)
    rows: list[tuple[float, float, float | None, float | None, float | None]] = []
    flows: list[tuple[float, float, bool]] = [(0.0, bench.live.charge_kg, bench.live.running)]
    following = 0.0
    while True:
        while waiting and waiting[0].at_s <= bench.time_s + 0.01:
            act = waiting.pop(0)
            bench.do(act.do, act.what, act.to)
        if every_s and bench.time_s >= following - 1e-6:
            rows.append((bench.time_s, bench.live.charge_kg, *_read(bench), None if bench.empty is None else bench.empty.pressure_pa))
            following += every_s
        if bench.time_s >= until_s - 0.01:
            break
        bench.run(min(1.0, until_s - bench.time_s))
        flows.append((bench.time_s, bench.live.charge_kg, bench.now.running))
    columns = list(zip(*rows, strict=True)) if rows else [(), (), (), (), ()]
    return bench, Track(*(tuple(column) for column in columns)), flows


def _read(bench: Bench) -> tuple[float | None, float | None]:
    now = bench.now
    if not now.running:
        return None, None
    return as_read(bench.unit.refrigerant, now.suction_pa, now.suction_k, now.liquid_pa, now.liquid_k)


def _side(exercise: Exercise, acts: Sequence[Act], until_s: float, job: Job) -> Side:
    bench, track, flows = _followed(exercise, acts, until_s, max(until_s / POINTS, 1.0))
    result: Marked = marked(exercise, bench, job)
    superheat, subcooling = _read(bench)
    return Side(
        result.marks,
        result.met,
        result.off_kg,
        bench.time_s,
        bench.drawn_kg,
        bench.where.lost_kg + bench.where.hose_kg,
        superheat,
        subcooling,
        track,
        _all_spans(flows, _under(acts, until_s)),
        _moments(exercise, acts, result),
        tuple(_answered(exercise, answer) for answer in bench.answers.values()),
    )


def _answered(exercise: Exercise, answer: Answer) -> Answered:
    asked = next(one for one in exercise.asks if one.id == answer.question)
    said = asked.choices or {}
    if isinstance(answer.truth, str):
        return Answered(asked.title, said.get(answer.text, answer.text), said.get(answer.truth, answer.truth), answer.right, answer.time_s)
    return Answered(asked.title, answer.text, show(answer.truth, asked.quantity), answer.right, answer.time_s)


def _all_spans(flows: list[tuple[float, float, bool]], under: list[Span]) -> tuple[Span, ...]:
    """The rest that a pump takes out is no recovery: it is the pump's."""
    pumped = [(span.from_s, span.to_s) for span in under if span.what == "pump"]

    def by_the_pump(span: Span) -> bool:
        return span.what == "out" and any(began - 1.0 <= span.from_s <= ended for began, ended in pumped)

    return (*(span for span in _spans(flows) if not by_the_pump(span)), *under)


def _spans(flows: list[tuple[float, float, bool]]) -> tuple[Span, ...]:
    """Stretches it ran, and stretches in which refrigerant went in or came out."""
    found: list[Span] = []
    began, ran = None, None
    held: tuple[float, float, float] | None = None  # from, last moved, mass at its start
    for (before_s, before_kg, _), (time_s, mass_kg, running) in pairwise(flows):
        if running and ran is None:
            ran = before_s
        if not running and ran is not None:
            found.append(Span("ran", ran, before_s))
            ran = None
        if abs(mass_kg - before_kg) > 1e-6:
            held = (before_s, time_s, before_kg) if held is None else (held[0], time_s, held[2])
            began = mass_kg
        elif held is not None and time_s - held[1] > APART_S:
            found += _moved(held, began)
            held = None
    end_s = flows[-1][0]
    if ran is not None:
        found.append(Span("ran", ran, end_s))
    return tuple(found + _moved(held, began))


def _moved(held: tuple[float, float, float] | None, mass_kg: float | None) -> list[Span]:
    if held is None or mass_kg is None or abs(mass_kg - held[2]) < MOVED_KG:
        return []
    change = mass_kg - held[2]
    return [Span("in" if change > 0.0 else "out", held[0], held[1], change)]


def _under(acts: Sequence[Act], until_s: float) -> list[Span]:
    """Stretches under nitrogen, and with the pump on."""
    found, open_at = [], dict[str, float]()
    for act in acts:
        if act.do not in {"nitrogen", "pump"}:
            continue
        if act.to == "off" and act.do in open_at:
            found.append(Span(act.do, open_at.pop(act.do), act.at_s))
        elif act.to != "off":
            open_at.setdefault(act.do, act.at_s)
    return found + [Span(what, since, until_s) for what, since in open_at.items()]


def _moments(exercise: Exercise, acts: Sequence[Act], result: Marked) -> tuple[Moment, ...]:
    """Every reading with what gauges and clamps had then, and where the unit was on its way to with what was inside."""
    found = []
    bench, waiting = Bench(exercise), list(acts)
    for reading in sorted(result.readings, key=lambda one: one.time_s):
        if reading.time_s < bench.time_s:
            continue
        while bench.time_s < reading.time_s - 0.01:
            while waiting and waiting[0].at_s <= bench.time_s + 0.01:
                act = waiting.pop(0)
                bench.do(act.do, act.what, act.to)
            bench.run(min(1.0, reading.time_s - bench.time_s))
        superheat, subcooling = _read(bench)
        if superheat is None or subcooling is None:
            continue
        share = min(max(bench.live.charge_kg / bench.unit.charge_kg, 0.0), 2.0)
        settled = solve(bench.unit, bench.weather, replace(bench.live.faults, charge_share=share))
        way = (settled.superheat_k, settled.subcooling_k) if settled.running else (None, None)
        found.append(Moment(reading.time_s, superheat, subcooling, reading.left_alone_s, reading.too_soon, *way))
    return tuple(found)


def acts_from(plain: Sequence[Sequence[object]]) -> tuple[Act, ...]:
    """Acts as they are kept: rows of second, what was done, to what, and what it is then. Raises `InvalidInput`."""
    try:
        return tuple(Act(float(row[0]), str(row[1]), str(row[2]), str(row[3])) for row in plain)  # type: ignore[arg-type]
    except (IndexError, TypeError, ValueError):
        raise InvalidInput("These are no acts of a run.", path="/acts") from None
