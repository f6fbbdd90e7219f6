"""Oil, seals, metering and controls for another refrigerant."""

from collections.abc import Mapping
from dataclasses import field
from typing import Annotated, Literal

from yoshi_core.document.sheets import Entry, Facts
from yoshi_core.frozen import dataclass
from yoshi_core.units.quantities import PSI_PA

VALVE_DONE = {
    "set": "its superheat set again",
    "orifice": "another orifice or cartridge in it",
    "replaced": "another valve or device",
    "kept": "stays as it was",
}
CONTROLS = {
    "low_cut_out": "low cut-out",
    "low_cut_in": "low cut-in",
    "evaporator": "evaporator pressure valve",
    "high_cut_out": "high cut-out",
    "high_cut_in": "high cut-in",
    "fan_on": "condenser fan on",
    "fan_off": "condenser fan off",
    "head": "head pressure valve",
}
ValveDone = Literal["set", "orifice", "replaced", "kept"]
ControlKind = Literal["low_cut_out", "low_cut_in", "evaporator", "high_cut_out", "high_cut_in", "fan_on", "fan_off", "head"]


@dataclass(frozen=True)
class OilChange:
    """One change of the oil: what was drained and filled, and what a refractometer then said is left of the old."""

    drained: Annotated[Entry | None, Facts("oil_volume", "drained", (0.0, 0.5), (0.0, 0.02), source="measured")] = None
    filled: Annotated[Entry | None, Facts("oil_volume", "filled", (0.0, 0.5), (0.0, 0.02), source="measured")] = None
    mixed: Annotated[bool | None, Facts("yesno", "ran and mixed first")] = None
    refractometer: Annotated[Entry | None, Facts("fraction", "old oil left, refractometer", (0.0, 1.0), source="measured")] = None


@dataclass(frozen=True)
class Control:
    """A pressure control: what it stood at for the old refrigerant, and what it is set to now."""

    kind: Annotated[ControlKind | None, Facts("choice", "control", options=CONTROLS)] = None
    was: Annotated[Entry | None, Facts("gauge_pressure", "was set at", (-101325.0, 8e6), (-90e3, 600 * PSI_PA), source="note")] = None
    set_to: Annotated[Entry | None, Facts("gauge_pressure", "now set to", (-101325.0, 8e6), (-90e3, 600 * PSI_PA), source="measured")] = (
        None
    )


@dataclass(frozen=True)
class ChangeOverSheet:
    """What a change of refrigerant changes in the system: oil, seals, metering, controls, and the tag until it is charged."""

    oil_system: Annotated[Entry | None, Facts("oil_volume", "oil in the whole system", (1e-5, 0.5), (1e-4, 0.05), source="plate")] = None
    oil_grade: Annotated[str | None, Facts("text", "oil that goes in", max_length=60)] = None
    oil_changes: Annotated[Mapping[str, OilChange], Facts("record", "oil changes")] = field(default_factory=dict)
    seals: Annotated[bool | None, Facts("yesno", "new seals at valves, flanges and glass")] = None
    valve: Annotated[ValveDone | None, Facts("choice", "metering device", options=VALVE_DONE)] = None
    orifice: Annotated[str | None, Facts("text", "orifice fitted", max_length=40)] = None
    no_controls: Annotated[bool | None, Facts("yesno", "nothing on it works by pressure")] = None
    controls: Annotated[Mapping[str, Control], Facts("record", "controls")] = field(default_factory=dict)
    tagged: Annotated[bool | None, Facts("yesno", "old plate crossed out and tagged")] = None
