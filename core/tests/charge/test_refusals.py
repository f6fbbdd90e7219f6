"""What the charge functions refuse: the sentence, the field, the numbers, and where exactly it begins."""

from collections.abc import Callable
from typing import Any

import pytest

from yoshi_core import refrigerants
from yoshi_core.account import weighing
from yoshi_core.charge import cylinders, line_set, oil_change, recovery, room_limits, stall, total, tubing, weigh_in
from yoshi_core.charge.oil_change import Turn
from yoshi_core.charge.total import Adjustment, LineRun, Nameplate
from yoshi_core.charge.weigh_in import Source
from yoshi_core.errors import CoreError
from yoshi_core.units.quantities import LB_KG

R290, R410A, R134A = (refrigerants.get(name) for name in ("R-290", "R-410A", "R-134a"))
NOTHING_TO_COMPARE = "There is no full charge to compare with."
DRAINED = "More oil was drained than the whole system holds. Check both figures."
THINS = "A change that drains nothing thins nothing."
ROOM = "A ceiling takes a flammable refrigerant and a floor above zero."


@pytest.mark.parametrize(
    ("act", "said", "path", "params"),
    [
        (lambda: cylinders.volume_m3(0.0), "The water capacity must be above zero.", "", {"value": 0.0}),
        (
            lambda: line_set.variable_flow_kg_m(0.011), "There is no usual allowance for a liquid line of 0.433 in; take it from the maker's table.",
            "", {"value": 0.011},
        ),
        (lambda: oil_change.left_share([Turn(1.1)]), DRAINED, "", {"value": 1.1, "high": 1.0}),
        (lambda: oil_change.left_share([Turn(-0.1)]), DRAINED, "", {"value": -0.1, "high": 1.0}),
        (lambda: oil_change.changes_to(0.05, 0.5, 0.0), THINS, "", {"value": 0.0}),
        (lambda: oil_change.changes_to(0.05, 0.5, 1.1), THINS, "", {"value": 1.1}),
        (lambda: oil_change.changes_to(0.0, 0.5, 0.5), THINS, "", {"value": 0.5}),
        (lambda: oil_change.changes_to(1.0, 0.5, 0.5), THINS, "", {"value": 0.5}),
        (lambda: oil_change.changes_to(1.5, 0.5, 0.5), THINS, "", {"value": 0.5}),
        (lambda: recovery.expected_kg(0.0, None), NOTHING_TO_COMPARE, "", {"value": 0.0}),
        (lambda: recovery.recovered_share(1.0, 0.0), NOTHING_TO_COMPARE, "", {"value": 0.0}),
        (
            lambda: recovery.recovered_share(-0.1, 1.0), "A recovered weight cannot be below zero: the two scale readings may be swapped.",
            "", {"value": -0.1},
        ),
        (lambda: recovery.level(R410A, 0.0), "The full charge must be above zero.", "", {"value": 0.0}),
        (
            lambda: recovery.level(R134A, 5.1 * LB_KG, small_appliance=True), "A small appliance holds 5 lb or less.",
            "", {"value": 5.1 * LB_KG, "high": 5 * LB_KG},
        ),
        (lambda: recovery.room(R410A, 20.0, 10.0, -0.1), "What is in the cylinder cannot be below zero: check its tare.", "", {"value": -0.1}),
        (lambda: recovery.vacuum_absolute_pa(30.5), "A vacuum is from 0 to 29.9 inHg; 30.5 is not.", "", {"value": 30.5, "high": 29.9}),
        (lambda: recovery.vacuum_absolute_pa(-1.0), "A vacuum is from 0 to 29.9 inHg; -1 is not.", "", {"value": -1.0, "high": 29.9}),
        (lambda: room_limits.area_for_m2(R134A, 2.0, "wall"), "Only a flammable charge asks for a floor.", "", {"value": 2.0}),
        (lambda: room_limits.ceiling_kg(R134A, 12.0, "wall"), ROOM, "", {"value": 12.0}),
        (lambda: room_limits.ceiling_kg(R290, 0.0, "wall"), ROOM, "", {"value": 0.0}),
        (lambda: stall.stall_kg(R410A, 0.0, 295.0, 295.0), "A system has a volume above zero.", "", {"value": 0.0}),
        (lambda: total.total_charge(Nameplate(0.0)), "The plate charge must be above zero.", "/factory_charge", {"value": 0.0}),
        (
            lambda: total.total_charge(Nameplate(1.0), adjustments=[Adjustment("p", "part", -1.5)]),
            "Lines and parts take the total to -1 lb 1.6 oz; it must be above zero.", "", {"value": -0.5},
        ),
        (
            lambda: total.total_charge(Nameplate(1.0), adjustments=[Adjustment("p", "part", -1.0)]),
            "Lines and parts take the total to 0.0 oz; it must be above zero.", "", {"value": 0.0},
        ),
        (
            lambda: tubing.wall_m(0.011),
            "0.433 in is not a tube size Yoshi knows; give the wall, or the maker's allowance per length.", "", {"value": 0.011},
        ),
        (lambda: tubing.inside_area_m2(0.01, 0.005), "A wall of 0.197 in leaves no bore in a 0.394 in tube.", "", {"value": 0.005}),
        (lambda: tubing.inside_area_m2(0.01, 0.0), "A wall of 0 in leaves no bore in a 0.394 in tube.", "", {"value": 0.0}),
        (
            lambda: weigh_in.check_source(Source("14", 4.0, 4.1)),
            "The cylinder reads 8 lb 13.1 oz, less than its tare of 9 lb 0.6 oz. Check the tare stamped on it and that the scale was zeroed empty.",
            "/gross_start", {"gross_kg": 4.0, "tare_kg": 4.1},
        ),
        (
            lambda: weighing.weighed_in_kg(4.0, 4.1, 0.0), "The scale reads more at the end than at the start; the two readings may be swapped.",
            "/gross_end", {"start_kg": 4.0, "end_kg": 4.1},
        ),
        (
            lambda: weighing.weighed_in_kg(4.0, 3.99, 0.02), "Less left the cylinder than is counted as lost in the hose; check the hose loss.",
            "/hose_loss", {"drawn_kg": pytest.approx(0.01)},
        ),
    ],
)  # fmt: skip
def test_what_is_refused_says_why_and_with_which_numbers(act: Callable[[], Any], said: str, path: str, params: dict[str, Any]) -> None:
    with pytest.raises(CoreError) as refused:
        act()
    assert (refused.value.message, refused.value.path, refused.value.params) == (said, path, params)


