"""Several acts at one cylinder that was read before the first and after the last alone: what it fell by bounds each, and gives none a mass."""

from typing import Any

import pytest

from tests.whole_jobs.day import Day, clock
from yoshi_core.units.quantities import OZ_KG


def lines(acts: dict[str, dict[str, Any]]) -> list[tuple[float, float | None]]:
    """Floor and ceiling in ounces of each act's row of what is inside, by the order of time."""
    day = Day("08:00")
    day.type("identify", refrigerant="R-410A", kind="split", factory_charge="8 lb")
    for key, fields in acts.items():
        day.act(key, **{"kind": "in", "done": True, **fields})
    rows = [row for row in day.found.inside.rows if row.origin.startswith("/acts/")]
    before = (0.0, 0.0)
    found: list[tuple[float, float | None]] = []
    for row in rows:
        high = None if row.high is None else round((row.high.value - before[1]) / OZ_KG, 1)
        found.append((round((row.low.value - before[0]) / OZ_KG, 1), high))
        before = (row.low.value, before[1] if row.high is None else row.high.value)
    return found


EMPTY = {"a0": {"kind": "found", "mass": {"text": "0 oz", "source": "weighed"}, "at": clock("08:00")}}
FIRST = {"cylinder": "14", "gross_before": "24 lb 3 oz", "at": clock("09:00")}
LAST = {"cylinder": "14", "gross_after": "23 lb 11 oz", "at": clock("09:20")}


def test_two_squirts_share_what_the_cylinder_fell_by() -> None:
    assert lines({**EMPTY, "a1": dict(FIRST), "a2": dict(LAST)})[1:] == [(0.0, 8.0), (0.0, 8.0)]


def test_one_between_them_shares_it_too_and_a_lower_word_stays_lower() -> None:
    between = {"cylinder": "14", "at": clock("09:10"), "at_most": "3 oz"}
    assert lines({**EMPTY, "a1": dict(FIRST), "a3": between, "a2": dict(LAST)})[1:] == [(0.0, 8.0), (0.0, 3.0), (0.0, 8.0)]


def test_one_act_read_at_both_ends_is_weighed() -> None:
    assert lines({**EMPTY, "a1": {**FIRST, "gross_after": "23 lb 11 oz"}})[1:] == [(8.0, 8.0)]


@pytest.mark.parametrize(
    ("first", "last"),
    [
        ({**FIRST, "cylinder": "15"}, LAST),  # another cylinder
        (FIRST, {**LAST, "gross_after": "25 lb"}),  # it rose while it gave
        ({**FIRST, "at": clock("09:30")}, LAST),  # read after, then before
        (FIRST, {**LAST, "kind": "out"}),  # one in, one out
    ],
)
def test_what_does_not_belong_together_bounds_nothing(first: dict[str, Any], last: dict[str, Any]) -> None:
    assert None in [high for _, high in lines({**EMPTY, "a1": dict(first), "a2": dict(last)})[1:]]


@pytest.mark.parametrize("weighed", [{"gross_before": "23 lb", "gross_after": "25 lb"}, {}])
def test_a_cylinder_that_was_filled_meanwhile_bounds_nothing(weighed: dict[str, Any]) -> None:
    """24 lb 3 oz, two pounds back into it, then 23 lb 11 oz: far more than half a pound may have gone in."""
    back = {"kind": "out", "cylinder": "14", "at": clock("09:10"), **weighed}
    assert lines({**EMPTY, "a1": dict(FIRST), "a3": back, "a2": dict(LAST)})[-1][1] is None


def test_out_of_the_circuit_the_cylinder_rises() -> None:
    day = Day("08:00")
    day.type("identify", refrigerant="R-410A", kind="split", factory_charge="8 lb")
    day.act("a0", kind="found", done=True, at=clock("08:00"), mass={"text": "8 lb", "source": "weighed"})
    day.act("a1", kind="out", done=True, cylinder="R-3", at=clock("09:00"), gross_before="20 lb")
    day.act("a2", kind="out", done=True, cylinder="R-3", at=clock("09:10"), gross_after="21 lb")
    assert [round(row.low.value / OZ_KG, 1) for row in day.found.inside.rows[-2:]] == [112.0, 96.0]
