"""A retrofit as a job: the plan, and the old charge out."""

import pytest

from tests.make import NOW, kelvin
from tests.make_changed import (
    OLD,
    OUT,
    PLAN,
    WEIGHED,
    changed,
    figure_oz,
    lacks,
    said,
    told,
)
from yoshi_core.document.model import Job
from yoshi_core.document.sheets import Entry
from yoshi_core.errors import InvalidInput
from yoshi_core.job import closing, documents
from yoshi_core.profile.profile import Profile
from yoshi_core.steps import registry
from yoshi_core.steps.plan_change import case


class TestPlan:
    def test_from_the_full_charge_whatever_was_recovered(self) -> None:
        """8 lb 12 oz full, 6 lb 2 oz recovered after a leak: start 7 lb 7.4 oz, final 8 lb 4.7 oz."""
        found = changed(weigh=WEIGHED)
        assert figure_oz(found, "recover", "recovered") == pytest.approx(98.0, abs=0.05)
        assert figure_oz(found, "plan_change", "start") == pytest.approx(119.4, abs=0.1)
        assert figure_oz(found, "plan_change", "final") == pytest.approx(132.7, abs=0.1)
        assert figure_oz(found, "weigh_in", "to_weigh") == pytest.approx(119.4, abs=0.1)
        assert found.step("plan_change").verdict.word == "Holds"

    @pytest.mark.parametrize(
        ("to", "rule", "words"),
        [
            ("R-410A", "retrofit.pressure", "395.6 psig on the worst day, and the plate says 300.0 psig."),
            ("R-32", "retrofit.listed", "Class A2L, and the equipment is not listed for it."),
            ("R-290", "retrofit.listed", "Class A3, and the equipment is not listed for it."),
            ("R-12", "retrofit.ozone", "It depletes ozone: phased out, and no way to go."),
        ],
    )
    def test_what_may_not_go_in_is_stopped_with_its_reason(self, to: str, rule: str, words: str) -> None:
        found = changed(plan_change={**PLAN, "refrigerant": to})
        assert found.step("plan_change").verdict.word == "Stop"
        assert said(found, "plan_change", rule) == words
        assert found.step("plan_change").figure("start") is None
        assert found.step("weigh_in").figure("to_weigh") is None
        with pytest.raises(InvalidInput):
            closing.close_step(self.stopped(to), Profile(), "plan_change", "p", NOW, "the owner wants it")

    def stopped(self, to: str) -> Job:
        sheets = {"identify": OLD, "plan_change": {**PLAN, "refrigerant": to}}
        return documents.load_job({"id": "s", "kind": "retrofit", "steps": {k: {"runs": [{"sheet": v}]} for k, v in sheets.items()}})

    def test_tables_that_do_not_reach_stop_it(self) -> None:
        hot = {**PLAN, "refrigerant": "R-410A", "condensing": "165 °F", "evaporating": "60 °F"}
        found = changed({**OLD, "refrigerant": "R-134a", "design_high": "2000 psig"}, plan_change=hot)
        assert told(found, "plan_change")["retrofit.tables"] == "Stop"

    def test_nobody_agrees(self) -> None:
        assert "the maker, or whoever is responsible for the unit, agrees" in lacks(
            changed(plan_change={"refrigerant": "R-407C"}), "plan_change"
        )
        refused = changed(plan_change={**PLAN, "approved": False})
        assert told(refused, "plan_change")["retrofit.approved"] == "Stop"
        assert refused.step("plan_change").problems[0].path.endswith("/approved")

    @pytest.mark.parametrize(("to", "code"), [("R-22", "same_refrigerant"), ("R-999", "unknown_refrigerant")])
    def test_what_cannot_be_planned_is_refused_by_field(self, to: str, code: str) -> None:
        problem = changed(plan_change={**PLAN, "refrigerant": to}).step("plan_change").problems[0]
        assert problem.code == code
        assert problem.path.endswith("/refrigerant")

    def test_without_a_full_charge_there_is_no_plan(self) -> None:
        found = changed({key: value for key, value in OLD.items() if key != "factory_charge"})
        assert "the correct full charge of what is in it" in lacks(found, "plan_change")
        assert found.step("weigh_in").figure("to_weigh") is None

    def test_the_order_of_the_work(self) -> None:
        order = registry.order("retrofit")
        assert order.index("identify") < order.index("plan_change") < order.index("recover") < order.index("change_over")
        assert order.index("change_over") < order.index("pressure_hold") < order.index("weigh_in") < order.index("verify")
        assert not {"plan_change", "change_over"} & set(registry.order("service"))


class TestFromTheComparison:
    def test_the_sheet_begins_with_the_conditions_it_was_compared_at(self) -> None:
        sheet = case.planned("407c", {"evaporating": "38", "outdoor": "95 °F", "duty": " "})
        assert sheet.refrigerant == "R-407C"
        assert sheet.evaporating == Entry(kelvin(38), "38 °F", "°F", "assumed")
        assert sheet.outdoor == Entry(kelvin(95), "95 °F", "°F", "assumed")
        assert sheet.duty is None

    def test_a_bare_number_in_the_units_of_who_typed_it(self) -> None:
        sheet = case.planned("R-407C", {"evaporating": "4"}, "si")
        assert sheet.evaporating is not None
        assert sheet.evaporating.value == pytest.approx(277.15)

    def test_what_cannot_be_read_is_named(self) -> None:
        with pytest.raises(InvalidInput, match="evaporating") as refused:
            case.planned("R-407C", {"evaporating": "cold"})
        assert refused.value.path == "/evaporating"
        with pytest.raises(InvalidInput, match="no assumption"):
            case.planned("R-407C", {"weather": "fine"})


class TestOldChargeOut:
    def test_it_never_goes_back_in(self) -> None:
        found = changed(recover={**OUT, "use": "reuse", "same_owner": True, "burnout": False})
        assert told(found, "recover")["retrofit.use"] == "Stop"

    def test_pumped_down_is_not_out(self) -> None:
        assert told(changed(recover={"way": "pump_down", "compressor_runs": True}), "recover")["retrofit.pump_down"] == "Stop"

    def test_all_of_it_may_go_to_another_circuit_that_runs_on_it(self) -> None:
        use = {**OUT, "use": "other_circuit", "same_owner": True, "burnout": False, "acid": "clean", "to_circuit": "AX-2"}
        found = changed(recover={**use, "to_circuit_mass": {"text": "6 lb", "source": "weighed"}})
        assert told(found, "recover")["transfer.surplus"] == "Holds"

    def test_the_level_is_that_of_the_old_refrigerant(self) -> None:
        assert told(changed(recover={**OUT, "end_pressure": "12 psig"}), "recover")["recover.level"] == "Wait"

    def test_what_came_out_is_booked_as_the_old_refrigerant_and_what_goes_in_as_the_new(self) -> None:
        found = changed(weigh=WEIGHED)
        assert {m.refrigerant for m in found.step("recover").movements} == {"R-22"}
        assert {m.refrigerant for m in found.step("weigh_in").movements} == {"R-407C"}
