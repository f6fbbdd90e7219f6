"""The cycle against CoolProp, a reference library, at random states; its corners by the first law; what it refuses."""

import json
import random
from functools import lru_cache
from typing import Any

import CoolProp.CoolProp as CP
import pytest

from tools import build_tables
from yoshi_core.errors import OutOfRange
from yoshi_core.properties import cycle, saturation
from yoshi_core.properties.cycle import Conditions

STATES = 200
CATALOGUE = json.loads((build_tables.DATA / "catalogue.json").read_text())
SOLVED = (
    "R-22",
    "R-32",
    "R-134a",
    "R-290",
    "R-600a",
    "R-1234yf",
    "R-410A",
    "R-454B",
    "R-404A",
    "R-507A",
    "R-513A",
    "R-407C",
    "R-448A",
    "R-427A",
)


@lru_cache(maxsize=32)
def library(name: str) -> Any:
    entry = next(row for row in CATALOGUE["refrigerants"] if row["name"] == name)
    return build_tables.open_state(entry["parts"], CATALOGUE["components"])


class Library:
    """The same cycle with every property from CoolProp itself, found by halving."""

    def __init__(self, name: str) -> None:
        self.state = library(name)

    def ends(self, pressure: float) -> tuple[float, float]:
        self.state.update(CP.PQ_INPUTS, pressure, 1.0)
        dew = self.state.T()
        self.state.update(CP.PQ_INPUTS, pressure, 0.0)
        return dew, self.state.T()

    def at_mean(self, mean: float, share: float) -> float:
        self.state.update(CP.QT_INPUTS, 1.0, mean)
        low = self.state.p() * 0.999
        self.state.update(CP.QT_INPUTS, 0.0, mean)
        high = self.state.p() * 1.001
        for _ in range(32):
            middle = (low + high) / 2.0
            dew, bubble = self.ends(middle)
            low, high = (middle, high) if share * dew + (1.0 - share) * bubble < mean else (low, middle)
        return (low + high) / 2.0

    def gas(self, pressure: float, kelvin: float) -> tuple[float, float, float]:
        return build_tables.superheated_row(self.state, pressure, kelvin)

    def gas_at(self, pressure: float, dew: float, column: int, wanted: float) -> float:
        low, high = dew + 1e-6, dew + 220.0
        for _ in range(32):
            middle = (low + high) / 2.0
            low, high = (middle, high) if self.gas(pressure, middle)[column] < wanted else (low, middle)
        return (low + high) / 2.0

    def run(self, given: Conditions) -> tuple[float, float, float]:
        """Capacity and power per displacement, and the discharge temperature."""
        low, high = self.at_mean(given.evaporating_k, 0.6), self.at_mean(given.condensing_k, 0.5)
        suction = self.ends(low)[0] + given.superheat_k
        density, enthalpy, entropy = self.gas(low, suction)
        dew, bubble = self.ends(high)
        self.state.update(CP.QT_INPUTS, 0.0, bubble - given.subcooling_k)
        liquid = self.state.hmass()
        ideal = self.gas(high, self.gas_at(high, dew, 2, entropy))[1] - enthalpy
        work = ideal / given.isentropic
        flow = density * (given.volumetric - given.clearance * (high / low - 1.0))
        return flow * (enthalpy - liquid), flow * work, self.gas_at(high, dew, 1, enthalpy + work)


def conditions(dice: random.Random) -> Conditions:
    """Evaporating −40 to 10 °C, condensing 25 to 55 °C, superheat 2 to 20 K, subcooling 0 to 10 K."""
    return Conditions(dice.uniform(233.15, 283.15), dice.uniform(298.15, 328.15), dice.uniform(2, 20), dice.uniform(0, 10), 0.7)


def test_two_hundred_random_states_agree_with_the_library() -> None:
    """Capacity and power within 1 %, discharge within 1 K. Where the library itself finds no state of a blend another is drawn."""
    dice = random.Random(40)
    compared = 0
    worst = [0.0, 0.0, 0.0]
    for _ in range(STATES * 3):
        name, given = dice.choice(SOLVED), conditions(dice)
        try:
            capacity, power, discharge = Library(name).run(given)
        except ValueError:
            continue
        mine = cycle.run(name, given)
        off = (mine.capacity_j_m3 / capacity - 1.0, mine.power_j_m3 / power - 1.0, mine.discharge.temperature_k - discharge)
        worst = [max(before, abs(now)) for before, now in zip(worst, off, strict=True)]
        compared += 1
        if compared == STATES:
            break
    assert compared == STATES
    assert worst[0] < 0.01, worst
    assert worst[1] < 0.01, worst
    assert worst[2] < 1.0, worst


def test_energy_is_conserved_round_the_cycle() -> None:
    found = cycle.run("R-410A", Conditions(280.0, 315.0))
    rejected = found.flow_kg_m3 * (found.discharge.enthalpy_j_kg - found.liquid.enthalpy_j_kg)
    assert rejected == pytest.approx(found.capacity_j_m3 + found.power_j_m3, rel=1e-9)
    assert found.inlet.enthalpy_j_kg == found.liquid.enthalpy_j_kg
    assert found.performance == pytest.approx(found.capacity_j_m3 / found.power_j_m3)


@pytest.mark.parametrize("name", ["R-407C", "R-448A", "R-410A", "R-22"])
def test_coils_are_held_at_their_means(name: str) -> None:
    pressure = cycle.mean_pressure_pa(name, 280.0, 0.6)
    mean = 0.6 * saturation.dew_temperature_k(name, pressure) + 0.4 * saturation.bubble_temperature_k(name, pressure)
    assert mean == pytest.approx(280.0, abs=1e-6)


@pytest.mark.parametrize(
    ("given", "said"),
    [
        (Conditions(300.0, 290.0), "Condensing must be warmer"),
        (Conditions(280.0, 315.0, isentropic=0.1), "efficiency is from 0.3 to 1"),
        (Conditions(280.0, 315.0, superheat_k=-1.0), "not below zero"),
        (Conditions(280.0, 370.0), "outside the R-410A table"),
        (Conditions(205.0, 330.0), "leaves such a compressor nothing|past the tables"),
    ],
)
def test_what_makes_no_sense_is_refused_in_words(given: Conditions, said: str) -> None:
    with pytest.raises(OutOfRange, match=said):
        cycle.run("R-410A", given)
