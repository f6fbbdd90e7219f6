"""Thresholds of the practice profile: what is read lies a hair over, on, and a hair under each, and what is said follows.

The document stays and the threshold is moved to what it reads, so the same figures are judged from both sides. A threshold
that is only inclusive by the word of its rule ("from", "up to", "at least") is held to that word by the middle case.
"""

import pytest
from CoolProp.CoolProp import PropsSI

from tests.make import PLATE, RUNNING, WEIGHED, findings, job, kelvin, reading_with
from tests.make_changed import OLD, SHEETS
from tests.make_closed import RECOVERED, REPAIRED, UNIT, rules
from tests.steps.edges import (
    MIN,
    UNHELD,
    VRF,
    Edge,
    by_school,
    coarse,
    heated,
    hold,
    in_a_room,
    kind_of,
    logged_by,
    nineteen,
    one_cylinder,
    orifice,
    over,
    pulled,
    running,
    scaled,
    service,
    step_of,
    traced,
    under,
    under_k,
    vacuum,
    weighed,
)
from tests.steps.verify.test_verify_kinds import TestChiller, psig
from yoshi_core import refrigerants
from yoshi_core.job.evaluate import full_charge_kg
from yoshi_core.profile.profile import RULES, Profile
from yoshi_core.running import controls
from yoshi_core.units.quantities import FAHRENHEIT_K, MICRON_PA, OZ_KG, PSI_PA

FOUND = {
    "running": "settled", "run_time": "15 min", "mode": "cooling", "suction_pressure": "142.6 psig", "suction_line": "52.2 °F",
    "liquid_pressure": "540 psig", "liquid_line": "81.6 °F",
}  # fmt: skip
TRIMMED = {
    "r1": {**reading_with(11.0, 1.0), "at": "2026-06-18T14:41:00+00:00"},
    "r2": {"added": "3 oz", "changed_at": "2026-06-18T15:09:00+00:00"},
}
STANDING = {"r1": reading_with(11.0, 1.0), "r2": reading_with(11.0, 5.0), "r3": reading_with(11.0, 5.5)}
FLAT = ((2, 300.0), (6, 301.0), (10, 302.0))
VRF_KG = full_charge_kg(job(VRF).steps["identify"].runs[0].sheet, Profile())
assert VRF_KG is not None
PROPANE = refrigerants.get("R-290")
assert PROPANE.lfl_kg_m3 is not None
REACH_IN = {"refrigerant": "R-290", "factory_charge": "140 g", "kind": "reach_in", "metering": "capillary", "tolerance": "5 g"}

FULL_AT_K = max(  # where 38 lb of liquid take all of 47.7 lb of water's room, by the reference equation of state
    kelvin for kelvin in (300 + 0.01 * n for n in range(4_000)) if PropsSI("D", "T", kelvin, "Q", 0, "R410A") >= 1000.0 * 38.0 / 47.7
)
MOST_LB = 40.44  # of R-410A in 47.7 lb of water, four fifths full at 77 °F
IN_A_CAR = {"suction_pressure": psig("R-134a", 40, 0.6), "liquid_pressure": psig("R-134a", 105, 0.5), "outdoor": "80 °F"}
OVER_AIR = reading_with(11.0, 10.0, outdoor="85 °F")
DROPPED = ((15, 554.0, 70.0), (35, 550.0, 70.0))
CONTROL = {"k1": {"kind": "low_cut_out", "was": "25 psig", "set_to": "30 psig"}}
LOW_CUT_OUT_PA, _ = controls.changed_pa("R-22", "R-407C", 25 * PSI_PA, True, 2100.0, "vented")
DUCTLESS = {"suction_pressure": psig("R-410A", 45, 0.6), "liquid_pressure": psig("R-410A", 100, 0.5), "outdoor": "75 °F"}
ORIFICE_AT_67_AND_95_F = (3 * 67 - 80 - 95) / 2  # the field formula's superheat; common practice, no source
AREA = 0.97894644  # of the old orifice, by the cycle of R-407C against R-22
NINE_OF_96 = {
    f"r{n}": {**reading_with(superheat, None, return_wet_bulb="67 °F", outdoor="95 °F"), **({"added": "3 oz"} if n > 1 else {})}
    for n, superheat in enumerate((30.0, 28.0, 26.0, 24.0), 1)
}
ROOMS = ("R-22", "R-407C", "R-134a", "R-404A", "R-507A", "R-448A", "R-449A", "R-452A", "R-513A", "R-407A", "R-407F", "R-123")

