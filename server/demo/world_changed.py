"""Demo jobs that change a refrigerant: one proven, one stopped before it began, one with the old oil and cut-outs still in it. Invented.

Readings of the split come from the practice rig.
"""

from typing import Any

from demo.world_closed import PROVEN, Ago, hold, vacuum

Row = tuple[str, str, Any]

CIRCUITS: tuple[dict[str, Any], ...] = (
    {
        "system": "Archive split",
        "code": "AR-1",
        "name": "Archive split",
        "plate": {
            "refrigerant": "R-22",
            "factory_charge": "7 lb",
            "included_length": "25 ft",
            "kind": "split",
            "metering": "txv",
            "subcooling_target": "12 °F",
            "oil": "mineral",
            "serial": "QR-AR-1991",
            "circuit": "1 of 1",
            "design_high": "330 psig",
            "design_low": "150 psig",
            "lines": {"l1": {"length": "25 ft", "liquid_od": "3/8 in", "suction_od": "3/4 in"}},
        },
        "past": (("opening", "7 lb", 3600, "data plate"), ("added", "14 oz", 400, "logbook")),
    },
)
CYLINDERS: tuple[dict[str, Any], ...] = (
    {
        "code": "C7", "kind": "new", "refrigerant": "R-407C", "owner": "Brindlewick Service Co.", "tare": "5 lb 2 oz",
        "water_capacity": "29.7 lb", "gross": "30 lb 2 oz",
    },
    {
        "code": "R11", "kind": "recovery", "refrigerant": "", "owner": "Quillon Ridge Observatory", "tare": "26 lb 12 oz",
        "water_capacity": "47.7 lb", "retest": "2030-05", "gross": "26 lb 12 oz", "evacuated": True,
    },
)  # fmt: skip


def _rows(step: str, fields: dict[str, Any], under: str = "") -> tuple[Row, ...]:
    return tuple((step, f"{under}{field}", value) for field, value in fields.items())


