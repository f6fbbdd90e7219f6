"""A live scale followed to its marks: flow, lead, stall, a scale that was bumped or lost its cylinder (common practice, no source)."""

import random
from typing import Any

import pytest

from tests.make import findings
from yoshi_core.errors import InvalidInput
from yoshi_core.findings import weigh_follow
from yoshi_core.findings.pictures import Mark, ScaleAnchors, WeighInPicture
from yoshi_core.rig import scenario
from yoshi_core.units.quantities import LB_KG, OZ_KG

HALF_OZ = 0.5 * OZ_KG
PLATE = {"refrigerant": "R-410A", "factory_charge": "6 lb", "kind": "packaged", "metering": "txv", "altitude": "0 m"}


def anchors(**more: Any) -> ScaleAnchors:
    draw = {"gross_start": "30 lb", "tare": "9 lb", "hose_loss": "0.6 oz", **more.pop("draw", {})}
    weigh = {"system_state": "empty", "volume": {"text": "9 L", "source": "measured"}, "system_temperature": "50 °F",
             "cylinder_temperature": "50 °F", "draws": {"d1": draw}, **more}  # fmt: skip
    found = findings(PLATE, weigh).step("weigh_in").drawn(WeighInPicture).scale
    assert found is not None
    return found


def course(start_lb: float, flow_lb_min: float, seconds: int, every: float = 1.0, begins: float = 0.0) -> list[tuple[float, float]]:
    return [(begins + n * every, (start_lb - flow_lb_min * n * every / 60.0) * LB_KG) for n in range(int(seconds / every))]


def test_before_the_valve_is_opened_it_is_ready() -> None:
    found = weigh_follow.follow(anchors(), course(30.0, 0.0, 30), HALF_OZ)
    assert (found.state, found.draw) == ("ready", "d1")
    assert found.inside_kg == 0.0
    assert "Open the valve" in found.text.show()


def test_while_it_flows_it_says_what_is_in_how_fast_and_how_long_to_the_next_mark() -> None:
    rows = course(30.0, 0.6, 240)
    found = weigh_follow.follow(anchors(), rows[-64:], HALF_OZ)
    assert found.state == "flowing"
    assert found.flow_kg_s == pytest.approx(0.6 * LB_KG / 60.0, rel=0.01)
    assert found.inside_kg == pytest.approx(2.39 * LB_KG - 0.6 * OZ_KG, rel=1e-3)
    slow = next(m for m in anchors().marks if m.id == "slow")
    assert (found.mark, found.mark_kg) == ("slow", slow.gross_kg)
    assert found.seconds == pytest.approx((rows[-1][1] - slow.gross_kg) / (0.6 * LB_KG / 60.0), rel=0.01)


def test_it_closes_ahead_of_the_mark_by_what_a_hand_takes() -> None:
    close = next(m for m in anchors().marks if m.id == "close").gross_kg
    fast = 0.02
    for ahead, state in ((0.16, "near"), (0.019, "close_now"), (0.0, "close_now"), (-0.02, "past")):
        rows = [(float(n), close + ahead + fast * (20 - n)) for n in range(21)]
        found = weigh_follow.follow(anchors(), rows, HALF_OZ)
        assert found.state == state, ahead
        assert found.lead_kg == pytest.approx(fast * 1.0, rel=0.02)
    assert "surplus out" in found.text.show()


def test_it_stalls_where_it_was_expected_and_says_why_and_what_helps() -> None:
    """9 L, all at 50 °F: 0.83 lb in, then nothing moves."""
    rows = course(30.0, 1.5, 33) + [(33.0 + n, (30.0 - 0.86) * LB_KG) for n in range(40)]
    found = weigh_follow.follow(anchors(), rows[-64:], HALF_OZ)
    assert found.state == "stalled"
    assert "start the unit" in found.text.show()
    early = course(30.0, 0.5, 24) + [(24.0 + n, (30.0 - 0.2) * LB_KG) for n in range(40)]
    assert weigh_follow.follow(anchors(), early[-64:], HALF_OZ).state == "still"


def test_the_rigs_cold_cylinder_is_seen_to_stall() -> None:
    rows = list(scenario.run(scenario.loads(scenario.shipped("cold-cylinder-stalls"))))
    first = float(str(rows[0]["scale_kg"])) + float(str(rows[0]["inside_kg"]))
    log = [(0.0, first)] + [(float(str(row["time_s"])), float(str(row["scale_kg"]))) for row in rows if row["scale_kg"] is not None]
    upto = [row for row in log if row[0] <= 600.0]
    start = first / LB_KG
    told = anchors(draw={"gross_start": f"{start:.4f} lb"}, volume={"text": "17 L", "source": "assumed"}, system_temperature="60 °F",
                   cylinder_temperature="38 °F")  # fmt: skip
    assert weigh_follow.follow(told, upto[-20:], HALF_OZ).state == "stalled"


