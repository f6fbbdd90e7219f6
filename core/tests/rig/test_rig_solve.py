"""Where the unit settles: monotone, without jumps, books closed, and a name for everything that does not run."""

import random
from dataclasses import fields, replace

import pytest

from yoshi_core.errors import OutOfRange
from yoshi_core.rig.balance import Balance
from yoshi_core.rig.design import Plate, design, fahrenheit
from yoshi_core.rig.fluid import fluid
from yoshi_core.rig.solve import _by_bisection, newton, solve
from yoshi_core.rig.standing import standing
from yoshi_core.rig.unit import RANGES, TYPICAL, Faults, Metering, State, Weather, fault
from yoshi_core.units.quantities import FAHRENHEIT_K, PSI_PA

DEVICES: tuple[Metering, ...] = ("orifice", "capillary", "txv")


@pytest.mark.parametrize("refrigerant", ["R-410A", "R-22", "R-407C"])
@pytest.mark.parametrize("device", ["orifice", "txv"])
def test_charge_moves_the_gauges_one_way_and_without_jumps(refrigerant: str, device: Metering) -> None:
    """From 30 to 150 % in steps of half a percent: head and subcooling never fall, superheat never rises."""
    plate = Plate(refrigerant=refrigerant, metering=device)
    unit, before = design(plate), None
    for step in range(60, 301):
        state = solve(unit, plate.weather, Faults(charge_share=step / 200))
        assert state.running, (step / 200, state.name)
        if before is not None:
            assert state.liquid_pa >= before.liquid_pa - 5.0
            assert state.superheat_k <= before.superheat_k + 0.01
            assert state.subcooling_k >= before.subcooling_k - 0.01
            assert abs(state.suction_pa - before.suction_pa) < 1.2 * PSI_PA
            assert abs(state.liquid_pa - before.liquid_pa) < 3.5 * PSI_PA
            assert abs(state.superheat_k - before.superheat_k) < 1.5 * FAHRENHEIT_K
            assert abs(state.subcooling_k - before.subcooling_k) < 1.0 * FAHRENHEIT_K
        before = state


def test_a_wide_grid_is_solved_or_named_and_its_books_close() -> None:
    """600 random points of the study's grid (`bench/rig_study.py` does 20,000)."""
    dice = random.Random(7)
    units = {(r, d): design(Plate(refrigerant=r, metering=d)) for r in ("R-410A", "R-134a", "R-454B") for d in DEVICES}
    choices = [item.name for item in fields(Faults) if item.name not in {"charge_share", "other_refrigerant", "just_started"}]
    for _ in range(600):
        name = dice.choice(choices)
        low, high = RANGES.get(name, (0.0, 1.0))
        other = {"other_refrigerant": "R-22"} if name == "other_share" else {}
        faults = Faults(charge_share=dice.uniform(0.3, 1.5), **{name: dice.uniform(low, high)}, **other)
        weather = Weather(fahrenheit(dice.uniform(55, 115)), fahrenheit(80), fahrenheit(dice.uniform(55, 75)))
        state = solve(units[dice.choice(sorted(units))], weather, faults)
        assert state.name != "not_solved"
        numbers = [getattr(state, item.name) for item in fields(State) if isinstance(getattr(state, item.name), float)]
        assert all(value == value and abs(value) < 1e12 for value in numbers)
        if state.running:
            assert abs(state.mass_error) < 1e-6
            assert abs(state.energy_error) < 1e-6
        else:
            assert state.reason


def test_the_slow_way_finds_what_the_quick_way_found() -> None:
    for device in DEVICES:
        plate = Plate(metering=device)
        unit = design(plate)
        for share in (0.6, 1.0, 1.3):
            quick = solve(unit, plate.weather, Faults(charge_share=share))
            slow = _by_bisection(Balance(unit, plate.weather, Faults(charge_share=share)))
            assert not isinstance(slow, str)
            assert quick.unknowns is not None
            assert slow == pytest.approx(quick.unknowns, abs=1e-6)


def test_a_neighbour_is_a_start_and_changes_nothing() -> None:
    plate = Plate()
    unit = design(plate)
    first = solve(unit, plate.weather, Faults(charge_share=0.9))
    cold, warm = (solve(unit, plate.weather, Faults(charge_share=0.91), start) for start in (None, first.unknowns))
    assert warm.suction_pa == pytest.approx(cold.suction_pa, rel=1e-6)
    assert warm.evaluations <= cold.evaluations


def test_a_hopeless_guess_is_no_answer() -> None:
    plate = Plate()
    assert newton(Balance(design(plate), plate.weather, Faults()), (25.0, 3.0, -40.0)) is None


