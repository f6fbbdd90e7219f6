"""Another refrigerant in the same system: charges against worked cases, hard stops, what changes."""

import json
from dataclasses import replace
from pathlib import Path
from typing import Any

import pytest
from CoolProp import CoolProp

from tools import build_tables
from yoshi_core import refrigerants
from yoshi_core.cli.main import main
from yoshi_core.document import schema
from yoshi_core.document.plate import Plate
from yoshi_core.errors import InvalidInput, OutOfRange
from yoshi_core.profile.profile import Profile
from yoshi_core.properties import pressure_enthalpy, saturation
from yoshi_core.properties.cycle import Conditions
from yoshi_core.retrofit import candidates as retrofit
from yoshi_core.retrofit.candidates import Candidate, Present
from yoshi_core.steps.plan_change.case import present_of, usual
from yoshi_core.units.quantities import FAHRENHEIT_K, OZ_KG, PSI_PA, ZERO_FAHRENHEIT_K
from yoshi_core.views.retrofit import RetrofitTable, table_of

REFERENCE = json.loads((Path(__file__).parents[1] / "reference" / "worked_cases.json").read_text())
CATALOGUE = json.loads((build_tables.DATA / "catalogue.json").read_text())
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
    assert rules(found["R-410A"]) == {"retrofit.pressure", "retrofit.oil"}
    assert "It needs POE, and mineral is in it." in [s.message.show() for s in found["R-410A"].stops]
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


def test_a_shop_that_changes_no_oil_stops_what_needs_another() -> None:
    found = by_name(choices={"retrofit.oil": "stop"})
    assert rules(found["R-407C"]) == {"retrofit.oil"}
    assert not found["R-422D"].stops
    assert not by_name()["R-407C"].stops


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
        assert said["gwp"] == "1774"
        assert said["co2e"] == "6.7 t, leak checks every year"
        assert said["glide"].startswith("10.9 °F, condenser ")
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
        box = {a.id: a.amount.value for a in self.table({**self.PLATE, "kind": "receiver"}).assumptions if a.amount}
        assert box["evaporating"] == pytest.approx(kelvin(20))
        asked = {a.id: a.amount.value for a in self.table(evaporating="30F", efficiency="60 %").assumptions if a.amount}
        assert (asked["evaporating"], asked["efficiency"]) == (pytest.approx(kelvin(30)), 0.6)
        with pytest.raises(InvalidInput, match="no assumption 'speed'"):
            self.table(speed="1")

    def test_a_bare_number_is_in_the_units_of_who_typed_it(self) -> None:
        plate = schema.load(Plate, self.PLATE, "/plate")
        for system, at in (("us", kelvin(7)), ("si", 280.15)):
            box = {a.id: a.amount.value for a in table_of(plate, Profile(), {"evaporating": "7"}, system).assumptions if a.amount}
            assert box["evaporating"] == pytest.approx(at)

    def test_the_same_duty_in_watts_where_it_is_known(self) -> None:
        """3 tons: power for the duty is the duty over the cycle's own performance."""
        rows = {row.name: row for row in self.table(duty="3 ton").rows}
        said = {p.id: p.said.show("si") for p in rows["R-407C"].properties}
        ran = retrofit.compare(present_of(schema.load(Plate, self.PLATE, "/plate"), 3.97, usual("packaged")), Profile(), ["R-407C"])[
            0
        ].cycle
        assert ran is not None
        assert said["duty"].startswith(f"{3 * 3.5168528 / ran.performance:.2f} kW, ")
        shares = {p.id: p.value for p in rows["R-407C"].properties}
        assert shares["duty"] == pytest.approx(shares["power"] / shares["capacity"])

    def test_both_cycles_lie_over_each_other(self) -> None:
        table = self.table()
        new = next(row for row in table.rows if row.name == "R-407C")
        assert len(table.cycle) == len(new.cycle) == 4
        for ran in (table.cycle, new.cycle):
            suction, discharge, liquid, inlet = ran
            assert suction.pressure_pa == inlet.pressure_pa < discharge.pressure_pa == liquid.pressure_pa
            assert liquid.enthalpy_j_kg == inlet.enthalpy_j_kg < suction.enthalpy_j_kg < discharge.enthalpy_j_kg


