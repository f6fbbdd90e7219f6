"""A look inside holds what the bench holds, looking back is the run itself, and a circuit without refrigerant does as nitrogen and vacuum do."""

import json
from dataclasses import fields, replace
from typing import Any

import jsonschema
import pytest

from tests.practice.test_bench import exercise, on_hose
from yoshi_core.errors import CoreError, InvalidInput
from yoshi_core.practice import exercise as exercises
from yoshi_core.practice.bench import Bench
from yoshi_core.practice.card import card_of
from yoshi_core.practice.careful import play
from yoshi_core.practice.debrief import acts_from, debrief, replayed
from yoshi_core.practice.empty import Tightness
from yoshi_core.practice.inside import inside
from yoshi_core.practice.marking import marked
from yoshi_core.practice.questions import question, true_answer
from yoshi_core.practice.seen import seen
from yoshi_core.rig.solve import as_read
from yoshi_core.units.quantities import FAHRENHEIT_K, MICRON_PA, OZ_KG, PSI_PA


def held(look: Any) -> float:
    return sum(part.mass_kg for part in look.parts) + look.oil_kg


class TestALookInside:
    def test_the_parts_hold_what_is_mixed_in_and_the_zones_fill_each(self) -> None:
        bench = Bench(exercise("orifice-by-superheat"))
        bench.run(600)
        look = inside(bench)
        assert held(look) == pytest.approx(bench.live.charge_kg, rel=1e-4)
        for part in look.parts:
            assert sum(zone.share for zone in part.zones) == pytest.approx(1.0, abs=1e-3), part.id
            assert all(0.0 <= height <= 1.0 for height in part.heights)

    def test_it_is_the_solution_the_gauges_run_after(self) -> None:
        bench = Bench(exercise("valve-by-subcooling"))
        bench.run(1200)
        look, now = inside(bench), bench.now
        assert look.low_pa == pytest.approx(now.suction_pa, rel=2e-3)
        superheat, subcooling = as_read("R-410A", now.suction_pa, now.suction_k, now.liquid_pa, now.liquid_k)
        assert look.superheat_k == pytest.approx(superheat, abs=0.2)
        assert look.subcooling_k == pytest.approx(subcooling, abs=0.2)
        assert [round(point.pressure_pa) for point in look.cycle[:2]] == [round(look.low_pa), round(look.high_pa)]
        assert look.cycle[2].enthalpy_j_kg == look.cycle[3].enthalpy_j_kg  # nothing is gained or lost in the valve

    def test_more_in_it_stands_higher_in_the_condenser(self) -> None:
        looks = []
        for share in (0.8, 1.0, 1.2):
            found = exercise("orifice-by-superheat")
            bench = Bench(replace(found, faults=replace(found.faults, charge_share=share)))
            bench.run(300)
            looks.append(next(part for part in inside(bench).parts if part.id == "condenser"))
        liquid = [sum(zone.share for zone in part.zones if zone.what == "liquid") for part in looks]
        assert liquid == sorted(liquid)
        assert looks[0].mass_kg < looks[1].mass_kg < looks[2].mass_kg

    def test_off_it_lies_in_the_colder_coil(self) -> None:
        bench = Bench(exercise("orifice-by-superheat"))
        bench.do("switch", "unit", "off")
        bench.run(600)
        look = inside(bench)
        assert not look.running
        assert held(look) == pytest.approx(bench.live.charge_kg, rel=0.01)
        assert {part.id for part in look.parts if part.zones[0].what == "liquid"} == {"evaporator"}  # 80 °F in, 95 °F out

    def test_the_cylinder_on_the_hose_with_its_gas(self) -> None:
        bench = Bench(exercise("orifice-by-superheat"))
        on_hose(bench)
        vessel = inside(bench).vessel
        assert vessel is not None
        assert (vessel.code, vessel.upside_down) == ("14", True)
        assert vessel.mass_kg == pytest.approx(bench.cylinders["14"].net_kg)
        assert 0.0 < vessel.gas_kg < 0.05 * vessel.mass_kg


