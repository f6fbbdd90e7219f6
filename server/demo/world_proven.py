"""Demo jobs of every kind from plate to proven, and one being trimmed. Invented, like all of the demo world.

Readings of units with a compressor on the practice rig's kinds come from it, the others from what is usual for their kind.
"""

from typing import Any

from demo.world_closed import PROVEN, Ago

Row = tuple[str, str, Any]


def _weigh(cylinder: str, start: str, end: str, tare: str, *more: Row) -> tuple[Row, ...]:
    draw = {"cylinder": cylinder, "gross_start": start, "tare": tare, "gross_end": end}
    return (("weigh_in", "system_state", "empty"), *(("weigh_in", f"draws/d1/{field}", value) for field, value in draw.items()), *more)


def _run(readings: dict[str, str], *more: Row) -> tuple[Row, ...]:
    right = ("filter_ok", "coils_ok", "doors_ok", "load_ok")
    return (
        ("verify", "mode", "cooling"),
        ("verify", "run_in", "20 min"),
        *(("verify", field, True) for field in right),
        *(("verify", f"readings/r1/{field}", value) for field, value in readings.items()),
        *more,
    )


def _drum(number: int, start: str, end: str | None = None) -> tuple[Row, ...]:
    fields = {"cylinder": f"drum {number}", "gross_start": start, "tare": "12 lb", "water_capacity": "86 lb", "hose_loss": "0 oz"}
    rows = tuple(("weigh_in", f"draws/d{number}/{field}", value) for field, value in fields.items())
    return (*rows, ("weigh_in", f"draws/d{number}/gross_end", end)) if end else rows


def _closed(outcome: str) -> tuple[Any, ...]:
    end: tuple[Row, ...] = (("close_out", "outcome", outcome), ("close_out", "label_fixed", True), ("close_out", "update_circuit", False))
    if outcome == "proven_by_weight":
        end += (("close_out", "reason", "this kind is proven by its weight; its own signs agree"),)
    return ("verify", end, "close_out")


def _from_plate(circuit: str, by: str, title: str, weigh: tuple[Row, ...], run: tuple[Row, ...], outcome: str) -> dict[str, Any]:
    stages = (PROVEN, "identify", weigh, "weigh_in", run, *_closed(outcome))
    return {"circuit": circuit, "by": by, "title": title, "stages": stages}


TRIMMING = (
    ("verify", "mode", "cooling"),
    ("verify", "started_at", Ago(52)),
    *(("verify", field, True) for field in ("filter_ok", "coils_ok", "doors_ok", "load_ok")),
    *(
        ("verify", f"readings/{row}/{field}", value)
        for row, fields in (
            (
                "r1",
                {
                    "suction_pressure": "123.3 psig", "suction_line": "68.1 °F", "liquid_pressure": "330.5 psig", "liquid_line": "98.2 °F",
                    "return_wet_bulb": "67.6 °F", "outdoor": "85 °F", "return_air": "80 °F", "supply": "59 °F", "at": Ago(35),
                },
            ),
            (
                "r2",
                {
                    "gross_before": "18 lb 8 oz", "gross_after": "18 lb 3.2 oz", "changed_at": Ago(30),
                    "suction_pressure": "124.8 psig", "suction_line": "66.6 °F", "liquid_pressure": "332.3 psig", "liquid_line": "95.2 °F",
                    "return_wet_bulb": "67.7 °F", "outdoor": "84.6 °F", "return_air": "80 °F", "supply": "59 °F", "at": Ago(14),
                },
            ),
        )
        for field, value in fields.items()
    ),
)  # fmt: skip
HEATED = (
    ("verify", "other_mode/o1/suction_pressure", "330 psig"),
    ("verify", "other_mode/o1/return_air", "70 °F"),
    ("verify", "other_mode/o1/outdoor", "52 °F"),
)

