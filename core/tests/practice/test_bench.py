"""The bench: refrigerant is nowhere made or lost, what is shut reads and passes nothing, and the same acts make the same bench."""

import json
from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from yoshi_core.errors import InvalidInput
from yoshi_core.practice import exercise as exercises
from yoshi_core.practice.bench import Bench
from yoshi_core.practice.bench_time import OPENINGS, VALVES, Where
from yoshi_core.practice.exercise import Exercise
from yoshi_core.units.quantities import OZ_KG


def exercise(name: str = "orifice-by-superheat", **more: Any) -> Exercise:
    return replace(exercises.loads(exercises.shipped(name)), **more)


def on_hose(bench: Bench, cylinder: str = "14", *, liquid: bool = True) -> None:
    bench.do("hook", "", cylinder)
    if liquid:
        bench.do("turn", "", "upside_down")


def together(where: Where) -> float:
    return where.inside_kg + where.hose_kg + where.lost_kg + sum(where.cylinders_kg.values())


ACTS = st.one_of(
    st.tuples(st.just("valve"), st.sampled_from(VALVES), st.sampled_from(tuple(OPENINGS))),
    st.tuples(st.just("hook"), st.just(""), st.sampled_from(("14", "R3", ""))),
    st.tuples(st.just("turn"), st.just(""), st.sampled_from(("upright", "upside_down"))),
    st.tuples(st.just("warm"), st.just(""), st.sampled_from(("water", "air"))),
    st.tuples(st.just("switch"), st.sampled_from(("unit", "disconnect", "outdoor_fan")), st.sampled_from(("on", "off"))),
    st.tuples(st.just("nitrogen"), st.just(""), st.sampled_from(("300 psig", "off"))),
    st.tuples(st.sampled_from(("recover", "pump")), st.just(""), st.sampled_from(("on", "off"))),
    st.tuples(st.just("purge"), st.just(""), st.just("")),
    st.tuples(st.just("clean"), st.sampled_from(("filter", "outdoor_coil", "indoor_coil")), st.just("")),
)


@settings(max_examples=25, deadline=None)
@given(st.lists(st.tuples(ACTS, st.integers(1, 90)), max_size=14), st.sampled_from(("running", "empty", "open")))
def test_whatever_is_done_nothing_is_made_or_lost(done: list[tuple[tuple[str, str, str], int]], start: Any) -> None:
    bench = Bench(exercise(start=start))
    at_first = together(bench.where)
    for act, seconds in done:
        try:
            bench.do(*act)
        except InvalidInput:
            continue
        finally:
            bench.run(seconds)
        where = bench.where
        assert together(where) == pytest.approx(at_first, abs=1e-6)
        assert min(where.inside_kg, where.hose_kg, where.lost_kg, *where.cylinders_kg.values()) >= -1e-9
    assert bench.time_s == pytest.approx(sum(seconds for _, seconds in done), abs=0.01)


def test_the_same_acts_make_the_same_bench() -> None:
    first = Bench(exercise())
    first.run(30.0)
    on_hose(first)
    for valve, to in (("suction_port", "open"), ("cylinder", "open"), ("low_side", "cracked")):
        first.do("valve", valve, to)
        first.run(45.0)
    again = Bench(exercise())
    for act in first.acts:
        again.run(act.at_s - again.time_s)
        again.do(act.do, act.what, act.to)
    again.run(first.time_s - again.time_s)
    assert again.where.inside_kg == pytest.approx(first.where.inside_kg, abs=1e-9)
    assert json.dumps(vars(again.shown)) == json.dumps(vars(first.shown))


class TestWhatIsShut:
    def test_a_gauge_reads_where_its_port_is_open(self) -> None:
        bench = Bench(exercise())
        assert (bench.shown.suction_pa, bench.shown.liquid_pa) == (None, None)
        bench.do("valve", "suction_port", "open")
        bench.run(5.0)
        assert bench.shown.suction_pa is not None
        assert bench.shown.liquid_pa is None

    @pytest.mark.parametrize("shut", ["suction_port", "low_side", "cylinder"])
    def test_one_shut_valve_on_the_way_and_nothing_goes_in(self, shut: str) -> None:
        bench = Bench(exercise())
        on_hose(bench)
        inside = bench.where.inside_kg
        for valve in ("suction_port", "low_side", "cylinder"):
            bench.do("valve", valve, "shut" if valve == shut else "open")
        bench.run(30.0)
        assert bench.where.inside_kg == inside

    def test_open_it_goes_in_and_the_scale_says_so(self) -> None:
        bench = Bench(exercise())
        on_hose(bench)
        bench.do("valve", "suction_port", "open")
        bench.run(10.0)
        before, inside = bench.shown.scale_kg, bench.where.inside_kg
        bench.do("valve", "cylinder", "open")
        bench.do("valve", "low_side", "cracked")
        bench.run(60.0)
        after, gone_in = bench.shown.scale_kg, bench.where.inside_kg - inside
        assert before is not None
        assert after is not None
        assert gone_in > 2 * OZ_KG
        assert before - after == pytest.approx(gone_in + bench.where.hose_kg, abs=1.5 * OZ_KG)


