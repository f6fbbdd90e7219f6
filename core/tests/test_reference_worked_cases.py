"""Worked cases computed outside Yoshi (`reference/worked_cases.json`; each case says how)."""

import json
from pathlib import Path
from typing import Any

import pytest

from tests.make import delta_f, in_f, kelvin, oz
from yoshi_core import refrigerants, units
from yoshi_core.charge import cylinders, line_set, weigh_in
from yoshi_core.charge import total as charge
from yoshi_core.errors import OutOfRange, UnitError
from yoshi_core.properties.atmosphere import site_pressure_pa
from yoshi_core.running import readings, targets
from yoshi_core.units.quantities import FOOT_M, INCH_M, LB_KG, OZ_KG, PSI_PA

CASES = {c["id"]: c for c in json.loads((Path(__file__).parent / "reference" / "worked_cases.json").read_text())}


def cases(prefix: str) -> list[Any]:
    return [pytest.param(case, id=name) for name, case in CASES.items() if name.startswith(prefix)]


def test_masses_are_read_as_people_write_them() -> None:
    case = CASES["mass-text"]
    for text, kg in zip(case["given"]["texts"], case["expect"]["kg"], strict=True):
        assert units.parse_mass(text).kg == pytest.approx(kg, abs=case["tolerance"]["kg"]), text


@pytest.mark.parametrize("text", CASES["mass-text"]["expect"]["refused"])
def test_what_is_no_mass_is_refused(text: str) -> None:
    with pytest.raises(UnitError):
        units.parse_mass(text)


def test_odd_masses_are_asked_about_refused_or_need_a_unit() -> None:
    expect = CASES["mass-odd"]["expect"]
    reasons = {}
    for text in CASES["mass-odd"]["given"]["texts"]:
        with pytest.raises(UnitError) as caught:
            units.parse_mass(text)
        reasons[text] = caught.value.reason
    assert [t for t, r in reasons.items() if r == "comma"] == expect["ask"]
    assert [t for t, r in reasons.items() if r == "fraction_beside_ounces"] == expect["refused"]
    assert [t for t, r in reasons.items() if r == "needs_unit"] == expect["needs_unit"]
    assert units.parse_mass("12", default_unit="oz").kg == pytest.approx(12 * OZ_KG)


def test_tenths_of_a_pound_used_as_ounces_are_noticed() -> None:
    case = CASES["mass-slip-decimal-oz"]
    pairs = zip(case["given"]["pairs"], case["expect"]["slip"], strict=True)
    for (entry, reference), slip in pairs:
        assert units.looks_like_slip(units.parse_mass(entry), units.parse_mass(reference).kg) is slip, (entry, reference)


def test_site_pressure_follows_the_standard_atmosphere() -> None:
    case = CASES["altitude"]
    for altitude, pressure in zip(case["given"]["altitude_m"], case["expect"]["pressure_pa"], strict=True):
        assert site_pressure_pa(altitude) == pytest.approx(pressure, abs=case["tolerance"]["pressure_pa"])


def split_total() -> charge.ChargeBuildUp:
    given = CASES["total-split"]["given"]
    limits = given["limits_oz"]
    extra_ft = given["length_ft"] - given["included_ft"]
    per_ft = given["allowance_oz_per_ft"]
    return charge.total_charge(
        charge.Nameplate(given["plate_oz"] * OZ_KG, limits["plate"] * OZ_KG, given["included_ft"] * FOOT_M),
        [
            charge.LineRun(
                "l1",
                given["length_ft"] * FOOT_M,
                per_ft * OZ_KG / FOOT_M,
                limits["length"] / per_ft * FOOT_M,
                limits["allowance"] / extra_ft * OZ_KG / FOOT_M,
            )
        ],
        [charge.Adjustment("p1", "drier", given["adjustments_oz"][0] * OZ_KG)],
        scale_limit_kg=limits["scale"] * OZ_KG,
    )


def test_total_of_plate_line_and_drier_with_its_uncertainty() -> None:
    expect, tolerance = CASES["total-split"]["expect"], CASES["total-split"]["tolerance"]
    total = split_total()
    assert oz(total.total_kg) == pytest.approx(expect["total_oz"], abs=tolerance["total_oz"])
    assert units.mass_faces(total.total_kg).lb_oz == expect["total_text"]
    assert oz(total.uncertainty_kg) == pytest.approx(expect["standard_uncertainty_oz"], abs=tolerance["standard_uncertainty_oz"])
    assert oz(2 * total.uncertainty_kg) == pytest.approx(expect["shown_oz"], abs=tolerance["shown_oz"])