class TestFromOutside:
    def test_what_is_seen_says_nothing_of_what_is_hidden(self) -> None:
        found = exercise("orifice-by-superheat")
        one = seen(Bench(found))
        other = seen(Bench(replace(found, faults=replace(found.faults, charge_share=found.faults.charge_share))))
        assert one == other
        names = {item.name for item in fields(one)}
        assert not names & {"faults", "hidden", "charge_kg", "inside"}

    def test_a_look_shows_its_outcome_and_cleaning_takes_it_back(self) -> None:
        bench = Bench(exercise("low-air"))
        bench.do("look", "filter")
        assert {row.id: row.seen for row in seen(bench).looks if row.seen} == {"filter": "filter or coil blocked"}
        bench.do("clean", "filter")
        assert not any(row.seen for row in seen(bench).looks)

    def test_a_card_tells_the_unit_and_not_the_fault(self) -> None:
        for name in exercises.SHIPPED:
            card = card_of(exercises.loads(exercises.shipped(name)))
            assert card.number
            assert card.time_s > 0.0
            assert not hasattr(card, "faults")


class TestSwitches:
    def test_fans_act_on_what_is_read(self) -> None:
        bench = Bench(exercise("orifice-by-superheat"))
        bench.run(60)
        before = bench.now
        bench.do("switch", "outdoor_fan", "off")
        bench.run(120)
        assert bench.now.liquid_pa > before.liquid_pa + 30 * PSI_PA or not bench.now.running
        low = Bench(exercise("orifice-by-superheat"))
        low.do("switch", "indoor_fan", "low")
        low.run(600)
        assert low.now.suction_pa < before.suction_pa - 2 * PSI_PA

    def test_the_disconnect_stops_it_and_nothing_starts_without(self) -> None:
        bench = Bench(exercise("orifice-by-superheat"))
        bench.do("switch", "disconnect", "off")
        bench.run(5)
        assert not bench.now.running
        bench.do("switch", "unit", "on")
        bench.run(5)
        assert not bench.now.running
        bench.do("switch", "disconnect", "on")
        bench.run(5)
        assert bench.now.running

    def test_only_a_heat_pump_heats_and_its_vapour_port_is_hot_then(self) -> None:
        with pytest.raises(InvalidInput, match="only cools"):
            Bench(exercise("orifice-by-superheat")).do("switch", "mode", "heating")
        found = exercise("in-winter", start="running")
        bench = Bench(found)
        bench.do("valve", "suction_port", "open")
        bench.run(300)
        assert bench.now.running
        assert bench.shown.suction_pa == pytest.approx(bench.now.liquid_pa - bench.weather.site_pa, abs=3 * PSI_PA)


class TestWithoutRefrigerant:
    def test_nitrogen_falls_with_the_metal_and_faster_with_a_leak(self) -> None:
        drops = []
        for leak in (0.0, 0.6):
            bench = Bench(exercise("hold-while-it-cools", tight=Tightness(leak, metal_k=321.0)))
            bench.do("valve", "suction_port", "open")
            bench.do("nitrogen", "", "300 psig")
            bench.run(900)
            before = bench.shown.suction_pa
            bench.run(1200)
            assert before is not None
            assert bench.shown.suction_pa is not None
            drops.append(before - bench.shown.suction_pa)
        assert 0.0 < drops[0] < drops[1]

    def test_a_pump_brings_it_down_and_water_brings_it_up_again(self) -> None:
        rises = []
        for water in (0.0, 4e-3):
            bench = Bench(exercise("leak-or-moisture", tight=Tightness(water_kg=water)))
            bench.do("pump", "", "on")
            bench.run(1500)
            deep = bench.shown.vacuum_pa
            bench.do("pump", "", "off")
            bench.run(900)
            assert deep is not None
            assert bench.shown.vacuum_pa is not None
            assert deep < 600 * MICRON_PA
            rises.append(bench.shown.vacuum_pa - deep)
        assert 0.0 <= rises[0] < rises[1]

    def test_no_pump_against_nitrogen_no_compressor_on_air_no_nitrogen_on_refrigerant(self) -> None:
        bench = Bench(exercise("hold-while-it-cools"))
        bench.do("nitrogen", "", "300 psig")
        for act in (("pump", "", "on"), ("switch", "unit", "on"), ("nitrogen", "", "200 psig"), ("nitrogen", "", "9000 psig")):
            with pytest.raises(CoreError):
                bench.do(*act)
        bench.do("nitrogen", "", "off")
        bench.do("pump", "", "on")
        with pytest.raises(InvalidInput, match="refrigerant inside"):
            Bench(exercise("orifice-by-superheat")).do("nitrogen", "", "300 psig")

    def test_air_that_was_left_in_it_raises_the_head(self) -> None:
        heads = []
        for start in ("empty", "open"):
            bench = Bench(exercise("all-of-it-by-weight", start=start))
            on_hose(bench)
            for valve in ("suction_port", "liquid_port", "high_side", "cylinder"):
                bench.do("valve", valve, "open")
            while bench.live.charge_kg < 1.8 and bench.time_s < 3600:
                bench.run(10)
            bench.do("valve", "cylinder", "shut")
            bench.do("valve", "high_side", "shut")
            bench.do("switch", "unit", "on")
            bench.run(900)
            heads.append((bench.hidden.non_condensables, bench.now.liquid_pa))
        assert heads[0][0] < 0.01
        assert heads[1][0] > 0.3
        assert heads[1][1] > heads[0][1] + 20 * PSI_PA


