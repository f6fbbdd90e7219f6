"""Pulling a vacuum: what hose, pump and volume should give, and where the log so far is heading.

The speed at the system falls with its pressure, for a hose carries thin gas badly:
`1/S = 1/S_pump + 1/C`, with `C = 135·d⁴/l·p + 12.1·d³/l` L/s in cm and mbar for air at 20 °C (the
handbook form of viscous and molecular flow added, from memory). Pressures are absolute in Pa.
"""

from collections.abc import Callable, Sequence
from functools import lru_cache
from itertools import pairwise
from math import exp, fsum, log

from yoshi_core.errors import OutOfRange
from yoshi_core.frozen import dataclass

CORE_BORE_M, CORE_LENGTH_M = 0.0035, 0.012
STEP_LN = 0.1
FORGET_LN = 1.6
LEAST_LN = 0.15
SLOW_SHARE = 0.5
SURE = 3.0
NEVER_S = 30 * 86_400.0
SLOW_BELOW_PA = 2000.0
GAUGE_LN, MODEL_SHARE = 0.02, 0.1
CLEAN_PA_M3_S, CLEAN_M3 = 1.2e-3, 0.01

Sample = tuple[float, float]


def hose_m3_s(bore_m: float, length_m: float, mean_pa: float) -> float:
    """Conductance in m³/s of a hose at a mean pressure in Pa. Raises `OutOfRange` for a bore or length of nothing."""
    if bore_m <= 0.0 or length_m <= 0.0:
        raise OutOfRange("A hose has a bore and a length.")
    bore, length = bore_m * 100.0, length_m * 100.0
    return (135.0 * bore**4 / length * mean_pa / 100.0 + 12.1 * bore**3 / length) * 1e-3


@dataclass(frozen=True)
class Setup:
    """What pulls: pump speed in m³/s and its end pressure, hoses side by side, cores in or out.

    A core left in a fitting is a hole of 3.5 mm, 12 mm long (common practice, no source).
    """

    pump_m3_s: float
    bore_m: float
    length_m: float
    hoses: int = 1
    cores_in: bool = False
    ends_pa: float = 2.0

    def speed_m3_s(self, pressure_pa: float) -> float:
        """Speed at the system in m³/s when it stands at a pressure."""
        through = hose_m3_s(self.bore_m, self.length_m, 0.5 * pressure_pa)
        if self.cores_in:
            core = hose_m3_s(CORE_BORE_M, CORE_LENGTH_M, 0.5 * pressure_pa)
            through = through * core / (through + core)
        through *= self.hoses
        return self.pump_m3_s * through / (self.pump_m3_s + through)


@lru_cache(maxsize=256)
def seconds_to(setup: Setup, volume_m3: float, from_pa: float, to_pa: float, gas_pa_m3_s: float = 0.0) -> float | None:
    """Time in s from one pressure to a lower one, with a steady gas load; None where it ends above it.

    `V·dp/dt = −S(p)·(p − p_end) + Q`. Raises `OutOfRange` for a volume or pressures that cannot be.
    """
    if not volume_m3 > 0.0 or not to_pa > 0.0:
        raise OutOfRange("A pull-down takes a volume and a pressure above zero.", value=min(volume_m3, to_pa))

    def falls(pressure: float) -> float:
        return (setup.speed_m3_s(pressure) * (pressure - setup.ends_pa) - gas_pa_m3_s) / (volume_m3 * pressure)

    return _seconds(falls, from_pa, to_pa)


def _seconds(falls: Callable[[float], float], from_pa: float, to_pa: float) -> float | None:
    """Integral over ln p of one over the relative fall a second; None where the fall ends on the way."""
    if from_pa <= to_pa:
        return 0.0
    steps = max(int(log(from_pa / to_pa) / STEP_LN), 4)
    width = log(from_pa / to_pa) / steps
    total = 0.0
    for n in range(steps):
        rate = falls(from_pa * exp(-width * (n + 0.5)))
        if rate <= 0.0 or total > NEVER_S:
            return None
        total += width / rate
    return total


