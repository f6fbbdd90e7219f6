"""The rig's look-ups against CoolProp, and against themselves."""

import random
from math import exp, log

import CoolProp.CoolProp as CP
import pytest

from yoshi_core import refrigerants
from yoshi_core.errors import OutOfRange, UnknownRefrigerant
from yoshi_core.properties import saturation, vapor
from yoshi_core.rig.balance import isentropic_efficiency
from yoshi_core.rig.fluid import fluid, mixed

PURE = {"R-22": "R22", "R-134a": "R134a", "R-32": "R32", "R-290": "R290"}


@pytest.mark.parametrize("name", sorted(PURE))
def test_cycle_points_agree_with_coolprop(name: str) -> None:
    """CoolProp 8: enthalpy differences of a cycle within 1 %, discharge temperature within 1.5 K, at random states.

    States whose discharge is more than 100 K above dew lie beyond the tables and are drawn again.
    """
    dice, known, reference = random.Random(name), fluid(name), PURE[name]
    compared = 0
    while compared < 60:
        low_k, high_k = dice.uniform(243.0, 283.0), dice.uniform(300.0, 328.0)
        superheat, subcooling = dice.uniform(0.5, 25.0), dice.uniform(0.5, 12.0)
        low, high = known.saturated(known.dew_pressure_pa(low_k)), known.saturated(known.bubble_pressure_pa(high_k))
        suction = known.vapor_enthalpy(low, superheat)
        ideal = known.isentropic_j_kg(high, known.vapor_entropy(low, superheat)) - suction
        discharge = suction + ideal / isentropic_efficiency(high.pressure_pa / low.pressure_pa)
        discharge_k = known.temperature_k(high, discharge)
        if discharge_k - high.dew_k > 100.0:
            continue
        compared += 1
        liquid = known.liquid_j_kg(high_k - subcooling)

        p_low, p_high = CP.PropsSI("P", "T", low_k, "Q", 1, reference), CP.PropsSI("P", "T", high_k, "Q", 0, reference)
        h1 = CP.PropsSI("H", "P", p_low, "T", low_k + superheat, reference)
        h2s = CP.PropsSI("H", "P", p_high, "S", CP.PropsSI("S", "P", p_low, "T", low_k + superheat, reference), reference)
        h2 = h1 + (h2s - h1) / isentropic_efficiency(p_high / p_low)
        h3 = CP.PropsSI("H", "P", p_high, "T", high_k - subcooling, reference)
        assert suction - liquid == pytest.approx(h1 - h3, rel=0.01)
        assert discharge - suction == pytest.approx(h2 - h1, rel=0.01)
        assert discharge - liquid == pytest.approx(h2 - h3, rel=0.01)
        assert discharge_k == pytest.approx(CP.PropsSI("T", "P", p_high, "H", h2, reference), abs=1.5)


@pytest.mark.parametrize("name", refrigerants.names())
def test_what_goes_in_comes_back(name: str) -> None:
    known = fluid(name)
    for share in (0.2, 0.4, 0.6, 0.8):
        state = known.saturated(exp(log(known.lowest_pa) + share * (log(known.highest_pa) - log(known.lowest_pa))))
        for superheat in (0.0, 3.0, 17.0, 55.0, 99.0):
            enthalpy = known.vapor_enthalpy(state, superheat)
            assert known.superheat_of(state, enthalpy) == pytest.approx(superheat, abs=1e-6)
            entropy = known.vapor_entropy(state, superheat)
            assert known.isentropic_j_kg(state, entropy) == pytest.approx(enthalpy, rel=1e-6)
        assert known.liquid_k(known.liquid_j_kg(state.bubble_k)) == pytest.approx(state.bubble_k, abs=1e-6)


@pytest.mark.parametrize("name", ["R-410A", "R-407C", "R-454B"])
def test_it_is_the_same_refrigerant_as_the_rest_of_the_core(name: str) -> None:
    known = fluid(name)
    state = known.saturated(900e3)
    assert state.dew_k == pytest.approx(saturation.dew_temperature_k(name, 900e3))
    assert state.bubble_k == pytest.approx(saturation.bubble_temperature_k(name, 900e3))
    assert known.vapor_density(state, 12.0) == pytest.approx(vapor.density_kg_m3(name, 900e3, state.dew_k + 12.0), rel=2e-3)
    assert known.vapor_enthalpy(state, 12.0) == pytest.approx(vapor.enthalpy_j_kg(name, 900e3, state.dew_k + 12.0), abs=50.0)


def test_density_is_one_curve_from_liquid_to_vapour() -> None:
    known = fluid("R-410A")
    state = known.saturated(1e6)
    around = [known.density(state, h) for h in (state.liquid_j_kg - 1, state.liquid_j_kg + 1, state.vapor_j_kg - 1, state.vapor_j_kg + 1)]
    assert around[0] == pytest.approx(around[1], rel=1e-2)
    assert around[2] == pytest.approx(around[3], rel=1e-3)
    assert known.temperature_k(state, state.liquid_j_kg + 0.5 * state.latent_j_kg) == pytest.approx(0.5 * (state.bubble_k + state.dew_k))


def test_nothing_is_invented_outside_the_tables() -> None:
    known = fluid("R-410A")
    for pressure in (100.0, 6e6, -1.0):
        with pytest.raises(OutOfRange, match="R-410A"):
            known.saturated(pressure)
    with pytest.raises(OutOfRange):
        known.liquid_kg_m3(150.0)
    with pytest.raises(UnknownRefrigerant):
        fluid("R-999X")


def test_a_mixture_lies_between_its_parts_and_glides() -> None:
    pure, other, both = fluid("R-410A"), fluid("R-22"), mixed("R-410A", "R-22", 0.2)
    low, middle, high = (f.saturated(f.bubble_pressure_pa(280.0)).pressure_pa for f in (other, both, pure))
    assert low < middle < high
    state = both.saturated(900e3)
    assert state.dew_k - state.bubble_k > 0.5
    assert mixed("R-410A", "R-22", 0.0) is pure
    with pytest.raises(OutOfRange):
        mixed("R-410A", "R-22", 0.6)
