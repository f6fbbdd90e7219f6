"""The job document: circuit, visits, facts, runs and events. Pure data; rules live elsewhere."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from typing import Annotated, Any, Literal

from yoshi_core.changed_sheets import ChangeOverSheet, PlanChangeSheet
from yoshi_core.closed_sheets import EvacuateSheet, HoldSheet, RepairSheet
from yoshi_core.document.sheets import Entry, Facts
from yoshi_core.field_sheets import GLASS, MODES, AsFoundSheet, CheckResult, Glass, LeakSearchSheet, RecoverSheet
from yoshi_core.findings.verdict import Movement
from yoshi_core.profile.profile import Profile
from yoshi_core.units.quantities import FAHRENHEIT_K, PSI_PA

KINDS = {
    "split": "split AC",
    "heat_pump": "heat pump",
    "packaged": "packaged unit",
    "ductless": "ductless",
    "vrf": "variable refrigerant flow",
    "receiver": "refrigeration with receiver",
    "reach_in": "small hermetic (reach-in)",
    "vehicle": "vehicle air conditioning",
    "chiller": "chiller",
}
METERING = {"txv": "TXV", "eev": "EEV", "orifice": "fixed orifice", "capillary": "capillary"}
GAUGES = {"vented": "vented", "sealed": "sealed"}
OUTCOMES = {
    "proven": "Proven",
    "proven_by_weight": "Proven by weight",
    "handed_over": "Handed over",
    "left_safe": "Left safe",
}

PAIRINGS = {
    "switched": "switched off, and this one stopped",
    "label": "labels that match",
    "traced": "the line, traced",
    "only": "there is only one",
    "told": "somebody said so",
}

MOUNTINGS = {"floor": "at the floor", "window": "at a window", "wall": "on the wall", "ceiling": "at the ceiling"}
Mounting = Literal["floor", "window", "wall", "ceiling"]
PairingBy = Literal["switched", "label", "traced", "only", "told"]
VISIT_OUTCOMES = {
    "proven": "Proven",
    "running_not_proven": "Running, not proven",
    "left_safe": "Left safe, not running",
    "handed_over": "Handed over",
}
VisitOutcome = Literal["proven", "running_not_proven", "left_safe", "handed_over"]
Kind = Literal["split", "heat_pump", "packaged", "ductless", "vrf", "receiver", "reach_in", "vehicle", "chiller"]
Metering = Literal["txv", "eev", "orifice", "capillary"]
GaugeReference = Literal["vented", "sealed"]
Outcome = Literal["proven", "proven_by_weight", "handed_over", "left_safe"]


@dataclass(frozen=True)
class LineSet:
    """One line set between outdoor and indoor unit."""

    length: Annotated[Entry | None, Facts("length", "installed length, one way", (0.0, 300.0), (1.0, 75.0))] = None
    liquid_od: Annotated[Entry | None, Facts("tube_od", "liquid line OD", (0.003, 0.1), (0.006, 0.03))] = None
    suction_od: Annotated[Entry | None, Facts("tube_od", "vapour line OD", (0.003, 0.2), (0.006, 0.08))] = None
    allowance: Annotated[Entry | None, Facts("linear_density", "maker's allowance", (0.0, 2.0), (0.005, 0.3), source="plate")] = None


@dataclass(frozen=True)
class PartAdded:
    """A part that changes the charge."""

    label: Annotated[str | None, Facts("text", "part")] = None
    charge: Annotated[Entry | None, Facts("mass", "its charge", (0.0, 50.0), (0.0, 2.0), source="plate", unit_us="oz", unit_si="g")] = None
    removes: Annotated[bool | None, Facts("yesno", "takes charge away")] = None


@dataclass(frozen=True)
class Plate:
    """The data plate, the lines and the site as they matter for the charge. The circuit owns one; a job copies it."""

    refrigerant: Annotated[str | None, Facts("text", "refrigerant", max_length=40)] = None
    factory_charge: Annotated[
        Entry | None, Facts("mass", "factory charge", (0.005, 2000.0), (0.05, 60.0), source="plate", unit_us="lb")
    ] = None
    factory_charge_other: Annotated[Entry | None, Facts("mass", "other figure on it", (0.005, 2000.0), source="plate", unit_us="oz")] = None
    charge_told: Annotated[
        Entry | None, Facts("mass", "told, or from a note", (0.005, 2000.0), (0.05, 60.0), source="told", unit_us="lb")
    ] = None
    included_length: Annotated[Entry | None, Facts("length", "charge covers", (0.0, 100.0), (0.0, 30.0), source="plate")] = None
    kind: Annotated[Kind | None, Facts("choice", "kind of system", options=KINDS)] = None
    metering: Annotated[Metering | None, Facts("choice", "metering device", options=METERING)] = None
    orifice: Annotated[str | None, Facts("text", "orifice size", max_length=40)] = None
    subcooling_target: Annotated[
        Entry | None,
        Facts("temperature_delta", "subcooling target", (0.0, 30.0), (2.0, 12.0), source="plate"),
    ] = None
    tolerance: Annotated[Entry | None, Facts("mass", "charge tolerance ±", (0.0001, 5.0), source="plate", unit_us="oz", unit_si="g")] = None
    oil: Annotated[str | None, Facts("text", "oil", max_length=60)] = None
    design_high: Annotated[Entry | None, Facts("gauge_pressure", "design, high side", (0.0, 2e7), (500e3, 5e6), source="plate")] = None
    design_low: Annotated[Entry | None, Facts("gauge_pressure", "design, low side", (0.0, 2e7), (300e3, 4e6), source="plate")] = None
    serial: Annotated[str | None, Facts("text", "serial", max_length=80)] = None
    circuit: Annotated[str | None, Facts("text", "circuit", max_length=40)] = None
    altitude: Annotated[Entry | None, Facts("altitude", "site altitude", (-450.0, 6000.0), (-100.0, 4500.0), unit_us="m")] = None
    gauge_reference: Annotated[GaugeReference | None, Facts("choice", "gauges", options=GAUGES)] = None
    listed: Annotated[bool | None, Facts("yesno", "equipment listed for it")] = None
    pairing_proven: Annotated[bool | None, Facts("yesno", "pairing of units proven")] = None
    pairing_by: Annotated[PairingBy | None, Facts("choice", "proven by", options=PAIRINGS)] = None
    circuit_known: Annotated[bool | None, Facts("yesno", "which circuit this is, is known")] = None
    other_charge: Annotated[Entry | None, Facts("mass", "the other circuit's charge", (0.005, 2000.0), (0.05, 60.0), source="plate")] = None
    indoor_units: Annotated[Entry | None, Facts("number", "indoor units", (0.0, 200.0), (1.0, 64.0), source="plate")] = None
    indoor_allowance: Annotated[
        Entry | None, Facts("mass", "charge for each, by the maker", (0.0, 50.0), (0.0, 5.0), source="plate", unit_us="kg")
    ] = None
    branch_boxes: Annotated[Entry | None, Facts("number", "branch boxes", (0.0, 100.0), (0.0, 20.0), source="plate")] = None
    branch_allowance: Annotated[
        Entry | None, Facts("mass", "charge for each box, by the maker", (0.0, 50.0), (0.0, 5.0), source="plate", unit_us="kg")
    ] = None
    floods: Annotated[bool | None, Facts("yesno", "the condenser floods in winter")] = None
    flooding_charge: Annotated[
        Entry | None, Facts("mass", "winter flooding charge", (0.0, 500.0), (0.0, 60.0), source="plate", unit_us="lb")
    ] = None
    condenser_volume: Annotated[Entry | None, Facts("volume", "volume of the condenser", (1e-5, 5.0), (1e-3, 0.5), source="plate")] = None
    room_area: Annotated[Entry | None, Facts("floor_area", "smallest room, floor", (0.5, 1e5), (4.0, 2000.0), source="measured")] = None
    room_volume: Annotated[Entry | None, Facts("room_volume", "smallest room, volume", (1.0, 1e6), (10.0, 8000.0), source="measured")] = (
        None
    )
    mounting: Annotated[Mounting | None, Facts("choice", "indoor unit hangs", options=MOUNTINGS)] = None
    lines: Annotated[Mapping[str, LineSet], Facts("record", "line sets")] = field(default_factory=dict)
    parts: Annotated[Mapping[str, PartAdded], Facts("record", "parts")] = field(default_factory=dict)


CONTENTS = {"new": "new refrigerant", "recovered": "recovered from this owner"}


@dataclass(frozen=True)
class Draw:
    """One cylinder or can on the scale: readings before and after, and what stays in it."""

    cylinder: Annotated[str | None, Facts("text", "cylinder", max_length=60)] = None
    holds: Annotated[str | None, Facts("text", "refrigerant in it, by the book", max_length=40)] = None
    gross_start: Annotated[Entry | None, Facts("mass", "scale reads now, gross", (0.0, 5000.0), (0.2, 120.0), source="weighed")] = None
    book_gross: Annotated[Entry | None, Facts("mass", "gross by the book", (0.0, 5000.0), source="note")] = None
    tare: Annotated[Entry | None, Facts("mass", "tare", (0.0, 2000.0), (0.1, 40.0), source="plate")] = None
    water_capacity: Annotated[Entry | None, Facts("mass", "water capacity", (0.1, 2000.0), (0.3, 120.0), source="plate")] = None
    hose_loss: Annotated[
        Entry | None, Facts("mass", "lost in the hose", (0.0, 2.0), (0.0, 0.15), source="assumed", unit_us="oz", unit_si="g")
    ] = None
    contents: Annotated[Literal["new", "recovered"] | None, Facts("choice", "it holds", options=CONTENTS)] = None
    label_net: Annotated[
        Entry | None, Facts("mass", "net on its label", (0.01, 100.0), (0.1, 30.0), source="plate", unit_us="oz", unit_si="g")
    ] = None
    residue: Annotated[Entry | None, Facts("mass", "stays in it", (0.0, 50.0), (0.0, 3.0), source="assumed", unit_us="oz", unit_si="g")] = (
        None
    )
    gross_end: Annotated[Entry | None, Facts("mass", "scale reads after", (0.0, 5000.0), (0.1, 120.0), source="weighed")] = None


SYSTEM_STATES = {
    "empty": "empty: recovered and evacuated",
    "precharged": "new and precharged by its maker",
    "holding": "holds a weighed charge",
}


@dataclass(frozen=True)
class WeighInSheet:
    """What is inside, and what goes in from which cylinder."""

    system_state: Annotated[Literal["empty", "precharged", "holding"] | None, Facts("choice", "the system now", options=SYSTEM_STATES)] = (
        None
    )
    inside: Annotated[Entry | None, Facts("mass", "already inside", (0.0, 2000.0), source="weighed")] = None
    scale_step: Annotated[Entry | None, Facts("mass", "scale reads in steps of", (0.00005, 2.0), unit_us="oz", unit_si="g")] = None
    volume: Annotated[Entry | None, Facts("volume", "volume of the system", (1e-5, 20.0), (2e-4, 5.0), source="assumed")] = None
    system_temperature: Annotated[
        Entry | None, Facts("temperature", "coldest part of the system", (223.15, 343.15), (250.0, 325.0), source="measured")
    ] = None
    cylinder_temperature: Annotated[Entry | None, Facts("temperature", "cylinder", (223.15, 325.15), (255.0, 322.0), source="measured")] = (
        None
    )
    water_safe: Annotated[bool | None, Facts("yesno", "water flows, or the tubes are drained")] = None
    draws: Annotated[Mapping[str, Draw], Facts("record", "cylinders")] = field(default_factory=dict)


@dataclass(frozen=True)
class VerifyReading:
    """The running unit at one moment, and what was added or taken just before: typed, or by the cylinder's weight before and after."""

    changed_at: Annotated[datetime | None, Facts("moment", "added or taken at")] = None
    cylinder: Annotated[str | None, Facts("text", "from or into cylinder", max_length=40)] = None
    holds: Annotated[str | None, Facts("text", "refrigerant in it, by the book", max_length=40)] = None
    gross_before: Annotated[Entry | None, Facts("mass", "scale before it, gross", (0.0, 5000.0), (0.2, 120.0), source="weighed")] = None
    gross_after: Annotated[Entry | None, Facts("mass", "scale after it, gross", (0.0, 5000.0), (0.2, 120.0), source="weighed")] = None
    added: Annotated[
        Entry | None, Facts("mass", "added before it", (0.0, 100.0), (0.0, 1.0), source="weighed", unit_us="oz", unit_si="g")
    ] = None
    removed: Annotated[
        Entry | None, Facts("mass", "taken out before it", (0.0, 100.0), (0.0, 1.0), source="weighed", unit_us="oz", unit_si="g")
    ] = None
    at: Annotated[datetime | None, Facts("moment", "read at")] = None
    suction_pressure: Annotated[
        Entry | None, Facts("gauge_pressure", "suction pressure", (-101325.0, 6e6), (-90e3, 450 * PSI_PA), source="measured")
    ] = None
    suction_line: Annotated[Entry | None, Facts("temperature", "suction line", (203.15, 373.15), (233.15, 313.15), source="measured")] = (
        None
    )
    liquid_pressure: Annotated[
        Entry | None, Facts("gauge_pressure", "liquid pressure", (-101325.0, 8e6), (0.0, 650 * PSI_PA), source="measured")
    ] = None
    liquid_line: Annotated[Entry | None, Facts("temperature", "liquid line", (203.15, 373.15), (263.15, 338.15), source="measured")] = None
    return_air: Annotated[Entry | None, Facts("temperature", "return air", (203.15, 343.15), (250.0, 318.15), source="measured")] = None
    return_wet_bulb: Annotated[
        Entry | None, Facts("temperature", "return wet bulb", (243.15, 323.15), (277.15, 303.15), source="measured")
    ] = None
    outdoor: Annotated[Entry | None, Facts("temperature", "outdoor air", (223.15, 333.15), (250.0, 323.15), source="measured")] = None
    box: Annotated[Entry | None, Facts("temperature", "box", (203.15, 323.15), (233.15, 293.15), source="measured")] = None
    supply: Annotated[Entry | None, Facts("temperature", "vent or supply air", (253.15, 343.15), (273.15, 323.15), source="measured")] = (
        None
    )
    amps: Annotated[Entry | None, Facts("current", "compressor draws", (0.0, 2000.0), (0.3, 300.0), source="measured")] = None
    humidity: Annotated[Entry | None, Facts("fraction", "outdoor humidity", (0.0, 1.0), (0.05, 1.0), source="measured")] = None
    chilled_out: Annotated[
        Entry | None, Facts("temperature", "chilled water, leaving", (253.15, 323.15), (273.15, 295.0), source="measured")
    ] = None
    condenser_out: Annotated[
        Entry | None, Facts("temperature", "condenser water, leaving", (273.15, 343.15), (285.0, 325.0), source="measured")
    ] = None