# Start and final charges as makers' retrofit guides give them, as a share of the old charge by weight. All from memory.
GUIDES = {
    ("R-22", "R-407C"): (0.95, 0.02), ("R-12", "R-134a"): (0.90, 0.02), ("R-22", "R-422D"): (0.95, 0.05), ("R-22", "R-407A"): (0.95, 0.05),
    ("R-404A", "R-449A"): (1.05, 0.05), ("R-134a", "R-513A"): (0.95, 0.03),
}  # fmt: skip


@pytest.mark.parametrize(("pair", "guide"), GUIDES.items(), ids=lambda value: " to ".join(value) if isinstance(value[0], str) else "")
def test_final_charges_are_where_published_guides_put_them(pair: tuple[str, str], guide: tuple[float, float]) -> None:
    """Makers' retrofit guides (from memory)."""
    assert retrofit.charge(*pair, 1.0, Profile()).ratio == pytest.approx(guide[0], abs=guide[1])


@pytest.mark.parametrize("name", refrigerants.names())
def test_every_candidate_at_130_fahrenheit(name: str) -> None:
    """What decides on the worst day, against CoolProp itself: bubble at 130 °F within 0.1 %."""
    entry = next(row for row in CATALOGUE["refrigerants"] if row["name"] == name)
    state = build_tables.open_state(entry["parts"], CATALOGUE["components"])
    side = build_tables.Saturation(state, 0.0, build_tables.SEED_K)
    for step in range(1, 15):
        side.at(build_tables.SEED_K + (kelvin(130) - build_tables.SEED_K) * step / 14)
    assert saturation.bubble_pressure_pa(name, kelvin(130)) == pytest.approx(state.p(), rel=1e-3)


PUBLISHED_AT_130 = {"R-22": 297, "R-134a": 199, "R-410A": 476, "R-404A": 360, "R-12": 181, "R-290": 258}


@pytest.mark.parametrize(("name", "psig"), PUBLISHED_AT_130.items())
def test_published_pressures_at_130_fahrenheit(name: str, psig: float) -> None:
    """Published pressure-temperature charts (from memory), liquid."""
    assert (saturation.bubble_pressure_pa(name, kelvin(130)) - 101325.0) / PSI_PA == pytest.approx(psig, rel=0.015)


class TestChart:
    @pytest.mark.parametrize("name", ["R-22", "R-407C", "R-290"])
    def test_the_dome_against_the_library(self, name: str) -> None:
        """Enthalpy of both lines with saturated liquid at 0 °C as 200 kJ/kg, against CoolProp within 0.3 kJ/kg."""
        entry = next(row for row in CATALOGUE["refrigerants"] if row["name"] == name)
        state = build_tables.open_state(entry["parts"], CATALOGUE["components"])
        state.update(CoolProp.QT_INPUTS, 0.0, 273.15)
        zero = state.hmass() - 200e3
        chart = pressure_enthalpy.chart(name)
        for quality, line in ((0.0, chart.bubble), (1.0, chart.dew)):
            for point in line[4:36:8]:
                state.update(CoolProp.QT_INPUTS, quality, point.temperature_k)
                assert point.enthalpy_j_kg == pytest.approx(state.hmass() - zero, abs=300.0)
                assert point.pressure_pa == pytest.approx(state.p(), rel=1e-3)

    def test_every_refrigerant_has_a_dome_that_leans_to_its_top(self) -> None:
        for name in refrigerants.names():
            chart = pressure_enthalpy.chart(name)
            assert [p.pressure_pa for p in chart.bubble] == sorted(p.pressure_pa for p in chart.bubble)
            for bubble, dew in zip(chart.bubble, chart.dew, strict=True):
                assert bubble.enthalpy_j_kg < dew.enthalpy_j_kg
                assert bubble.pressure_pa >= dew.pressure_pa * 0.999
            assert len(chart.isotherms) >= 9

    def test_an_isotherm_runs_level_in_a_pure_refrigerant_and_falls_in_a_blend(self) -> None:
        for name, level in (("R-22", True), ("R-407C", False)):
            line = next(line for line in pressure_enthalpy.chart(name).isotherms if line.temperature_k == pytest.approx(293.15))
            assert (line.points[0].pressure_pa == pytest.approx(line.points[1].pressure_pa, rel=1e-3)) is level


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
