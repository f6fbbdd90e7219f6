"""Sheets of the first half of a job: as found, leak search, recover."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Annotated, Literal

from yoshi_core.document.sheets import Entry, Facts
from yoshi_core.units.quantities import PSI_PA

MODES = {"cooling": "cooling", "heating": "heating"}
RUNNING = {
    "settled": "settled",
    "just_started": "just started",
    "cycling": "short cycling",
    "off": "does not run",
}
GLASS = {"clear": "clear", "bubbles": "bubbles", "empty": "no liquid seen", "none": "there is none"}

Mode = Literal["cooling", "heating"]
Running = Literal["settled", "just_started", "cycling", "off"]
Glass = Literal["clear", "bubbles", "empty", "none"]


@dataclass(frozen=True)
class CheckResult:
    """What a cheap check showed."""

    result: Annotated[str | None, Facts("text", "result", max_length=30)] = None
    note: Annotated[str | None, Facts("text", "what was seen", max_length=200)] = None


@dataclass(frozen=True)
class AsFoundSheet:
    """What the unit says before anyone touches it, in the order it is read."""

    standing_pressure: Annotated[
        Entry | None, Facts("gauge_pressure", "standing pressure", (-101325.0, 8e6), (0.0, 500 * PSI_PA), source="measured")
    ] = None
    standing_cold: Annotated[
        Entry | None, Facts("temperature", "coldest part then", (203.15, 343.15), (243.15, 323.15), source="measured")
    ] = None
    volume: Annotated[Entry | None, Facts("volume", "volume of the system", (1e-5, 20.0), (2e-4, 5.0), source="assumed")] = None
    running: Annotated[Running | None, Facts("choice", "it runs", options=RUNNING)] = None
    run_time: Annotated[Entry | None, Facts("duration", "has run for", (0.0, 1e6), (0.0, 86400.0))] = None
    mode: Annotated[Mode | None, Facts("choice", "running in", options=MODES)] = None
    inverter: Annotated[bool | None, Facts("yesno", "changes its own speed now")] = None
    iced: Annotated[bool | None, Facts("yesno", "a coil is iced")] = None
    suction_pressure: Annotated[
        Entry | None, Facts("gauge_pressure", "suction or vapour port", (-101325.0, 8e6), (0.0, 500 * PSI_PA), source="measured")
    ] = None
    suction_swing: Annotated[
        Entry | None, Facts("gauge_pressure", "and up to, if it swings", (-101325.0, 8e6), (0.0, 250 * PSI_PA), source="measured")
    ] = None
    suction_line: Annotated[Entry | None, Facts("temperature", "suction line", (203.15, 423.15), (233.15, 383.15), source="measured")] = (
        None
    )
    liquid_pressure: Annotated[
        Entry | None, Facts("gauge_pressure", "liquid pressure", (-101325.0, 8e6), (30 * PSI_PA, 650 * PSI_PA), source="measured")
    ] = None
    liquid_line: Annotated[Entry | None, Facts("temperature", "liquid line", (203.15, 373.15), (263.15, 338.15), source="measured")] = None
    return_air: Annotated[
        Entry | None, Facts("temperature", "return or room air", (203.15, 343.15), (250.0, 318.15), source="measured")
    ] = None
    return_wet_bulb: Annotated[
        Entry | None, Facts("temperature", "return wet bulb", (243.15, 323.15), (277.15, 303.15), source="measured")
    ] = None
    supply: Annotated[Entry | None, Facts("temperature", "supply air", (203.15, 343.15), (263.15, 328.15), source="measured")] = None
    outdoor: Annotated[
        Entry | None, Facts("temperature", "air over the condenser", (223.15, 343.15), (250.0, 323.15), source="measured")
    ] = None
    box: Annotated[Entry | None, Facts("temperature", "box, or fluid leaving", (203.15, 323.15), (238.15, 300.0), source="measured")] = None
    amps: Annotated[Entry | None, Facts("current", "compressor draws", (0.0, 2000.0), (0.3, 300.0), source="measured")] = None
    rated_amps: Annotated[Entry | None, Facts("current", "rated", (0.05, 2000.0), (0.3, 300.0), source="plate")] = None
    sight_glass: Annotated[Glass | None, Facts("choice", "sight glass", options=GLASS)] = None
    history: Annotated[str | None, Facts("text", "earlier visits, as told", max_length=500)] = None
    checks: Annotated[Mapping[str, CheckResult], Facts("record", "checks")] = field(default_factory=dict)


RESULTS = {"clean": "clean", "hit": "leak here", "unsure": "not sure"}
REACHES = {"open": "reachable", "closed": "not reachable"}
CONTENTS = {"refrigerant": "refrigerant", "little": "a little refrigerant", "empty": "nothing: empty", "nitrogen": "dry nitrogen"}

Result = Literal["clean", "hit", "unsure"]
Reach = Literal["open", "closed"]
Contents = Literal["refrigerant", "little", "empty", "nitrogen"]


@dataclass(frozen=True)
class PlaceSearched:
    """One place, and what each method showed there. `access` is what it takes to reach it."""

    label: Annotated[str | None, Facts("text", "place", max_length=80)] = None
    reach: Annotated[Reach | None, Facts("choice", "reach", options=REACHES)] = None
    access: Annotated[Entry | None, Facts("duration", "minutes to open it", (0.0, 1e6), (0.0, 28800.0))] = None
    eyes: Annotated[Result | None, Facts("choice", "eyes, for oil", options=RESULTS)] = None
    electronic: Annotated[Result | None, Facts("choice", "electronic", options=RESULTS)] = None
    bubbles: Annotated[Result | None, Facts("choice", "bubbles", options=RESULTS)] = None
    ultrasonic: Annotated[Result | None, Facts("choice", "ultrasonic", options=RESULTS)] = None
    tracer: Annotated[Result | None, Facts("choice", "tracer gas", options=RESULTS)] = None
    isolation: Annotated[Result | None, Facts("choice", "shut off alone", options=RESULTS)] = None
    note: Annotated[str | None, Facts("text", "note", max_length=200)] = None


@dataclass(frozen=True)
class NitrogenDrop:
    """What the pressure did under dry nitrogen, the metal's temperature with it; before or after a repair."""

    after_repair: Annotated[bool | None, Facts("yesno", "after the repair")] = None
    pressure_start: Annotated[Entry | None, Facts("gauge_pressure", "from", (0.0, 8e6), (20 * PSI_PA, 650 * PSI_PA), source="measured")] = (
        None
    )
    pressure_end: Annotated[Entry | None, Facts("gauge_pressure", "to", (0.0, 8e6), (0.0, 650 * PSI_PA), source="measured")] = None
    metal_start: Annotated[Entry | None, Facts("temperature", "metal then", (223.15, 343.15), (250.0, 328.15), source="measured")] = None
    metal_end: Annotated[Entry | None, Facts("temperature", "metal at the end", (223.15, 343.15), (250.0, 328.15), source="measured")] = (
        None
    )
    lasted: Annotated[Entry | None, Facts("duration", "lasted", (1.0, 1e7), (60.0, 864000.0))] = None


