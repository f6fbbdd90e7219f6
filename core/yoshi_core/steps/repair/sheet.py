"""What was replaced, joined and opened."""

from collections.abc import Mapping
from dataclasses import field
from typing import Annotated, Literal

from yoshi_core.document.sheets import Entry, Facts
from yoshi_core.frozen import dataclass
from yoshi_core.steps.bottles import BOTTLE_SIZES, BottleSize

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
FLUSHED = {
    "flushed": "flushed",
    "washed": "washed out with liquid refrigerant",
    "replaced": "replaced",
    "as_they_were": "neither",
    "own": "always had this refrigerant",
}
WEATHER = {"dry": "dry", "usual": "as usual", "wet": "rain, fog or very humid"}
ACID = {"clean": "clean", "acid": "acid"}
OIL_OUT = {"measured": "measured", "blown_out": "blown out, not measured", "none": "none came out", "unknown": "not known"}
PartKind = Literal["compressor", "coil", "metering", "drier", "valve", "line", "switch", "other"]
FailedBy = Literal["short", "contamination", "electrical", "vibration", "corrosion", "workmanship", "unknown"]
Joining = Literal["brazed", "soldered", "flared", "pressed", "none"]
Drier = Literal["new", "suction_too", "none_by_maker", "kept"]
Bulb = Literal["placed", "none", "loose"]
Flushed = Literal["flushed", "washed", "replaced", "as_they_were", "own"]
Weather = Literal["dry", "usual", "wet"]
Acid = Literal["clean", "acid"]
OilOut = Literal["measured", "blown_out", "none", "unknown"]


@dataclass(frozen=True)
class PartReplaced:
    """A part that came out and the one that went in: why it failed, what it adds to charge and oil."""

    label: Annotated[str | None, Facts("text", "part", max_length=80)] = None
    kind: Annotated[PartKind | None, Facts("choice", "kind of part", options=PARTS)] = None
    failed_by: Annotated[FailedBy | None, Facts("choice", "why it failed", options=CAUSES)] = None
    again: Annotated[bool | None, Facts("yesno", "replaced before")] = None
    used: Annotated[bool | None, Facts("yesno", "a used part, from another unit")] = None
    pressurized: Annotated[bool | None, Facts("yesno", "hissed when opened")] = None
    charge: Annotated[
        Entry | None, Facts("mass", "adds to the charge", (0.0, 50.0), (0.0, 2.0), source="plate", unit_us="oz", unit_si="g")
    ] = None
    removes: Annotated[bool | None, Facts("yesno", "takes charge away")] = None
    oil_needs: Annotated[Entry | None, Facts("oil_volume", "oil it needs", (0.0, 0.1), (0.0, 0.002), source="plate")] = None
    oil_inside: Annotated[Entry | None, Facts("oil_volume", "oil already in it", (0.0, 0.1), (0.0, 0.002), source="plate")] = None


@dataclass(frozen=True)
class PlaceSoonHidden:
    """A place that goes out of reach when the unit is closed up, and whether it was tested first."""

    label: Annotated[str | None, Facts("text", "place", max_length=80)] = None
    tested: Annotated[bool | None, Facts("yesno", "tested before it is covered")] = None


@dataclass(frozen=True)
class RepairSheet:
    """What was opened and replaced, how it was joined, and what must be right before it is closed."""

    opened_for: Annotated[Entry | None, Facts("duration", "open to the air for", (0.0, 1e8), (0.0, 172800.0))] = None
    water_seen: Annotated[bool | None, Facts("yesno", "water got in, or compressor burnt out")] = None
    parts: Annotated[Mapping[str, PartReplaced], Facts("record", "parts")] = field(default_factory=dict)
    joining: Annotated[Joining | None, Facts("choice", "how joints were made", options=JOININGS)] = None
    also_joined: Annotated[Joining | None, Facts("choice", "other joints made", options=JOININGS)] = None
    weather: Annotated[Weather | None, Facts("choice", "weather while it was open", options=WEATHER)] = None
    at_zero: Annotated[bool | None, Facts("yesno", "right pipe, and at zero pressure")] = None
    both_open: Annotated[bool | None, Facts("yesno", "both sides vented before heat")] = None
    nitrogen_flow: Annotated[bool | None, Facts("yesno", "nitrogen flowed while brazing")] = None
    flow_for: Annotated[Entry | None, Facts("duration", "how long nitrogen flows", (0.0, 86400.0), (0.0, 7200.0))] = None
    bottle_volume: Annotated[Entry | None, Facts("volume", "nitrogen bottle holds", (1e-4, 0.1), (0.001, 0.05), source="plate")] = None
    bottle_size: Annotated[BottleSize | None, Facts("choice", "or its size", options=BOTTLE_SIZES)] = None
    bottle_pressure: Annotated[Entry | None, Facts("gauge_pressure", "bottle reads", (0.0, 4e7), (0.0, 2.5e7), source="measured")] = None
    capillary: Annotated[bool | None, Facts("yesno", "nitrogen could only flow through a capillary")] = None
    fire_watch: Annotated[bool | None, Facts("yesno", "extinguisher at hand, fire watch kept")] = None
    drier: Annotated[Drier | None, Facts("choice", "filter drier", options=DRIERS)] = None
    drier_way: Annotated[bool | None, Facts("yesno", "arrow towards the metering device, or bi-flow")] = None
    drier_size: Annotated[bool | None, Facts("yesno", "not smaller than the old one")] = None
    cores: Annotated[bool | None, Facts("yesno", "new valve cores")] = None
    orifice: Annotated[str | None, Facts("text", "orifice fitted", max_length=40)] = None
    bulb: Annotated[Bulb | None, Facts("choice", "sensing bulb", options=BULBS)] = None
    lines: Annotated[Flushed | None, Facts("choice", "lines that had another refrigerant", options=FLUSHED)] = None
    oil_out: Annotated[OilOut | None, Facts("choice", "oil that came out", options=OIL_OUT)] = None
    oil_removed: Annotated[Entry | None, Facts("oil_volume", "measured", (0.0, 0.5), (0.0, 0.005), source="measured")] = None
    oil_dye: Annotated[Entry | None, Facts("oil_volume", "oil that dye brings", (0.0, 0.01), (0.0, 0.0005), source="plate")] = None
    oil_grade: Annotated[str | None, Facts("text", "grade", max_length=60, kept=True)] = None
    oil_named: Annotated[bool | None, Facts("yesno", "grade read off the compressor")] = None
    oil_added: Annotated[Entry | None, Facts("oil_volume", "oil put in", (0.0, 0.5), (0.0, 0.005), source="measured")] = None
    acid_test: Annotated[bool | None, Facts("yesno", "acid test done")] = None
    acid: Annotated[Acid | None, Facts("choice", "acid test says", options=ACID)] = None
    screen: Annotated[bool | None, Facts("yesno", "valve screen checked")] = None
    suction_out: Annotated[bool | None, Facts("yesno", "suction drier taken out again")] = None
    hidden: Annotated[Mapping[str, PlaceSoonHidden], Facts("record", "places soon out of reach")] = field(default_factory=dict)

    @property
    def joinings(self) -> frozenset[Joining]:
        """Every way a joint was made."""
        return frozenset(way for way in (self.joining, self.also_joined) if way is not None)

    @property
    def hot(self) -> bool:
        """Whether a flame was on it."""
        return bool(self.joinings & {"brazed", "soldered"})
