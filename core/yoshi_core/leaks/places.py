"""Where systems of each kind leak: places, how often, and the minutes to reach and search them (common practice, no source)."""

from typing import Literal

from yoshi_core.frozen import dataclass

Zone = Literal["outdoor", "lines", "indoor"]
Side = Literal["high", "low"]


@dataclass(frozen=True)
class Place:
    """A joint or part: `prior` is how often it is the leak (relative), `access_min` and `search_min` the usual minutes.

    `tip` is what a senior says about it. `added`: it is on no map, a person named it.
    """

    id: str
    label: str
    zone: Zone
    side: Side
    prior: float
    access_min: float
    search_min: float
    tip: str = ""
    added: bool = False


SERVICE_LIQUID = Place("service_liquid", "liquid valve stem", "outdoor", "high", 7, 1, 1)
SERVICE_VAPOUR = Place("service_vapour", "vapour valve stem", "outdoor", "low", 7, 1, 1)
CORES = Place("cores", "valve cores and caps", "outdoor", "low", 12, 1, 1, "The cheapest there is: a drop of water on each core.")
DRIER = Place("drier", "drier", "outdoor", "high", 5, 2, 2)
OUTDOOR_COIL = Place("outdoor_coil", "outdoor coil", "outdoor", "high", 13, 3, 6)
COMPRESSOR = Place(
    "compressor", "compressor joints", "outdoor", "low", 6, 3, 3, "Oil stains are old news on a compressor; wipe and look again."
)
REVERSING = Place("reversing", "reversing valve", "outdoor", "low", 5, 3, 2)
LINE_WALL = Place("line_wall", "line in the wall", "lines", "high", 4, 60, 5, "Opening it needs the owner's yes.")
JOINT_WALL = Place("joint_wall", "joint at the wall", "lines", "low", 6, 2, 2)
INDOOR_LIQUID = Place("indoor_liquid", "liquid joint indoors", "indoor", "high", 6, 4, 2)
INDOOR_VAPOUR = Place("indoor_vapour", "vapour joint indoors", "indoor", "low", 5, 4, 2)
METERING = Place("metering", "metering device", "indoor", "high", 6, 4, 2, "Insulation foam fizzes by itself: watch 30 s.")
INDOOR_COIL = Place(
    "indoor_coil", "indoor coil, bends", "indoor", "low", 22, 4, 4, "Sniff the drain opening before anything is taken apart."
)
PROCESS_TUBE = Place("process_tube", "process tube", "outdoor", "low", 12, 2, 1)
CAPILLARY = Place("capillary", "capillary braze", "outdoor", "high", 8, 4, 2)
BOX_COIL = Place("box_coil", "evaporator in the box", "indoor", "low", 22, 8, 5, "Ice picks and food acids make the holes here.")
SIGHT_GLASS = Place("sight_glass", "sight glass", "outdoor", "high", 5, 1, 1)
RECEIVER = Place("receiver", "receiver valves and relief", "outdoor", "high", 7, 1, 2)
SOLENOID = Place("solenoid", "solenoid valve", "lines", "high", 5, 2, 2)
CONTROLS = Place("controls", "pressure controls, thin tubes", "outdoor", "low", 11, 2, 2, "Thin tubes rub through where they touch.")
FLARE_LIQUID = Place("flare_liquid", "liquid flare outdoors", "outdoor", "high", 13, 2, 1, "Torque tells as much as bubbles.")
FLARE_VAPOUR = Place("flare_vapour", "vapour flare outdoors", "outdoor", "low", 11, 2, 1)
FLARE_IN_LIQUID = Place("flare_in_liquid", "liquid flare indoors", "indoor", "high", 16, 5, 1)
FLARE_IN_VAPOUR = Place("flare_in_vapour", "vapour flare indoors", "indoor", "low", 13, 5, 1)
BRANCH = Place("branch", "branch boxes and joints", "lines", "high", 12, 12, 4)
SHAFT_SEAL = Place("shaft_seal", "compressor shaft seal", "outdoor", "low", 14, 3, 2)
HOSES = Place("hoses", "hoses and crimps", "lines", "low", 12, 2, 3)
CONDENSER_FRONT = Place("condenser_front", "condenser, stones", "outdoor", "high", 16, 3, 3)
REAR_LINES = Place("rear_lines", "lines to the rear", "lines", "low", 10, 15, 4)
CABIN_COIL = Place("cabin_coil", "cabin evaporator", "indoor", "low", 10, 6, 3, "Sniff the drain, or the blower on low.")
GASKETS = Place("gaskets", "gaskets and flanges", "outdoor", "high", 14, 5, 8)
TUBES = Place(
    "tubes", "tubes of the barrels", "indoor", "low", 10, 60, 20, "Test the water side: a flammable or tracer reading at the vent."
)
RELIEF = Place("relief", "relief valve and rupture disc", "outdoor", "high", 8, 3, 2)
PURGE = Place("purge", "purge unit", "outdoor", "high", 9, 4, 3)
VALVES = Place("valves", "valves and stems", "outdoor", "low", 8, 4, 4)

_SPLIT = (
    OUTDOOR_COIL,
    COMPRESSOR,
    SERVICE_VAPOUR,
    CORES,
    SERVICE_LIQUID,
    DRIER,
    JOINT_WALL,
    LINE_WALL,
    INDOOR_VAPOUR,
    INDOOR_LIQUID,
    METERING,
    INDOOR_COIL,
)
PLACES: dict[str, tuple[Place, ...]] = {
    "split": _SPLIT,
    "heat_pump": (*_SPLIT[:2], REVERSING, *_SPLIT[2:]),
    "packaged": (OUTDOOR_COIL, COMPRESSOR, CORES, DRIER, CONTROLS, METERING, INDOOR_COIL),
    "ductless": (
        OUTDOOR_COIL,
        COMPRESSOR,
        REVERSING,
        FLARE_LIQUID,
        FLARE_VAPOUR,
        CORES,
        LINE_WALL,
        FLARE_IN_LIQUID,
        FLARE_IN_VAPOUR,
        INDOOR_COIL,
    ),
    "vrf": (
        OUTDOOR_COIL,
        COMPRESSOR,
        SERVICE_LIQUID,
        SERVICE_VAPOUR,
        CORES,
        BRANCH,
        LINE_WALL,
        FLARE_IN_LIQUID,
        FLARE_IN_VAPOUR,
        INDOOR_COIL,
    ),
    "receiver": (OUTDOOR_COIL, COMPRESSOR, CONTROLS, RECEIVER, DRIER, SIGHT_GLASS, SOLENOID, LINE_WALL, METERING, BOX_COIL),
    "reach_in": (OUTDOOR_COIL, COMPRESSOR, PROCESS_TUBE, DRIER, CAPILLARY, BOX_COIL),
    "vehicle": (CONDENSER_FRONT, SHAFT_SEAL, CORES, HOSES, DRIER, REAR_LINES, METERING, CABIN_COIL),
    "chiller": (GASKETS, SHAFT_SEAL, VALVES, CONTROLS, RELIEF, PURGE, DRIER, TUBES),
}


def places_of(kind: str | None) -> tuple[Place, ...]:
    """The map of a kind of system; a split's where the kind is not given."""
    return PLACES[kind or "split"]
