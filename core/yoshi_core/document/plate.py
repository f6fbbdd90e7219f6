"""The data plate, the lines and the site: the sheet of Identify, which a circuit owns and a job copies."""

from collections.abc import Mapping
from dataclasses import field
from typing import Annotated, Literal

from yoshi_core.document.sheets import Entry, Facts
from yoshi_core.frozen import dataclass

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
LINELESS_KINDS = frozenset({"packaged", "reach_in", "vehicle", "chiller"})  # one unit with its own circuit: no line sets, nothing to pair
ONLY_COOL = frozenset({"reach_in", "receiver", "vehicle", "chiller"})  # nobody asks these whether they cool or heat
METERING = {"txv": "TXV", "eev": "EEV", "orifice": "fixed orifice", "capillary": "capillary"}
GAUGES = {"vented": "vented", "sealed": "sealed"}
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
Kind = Literal["split", "heat_pump", "packaged", "ductless", "vrf", "receiver", "reach_in", "vehicle", "chiller"]
Metering = Literal["txv", "eev", "orifice", "capillary"]
GaugeReference = Literal["vented", "sealed"]


@dataclass(frozen=True)
class LineSet:
    """One line set between outdoor and indoor unit."""

    length: Annotated[Entry | None, Facts("length", "line length, one way", (0.0, 300.0), (1.0, 75.0), source="measured")] = None
    unmeasured: Annotated[bool | None, Facts("yesno", "length not known")] = None
    length_least: Annotated[Entry | None, Facts("length", "shortest it can be", (0.0, 300.0), source="assumed")] = None
    length_most: Annotated[Entry | None, Facts("length", "longest it can be", (0.0, 300.0), source="assumed")] = None
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
    factory_charge_other: Annotated[
        Entry | None, Facts("mass", "charge in the other unit", (0.005, 2000.0), source="plate", unit_us="oz")
    ] = None
    charge_told: Annotated[
        Entry | None, Facts("mass", "charge somebody told you", (0.005, 2000.0), (0.05, 60.0), source="told", unit_us="lb")
    ] = None
    included_length: Annotated[Entry | None, Facts("length", "line length it covers", (0.0, 100.0), (0.0, 30.0), source="plate")] = None
    whole_charge: Annotated[bool | None, Facts("yesno", "this is the whole charge, lines included")] = None
    kind: Annotated[Kind | None, Facts("choice", "kind of system", options=KINDS)] = None
    metering: Annotated[Metering | None, Facts("choice", "metering device", options=METERING)] = None
    orifice: Annotated[str | None, Facts("text", "orifice size", max_length=40)] = None
    subcooling_target: Annotated[
        Entry | None,
        Facts("temperature_delta", "subcooling target", (0.0, 30.0), (2.0, 12.0), source="plate"),
    ] = None
    tolerance: Annotated[Entry | None, Facts("mass", "charge tolerance ±", (0.0001, 5.0), source="plate", unit_us="oz", unit_si="g")] = None
    oil: Annotated[str | None, Facts("text", "oil", max_length=60)] = None
    electric: Annotated[bool | None, Facts("yesno", "electric compressor")] = None
    design_high: Annotated[Entry | None, Facts("gauge_pressure", "design, high side", (0.0, 2e7), (500e3, 5e6), source="plate")] = None
    design_low: Annotated[Entry | None, Facts("gauge_pressure", "design, low side", (0.0, 2e7), (300e3, 4e6), source="plate")] = None
    serial: Annotated[str | None, Facts("text", "serial", max_length=80)] = None
    circuit: Annotated[str | None, Facts("text", "circuit", max_length=40)] = None
    altitude: Annotated[Entry | None, Facts("altitude", "site altitude", (-450.0, 6000.0), (-100.0, 4500.0), unit_us="m")] = None
    gauge_reference: Annotated[GaugeReference | None, Facts("choice", "gauges", options=GAUGES)] = None
    listed: Annotated[bool | None, Facts("yesno", "unit is listed for this refrigerant")] = None
    pairing_proven: Annotated[bool | None, Facts("yesno", "indoor and outdoor unit are a proven pair")] = None
    pairing_by: Annotated[PairingBy | None, Facts("choice", "how you know it is the right unit", options=PAIRINGS)] = None
    circuit_known: Annotated[bool | None, Facts("yesno", "you know which circuit this is")] = None
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
    mounting: Annotated[Mounting | None, Facts("choice", "where the indoor unit hangs", options=MOUNTINGS)] = None
    lines: Annotated[Mapping[str, LineSet], Facts("record", "line sets")] = field(default_factory=dict)
    parts: Annotated[Mapping[str, PartAdded], Facts("record", "parts")] = field(default_factory=dict)
