"""A retrofit for tests: an R-22 orifice split with mineral oil at 2,100 m, 8 lb 12 oz full, that becomes R-407C."""

from typing import Any

from tests.make import findings, oz
from yoshi_core.job.evaluate import Findings
from yoshi_core.message import worded

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


STARTED = {"cylinder": "N7", "holds": "R-407C", "gross_start": "30 lb", "tare": "5 lb", "gross_end": "22 lb 8.6 oz"}
WEIGHED = {"system_state": "empty", "draws": {"d1": STARTED}}
READ = {
    "suction_pressure": "66 psig",
    "suction_line": "60 °F",
    "liquid_pressure": "225 psig",
    "liquid_line": "96 °F",
    "outdoor": "88 °F",
    "return_wet_bulb": "65 °F",
}
WALK_IN = {
    "refrigerant": "R-404A", "factory_charge": "10 lb", "kind": "receiver", "metering": "txv", "oil": "POE", "altitude": "0 m",
    "gauge_reference": "vented", "design_high": "400 psig", "floods": False, "pairing_proven": True, "pairing_by": "only",
    "included_length": "20 ft", "lines": {"l1": {"length": "20 ft", "liquid_od": "3/8 in", "suction_od": "7/8 in"}},
}  # fmt: skip
REACH_IN = {
    "refrigerant": "R-134a", "factory_charge": "6 oz", "kind": "reach_in", "metering": "capillary", "oil": "POE", "altitude": "0 m",
    "gauge_reference": "vented", "design_high": "250 psig", "tolerance": "0.2 oz",
}  # fmt: skip


def told(found: Findings, step: str) -> dict[str, str]:
    return {reason.rule_id: reason.word for reason in found.step(step).verdict.reasons}


def said(found: Findings, step: str, rule: str) -> str:
    return next(r.message.show() for r in found.step(step).verdict.reasons if r.rule_id == rule)


def figure_oz(found: Findings, step: str, name: str) -> float:
    figure = found.step(step).figure(name)
    assert figure is not None
    return oz(figure.amount.value)


def lacks(found: Findings, step: str) -> list[str]:
    return [worded(missing.label) for missing in found.step(step).missing]
