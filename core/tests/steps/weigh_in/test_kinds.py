"""What goes into each kind of system, from which cylinders, up to where: practice's own cases and the rig."""

import json
from typing import Any

import pytest
from CoolProp.CoolProp import PropsSI

from tests.make import findings, kelvin, oz
from tests.make_closed import rules, said
from tests.test_reference_worked_cases import cases
from yoshi_core import refrigerants
from yoshi_core.charge import line_set, room_limits, stall
from yoshi_core.charge.volume import Volume
from yoshi_core.document.plate import Plate
from yoshi_core.errors import OutOfRange
from yoshi_core.findings.pictures import WeighInPicture
from yoshi_core.job.evaluate import Findings
from yoshi_core.message import Message
from yoshi_core.profile.profile import Profile
from yoshi_core.rig import scenario
from yoshi_core.rig.balance import OIL_SHARE
from yoshi_core.rig.design import design
from yoshi_core.rig.scenario_reader import Reader, read_plate
from yoshi_core.steps import volumes
from yoshi_core.units.quantities import LB_KG, OZ_KG

BASE = {"altitude": "0 m", "gauge_reference": "vented", "pairing_proven": True, "pairing_by": "only"}


def planned(plate: dict[str, Any], weigh: dict[str, Any] | None = None, profile: Profile | None = None) -> Findings:
    return findings({**BASE, **plate}, weigh, profile=profile)


def total_kg(found: Findings) -> float:
    figure = found.step("identify").figure("total")
    assert figure is not None, found.step("identify").verdict.headline.show()
    return figure.amount.value


