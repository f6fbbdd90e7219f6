"""The weigh-in after a change of refrigerant."""

import pytest

from tests.make import RUNNING
from tests.make_changed import (
    PLAN,
    REACH_IN,
    READ,
    REPAIRED,
    STARTED,
    WEIGHED,
    changed,
    figure_oz,
    told,
)


class TestWeighIn:
    def test_another_refrigerant_is_never_put_on_top(self) -> None:
        other = {"system_state": "empty", "draws": {"d1": {**STARTED, "holds": "R-22"}}}
        assert told(changed(weigh=other), "weigh_in")["weigh_in.other"] == "Stop"
        back = {"system_state": "empty", "draws": {"d1": {**STARTED, "contents": "recovered"}}}
        assert told(changed(weigh=back), "weigh_in")["weigh_in.other"] == "Stop"
        assert "weigh_in.other" not in told(changed(weigh=WEIGHED), "weigh_in")

    def test_nor_on_top_of_what_is_left_of_the_old(self) -> None:
        held = {**WEIGHED, "system_state": "holding", "inside": "2 lb"}
        assert told(changed(weigh=held), "weigh_in")["weigh_in.other"] == "Stop"

    def test_a_part_the_repair_put_in_joins_the_expected_charge(self) -> None:
        """8 lb 12 oz and 4 oz of a larger drier, of R-22: 9 lb by 0.948 is 136.5 oz, and nine tenths of it 122.8."""
        drier = {"p1": {"label": "drier", "kind": "drier", "charge": "4 oz"}}
        found = changed(weigh=WEIGHED, repair={**REPAIRED, "parts": drier})
        assert figure_oz(found, "weigh_in", "to_weigh") == pytest.approx(0.9 * 0.948 * 144, abs=0.1)

    def test_nor_is_it_trimmed_with_another(self) -> None:
        wrong = {**READ, "gross_before": "22 lb", "gross_after": "21 lb 12 oz", "cylinder": "R9", "holds": "r22"}
        found = changed(weigh=WEIGHED, verify={**RUNNING, "readings": {"r1": READ, "r2": wrong}})
        assert told(found, "verify")["verify.other"] == "Stop"
        right = changed(weigh=WEIGHED, verify={**RUNNING, "readings": {"r1": READ, "r2": {**wrong, "holds": "407C"}}})
        assert "verify.other" not in told(right, "verify")

    def test_a_capillary_takes_all_of_it_by_weight_and_is_not_trimmed(self) -> None:
        over = {"seals": True, "tagged": True, "no_controls": True}
        weigh = {
            "system_state": "empty",
            "scale_step": "0.05 oz",
            "draws": {"d1": {**STARTED, "holds": "R-513A", "gross_end": "29 lb 10 oz"}},
        }
        found = changed(REACH_IN, weigh, plan_change={**PLAN, "refrigerant": "R-513A"}, change_over=over)
        final = figure_oz(found, "plan_change", "final")
        assert found.step("plan_change").figure("start") is None
        assert figure_oz(found, "weigh_in", "to_weigh") == pytest.approx(final, abs=1e-6)
        assert "by weight alone" in found.step("plan_change").verdict.headline.show()
        assert "retrofit.valve" in told(found, "change_over")
        verify = found.step("verify")
        assert verify.figure("trim_step") is None
        assert "trim.step" not in told(found, "verify")