class TestPumpingDown:
    def test_what_leaves_the_low_side_is_in_the_condenser(self) -> None:
        bench = Bench(exercise("pump-down"))
        for port in ("suction_port", "liquid_port"):
            bench.do("valve", port, "open")
        bench.do("isolate", "liquid", "shut")
        pumped = bench.pumped
        assert pumped is not None
        whole, lows = pumped.low_kg + pumped.high_kg, []
        for _ in range(20):
            bench.run(10)
            lows.append(pumped.low_kg)
            assert pumped.low_kg + pumped.high_kg == pytest.approx(whole)
            assert held(inside(bench)) == pytest.approx(whole, rel=1e-6)
        assert lows == sorted(lows, reverse=True)

    def test_left_running_it_pulls_a_vacuum_and_left_open_it_comes_back(self) -> None:
        bench = Bench(exercise("pump-down"))
        bench.do("isolate", "liquid", "shut")
        bench.run(600)
        assert bench.pumped is not None
        assert bench.pumped.vacuum_s > 20.0
        assert not {mark.id: mark.met for mark in marked(bench.exercise, bench, play(bench.exercise).job).marks}["pumped_down"]
        bench.do("switch", "unit", "off")
        low = bench.pumped.low_kg
        bench.run(600)
        assert bench.pumped.low_kg > low


class TestRoom:
    def test_a_cylinder_over_its_limit_is_marked(self) -> None:
        bench = Bench(exercise("room-for-it"))
        job = play(bench.exercise).job
        assert "overfull" not in {mark.id for mark in marked(bench.exercise, bench, job).marks}
        bench.cylinders["R3"].net_kg += 10.0
        assert not {mark.id: mark.met for mark in marked(bench.exercise, bench, job).marks}["overfull"]


class TestQuestions:
    @pytest.mark.parametrize("text", ["superheet", "net", "shut 14", "net 14 42 oz", "shut 14 lots"])
    def test_a_question_nobody_can_answer_is_refused(self, text: str) -> None:
        with pytest.raises(CoreError):
            question(text)

    def test_answers_are_judged_when_given_by_what_was_true_then(self) -> None:
        bench = Bench(exercise("both-gauges"))
        truth = true_answer(bench, question("superheat"))
        assert isinstance(truth, float)
        bench.do("answer", "superheat", f"{truth / FAHRENHEIT_K:.1f} °F")
        bench.do("answer", "subcooling", f"{truth / FAHRENHEIT_K + 20:.1f}")
        assert (bench.answers["superheat"].right, bench.answers["subcooling"].right) == (True, False)
        with pytest.raises(InvalidInput):
            bench.do("answer", "superheat", "quite warm")
        with pytest.raises(InvalidInput, match="Nobody asks"):
            bench.do("answer", "cause", "undercharge")

    def test_ounces_over_fifteen_are_not_pounds(self) -> None:
        bench = Bench(exercise("ounces-pounds-kilos"))
        net = bench.cylinders["15"].net_kg
        bench.do("answer", "net 15", f"{net / OZ_KG:.1f} oz")
        bench.do("answer", "grams 14", f"{1000 * bench.cylinders['14'].net_kg:.0f}")
        assert all(answer.right for answer in bench.answers.values())
        pounds = net / (16 * OZ_KG)
        bench.do("answer", "net 15", f"{int(pounds)} lb {10 * (pounds - int(pounds)):.1f} oz")  # the slip the exercise is about
        assert not bench.answers["net 15"].right