FOUND = _rows(
    "as_found",
    {
        "running": "settled", "run_time": "25 min", "mode": "cooling", "suction_pressure": "73.2 psig", "suction_line": "54.5 °F",
        "liquid_pressure": "203.3 psig", "liquid_line": "100.4 °F", "return_air": "76 °F", "return_wet_bulb": "63 °F", "supply": "54.1 °F",
        "outdoor": "84 °F", "amps": "13.1 A",
    },
)  # fmt: skip
OUT = (
    *_rows(
        "recover",
        {
            "way": "cylinder", "fan_on": True, "valves_open": True, "compressor_runs": True, "finished": True, "end_pressure": "-4 psig",
            "waited": "8 min", "risen_to": "-3.6 psig", "use": "new",
        },
    ),
    *_rows(
        "recover",
        {
            "cylinder": "R11", "contents": "evacuated", "tare": "26 lb 12 oz", "water_capacity": "47.7 lb", "gross_start": "26 lb 12 oz",
            "gross_now": "32 lb 5 oz",
        },
        "cylinders/c1/",
    ),
)  # fmt: skip
OPENED = _rows(
    "repair",
    {"opened_for": "12 min", "joining": "flared", "drier": "new", "drier_way": True, "drier_size": True, "cores": True},
)
OIL: dict[str, Any] = {"drained": "1.0 L", "filled": "1.0 L", "mixed": True}
OVER = (
    *_rows(
        "change_over", {"oil_system": "1.35 L", "oil_grade": "POE 32", "seals": True, "valve": "set", "tagged": True, "no_controls": True}
    ),
    *(row for n in (1, 2, 3) for row in _rows("change_over", OIL, f"oil_changes/o{n}/")),
)
HELD = hold("150 psig", 190, ((15, 149.6, 69.0), (25, 149.5, 68.8), (50, 149.4, 68.5), (80, 149.3, 68.3)), "150 psig", "plate, low side")
TIGHT = vacuum(
    62,
    ((0, "pump"), (0.2, "ballast_open"), (17, "ballast_shut"), (48, "isolated")),
    (
        *((2, 180_000.0), (6, 26_000.0), (11, 9_400.0), (17, 2_400.0), (25, 820.0), (34, 390.0), (47, 228.0)),
        *((48 + m, 232.0 + 9.0 * (1 - 2.0 ** (-m / 2))) for m in (1.6, 2.5, 3.5, 4.5, 6.0, 7.5, 9.0, 10.5, 12.0, 13.5)),
    ),
)
WEIGHED = (
    ("weigh_in", "system_state", "empty"),
    *_rows(
        "weigh_in",
        {"cylinder": "C7", "holds": "R-407C", "gross_start": "30 lb 2 oz", "tare": "5 lb 2 oz", "gross_end": "24 lb 2.5 oz"},
        "draws/d1/",
    ),
)
READ = {"outdoor": "84 °F", "return_air": "76 °F", "return_wet_bulb": "63 °F"}
RUN = (
    *_rows("verify", {"mode": "cooling", "run_in": "20 min", "filter_ok": True, "coils_ok": True, "doors_ok": True, "load_ok": True}),
    *_rows(
        "verify",
        {**READ, "suction_pressure": "72.0 psig", "suction_line": "55.5 °F", "liquid_pressure": "220.9 psig", "liquid_line": "94.4 °F", "supply": "54.1 °F", "at": Ago(58)},
        "readings/r1/",
    ),
    *_rows(
        "verify",
        {
            **READ, "cylinder": "C7", "gross_before": "24 lb 2.5 oz", "gross_after": "23 lb 13.7 oz", "changed_at": Ago(52),
            "suction_pressure": "71.8 psig", "suction_line": "55.2 °F", "liquid_pressure": "222.3 psig", "liquid_line": "92.1 °F", "supply": "54.0 °F", "at": Ago(38),
        },
        "readings/r2/",
    ),
    *_rows(
        "verify",
        {
            **READ, "cylinder": "C7", "gross_before": "23 lb 13.7 oz", "gross_after": "23 lb 9.9 oz", "changed_at": Ago(32),
            "suction_pressure": "71.7 psig", "suction_line": "55.0 °F", "liquid_pressure": "223.5 psig", "liquid_line": "90.6 °F", "supply": "53.9 °F", "amps": "13.6 A", "at": Ago(14),
        },
        "readings/r3/",
    ),
)  # fmt: skip
END = _rows("close_out", {"outcome": "proven", "label_fixed": True})
TO_407C = _rows("plan_change", {"refrigerant": "R-407C", "approved": True})
TO_448A = _rows("plan_change", {"refrigerant": "R-448A", "approved": True})
WALK_IN = (("identify", "design_high", "400 psig"), ("identify", "design_low", "250 psig"))
HALF_DONE = _rows(
    "change_over",
    {
        "seals": True, "valve": "kept", "tagged": True, "controls/k1/kind": "low_cut_out", "controls/k1/was": "18 psig",
        "controls/k1/set_to": "18 psig", "controls/k2/kind": "fan_on", "controls/k2/was": "200 psig",
    },
)  # fmt: skip
GONE = (
    ("as_found", "seen on an earlier visit"),
    ("leak_search", "held under nitrogen last month"),
    ("recover", "recovered yesterday, R-404A, cylinder sent"),
)

JOBS: tuple[dict[str, Any], ...] = (
    {
        "circuit": "AR-1",
        "by": "orrin",
        "kind": "retrofit",
        "title": "Archive split, R-22 to R-407C",
        "stages": (
            PROVEN, "identify", FOUND, "as_found", TO_407C, "plan_change", ("leak_search", "held last year; a loose core was found"),
            OUT, "recover", OPENED, "repair", OVER, "change_over", HELD, "pressure_hold", TIGHT, "evacuate", WEIGHED, "weigh_in", RUN,
            "verify", END, "close_out",
        ),
    },
    {
        "circuit": "AX-1",
        "by": "pell",
        "kind": "retrofit",
        "title": "Annex split, R-410A asked for",
        "stages": (
            PROVEN, "identify", ("as_found", "seen on an earlier visit"),
            _rows("plan_change", {"refrigerant": "R-410A", "approved": True}),
        ),
    },
    {
        "circuit": "CS-1",
        "by": "pell",
        "kind": "retrofit",
        "title": "Cold store, R-404A to R-448A",
        "stages": (
            (*PROVEN, *WALK_IN), "identify", GONE[0], TO_448A, "plan_change", GONE[1], GONE[2], OPENED, "repair", HALF_DONE,
        ),
    },
)  # fmt: skip