class TestStall:
    @pytest.mark.parametrize("case", cases("stall-"))
    def test_where_liquid_stops_by_itself(self, case: dict[str, Any]) -> None:
        given, expect = case["given"], case["expect"]
        found = stall.stall_kg("R-410A", given["system_l"] / 1e3, kelvin(given["system_f"]), kelvin(given["cylinder_f"]))
        if expect["stall_lb"] is None:
            assert found is None
        else:
            assert found is not None
            assert found / LB_KG == pytest.approx(expect["stall_lb"], abs=0.012)

    @pytest.mark.parametrize(("system_f", "cylinder_f"), [(95, 75), (70, 70), (60, 40)])
    def test_against_the_reference_equation_of_state(self, system_f: float, cylinder_f: float) -> None:
        """R-134a, a single component, by CoolProp: the system full of vapour at the cylinder's pressure."""
        pressure = PropsSI("P", "T", kelvin(cylinder_f), "Q", 1, "R134a")
        dense = PropsSI("D", "P", pressure * 0.99999, "T", kelvin(system_f) + (0.01 if system_f == cylinder_f else 0.0), "R134a")
        found = stall.stall_kg("R-134a", 0.02, kelvin(system_f), kelvin(cylinder_f))
        assert found == pytest.approx(0.02 * dense, rel=0.01)

    def test_the_band_is_of_the_volume_and_the_temperatures(self) -> None:
        sure = stall.estimate("R-410A", Volume(0.009, 1.0, "measured"), kelvin(50), kelvin(50))
        guessed = stall.estimate("R-410A", Volume(0.009, 1.6, "guessed"), kelvin(50), kelvin(50))
        assert sure is not None
        assert guessed is not None
        assert sure.low_kg < sure.kg < sure.high_kg
        assert guessed.low_kg < sure.low_kg
        assert guessed.high_kg > sure.high_kg
        with pytest.raises(OutOfRange):
            stall.stall_kg("R-410A", 0.0, 280.0, 280.0)

    def test_a_cold_day_is_said_with_the_mark_of_the_stall_and_what_helps(self) -> None:
        plate = {"refrigerant": "R-410A", "factory_charge": "6 lb", "kind": "packaged", "metering": "txv"}
        weigh = {
            "system_state": "empty",
            "volume": {"text": "9 L", "source": "measured"},
            "system_temperature": "50 °F",
            "cylinder_temperature": "50 °F",
            "draws": {"d1": {"gross_start": "30 lb", "tare": "9 lb"}},
        }
        found = planned(plate, weigh).step("weigh_in")
        first = found.drawn(WeighInPicture).plan[0].text
        stops = first.words["s1"]
        assert isinstance(stops, Message)
        assert stops.amounts["about"].value / LB_KG == pytest.approx(0.83, abs=0.01)
        assert "unit running" in found.drawn(WeighInPicture).plan[1].text.show().lower()
        assert any("warm water" in note.show() for note in found.drawn(WeighInPicture).notes)
        mark = next(m for m in found.drawn(WeighInPicture).marks if m.id == "stall")
        assert mark.gross_kg == pytest.approx((30 - 0.83) * LB_KG, abs=0.01)
        assert mark.low_kg is not None
        assert mark.high_kg is not None
        assert mark.low_kg < mark.gross_kg < mark.high_kg
        warm = planned(plate, {**weigh, "cylinder_temperature": "80 °F"}).step("weigh_in")
        assert [m.id for m in warm.drawn(WeighInPicture).marks] == ["start", "slow", "close"]
        assert "keeps running" in warm.drawn(WeighInPicture).plan[0].text.show()

    @pytest.mark.parametrize("outdoor_f", [50, 70])
    def test_the_rigs_own_curve_stalls_where_it_is_expected(self, outdoor_f: int) -> None:
        """Unit off, system and cylinder as warm as each other: the rig's hose falls dry within 3 % of the estimate for its volume and what its oil takes up."""
        plain = json.loads(scenario.shipped("cold-cylinder-stalls"))
        plain["weather"] = {"outdoor": f"{outdoor_f} °F", "indoor": f"{outdoor_f} °F", "indoor_wet_bulb": f"{outdoor_f - 6} °F"}
        plain["cylinders"]["a"]["temperature"] = f"{outdoor_f} °F"
        plain |= {"lasts": "15 min", "events": plain["events"][:1]}
        made = scenario.loads(json.dumps(plain))
        rows = list(scenario.run(made))
        assert rows[-1]["stalled"]
        unit = design(read_plate(Reader(plain["unit"], "/unit")))
        warm = kelvin(outdoor_f)
        expected = stall.stall_kg("R-410A", unit.gas_side_m3, warm, warm)
        assert expected is not None
        assert rows[-1]["inside_kg"] == pytest.approx(expected + unit.oil_kg * OIL_SHARE, rel=0.03)
        shown = stall.estimate("R-410A", Volume(unit.gas_side_m3, 1.6, "guessed"), warm, warm)
        assert shown is not None
        assert shown.low_kg < float(str(rows[-1]["inside_kg"])) < shown.high_kg


