"""Whether a nitrogen bottle lasts: against the gas law written out by hand, and what the steps say of it (common practice, no source)."""

from typing import Any

import pytest

from tests.make_closed import isolated, rules, said
from tests.steps.repair.test_repair import repaired
from yoshi_core.errors import OutOfRange
from yoshi_core.profile.profile import Profile
from yoshi_core.tight_and_dry import nitrogen
from yoshi_core.tight_and_dry.nitrogen import Needs
from yoshi_core.units.quantities import FOOT_M, PSI_PA

SITE = 101_325.0
BRAZED = {"joining": "brazed", "both_open": True, "nitrogen_flow": True, "fire_watch": True}


def test_a_bottle_by_the_gas_law() -> None:
    """20 L at 2,000 psig holds 2,722 L of free gas; 10 min at 2.4 L/min, 6 L to 550 psig and two breaks take 24 + 224.6 + 13.8 L."""
    found = nitrogen.account(2000 * PSI_PA, 0.020, 0.006, Needs(600.0, 550 * PSI_PA, 2, 0), SITE, Profile())
    assert found.gives_m3 == pytest.approx(0.020 * 2000 / 14.696, rel=1e-4)
    assert found.flame_m3 == pytest.approx(0.024)
    assert found.test_m3 == pytest.approx(0.006 * 550 / 14.696, rel=1e-4)
    assert found.vacuum_m3 == pytest.approx(2 * 1.15 * 0.006)
    left = (0.020 * 2000 / 14.696 - 0.024 - 0.006 * 550 / 14.696 - 0.0138) * 14.696 / 0.020
    assert found.left_pa / PSI_PA == pytest.approx(left, rel=1e-4)


def test_the_way_of_the_evacuation_decides_what_it_takes() -> None:
    assert nitrogen.after("triple", wet=False) == (2, 0)
    assert nitrogen.after(None, wet=True) == (2, 0)
    assert nitrogen.after("sweep", wet=True) == (0, 1)
    assert nitrogen.after("single", wet=False) == (0, 0)
    swept = nitrogen.account(1e7, 0.01, 0.006, Needs(sweeps=1), SITE, Profile())
    assert swept.takes_m3 == pytest.approx(0.12)
    with pytest.raises(OutOfRange):
        nitrogen.account(1e7, 0.0, 0.006, Needs(), SITE, Profile())


@pytest.mark.parametrize(
    ("bottle", "word"),
    [
        ({"bottle_pressure": "2000 psig", "bottle_volume": "20 L", "flow_for": "10 min"}, "Holds"),
        ({"bottle_pressure": "700 psig", "bottle_volume": "1.5 L", "flow_for": "10 min"}, "Wait"),
        ({"bottle_pressure": "2000 psig", "bottle_size": "80", "flow_for": "10 min"}, "Holds"),
        ({"bottle_pressure": "300 psig", "bottle_size": "20", "flow_for": "10 min"}, "Wait"),
    ],
)
def test_before_the_flame_it_says_whether_the_bottle_lasts(bottle: dict[str, Any], word: str) -> None:
    found = repaired(**BRAZED, **bottle)
    assert rules(found)["repair.bottle"] == word
    assert "flame" in said(found, "repair.bottle")
    assert "repair.bottle" not in rules(repaired(**BRAZED))


def test_water_inside_takes_two_breaks_more() -> None:
    dry = repaired(**BRAZED, bottle_pressure="2000 psig", bottle_volume="20 L")
    wet = repaired(**BRAZED, bottle_pressure="2000 psig", bottle_volume="20 L", water_seen=True)
    assert "two breaks" not in said(dry, "repair.bottle")
    assert "two breaks" in said(wet, "repair.bottle")


def test_oil_used_too_often_and_a_gauge_about_to_die() -> None:
    tired = isolated([(2, 300), (6, 305), (10, 306)], oil_fresh=None, oil_uses="7", gauge_battery="12 %")
    assert rules(tired)["vacuum.oil_uses"] == "Open"
    assert rules(tired)["vacuum.battery"] == "Open"
    assert "12" in said(tired, "vacuum.battery")
    fine = isolated([(2, 300), (6, 305), (10, 306)], oil_uses="2", gauge_battery="80 %")
    assert not {"vacuum.oil_uses", "vacuum.battery"} & set(rules(fine))


@pytest.mark.parametrize(("size", "cubic_feet"), [(size, float(size)) for size in nitrogen.BOTTLES_M3])
def test_a_bottle_known_by_its_cubic_feet_gives_about_so_much_gas(size: str, cubic_feet: float) -> None:
    """Filled to 2,000 to 2,265 psig a bottle gives what it is called by; common practice, no source."""
    water = nitrogen.bottle_m3(None, size)
    assert water is not None
    given = [water * (psig * PSI_PA + 101_325.0) / 101_325.0 / FOOT_M**3 for psig in (2000.0, 2265.0)]
    assert given[0] * 0.95 <= cubic_feet <= given[1] * 1.05
    assert nitrogen.bottle_m3(0.01, size) == 0.01
    assert nitrogen.bottle_m3(None, None) is None
