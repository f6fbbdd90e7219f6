"""Another refrigerant in the same system: charges against worked cases, hard stops, what changes."""

import json
from dataclasses import replace
from pathlib import Path
from typing import Any

import pytest

from yoshi_core import retrofit, schema
from yoshi_core.cli import main
from yoshi_core.cycle import Conditions
from yoshi_core.errors import InvalidInput, OutOfRange
from yoshi_core.model import Plate
from yoshi_core.profile import Profile
from yoshi_core.retrofit import Candidate, Present
from yoshi_core.retrofit_view import RetrofitTable, table_of
from yoshi_core.units.quantities import FAHRENHEIT_K, OZ_KG, PSI_PA, ZERO_FAHRENHEIT_K

REFERENCE = json.loads((Path(__file__).parent / "reference" / "worked_cases.json").read_text())
CASES = [row for row in REFERENCE if row["id"].startswith("retrofit-")]


def kelvin(fahrenheit: float) -> float:
    return fahrenheit * FAHRENHEIT_K + ZERO_FAHRENHEIT_K


OLD_SPLIT = Present(
    "R-22", Conditions(kelvin(42), kelvin(108)), "orifice", "mineral", 140 * OZ_KG, 300 * PSI_PA, altitude_m=2100.0
)  # fmt: skip


def by_name(present: Present = OLD_SPLIT, **profile: Any) -> dict[str, Candidate]:
    return {row.name: row for row in retrofit.compare(present, Profile(**profile))}


def rules(row: Candidate) -> set[str]:
    return {stop.rule_id for stop in row.stops}


@pytest.mark.parametrize("case", CASES, ids=lambda case: case["id"])
def test_worked_cases(case: dict[str, Any]) -> None:
    """Liquid densities at 100 °F (CoolProp)."""
    given, expect, tolerance = case["given"], case["expect"], case["tolerance"]
    found = retrofit.charge(given["old"], given["new"], given["old_full_oz"] * OZ_KG, Profile())
    assert found.ratio == pytest.approx(expect["ratio"], abs=tolerance["ratio"])
    assert found.start_kg / OZ_KG == pytest.approx(expect["start_oz"], abs=tolerance["oz"])
    assert found.final_kg / OZ_KG == pytest.approx(expect["final_oz"], abs=tolerance["oz"])


def test_the_full_charge_counts_and_not_what_was_recovered_after_a_leak() -> None:
    """8 lb 12 oz full: start 7 lb 7.4 oz, final 8 lb 4.7 oz."""
    found = retrofit.charge("R-22", "R-407C", 140 * OZ_KG, Profile())
    assert found.start_kg / OZ_KG == pytest.approx(119.4, abs=0.1)
    assert found.final_kg / OZ_KG == pytest.approx(132.7, abs=0.1)
    with pytest.raises(OutOfRange, match="recovered after a leak is not it"):
        retrofit.charge("R-22", "R-407C", 0.0, Profile())


def test_an_orifice_split_of_r22_at_2100_m() -> None:
    found = by_name()
    assert rules(found["R-410A"]) == {"retrofit.pressure"}
    assert "395.6 psig on the worst day, and the plate says 300.0 psig." in [s.message.show() for s in found["R-410A"].stops]
    for flammable in ("R-32", "R-454B", "R-290"):
        assert "retrofit.listed" in rules(found[flammable])
    for free in ("R-407C", "R-427A", "R-422D"):
        assert not found[free].stops
        assert found[free].capacity_ratio is not None
    assert found["R-407C"].capacity_ratio == pytest.approx(1.03, abs=0.02)
    assert found["R-422D"].discharge_more_k is not None
    assert found["R-422D"].discharge_more_k < found["R-407C"].discharge_more_k < 0  # type: ignore[operator]
    assert "Oil to POE" in " ".join(m.show() for m in found["R-407C"].changes)
    assert "Oil to" not in " ".join(m.show() for m in found["R-422D"].changes)


def test_those_that_may_go_in_come_first_nearest_in_capacity_first() -> None:
    rows = retrofit.compare(OLD_SPLIT, Profile())
    free = [row for row in rows if not row.stops]
    assert rows[: len(free)] == tuple(free)
    gaps = [abs((row.capacity_ratio or 0.0) - 1.0) for row in free]
    assert gaps == sorted(gaps)
    assert "R-22" not in {row.name for row in rows}


def test_a_listed_unit_may_take_a_flammable_one_up_to_its_room() -> None:
    unit = replace(
        OLD_SPLIT, refrigerant="R-410A", oil="POE", design_high_pa=700 * PSI_PA, listed_class="A2L", full_kg=3.0, mounting="wall"
    )
    assert "room.ceiling" in rules(by_name(replace(unit, room_area_m2=4.0))["R-32"])
    assert not by_name(replace(unit, room_area_m2=80.0))["R-32"].stops


def test_profile_rules_stop_too() -> None:
    found = by_name(overrides={"retrofit.gwp": 1500.0})
    assert "retrofit.gwp" in rules(found["R-407C"])
    assert "retrofit.gwp" not in rules(found["R-513A"])


def test_ozone_depleting_refrigerants_do_not_come_back() -> None:
    assert "retrofit.ozone" in rules(by_name()["R-12"])
    assert "retrofit.ozone" not in rules(by_name(choices={"retrofit.ozone": "reclaimed"})["R-12"])


