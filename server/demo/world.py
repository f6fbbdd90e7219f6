"""The demo world: an invented observatory served by an invented company. Nothing here is real.

Plates, lines and cylinders are made up to be plausible; jobs stand at different points, one gone wrong.
"""

from typing import Any

SHOP = "Brindlewick Service Co."
PASSWORD = "quillon-ridge"
PEOPLE = (
    ("orrin", "M. Orrin", "technician"),
    ("pell", "J. Pell", "technician"),
    ("vesk", "T. Vesk", "lead"),
)
SITE = "Quillon Ridge Observatory"
SITE_FACTS = {"altitude": "2100 m", "gauge_reference": "vented"}

CIRCUITS: tuple[dict[str, Any], ...] = (
    {
        "system": "Control room split",
        "code": "CR-1",
        "name": "Control room, circuit 1",
        "plate": {
            "refrigerant": "R-410A",
            "factory_charge": "9 lb 4 oz",
            "included_length": "25 ft",
            "kind": "split",
            "metering": "txv",
            "subcooling_target": "10 °F",
            "oil": "POE",
            "serial": "QR-CR-0416",
            "circuit": "1 of 1",
            "design_high": "446 psig",
            "design_low": "250 psig",
            "lines": {"l1": {"length": "55 ft", "liquid_od": "3/8 in", "suction_od": "7/8 in", "allowance": "0.6 oz/ft"}},
        },
    },
    {
        "system": "Staff quarters heat pump",
        "code": "SQ-1",
        "name": "Staff quarters heat pump",
        "plate": {
            "refrigerant": "R-410A",
            "factory_charge": "5 lb 11 oz",
            "included_length": "15 ft",
            "kind": "heat_pump",
            "metering": "orifice",
            "orifice": "0.059",
            "oil": "POE",
            "serial": "QR-SQ-0203",
            "circuit": "1 of 1",
            "lines": {"l1": {"length": "23 ft 4 in", "liquid_od": "3/8 in", "suction_od": "3/4 in", "allowance": "0.6 oz/ft"}},
        },
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
)

CONTROL_ROOM = (
    ("identify", "parts/p1/label", "filter drier"),
    ("identify", "parts/p1/charge", "1.5 oz"),
    ("identify", "pairing_proven", True),
)
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

JOBS: tuple[dict[str, Any], ...] = (
    {"circuit": "CR-1", "by": "orrin", "title": "Control room, circuit 1", "stages": (CONTROL_ROOM, "identify", CONTROL_ROOM_WEIGH)},
    {
        "circuit": "SQ-1",
        "by": "pell",
        "title": "Staff quarters heat pump",
        "stages": ((("identify", "pairing_proven", True),), "identify", STAFF_QUARTERS_WEIGH, "weigh_in", STAFF_QUARTERS_RUN),
    },
    {
        "circuit": "CA-1",
        "by": "orrin",
        "title": "Canteen reach-in: scale too coarse",
        "stages": ((("identify", "pairing_proven", True),), "identify", REACH_IN_WEIGH),
    },
)
