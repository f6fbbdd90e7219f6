"""Pulling down against the textbook, forecasts on the rig, and long logs made short."""

import hashlib
import math
import random

import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from yoshi_core.errors import InvalidInput, OutOfRange
from yoshi_core.rig.vacuum import Pump, VacuumSystem
from yoshi_core.tight_and_dry import pull_down, trace
from yoshi_core.tight_and_dry.pull_down import Setup
from yoshi_core.units.quantities import MICRON_PA

TARGET = 500 * MICRON_PA
SETUP = Setup(2.4e-3, 0.0095, 1.2)


class TestReference:
    def test_a_wide_hose_pulls_like_the_textbook(self) -> None:
        """`t = V/S·ln(p₁/p₂)` where the hose does not matter (any vacuum handbook)."""
        wide = Setup(2.4e-3, 0.1, 0.05, ends_pa=0.0)
        assert pull_down.seconds_to(wide, 0.010, 101_325.0, TARGET) == pytest.approx(
            0.010 / 2.4e-3 * math.log(101_325.0 / TARGET), rel=2e-3
        )

    @pytest.mark.parametrize("gas", [0.0, 2e-3])
    def test_the_integral_agrees_with_scipy(self, gas: float) -> None:
        """The same differential equation by `scipy.integrate.solve_ivp`."""
        found = pull_down.seconds_to(SETUP, 0.010, 101_325.0, TARGET, gas)
        assert found is not None

        def falls(_: float, y: list[float]) -> list[float]:
            return [(gas - SETUP.speed_m3_s(y[0]) * (y[0] - SETUP.ends_pa)) / 0.010]

        outside = solve_ivp(falls, (0.0, found), [101_325.0], rtol=1e-9, atol=1e-6)
        assert outside.y[0][-1] == pytest.approx(TARGET, rel=0.01)

    def test_a_hose_by_the_handbook_formula(self) -> None:
        """A 1 cm bore, 1 m long, at 1 mbar: 1.35 L/s viscous and 0.121 molecular (handbook form, from memory)."""
        assert pull_down.hose_m3_s(0.01, 1.0, 100.0) == pytest.approx(1.471e-3, rel=1e-9)


def test_a_gas_load_that_is_too_large_never_gets_there() -> None:
    assert pull_down.seconds_to(SETUP, 0.010, 101_325.0, TARGET, 1.0) is None
    with pytest.raises(OutOfRange):
        pull_down.seconds_to(SETUP, 0.0, 101_325.0, TARGET)
    with pytest.raises(OutOfRange):
        pull_down.hose_m3_s(0.0, 1.0, 100.0)
    with pytest.raises(OutOfRange):
        pull_down.forecast([(0.0, 1e5)], TARGET, SETUP, 0.01)


def _log(system: VacuumSystem, until_pa: float, dice: random.Random, most_s: int = 7200) -> list[tuple[float, float]]:
    system.pumping = True
    rows = [(0.0, system.gauge_pa)]
    while rows[-1][0] < most_s and system.gauge_pa > until_pa:
        rows.append((rows[-1][0] + 1.0, system.step(1.0) * (1.0 + dice.gauss(0, 0.005))))
    return rows


def test_half_way_down_the_forecast_is_near_and_a_wet_system_does_not_get_there() -> None:
    dice = random.Random(7)
    half = math.sqrt(101_325.0 * TARGET)
    for litres in (6.0, 12.0, 40.0):
        system = VacuumSystem(litres / 1e3, 295.0, pump=Pump(2.4e-3))
        begun = _log(system, half, dice)
        found = pull_down.forecast(begun, TARGET, SETUP, litres / 1e3 * 1.3)
        rest = _log(system, TARGET, dice)[-1][0]
        assert found.seconds == pytest.approx(rest, rel=0.2)
    wet = VacuumSystem(0.010, 295.0, water_kg=0.02, pump=Pump(2.4e-3))
    stuck = pull_down.forecast(_log(wet, 100.0, dice, 300), TARGET, SETUP, 0.010)
    assert not stuck.reaches
    assert stuck.ends_pa is not None
    assert stuck.ends_pa > TARGET


def test_two_readings_low_down_only_bound_it() -> None:
    found = pull_down.forecast([(2100.0, 698 * MICRON_PA), (4680.0, 576 * MICRON_PA)], TARGET, SETUP, 0.010)
    assert found.bound_only
    assert found.low_s == pytest.approx(2580.0 * math.log(576 / 500) / math.log(698 / 576))
    assert found.high_s is None
    rising = pull_down.forecast([(0.0, 100.0), (600.0, 120.0)], TARGET, SETUP, 0.010)
    assert not rising.reaches


LOG = st.lists(st.floats(0.0, 1e5), min_size=30, max_size=400).map(lambda values: [(float(n), v) for n, v in enumerate(values)])


@given(LOG, st.floats(0.0, 400.0))
def test_thinning_keeps_ends_extremes_and_named_moments(rows: list[tuple[float, float]], moment: float) -> None:
    kept = trace.thin(rows, [moment], 24)
    assert len(kept) <= 24
    assert set(kept) <= set(rows)
    assert kept[0] == rows[0]
    assert kept[-1] == rows[-1]
    if len(rows) > 24:
        assert max(v for _, v in kept) == max(v for _, v in rows)
        assert min(v for _, v in kept) == min(v for _, v in rows)
    after = next((row for row in rows if row[0] >= moment), None)
    assert after is None or after in kept


def test_a_seal_is_of_the_whole_log_and_rows_are_put_in_order() -> None:
    rows = trace.tidy([(2.0, 5.0), (1.0, 4.0), (2.0, 6.0)])
    assert rows == ((1.0, 4.0), (2.0, 6.0))
    assert trace.seal(rows) == hashlib.sha256(b"1.0,4.0\n2.0,6.0\n").hexdigest()
    for wrong in ([(1.0, 2.0), (1.0, 3.0)], [(1.0, math.nan)]):
        with pytest.raises(InvalidInput):
            trace.thin(wrong)
    with pytest.raises(InvalidInput):
        trace.thin([(float(n), 0.0) for n in range(50)], [float(n) for n in range(40)], 20)


def test_hoses_and_cores_are_worth_what_they_are_in_practice() -> None:
    """Common practice, no source: wide short hoses with the cores out pull several times as fast as a charging hose through its cores.

    A 4 cfm pump takes a dry three-ton split to 500 micron in minutes through the one, and several times as long through the other.
    """
    pump, litres = 4.0 * 0.0283168 / 60.0, 0.009
    site, target = 101_325.0, 500.0 * 0.133322368
    narrow = Setup(pump, 0.0048, 1.5, cores_in=True)
    freed = Setup(pump, 0.0048, 1.5)
    wide = Setup(pump, 0.0095, 0.9, hoses=2)
    slow, some, fast = (pull_down.seconds_to(one, litres, site, target) for one in (narrow, freed, wide))
    assert slow is not None
    assert some is not None
    assert fast is not None
    assert fast < some < slow
    assert slow / fast > 3.0
    assert 20.0 < fast < 600.0