ONE_CHANGE = {"oil_system": "1 L", "oil_grade": "POE 32", "oil_changes": {"o1": {"drained": "0.75 L", "filled": "0.75 L", "mixed": True}}}

EDGES: dict[str, Edge] = {
    "verify.run_in": Edge(step_of(job(PLATE, WEIGHED, RUNNING), "verify"), 15 * MIN, "verify.run_in", ("Holds", "Holds", "Wait")),
    "verify.settle": Edge(running(rows=TRIMMED), 2 * MIN, "verify.settle", (None, None, "Wait")),
    "verify.steady": Edge(running(rows=STANDING), 0.5 * FAHRENHEIT_K, "verify.steady", ("Wait", None, None), 2e-6),
    "verify.outdoor_low": Edge(running(outdoor="60 °F"), kelvin(60), "verify.outdoor_low", (None, None, "Wait")),
    "verify.superheat_low": Edge(running(), 11 * FAHRENHEIT_K, "verify.superheat_low", (None, UNHELD, "Stop"), 1e-5),
    "verify.superheat_high": Edge(running(), 11 * FAHRENHEIT_K, "verify.superheat_high", ("Stop", UNHELD, None), 1e-5),
    "coil.split_low": Edge(running(return_air="75 °F", supply="67 °F"), 16 * FAHRENHEIT_K, "verify.split", ("Holds", UNHELD, "Open"), 1e-5),
    "coil.split_high": Edge(running(return_air="85 °F", supply="50 °F"), 27 * FAHRENHEIT_K, "verify.split", ("Open", UNHELD, "Holds"), 1e-5),
    "coil.split_humid": Edge(running(return_air="80 °F", supply="50 °F"), 3 * FAHRENHEIT_K, "verify.split", ("Open", UNHELD, "Holds"), 1e-5),
    "target.wet_bulb_low": Edge(orifice(), kelvin(67), "target.wet_bulb_low", (None, None, "Wait")),
    "target.wet_bulb_high": Edge(orifice(), kelvin(67), "target.wet_bulb_high", ("Wait", None, None)),
    "target.outdoor_low": Edge(orifice(outdoor="75 °F"), kelvin(75), "target.outdoor_low", (None, None, "Wait")),
    "target.outdoor_high": Edge(orifice(), kelvin(95), "target.outdoor_high", ("Wait", None, None)),
    "as_found.run_in": Edge(service("as_found", PLATE, as_found=FOUND), 15 * MIN, "as_found.run_in", (None, None, "Wait")),
    "weigh_in.tolerance": Edge(weighed("14 lb 2 oz"), 1.95 / 96, "weigh_in.tolerance", ("Wait", UNHELD, "Holds"), 1e-4),
    "recover.wait": Edge(service("recover", recover=RECOVERED), 6 * MIN, "recover.rise", ("Holds", "Holds", None)),
    "recover.right_low": Edge(
        service("recover", {**UNIT, "factory_charge": "8 lb"}, recover=RECOVERED), 0.75, "recover.share", ("Holds", "Holds", "Open")
    ),
    "recover.right_high": Edge(service("recover", {**UNIT, "factory_charge": "5 lb"}, recover=RECOVERED), 1.2, "recover.share", ("Open", UNHELD, "Holds")),
    "hold.settle": Edge(hold(((15, 554.0, 70.0), (35, 545.0, 67.0))), 15 * MIN, "hold.settle", (None, None, "Wait"), 2e-3),
    "hold.least": Edge(hold(), 20 * MIN, "hold.least", (None, None, "Wait")),
    "hold.volume": Edge(hold(), 0.0045, "hold.least", ("Wait", UNHELD, None)),
    "vacuum.hold_volume": Edge(vacuum(FLAT), 0.010, "vacuum.decay", ("Wait", UNHELD, "Holds")),
    "coil.reach_in_over_high": Edge(
        kind_of("reach_in", {"box": "38 °F", "outdoor": "75 °F", "liquid_pressure": "134.957 psig", "suction_pressure": "14.1 psig"}),
        25 * FAHRENHEIT_K, "verify.over_air", ("Wait", UNHELD, "Holds"), 1e-3,
    ),
    "hold.chiller": Edge(hold(plate={**UNIT, "kind": "chiller"}), 20 * MIN, "hold.least", (None, None, "Wait")),
    "hold.low_pressure": Edge(
        hold(plate={**UNIT, "refrigerant": "R-123", "kind": "chiller"}, test_pressure="10.1 psig"), 10.1 * PSI_PA, "hold.low_pressure",
        ("Stop", None, None),
    ),
    "repair.open_limit_mineral": Edge(
        service("repair", recover=RECOVERED, repair={**REPAIRED, "oil_grade": "mineral"}), 10 * MIN, "repair.open", ("Open", None, None)
    ),
    "repair.open_limit": Edge(service("repair", recover=RECOVERED, repair=REPAIRED), 10 * MIN, "repair.open", ("Open", None, None)),
    "room.R-410A": Edge(
        lambda profile: findings(VRF, profile=profile).step("identify"), VRF_KG / 10.0, "room.breathing", ("Stop", "Holds", "Holds"), 1e-4
    ),
    "room.free": Edge(
        lambda profile: findings(REACH_IN, profile=profile).step("identify"), 0.140 / PROPANE.lfl_kg_m3, "room.free", ("Wait", "Holds", "Holds")
    ),
    "receiver.level": Edge(
        kind_of("receiver", {}, "R-404A", {"floods": False}, receiver_level="92 %", sight_glass="clear"), 0.92, "verify.receiver",
        ("Stop", "Holds", "Holds"),
    ),
    "vehicle.over_low": Edge(kind_of("vehicle", IN_A_CAR), 30 * FAHRENHEIT_K, "verify.vehicle_head", ("Holds", UNHELD, "Wait"), 5e-3),
    "vehicle.over_high": Edge(kind_of("vehicle", IN_A_CAR), 20 * FAHRENHEIT_K, "verify.vehicle_head", ("Wait", UNHELD, "Holds"), 5e-3),
    "vehicle.evaporating_low": Edge(kind_of("vehicle", IN_A_CAR), kelvin(40), "verify.vehicle_suction", ("Holds", UNHELD, "Wait"), 2e-4),
    "vehicle.evaporating_high": Edge(kind_of("vehicle", IN_A_CAR), kelvin(40), "verify.vehicle_suction", ("Wait", UNHELD, "Holds"), 2e-4),
    "vehicle.vent": Edge(
        kind_of("vehicle", {"outdoor": "90 °F", "supply": "55 °F"}), kelvin(45), "verify.vent", ("Wait", "Holds", "Holds"), 1e-5
    ),
    "vehicle.vent_slope": Edge(
        kind_of("vehicle", {"outdoor": "90 °F", "supply": "55 °F"}), 0.25, "verify.vent", ("Wait", "Holds", "Holds"), 1e-5
    ),
    "vacuum.battery": Edge(vacuum(FLAT, gauge_battery="80 %"), 0.8, "vacuum.battery", (None, None, "Open")),
    "vacuum.target": Edge(
        vacuum(((2, 576.0), (6, 583.0), (10, 590.0))), 590 * MICRON_PA, "vacuum.decay", ("Wait", "Holds", "Holds"),
    ),
    "vacuum.hold": Edge(vacuum(FLAT), 10 * MIN, "vacuum.decay", ("Holds", "Holds", "Wait")),
    "retrofit.residual_oil": Edge(
        lambda profile: findings(OLD, kind="retrofit", sheets={**SHEETS, "change_over": ONE_CHANGE}, profile=profile).step("change_over"),
        0.25, "retrofit.residual_oil", ("Wait", "Holds", "Holds"),
    ),
    "coil.reach_in_under_low": Edge(
        under("reach_in", 38, 14.1, 75, 134.957), under_k(38, 14.1) + 5 * FAHRENHEIT_K, "verify.under_box", ("Holds", UNHELD, "Wait")
    ),
    "coil.reach_in_under_high": Edge(
        under("reach_in", 38, 14.1, 75, 134.957), under_k(38, 14.1) - 5 * FAHRENHEIT_K, "verify.under_box", ("Wait", UNHELD, "Holds")
    ),
    "coil.reach_in_over_low": Edge(
        under("reach_in", 38, 14.1, 75, 134.957), 35 * FAHRENHEIT_K, "verify.over_air", ("Holds", UNHELD, "Wait"), 1e-4
    ),
    "coil.walk_in_under_low": Edge(
        under("receiver", 35, 22, 75, 134.957), under_k(35, 22) + 5 * FAHRENHEIT_K, "verify.under_box", ("Holds", UNHELD, "Wait")
    ),
    "coil.walk_in_under_high": Edge(
        under("receiver", 35, 22, 75, 134.957), under_k(35, 22) - 5 * FAHRENHEIT_K, "verify.under_box", ("Wait", UNHELD, "Holds")
    ),
    "coil.walk_in_over_low": Edge(
        under("receiver", 35, 22, 75, 134.957), 35 * FAHRENHEIT_K, "verify.over_air", ("Holds", UNHELD, "Wait"), 1e-4
    ),
    "coil.walk_in_over_high": Edge(
        under("receiver", 35, 22, 75, 134.957), 25 * FAHRENHEIT_K, "verify.over_air", ("Wait", UNHELD, "Holds"), 1e-4
    ),
    "coil.near_cut_out": Edge(service("as_found", {**UNIT, "altitude": "0 m"}, as_found={**FOUND, "liquid_pressure": psig("R-410A", 135, 0.5)}), kelvin(135), "as_found.near_cut_out", ("Open", UNHELD, None), 2e-4),
    "coil.slack": Edge(under("reach_in", 38, 14.1, 75, 134.957), 25 * FAHRENHEIT_K - under_k(38, 14.1), "verify.under_box", ("Wait", UNHELD, "Holds")),
    "coil.cooling_over_high": Edge(running(rows={"r1": OVER_AIR}), 10 * FAHRENHEIT_K, "verify.over_air", ("Stop", UNHELD, None), 2e-2),
    "coil.heating_over_low": Edge(heated(32), 37 * FAHRENHEIT_K, "verify.other_mode", ("Holds", UNHELD, "Wait"), 1e-5),
    "coil.heating_over_high": Edge(heated(32), 27 * FAHRENHEIT_K, "verify.other_mode", ("Wait", UNHELD, "Holds"), 1e-5),
    "coil.heating_at": Edge(
        heated(52, 70), kelvin(70) - 2 * FAHRENHEIT_K / 0.3, "verify.other_mode", ("Holds", UNHELD, "Wait"), 1e-6
    ),
    "coil.heating_shift": Edge(heated(52, 70), 2 / 23, "verify.other_mode", ("Wait", UNHELD, "Holds"), 1e-4),
    "chiller.approach": Edge(
        kind_of(
            "chiller", {"chilled_out": "44 °F", "suction_pressure": psig("R-123", 41, 0.6)}, "R-123", TestChiller.PLATE
        ),
        3 * FAHRENHEIT_K, "verify.evaporator_approach", ("Wait", UNHELD, "Holds"), 2e-3,
    ),
    "vehicle.vent_humid": Edge(
        kind_of("vehicle", {"outdoor": "90 °F", "supply": "64 °F", "humidity": "80 %"}), FAHRENHEIT_K, "verify.vent", ("Wait", "Holds", "Holds"), 1e-8
    ),
    "verify.subcooling_tolerance": Edge(
        running(rows={"r1": reading_with(11.0, 7.0)}), 3 * FAHRENHEIT_K, "verify.subcooling_tolerance", ("Open", UNHELD, "Holds"), 1e-6
    ),
    "trim.cap_share": Edge(running("orifice", rows=NINE_OF_96), 9 / 96, "trim.cap", ("Stop", UNHELD, None), 1e-6),
    "critical.scale_share": Edge(coarse("0.05 oz"), 0.05 / 0.3, "critical.scale_share", ("Stop", UNHELD, None), 2e-6),
    "critical.tolerance": Edge(nineteen("0.2 oz"), 0.6 * OZ_KG, "critical.scale_share", ("Stop", UNHELD, None), 1e-5),
    "leak.tracer": Edge(traced("1.5 oz"), 1.5 * OZ_KG, "leak.tracer", ("Stop", UNHELD, None), 1e-5),
    "leak.tracer_share": Edge(traced("0.5 oz"), 0.5 / 96, "leak.tracer", ("Stop", UNHELD, None), 1e-5),
    "weigh_in.small": Edge(nineteen("0.2 oz"), 0.6 / 19, "critical.scale_share", ("Stop", UNHELD, None), 1e-5),
    "weigh_in.least": Edge(scaled("0.2 oz", factory_charge="30 oz"), 0.6 * OZ_KG, "weigh_in.coarse", ("Open", UNHELD, None), 1e-5),
    "critical.below": Edge(
        scaled("0.5 oz", factory_charge="40 oz", metering="capillary"), 40 * OZ_KG, "critical.scale_share", (None, None, "Stop"), 1e-5
    ),
    "recover.nearly_full": Edge(one_cylinder(), (MOST_LB - 38.0) / MOST_LB, "cylinder.change", (None, UNHELD, "Wait"), 2e-3),
    "cylinder.fill": Edge(one_cylinder(), 0.8 * 38.0 / MOST_LB, "cylinder.over", ("Stop", UNHELD, None), 1e-3),
    "recover.oily_fill": Edge(one_cylinder(oily=True), 0.8 * 38.0 / MOST_LB, "cylinder.over", ("Stop", UNHELD, None), 1e-3),
    "hold.step": Edge(hold(DROPPED), 4 * PSI_PA, "hold.drop", ("Wait", UNHELD, "Holds"), 1e-6),
    "vacuum.chiller": Edge(
        pulled([(0, "pump"), (30, "isolated")], [(32, 300.0), (36, 301.0), (44, 302.0)], {**UNIT, "kind": "chiller"}),
        14 * MIN, "vacuum.decay", ("Holds", UNHELD, "Wait"), 1e-4,
    ),
    "vacuum.oil_uses": Edge(vacuum(FLAT, oil_fresh=None, oil_uses="7"), 7, "vacuum.oil_uses", ("Open", UNHELD, None)),
    "vacuum.unattended": Edge(pulled([(0, "pump")], [(150, 2500)]), 150 * MIN, "vacuum.unattended", ("Open", None, None)),
    "vacuum.ballast": Edge(
        pulled([(0, "pump"), (0.1, "ballast_open")], [(10, 9000), (15, 2500)]), 2500 * MICRON_PA, "vacuum.ballast", (None, UNHELD, "Wait")
    ),
    "vacuum.gauges": Edge(
        pulled([(0, "pump"), (30, "isolated")], [(34, 400.0), (40, 400.0, 500.0)]), 0.2, "vacuum.port", ("Wait", UNHELD, None)
    ),
    "retrofit.control": Edge(over(controls=CONTROL), 30 * PSI_PA - LOW_CUT_OUT_PA, "retrofit.control", ("Wait", UNHELD, "Holds"), 1e-6),
    "coil.cooling_over_low": Edge(
        kind_of("ductless", DUCTLESS, "R-410A", {"metering": "eev"}), 30 * FAHRENHEIT_K, "verify.air", ("Holds", UNHELD, "Open"), 1e-5
    ),
    "coil.cooling_evaporating_low": Edge(
        kind_of("ductless", DUCTLESS, "R-410A", {"metering": "eev"}), kelvin(45), "verify.air_evaporating", ("Holds", UNHELD, "Open")
    ),
    "coil.cooling_evaporating_high": Edge(
        kind_of("ductless", DUCTLESS, "R-410A", {"metering": "eev"}), kelvin(45), "verify.air_evaporating", ("Open", UNHELD, "Holds")
    ),
    "verify.superheat_tolerance": Edge(
        running("orifice", rows={"r1": reading_with(20.0, None, return_wet_bulb="67 °F", outdoor="95 °F")}),
        (20 - ORIFICE_AT_67_AND_95_F) * FAHRENHEIT_K, "verify.superheat_tolerance", ("Open", UNHELD, "Holds"), 1e-5,
    ),
    "verify.assumed_subcooling": Edge(
        running(rows={"r1": reading_with(11.0, 8.0)}), (8 + 3) * FAHRENHEIT_K, "verify.subcooling_tolerance", ("Holds", UNHELD, "Open"), 1e-5
    ),
    "target.lowest": Edge(
        orifice(return_wet_bulb="60 °F", outdoor="90 °F"), 5 * FAHRENHEIT_K, "target.applies", (None, None, "Wait"), 1e-8
    ),
    "cylinder.hot": Edge(one_cylinder(), FULL_AT_K, "cylinder.hot", (None, UNHELD, "Wait"), 1e-3),
    "recover.blend_lost": Edge(
        service("recover", {**UNIT, "refrigerant": "R-407C", "factory_charge": "8 lb"}, recover=RECOVERED), 2 / 8, "recovered.use",
        ("Stop", UNHELD, "Holds"),
    ),
    "instrument.calibrated": Edge(logged_by(500), 500 * 86_400.0, "log.calibration", ("Open", UNHELD, None)),
    "vacuum.deep": Edge(by_school(vacuum(FLAT), vacuum_proof="deep"), 300 * MICRON_PA, "vacuum.decay", ("Wait", UNHELD, "Holds")),
    "vacuum.rise": Edge(by_school(vacuum(FLAT), vacuum_proof="thousand"), 302 * MICRON_PA, "vacuum.decay", ("Wait", "Holds", "Holds")),
    "retrofit.gwp": Edge(
        lambda profile: findings(OLD, kind="retrofit", sheets=SHEETS, profile=profile).step("plan_change"), 1773.8, "retrofit.gwp",
        ("Stop", None, None),
    ),
    "retrofit.orifice": Edge(over(orifice="0.080"), 0.080 / (0.070 * AREA**0.5) - 1.0, "retrofit.orifice", ("Wait", UNHELD, "Holds"), 1e-6),
    **{f"room.{name}": in_a_room(name) for name in ROOMS},
}  # fmt: skip