JOBS: tuple[dict[str, Any], ...] = (
    _from_plate(
        "LS-1",
        "orrin",
        "Library split, proven",
        _weigh("16", "31 lb 4 oz", "24 lb 14 oz", "6 lb 6 oz"),
        _run(
            {
                "suction_pressure": "122.4 psig", "suction_line": "53 °F", "liquid_pressure": "362 psig", "liquid_line": "96.4 °F",
                "outdoor": "90 °F", "return_air": "80 °F",
            }
        ),
        "proven",
    ),
    _from_plate(
        "HP-1",
        "pell",
        "Guest house heat pump, both modes",
        _weigh("17", "24 lb 8 oz", "18 lb 8 oz", "6 lb 6 oz"),
        _run(
            {
                "suction_pressure": "127.7 psig", "suction_line": "63.7 °F", "liquid_pressure": "339.5 psig", "liquid_line": "91.7 °F",
                "return_wet_bulb": "67.9 °F", "outdoor": "84.6 °F", "return_air": "80 °F", "supply": "58.9 °F",
            },
            *HEATED,
        ),
        "proven",
    ),
    _from_plate(
        "DL-1",
        "orrin",
        "Detector lab, circuit 1, proven",
        _weigh("18", "30 lb 2 oz", "22 lb 2 oz", "6 lb 6 oz"),
        _run(
            {
                "suction_pressure": "125.1 psig", "suction_line": "54.2 °F", "liquid_pressure": "356.1 psig", "liquid_line": "94.3 °F",
                "outdoor": "88 °F", "return_air": "80 °F", "return_wet_bulb": "64 °F", "supply": "54.9 °F",
            }
        ),
        "proven",
    ),
    _from_plate(
        "GH-1",
        "pell",
        "Gatehouse ductless, by weight",
        _weigh("19", "12 lb 10 oz", "9 lb 7.7 oz", "5 lb 2 oz", ("weigh_in", "scale_step", "0.1 oz")),
        _run({"suction_pressure": "126.5 psig", "liquid_pressure": "369.2 psig", "outdoor": "88 °F", "return_air": "76 °F"}),
        "proven_by_weight",
    ),
    _from_plate(
        "VC-1",
        "pell",
        "Visitor centre, variable flow, by weight",
        _weigh("pair of 50 lb", "45.000 kg", "20.322 kg", "9.000 kg"),
        _run({"suction_pressure": "126.5 psig", "liquid_pressure": "349.5 psig", "outdoor": "86 °F", "return_air": "75 °F"}),
        "proven_by_weight",
    ),
    _from_plate(
        "CS-1",
        "orrin",
        "Cold store, to the glass",
        _weigh("K1", "46 lb 4 oz", "26 lb 12 oz", "6 lb 8 oz"),
        _run(
            {"suction_pressure": "65.9 psig", "liquid_pressure": "229 psig", "outdoor": "72 °F", "box": "38 °F"},
            ("verify", "sight_glass", "clear"),
            ("verify", "receiver_level", "62 %"),
        ),
        "proven_by_weight",
    ),
    _from_plate(
        "CA-1",
        "orrin",
        "Canteen reach-in, weighed to the gram",
        _weigh("P4", "2.140 kg", "1.990 kg", "1.020 kg", ("weigh_in", "scale_step", "1 g")),
        _run({"suction_pressure": "35.1 psig", "liquid_pressure": "179.7 psig", "outdoor": "74 °F", "box": "38 °F"}),
        "proven_by_weight",
    ),
    _from_plate(
        "SV-1",
        "pell",
        "Shuttle van, four cans",
        (
            ("weigh_in", "system_state", "empty"),
            ("weigh_in", "scale_step", "1 g"),
            *(
                ("weigh_in", f"draws/d{n}/{field}", value)
                for n, end in ((1, "111 g"), (2, "111 g"), (3, "111 g"), (4, "202 g"))
                for field, value in (
                    ("cylinder", f"can {n}"), ("label_net", "12 oz"), ("residue", "11 g"), ("gross_start", "440 g"), ("gross_end", end),
                )
            ),
        ),
        _run(
            {"suction_pressure": "38.4 psig", "liquid_pressure": "187.9 psig", "outdoor": "88 °F", "supply": "51 °F", "humidity": "30 %"},
        ),
        "proven_by_weight",
    ),
    _from_plate(
        "DC-1",
        "pell",
        "Dome chiller, circuit 1, proven",
        (
            ("weigh_in", "system_state", "empty"),
            ("weigh_in", "water_safe", True),
            *(
                ("weigh_in", f"draws/d{n}/{field}", value)
                for n in (1, 2, 3)
                for field, value in (
                    ("cylinder", f"A{n}"), ("tare", "70 lb"), ("hose_loss", "0 oz"), ("gross_start", "195 lb"), ("gross_end", "89 lb"),
                )
            ),
        ),
        _run(
            {
                "suction_pressure": "38.8 psig", "suction_line": "52.5 °F", "liquid_pressure": "123.3 psig", "liquid_line": "88 °F",
                "chilled_out": "44 °F", "condenser_out": "95 °F",
            }
        ),
        "proven",
    ),
    _from_plate(
        "MS-1",
        "orrin",
        "Eight drums of R-123, by weight",
        (
            ("weigh_in", "system_state", "empty"),
            ("weigh_in", "water_safe", True),
            *(row for n in range(1, 8) for row in _drum(n, "112 lb", "12 lb 6.5 oz")),
            *_drum(8, "112 lb", "109 lb 2.5 oz"),
        ),
        _run({"suction_pressure": "-5.6 psig", "liquid_pressure": "7.9 psig", "chilled_out": "43 °F", "condenser_out": "92 °F"}),
        "proven_by_weight",
    ),
    {
        "circuit": "HP-1",
        "by": "pell",
        "title": "Guest house heat pump, trimming",
        "stages": (PROVEN, "identify", _weigh("17", "24 lb 8 oz", "18 lb 8 oz", "6 lb 6 oz"), "weigh_in", TRIMMING),
    },
)  # fmt: skip