def test_a_precharged_unit_needs_only_the_difference() -> None:
    case = CASES["precharged"]
    plan = weigh_in.plan(split_total(), case["given"]["inside_oz"] * OZ_KG)
    assert oz(plan.weigh_kg) == pytest.approx(case["expect"]["weigh_oz"], abs=case["tolerance"]["weigh_oz"])


def test_scale_mark_gross_and_counting_down() -> None:
    given, expect = CASES["scale-mark"]["given"], CASES["scale-mark"]["expect"]
    source = weigh_in.Source("14", given["start_oz"] * OZ_KG, 144 * OZ_KG, given["hose_oz"] * OZ_KG)
    (take,) = weigh_in.plan(split_total(), 0.0, [source]).takes
    assert oz(take.stop_gross_kg) == pytest.approx(expect["stop_oz"], abs=0.05)
    assert units.mass_faces(take.stop_gross_kg).lb_oz == expect["stop_text"]
    assert units.mass_faces(take.counted_stop_kg).lb_oz == expect["counting_down_text"]


@pytest.mark.parametrize("case", cases("line-"))
def test_line_contents_per_foot(case: dict[str, Any]) -> None:
    found = line_set.allowance(case["given"]["refrigerant"], 0.375 * INCH_M, 0.875 * INCH_M)
    per_ft = FOOT_M / OZ_KG
    tolerance = case["tolerance"]["oz_per_ft"]
    assert found.liquid_kg_m * per_ft == pytest.approx(case["expect"]["liquid_oz_per_ft"], abs=tolerance)
    assert found.suction_kg_m * per_ft == pytest.approx(case["expect"]["suction_oz_per_ft"], abs=tolerance)
    assert found.total_kg_m * per_ft == pytest.approx(case["expect"]["total_oz_per_ft"], abs=tolerance)


@pytest.mark.parametrize("case", cases("fill-"))
def test_fill_limit_of_a_recovery_cylinder(case: dict[str, Any]) -> None:
    limit = cylinders.fill_limit_kg(case["given"]["refrigerant"], case["given"]["water_capacity_lb"] * LB_KG)
    assert limit / LB_KG == pytest.approx(case["expect"]["max_net_lb"], abs=case["tolerance"]["max_net_lb"])


@pytest.mark.parametrize("case", cases("read-"))
def test_superheat_from_dew_and_subcooling_from_bubble_at_altitude(case: dict[str, Any]) -> None:
    given, expect, tolerance = case["given"], case["expect"], case["tolerance"]["each_f"]
    state = readings.cooling_state(
        refrigerants.get(given["refrigerant"]),
        readings.Readings(
            given["suction_psig"] * PSI_PA, kelvin(given["suction_line_f"]), given["liquid_psig"] * PSI_PA, kelvin(given["liquid_line_f"])
        ),
        readings.Site(given["altitude_m"], given["gauge_reference"]),
    )
    assert state.low is not None
    assert state.high is not None
    assert in_f(state.low.saturation_k) == pytest.approx(expect["dew_f"], abs=tolerance)
    assert in_f(state.high.saturation_k) == pytest.approx(expect["bubble_f"], abs=tolerance)
    assert delta_f(state.superheat_k or 0) == pytest.approx(expect["superheat_f"], abs=tolerance)
    assert delta_f(state.subcooling_k or 0) == pytest.approx(expect["subcooling_f"], abs=tolerance)


@pytest.mark.parametrize("case", cases("target-"))
def test_target_superheat_or_its_refusal(case: dict[str, Any]) -> None:
    wet, dry = kelvin(case["given"]["return_wet_bulb_f"]), kelvin(case["given"]["outdoor_dry_bulb_f"])
    if case["expect"]["refused"]:
        with pytest.raises(OutOfRange):
            targets.superheat_target_k(wet, dry)
    else:
        assert delta_f(targets.superheat_target_k(wet, dry)) == pytest.approx(case["expect"]["target_f"], abs=case["tolerance"]["target_f"])


def test_refusal_names_every_bound_that_is_broken() -> None:
    with pytest.raises(OutOfRange) as caught:
        targets.superheat_target_k(kelvin(60), kelvin(110))
    assert set(caught.value.params["rules"]) == {"target.outdoor_high", "target.lowest"}
