"""A retrofit for tests: an R-22 orifice split with mineral oil at 2,100 m, 8 lb 12 oz full, that becomes R-407C."""

from typing import Any

from tests.make import findings
from yoshi_core.job.evaluate import Findings

OLD = {
    "refrigerant": "R-22", "factory_charge": "8 lb 12 oz", "kind": "split", "metering": "orifice", "orifice": "0.070", "oil": "mineral",
    "altitude": "2100 m", "gauge_reference": "vented", "design_high": "300 psig", "design_low": "150 psig", "included_length": "25 ft",
    "pairing_proven": True, "pairing_by": "only",
    "lines": {"l1": {"length": "25 ft", "liquid_od": "3/8 in", "suction_od": "3/4 in"}},
}  # fmt: skip
PLAN = {"refrigerant": "407c", "approved": True}
OUT = {
    "way": "cylinder", "fan_on": True, "valves_open": True, "finished": True, "compressor_runs": True, "end_pressure": "-4 psig",
    "waited": "6 min", "risen_to": "-3.5 psig", "use": "new",
    "cylinders": {"c1": {
        "cylinder": "R9", "contents": "same", "tare": "27 lb", "water_capacity": "47.7 lb", "gross_start": "30 lb", "gross_now": "36 lb 2 oz",
    }},
}  # fmt: skip
REPAIRED = {"opened_for": "20 min", "joining": "flared", "drier": "new", "drier_way": True, "drier_size": True, "cores": True}
OIL = {"drained": "0.9 L", "filled": "0.9 L", "mixed": True}
OVER = {
    "oil_system": "1.2 L", "oil_grade": "POE 32", "oil_changes": {"o1": OIL, "o2": OIL, "o3": OIL}, "seals": True, "orifice": "0.070",
    "tagged": True, "controls": {"k1": {"kind": "low_cut_out", "was": "25 psig", "set_to": "24 psig"}},
}  # fmt: skip
SHEETS: dict[str, Any] = {"plan_change": PLAN, "recover": OUT, "repair": REPAIRED, "change_over": OVER}


def changed(
    plate: dict[str, Any] | None = None, weigh: dict[str, Any] | None = None, verify: dict[str, Any] | None = None, **sheets: Any
) -> Findings:
    """A retrofit with the given sheets over the usual ones; a sheet of None leaves its step out."""
    return findings(plate or OLD, weigh, verify, kind="retrofit", sheets={**SHEETS, **sheets})