@dataclass(frozen=True)
class VerifySheet:
    """Conditions that must be right before readings speak, and the readings."""

    mode: Annotated[Literal["cooling", "heating"] | None, Facts("choice", "running in", options=MODES)] = None
    started_at: Annotated[datetime | None, Facts("moment", "started at")] = None
    run_in: Annotated[Entry | None, Facts("duration", "has run for", (0.0, 1e6), (0.0, 86400.0))] = None
    filter_ok: Annotated[bool | None, Facts("yesno", "air filter clean")] = None
    coils_ok: Annotated[bool | None, Facts("yesno", "coils clean, fans running")] = None
    doors_ok: Annotated[bool | None, Facts("yesno", "doors shut, vents open")] = None
    load_ok: Annotated[bool | None, Facts("yesno", "at its usual load")] = None
    both_modes: Annotated[bool | None, Facts("yesno", "run in its other mode too")] = None
    sight_glass: Annotated[Glass | None, Facts("choice", "sight glass", options=GLASS)] = None
    receiver_level: Annotated[Entry | None, Facts("fraction", "receiver, pumped down", (0.0, 1.0), (0.05, 1.0), source="measured")] = None
    chart_superheat: Annotated[
        Entry | None,
        Facts("temperature_delta", "target from the unit's own chart", (0.0, 40 * FAHRENHEIT_K + 10), source="plate"),
    ] = None
    readings: Annotated[Mapping[str, VerifyReading], Facts("record", "readings")] = field(default_factory=dict)
    other_mode: Annotated[Mapping[str, VerifyReading], Facts("record", "readings in the other mode")] = field(default_factory=dict)
    checks: Annotated[Mapping[str, CheckResult], Facts("record", "checks")] = field(default_factory=dict)