def test_tables_that_do_not_reach_are_a_stop_and_not_a_guess() -> None:
    hot = replace(OLD_SPLIT, refrigerant="R-134a", conditions=Conditions(kelvin(60), kelvin(165)))
    found = retrofit.compare(hot, Profile(), ["R-410A", "R-1234ze(E)"])
    stopped = {row.name: row for row in found}["R-410A"]
    assert "retrofit.tables" in rules(stopped)
    assert stopped.capacity_ratio is None
    assert "retrofit.tables" not in rules({row.name: row for row in found}["R-1234ze(E)"])


@pytest.mark.parametrize(("listed", "free"), [(None, set()), ("A2L", {"R-32"}), ("A3", {"R-290"})])
def test_listed_for_one_flammable_class_is_no_leave_for_another(listed: str | None, free: set[str]) -> None:
    found = by_name(replace(OLD_SPLIT, design_high_pa=None, full_kg=None, listed_class=listed))
    assert {name for name in ("R-32", "R-290") if "retrofit.listed" not in rules(found[name])} == free


class TestTable:
    PLATE = {
        "refrigerant": "R-22", "kind": "packaged", "metering": "txv", "factory_charge": "8 lb 12 oz", "oil": "mineral",
        "design_high": "300 psig", "altitude": "2100 m",
    }  # fmt: skip

    def table(self, plate: dict[str, Any] | None = None, **asked: str) -> RetrofitTable:
        return table_of(schema.load(Plate, plate or self.PLATE, "/plate"), Profile(), asked)

    def test_a_row_says_each_property_in_words_beside_its_mark(self) -> None:
        rows = {row.name: row for row in self.table().rows}
        said = {p.id: p.said.show() for p in rows["R-407C"].properties}
        assert said["discharge"] == "168.3 °F, 12.1 °F cooler"
        assert said["pressure"] == "282.3 psig"
        assert said["gwp"] == "1774, 6.7 t of CO₂ in all"
        bad = {p.id for p in rows["R-410A"].properties if p.bad}
        assert bad == {"pressure"}
        assert next(p for p in rows["R-407C"].properties if p.id == "capacity").mark == 1.0

    def test_the_stopped_stand_last_the_most_met_first(self) -> None:
        stopped = [row.name for row in self.table().rows if row.stops]
        assert stopped[:3] == ["R-410A", "R-454B", "R-32"]

    def test_what_the_plate_does_not_say_is_named_and_not_judged(self) -> None:
        table = self.table({"refrigerant": "R-22", "kind": "reach_in", "metering": "capillary"})
        assert table.lacks == ("the full charge", "the high side's design pressure", "the oil")
        rows = {row.name: row for row in table.rows}
        assert rows["R-407C"].start is None
        assert "Capillary: by weight only" in " ".join(change.show() for change in rows["R-407C"].changes)
        assert not any(p.bad for row in table.rows for p in row.properties)

    def test_a_plate_listed_for_its_own_class_takes_no_other(self) -> None:
        """A propane reach-in is listed for A3; an unlisted plate for nothing that burns."""
        plate = {**self.PLATE, "refrigerant": "R-32", "design_high": "800 psig", "oil": "POE"}
        stopped = {row.name: bool(row.stops) for row in self.table({**plate, "listed": True}).rows}
        assert (stopped["R-454B"], stopped["R-290"]) == (False, True)
        assert {row.name: bool(row.stops) for row in self.table(plate).rows}["R-454B"]

    def test_assumptions_are_usual_for_the_kind_and_open(self) -> None:
        box = {a.id: a.amount.value for a in self.table({**self.PLATE, "kind": "receiver"}).assumptions}
        assert box["evaporating"] == pytest.approx(kelvin(20))
        asked = {a.id: a.amount.value for a in self.table(evaporating="30F", efficiency="60 %").assumptions}
        assert (asked["evaporating"], asked["efficiency"]) == (pytest.approx(kelvin(30)), 0.6)
        with pytest.raises(InvalidInput, match="no assumption 'speed'"):
            self.table(speed="1")


class TestTerminal:
    def said(self, capsys: pytest.CaptureFixture[str], *more: str) -> tuple[int, str]:
        code = main(["retrofit", "R-22", "--charge", "8 lb 12 oz", "--oil", "mineral", "--metering", "orifice", *more])
        captured = capsys.readouterr()
        return code, captured.out + captured.err

    def test_one_candidate_with_its_charge_and_changes(self, capsys: pytest.CaptureFixture[str]) -> None:
        code, text = self.said(capsys, "--to", "R-407C")
        assert code == 0
        assert "start 7 lb 7.4 oz, final 8 lb 4.7 oz" in text
        assert "Oil to POE" in text
        assert "Nothing is topped up with another refrigerant" in text

    def test_stops_are_told_with_their_reason(self, capsys: pytest.CaptureFixture[str]) -> None:
        _, text = self.said(capsys, "--design-high", "300 psig", "--altitude", "2100 m", "--to", "R-410A")
        assert "Stop: 395.6 psig on the worst day, and the plate says 300.0 psig." in text

    def test_a_wrong_figure_names_its_option(self, capsys: pytest.CaptureFixture[str]) -> None:
        code, text = self.said(capsys, "--worst-outdoor", "hot")
        assert code == 2
        assert "--worst-outdoor" in text

    def test_as_json(self, capsys: pytest.CaptureFixture[str]) -> None:
        _, text = self.said(capsys, "--json", "--to", "R-422D")
        assert json.loads(text)[0]["name"] == "R-422D"
