"""What a verdict on an isolated vacuum carries beside its word: times, flags, levels and leaks, each by its own arithmetic."""

import math
from collections.abc import Callable
from types import SimpleNamespace
from typing import Any, cast

import pytest

from tests.steps.evacuate.test_evacuation import judged, limits
from yoshi_core.tight_and_dry import evacuation
from yoshi_core.tight_and_dry.decay import Fit, Noise
from yoshi_core.tight_and_dry.evacuation import BETTER
from yoshi_core.units.quantities import MICRON_PA


def every(minutes: float, until: float, micron: Callable[[float], float]) -> list[tuple[float, float]]:
    return [(n * minutes, micron(n * minutes)) for n in range(int(until / minutes + 1e-9) + 1)]


def test_a_quiet_vacuum_waits_for_the_time_it_is_to_be_watched() -> None:
    early = judged(every(0.5, 8.0, lambda _: 300.0))
    assert (early.kind, early.wait_s) == ("cannot tell yet", pytest.approx(120.0))
    assert judged(every(0.5, 10.0, lambda _: 300.0)).kind == "tight"


def test_exactly_as_high_as_it_may_rise_is_still_within() -> None:
    assert judged([(0.0, 490.0), *((n * 0.5, 500.0) for n in range(1, 25))]).kind == "tight"


@pytest.mark.parametrize(("tau", "until"), [(4.0, 14.0), (6.0, 20.0), (8.0, 24.0)])
def test_a_level_not_reached_yet_is_named_where_enough_of_it_was_seen(tau: float, until: float) -> None:
    """From 300 towards 3,000 micron, still climbing faster than the limit when the log ends: the curve's own end, 3,000, is named."""
    found = judged(every(0.5, until, lambda t: 3000.0 - 2700.0 * math.exp(-t / tau)))
    assert found.kind == "moist"
    assert (found.plateau_pa or 0.0) / MICRON_PA == pytest.approx(3000.0, rel=0.02)
    assert found.wait_s is None


def test_what_passes_by_its_ends_carries_the_leak_its_slope_would_mean() -> None:
    """70 micron in ten minutes in ten litres: 7 micron a minute, 0.1556 mPa·m³/s, by hand."""
    found = judged([(0, 170), (2, 187), (4, 199), (7, 221), (10, 240)])
    assert (found.kind, found.by_ends) == ("tight", True)
    assert found.slope_pa_s == pytest.approx(70.0 * MICRON_PA / 600.0)
    assert found.leak_pa_m3_s == pytest.approx(70.0 * MICRON_PA / 600.0 * 0.010)


def test_one_reading_tells_nothing_and_waits_for_the_whole_time() -> None:
    found = judged([(0.0, 300.0)])
    assert (found.kind, found.two_points, found.wait_s, found.window_s) == ("cannot tell yet", True, 600.0, 0.0)


def test_still_pulling_says_for_how_long_it_has_fallen_and_waits_for_nothing() -> None:
    found = judged([(0, 480), (2, 420), (4, 370), (6, 330), (8, 300)])
    assert (found.kind, found.wait_s, found.window_s, found.leak_pa_m3_s) == ("still pulling", None, 480.0, 0.0)
    assert found.slope_limit_pa_s == pytest.approx(limits().leak_pa_m3_s / 0.010)


def test_readings_that_scatter_make_the_slope_less_sure() -> None:
    """Three times the scatter a gauge is allowed is not believed to be a line known as well as a quiet one."""
    quiet = judged(every(0.5, 10.0, lambda _: 300.0))
    wild = judged([(t, 300.0 + (25.0 if n % 2 else -25.0)) for n, (t, _) in enumerate(every(0.5, 10.0, lambda _: 300.0))])
    assert wild.slope_u > 1.5 * quiet.slope_u


@pytest.mark.parametrize("lead", [0.0, 3.0, -3.0])
def test_how_long_until_leak_and_moisture_stand_apart(lead: float) -> None:
    """Two curves four standard deviations apart: each further reading counts 2² = 4 of what is missing, one a minute."""
    noise = Noise(1.0, 0.0)
    line, curve = (cast("Fit", SimpleNamespace(at=lambda _, p=p: p)) for p in (54.0, 50.0))
    readings = math.ceil((BETTER + abs(lead)) / 4.0)
    assert evacuation.until_apart(line, curve, 600.0, 60.0, noise, lead) == pytest.approx(60.0 * readings)


def test_curves_that_never_part_are_not_waited_for() -> None:
    same: Any = SimpleNamespace(at=lambda _: 50.0)
    assert evacuation.until_apart(same, same, 600.0, 60.0, Noise(1.0, 0.0)) is None


def test_water_levels_off_and_a_leak_does_not_wherever_both_are_seen() -> None:
    """A leak with water under it: a line of 40 micron a minute and a levelling part, read for half an hour."""
    found = judged(every(0.5, 30.0, lambda t: 300.0 + 40.0 * t + 500.0 * (1.0 - math.exp(-t / 4.0))))
    assert found.kind in {"leaking", "leaking and moist"}
    assert found.leak_pa_m3_s / 0.010 * 60.0 / MICRON_PA == pytest.approx(40.0, rel=0.15)