@dataclass(frozen=True)
class CloseOutSheet:
    """How the job ends."""

    outcome: Annotated[Outcome | None, Facts("choice", "the job closes as", options=OUTCOMES)] = None
    reason: Annotated[str | None, Facts("text", "reason", max_length=500)] = None
    label_fixed: Annotated[bool | None, Facts("yesno", "label fixed to the unit")] = None
    update_circuit: Annotated[bool | None, Facts("yesno", "the circuit's record takes this plate")] = None
    customer: Annotated[str | None, Facts("text", "for the customer", max_length=120)] = None
    note: Annotated[str | None, Facts("text", "note", max_length=1000)] = None


@dataclass(frozen=True)
class Circuit:
    """The circuit as copied for this job; `revision` is the circuit's own at that time."""

    id: str = ""
    name: str = ""
    system: str = ""
    site: str = ""
    revision: int = 0
    plate: Plate = field(default_factory=Plate)


@dataclass(frozen=True)
class Visit:
    """One visit; an outcome ends it, with what is awaited and the day to come back."""

    id: str
    started_at: datetime
    people: tuple[str, ...] = ()
    ended_at: datetime | None = None
    outcome: VisitOutcome | None = None
    reason: str = ""
    awaited: str = ""
    return_on: str = ""


@dataclass(frozen=True)
class Fact:
    """Something known from outside the job, copied in with its time and source."""

    kind: str
    key: str
    as_of: datetime
    source: str
    values: Mapping[str, Any] = field(default_factory=dict)