@pytest.mark.parametrize(
    ("faults", "outdoor_f", "name"),
    [
        (Faults(dirty_condenser=0.9), 110.0, "tripped_high"),
        (Faults(condenser_fan_off=1.0), 95.0, "tripped_high"),
        (Faults(charge_share=0.32, low_airflow=0.8, liquid_restriction=0.95), 60.0, "tripped_low"),
        (Faults(charge_share=0.1), 95.0, "too_little"),
        (Faults(charge_share=0.0), 95.0, "too_little"),
    ],
)
def test_what_cannot_run_has_a_name_and_stands(faults: Faults, outdoor_f: float, name: str) -> None:
    plate = Plate()
    state = solve(design(plate), replace(plate.weather, outdoor_k=fahrenheit(outdoor_f)), faults)
    assert state.name == name
    assert not state.running
    assert state.suction_pa == state.liquid_pa
    assert state.mass_flow_kg_s == 0.0


def test_every_fault_has_a_typical_case_that_moves_something() -> None:
    plate = {device: Plate(metering=device) for device in ("orifice", "txv")}
    units = {device: design(p) for device, p in plate.items()}
    for name in TYPICAL:
        change = 0.0
        for device, unit in units.items():
            well, ill = solve(unit, plate[device].weather), solve(unit, plate[device].weather, fault(name))
            change = max(change, abs(ill.suction_pa - well.suction_pa), abs(ill.liquid_pa - well.liquid_pa))
        assert change > 0.5 * PSI_PA, name


def test_faults_go_together() -> None:
    plate = Plate(metering="txv")
    both = solve(design(plate), plate.weather, Faults(charge_share=0.85, dirty_condenser=0.4))
    one = solve(design(plate), plate.weather, Faults(charge_share=0.85))
    assert both.liquid_pa > one.liquid_pa
    assert abs(both.energy_error) < 1e-6


def test_a_severity_out_of_range_is_refused_by_name() -> None:
    with pytest.raises(OutOfRange, match=r"dirty_condenser must be from 0 to 0\.9"):
        Faults(dirty_condenser=1.5)
    with pytest.raises(OutOfRange, match="no fault called gremlins"):
        fault("gremlins")


@pytest.mark.parametrize("half", [{"other_share": 0.3}, {"other_refrigerant": "R-22"}])
def test_half_a_mixture_is_not_quietly_dropped(half: dict[str, object]) -> None:
    with pytest.raises(OutOfRange, match="its name and its share"):
        Faults(**half)


@pytest.mark.parametrize("name", ["outdoor_k", "indoor_k", "indoor_wet_bulb_k", "outdoor_wet_bulb_k"])
@pytest.mark.parametrize("degrees_f", [-90.0, 900.0])
def test_air_that_is_none_is_refused_by_name(name: str, degrees_f: float) -> None:
    with pytest.raises(OutOfRange, match="The rig knows air from") as caught:
        replace(Plate().weather, **{name: fahrenheit(degrees_f)})
    assert caught.value.path == f"/{name.removesuffix('_k')}"


def test_a_receiver_takes_the_surplus_and_an_accumulator_the_flood() -> None:
    plate = Plate(metering="txv", receiver_m3=0.003, charge_kg=5.0)
    unit = design(plate)
    flat = [solve(unit, plate.weather, Faults(charge_share=s)) for s in (0.85, 1.0, 1.15)]
    assert max(s.liquid_pa for s in flat) - min(s.liquid_pa for s in flat) < 2 * PSI_PA
    assert all(s.subcooling_k < 1.2 for s in flat)
    assert flat[0].inventory.receiver < flat[2].inventory.receiver - 1.0
    full = solve(unit, plate.weather, Faults(charge_share=1.4))
    assert full.subcooling_k > 4.0
    caught = solve(design(Plate(accumulator_m3=0.003)), plate.weather, Faults(charge_share=1.4))
    assert caught.inventory.accumulator > 0.3


class TestStanding:
    plate = Plate()
    unit = design(plate)

    def test_with_liquid_it_stands_at_saturation_of_the_colder_coil(self) -> None:
        state = standing(self.unit, self.plate.weather, Faults())
        known = fluid("R-410A")
        assert known.dew_pressure_pa(fahrenheit(80.0)) < state.suction_pa < known.bubble_pressure_pa(fahrenheit(80.0))

    def test_without_liquid_below_it_and_less_with_less(self) -> None:
        full = standing(self.unit, self.plate.weather, Faults()).suction_pa
        tenth, trace = (standing(self.unit, self.plate.weather, Faults(charge_share=s)).suction_pa for s in (0.1, 0.01))
        assert trace < tenth < full

    def test_air_in_it_stands_above(self) -> None:
        with_air = standing(self.unit, self.plate.weather, Faults(non_condensables=0.5)).suction_pa
        assert with_air > standing(self.unit, self.plate.weather, Faults()).suction_pa + 5 * PSI_PA

    def test_another_refrigerant_stands_elsewhere(self) -> None:
        other = standing(self.unit, self.plate.weather, Faults(other_refrigerant="R-22", other_share=0.3)).suction_pa
        assert other < standing(self.unit, self.plate.weather, Faults()).suction_pa - 10 * PSI_PA
