"""What makes the ± of a charge, and figures handed down from step to step."""

import pytest

from tests.make import findings
from tests.make_closed import rules, said
from tests.steps.weigh_in.test_kinds import BASE, planned
from yoshi_core.charge import total as charge
from yoshi_core.units.quantities import LB_KG


class TestWhatMakesThePlusMinus:
    PLATE = {"refrigerant": "R-410A", "kind": "split", "metering": "txv", "factory_charge": "9 lb 4 oz", "included_length": "25 ft"}

    def said(self, **line: str) -> tuple[str, ...]:
        figure = planned({**self.PLATE, "lines": {"l1": {"length": "55 ft", **line}}}).step("identify").figure("total")
        assert figure is not None
        return tuple(note.show() for note in figure.why.notes)

    def test_the_largest_is_named_with_what_shrinks_it_and_what_would_be_left(self) -> None:
        by_size = self.said(liquid_od="3/8 in", suction_od="7/8 in")
        assert any("Most of it is the line allowance" in text and "maker's own table" in text for text in by_size)
        by_maker = self.said(allowance="0.6 oz/ft")
        assert any("line allowance 1.5 oz, line length 1.2 oz, plate 0.5 oz and scale 0.5 oz" in text for text in by_maker)
        assert any("one more digit" in text and "would be left" in text for text in by_maker)

    def test_what_is_left_without_it_is_the_rest_of_the_squares(self) -> None:
        build_up = charge.total_charge(
            charge.Nameplate(4.0, 0.03, 5.0), [charge.LineRun("l1", 10.0, 0.05, 1.0, 0.001)], scale_limit_kg=0.04
        )
        largest, *rest = build_up.limits()
        assert (largest.kind, largest.kg) == ("length", pytest.approx(0.05))
        left = sum(limit.kg**2 for limit in rest) ** 0.5 / 3**0.5
        assert build_up.without(largest) == pytest.approx(left)


class TestFiguresHandedDown:
    def test_told_copied_and_stamped_are_all_shown_and_the_plate_decides(self) -> None:
        """Told as 9.8 lb, copied as 9 lb 8 oz, plate 9 lb 4 oz."""
        circuit = {"id": "P", "name": "P", "system": "S", "site": "Q", "revision": 1, "plate": {"factory_charge": "9 lb 8 oz"}}
        plate = {"refrigerant": "R-410A", "kind": "packaged", "metering": "txv", "factory_charge": "9 lb 4 oz", "charge_told": "9.8 lb"}
        found = findings({**BASE, **plate}, circuit=circuit).step("identify")
        told = said(found, "identify.told")
        assert all(text in told for text in ("9 lb 12.8 oz", "9 lb 8.0 oz on record", "9 lb 4.0 oz on the plate", "the plate decides"))
        assert "tenths of a pound are not ounces" in told
        figure = found.figure("total")
        assert figure is not None
        assert figure.amount.value == pytest.approx(9.25 * LB_KG)

    def test_a_plate_of_201_ounces_written_as_12_lb_5_oz_is_asked_about(self) -> None:
        plate = {
            "refrigerant": "R-410A",
            "kind": "packaged",
            "metering": "txv",
            "factory_charge": "12 lb 5 oz",
            "factory_charge_other": "201 oz",
        }
        found = findings({**BASE, **plate}).step("identify")
        assert found.verdict.word == "Wait"
        assert "12 lb 9.0 oz" in found.questions[0].message.show()
        right = findings({**BASE, **plate, "factory_charge": "12 lb 9 oz"}).step("identify")
        assert not right.questions

    def test_a_told_figure_that_agrees_says_nothing(self) -> None:
        plate = {"refrigerant": "R-410A", "kind": "packaged", "metering": "txv", "factory_charge": "9 lb 4 oz", "charge_told": "9.25 lb"}
        assert "identify.told" not in rules(findings({**BASE, **plate}).step("identify"))


def test_a_heat_pump_is_told_what_heating_takes_into_its_vapour_line() -> None:
    """About 80 kg/m³ of hot gas against 37 (common practice, no source): 2.6 oz in 7.1 m of 3/4 in."""
    lines = {"l1": {"length": "7.1 m", "liquid_od": "3/8 in", "suction_od": "3/4 in"}}
    plate = {
        "refrigerant": "R-410A",
        "kind": "heat_pump",
        "metering": "txv",
        "factory_charge": "6 lb",
        "included_length": "15 ft",
        "lines": lines,
    }

    def notes(kind: str) -> list[str]:
        total = findings({**plate, "kind": kind}).step("identify").figure("total")
        assert total is not None
        return [note.show() for note in total.why.notes if "In heating" in note.text]

    assert notes("heat_pump") == [
        "In heating the vapour line holds 2.6 oz more, as hot gas. The total is the same in both modes: "
        "set it in cooling, or by the maker's heating chart."
    ]
    assert notes("split") == []