def test_the_edges_themselves_are_taken() -> None:
    hair = 9e-10  # sums of floating numbers are out by less
    assert oil_change.left_share([Turn(0.0)]) == 1.0
    assert oil_change.left_share([Turn(1.0 + hair)]) == pytest.approx(0.001)
    assert oil_change.changes_to(0.05, 0.5, 1.0 + hair) == 1
    assert oil_change.changes_to(0.05, 0.05, 0.5) == 0
    assert recovery.recovered_share(0.0, 2.0).share == 0.0
    assert recovery.level(R134A, 5.0 * LB_KG + hair, small_appliance=True).share == 0.80
    assert recovery.room(R410A, 20.0, 10.0, 0.0).room_kg > 0
    assert recovery.vacuum_absolute_pa(0.0) == pytest.approx(29.9 * 3386.389)
    assert recovery.vacuum_absolute_pa(29.9) == 0.0
    assert room_limits.ceiling_kg(R290, 0.5, "floor") > 0
    assert weighing.weighed_in_kg(4.0, 4.0 + hair, 0.0) == 0.0
    assert weighing.weighed_in_kg(4.0, 3.5, 0.5) == 0.0
    for size in (0.0127, 0.0127 + 1.9e-5, 0.0127 - 1.9e-5):
        assert line_set.variable_flow_kg_m(size) == 0.110
        assert tubing.wall_m(size) > 0
    weigh_in.check_source(Source("14", 4.1, 4.1))
    assert total.total_charge(Nameplate(1.0), [LineRun("l1", 3.0, 0.1)]).total_kg == pytest.approx(1.3)
