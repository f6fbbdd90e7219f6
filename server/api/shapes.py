"""What requests and answers look like."""

from datetime import datetime
from typing import Annotated, Any, Literal

from ninja import Schema
from pydantic import AwareDatetime, ConfigDict, Field

from api.core_types import CoreConflict, CoreEcho, CoreFindings, CoreJobData, CoreMessage, CorePlate, CoreProblem

Key = Field(min_length=8, max_length=64, description="made by the client; the same key is done once")

Search = Annotated[str, Field(max_length=80)]
Code = Annotated[str, Field(max_length=40)]


class Strict(Schema):
    """A request body that holds nothing it should not."""

    model_config = ConfigDict(extra="forbid")


class SignIn(Strict):
    username: str = Field(max_length=150)
    password: str = Field(max_length=1_000)
    code: str = Field(default="", max_length=20)


class Me(Schema):
    owner: str
    username: str
    name: str
    role: str
    shop: str
    units: Literal["us", "si"]
    clock: Literal["24", "12"]
    offline_days: int


class Preferences(Strict):
    """What is left away stays as it is."""

    units: Literal["us", "si"] | None = None
    clock: Literal["24", "12"] | None = None


class JobRow(Schema):
    code: str
    kind: str
    title: str
    circuit: str
    site: str
    technician: str
    step: str
    word: str
    headline: CoreMessage
    carried: CoreMessage | None
    closed: bool
    discarded: bool
    visit: str
    return_on: str
    work_order: str
    updated_at: datetime


class JobPage(Schema):
    """`open`, `quick` and `stopped` count what the person sees in all, whatever this page holds."""

    jobs: list[JobRow]
    next: str | None
    open: int
    quick: int
    stopped: int


class NewChange(Strict):
    """What a comparison chose: the refrigerant, and the conditions as they were typed, by their id."""

    refrigerant: str = Field(max_length=40)
    conditions: dict[str, Annotated[str, Field(max_length=40)]] = Field(default_factory=dict, max_length=10)


class NewJob(Strict):
    """`code` and `made_at` are of a job that was begun on a device without signal."""

    key: str = Key
    kind: Literal["service", "charge", "quick", "retrofit"]
    title: str = Field("", max_length=160)
    circuit_id: int | None = None
    change: NewChange | None = None
    code: str | None = Field(None, pattern=r"^[0-9a-f]{12}$")
    made_at: AwareDatetime | None = None


class NewWorkOrder(Strict):
    key: str = Key
    kind: Literal["service", "charge"]
    system_id: int


class LeaveOut(Strict):
    key: str = Key
    reason: str = Field(max_length=500)


class EndVisit(Strict):
    key: str = Key
    outcome: Literal["proven", "proven_by_weight", "proven_running", "running_not_proven", "left_safe", "handed_over"]
    reason: str = Field("", max_length=500)
    awaited: str = Field("", max_length=300)
    return_on: str = Field("", max_length=10)


class StartVisit(Strict):
    key: str = Key


class ImportJob(Strict):
    key: str = Key
    document: str = Field(max_length=4_000_000)
    again: bool = False


class ChangeIn(Strict):
    path: str = Field(max_length=300)
    seen: Any = None
    value: Any = None
    force: bool = False
    typed_at: AwareDatetime | None = None
    device_at: AwareDatetime | None = None


class Changes(Strict):
    key: str = Key
    changes: list[ChangeIn] = Field(max_length=200)


class Preview(Strict):
    changes: list[ChangeIn] = Field(max_length=200)


class CloseStep(Strict):
    key: str = Key
    reason: str = Field("", max_length=500)


class ReopenStep(Strict):
    key: str = Key
    reason: str = Field(max_length=500)
    new_run: bool = False


class Rename(Strict):
    key: str = Key
    was: str = Field(max_length=160)
    title: str = Field(max_length=160)


class Discard(Strict):
    key: str = Key
    discarded: bool


class Adopt(Strict):
    key: str = Key
    title: str = Field("", max_length=160)
    circuit_id: int | None = None


class Otherwise(Schema):
    """A step that today's rules would judge otherwise than it was closed with, and under which version that was."""

    step: str
    core_version: str
    word: Literal["Holds", "Wait", "Stop", "Open"]
    headline: CoreMessage


class LiveTrace(Schema):
    """A log of instruments that an open run lives from, and where in the document it belongs."""

    step: str
    field: str
    trace: Any


class JobState(Schema):
    """`job` is the document in `document_version`; `traces` are logs that are not in it yet, with which it was judged."""

    code: str
    seq: int
    kind: str
    title: str
    closed: bool
    discarded: bool
    updated_at: datetime
    siblings: list[dict[str, str]]
    people: list[str]
    document_version: int
    job: CoreJobData
    traces: list[LiveTrace]
    findings: CoreFindings
    otherwise: list[Otherwise]


class JobSaved(JobState):
    accepted: dict[str, Any]
    problems: list[CoreProblem]
    conflicts: list[CoreConflict]
    echoes: dict[str, CoreEcho]


class Previewed(Schema):
    seq: int
    findings: CoreFindings
    accepted: dict[str, Any]
    problems: list[CoreProblem]
    conflicts: list[CoreConflict]
    echoes: dict[str, CoreEcho]


class HistoryLine(Schema):
    seq: int
    kind: str
    at: datetime
    by: str
    payload: Any


class CircuitRow(Schema):
    id: int
    code: str
    name: str
    system: str
    site: str
    revision: int
    plate: CorePlate


class CircuitPage(Schema):
    rows: list[CircuitRow]
    next: int | None


class ProfileState(Schema):
    name: str
    revision: int
    overrides: dict[str, float]
    choices: dict[str, str]
    history: list[dict[str, Any]]


class ProfileEffect(Schema):
    code: str
    title: str
    changes: list[str]


class ReviseProfile(Strict):
    seen_revision: int
    name: str = Field(max_length=120)
    overrides: dict[str, str]
    choices: dict[str, str]
    reason: str = Field(max_length=300)


class RefrigerantRow(Schema):
    name: str
    safety_class: str
    gwp_ar4: float
    oils: list[str]
    parts: list[dict[str, Any]]
    glide_k: float
    liquid_only: bool
    first_k: float
    last_k: float
    stands_on: str


class SaturationRow(Schema):
    temperature_k: float
    bubble_gauge_pa: float
    dew_gauge_pa: float


class SaturationState(Schema):
    refrigerant: str
    site_pressure_pa: float
    gauge_zero_pa: float
    bubble_k: float | None
    dew_k: float | None
    glide_k: float | None
    sealed_dew_k: float | None
    temperature_k: float | None
    bubble_gauge_pa: float | None
    dew_gauge_pa: float | None
    liquid_kg_m3: float | None
    vapor_kg_m3: float | None
    critical_k: float
    gauge_pa: float | None
    table: list[SaturationRow]
    problems: list[CoreProblem]


class HandOn(Strict):
    key: str = Key
    to: str = Field(max_length=150)
    stays: bool = False


class PaperIn(Strict):
    paper: str = Field(max_length=20)


class Health(Schema):
    status: str
    database: bool
    core_version: str
