"""The running unit: conditions, readings, steps of charge."""

from collections.abc import Mapping
from dataclasses import field
from datetime import datetime
from typing import Annotated, Literal

from yoshi_core.document.sheets import Entry, Facts
from yoshi_core.frozen import dataclass
from yoshi_core.steps.as_found.sheet import GLASS, MODES, CheckResult, Glass
from yoshi_core.units.quantities import FAHRENHEIT_K, PSI_PA


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
    true_suction: Annotated[
        Entry | None, Facts("gauge_pressure", "true suction, in heating", (-101325.0, 6e6), (-90e3, 250 * PSI_PA), source="measured")
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
    amps: Annotated[Entry | None, Facts("current", "compressor amps", (0.0, 2000.0), (0.3, 300.0), source="measured")] = None
    rated_amps: Annotated[Entry | None, Facts("current", "rated amps", (0.05, 2000.0), (0.3, 300.0), source="plate")] = None
    humidity: Annotated[Entry | None, Facts("fraction", "outdoor humidity", (0.0, 1.0), (0.05, 1.0), source="measured")] = None
    chilled_out: Annotated[
        Entry | None, Facts("temperature", "chilled water, leaving", (253.15, 323.15), (273.15, 295.0), source="measured")
    ] = None
    condenser_out: Annotated[
        Entry | None, Facts("temperature", "condenser water, leaving", (273.15, 343.15), (285.0, 325.0), source="measured")
    ] = None
    set_aside: Annotated[str | None, Facts("text", "set aside because", max_length=200)] = None


@dataclass(frozen=True)
class VerifySheet:
    """Conditions that must be right before readings speak, and the readings."""

    mode: Annotated[Literal["cooling", "heating"] | None, Facts("choice", "running in", options=MODES)] = None
    started_at: Annotated[datetime | None, Facts("moment", "started at")] = None
    run_in: Annotated[Entry | None, Facts("duration", "running for", (0.0, 1e6), (0.0, 86400.0))] = None
    filter_ok: Annotated[bool | None, Facts("yesno", "air filter clean")] = None
    coils_ok: Annotated[bool | None, Facts("yesno", "coils clean, fans running")] = None
    doors_ok: Annotated[bool | None, Facts("yesno", "doors shut, vents open")] = None
    load_ok: Annotated[bool | None, Facts("yesno", "at normal load")] = None
    both_modes: Annotated[bool | None, Facts("yesno", "run in the other mode too")] = None
    sight_glass: Annotated[Glass | None, Facts("choice", "sight glass", options=GLASS)] = None
    receiver_level: Annotated[Entry | None, Facts("fraction", "receiver, pumped down", (0.0, 1.0), (0.05, 1.0), source="measured")] = None
    chart_superheat: Annotated[
        Entry | None,
        Facts("temperature_delta", "target from the unit's own chart", (0.0, 40 * FAHRENHEIT_K + 10), source="plate"),
    ] = None
    readings: Annotated[Mapping[str, VerifyReading], Facts("record", "readings")] = field(default_factory=dict)
    other_mode: Annotated[Mapping[str, VerifyReading], Facts("record", "readings in the other mode")] = field(default_factory=dict)
    checks: Annotated[Mapping[str, CheckResult], Facts("record", "checks")] = field(default_factory=dict)