class TestLookingBack:
    @pytest.mark.parametrize("name", ["valve-by-subcooling", "heel-and-cans", "hold-while-it-cools", "pump-down"])
    def test_the_careful_run_looked_back_at_is_itself(self, name: str) -> None:
        found = exercise(name)
        played = play(found)
        back = debrief(found, played.bench.acts, played.bench.time_s, played.job)
        assert back.person == back.careful
        assert back.person.met
        assert back.person.track.inside_kg[-1] == pytest.approx(played.bench.live.charge_kg, rel=0.02, abs=1e-3)

    def test_a_run_played_again_is_the_same_to_the_digit(self) -> None:
        bench = Bench(exercise("orifice-by-superheat"))
        for second, act in enumerate((("valve", "suction_port", "open"), ("hook", "", "14"), ("turn", "", "upside_down"), ("purge", "", ""), ("valve", "low_side", "cracked"), ("valve", "cylinder", "open"))):  # fmt: skip
            bench.run(second + 3)
            bench.do(*act)
        bench.run(200)
        plain = json.loads(json.dumps([[act.at_s, act.do, act.what, act.to] for act in bench.acts]))
        again = replayed(bench.exercise, acts_from(plain), bench.time_s)
        assert again.shown == bench.shown
        assert again.where == bench.where

    def test_a_reading_while_it_still_flows_is_too_soon(self) -> None:
        found = exercise("orifice-by-superheat")
        played = play(found)
        bench = played.bench
        assert all(not reading.too_soon for reading in marked(found, bench, played.job).readings)
        last = marked(found, bench, played.job).readings[-1].time_s
        bench.moved.append((last - 900.0, last + 5.0))
        assert marked(found, bench, played.job).readings[-1].too_soon

    @pytest.mark.parametrize("plain", [[["soon", "valve", "", ""]], [[1.0]], [None]])
    def test_what_are_no_acts_is_said(self, plain: Any) -> None:
        with pytest.raises(InvalidInput):
            acts_from(plain)


class TestTheFile:
    def test_every_shipped_exercise_is_what_the_schema_says(self) -> None:
        schema = json.loads(exercises.json_schema())
        for name in exercises.SHIPPED:
            jsonschema.validate(json.loads(exercises.shipped(name)), schema)

    @pytest.mark.parametrize("place", [(), ("unit",), ("weather",), ("van",), ("marks",), ("limits",), ("hidden",), ("tight",)])
    def test_a_key_the_reader_does_not_know_the_schema_does_not_either(self, place: tuple[str, ...]) -> None:
        plain = json.loads(exercises.shipped("orifice-by-superheat"))
        inner = plain
        for key in place:
            inner = inner.setdefault(key, {})
        inner["gremlin"] = 1
        with pytest.raises(CoreError):
            exercises.loads(json.dumps(plain))
        with pytest.raises(jsonschema.ValidationError):
            jsonschema.validate(plain, json.loads(exercises.json_schema()))

    def test_one_of_several_is_drawn_by_the_seed(self) -> None:
        text = exercises.shipped("leak-or-moisture")
        found = {(tight.leak_pa_m3_s > 0.0, tight.water_kg > 0.0) for seed in range(40) for tight in [exercises.loads(text, seed).tight]}
        assert found == {(True, False), (False, True), (False, False)}