class TestTheHose:
    def test_what_is_in_it_goes_to_the_air_when_it_comes_off(self) -> None:
        bench = Bench(exercise())
        on_hose(bench)
        bench.do("valve", "cylinder", "open")
        bench.run(5.0)
        held = bench.where.hose_kg
        assert 0.5 * OZ_KG < held < 2 * OZ_KG
        bench.do("hook", "", "")
        assert bench.where.lost_kg == pytest.approx(held)

    def test_a_running_unit_draws_it_empty_once_the_cylinder_is_shut(self) -> None:
        bench = Bench(exercise())
        on_hose(bench)
        bench.do("valve", "cylinder", "open")
        bench.run(5.0)
        held = bench.where.hose_kg
        bench.do("valve", "cylinder", "shut")
        bench.do("valve", "suction_port", "open")
        bench.do("valve", "low_side", "cracked")
        bench.run(120.0)
        assert bench.where.hose_kg < 0.2 * held

    def test_upright_it_holds_gas_and_next_to_nothing(self) -> None:
        bench = Bench(exercise())
        on_hose(bench, liquid=False)
        bench.do("valve", "cylinder", "open")
        bench.run(5.0)
        assert bench.where.hose_kg < 0.15 * OZ_KG


class TestWhatCannotBeDone:
    @pytest.mark.parametrize(
        "act",
        [
            ("dance",), ("valve", "door", "open"), ("valve", "low_side", "ajar"), ("valve", "cylinder", "open"), ("hook", "", "99"),
            ("turn", "", "sideways"), ("warm", "", "water"), ("warm", "", "flame"), ("switch", "moon", "on"), ("clean", "shoes"),
            ("purge",), ("recover", "", "on"), ("recover", "", "maybe"), ("pump", "", "on"), ("pump", "", "maybe"), ("look", "sky"),
        ],
    )  # fmt: skip
    def test_it_is_refused_and_nothing_has_changed(self, act: tuple[str, ...]) -> None:
        bench = Bench(exercise())
        before = (dict(bench.valves), bench.hooked, bench.where, len(bench.acts))
        with pytest.raises(InvalidInput):
            bench.do(*act)
        assert (dict(bench.valves), bench.hooked, bench.where, len(bench.acts)) == before

    @pytest.mark.parametrize("seconds", [8 * 3600.0 + 1.0, float("inf"), float("nan")])
    def test_more_time_than_an_exercise_has_does_not_pass(self, seconds: float) -> None:
        bench = Bench(exercise())
        before = bench.time_s
        with pytest.raises(InvalidInput, match="8 h"):
            bench.run(seconds)
        assert bench.time_s == before

    def test_the_machine_is_no_match_for_a_running_unit(self) -> None:
        bench = Bench(exercise())
        on_hose(bench, "R3")
        with pytest.raises(InvalidInput, match="off before recovering"):
            bench.do("recover", "", "on")
        bench.do("switch", "unit", "off")
        bench.do("recover", "", "on")
        with pytest.raises(InvalidInput, match="on it"):
            bench.do("switch", "unit", "on")


def test_liquid_wide_open_into_a_running_compressor_is_counted() -> None:
    bench = Bench(exercise())
    on_hose(bench)
    for valve in ("suction_port", "cylinder", "low_side"):
        bench.do("valve", valve, "open")
    bench.run(60.0)
    assert bench.slugged_s > 10.0


def test_a_clean_filter_is_the_end_of_too_little_air() -> None:
    bench = Bench(exercise("low-air"))
    bench.do("valve", "suction_port", "open")
    bench.run(60.0)
    low = bench.now.suction_pa
    bench.do("clean", "filter")
    bench.run(900.0)
    assert bench.now.suction_pa > low + 30_000.0
    assert bench.live.faults.low_airflow == 0.0
