"""The unit in time: lags, cut-outs, hoses, and nothing gained or lost between unit and cylinder."""

from dataclasses import replace

import pytest

from yoshi_core.errors import InvalidInput
from yoshi_core.properties import saturation
from yoshi_core.rig.cylinder import WATER_K, Cylinder
from yoshi_core.rig.design import Plate, design, fahrenheit
from yoshi_core.rig.live import LiveUnit, Snapshot
from yoshi_core.rig.solve import solve
from yoshi_core.rig.unit import Faults
from yoshi_core.units.quantities import LB_KG, PSI_PA

PLATE = Plate()
UNIT = design(PLATE)


def cylinder(net_lb: float = 20.0, degrees_f: float = 75.0, refrigerant: str = "R-410A", **more: bool) -> Cylinder:
    warm = fahrenheit(degrees_f)
    return Cylinder(refrigerant, net_lb * LB_KG, 9 * LB_KG, 26 * LB_KG, warm, warm, **more)


def steps(live: LiveUnit, seconds: int) -> list[Snapshot]:
    return [live.step(1.0) for _ in range(seconds)]


def test_it_settles_where_the_solver_says_and_not_at_once() -> None:
    live = LiveUnit(UNIT, PLATE.weather)
    live.start()
    course = steps(live, 1200)
    aim = solve(UNIT, PLATE.weather)
    assert course[-1].suction_pa == pytest.approx(aim.suction_pa, rel=1e-4)
    assert course[-1].liquid_k == pytest.approx(aim.liquid_k, abs=0.01)
    assert abs(course[9].suction_pa - aim.suction_pa) > 20 * PSI_PA
    assert not course[300].settled
    assert course[-1].settled


def test_pressure_answers_before_the_pipe_and_the_pipe_before_the_discharge() -> None:
    live = LiveUnit(UNIT, PLATE.weather)
    first = live.step(1.0)
    live.start()
    course = [first, *steps(live, 2000)]
    last = course[-1]

    def reached(name: str) -> int:
        start, end = getattr(first, name), getattr(last, name)
        return next(n for n, s in enumerate(course) if abs(getattr(s, name) - start) > 0.63 * abs(end - start))

    assert reached("suction_pa") < reached("suction_k") < reached("discharge_k")


def test_switched_off_it_equalizes() -> None:
    live = LiveUnit(UNIT, PLATE.weather)
    live.start()
    steps(live, 600)
    live.stop()
    last = steps(live, 1200)[-1]
    assert last.suction_pa == pytest.approx(last.liquid_pa, rel=1e-3)
    assert last.power_w == 0.0
    assert last.reason == "switched off"
    assert not last.running


def test_a_dead_fan_trips_it_and_it_tries_again() -> None:
    live = LiveUnit(UNIT, PLATE.weather, Faults(condenser_fan_off=1.0))
    live.start()
    course = steps(live, 900)
    assert course[-1].trips >= 3
    assert max(s.liquid_pa for s in course) < 1.07 * UNIT.high_cut_out_pa
    assert {s.reason for s in course} == {"", "high cut-out"}


def test_so_little_inside_short_cycles_on_the_low_side() -> None:
    live = LiveUnit(UNIT, replace(PLATE.weather, outdoor_k=fahrenheit(70)), Faults(charge_share=0.17, low_airflow=0.5))
    live.start()
    assert steps(live, 900)[-1].trips >= 2


def test_a_weigh_in_loses_nothing_and_stalls_where_vapour_fills_the_system() -> None:
    """R-410A at 75 °F into a hotter system: flow stops near V·ρ_v (about 1 to 2 lb here; the core's planner computes it)."""
    live, source = LiveUnit(UNIT, PLATE.weather, charge_kg=0.0), cylinder()
    live.charge_from(source, "liquid", "liquid")
    course = steps(live, 900)
    assert course[-1].stalled
    assert course[-1].charge_kg + source.net_kg == pytest.approx(20 * LB_KG, rel=1e-9)
    assert 0.8 * LB_KG < course[-1].charge_kg < 2.5 * LB_KG
    live.start()
    live.charge_from(source, "suction", "liquid", 0.15)
    more = steps(live, 300)
    assert more[-1].charge_kg > course[-1].charge_kg + 0.5 * LB_KG
    assert more[-1].charge_kg + source.net_kg == pytest.approx(20 * LB_KG, rel=1e-9)


