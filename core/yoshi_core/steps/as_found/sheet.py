"""What is read of the unit as found."""

from collections.abc import Mapping
from dataclasses import field
from typing import Annotated, Literal

from yoshi_core.document.sheets import Entry, Facts
from yoshi_core.frozen import dataclass
from yoshi_core.units.quantities import PSI_PA

MODES = {"cooling": "cooling", "heating": "heating"}
RUNNING = {
    "settled": "running steady",
    "just_started": "just started",
    "cycling": "short cycling",
    "off": "does not run",
}
CYCLES_ON = {
    "low": "its low-pressure control",
    "high": "its high-pressure control",
    "thermostat": "its thermostat or a timer",
    "unknown": "not known",
}
GLASS = {"clear": "clear", "bubbles": "bubbles", "empty": "no liquid seen", "none": "there is none"}
Mode = Literal["cooling", "heating"]
Running = Literal["settled", "just_started", "cycling", "off"]
CyclesOn = Literal["low", "high", "thermostat", "unknown"]
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
        Entry | None, Facts("temperature", "coldest part of the system", (203.15, 343.15), (243.15, 323.15), source="measured")
    ] = None
    volume: Annotated[Entry | None, Facts("volume", "volume of the system", (1e-5, 20.0), (2e-4, 5.0), source="assumed")] = None
    running: Annotated[Running | None, Facts("choice", "is it running", options=RUNNING)] = None
    cycles_on: Annotated[CyclesOn | None, Facts("choice", "what shuts it off", options=CYCLES_ON)] = None
    run_time: Annotated[Entry | None, Facts("duration", "running for", (0.0, 1e6), (0.0, 86400.0))] = None
    mode: Annotated[Mode | None, Facts("choice", "mode", options=MODES)] = None
    inverter: Annotated[bool | None, Facts("yesno", "inverter is changing speed")] = None
    iced: Annotated[bool | None, Facts("yesno", "a coil is iced up")] = None
    suction_pressure: Annotated[
        Entry | None, Facts("gauge_pressure", "suction or vapour port", (-101325.0, 8e6), (0.0, 500 * PSI_PA), source="measured")
    ] = None
    suction_swing: Annotated[
        Entry | None, Facts("gauge_pressure", "swings up to", (-101325.0, 8e6), (0.0, 250 * PSI_PA), source="measured")
    ] = None
    true_suction: Annotated[
        Entry | None, Facts("gauge_pressure", "true suction, at the compressor", (-101325.0, 8e6), (0.0, 250 * PSI_PA), source="measured")
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
    box: Annotated[Entry | None, Facts("temperature", "box or leaving fluid", (203.15, 323.15), (238.15, 300.0), source="measured")] = None
    amps: Annotated[Entry | None, Facts("current", "compressor amps", (0.0, 2000.0), (0.3, 300.0), source="measured")] = None
    rated_amps: Annotated[Entry | None, Facts("current", "rated amps", (0.05, 2000.0), (0.3, 300.0), source="plate")] = None
    sight_glass: Annotated[Glass | None, Facts("choice", "sight glass", options=GLASS)] = None
    history: Annotated[str | None, Facts("text", "earlier visits, as told to you", max_length=500)] = None
    checks: Annotated[Mapping[str, CheckResult], Facts("record", "checks")] = field(default_factory=dict)
