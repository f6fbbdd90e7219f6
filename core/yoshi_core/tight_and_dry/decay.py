"""What a vacuum does after isolation, fitted: a leak climbs, moisture levels off, or both.

`p = p₀ + r·t` · `p = p∞ − A·e^(−t/τ)` · `p = p∞ − A·e^(−t/τ) + r·t`, weighted least squares with
`σ = max(floor, share·p)`; the score is `χ² + k·ln n`. For a given τ each is linear, so τ alone is searched.
"""

from collections.abc import Sequence
from dataclasses import replace
from math import exp, fsum, inf, log, sqrt
from typing import Literal

from yoshi_core.errors import InvalidInput
from yoshi_core.frozen import dataclass
from yoshi_core.profile.fixed import fixed

Model = Literal["leak", "moisture", "both"]
Sample = tuple[float, float]
MOST_GROUPS = 48
INDEPENDENT_S = fixed("decay.independent")
SHORTEST_SHARE, LONGEST_SHARE = 0.02, 0.5
GRID = 13
SURE = fixed("decay.sure")
SCATTER_POINTS = int(fixed("decay.scatter_points"))
FALL_TERMS, FALL_GRID = 4, 16
NEARLY = 4.0  # χ² that far over the best still fits, two standard deviations for one time constant
REFINED = 6


@dataclass(frozen=True)
class Noise:
    """Standard scatter of one reading: a floor in Pa, or a share of the reading where that is more."""

    floor_pa: float
    share: float

    def of(self, pressure_pa: float) -> float:
        """Standard uncertainty in Pa of a reading."""
        return max(self.floor_pa, self.share * abs(pressure_pa))


@dataclass(frozen=True)
class Fit:
    """One model through the readings, SI; `rate` is the leak's slope in Pa/s, `_u` are standard uncertainties.

    `plateau_pa` is where the moisture part ends; None for the leak alone.
    """

    model: Model
    score: float
    start_pa: float
    rate_pa_s: float
    rate_u: float
    plateau_pa: float | None = None
    plateau_u: float = 0.0
    tau_s: float | None = None
    from_s: float = 0.0

    def at(self, seconds: float) -> float:
        """The pressure in Pa the model gives at a time after isolation."""
        since = seconds - self.from_s
        if self.plateau_pa is None or self.tau_s is None:
            return self.start_pa + self.rate_pa_s * since
        return self.plateau_pa - (self.plateau_pa - self.start_pa) * exp(-since / self.tau_s) + self.rate_pa_s * since


@dataclass(frozen=True)
class Group:
    """Neighbouring readings as one: mean time and pressure, weight, and how many independent ones it stands for."""

    second: float
    pressure_pa: float
    weight: float
    count: float


def group(samples: Sequence[Sample], noise: Noise) -> tuple[Group, ...]:
    """Samples in order as at most `MOST_GROUPS` groups; readings closer than 10 s count as one. Raises `InvalidInput` for fewer than two."""
    if len(samples) < 2:
        raise InvalidInput("A fit needs two readings.")
    first, last = samples[0][0], samples[-1][0]
    width = max((last - first) / MOST_GROUPS, INDEPENDENT_S)
    found: list[Group] = []
    bucket: list[Sample] = []
    edge = first + width
    for sample in samples:
        if sample[0] >= edge and bucket:
            found.append(_as_group(bucket, noise))
            bucket = []
            edge = first + width * (int((sample[0] - first) / width) + 1)
        bucket.append(sample)
    found.append(_as_group(bucket, noise))
    return tuple(found)


def _as_group(bucket: list[Sample], noise: Noise) -> Group:
    count = len(bucket)
    second = fsum(s for s, _ in bucket) / count
    pressure = fsum(p for _, p in bucket) / count
    independent = max(1.0, min(float(count), (bucket[-1][0] - bucket[0][0]) / INDEPENDENT_S))
    return Group(second, pressure, independent / noise.of(pressure) ** 2, independent)


def fit_leak(groups: Sequence[Group], *, rising: bool = True) -> Fit:
    """A straight line; `rising` keeps its slope from going below zero."""
    from_s = groups[0].second
    level, slope, slope_u = _line(groups)
    if rising and slope < 0.0:
        total = fsum(g.weight for g in groups)
        level, slope = fsum(g.weight * g.pressure_pa for g in groups) / total, 0.0
    chi = fsum(g.weight * (g.pressure_pa - level - slope * (g.second - from_s)) ** 2 for g in groups)
    return Fit("leak", chi + 2.0 * _points(groups), level, slope, slope_u, from_s=from_s)


def fit_moisture(groups: Sequence[Group], longest: float = LONGEST_SHARE) -> Fit:
    """A rise that levels off, its time constant at most this share of the window: half of it, unless said otherwise."""
    return _search(groups, "moisture", longest)


def fit_both(groups: Sequence[Group]) -> Fit:
    """A rise that levels off on top of a leak."""
    return _search(groups, "both")


