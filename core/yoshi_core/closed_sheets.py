"""Sheets of the middle of a job, while it is closed up again: repair, pressure hold, evacuate."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from typing import Annotated, Literal

from yoshi_core.document.sheets import Entry, Facts
from yoshi_core.tight_and_dry.trace import Trace
from yoshi_core.units.quantities import PSI_PA

PARTS = {
    "compressor": "compressor",
    "coil": "coil",
    "metering": "metering device",
    "drier": "filter drier",
    "valve": "service or reversing valve",
    "line": "line or fitting",
    "switch": "switch or sensor",
    "other": "something else",
}
CAUSES = {
    "short": "charge short, or overfed",
    "contamination": "contamination, acid or water",
    "electrical": "electrical",
    "vibration": "rubbing or vibration",
    "corrosion": "corrosion",
    "workmanship": "a joint that was never right",
    "unknown": "not known",
}
JOININGS = {
    "brazed": "brazed",
    "soldered": "soft-soldered, below oxidation",
    "flared": "flared",
    "pressed": "pressed or screwed",
    "none": "nothing was joined",
}
DRIERS = {
    "new": "new one fitted",
    "suction_too": "new, and one in the suction line",
    "none_by_maker": "none: the maker fits none",
    "kept": "the old one stays",
}
BULBS = {"placed": "on a clean straight run, strapped and insulated", "none": "there is none", "loose": "not done yet"}
FLUSHED = {"flushed": "flushed", "replaced": "replaced", "as_they_were": "neither", "own": "always had this refrigerant"}
OIL_OUT = {"measured": "measured", "blown_out": "blown out, not measured", "none": "none came out"}

PartKind = Literal["compressor", "coil", "metering", "drier", "valve", "line", "switch", "other"]
FailedBy = Literal["short", "contamination", "electrical", "vibration", "corrosion", "workmanship", "unknown"]
Joining = Literal["brazed", "soldered", "flared", "pressed", "none"]
Drier = Literal["new", "suction_too", "none_by_maker", "kept"]
Bulb = Literal["placed", "none", "loose"]
Flushed = Literal["flushed", "replaced", "as_they_were", "own"]
OilOut = Literal["measured", "blown_out", "none"]


@dataclass(frozen=True)
class PartReplaced:
    """A part that came out and the one that went in: why it failed, what it adds to charge and oil."""

    label: Annotated[str | None, Facts("text", "part", max_length=80)] = None
    kind: Annotated[PartKind | None, Facts("choice", "kind of part", options=PARTS)] = None
    failed_by: Annotated[FailedBy | None, Facts("choice", "it failed by", options=CAUSES)] = None
    again: Annotated[bool | None, Facts("yesno", "replaced before")] = None
    pressurized: Annotated[bool | None, Facts("yesno", "hissed when opened")] = None
    charge: Annotated[
        Entry | None, Facts("mass", "changes the charge by", (0.0, 50.0), (0.0, 2.0), source="plate", unit_us="oz", unit_si="g")
    ] = None
    removes: Annotated[bool | None, Facts("yesno", "takes charge away")] = None
    oil_needs: Annotated[Entry | None, Facts("oil_volume", "oil it needs", (0.0, 0.1), (0.0, 0.002), source="plate")] = None
    oil_inside: Annotated[Entry | None, Facts("oil_volume", "oil already in it", (0.0, 0.1), (0.0, 0.002), source="plate")] = None


@dataclass(frozen=True)
class PlaceSoonHidden:
    """A place that goes out of reach when the unit is closed up, and whether it was tested first."""

    label: Annotated[str | None, Facts("text", "place", max_length=80)] = None
    tested: Annotated[bool | None, Facts("yesno", "tested before it closes")] = None


@dataclass(frozen=True)
class RepairSheet:
    """What was opened and replaced, how it was joined, and what must be right before it is closed."""

    opened_for: Annotated[Entry | None, Facts("duration", "stood open for", (0.0, 1e8), (0.0, 172800.0))] = None
    water_seen: Annotated[bool | None, Facts("yesno", "water got in, or it burnt out")] = None
    parts: Annotated[Mapping[str, PartReplaced], Facts("record", "parts")] = field(default_factory=dict)
    joining: Annotated[Joining | None, Facts("choice", "joints", options=JOININGS)] = None
    both_open: Annotated[bool | None, Facts("yesno", "both sides open to the air before heat")] = None
    nitrogen_flow: Annotated[bool | None, Facts("yesno", "nitrogen flowed while brazing")] = None
    flow_for: Annotated[Entry | None, Facts("duration", "nitrogen flows for", (0.0, 86400.0), (0.0, 7200.0))] = None
    bottle_volume: Annotated[Entry | None, Facts("volume", "nitrogen bottle holds", (1e-4, 0.1), (0.001, 0.05), source="plate")] = None
    bottle_pressure: Annotated[Entry | None, Facts("gauge_pressure", "bottle reads", (0.0, 4e7), (0.0, 2.5e7), source="measured")] = None
    capillary: Annotated[bool | None, Facts("yesno", "it can only flow through a capillary")] = None
    fire_watch: Annotated[bool | None, Facts("yesno", "extinguisher at hand, fire watch kept")] = None
    drier: Annotated[Drier | None, Facts("choice", "filter drier", options=DRIERS)] = None
    drier_way: Annotated[bool | None, Facts("yesno", "arrow towards the metering device, or bi-flow")] = None
    drier_size: Annotated[bool | None, Facts("yesno", "not smaller than the old one")] = None
    cores: Annotated[bool | None, Facts("yesno", "new valve cores")] = None
    orifice: Annotated[str | None, Facts("text", "orifice fitted", max_length=40)] = None
    bulb: Annotated[Bulb | None, Facts("choice", "valve bulb", options=BULBS)] = None
    lines: Annotated[Flushed | None, Facts("choice", "lines from another refrigerant", options=FLUSHED)] = None
    oil_out: Annotated[OilOut | None, Facts("choice", "oil that came out", options=OIL_OUT)] = None
    oil_removed: Annotated[Entry | None, Facts("oil_volume", "measured", (0.0, 0.5), (0.0, 0.005), source="measured")] = None
    oil_dye: Annotated[Entry | None, Facts("oil_volume", "oil that dye brings", (0.0, 0.01), (0.0, 0.0005), source="plate")] = None
    oil_grade: Annotated[str | None, Facts("text", "grade", max_length=60)] = None
    acid_test: Annotated[bool | None, Facts("yesno", "acid test done")] = None
    hidden: Annotated[Mapping[str, PlaceSoonHidden], Facts("record", "places soon out of reach")] = field(default_factory=dict)


FED = {"both": "both sides fed", "one_open": "one side, the valve lets it through", "one": "one side only"}
METALS = {"clamp": "a clamp on the metal", "none": "nothing on the metal"}
WITHOUT = {"nitrogen": "dry nitrogen", "other": "something else"}

Fed = Literal["both", "one_open", "one"]
MetalBy = Literal["clamp", "none"]
Gas = Literal["nitrogen", "other"]


@dataclass(frozen=True)
class Stamp:
    """The test or design pressure stamped on something that is connected."""

    label: Annotated[str | None, Facts("text", "what carries it", max_length=80)] = None
    pressure: Annotated[Entry | None, Facts("gauge_pressure", "stamped", (1000.0, 2e7), (100 * PSI_PA, 700 * PSI_PA), source="plate")] = (
        None
    )


@dataclass(frozen=True)
class HoldReading:
    """Pressure and metal at one moment of the hold."""

    at: Annotated[datetime | None, Facts("moment", "at")] = None
    pressure: Annotated[Entry | None, Facts("gauge_pressure", "gauge", (0.0, 2e7), (0.0, 650 * PSI_PA), source="measured")] = None
    metal: Annotated[Entry | None, Facts("temperature", "metal", (223.15, 343.15), (250.0, 328.15), source="measured")] = None


@dataclass(frozen=True)
class HoldSheet:
    """The plan of a pressure hold and its readings."""

    gas: Annotated[Gas | None, Facts("choice", "under", options=WITHOUT)] = None
    regulator: Annotated[bool | None, Facts("yesno", "regulator and relief valve on")] = None
    fed: Annotated[Fed | None, Facts("choice", "pressure on", options=FED)] = None
    stamps: Annotated[Mapping[str, Stamp], Facts("record", "stamps")] = field(default_factory=dict)
    test_pressure: Annotated[Entry | None, Facts("gauge_pressure", "test pressure", (0.0, 2e7), (20 * PSI_PA, 650 * PSI_PA))] = None
    searched_at: Annotated[
        Entry | None, Facts("gauge_pressure", "leak was searched at", (0.0, 2e7), (0.0, 650 * PSI_PA), source="measured")
    ] = None
    volume: Annotated[Entry | None, Facts("volume", "volume of the system", (1e-5, 20.0), (2e-4, 5.0), source="assumed")] = None
    bottle_volume: Annotated[Entry | None, Facts("volume", "nitrogen bottle holds", (1e-4, 0.1), (0.001, 0.05), source="plate")] = None
    bottle_pressure: Annotated[Entry | None, Facts("gauge_pressure", "bottle reads", (0.0, 4e7), (0.0, 2.5e7), source="measured")] = None
    metal_by: Annotated[MetalBy | None, Facts("choice", "metal's temperature by", options=METALS)] = None
    gauge_step: Annotated[
        Entry | None, Facts("gauge_pressure_delta", "gauge reads in steps of", (10.0, 1e5), (100.0, 5 * PSI_PA), source="plate")
    ] = None
    see_leak: Annotated[Entry | None, Facts("mass_rate", "leak it should see", (1e-13, 1e-3))] = None
    bubbles: Annotated[bool | None, Facts("yesno", "bubbles on every joint")] = None
    filled_at: Annotated[datetime | None, Facts("moment", "filled at")] = None
    readings: Annotated[Mapping[str, HoldReading], Facts("record", "readings")] = field(default_factory=dict)
    pressure_trace: Annotated[Trace | None, Facts("trace", "gauge, logged")] = None
    metal_trace: Annotated[Trace | None, Facts("trace", "metal, logged")] = None


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
    second: Annotated[Entry | None, Facts("micron", "another gauge", (0.0, 110000.0), (1.0, 101325.0), source="measured")] = None


@dataclass(frozen=True)
class EvacuateSheet:
    """How the vacuum is pulled, what was done when, and what the gauge said."""

    method: Annotated[Method | None, Facts("choice", "way", options=METHODS)] = None
    volume: Annotated[Entry | None, Facts("volume", "volume of the system", (1e-5, 20.0), (2e-4, 5.0), source="assumed")] = None
    pump_speed: Annotated[Entry | None, Facts("flow", "pump", (1e-5, 1.0), (5e-4, 0.02), source="plate")] = None
    hose_bore: Annotated[Entry | None, Facts("tube_od", "hose bore", (0.001, 0.1), (0.004, 0.02), source="plate")] = None
    hose_length: Annotated[Entry | None, Facts("length", "hose length", (0.05, 50.0), (0.3, 5.0))] = None
    two_hoses: Annotated[bool | None, Facts("yesno", "two hoses, one to each side")] = None
    cores_out: Annotated[bool | None, Facts("yesno", "valve cores out")] = None
    valves_open: Annotated[bool | None, Facts("yesno", "all valves and solenoids open")] = None
    oil_fresh: Annotated[bool | None, Facts("yesno", "pump oil fresh")] = None
    oil_uses: Annotated[Entry | None, Facts("number", "pulls on this oil", (0.0, 1000.0), (0.0, 20.0), source="told")] = None
    gauge_battery: Annotated[Entry | None, Facts("fraction", "gauge battery", (0.0, 1.0), (0.0, 1.0), source="measured")] = None
    place: Annotated[GaugePlace | None, Facts("choice", "micron gauge", options=GAUGE_PLACES)] = None
    path_proven: Annotated[bool | None, Facts("yesno", "way to the gauge proven open")] = None
    gauge_floor: Annotated[Entry | None, Facts("micron", "its lowest reading", (0.0, 10000.0), (0.1, 200.0), source="plate")] = None
    coldest: Annotated[Entry | None, Facts("temperature", "coldest surface", (223.15, 343.15), (255.0, 320.0), source="measured")] = None
    wet: Annotated[bool | None, Facts("yesno", "stood open long, or water inside")] = None
    refrigerant_out: Annotated[bool | None, Facts("yesno", "refrigerant recovered")] = None
    energized: Annotated[bool | None, Facts("yesno", "power locked out")] = None
    compound_only: Annotated[bool | None, Facts("yesno", "only a compound gauge, in inches")] = None
    events: Annotated[Mapping[str, VacuumEvent], Facts("record", "done")] = field(default_factory=dict)
    readings: Annotated[Mapping[str, VacuumReading], Facts("record", "readings")] = field(default_factory=dict)
    trace: Annotated[Trace | None, Facts("trace", "gauge, logged")] = None
    second_trace: Annotated[Trace | None, Facts("trace", "another gauge, logged")] = None
