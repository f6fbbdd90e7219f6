"""The demo world: an invented observatory served by an invented company. Nothing here is real.

Plates, lines, cylinders and histories are made up to be plausible; a job stands at each step, one gone wrong at each.
"""

from typing import Any

from demo import world_changed as changed
from demo.world_closed import JOBS as CLOSED_UP
from demo.world_closed import PROVEN
from demo.world_proven import JOBS as PROVEN_JOBS

SHOP = "Brindlewick Service Co."
PASSWORD = "quillon-ridge"
PEOPLE = (
    ("orrin", "M. Orrin", "technician"),
    ("pell", "J. Pell", "technician"),
    ("vesk", "T. Vesk", "lead"),
    ("hale", "R. Hale", "owner"),
)
SITE = "Quillon Ridge Observatory"
SITE_FACTS = {"altitude": "2100 m", "gauge_reference": "vented"}


def _split(serial: str, charge: str, **more: Any) -> dict[str, Any]:
    return {"refrigerant": "R-410A", "factory_charge": charge, "oil": "POE", "serial": serial, "circuit": "1 of 1", **more}


CIRCUITS: tuple[dict[str, Any], ...] = (
    {
        "system": "Control room split",
        "code": "CR-1",
        "name": "Control room, circuit 1",
        "plate": _split(
            "QR-CR-0416",
            "9 lb 4 oz",
            included_length="25 ft",
            kind="split",
            metering="txv",
            subcooling_target="10 °F",
            design_high="446 psig",
            design_low="250 psig",
            lines={"l1": {"length": "55 ft", "liquid_od": "3/8 in", "suction_od": "7/8 in", "allowance": "0.6 oz/ft"}},
        ),
        "past": (
            ("opening", "10 lb 7 oz", 1100, "commissioning sheet"),
            ("added", "14 oz", 390, "logbook"),
            ("added", "1 lb 6 oz", 160, "logbook"),
        ),
    },
    {
        "system": "Staff quarters heat pump",
        "code": "SQ-1",
        "name": "Staff quarters heat pump",
        "plate": _split(
            "QR-SQ-0203",
            "5 lb 11 oz",
            included_length="15 ft",
            kind="heat_pump",
            metering="orifice",
            orifice="0.059",
            lines={"l1": {"length": "23 ft 4 in", "liquid_od": "3/8 in", "suction_od": "3/4 in", "allowance": "0.6 oz/ft"}},
        ),
        "past": (("opening", "6 lb 0 oz", 820, "label on the unit"), ("added", "1 lb 2 oz", 38, "logbook")),
    },
    {
        "system": "Detector lab packaged unit",
        "code": "DL-1",
        "name": "Detector lab, circuit 1",
        "plate": _split("QR-DL-0771", "8 lb 0 oz", kind="packaged", metering="txv", subcooling_target="11 °F", design_low="250 psig"),
        "past": (("opening", "8 lb 0 oz", 900, "data plate"),),
    },
    {
        "system": "Detector lab packaged unit",
        "code": "DL-2",
        "name": "Detector lab, circuit 2",
        "plate": _split("QR-DL-0771", "7 lb 8 oz", kind="packaged", metering="txv", subcooling_target="11 °F", design_low="250 psig"),
        "past": (("opening", "7 lb 8 oz", 900, "data plate"), ("recovered", "7 lb 6 oz", 2, "compressor change, logbook")),
    },
    {
        "system": "Visitor centre variable flow",
        "code": "VC-1",
        "name": "Visitor centre, variable flow",
        "plate": _split(
            "QR-VC-1120",
            "11.2 kg",
            kind="vrf",
            metering="eev",
            included_length="0 m",
            design_high="600 psig",
            indoor_units="5",
            indoor_allowance="0.35 kg",
            branch_boxes="0",
            room_volume="62 m³",
            lines={
                "l1": {"length": "34 m", "liquid_od": "15.88 mm"},
                "l2": {"length": "20 m", "liquid_od": "12.7 mm"},
                "l3": {"length": "58 m", "liquid_od": "9.52 mm"},
                "l4": {"length": "28 m", "liquid_od": "6.35 mm"},
            },
        ),
        "past": (("opening", "24.7 kg", 640, "as-built sheet"),),
    },
    {
        "system": "Gatehouse ductless",
        "code": "GH-1",
        "name": "Gatehouse ductless",
        "plate": _split(
            "QR-GH-0093",
            "3 lb 1 oz",
            included_length="25 ft",
            kind="ductless",
            metering="eev",
            lines={"l1": {"length": "31 ft", "liquid_od": "1/4 in", "suction_od": "1/2 in", "allowance": "0.22 oz/ft"}},
        ),
    },
    {
        "system": "Canteen reach-in",
        "code": "CA-1",
        "name": "Canteen reach-in",
        "plate": {
            "refrigerant": "R-290",
            "factory_charge": "150 g",
            "tolerance": "3 g",
            "kind": "reach_in",
            "metering": "capillary",
            "oil": "mineral",
            "serial": "QR-CA-0088",
            "circuit": "1 of 1",
            "listed": True,
        },
    },
    {
        "system": "Canteen walk-in",
        "code": "CW-1",
        "name": "Canteen walk-in",
        "plate": {
            "refrigerant": "R-404A",
            "factory_charge": "19 lb 8 oz",
            "included_length": "30 ft",
            "kind": "receiver",
            "metering": "txv",
            "oil": "POE",
            "serial": "QR-CW-0310",
            "circuit": "1 of 1",
            "floods": False,
            "lines": {"l1": {"length": "30 ft", "liquid_od": "1/2 in", "suction_od": "1-1/8 in"}},
        },
        "past": (
            ("opening", "19 lb 8 oz", 1300, "commissioning sheet"),
            ("added", "3 lb 4 oz", 420, "logbook"),
            ("added", "4 lb 1 oz", 95, "logbook"),
        ),
    },
    {
        "system": "Shuttle van air conditioning",
        "code": "SV-1",
        "name": "Shuttle van, front and rear",
        "plate": {
            "refrigerant": "R-134a",
            "factory_charge": "1225 g",
            "tolerance": "25 g",
            "kind": "vehicle",
            "metering": "txv",
            "oil": "PAG",
            "serial": "QR-SV-0007",
        },
    },
    {
        "system": "Dome chiller",
        "code": "DC-1",
        "name": "Dome chiller, circuit 1",
        "plate": {
            "refrigerant": "R-134a",
            "factory_charge": "318 lb",
            "kind": "chiller",
            "metering": "eev",
            "oil": "POE",
            "serial": "QR-DC-2201",
        },
        "past": (("opening", "318 lb", 1500, "commissioning sheet"),),
    },
    {
        "system": "Dome chiller",
        "code": "DC-2",
        "name": "Dome chiller, circuit 2",
        "plate": {
            "refrigerant": "R-134a",
            "factory_charge": "318 lb",
            "kind": "chiller",
            "metering": "eev",
            "oil": "POE",
            "serial": "QR-DC-2201",
        },
        "past": (
            ("opening", "318 lb", 1500, "commissioning sheet"),
            ("added", "22 lb", 700, "logbook"),
            ("added", "31 lb", 210, "logbook"),
        ),
    },
    {
        "system": "Mirror shop chiller",
        "code": "MS-1",
        "name": "Mirror shop chiller",
        "plate": {
            "refrigerant": "R-123",
            "factory_charge": "700 lb",
            "kind": "chiller",
            "metering": "orifice",
            "oil": "mineral",
            "serial": "QR-MS-1980",
        },
        "past": (("opening", "700 lb", 2100, "data plate"),),
    },
    {
        "system": "Library split",
        "code": "LS-1",
        "name": "Library split",
        "plate": _split(
            "QR-LS-0512",
            "6 lb 0 oz",
            included_length="15 ft",
            kind="split",
            metering="txv",
            subcooling_target="12 °F",
            lines={"l1": {"length": "25 ft", "liquid_od": "3/8 in", "suction_od": "3/4 in", "allowance": "0.6 oz/ft"}},
        ),
    },
    {
        "system": "Guest house heat pump",
        "code": "HP-1",
        "name": "Guest house heat pump",
        "plate": _split(
            "QR-HP-0377",
            "5 lb 11 oz",
            included_length="15 ft",
            kind="heat_pump",
            metering="orifice",
            orifice="0.061",
            floods=False,
            lines={"l1": {"length": "23 ft 4 in", "liquid_od": "3/8 in", "suction_od": "3/4 in", "allowance": "0.6 oz/ft"}},
        ),
    },
    {
        "system": "Annex split",
        "code": "AX-1",
        "name": "Annex split",
        "plate": {
            "refrigerant": "R-22",
            "factory_charge": "8 lb 12 oz",
            "included_length": "25 ft",
            "kind": "split",
            "metering": "orifice",
            "oil": "mineral",
            "serial": "QR-AX-1994",
            "circuit": "1 of 1",
            "design_high": "300 psig",
            "design_low": "150 psig",
            "lines": {"l1": {"length": "25 ft", "liquid_od": "3/8 in", "suction_od": "7/8 in"}},
        },
        "past": (("opening", "8 lb 12 oz", 4000, "data plate"), ("added", "1 lb 4 oz", 120, "logbook")),
    },
    {
        "system": "Cold store",
        "code": "CS-1",
        "name": "Cold store",
        "plate": {
            "refrigerant": "R-404A",
            "factory_charge": "19 lb 8 oz",
            "included_length": "30 ft",
            "kind": "receiver",
            "metering": "txv",
            "oil": "POE",
            "serial": "QR-CS-0144",
            "circuit": "1 of 1",
            "floods": False,
            "lines": {"l1": {"length": "30 ft", "liquid_od": "1/2 in", "suction_od": "1-1/8 in"}},
        },
    },
    *changed.CIRCUITS,
)