class TestVariableFlow:
    LINES = {
        "l1": {"length": "34 m", "liquid_od": "15.88 mm"},
        "l2": {"length": "20 m", "liquid_od": "12.7 mm"},
        "l3": {"length": "58 m", "liquid_od": "9.52 mm"},
        "l4": {"length": "28 m", "liquid_od": "6.35 mm"},
    }
    PLATE = {"refrigerant": "R-410A", "kind": "vrf", "metering": "eev", "factory_charge": "11.2 kg", "lines": LINES}

    def test_by_liquid_diameter_with_its_indoor_units(self) -> None:
        found = planned({**self.PLATE, "indoor_units": "5", "indoor_allowance": "0.4 kg", "room_volume": "80 m³"})
        assert total_kg(found) == pytest.approx(22.928 + 5 * 0.4, abs=1e-6)
        bare = planned(self.PLATE)
        assert {m.path.rsplit("/", 1)[1] for m in bare.step("identify").missing} >= {"indoor_units", "indoor_allowance", "room_volume"}
        boxes = planned(
            {**self.PLATE, "indoor_units": "5", "indoor_allowance": "0.4 kg", "branch_boxes": "2", "branch_allowance": "0.3 kg"}
        )
        assert total_kg(boxes) == pytest.approx(22.928 + 2.6, abs=1e-6)

    def test_the_usual_allowance_says_that_it_is_one(self) -> None:
        figure = planned(self.PLATE).step("identify").figure("allowance.l1")
        assert figure is not None
        assert "variable flow" in figure.why.source

    def test_the_makers_own_allowance_wins(self) -> None:
        lines = {**self.LINES, "l1": {"length": "34 m", "liquid_od": "15.88 mm", "allowance": "0.19 kg/m"}}
        found = planned({**self.PLATE, "lines": lines})
        assert total_kg(found) == pytest.approx(22.928 + 34 * 0.02, abs=1e-6)
        with pytest.raises(OutOfRange):
            line_set.variable_flow_kg_m(0.0222)

    @pytest.mark.parametrize(("room", "word"), [("80 m³", "Holds"), ("40 m³", "Stop")])
    def test_the_smallest_room_decides(self, room: str, word: str) -> None:
        found = planned({**self.PLATE, "indoor_units": "5", "indoor_allowance": "0.4 kg", "room_volume": room}).step("identify")
        assert rules(found)["room.breathing"] == word
        assert found.verdict.word == word
        stricter = planned(
            {**self.PLATE, "indoor_units": "5", "indoor_allowance": "0.4 kg", "room_volume": "80 m³"},
            profile=Profile(overrides={"room.R-410A": 0.1}),
        )
        assert rules(stricter.step("identify"))["room.breathing"] == "Stop"


class TestFlammable:
    def test_what_needs_no_room_of_its_own(self) -> None:
        """R-32 1.84 kg and R-290 0.152 kg (IEC 60335-2-40 and -2-89, from memory)."""
        assert room_limits.free_kg(refrigerants.get("R-32"), Profile()) == pytest.approx(1.842, abs=1e-3)
        assert room_limits.free_kg(refrigerants.get("R-290"), Profile()) == pytest.approx(0.152, abs=1e-3)
        assert room_limits.free_kg(refrigerants.get("R-410A"), Profile()) is None

    def test_the_floor_and_the_ceiling_are_each_others_inverse(self) -> None:
        """The wall unit's worked example: 2.5·0.307^1.25·1.8·√20 = 4.6 kg."""
        mild = refrigerants.get("R-32")
        most = room_limits.ceiling_kg(mild, 20.0, "wall")
        assert most == pytest.approx(4.6, abs=0.05)
        assert room_limits.area_for_m2(mild, most, "wall") == pytest.approx(20.0)
        with pytest.raises(OutOfRange):
            room_limits.ceiling_kg(mild, 0.0, "wall")

    @pytest.mark.parametrize(
        ("length", "room", "rule", "word"),
        [
            ("5 m", {}, "room.free", "Holds"),
            ("40 m", {}, "room.free", "Wait"),
            ("40 m", {"room_area": "25 m²", "mounting": "wall"}, "room.ceiling", "Holds"),
            ("40 m", {"room_area": "25 m²", "mounting": "floor"}, "room.ceiling", "Stop"),
        ],
    )
    def test_the_charge_after_its_lines_is_held_against_it(self, length: str, room: dict[str, str], rule: str, word: str) -> None:
        plate = {
            "refrigerant": "R-32", "kind": "ductless", "metering": "eev", "factory_charge": "1.3 kg", "included_length": "7.5 m",
            "listed": True, "lines": {"l1": {"length": length, "allowance": "0.02 kg/m"}}, **room,
        }  # fmt: skip
        found = planned(plate).step("identify")
        assert rules(found)[rule] == word


