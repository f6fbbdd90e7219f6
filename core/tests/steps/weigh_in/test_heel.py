"""What never leaves a cylinder as liquid, in the plan and in what it says."""

import pytest

from tests.make import DRAW, PLATE, WEIGHED, findings, oz
from yoshi_core.charge import cylinders
from yoshi_core.errors import OutOfRange
from yoshi_core.profile.profile import RULES, Profile
from yoshi_core.properties import saturation
from yoshi_core.units.quantities import LB_KG


def plan(**draw: object) -> object:
    sheet = {"system_state": "empty", "draws": {"d1": {**{k: v for k, v in DRAW.items() if k != "gross_end"}, **draw}}}
    return findings(PLATE, sheet).step("weigh_in")


def reason(result: object, rule: str) -> str:
    return next(r.message.show() for r in result.verdict.reasons if r.rule_id == rule)  # type: ignore[attr-defined]


def test_the_heel_is_the_cylinder_full_of_vapour() -> None:
    """Hand-worked: 47.7 lb of water is 21.66 L; R-410A vapour at 25 °C is 65.9 kg/m³ (CoolProp), so 1.43 kg stay."""
    water = 47.7 * LB_KG
    assert cylinders.volume_m3(water) == pytest.approx(0.021657, rel=1e-3)
    heel = cylinders.heel_kg("R-410A", water, 298.15)
    assert heel == pytest.approx(0.021657 * saturation.vapor_density_kg_m3("R-410A", 298.15), rel=1e-3)
    assert heel == pytest.approx(1.43, abs=0.03)


def test_a_warmer_cylinder_keeps_more() -> None:
    cold, warm = (cylinders.heel_kg("R-410A", 20.0, kelvin) for kelvin in (273.15, 308.15))
    assert warm > 2 * cold


@pytest.mark.parametrize("water", [0.0, -1.0])
def test_no_water_capacity_no_volume(water: float) -> None:
    with pytest.raises(OutOfRange):
        cylinders.volume_m3(water)


def test_an_unknown_water_capacity_bars_nothing() -> None:
    result = plan()
    close = result.figure("close_at")  # type: ignore[attr-defined]
    assert close is not None
    assert any("With its water capacity" in note.text for note in close.why.notes)


def test_enough_above_the_heel_leaves_the_mark_where_it_was() -> None:
    without, with_it = (plan(**more).figure("close_at") for more in ({}, {"water_capacity": "47.7 lb"}))  # type: ignore[attr-defined]
    assert without is not None
    assert with_it is not None
    assert with_it.amount.value == pytest.approx(without.amount.value)
    spare = next(n for n in with_it.why.notes if "spare" in n.amounts)
    left = 31 * 16 + 6.5 - 9 * 16 - 0.6 - 167.5
    heel = oz(cylinders.heel_kg("R-410A", 47.7 * LB_KG, Profile().value("cylinder.heel_k")))
    assert oz(spare.amounts["spare"].value) == pytest.approx(left - heel, abs=0.2)


def test_the_heel_can_make_a_cylinder_too_small_and_is_named() -> None:
    short = {"gross_start": "20 lb 2 oz"}
    assert "weigh_in.short" not in {r.rule_id for r in plan(**short).verdict.reasons}  # type: ignore[attr-defined]
    result = plan(**short, water_capacity="47.7 lb")
    text = reason(result, "weigh_in.short")
    assert "stay behind as vapour" in text
    close = result.figure("close_at")  # type: ignore[attr-defined]
    assert close is not None
    assert close.amount.value >= 9 * LB_KG + cylinders.heel_kg("R-410A", 47.7 * LB_KG, RULES["cylinder.heel_k"].default) - 1e-9


def test_a_refrigerant_without_tables_has_no_heel_but_a_plan() -> None:
    sheet = {**WEIGHED, "draws": {"d1": {**DRAW, "water_capacity": "47.7 lb"}}}
    unknown = {**PLATE, "refrigerant": "R-999X"}
    step = findings(unknown, sheet).step("weigh_in")
    assert step.figure("close_at") is not None or step.figure("inside") is not None