@dataclass(frozen=True)
class Decision:
    """What the customer was asked where access or advice costs money, and what was chosen by whom."""

    question: Annotated[str | None, Facts("text", "asked", max_length=200)] = None
    advice: Annotated[str | None, Facts("text", "advised", max_length=200)] = None
    chosen: Annotated[str | None, Facts("text", "chosen", max_length=200)] = None
    by: Annotated[str | None, Facts("text", "by whom", max_length=80)] = None


@dataclass(frozen=True)
class LeakSearchSheet:
    """The map of places with what was tried where, and the loss it has to explain."""

    inside: Annotated[Contents | None, Facts("choice", "in the system now", options=CONTENTS)] = None
    lost: Annotated[Entry | None, Facts("mass", "lost", (0.0, 2000.0), (0.0, 60.0), source="weighed")] = None
    lost_over: Annotated[Entry | None, Facts("duration", "since full, over", (3600.0, 1e9), (86400.0, 3e8), unit_us="d", unit_si="d")] = (
        None
    )
    volume: Annotated[Entry | None, Facts("volume", "volume of the system", (1e-5, 20.0), (2e-4, 5.0), source="assumed")] = None
    places: Annotated[Mapping[str, PlaceSearched], Facts("record", "places")] = field(default_factory=dict)
    drops: Annotated[Mapping[str, NitrogenDrop], Facts("record", "nitrogen")] = field(default_factory=dict)
    decisions: Annotated[Mapping[str, Decision], Facts("record", "decisions")] = field(default_factory=dict)

    @property
    def loss_kg_s(self) -> float | None:
        """What was lost a second since it was full, kg/s; None where weight or time was not entered."""
        return None if self.lost is None or self.lost_over is None else self.lost.value / self.lost_over.value