class TestVehicle:
    PLATE = {"refrigerant": "R-134a", "kind": "vehicle", "metering": "txv", "factory_charge": "1225 g", "tolerance": "25 g"}

    def cans(self, count: int) -> dict[str, Any]:
        can = {"label_net": "12 oz", "residue": "0.4 oz"}
        return {"system_state": "empty", "scale_step": "5 g", "draws": {f"d{n}": can for n in range(1, count + 1)}}

    def test_three_cans_are_short_before_the_first_is_opened_and_four_would_do(self) -> None:
        found = planned(self.PLATE, self.cans(3)).step("weigh_in")
        assert rules(found)["weigh_in.short"] == "Wait"
        reason = next(r for r in found.verdict.reasons if r.rule_id == "weigh_in.short")
        assert oz(reason.message.amounts["value"].value) == pytest.approx(8.4, abs=0.02)
        assert "One more like the last would do" in reason.message.show()
        assert "before the first is opened" in reason.message.show()
        assert "Engine off" in found.drawn(WeighInPicture).plan[0].text.show()
        assert "Engine running" in found.drawn(WeighInPicture).plan[1].text.show()
        enough = planned(self.PLATE, self.cans(4)).step("weigh_in")
        assert "weigh_in.short" not in rules(enough)
        assert rules(enough)["weigh_in.label"] == "Open"
        assert "draws/d1/gross_start" in next(m.path for m in enough.missing)

    def test_each_can_goes_on_the_scale_and_the_next_mark_follows_what_the_last_gave(self) -> None:
        weigh = self.cans(4)
        weigh["draws"]["d1"] = {"label_net": "12 oz", "residue": "0.4 oz", "gross_start": "15.4 oz", "gross_end": "4.0 oz"}
        weigh["draws"]["d2"] = {"label_net": "12 oz", "residue": "0.4 oz", "gross_start": "15.5 oz"}
        found = planned(self.PLATE, weigh).step("weigh_in")
        close = next(m for m in found.drawn(WeighInPicture).marks if m.id == "close")
        assert oz(close.gross_kg) == pytest.approx(15.5 - 11.6)
        weigh["draws"]["d2"]["gross_end"] = "3.9 oz"
        weigh["draws"]["d3"] = {**weigh["draws"]["d1"], "gross_end": "3.8 oz"}
        weigh["draws"]["d4"] = {"label_net": "12 oz", "residue": "0.4 oz", "gross_start": "15.4 oz"}
        last = planned(self.PLATE, weigh).step("weigh_in")
        close = next(m for m in last.drawn(WeighInPicture).marks if m.id == "close")
        left = 1225.0 / OZ_KG / 1e3 - (11.4 + 11.6 + 11.6)
        assert oz(close.gross_kg) == pytest.approx(15.4 - left, abs=0.01)