def test_a_cold_cylinder_stalls_earlier_and_warm_water_helps() -> None:
    mild = replace(PLATE.weather, outdoor_k=fahrenheit(60), indoor_k=fahrenheit(68), indoor_wet_bulb_k=fahrenheit(57))
    inside = []
    for source in (cylinder(degrees_f=38), cylinder(degrees_f=95, in_water=True)):
        live = LiveUnit(UNIT, mild, charge_kg=0.0)
        live.charge_from(source, "liquid", "liquid")
        inside.append(steps(live, 600)[-1].charge_kg)
    assert inside[1] > 1.5 * inside[0]


def test_vapour_drawn_cools_the_cylinder_and_liquid_hardly() -> None:
    cooled = []
    for phase in ("vapor", "liquid"):
        source = cylinder(5.0)
        for _ in range(120):
            source.step(1.0, out_kg_s=0.01, phase=phase)
        cooled.append(fahrenheit(75) - source.temperature_k)
    assert cooled[0] > 10 * max(cooled[1], 0.01)
    assert cooled[0] > 5.0


def test_warm_water_warms_a_cylinder() -> None:
    source = cylinder(10.0, 40.0, in_water=True)
    for _ in range(1800):
        source.step(1.0)
    assert fahrenheit(90) < source.temperature_k < WATER_K


def test_an_almost_empty_cylinder_is_vapour_below_saturation() -> None:
    low, high = cylinder(0.3), cylinder(5.0)
    assert not low.has_liquid
    assert low.pressure_pa < 0.5 * high.pressure_pa
    assert low.vapor_kg == pytest.approx(low.net_kg)


def test_recovery_takes_nearly_all_and_the_pressure_rises_again() -> None:
    live = LiveUnit(UNIT, PLATE.weather)
    target = Cylinder("R-410A", 0.0, 28 * LB_KG, 47.7 * LB_KG, fahrenheit(85), fahrenheit(85))
    live.recover_into(target)
    course = steps(live, 2400)
    assert course[-1].charge_kg < 0.03 * UNIT.charge_kg
    assert target.net_kg + course[-1].charge_kg == pytest.approx(UNIT.charge_kg, rel=1e-9)
    assert min(s.hose_kg_s for s in course[:60]) < 5 * min(s.hose_kg_s for s in course[-1200:])
    live.close()
    lowest = course[-1].suction_pa
    assert steps(live, 1200)[-1].suction_pa > lowest


def test_additions_bring_superheat_down_to_the_design() -> None:
    live, source = LiveUnit(UNIT, PLATE.weather, Faults(charge_share=0.75)), cylinder()
    live.start()
    superheats = []
    for _ in range(4):
        now = steps(live, 900)[-1]
        superheats.append(now.suction_k - saturation.dew_temperature_k("R-410A", now.suction_pa))
        goal = now.charge_kg + UNIT.charge_kg / 12
        live.charge_from(source, "suction", "vapor", 0.1)
        while live.charge_kg < goal:
            live.step(1.0)
        live.close()
    assert superheats == sorted(superheats, reverse=True)
    assert superheats[-1] == pytest.approx(PLATE.superheat_k, abs=1.5)


def test_what_must_not_be_done_is_refused() -> None:
    live = LiveUnit(UNIT, PLATE.weather)
    with pytest.raises(InvalidInput, match="holds R-22, the unit R-410A"):
        live.charge_from(cylinder(refrigerant="R-22"), "suction", "vapor")
    live.start()
    with pytest.raises(InvalidInput, match="Switch the unit off"):
        live.recover_into(cylinder())
    for seconds in (0.0, -1.0, 3600.0):
        with pytest.raises(InvalidInput):
            live.step(seconds)
    with pytest.raises(InvalidInput):
        Cylinder("R-410A", -1.0, 9.0, 20.0, 290.0, 290.0)
