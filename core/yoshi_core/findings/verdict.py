"""What a step says: verdict with reasons, figures with their why, what is missing, what to mind.

Everything here is data. Texts are templates whose `{names}` are filled from `amounts`, so that one
finding reads in pounds or kilograms alike; nothing is formatted before a person's units are known.
"""

import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from typing import Literal

from yoshi_core.properties.pressure_enthalpy import PhPoint
from yoshi_core.units.display import Amount, System, show_amount

Word = Literal["Holds", "Wait", "Stop", "Open"]
Role = Literal[
    "remark", "no_method", "clock", "step", "condition", "not_the_charge", "no_step", "finding", "edge", "glass", "run_in_served"
]
_NAME = re.compile(r"\{(\w+)\}")


@dataclass(frozen=True)
class Message:
    """A sentence; `{name}` stands for the amount of that name, or for itself where there is none."""

    text: str
    amounts: Mapping[str, Amount] = field(default_factory=dict)

    def show(self, system: System = "us") -> str:
        """The sentence in one system of units."""
        return _NAME.sub(lambda m: show_amount(self.amounts[m[1]], system) if m[1] in self.amounts else m[0], self.text)


@dataclass(frozen=True)
class Reason:
    """One rule that spoke: what was found (`value`), what it was held against (`limit`), and where that comes from.

    `role` says what the reason is for; nothing is recognised by the text of a rule's id. A method that does not speak
    today (`no_method`), a wait that goes on (`clock`), the next step of charge (`step`), what must be right before
    readings speak (`condition`), another fault (`not_the_charge`), why no step is reckoned (`no_step`), what the step
    itself measured (`finding`), a reading left at the edge of its band (`edge`), a glass that ends a charge (`glass`),
    a run-in that is over (`run_in_served`); anything else is a `remark`.
    """

    rule_id: str
    message: Message
    word: Word
    value: Amount | None
    limit: Amount | None
    source: str
    school: str | None = None
    role: Role = "remark"


@dataclass(frozen=True)
class Verdict:
    """Holds, Wait, Stop, or Open while entries are missing."""

    word: Word
    headline: Message
    reasons: tuple[Reason, ...] = ()


@dataclass(frozen=True)
class Term:
    """One piece of a formula with this job's number in it: `op` before it, `label` under it."""

    op: Literal["", "+", "−", "×", "÷", "="]
    amount: Amount
    label: str


@dataclass(frozen=True)
class Why:
    """How a figure came about: the formula with its numbers, notes, source, rule and school."""

    terms: tuple[tuple[Term, ...], ...]
    notes: tuple[Message, ...]
    source: str
    rule_id: str
    school: str | None = None


@dataclass(frozen=True)
class Figure:
    """One computed number: `u` inside `amount` is its standard uncertainty."""

    id: str
    label: str
    amount: Amount
    why: Why


@dataclass(frozen=True)
class Missing:
    """A field that must be filled before the step can judge; `path` is inside the job document."""

    path: str
    label: str


@dataclass(frozen=True)
class Caution:
    """A short warning at the step where it bites; `seen` once a person of this job said so there."""

    id: str
    message: Message
    seen: bool = False


@dataclass(frozen=True)
class Question:
    """An unlikely entry, asked about once; answering `kept` under `id` settles it until the entry changes."""

    id: str
    path: str
    message: Message
    suggestion: str | None = None


@dataclass(frozen=True)
class Problem:
    """An entry that cannot be used; it counts as empty until mended."""

    path: str
    code: str
    message: Message


@dataclass(frozen=True)
class Movement:
    """Refrigerant that changed place: `key` is stable over recomputation; places read `cylinder:14` or `circuit:cr-1`."""

    key: str
    kind: Literal["charge", "recover", "transfer", "lost"]
    source: str
    destination: str
    refrigerant: str
    mass_kg: float
    provenance: str


@dataclass(frozen=True)
class Mark:
    """A reading of the scale at which to act: gross, and counted down from zero; a range of gross readings where it is only expected."""

    id: Literal["start", "stall", "slow", "close"]
    label: str
    gross_kg: float
    counted_kg: float
    low_kg: float | None = None
    high_kg: float | None = None