class TestSeveralSources:
    PLATE = {"refrigerant": "R-22", "kind": "packaged", "metering": "txv", "factory_charge": "9 lb"}
    DRAWS = {
        "d1": {"gross_start": "30 lb", "tare": "9 lb", "contents": "new"},
        "d2": {"gross_start": "33 lb", "tare": "27 lb", "contents": "recovered", "residue": "1 lb"},
    }

    def first_mark(self, profile: Profile | None = None) -> float:
        found = planned(self.PLATE, {"system_state": "empty", "draws": self.DRAWS}, profile).step("weigh_in")
        return next(m for m in found.drawn(WeighInPicture).marks if m.id == "start").gross_kg / LB_KG

    def test_recovered_first_or_new_first_by_school(self) -> None:
        assert self.first_mark() == pytest.approx(33.0)
        assert self.first_mark(Profile(choices={"weigh_in.order": "new"})) == pytest.approx(30.0)

    def test_what_the_first_gave_is_taken_off_the_second(self) -> None:
        draws = {**self.DRAWS, "d2": {**self.DRAWS["d2"], "gross_end": "28 lb 2 oz"}}
        found = planned(self.PLATE, {"system_state": "empty", "draws": draws}).step("weigh_in")
        close = next(m for m in found.drawn(WeighInPicture).marks if m.id == "close")
        assert close.gross_kg / LB_KG == pytest.approx(30.0 - (9.0 - 4.875))

    def test_the_last_of_a_single_refrigerant_may_be_drawn_as_vapour(self) -> None:
        draw = {"gross_start": "36 lb", "tare": "27 lb", "contents": "recovered", "water_capacity": "47.7 lb"}
        sheet = {"system_state": "empty", "draws": {"d1": draw}}
        school = Profile(choices={"recovered.last": "vapour"})
        said_so = {**sheet, "draws": {"d1": {**draw, "vapour_too": True}}}
        said_not = {**sheet, "draws": {"d1": {**draw, "vapour_too": False}}}
        heel = self.stays(planned(self.PLATE, sheet))
        assert heel == pytest.approx(47.7 * LB_KG / 998.0 * PropsSI("D", "T", 298.15, "Q", 1, "R22"), rel=0.01)
        last = self.stays(planned(self.PLATE, sheet, school))
        assert last / heel == pytest.approx(PropsSI("D", "T", 277.594, "Q", 1, "R22") / PropsSI("D", "T", 298.15, "Q", 1, "R22"), rel=0.01)
        assert [self.stays(planned(self.PLATE, one, by)) for one, by in ((said_so, Profile()), (said_not, school))] == [last, heel]
        cold = {**said_so, "cylinder_temperature": "30 °F"}  # colder than a suction it gives nothing more
        assert self.stays(planned(self.PLATE, cold)) < last

    @staticmethod
    def stays(found: Findings) -> float:
        """What is said to stay in the cylinder, kg."""
        reason = next(r for r in found.step("weigh_in").verdict.reasons if r.rule_id == "weigh_in.short")
        return reason.message.amounts["heel"].value

    def test_the_last_of_a_blend_is_never_counted_as_drawn(self) -> None:
        plate = {**self.PLATE, "refrigerant": "R-407C"}
        draw = {"gross_start": "36 lb", "tare": "27 lb", "contents": "recovered", "water_capacity": "47.7 lb"}
        sheets = [{"system_state": "empty", "draws": {"d1": {**draw, "vapour_too": said}}} for said in (True, None)]
        drawn, plain = (planned(plate, sheet, Profile(choices={"recovered.last": "vapour"})) for sheet in sheets)
        assert self.stays(drawn) == self.stays(plain)
        assert rules(drawn.step("weigh_in"))["weigh_in.last_vapour"] == "Wait"
        assert "weigh_in.last_vapour" not in rules(plain.step("weigh_in"))


class TestReachIn:
    PLATE = {"refrigerant": "R-290", "kind": "reach_in", "metering": "capillary", "factory_charge": "5.3 oz", "tolerance": "0.3 oz"}
    NINETEEN = {"refrigerant": "R-134a", "kind": "reach_in", "metering": "capillary", "factory_charge": "19 oz", "tolerance": "0.3 oz"}

    @pytest.mark.parametrize(("step", "stopped"), [("0.5 oz", True), ("0.1 oz", False), ("1 g", False)])
    def test_a_scale_too_coarse_is_refused_with_the_coarsest_that_would_do(self, step: str, stopped: bool) -> None:
        weigh = {"system_state": "empty", "scale_step": step, "draws": {"d1": {"gross_start": "9 lb", "tare": "5 lb"}}}
        found = planned(self.NINETEEN, weigh).step("weigh_in")
        assert ("critical.scale_share" in rules(found)) is stopped
        if stopped:
            assert "0.1 oz" in said(found, "critical.scale_share")
        assert "process tube" in found.drawn(WeighInPicture).plan[0].text.show()
        assert [m.id for m in found.drawn(WeighInPicture).marks] == ["start", "slow", "close"]


