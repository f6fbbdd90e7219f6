"""The hold under nitrogen: stamps, fill, readings."""

from collections.abc import Mapping
from dataclasses import field
from datetime import datetime
from typing import Annotated, Literal

from yoshi_core.document.sheets import Entry, Facts
from yoshi_core.frozen import dataclass
from yoshi_core.steps.bottles import BOTTLE_SIZES, BottleSize
from yoshi_core.steps.log_aside import LogAside
from yoshi_core.tight_and_dry.trace import Trace
from yoshi_core.units.quantities import PSI_PA

FED = {"both": "both sides fed", "one_open": "one side, the valve lets it through", "one": "one side only"}
METALS = {"clamp": "a clamp on the pipe", "none": "nothing on the pipe"}
WITHOUT = {"nitrogen": "dry nitrogen", "other": "something else"}
JOINTS = {
    "clean": "clean at every joint made",
    "leaks": "a joint leaks",
    "some": "clean, not every joint reached",
    "unsaid": "done, what they showed is not written down",
    "no": "not done",
}
Fed = Literal["both", "one_open", "one"]
MetalBy = Literal["clamp", "none"]
Gas = Literal["nitrogen", "other"]
Joints = Literal["clean", "leaks", "some", "unsaid", "no"]


@dataclass(frozen=True)
class Stamp:
    """The test or design pressure stamped on something that is connected."""

    label: Annotated[str | None, Facts("text", "part with the stamp", max_length=80)] = None
    pressure: Annotated[Entry | None, Facts("gauge_pressure", "stamped", (1000.0, 2e7), (100 * PSI_PA, 700 * PSI_PA), source="plate")] = (
        None
    )


@dataclass(frozen=True)
class HoldReading:
    """Pressure and metal at one moment of the hold."""

    at: Annotated[datetime | None, Facts("moment", "at")] = None
    pressure: Annotated[Entry | None, Facts("gauge_pressure", "gauge", (0.0, 2e7), (0.0, 650 * PSI_PA), source="measured")] = None
    metal: Annotated[Entry | None, Facts("temperature", "metal", (223.15, 343.15), (250.0, 328.15), source="measured")] = None
    set_aside: Annotated[str | None, Facts("text", "set aside because", max_length=200)] = None


@dataclass(frozen=True)
class HoldSheet:
    """The plan of a pressure hold and its readings."""

    gas: Annotated[Gas | None, Facts("choice", "test gas", options=WITHOUT)] = None
    from_low: Annotated[bool | None, Facts("yesno", "bottle pressure is no higher than the test")] = None
    regulator: Annotated[bool | None, Facts("yesno", "regulator and relief valve on")] = None
    fed: Annotated[Fed | None, Facts("choice", "pressure fed to", options=FED)] = None
    stamps: Annotated[Mapping[str, Stamp], Facts("record", "stamps")] = field(default_factory=dict)
    no_stamp: Annotated[bool | None, Facts("yesno", "no pressure stamp on anything")] = None
    test_pressure: Annotated[Entry | None, Facts("gauge_pressure", "test pressure", (0.0, 2e7), (8 * PSI_PA, 650 * PSI_PA))] = None
    searched_at: Annotated[
        Entry | None, Facts("gauge_pressure", "leak search pressure", (0.0, 2e7), (0.0, 650 * PSI_PA), source="measured")
    ] = None
    volume: Annotated[Entry | None, Facts("volume", "volume of the system", (1e-5, 20.0), (2e-4, 5.0), source="assumed")] = None
    bottle_volume: Annotated[Entry | None, Facts("volume", "nitrogen bottle holds", (1e-4, 0.1), (0.001, 0.05), source="plate")] = None
    bottle_size: Annotated[BottleSize | None, Facts("choice", "or its size", options=BOTTLE_SIZES)] = None
    bottle_pressure: Annotated[Entry | None, Facts("gauge_pressure", "bottle reads", (0.0, 4e7), (0.0, 2.5e7), source="measured")] = None
    metal_by: Annotated[MetalBy | None, Facts("choice", "pipe temperature read by", options=METALS)] = None
    gauge_step: Annotated[
        Entry | None, Facts("gauge_pressure_delta", "smallest step of the gauge", (10.0, 1e5), (100.0, 5 * PSI_PA), source="plate")
    ] = None
    see_leak: Annotated[Entry | None, Facts("mass_rate", "smallest leak to catch", (1e-13, 1e-3))] = None
    bubbles: Annotated[Joints | None, Facts("choice", "bubbles, or a detector on tracer", options=JOINTS)] = None
    filled_at: Annotated[datetime | None, Facts("moment", "filled at")] = None
    let_down_at: Annotated[datetime | None, Facts("moment", "let down at")] = None
    readings: Annotated[Mapping[str, HoldReading], Facts("record", "readings")] = field(default_factory=dict)
    aside: Annotated[Mapping[str, LogAside], Facts("record", "parts of the log set aside")] = field(default_factory=dict)
    pressure_trace: Annotated[Trace | None, Facts("trace", "gauge, logged")] = None
    metal_trace: Annotated[Trace | None, Facts("trace", "pipe, logged")] = None