@dataclass(frozen=True)
class ScaleAnchors:
    """What a live scale is followed against, masses in kg: the draw, its first reading, what its hose keeps, what was in before it.

    `reaction_s` is how long a hand takes to shut the valve, `off` that the unit stands still.
    """

    draw: str
    start_kg: float
    hose_kg: float
    before_kg: float
    total_kg: float
    tare_kg: float
    reaction_s: float
    off: bool
    marks: tuple[Mark, ...]


@dataclass(frozen=True)
class Band:
    """A measured value against its allowed band, for drawing; all in the amount's SI unit.

    `across` is the other end of the glide, from which nothing hangs; `most` is where the value must end, `expected` after the next step.
    """

    id: str
    label: str
    side: Literal["low", "high"]
    amount: Amount
    low: float | None
    high: float | None
    target: float | None
    saturation: Amount
    measured: Amount
    word: Word
    across: Amount
    most: float | None = None
    expected: float | None = None


@dataclass(frozen=True)
class TrimRow:
    """One reading of the running unit, the change of charge before it, what that was answered with, and the target then."""

    id: str
    added_kg: float
    inside_kg: float | None
    superheat: Amount | None
    subcooling: Amount | None
    answered: Amount | None = None
    target: Amount | None = None
    changed_at: datetime | None = None
    at: datetime | None = None


@dataclass(frozen=True)
class TrimTape:
    """The charge of the running unit on a tape, kg: what is in ±, the plan and how far trimming goes from it, what holds today.

    `next_kg` is what will be in after the step, `close_gross_kg` the scale's reading to shut at; None where there is none.
    """

    inside_kg: float
    limit_kg: float
    plan_kg: float
    cap_low_kg: float
    cap_high_kg: float
    holds_low_kg: float | None = None
    holds_high_kg: float | None = None
    next_kg: float | None = None
    close_gross_kg: float | None = None


@dataclass(frozen=True)
class Part:
    """A piece of the charge, for the build-up: `kind` is plate, line or part."""

    id: str
    kind: Literal["plate", "line", "part"]
    label: Message
    kg: float
    limit_kg: float
    provenance: str


@dataclass(frozen=True)
class CauseRow:
    """A cause that fits: `fit` from 1 (poorly) to 4 (well), what speaks for and against it, what would exclude it."""

    id: str
    label: str
    fit: int
    speaks_for: tuple[Message, ...]
    speaks_against: tuple[Message, ...]
    excluded_by: str


@dataclass(frozen=True)
class Outcome:
    """A possible result of a check and the cause that then leads."""

    id: str
    label: str
    meaning: str


@dataclass(frozen=True)
class NextCheck:
    """The cheap check that separates the leaders: what to do, minutes, and what each outcome would mean."""

    id: str
    text: str
    minutes: float
    outcomes: tuple[Outcome, ...]


@dataclass(frozen=True)
class Rung:
    """A temperature on the ladder that no difference hangs from."""

    id: str
    label: str
    amount: Amount


@dataclass(frozen=True)
class Compared:
    """A figure then and now, for a fingerprint."""

    label: str
    then: Amount
    now: Amount


@dataclass(frozen=True)
class CycleWay:
    """A refrigerant's way round a simple cycle, for a pressure–enthalpy picture: suction, discharge, liquid, evaporator's inlet."""

    refrigerant: str
    points: tuple[PhPoint, ...]


@dataclass(frozen=True)
class BeforeAfter:
    """A figure before a change and after it; None where it was not read. A condition says under what the others were read."""

    label: str
    before: Amount | None
    after: Amount | None
    condition: bool = False


@dataclass(frozen=True)
class PlaceRow:
    """A place of the leak map: where it sits, how it stands, and its rank, chance and minutes where it is still to do.

    `chance` is that it leaks here and the method shows it; `share` that it leaks here at all.
    """

    id: str
    label: str
    zone: Literal["outdoor", "lines", "indoor"]
    side: Literal["high", "low"]
    state: Literal["hit", "doubted", "clean", "open", "closed"]
    tried: str
    share: float
    rank: int | None
    method: str
    minutes: float | None
    chance: float | None


