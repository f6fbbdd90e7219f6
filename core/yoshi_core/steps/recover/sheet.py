"""What comes out, into which cylinder, and what becomes of it."""

from collections.abc import Mapping
from dataclasses import field
from typing import Annotated, Literal

from yoshi_core.document.sheets import Entry, Facts
from yoshi_core.frozen import dataclass
from yoshi_core.steps.leak_search.sheet import Decision
from yoshi_core.units.quantities import PSI_PA

WAYS = {"cylinder": "into a cylinder", "pump_down": "pumped down into the condenser", "handed": "by another firm, on its sheet"}
RECEIVED = {
    "evacuated": "evacuated, nothing in it",
    "same": "the same refrigerant",
    "other": "something else, or not known",
    "one_way": "it is one-way, not made to be refilled",
}
ACID = {"clean": "clean", "acid": "acid", "not_tested": "not tested"}
USES = {"reuse": "back into this system", "new": "new charge; this goes for reclaim", "other_circuit": "part of it to another circuit"}
Way = Literal["cylinder", "pump_down", "handed"]
Received = Literal["evacuated", "same", "other", "one_way"]
Acid = Literal["clean", "acid", "not_tested"]
Use = Literal["reuse", "new", "other_circuit"]


@dataclass(frozen=True)
class RecoveryCylinder:
    """A cylinder on the scale under recovery."""

    cylinder: Annotated[str | None, Facts("text", "cylinder", max_length=60)] = None
    contents: Annotated[Received | None, Facts("choice", "what was in it", options=RECEIVED)] = None
    tare: Annotated[Entry | None, Facts("mass", "tare", (0.0, 2000.0), (0.1, 160.0), source="plate")] = None
    water_capacity: Annotated[Entry | None, Facts("mass", "water capacity", (0.1, 2000.0), (0.3, 120.0), source="plate")] = None
    retest: Annotated[str | None, Facts("text", "retest due, year-month", max_length=10)] = None
    gross_start: Annotated[Entry | None, Facts("mass", "scale reads before", (0.0, 5000.0), (0.2, 150.0), source="weighed")] = None
    gross_now: Annotated[Entry | None, Facts("mass", "scale reads now", (0.0, 5000.0), (0.2, 700.0), source="weighed")] = None


@dataclass(frozen=True)
class RecoverSheet:
    """How the charge comes out, what the scale says, and where it goes."""

    way: Annotated[Way | None, Facts("choice", "how it comes out", options=WAYS)] = None
    fan_on: Annotated[bool | None, Facts("yesno", "indoor fan on, or water flowing")] = None
    valves_open: Annotated[bool | None, Facts("yesno", "all valves open, service mode set")] = None
    compressor_runs: Annotated[bool | None, Facts("yesno", "the compressor runs")] = None
    oily: Annotated[bool | None, Facts("yesno", "oily, or not known what is in it")] = None
    cylinders: Annotated[Mapping[str, RecoveryCylinder], Facts("record", "cylinders")] = field(default_factory=dict)
    told: Annotated[Entry | None, Facts("mass", "weight somebody told you", (0.0, 2000.0), source="told")] = None
    firm: Annotated[str | None, Facts("text", "which firm", max_length=60)] = None
    finished: Annotated[bool | None, Facts("yesno", "recovery is finished")] = None
    end_pressure: Annotated[
        Entry | None, Facts("gauge_pressure", "pressure at the end", (-101325.0, 8e6), (-101325.0, 50 * PSI_PA), source="measured")
    ] = None
    waited: Annotated[Entry | None, Facts("duration", "waited", (0.0, 1e6), (0.0, 14400.0))] = None
    risen_to: Annotated[
        Entry | None, Facts("gauge_pressure", "pressure after the wait", (-101325.0, 8e6), (-101325.0, 100 * PSI_PA), source="measured")
    ] = None
    frost: Annotated[bool | None, Facts("yesno", "frost on accumulator or lines")] = None
    residue: Annotated[Entry | None, Facts("mass", "left in hoses and machine", (0.0, 5.0), (0.0, 1.0), source="assumed", unit_us="oz")] = (
        None
    )
    low_breach: Annotated[bool | None, Facts("yesno", "low side is open or leaking")] = None
    small_condenser: Annotated[bool | None, Facts("yesno", "microchannel coil or long lines")] = None
    into_vacuum: Annotated[bool | None, Facts("yesno", "scroll that could pull a vacuum")] = None
    shut_at: Annotated[
        Entry | None, Facts("gauge_pressure", "suction valve shut at", (-101325.0, 2e6), (-20 * PSI_PA, 20 * PSI_PA), source="measured")
    ] = None
    burnout: Annotated[bool | None, Facts("yesno", "the compressor burnt out")] = None
    burnout_unknown: Annotated[bool | None, Facts("yesno", "nobody knows whether it burnt out")] = None
    acid: Annotated[Acid | None, Facts("choice", "acid test", options=ACID)] = None
    same_owner: Annotated[bool | None, Facts("yesno", "stays with its owner")] = None
    use: Annotated[Use | None, Facts("choice", "what happens to it", options=USES)] = None
    to_circuit: Annotated[str | None, Facts("text", "to which circuit", max_length=60)] = None
    to_circuit_mass: Annotated[Entry | None, Facts("mass", "how much, weighed", (0.0, 2000.0), source="weighed")] = None
    decisions: Annotated[Mapping[str, Decision], Facts("record", "decisions")] = field(default_factory=dict)

    @property
    def others_show_it(self) -> bool:
        """Whether another firm's sheet says all that shows a circuit emptied: who, that it was over, down to what, and what it read after a wait."""
        return bool(self.firm and self.finished) and None not in (self.end_pressure, self.waited, self.risen_to)