class TestReceiver:
    PLATE = {
        "refrigerant": "R-404A", "kind": "receiver", "metering": "txv", "factory_charge": "14 lb", "included_length": "10 ft",
        "lines": {"l1": {"length": "10 ft", "allowance": "0.5 oz/ft"}},
    }  # fmt: skip

    def test_winter_flooding_by_table_or_by_the_condensers_volume(self) -> None:
        assert "floods" in planned(self.PLATE).step("identify").missing[0].path
        assert total_kg(planned({**self.PLATE, "floods": False})) / LB_KG == pytest.approx(14.0)
        table = planned({**self.PLATE, "floods": True, "flooding_charge": "6 lb"})
        assert total_kg(table) / LB_KG == pytest.approx(20.0)
        volume = planned({**self.PLATE, "floods": True, "condenser_volume": "3 L"})
        dense = PropsSI("D", "T", kelvin(32), "Q", 0, "R404A")
        assert total_kg(volume) == pytest.approx(14 * LB_KG + 0.9 * 0.003 * dense, rel=0.002)


class TestLowPressureChiller:
    PLATE = {"refrigerant": "R-123", "kind": "chiller", "metering": "orifice", "factory_charge": "700 lb"}
    DRUM = {"gross_start": "112 lb", "tare": "12 lb", "water_capacity": "86 lb"}

    def found(self, drums: int, **more: Any) -> Any:
        sheet = {"system_state": "empty", "water_safe": True, "draws": {f"d{n}": self.DRUM for n in range(drums)}, **more}
        return planned(self.PLATE, sheet, Profile(overrides={"cylinder.heel_k": kelvin(70)})).step("weigh_in")

    def test_seven_drums_are_short_by_their_heels_and_an_eighth_would_do(self) -> None:
        seven = self.found(7)
        reason = next(r for r in seven.verdict.reasons if r.rule_id == "weigh_in.short")
        assert reason.message.amounts["value"].value / LB_KG == pytest.approx(3.0, abs=0.4)
        assert "One more like the last would do" in reason.message.show()
        assert "weigh_in.short" not in rules(self.found(8))

    def test_vapour_until_it_cannot_freeze_in_every_unit_of_pressure(self) -> None:
        first = self.found(8).picture.plan[0].text
        assert first.amounts["safe"].value == pytest.approx(kelvin(36))
        assert "19.3 inHg" in first.show()
        assert first.amounts["absolute"].value == first.amounts["micron"].value
        assert first.amounts["absolute"].value == pytest.approx(PropsSI("P", "T", kelvin(36), "Q", 1, "R123"), rel=0.005)
        assert "micron" in first.show()
        assert "liquid" in self.found(8).picture.plan[1].text.show()
        at_once = planned(self.PLATE, {"system_state": "empty", "water_safe": True, "draws": {"d1": self.DRUM}},
                          Profile(choices={"weigh_in.low_pressure": "liquid"})).step("weigh_in")  # fmt: skip
        assert "drawn in by the vacuum" in at_once.drawn(WeighInPicture).plan[0].text.show()

    def test_nothing_goes_in_while_water_stands_in_the_tubes(self) -> None:
        assert rules(self.found(8, water_safe=False))["weigh_in.freeze"] == "Stop"
        assert "water_safe" in [m.path.rsplit("/", 1)[1] for m in self.found(8, water_safe=None).missing]


def test_a_precharged_unit_is_opened_liquid_first_or_suction_first_by_school() -> None:
    plate = {"refrigerant": "R-410A", "kind": "split", "metering": "txv", "factory_charge": "6 lb", "included_length": "15 ft",
             "lines": {"l1": {"length": "40 ft", "allowance": "0.6 oz/ft"}}}  # fmt: skip
    weigh = {"system_state": "precharged", "draws": {"d1": {"gross_start": "30 lb", "tare": "9 lb"}}}
    assert "open the liquid valve" in planned(plate, weigh).step("weigh_in").drawn(WeighInPicture).plan[0].text.show()
    other = planned(plate, weigh, Profile(choices={"weigh_in.precharged": "suction"})).step("weigh_in")
    assert "open the suction valve" in other.drawn(WeighInPicture).plan[0].text.show()


def test_volumes_by_kind_stay_as_they_were() -> None:
    assert volumes.of(Plate(kind="split"), None).band == volumes.UNKNOWN_BAND