@dataclass(frozen=True)
class Forecast:
    """Where a pull-down is heading: seconds from the last reading to the target, with a band; all None where it will not get there.

    `ends_pa` is where it would come to rest. `speed_share` is the speed seen early over what the set-up should
    give, None where the log does not show it. `bound_only` says that the log is too short for more than "at least".
    """

    seconds: float | None
    low_s: float | None
    high_s: float | None
    ends_pa: float | None
    speed_share: float | None
    gas_pa_m3_s: float
    bound_only: bool = False

    @property
    def reaches(self) -> bool:
        """Whether it gets there."""
        return self.seconds is not None


def forecast(samples: Sequence[Sample], target_pa: float, setup: Setup, volume_m3: float) -> Forecast:
    """Forecast from the log `(second, Pa)` so far, in order, the pump running.

    The fall of ln p over the last part of the log is fitted as `a·S(p) − b/p`: `a` is one over the volume the pump
    really sees, `b` the gas that keeps coming. High up the log says nothing about `b`, so what a clean system
    gives off stands in for it and yields to the log as the pressure falls. Raises `OutOfRange` for fewer than two readings.
    """
    if len(samples) < 2:
        raise OutOfRange("A forecast takes two readings.")
    last_pa = samples[-1][1]
    stretches = _falls(_spaced(samples), setup)
    usual = CLEAN_PA_M3_S * (volume_m3 / CLEAN_M3) ** 0.5
    if not stretches:
        return Forecast(None, None, None, last_pa, None, _standing_gas(last_pa, setup))
    if len(stretches) < 2 and stretches[-1].mean_pa < SLOW_BELOW_PA:
        return _bound(samples, target_pa, setup, stretches[-1], 1.0 / volume_m3)
    found = _fit(stretches, usual, FORGET_LN)
    if found is None:
        return Forecast(None, None, None, last_pa, None, _standing_gas(last_pa, setup))
    a, b = found
    early = max(stretches, key=lambda s: s.mean_pa)
    share = early.fall_s * volume_m3 / early.speed_m3_s if early.mean_pa > SLOW_BELOW_PA else None
    seconds = _to_target(found, setup, last_pa, target_pa)
    others = (_fit(stretches, 0.3 * usual, FORGET_LN), _fit(stretches, 2.5 * usual, FORGET_LN), _fit(stretches, usual, 0.5 * FORGET_LN))
    band = [s for f in others if f is not None and (s := _to_target(f, setup, last_pa, target_pa)) is not None]
    if seconds is None:
        return Forecast(max(band, default=None), min(band, default=None), None, _rest(a, b, setup), share, b / a)
    return Forecast(seconds, min(seconds, *band), max(seconds, *band), None, share, b / a)


@dataclass(frozen=True)
class Stretch:
    """A piece of the log: pump speed at its mean pressure, the fall of ln p a second, and how long it lasted."""

    speed_m3_s: float
    mean_pa: float
    fall_s: float
    lasted_s: float


def _spaced(samples: Sequence[Sample]) -> list[Sample]:
    """Readings far enough apart in ln p for a slope, or in time where it hardly falls; each the mean of its neighbours."""
    apart_s = max((samples[-1][0] - samples[0][0]) / 40.0, 30.0)
    kept: list[list[Sample]] = [[samples[0]]]
    for second, pressure in samples[1:]:
        first_s, first_pa = kept[-1][0]
        if log(first_pa / pressure) >= LEAST_LN or second - first_s >= apart_s:
            kept.append([])
        kept[-1].append((second, pressure))
    if len(kept) > 2 and len(kept[-1]) == 1:
        kept[-2].extend(kept.pop())
    return [(fsum(s for s, _ in part) / len(part), exp(fsum(log(p) for _, p in part) / len(part))) for part in kept]