WAYS = {"cylinder": "into a cylinder", "pump_down": "pumped down into the condenser"}
RECEIVED = {"evacuated": "evacuated, nothing in it", "same": "the same refrigerant", "other": "something else, or not known"}
ACID = {"clean": "clean", "acid": "acid", "not_tested": "not tested"}
USES = {"reuse": "back into this system", "new": "new charge; this goes for reclaim", "other_circuit": "part of it to another circuit"}

Way = Literal["cylinder", "pump_down"]
Received = Literal["evacuated", "same", "other"]
Acid = Literal["clean", "acid", "not_tested"]
Use = Literal["reuse", "new", "other_circuit"]


@dataclass(frozen=True)
class RecoveryCylinder:
    """A cylinder on the scale under recovery."""

    cylinder: Annotated[str | None, Facts("text", "cylinder", max_length=60)] = None
    contents: Annotated[Received | None, Facts("choice", "in it before", options=RECEIVED)] = None
    tare: Annotated[Entry | None, Facts("mass", "tare", (0.0, 2000.0), (0.1, 60.0), source="plate")] = None
    water_capacity: Annotated[Entry | None, Facts("mass", "water capacity", (0.1, 2000.0), (0.3, 120.0), source="plate")] = None
    retest: Annotated[str | None, Facts("text", "retest due, year-month", max_length=10)] = None
    gross_start: Annotated[Entry | None, Facts("mass", "scale reads before", (0.0, 5000.0), (0.2, 150.0), source="weighed")] = None
    gross_now: Annotated[Entry | None, Facts("mass", "scale reads now", (0.0, 5000.0), (0.2, 150.0), source="weighed")] = None


@dataclass(frozen=True)
class RecoverSheet:
    """How the charge comes out, what the scale says, and where it goes."""

    way: Annotated[Way | None, Facts("choice", "recovered", options=WAYS)] = None
    fan_on: Annotated[bool | None, Facts("yesno", "indoor fan on, or water flowing")] = None
    valves_open: Annotated[bool | None, Facts("yesno", "all valves open, service mode set")] = None
    compressor_runs: Annotated[bool | None, Facts("yesno", "the compressor runs")] = None
    oily: Annotated[bool | None, Facts("yesno", "oily, or not known what is in it")] = None
    cylinders: Annotated[Mapping[str, RecoveryCylinder], Facts("record", "cylinders")] = field(default_factory=dict)
    told: Annotated[Entry | None, Facts("mass", "came out, as told", (0.0, 2000.0), source="told")] = None
    finished: Annotated[bool | None, Facts("yesno", "recovery is finished")] = None
    end_pressure: Annotated[
        Entry | None, Facts("gauge_pressure", "pressure at the end", (-101325.0, 8e6), (-101325.0, 50 * PSI_PA), source="measured")
    ] = None
    waited: Annotated[Entry | None, Facts("duration", "then waited", (0.0, 1e6), (0.0, 14400.0))] = None
    risen_to: Annotated[
        Entry | None, Facts("gauge_pressure", "and it reads", (-101325.0, 8e6), (-101325.0, 100 * PSI_PA), source="measured")
    ] = None
    frost: Annotated[bool | None, Facts("yesno", "frost on accumulator or lines")] = None
    residue: Annotated[Entry | None, Facts("mass", "left in hoses and machine", (0.0, 5.0), (0.0, 1.0), source="assumed", unit_us="oz")] = (
        None
    )
    low_breach: Annotated[bool | None, Facts("yesno", "a hole on the low side")] = None
    small_condenser: Annotated[bool | None, Facts("yesno", "microchannel coil or long lines")] = None
    into_vacuum: Annotated[bool | None, Facts("yesno", "a scroll that would pull a vacuum")] = None
    shut_at: Annotated[
        Entry | None, Facts("gauge_pressure", "suction shut at", (-101325.0, 2e6), (-20 * PSI_PA, 20 * PSI_PA), source="measured")
    ] = None
    burnout: Annotated[bool | None, Facts("yesno", "the compressor burnt out")] = None
    acid: Annotated[Acid | None, Facts("choice", "acid test", options=ACID)] = None
    same_owner: Annotated[bool | None, Facts("yesno", "stays with the same owner")] = None
    use: Annotated[Use | None, Facts("choice", "what becomes of it", options=USES)] = None
    to_circuit: Annotated[str | None, Facts("text", "to circuit", max_length=60)] = None
    to_circuit_mass: Annotated[Entry | None, Facts("mass", "of it, weighed", (0.0, 2000.0), source="weighed")] = None
    decisions: Annotated[Mapping[str, Decision], Facts("record", "decisions")] = field(default_factory=dict)
