"""Worked cases from practice (common practice, no source), judged whole."""

import pytest

from tests.make import PLATE, RUNNING, WEIGHED, delta_f, findings, kelvin, oz, reading_with, six_pounds
from yoshi_core import units
from yoshi_core.account import weighing
from yoshi_core.running import targets


def test_fact_1_orifice_target_and_the_long_line_nobody_counted() -> None:
    """69 °F wet bulb, 89 °F outdoors: target 19; found at 38 on 6 lb: short by far more than a trim may add."""
    assert delta_f(targets.superheat_target_k(kelvin(69), kelvin(89))) == pytest.approx(19, abs=0.01)
    found = six_pounds("orifice", {"r1": reading_with(38, None, return_wet_bulb="69 °F", outdoor="89 °F")})
    assert found.step("verify").verdict.word == "Wait"
    step = found.step("verify").figure("trim_step")
    assert step is not None
    assert 0 < oz(step.amount.value) <= 4.8 + 1e-9


def test_fact_1_settled_at_18_with_the_target_at_20_holds() -> None:
    found = six_pounds("orifice", {"r1": reading_with(18, 10, return_wet_bulb="69.6667 °F", outdoor="89 °F")})
    target = found.step("verify").figure("target")
    assert target is not None
    assert delta_f(target.amount.value) == pytest.approx(20, abs=0.01)
    assert found.step("verify").verdict.word == "Holds"


def test_fact_3_plate_in_ounces_and_a_share_short() -> None:
    faces = units.mass_faces(units.parse_mass("86 oz").kg)
    assert faces.lb_oz == "5 lb 6.0 oz"
    assert faces.lb == "5.38 lb"
    assert 1 - units.parse_mass("4.7 lb").kg / units.parse_mass("86 oz").kg == pytest.approx(0.126, abs=0.0005)


def test_fact_7_two_gross_readings_give_what_moved() -> None:
    moved = weighing.weighed_in_kg(units.parse_mass("32 lb 5 oz").kg, units.parse_mass("27 lb 2 oz").kg, 0.0)
    assert units.mass_faces(moved).lb_oz == "5 lb 3.0 oz"


@pytest.mark.parametrize("subcooling", [9.0, 10.0, 11.0])
def test_fact_10_subcooling_at_the_plate_is_correct(subcooling: float) -> None:
    found = six_pounds("txv", {"r1": reading_with(12, subcooling)}, subcooling_target="10 °F")
    assert found.step("verify").verdict.word == "Holds"


def test_a_sealed_gauge_at_altitude_moves_superheat_by_a_degree_and_a_half() -> None:
    """A sealed gauge at 2,100 m read as vented is worth 1.4 °F of superheat (work book, common practice)."""
    vented = findings(PLATE, WEIGHED, RUNNING).step("verify").figure("superheat")
    sealed = findings({**PLATE, "gauge_reference": "sealed"}, WEIGHED, RUNNING).step("verify").figure("superheat")
    assert vented is not None
    assert sealed is not None
    assert delta_f(vented.amount.value - sealed.amount.value) == pytest.approx(1.4, abs=0.05)