def _falls(kept: Sequence[Sample], setup: Setup) -> list[Stretch]:
    found = []
    for (one_s, one), (two_s, two) in pairwise(kept):
        mean, fall = (one * two) ** 0.5, log(one / two) / (two_s - one_s)
        speed = setup.speed_m3_s(mean) * max(1.0 - setup.ends_pa / mean, 0.0)
        found.append(Stretch(speed, mean, fall, two_s - one_s))
    return found


def _fit(stretches: Sequence[Stretch], usual: float, within_ln: float) -> tuple[float, float] | None:
    """`a` and `b` by least squares, recent stretches weighing more, `b` drawn towards the usual gas unless the log shows more; None where it does not fall."""
    now = stretches[-1].mean_pa
    purest = max(s.fall_s / s.speed_m3_s for s in stretches if s.speed_m3_s > 0.0)
    rows = [
        (s.speed_m3_s, 1.0 / s.mean_pa, s.fall_s, exp(-abs(log(s.mean_pa / now)) / within_ln) / _variance(s, purest)) for s in stretches
    ]
    ss = fsum(w * s * s for s, _, _, w in rows)
    sy = fsum(w * s * y for s, _, y, w in rows)
    if not ss > 0.0 or sy <= 0.0:
        return None
    sg = fsum(w * s * g for s, g, _, w in rows)
    gg = fsum(w * g * g for _, g, _, w in rows)
    gy = fsum(w * g * y for _, g, y, w in rows)
    det = ss * gg - sg * sg
    if det > 1e-9 * ss * gg:
        a, b = (sy * gg - sg * gy) / det, (sg * sy - ss * gy) / det
        if a > 0.0 and b - SURE * (ss / det) ** 0.5 > usual * a:
            return a, b
    prior = usual * sy / ss
    gg, gy = gg + 1.0 / prior**2, gy - 1.0 / prior
    det = ss * gg - sg * sg
    a, b = (sy * gg - sg * gy) / det, (sg * sy - ss * gy) / det
    return (a, b) if a > 0.0 and b >= 0.0 else (sy / ss, 0.0)


def _variance(stretch: Stretch, purest: float) -> float:
    """Of the fall: the gauge's scatter, and how far hose and pump may be from the formula."""
    return (GAUGE_LN / stretch.lasted_s) ** 2 + (MODEL_SHARE * purest * stretch.speed_m3_s) ** 2


def _to_target(found: tuple[float, float], setup: Setup, from_pa: float, target_pa: float) -> float | None:
    a, b = found
    return _seconds(lambda p: a * setup.speed_m3_s(p) * max(1.0 - setup.ends_pa / p, 0.0) - b / p, from_pa, target_pa)


def _rest(a: float, b: float, setup: Setup) -> float:
    """The pressure at which speed and gas load meet."""
    low, high = setup.ends_pa, 2e5
    for _ in range(60):
        middle = (low * high) ** 0.5
        falls = a * setup.speed_m3_s(middle) * (middle - setup.ends_pa) > b
        low, high = (low, middle) if falls else (middle, high)
    return high


def _standing_gas(pressure_pa: float, setup: Setup) -> float:
    return setup.speed_m3_s(pressure_pa) * max(pressure_pa - setup.ends_pa, 0.0)


def _bound(samples: Sequence[Sample], target_pa: float, setup: Setup, stretch: Stretch, expected: float) -> Forecast:
    """Two readings low down: a fall only gets slower, so a straight line on the logarithmic chart is the least it takes."""
    last_pa, fall = samples[-1][1], stretch.fall_s
    if fall <= 0.0:
        return Forecast(None, None, None, last_pa, None, _standing_gas(last_pa, setup), bound_only=True)
    least = log(last_pa / target_pa) / fall if last_pa > target_pa else 0.0
    gas = max(expected * stretch.speed_m3_s - fall, 0.0) * stretch.mean_pa / expected
    slow = fall < SLOW_SHARE * expected * stretch.speed_m3_s
    return Forecast(least, least, None if slow else 3.0 * least, None, None, gas, bound_only=True)