@dataclass(frozen=True)
class Run:
    """One go at a step; `sheet` has the type of its step. `answers` settle questions by id."""

    sheet: Any
    visit: str = ""
    started_at: datetime | None = None
    ended_at: datetime | None = None
    answers: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True)
class StepEvent:
    """A step closed, reopened or declared not applicable; `shown` is the result as seen at closing, never read back."""

    kind: Literal["closed", "reopened", "not_applicable"]
    at: datetime
    by: str
    reason: str = ""
    inputs_hash: str = ""
    profile: Profile | None = None
    core_version: str = ""
    shown: Any = None


@dataclass(frozen=True)
class StepRecord:
    """All runs and events of one step, oldest first."""

    runs: tuple[Run, ...] = ()
    events: tuple[StepEvent, ...] = ()


@dataclass(frozen=True)
class Posting:
    """A ledger line: a movement, or the reversal of one with the same key."""

    kind: Literal["movement", "reversal"]
    movement: Movement
    at: datetime
    by: str = ""


@dataclass(frozen=True)
class ProfileEvent:
    """The profile revision this job is judged by from `at` on; a switch needs a reason."""

    profile: Profile
    at: datetime
    by: str = ""
    reason: str = ""


@dataclass(frozen=True)
class Dispute:
    """A second value for one field, kept until a person chooses."""

    path: str
    value: Any
    by: str
    at: datetime


JobKind = Literal["service", "charge", "quick", "retrofit"]


@dataclass(frozen=True)
class Job:
    """One job on one circuit."""

    id: str
    kind: JobKind = "charge"
    title: str = ""
    circuit: Circuit = field(default_factory=Circuit)
    visits: tuple[Visit, ...] = ()
    facts: tuple[Fact, ...] = ()
    steps: Mapping[str, StepRecord] = field(default_factory=dict)
    ledger: tuple[Posting, ...] = ()
    profile_events: tuple[ProfileEvent, ...] = ()
    disputes: tuple[Dispute, ...] = ()


SHEETS: dict[str, type] = {
    "identify": Plate,
    "as_found": AsFoundSheet,
    "plan_change": PlanChangeSheet,
    "leak_search": LeakSearchSheet,
    "recover": RecoverSheet,
    "repair": RepairSheet,
    "change_over": ChangeOverSheet,
    "pressure_hold": HoldSheet,
    "evacuate": EvacuateSheet,
    "weigh_in": WeighInSheet,
    "verify": VerifySheet,
    "close_out": CloseOutSheet,
}
