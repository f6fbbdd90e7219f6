"""The pull: set-up, events and readings."""

from collections.abc import Mapping
from dataclasses import field
from datetime import datetime
from typing import Annotated, Literal

from yoshi_core.document.sheets import Entry, Facts
from yoshi_core.frozen import dataclass
from yoshi_core.steps.log_aside import LogAside
from yoshi_core.tight_and_dry.trace import Trace

METHODS = {"single": "one deep pull", "triple": "three pulls, nitrogen between", "sweep": "a short pull, a nitrogen sweep, a deep pull"}
GAUGE_PLACES = {
    "far": "far from the pump, on its own tee",
    "manifold": "on a manifold, the other side shut",
    "pump": "at the pump",
}
EVENTS = {
    "pump": "pump on",
    "ballast_open": "ballast open",
    "ballast_shut": "ballast shut",
    "isolated": "isolated",
    "nitrogen": "broken with nitrogen",
    "sweep": "nitrogen swept through",
    "blown_down": "blown down",
}
Method = Literal["single", "triple", "sweep"]
GaugePlace = Literal["far", "manifold", "pump"]
EventKind = Literal["pump", "ballast_open", "ballast_shut", "isolated", "nitrogen", "sweep", "blown_down"]


@dataclass(frozen=True)
class VacuumEvent:
    """Something done to the system under vacuum, and when."""

    do: Annotated[EventKind | None, Facts("choice", "done", options=EVENTS)] = None
    at: Annotated[datetime | None, Facts("moment", "at")] = None


@dataclass(frozen=True)
class VacuumReading:
    """The micron gauge at one moment; a second gauge elsewhere, where there is one."""

    at: Annotated[datetime | None, Facts("moment", "at")] = None
    vacuum: Annotated[Entry | None, Facts("micron", "gauge", (0.0, 110000.0), (1.0, 101325.0), source="measured")] = None
    second: Annotated[Entry | None, Facts("micron", "second gauge", (0.0, 110000.0), (1.0, 101325.0), source="measured")] = None
    set_aside: Annotated[str | None, Facts("text", "set aside because", max_length=200)] = None


@dataclass(frozen=True)
class EvacuateSheet:
    """How the vacuum is pulled, what was done when, and what the gauge said."""

    method: Annotated[Method | None, Facts("choice", "method", options=METHODS)] = None
    volume: Annotated[Entry | None, Facts("volume", "volume of the system", (1e-5, 20.0), (2e-4, 5.0), source="assumed")] = None
    pump_speed: Annotated[Entry | None, Facts("flow", "pump size", (1e-5, 1.0), (5e-4, 0.02), source="plate")] = None
    hose_bore: Annotated[Entry | None, Facts("tube_od", "hose bore", (0.001, 0.1), (0.004, 0.02), source="plate")] = None
    hose_length: Annotated[Entry | None, Facts("length", "hose length", (0.05, 50.0), (0.3, 5.0))] = None
    two_hoses: Annotated[bool | None, Facts("yesno", "two hoses, one to each side")] = None
    cores_out: Annotated[bool | None, Facts("yesno", "valve cores out")] = None
    valves_open: Annotated[bool | None, Facts("yesno", "valves and solenoids open, energised or by magnet")] = None
    oil_fresh: Annotated[bool | None, Facts("yesno", "pump oil fresh")] = None
    oil_uses: Annotated[Entry | None, Facts("number", "pulls on this oil", (0.0, 1000.0), (0.0, 20.0), source="told")] = None
    gauge_battery: Annotated[Entry | None, Facts("fraction", "gauge battery", (0.0, 1.0), (0.0, 1.0), source="measured")] = None
    place: Annotated[GaugePlace | None, Facts("choice", "where the micron gauge sits", options=GAUGE_PLACES)] = None
    path_proven: Annotated[bool | None, Facts("yesno", "path to the gauge proven open")] = None
    gauge_floor: Annotated[Entry | None, Facts("micron", "lowest the gauge reads", (0.0, 10000.0), (0.1, 200.0), source="plate")] = None
    coldest: Annotated[Entry | None, Facts("temperature", "coldest surface", (223.15, 343.15), (255.0, 320.0), source="measured")] = None
    wet: Annotated[bool | None, Facts("yesno", "stood open long, or water inside")] = None
    refrigerant_out: Annotated[bool | None, Facts("yesno", "refrigerant recovered")] = None
    left_running: Annotated[str | None, Facts("text", "left running alone: who agreed", max_length=120)] = None
    energized: Annotated[bool | None, Facts("yesno", "compressor locked out")] = None
    compound_only: Annotated[bool | None, Facts("yesno", "only a compound gauge, in inches")] = None
    events: Annotated[Mapping[str, VacuumEvent], Facts("record", "done")] = field(default_factory=dict)
    readings: Annotated[Mapping[str, VacuumReading], Facts("record", "readings")] = field(default_factory=dict)
    aside: Annotated[Mapping[str, LogAside], Facts("record", "parts of the log set aside")] = field(default_factory=dict)
    trace: Annotated[Trace | None, Facts("trace", "gauge, logged")] = None
    second_trace: Annotated[Trace | None, Facts("trace", "second gauge, logged")] = None