OWN, THEIRS = SHOP, SITE
CYLINDERS: tuple[dict[str, Any], ...] = (
    {
        "code": "14",
        "kind": "new",
        "refrigerant": "R-410A",
        "owner": OWN,
        "tare": "6 lb 6.5 oz",
        "water_capacity": "29.7 lb",
        "gross": "31 lb 6.5 oz",
    },
    {
        "code": "15",
        "kind": "new",
        "refrigerant": "R-410A",
        "owner": OWN,
        "tare": "6 lb 6 oz",
        "water_capacity": "29.7 lb",
        "gross": "31 lb 6 oz",
    },
    {
        "code": "21",
        "kind": "new",
        "refrigerant": "R-410A",
        "owner": OWN,
        "tare": "6 lb 6 oz",
        "water_capacity": "29.7 lb",
        "gross": "24 lb 8 oz",
    },
    {
        "code": "P3",
        "kind": "new",
        "refrigerant": "R-290",
        "owner": OWN,
        "tare": "1.020 kg",
        "water_capacity": "3.0 kg",
        "gross": "2.140 kg",
    },
    {
        "code": "R3",
        "kind": "recovery",
        "refrigerant": "R-410A",
        "owner": THEIRS,
        "tare": "26 lb 11 oz",
        "water_capacity": "47.7 lb",
        "retest": "2029-03",
        "gross": "38 lb 15 oz",
    },
    {
        "code": "R4",
        "kind": "recovery",
        "owner": THEIRS,
        "tare": "27 lb 2 oz",
        "water_capacity": "47.7 lb",
        "retest": "2030-01",
        "gross": "27 lb 2 oz",
        "evacuated": True,
    },
    {
        "code": "R5",
        "kind": "recovery",
        "refrigerant": "R-22",
        "owner": THEIRS,
        "tare": "26 lb 13 oz",
        "water_capacity": "47.7 lb",
        "retest": "2028-01",
        "gross": "69 lb 7 oz",
    },
    {
        "code": "R7",
        "kind": "recovery",
        "owner": "",
        "tare": "17 lb 4 oz",
        "water_capacity": "26.2 lb",
        "retest": "2030-09",
        "gross": "17 lb 4 oz",
    },
    {
        "code": "R2",
        "kind": "recovery",
        "refrigerant": "R-407C",
        "owner": THEIRS,
        "tare": "26 lb 12 oz",
        "water_capacity": "47.7 lb",
        "retest": "2026-05",
        "gross": "36 lb 2 oz",
    },
    {
        "code": "R9",
        "kind": "recovery",
        "refrigerant": "R-404A",
        "owner": THEIRS,
        "tare": "27 lb 1 oz",
        "water_capacity": "47.7 lb",
        "retest": "2027-08",
        "gross": "34 lb 3 oz",
        "oily": True,
    },
    *changed.CYLINDERS,
)

