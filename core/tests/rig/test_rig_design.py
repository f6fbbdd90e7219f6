"""A unit from its plate: the design point comes back, and the published shape of a 3-ton R-410A split."""

from dataclasses import replace

import pytest

from yoshi_core import refrigerants
from yoshi_core.errors import InvalidInput, OutOfRange, UnknownRefrigerant
from yoshi_core.rig.design import HEATING_OUTDOOR_K, HEATING_WET_BULB_K, ROOM_K, Plate, design, fahrenheit
from yoshi_core.rig.solve import solve
from yoshi_core.rig.unit import Faults, Metering, Weather
from yoshi_core.units.quantities import FAHRENHEIT_K, OZ_KG, PSI_PA

DEVICES: tuple[Metering, ...] = ("orifice", "capillary", "txv")
ATMOSPHERE_PA = 101_325.0

# charge share: suction psig, liquid psig, superheat °F, subcooling °F. Trade expectation for a 3-ton unit of 6 lb
# at 95 °F outdoors and 80/67 °F indoors (common practice, no source).
EXPECTED = {
    ("orifice", 0.6): (91, 337, 52, 0),
    ("orifice", 0.8): (119, 358, 30, 0),
    ("orifice", 1.0): (128, 377, 13, 12),
    ("orifice", 1.2): (131, 400, 0, 20),
    ("orifice", 1.4): (132, 434, 0, 27),
    ("txv", 0.6): (107, 343, 41, 0),
    ("txv", 0.8): (130, 364, 16, 0),
    ("txv", 1.0): (128, 377, 13, 12),
    ("txv", 1.2): (127, 398, 13, 20),
    ("txv", 1.4): (128, 440, 12, 28),
}


@pytest.mark.parametrize(("device", "share"), sorted(EXPECTED))
def test_gauges_against_charge(device: Metering, share: float) -> None:
    """Within 8 psi and 4 °F."""
    plate = Plate(metering=device)
    state = solve(design(plate), plate.weather, Faults(charge_share=share))
    suction, liquid, superheat, subcooling = EXPECTED[device, share]
    assert (state.suction_pa - ATMOSPHERE_PA) / PSI_PA == pytest.approx(suction, abs=8.0)
    assert (state.liquid_pa - ATMOSPHERE_PA) / PSI_PA == pytest.approx(liquid, abs=8.0)
    assert state.superheat_k / FAHRENHEIT_K == pytest.approx(superheat, abs=4.0)
    assert state.subcooling_k / FAHRENHEIT_K == pytest.approx(subcooling, abs=4.0)


@pytest.mark.parametrize("refrigerant", refrigerants.names())
@pytest.mark.parametrize("device", DEVICES)
def test_the_design_point_comes_back(refrigerant: str, device: Metering) -> None:
    plate = Plate(refrigerant=refrigerant, metering=device, capacity_w=7000.0, charge_kg=2.2)
    state = solve(design(plate), plate.weather)
    assert state.running
    assert state.evaporator_w == pytest.approx(7000.0, rel=1e-4)
    assert state.superheat_k == pytest.approx(plate.superheat_k, abs=1e-3)
    assert state.subcooling_k == pytest.approx(plate.subcooling_k, abs=1e-3)
    assert state.inventory.total_kg == pytest.approx(2.2, rel=1e-6)


def test_the_air_leaves_as_a_coil_leaves_it() -> None:
    """80/67 °F in: a split near 20 °F and about 0.7 of it sensible (common practice, no source)."""
    plate = Plate()
    state = solve(design(plate), plate.weather)
    assert (state.return_k - state.supply_k) / FAHRENHEIT_K == pytest.approx(20.0, abs=2.0)
    assert state.sensible_share == pytest.approx(0.69, abs=0.04)


def test_a_longer_line_takes_what_its_liquid_weighs() -> None:
    """Doubling 25 ft of 3/8 in liquid line takes about 0.52 oz/ft to restore subcooling (AHRI-style line allowance, from memory)."""
    plate = Plate(metering="txv")
    unit = design(plate)
    longer = replace(unit, liquid_line_m3=2 * unit.liquid_line_m3)
    low, high = 1.0, 1.4
    for _ in range(30):
        middle = 0.5 * (low + high)
        short = solve(longer, plate.weather, Faults(charge_share=middle)).subcooling_k < plate.subcooling_k
        low, high = (middle, high) if short else (low, middle)
    added_oz = (low - 1.0) * unit.charge_kg / OZ_KG
    assert added_oz / 25.0 == pytest.approx(0.52, abs=0.03)


def test_a_heat_pump_heats() -> None:
    for device in ("orifice", "txv"):
        plate = Plate(metering=device, heat_pump=True, accumulator_m3=0.003)
        unit = design(plate)
        weather = Weather(HEATING_OUTDOOR_K, ROOM_K, ROOM_K, HEATING_WET_BULB_K, mode="heating")
        state = solve(unit, weather)
        assert state.running
        assert state.supply_k > ROOM_K + 10.0
        assert state.condenser_w == pytest.approx(state.evaporator_w + state.suction_gain_w + state.power_w - state.shell_loss_w, rel=1e-6)
        colder = solve(unit, replace(weather, outdoor_k=fahrenheit(17.0), outdoor_wet_bulb_k=fahrenheit(15.0)))
        assert colder.condenser_w < state.condenser_w
        assert colder.suction_pa < state.suction_pa


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"capacity_w": 0.0}, "capacity"),
        ({"charge_kg": -1.0}, "charge"),
        ({"condensing_k": fahrenheit(100.0)}, "Condensing must be above"),
        ({"suction_dew_k": fahrenheit(75.0)}, "Suction saturation"),
        ({"superheat_k": 0.0}, "above zero"),
        ({"condensing_k": fahrenheit(155.0), "subcooling_k": 20.0}, "critical"),
        ({"outdoor_m3_s_per_w": 1e-6}, "condenser is large enough"),
    ],
)
def test_a_plate_that_cannot_be_is_refused_in_words(change: dict[str, float], says: str) -> None:
    with pytest.raises(OutOfRange, match=says):
        design(replace(Plate(), **change))


def test_too_little_charge_for_the_lines_is_refused() -> None:
    with pytest.raises(InvalidInput, match="leaves nothing for the condenser"):
        design(Plate(charge_kg=0.5))
    with pytest.raises(UnknownRefrigerant):
        design(Plate(refrigerant="R-999X"))
