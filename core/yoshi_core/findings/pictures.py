"""What the pictures of steps are drawn from."""

from datetime import datetime
from typing import Literal

from yoshi_core.findings.claims import Claim, Way
from yoshi_core.findings.verdict import Word
from yoshi_core.frozen import dataclass
from yoshi_core.message import Message
from yoshi_core.properties.pressure_enthalpy import PhPoint
from yoshi_core.units.display import Amount


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

    `chance` is that it leaks here and the method shows it; `share` that it leaks here at all. `method` is the next one
    in words, `method_id` the sheet's field for it. `added`: somebody named it; it may sit anywhere.
    """

    id: str
    label: str
    zone: Literal["outdoor", "lines", "indoor"]
    side: Literal["high", "low"]
    state: Literal["hit", "doubted", "clean", "open", "closed"]
    tried: Message
    share: float
    rank: int | None
    method: str
    minutes: float | None
    chance: float | None
    method_id: str = ""
    added: bool = False


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
class NoPicture:
    """A step that draws nothing."""


@dataclass(frozen=True)
class IdentifyPicture:
    """The total charge, built up of its parts."""

    parts: tuple[Part, ...] = ()


@dataclass(frozen=True)
class AsFoundPicture:
    """The ladder of temperatures, what fits what was read, and what it was like when it was right."""

    bands: tuple[Band, ...] = ()
    rungs: tuple[Rung, ...] = ()
    causes: tuple[CauseRow, ...] = ()
    next_check: NextCheck | None = None
    compared: tuple[Compared, ...] = ()
    notes: tuple[Message, ...] = ()


@dataclass(frozen=True)
class PlanChangePicture:
    """Both refrigerants' ways round the cycle, and what changes with it."""

    cycles: tuple[CycleWay, ...] = ()
    notes: tuple[Message, ...] = ()


@dataclass(frozen=True)
class LeakSearchPicture:
    """The map of places, and the leak against the loss."""

    places: tuple[PlaceRow, ...] = ()
    loss: LossPicture | None = None
    notes: tuple[Message, ...] = ()


@dataclass(frozen=True)
class RecoverPicture:
    """The cylinders that fill, and what makes it faster."""

    cylinders: tuple[CylinderRow, ...] = ()
    notes: tuple[Message, ...] = ()


@dataclass(frozen=True)
class ChangeOverPicture:
    """The lines of the label to come."""

    notes: tuple[Message, ...] = ()


@dataclass(frozen=True)
class PressureHoldPicture:
    """The pressure against what the metal explains, and the order of work."""

    charts: tuple[Chart, ...] = ()
    plan: tuple[PlanRow, ...] = ()


@dataclass(frozen=True)
class EvacuatePicture:
    """The pull and the isolated vacuum, the order of work, and what keeps it up."""

    charts: tuple[Chart, ...] = ()
    plan: tuple[PlanRow, ...] = ()
    causes: tuple[CauseRow, ...] = ()
    notes: tuple[Message, ...] = ()


@dataclass(frozen=True)
class WeighInPicture:
    """The scale with its marks, and the cylinders in order."""

    marks: tuple[Mark, ...] = ()
    scale: ScaleAnchors | None = None
    plan: tuple[PlanRow, ...] = ()
    notes: tuple[Message, ...] = ()


@dataclass(frozen=True)
class VerifyPicture:
    """The running unit against its targets, the charge on its tape, and the way out where the charge is not the fault.

    `takes_out`: the next step of charge is one that comes out.
    """

    bands: tuple[Band, ...] = ()
    trims: tuple[TrimRow, ...] = ()
    tape: TrimTape | None = None
    scale: ScaleAnchors | None = None
    causes: tuple[CauseRow, ...] = ()
    next_check: NextCheck | None = None
    notes: tuple[Message, ...] = ()
    before_after: tuple[BeforeAfter, ...] = ()
    takes_out: bool = False


@dataclass(frozen=True)
class CloseOutPicture:
    """What the circuit's record should learn; what the job can say, and the ways it may close."""

    notes: tuple[Message, ...] = ()
    claims: tuple[Claim, ...] = ()
    ways: tuple[Way, ...] = ()


Picture = (
    NoPicture
    | IdentifyPicture
    | AsFoundPicture
    | PlanChangePicture
    | LeakSearchPicture
    | RecoverPicture
    | ChangeOverPicture
    | PressureHoldPicture
    | EvacuatePicture
    | WeighInPicture
    | VerifyPicture
    | CloseOutPicture
)