CONTROL_ROOM = (("identify", "parts/p1/label", "filter drier"), ("identify", "parts/p1/charge", "1.5 oz"), *PROVEN)
CONTROL_ROOM_WEIGH = (
    ("weigh_in", "system_state", "empty"),
    ("weigh_in", "draws/d1/cylinder", "14"),
    ("weigh_in", "draws/d1/gross_start", "31 lb 6.5 oz"),
    ("weigh_in", "draws/d1/tare", "9 lb 0 oz"),
    ("weigh_in", "draws/d1/hose_loss", "0.6 oz"),
)
STAFF_QUARTERS_WEIGH = (
    ("weigh_in", "system_state", "empty"),
    ("weigh_in", "draws/d1/cylinder", "21"),
    ("weigh_in", "draws/d1/gross_start", "24 lb 8 oz"),
    ("weigh_in", "draws/d1/tare", "8 lb 12 oz"),
    ("weigh_in", "draws/d1/hose_loss", "0 oz"),
    ("weigh_in", "draws/d1/gross_end", "18 lb 8 oz"),
)
STAFF_QUARTERS_RUN = (
    ("verify", "mode", "cooling"),
    ("verify", "run_in", "18 min"),
    ("verify", "filter_ok", True),
    ("verify", "coils_ok", True),
    ("verify", "readings/r1/suction_pressure", "110 psig"),
    ("verify", "readings/r1/suction_line", "61 °F"),
    ("verify", "readings/r1/liquid_pressure", "330 psig"),
    ("verify", "readings/r1/liquid_line", "95 °F"),
    ("verify", "readings/r1/return_wet_bulb", "67 °F"),
    ("verify", "readings/r1/outdoor", "95 °F"),
)
REACH_IN_WEIGH = (
    ("weigh_in", "system_state", "empty"),
    ("weigh_in", "scale_step", "0.5 oz"),
    ("weigh_in", "draws/d1/cylinder", "P3"),
    ("weigh_in", "draws/d1/gross_start", "2.140 kg"),
    ("weigh_in", "draws/d1/tare", "1.020 kg"),
    ("weigh_in", "draws/d1/hose_loss", "0 g"),
)
SHORT_OF_CHARGE = (
    ("as_found", "standing_pressure", "209 psig"),
    ("as_found", "standing_cold", "72 °F"),
    ("as_found", "running", "settled"),
    ("as_found", "run_time", "18 min"),
    ("as_found", "mode", "cooling"),
    ("as_found", "suction_pressure", "101 psig"),
    ("as_found", "suction_line", "62 °F"),
    ("as_found", "liquid_pressure", "316 psig"),
    ("as_found", "liquid_line", "97 °F"),
    ("as_found", "return_air", "76 °F"),
    ("as_found", "return_wet_bulb", "62 °F"),
    ("as_found", "supply", "60 °F"),
    ("as_found", "outdoor", "88 °F"),
)
WALK_IN_CYCLES = (
    ("as_found", "running", "cycling"),
    ("as_found", "mode", "cooling"),
    ("as_found", "suction_pressure", "5 psig"),
    ("as_found", "suction_swing", "25 psig"),
    ("as_found", "liquid_pressure", "182 psig"),
    ("as_found", "outdoor", "75 °F"),
    ("as_found", "box", "46 °F"),
    ("as_found", "sight_glass", "bubbles"),
    ("as_found", "history", "door heater and controller replaced twice"),
)
ICED = (
    ("as_found", "running", "settled"),
    ("as_found", "run_time", "40 min"),
    ("as_found", "mode", "cooling"),
    ("as_found", "iced", True),
)
SEARCHING = (
    ("leak_search", "inside", "nitrogen"),
    ("leak_search", "lost", "1 lb 2 oz"),
    ("leak_search", "lost_over", "38 d"),
    ("leak_search", "volume", "6 L"),
    *(
        ("leak_search", f"places/{place}/bubbles", "clean")
        for place in ("cores", "service_liquid", "service_vapour", "drier", "compressor", "reversing")
    ),
    ("leak_search", "places/line_wall/reach", "closed"),
)
TOO_SMALL = (
    ("leak_search", "inside", "refrigerant"),
    ("leak_search", "lost", "4 lb 1 oz"),
    ("leak_search", "lost_over", "95 d"),
    ("leak_search", "volume", "14 L"),
    ("leak_search", "places/sight_glass/electronic", "hit"),
    ("leak_search", "places/sight_glass/bubbles", "hit"),
    *(("leak_search", f"places/{place}/electronic", "clean") for place in ("controls", "receiver", "solenoid")),
    ("leak_search", "drops/n1/pressure_start", "150 psig"),
    ("leak_search", "drops/n1/pressure_end", "149 psig"),
    ("leak_search", "drops/n1/metal_start", "70 °F"),
    ("leak_search", "drops/n1/metal_end", "70 °F"),
    ("leak_search", "drops/n1/lasted", "16 h"),
)
RECOVERING = (
    ("recover", "way", "cylinder"),
    ("recover", "fan_on", True),
    ("recover", "valves_open", True),
    ("recover", "cylinders/c1/cylinder", "R4"),
    ("recover", "cylinders/c1/contents", "evacuated"),
    ("recover", "cylinders/c1/tare", "27 lb 2 oz"),
    ("recover", "cylinders/c1/water_capacity", "47.7 lb"),
    ("recover", "cylinders/c1/retest", "2030-01"),
    ("recover", "cylinders/c1/gross_start", "27 lb 2 oz"),
    ("recover", "cylinders/c1/gross_now", "31 lb 5 oz"),
)
TOO_LITTLE_ROOM = (
    ("recover", "way", "cylinder"),
    ("recover", "fan_on", True),
    ("recover", "valves_open", True),
    ("recover", "cylinders/c1/cylinder", "R9"),
    ("recover", "cylinders/c1/contents", "same"),
    ("recover", "cylinders/c1/tare", "27 lb 1 oz"),
    ("recover", "cylinders/c1/water_capacity", "26.2 lb"),
    ("recover", "cylinders/c1/gross_start", "34 lb 3 oz"),
)
UNSURE_WHICH = (
    ("identify", "pairing_proven", True),
    ("identify", "pairing_by", "told"),
    ("identify", "circuit_known", False),
    ("identify", "other_charge", "7 lb 8 oz"),
)
DIRTY = (
    ("verify", "mode", "cooling"),
    ("verify", "run_in", "20 min"),
    ("verify", "filter_ok", True),
    ("verify", "coils_ok", False),
)
LAB_WEIGH = (
    ("weigh_in", "system_state", "empty"),
    ("weigh_in", "draws/d1/cylinder", "15"),
    ("weigh_in", "draws/d1/gross_start", "31 lb 6 oz"),
    ("weigh_in", "draws/d1/tare", "6 lb 6 oz"),
    ("weigh_in", "draws/d1/gross_end", "23 lb 14 oz"),
)
VAN_WEIGH = (
    ("weigh_in", "system_state", "empty"),
    ("weigh_in", "scale_step", "1 g"),
    ("weigh_in", "draws/d1/cylinder", "can rack"),
    ("weigh_in", "draws/d1/gross_start", "9.000 kg"),
    ("weigh_in", "draws/d1/tare", "5.000 kg"),
    ("weigh_in", "draws/d1/gross_end", "7.775 kg"),
)
VAN_RUN = (
    ("verify", "doors_ok", True),
    ("verify", "mode", "cooling"),
    ("verify", "run_in", "12 min"),
    ("verify", "filter_ok", True),
    ("verify", "coils_ok", True),
)