@dataclass(frozen=True)
class Fall:
    """What a peak that still comes down may hide: the steepest leak in Pa/s, `SURE` times its uncertainty on it; and whether one is seen."""

    most_pa_s: float
    seen: bool


def under_a_fall(groups: Sequence[Group], noise: Noise, slowest_s: float = inf) -> Fall:
    """The steepest leak these readings allow while an early peak still comes down.

    `p = p∞ + B·e^(−t/τ) + r·t` for every time constant up to `slowest_s`, and to the whole window, that fits nearly as well as the best.
    A fall is seen where such a fit is better than any line. `inf` for too few readings.
    """
    if len(groups) <= FALL_TERMS:
        return Fall(inf, seen=False)
    sums = _Sums(groups)
    high = min(sums.span, slowest_s)
    low = min(sums.span * SHORTEST_SHARE, 0.5 * high)
    tried = [sums.signed(low * (high / low) ** (n / (FALL_GRID - 1))) for n in range(FALL_GRID)]
    found = [item for item in tried if item is not None]
    line = sums.line()
    best = min((*found, line), key=lambda item: item.chi)
    scatter = scatter_share(best.chi, groups, noise, FALL_TERMS)
    seen = best.amount < 0.0 and line.chi - best.chi > NEARLY * scatter**2
    sharper = 1.0 if seen else scatter  # a fall that is seen is not just one exponential: what is left of it is not scatter
    near = [item for item in (*found, line) if item.chi <= best.chi + NEARLY * sharper**2]
    return Fall(max(item.rate + SURE * item.rate_u * sharper for item in near), seen)