SCALES = {
    **dict.fromkeys(("plate.limit", "line.length_limit", "line.allowance_limit", "line.geometry_limit", "part.limit", "scale.limit"), "±"),
    **dict.fromkeys(("hold.metal", "hold.no_metal", "probe.temperature_limit", "probe.pressure_limit", "vacuum.floor", "vacuum.share"), "±"),
    **dict.fromkeys(("verify.blunt", "vacuum.leak", "vacuum.discard", "instrument.overdue"), "± or fit, in the tests of what judges them"),
    **dict.fromkeys(("line.liquid_k", "line.suction_dew_k", "line.suction_superheat_k", "receiver.flooded", "receiver.winter"), "the plan"),
    **dict.fromkeys(("cylinder.heel_k", "cylinder.last_k", "weigh_in.reaction", "weigh_in.slow_share", "weigh_in.safe", "room.mild"), "a mark, or a share of one"),
    **dict.fromkeys(("hold.gross", "hold.second", "hold.limit", "hold.interval", "vacuum.first", "vacuum.second", "vacuum.rest"), "a row of the plan"),
    **dict.fromkeys(("nitrogen.flow", "nitrogen.sweep", "nitrogen.sweep_time"), "how much nitrogen it takes"),
    **dict.fromkeys(("vacuum.pump", "vacuum.bore", "vacuum.length"), "the forecast where nobody said"),
    **dict.fromkeys((name for name in RULES if name.startswith("time.")), "the day's clock"),
    **dict.fromkeys(("day.opens", "day.closes", "weigh_in.grams"), "tests/day and tests/test_grams.py: what is planned, how it is shown"),
    **dict.fromkeys(("leak.inside", "leak.from_charge", "leak.from_gwp", "leak.limit_cooling", "leak.limit_commercial"), "tests/books"),
    **dict.fromkeys(("leak.unsure", "coil.heating_under_low", "coil.heating_under_high", "coil.amps_low", "coil.amps_high", "trim.other_cause"), "a rank among causes"),
    **dict.fromkeys(("retrofit.start_share", "retrofit.worst_over", "retrofit.close", "retrofit.least_subcooling", "retrofit.size"), "the plan"),
    **dict.fromkeys(("trim.step_share", "trim.gap_share", "glide.zeotrope"), "how large a step is; a note"),
}  # fmt: skip


def test_every_threshold_is_held_at_its_edge_or_said_to_scale_something() -> None:
    assert set(EDGES) | set(SCALES) == set(RULES)
    assert not set(EDGES) & set(SCALES)


@pytest.mark.parametrize("rule", sorted(EDGES))
def test_a_hair_decides(rule: str) -> None:
    edge = EDGES[rule]
    hair = edge.hair or 1e-6
    at = [edge.on * (1.0 - hair), edge.on, edge.on * (1.0 + hair)]
    assert RULES[rule].low <= at[0]
    assert at[2] <= RULES[rule].high
    found = tuple(rules(edge.says(Profile(overrides={rule: value}))).get(edge.reason) for value in at)
    assert found == tuple(word if held == UNHELD else held for word, held in zip(found, edge.told, strict=True))