JOBS: tuple[dict[str, Any], ...] = (
    {"circuit": "GH-1", "by": "pell", "kind": "service", "title": "Gatehouse ductless, cools badly", "stages": ()},
    {"circuit": "DL-1", "by": "orrin", "kind": "service", "title": "Detector lab: which circuit?", "stages": (UNSURE_WHICH,)},
    {
        "circuit": "CR-1",
        "by": "orrin",
        "kind": "service",
        "title": "Control room, short again?",
        "stages": (PROVEN, "identify", SHORT_OF_CHARGE),
    },
    {
        "circuit": "CW-1",
        "by": "pell",
        "kind": "service",
        "title": "Canteen walk-in, alarm at night",
        "stages": (PROVEN, "identify", WALK_IN_CYCLES),
    },
    {"circuit": "CA-1", "by": "orrin", "kind": "service", "title": "Canteen reach-in, iced up", "stages": (PROVEN, "identify", ICED)},
    {
        "circuit": "SQ-1",
        "by": "pell",
        "kind": "service",
        "title": "Staff quarters, lost a pound in a month",
        "stages": (PROVEN, "identify", ("as_found", "empty on arrival, nothing to read"), SEARCHING),
    },
    {
        "circuit": "CW-1",
        "by": "pell",
        "kind": "service",
        "title": "Canteen walk-in, leak too small",
        "stages": (PROVEN, "identify", ("as_found", "seen yesterday"), TOO_SMALL),
    },
    {
        "circuit": "DL-2",
        "by": "pell",
        "kind": "service",
        "title": "Detector lab, circuit 2, compressor out",
        "stages": (PROVEN, "identify", ("as_found", "compressor burnt, does not run"), ("leak_search", "no loss to explain"), RECOVERING),
    },
    {
        "circuit": "CW-1",
        "by": "orrin",
        "kind": "service",
        "title": "Canteen walk-in, no room in R9",
        "stages": (PROVEN, "identify", ("as_found", "seen yesterday"), ("leak_search", "valve leaks, seen"), TOO_LITTLE_ROOM),
    },
    {"circuit": "CR-1", "by": "orrin", "title": "Control room, circuit 1", "stages": (CONTROL_ROOM, "identify", CONTROL_ROOM_WEIGH)},
    {"circuit": "CA-1", "by": "orrin", "title": "Canteen reach-in: scale too coarse", "stages": (PROVEN, "identify", REACH_IN_WEIGH)},
    {
        "circuit": "SQ-1",
        "by": "pell",
        "title": "Staff quarters heat pump",
        "stages": (PROVEN, "identify", STAFF_QUARTERS_WEIGH, "weigh_in", STAFF_QUARTERS_RUN),
    },
    {"circuit": "DL-2", "by": "pell", "title": "Detector lab, coil dirty", "stages": (PROVEN, "identify", LAB_WEIGH, "weigh_in", DIRTY)},
    {
        "circuit": "SQ-1",
        "by": "orrin",
        "title": "Staff quarters, called proven too early",
        "stages": (
            PROVEN,
            "identify",
            STAFF_QUARTERS_WEIGH,
            "weigh_in",
            STAFF_QUARTERS_RUN,
            ("close", "verify", "no time for another step today"),
            (("close_out", "outcome", "proven"), ("close_out", "label_fixed", True)),
        ),
    },
    {
        "circuit": "SV-1",
        "by": "pell",
        "title": "Shuttle van, ready to close",
        "stages": (PROVEN, "identify", VAN_WEIGH, "weigh_in", VAN_RUN, "verify"),
    },
    *CLOSED_UP,
    *PROVEN_JOBS,
    *changed.JOBS,
)
# The job of this title ended its visit without a proof.
WAITING = {
    "title": "Detector lab, coil dirty",
    "outcome": "running_not_proven",
    "reason": "the outdoor coil is matted with pollen, so nothing can be judged",
    "awaited": "coil cleaner and a second person for the roof",
    "return_on": "",
}