def scatter_share(chi: float, groups: Sequence[Group], noise: Noise, terms: int) -> float:
    """How far readings scatter about a fit, as a share of what was allowed for; 1 where there are too few to say.

    A gauge's percentage error is the same from reading to reading and does not blur a slope, its floor does.
    """
    if len(groups) < SCATTER_POINTS:
        return 1.0
    middle = groups[len(groups) // 2].pressure_pa
    return max(sqrt(max(chi, 0.0) / (len(groups) - terms)), noise.floor_pa / noise.of(middle))


def _points(groups: Sequence[Group]) -> float:
    return log(max(fsum(g.count for g in groups), 2.0))


def _line(groups: Sequence[Group]) -> tuple[float, float, float]:
    """Level at the first group, slope, and the slope's standard uncertainty."""
    from_s = groups[0].second
    total = fsum(g.weight for g in groups)
    mean_s = fsum(g.weight * (g.second - from_s) for g in groups) / total
    mean_pa = fsum(g.weight * g.pressure_pa for g in groups) / total
    spread = fsum(g.weight * (g.second - from_s - mean_s) ** 2 for g in groups)
    if spread <= 0.0:
        return mean_pa, 0.0, inf
    slope = fsum(g.weight * (g.second - from_s - mean_s) * (g.pressure_pa - mean_pa) for g in groups) / spread
    return mean_pa - slope * mean_s, slope, 1.0 / sqrt(spread)


@dataclass(frozen=True)
class _Linear:
    chi: float
    plateau: float
    amount: float
    rate: float
    plateau_u: float
    rate_u: float


class _Sums:
    """Weighted sums over groups that no time constant changes; pressures from their mean, times as shares of the window."""

    def __init__(self, groups: Sequence[Group]) -> None:
        self.from_s, self.span = groups[0].second, groups[-1].second - groups[0].second
        self.w = [g.weight for g in groups]
        self.s0 = fsum(self.w)
        self.mean = fsum(g.weight * g.pressure_pa for g in groups) / self.s0
        self.p = [g.pressure_pa - self.mean for g in groups]
        self.t = [(g.second - self.from_s) / self.span for g in groups]
        rows = list(zip(self.w, self.p, self.t, strict=True))
        self.st = fsum(w * t for w, _, t in rows)
        self.stt = fsum(w * t * t for w, _, t in rows)
        self.sp = fsum(w * p for w, p, _ in rows)
        self.spt = fsum(w * p * t for w, p, t in rows)
        self.spp = fsum(w * p * p for w, p, _ in rows)
        self.rows = rows

    def line(self) -> _Linear:
        """No moisture: a level and a slope not below zero."""
        spread = self.stt - self.st * self.st / self.s0
        slope = (self.spt - self.st * self.sp / self.s0) / spread
        if slope <= 0.0:
            return _Linear(self.spp - self.sp**2 / self.s0, self.mean, 0.0, 0.0, 1.0 / sqrt(self.s0), 1.0 / sqrt(spread) / self.span)
        level = (self.sp - slope * self.st) / self.s0
        chi = self.spp - level * self.sp - slope * self.spt
        return _Linear(chi, level + self.mean, 0.0, slope / self.span, 1.0 / sqrt(self.s0), 1.0 / sqrt(spread) / self.span)

    def signed(self, tau: float) -> _Linear | None:
        """Level, amount and slope for one time constant, of either sign; None where they cannot be told apart."""
        scale = -self.span / tau
        falls = [exp(scale * t) for _, _, t in self.rows]
        sf = -fsum(w * f for (w, _, _), f in zip(self.rows, falls, strict=True))
        sff = fsum(w * f * f for (w, _, _), f in zip(self.rows, falls, strict=True))
        sft = -fsum(w * f * t for (w, _, t), f in zip(self.rows, falls, strict=True))
        sfp = -fsum(w * f * p for (w, p, _), f in zip(self.rows, falls, strict=True))
        return self._three(sf, sff, sft, sfp)

    def flat(self) -> _Linear:
        """Neither: one level."""
        return _Linear(self.spp - self.sp**2 / self.s0, self.mean, 0.0, 0.0, 1.0 / sqrt(self.s0), 0.0)

    def at_tau(self, tau: float, model: Model) -> _Linear:
        """Best level, amount and slope for one time constant; amount and slope never below zero."""
        scale = -self.span / tau
        sf = sff = sft = sfp = 0.0
        for w, p, t in self.rows:
            fall = exp(scale * t)
            wf = w * fall
            sf -= wf
            sff += wf * fall
            sft -= wf * t
            sfp -= wf * p
        if model == "both":
            found = self._three(sf, sff, sft, sfp)
            if found is not None and found.amount > 0.0 and found.rate >= 0.0:
                return found
            if found is None or found.amount <= 0.0:
                return self.line()
            two = self._two(sf, sff, sfp)
            return replace(two if two is not None and two.amount > 0.0 else self.flat(), rate_u=found.rate_u)
        two = self._two(sf, sff, sfp)
        return two if two is not None and two.amount > 0.0 else self.flat()

    def _two(self, sf: float, sff: float, sfp: float) -> _Linear | None:
        det = self.s0 * sff - sf * sf
        if det <= 1e-12 * self.s0 * sff:
            return None
        level, amount = (self.sp * sff - sf * sfp) / det, (self.s0 * sfp - sf * self.sp) / det
        chi = self.spp - level * self.sp - amount * sfp
        return _Linear(chi, level + self.mean, amount, 0.0, sqrt(sff / det), 0.0)

    def _three(self, sf: float, sff: float, sft: float, sfp: float) -> _Linear | None:
        s0, st, stt = self.s0, self.st, self.stt
        c00, c01, c02 = sff * stt - sft * sft, sft * st - sf * stt, sf * sft - sff * st
        det = s0 * c00 + sf * c01 + st * c02
        if det <= 1e-12 * s0 * sff * stt:
            return None
        c11, c12, c22 = s0 * stt - st * st, sf * st - s0 * sft, s0 * sff - sf * sf
        level = (c00 * self.sp + c01 * sfp + c02 * self.spt) / det
        amount = (c01 * self.sp + c11 * sfp + c12 * self.spt) / det
        rate = (c02 * self.sp + c12 * sfp + c22 * self.spt) / det
        chi = self.spp - level * self.sp - amount * sfp - rate * self.spt
        return _Linear(chi, level + self.mean, amount, rate / self.span, sqrt(c00 / det), sqrt(c22 / det) / self.span)


def _search(groups: Sequence[Group], model: Model, longest: float = LONGEST_SHARE) -> Fit:
    sums = _Sums(groups)
    if sums.span <= 0.0:
        raise InvalidInput("A fit needs readings at two times.")
    low, high = sums.span * SHORTEST_SHARE, sums.span * longest
    taus = [low * (high / low) ** (n / (GRID - 1)) for n in range(GRID)]
    tried = [(sums.at_tau(tau, model), tau) for tau in taus]
    best = min(range(GRID), key=lambda n: tried[n][0].chi)
    left, right = taus[max(best - 1, 0)], taus[min(best + 1, GRID - 1)]
    for _ in range(REFINED):
        one, two = left * (right / left) ** 0.382, left * (right / left) ** 0.618
        first, second = sums.at_tau(one, model), sums.at_tau(two, model)
        tried += [(first, one), (second, two)]
        left, right = (left, two) if first.chi <= second.chi else (one, right)
    found, tau = min(tried, key=lambda pair: pair[0].chi)
    near = [item for item, _ in tried if item.chi <= found.chi + 1.0]
    plateau_u = sqrt(found.plateau_u**2 + (0.5 * (max(i.plateau for i in near) - min(i.plateau for i in near))) ** 2)
    rate_u = sqrt(found.rate_u**2 + (0.5 * (max(i.rate for i in near) - min(i.rate for i in near))) ** 2)
    k = 3.0 if model == "moisture" else 4.0
    score = max(found.chi, 0.0) + k * _points(groups)
    return Fit(model, score, found.plateau - found.amount, found.rate, rate_u, found.plateau, plateau_u, tau, sums.from_s)