@dataclass(frozen=True)
class LossPicture:
    """Loss and leak on one rule, in kg a year: what was lost, and the band of what leaks."""

    lost: Amount
    low: Amount
    high: Amount


@dataclass(frozen=True)
class CylinderRow:
    """A cylinder under recovery: room left and the scale's reading at which to stop, kg; None while unknown."""

    id: str
    name: str
    stop_gross: Amount | None
    room: Amount | None
    taken: Amount | None
    liquid_full: Amount | None


@dataclass(frozen=True)
class Curve:
    """A curve of a chart: seconds after the chart's start, and SI values."""

    id: Literal["measured", "second", "expected", "leak", "moisture", "both", "metal"]
    label: str
    seconds: tuple[float, ...]
    values: tuple[float, ...]


@dataclass(frozen=True)
class ChartMark:
    """A moment worth naming on a chart."""

    second: float
    value: float | None
    label: str


@dataclass(frozen=True)
class Chart:
    """A log against time: `limit` across it, `not_judged_s` the first seconds left out, `decide_s` when it will be told."""

    id: Literal["hold", "pull", "decay"]
    title: str
    quantity: str
    logarithmic: bool
    starts_at: datetime
    curves: tuple[Curve, ...]
    limit: Amount | None = None
    now_s: float = 0.0
    not_judged_s: float = 0.0
    decide_s: float | None = None
    band: Amount | None = None
    marks: tuple[ChartMark, ...] = ()


@dataclass(frozen=True)
class PlanRow:
    """One thing to do in a plan: `state` is done, now or later; `duration` how long it takes."""

    id: str
    text: Message
    state: Literal["done", "now", "later"]
    duration: Amount | None = None
    at: datetime | None = None


@dataclass(frozen=True)
class Waiting:
    """A wait that goes on by itself: from when to when, and what it will decide."""

    since: datetime
    until: datetime
    decides: str


@dataclass(frozen=True)
class Picture:
    """What the step's picture is drawn from; parts a step does not have are empty."""

    parts: tuple[Part, ...] = ()
    marks: tuple[Mark, ...] = ()
    scale: ScaleAnchors | None = None
    bands: tuple[Band, ...] = ()
    trims: tuple[TrimRow, ...] = ()
    tape: TrimTape | None = None
    notes: tuple[Message, ...] = ()
    causes: tuple[CauseRow, ...] = ()
    next_check: NextCheck | None = None
    rungs: tuple[Rung, ...] = ()
    compared: tuple[Compared, ...] = ()
    places: tuple[PlaceRow, ...] = ()
    loss: LossPicture | None = None
    cylinders: tuple[CylinderRow, ...] = ()
    charts: tuple[Chart, ...] = ()
    plan: tuple[PlanRow, ...] = ()
    before_after: tuple[BeforeAfter, ...] = ()
    cycles: tuple[CycleWay, ...] = ()


@dataclass(frozen=True)
class StepResult:
    """What one step says about the runs it holds."""

    step: str
    state: Literal["open", "closed", "changed", "not_applicable"]
    verdict: Verdict
    summary: Message
    figures: tuple[Figure, ...] = ()
    missing: tuple[Missing, ...] = ()
    questions: tuple[Question, ...] = ()
    problems: tuple[Problem, ...] = ()
    cautions: tuple[Caution, ...] = ()
    movements: tuple[Movement, ...] = ()
    waiting: Waiting | None = None
    picture: Picture = field(default_factory=Picture)

    def figure(self, figure_id: str) -> Figure | None:
        """The figure of that id, if the step produced it."""
        return next((f for f in self.figures if f.id == figure_id), None)


_SEVERITY: dict[Word, int] = {"Holds": 0, "Open": 1, "Wait": 2, "Stop": 3}


def worst(reasons: tuple[Reason, ...]) -> Word:
    """The gravest word among reasons; Holds when there is none."""
    return max((r.word for r in reasons), key=lambda w: _SEVERITY[w], default="Holds")