@pytest.mark.parametrize(
    ("after_lb", "state"),
    [(28.4, "jumped"), (31.5, "jumped"), (0.0, "gone"), (27.95, "flowing")],
    ids=["something put on", "pulled at", "zeroed or lifted off", "a knock that rang out"],
)
def test_a_step_no_flow_makes_is_noticed(after_lb: float, state: str) -> None:
    before = course(28.6, 0.6, 40)
    last = before[-1][1] / LB_KG
    shift = {28.4: 0.9, 31.5: -3.0, 0.0: -last, 27.95: 0.0}[after_lb]
    spike = [(40.0, (last + 1.5) * LB_KG)] if state == "flowing" else []
    after = [(41.0 + n, max(last + shift - 0.01 * (n + 1), 0.0) * LB_KG) for n in range(12)]
    found = weigh_follow.follow(anchors(), [*before, *spike, *after], HALF_OZ)
    assert found.state == state
    if state in {"jumped", "gone"}:
        assert found.last_good_kg == pytest.approx(last * LB_KG, abs=0.01)
        assert found.inside_kg == pytest.approx((30.0 - last) * LB_KG - 0.6 * OZ_KG, abs=0.01)
        assert "fresh reading" in found.text.show()


def test_the_scatter_of_a_scale_is_no_jump_and_no_flow() -> None:
    dice = random.Random(4)
    told = anchors()
    for _ in range(200):
        rows = [(float(n), 29.0 * LB_KG + dice.uniform(-1.0, 1.0) * HALF_OZ) for n in range(60)]
        found = weigh_follow.follow(told, rows, HALF_OZ)
        assert found.state in {"still", "stalled", "flowing"}
        assert found.state not in {"jumped", "gone"}
        assert (found.flow_kg_s or 0.0) < 0.004


def test_counting_goes_on_over_a_change_of_cylinder() -> None:
    draws = {"d1": {"gross_start": "12 lb", "tare": "9 lb", "gross_end": "9 lb 8 oz"}, "d2": {"gross_start": "30 lb", "tare": "9 lb"}}
    found = findings(PLATE, {"system_state": "empty", "draws": draws}).step("weigh_in").drawn(WeighInPicture).scale
    assert found is not None
    assert (found.draw, found.before_kg) == ("d2", pytest.approx(2.5 * LB_KG))
    live = weigh_follow.follow(found, course(28.0, 0.3, 30), HALF_OZ)
    assert live.inside_kg == pytest.approx((2.5 + 30.0 - (28.0 - 0.145)) * LB_KG, rel=1e-3)


def test_another_cylinder_on_the_scale_is_said_and_forgotten_when_the_right_one_stands_there() -> None:
    told = anchors()
    other = course(9.2, 0.0, 20)
    found = weigh_follow.follow(told, other, HALF_OZ)
    assert (found.state, found.inside_kg) == ("mount", 0.0)
    assert "Put it on" in found.text.show()
    changed = [*other, *course(30.0, 0.0, 15, begins=22.0)]
    assert weigh_follow.follow(told, changed, HALF_OZ).state == "ready"


def test_a_cylinder_lifted_off_and_put_back_goes_on_where_it_was() -> None:
    before, off = course(28.0, 0.3, 30), [(30.0 + n, 0.0) for n in range(8)]
    told = anchors()
    assert weigh_follow.follow(told, [*before, *off], HALF_OZ).state == "gone"
    back = [*before, *off, *course(27.85, 0.3, 12, begins=38.0)]
    assert weigh_follow.follow(told, back, HALF_OZ).state == "flowing"
    zeroed_anew = [*before, *off, *course(29.5, 0.3, 12, begins=38.0)]
    assert weigh_follow.follow(told, zeroed_anew, HALF_OZ).state == "jumped"


def test_a_low_side_that_does_not_follow_is_a_restriction() -> None:
    rows = course(29.0, 0.3, 30)
    told = weigh_follow.follow(anchors(), rows, HALF_OZ, (20e3, 900e3))
    assert told.warning is not None
    assert "does not follow" in told.warning.show()
    assert weigh_follow.follow(anchors(), rows, HALF_OZ, (860e3, 900e3)).warning is None
    assert weigh_follow.follow(anchors(), rows, HALF_OZ).warning is None


def test_it_takes_a_reading_and_a_mark() -> None:
    with pytest.raises(InvalidInput):
        weigh_follow.follow(anchors(), [], HALF_OZ)
    bare = ScaleAnchors("d1", 10.0, 0.0, 0.0, 1.0, 4.0, 1.0, True, (Mark("start", "start", 10.0, 0.0),))
    with pytest.raises(InvalidInput):
        weigh_follow.follow(bare, [(0.0, 10.0)], HALF_OZ)
