"""Is it tight and dry? A vacuum after isolation, judged by what it does, not by one number.

Pressures are absolute in Pa, times in s after isolation. A straight line through any part of the rise
is never flatter than the leak in it, since what evaporates only slows down; so a rise passes as soon
as one such line, with three of its standard uncertainties, stays under the slope the leak limit allows.
A rise that bends, however slowly, is not called a leak alone: it may be moisture that takes longer than was watched.
"""

from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise
from math import fsum, inf, sqrt
from typing import Literal

from yoshi_core.errors import OutOfRange
from yoshi_core.frozen import dataclass
from yoshi_core.profile.fixed import fixed
from yoshi_core.tight_and_dry.decay import (
    Fit,
    Group,
    Noise,
    Sample,
    fit_both,
    fit_leak,
    fit_moisture,
    group,
    scatter_share,
    under_a_fall,
)

Kind = Literal[
    "tight", "leaking", "moist", "leaking and moist", "cannot tell yet", "equalizing", "still pulling", "closed port", "above target"
]
BETTER = fixed("decay.better")
SURE = fixed("decay.sure")
LEAK_SURE = fixed("decay.leak_sure")
LEAK_WINDOW_S = fixed("decay.leak_window")
BOTH_POINTS = int(fixed("decay.both_points"))
PEAK_S = fixed("decay.peak")
UNSEEN_S, UNSEEN_FALL_S = fixed("decay.unseen"), fixed("decay.unseen_fall")
PULLING_S = fixed("decay.pulling")
BETWEEN_TWO = int(fixed("decay.two"))
PARTS = (0.0, 0.25, 0.5)
TAIL_POINTS = int(fixed("decay.tail_points"))
SLOWEST_SHARE = fixed("decay.slowest_share")
SLOWER = fixed("decay.slower")
MOST_READINGS, FARTHEST = int(fixed("decay.most_readings")), fixed("decay.farthest")
LEVELLED, WATER_MOST_PA = fixed("decay.levelled"), fixed("decay.water_most")
GOOD_FIT = fixed("decay.good_fit")


@dataclass(frozen=True)
class Limits:
    """What a school asks for: pressure to reach and to stay under in Pa, a leak in Pa·m³/s, seconds of watching.

    The first `discard_s` after isolation are not fitted. `hold_s` is the least time watched.
    """

    target_pa: float
    stays_pa: float
    leak_pa_m3_s: float
    hold_s: float
    noise: Noise
    discard_s: float = 90.0


@dataclass(frozen=True)
class DecayVerdict:
    """What the readings say so far.

    `slope_pa_s` with its standard uncertainty is what passes or fails against `slope_limit_pa_s`; `leak_pa_m3_s`
    the leak it would mean; `plateau_pa` where the moisture part ends. `lead` is by how much the better of leak
    and moisture leads. `by_ends`: the slope is the average since it was shut off, a peak between and all. `wait_s` is how much longer until it can be told, None where waiting does not help.
    """

    kind: Kind
    slope_pa_s: float
    slope_u: float
    slope_limit_pa_s: float
    plateau_pa: float | None
    leak_pa_m3_s: float
    wait_s: float | None
    window_s: float = 0.0
    lead: float = 0.0
    two_points: bool = False
    leak_fit: Fit | None = None
    moisture_fit: Fit | None = None
    both_fit: Fit | None = None
    from_s: float = 0.0
    by_ends: bool = False

    @property
    def passes(self) -> bool:
        """Whether the vacuum is proven tight and dry."""
        return self.kind == "tight"


def judge(samples: Sequence[Sample], volume_m3: float, limits: Limits, *, volume_band: float = 1.0) -> DecayVerdict:
    """Judge a rise: `samples` are `(second after isolation, Pa)` in order, the first at isolation.

    `volume_band` is the factor by which the volume may be off either way: the larger volume must pass, the smaller
    must fail. Raises `OutOfRange` for a volume or a band that cannot be, and for no reading.
    """
    if not volume_m3 > 0.0 or not 1.0 <= volume_band <= 100.0:
        raise OutOfRange("A leak rate takes a volume above zero and a band from 1 to 100.", value=volume_m3)
    if not samples:
        raise OutOfRange("There is no reading after isolation.")
    slope_limit = limits.leak_pa_m3_s / (volume_m3 * volume_band)
    last_s = samples[-1][0]
    if samples[0][1] > limits.target_pa * (1.0 + 1e-9):
        return DecayVerdict("above target", 0.0, inf, slope_limit, None, 0.0, None)
    if _still_pulling(samples, limits.noise):
        return DecayVerdict("still pulling", 0.0, inf, slope_limit, None, 0.0, None, last_s)
    start_s = _settled_from(samples, limits)
    if start_s is None:
        return DecayVerdict("equalizing", 0.0, inf, slope_limit, None, 0.0, max(limits.hold_s - last_s, limits.discard_s), 0.0)
    window = [s for s in samples if s[0] >= start_s]
    groups = group(window, limits.noise) if len(window) >= 2 else ()
    if len(groups) < BETWEEN_TWO:
        return _two_points(samples, volume_m3, slope_limit, limits)
    return _fitted(groups, samples, volume_m3, slope_limit, volume_band, limits)


def _settled_from(samples: Sequence[Sample], limits: Limits) -> float | None:
    """From when the rise counts: after the first seconds, and after an early peak has come down; None while it comes down."""
    early = [s for s in samples if s[0] <= PEAK_S]
    if not early:
        return limits.discard_s  # nobody looked while a peak could have stood
    peak_s, peak_pa = max(early, key=lambda s: s[1])
    after = [s for s in samples if s[0] > peak_s]
    if not after:
        return limits.discard_s
    low_s, low_pa = min(after, key=lambda s: s[1])
    if low_pa >= peak_pa - SURE * limits.noise.of(peak_pa):
        return limits.discard_s
    return None if low_s == samples[-1][0] and low_s <= 2.0 * PEAK_S else max(limits.discard_s, low_s)


def _still_pulling(samples: Sequence[Sample], noise: Noise) -> bool:
    """Whether it has only fallen since isolation, by more than its scatter: then it is not isolated."""
    if len(samples) < BETWEEN_TWO or samples[-1][0] < PULLING_S:
        return False
    scatter = noise.of(samples[0][1])
    falls = all(later <= earlier + 0.5 * scatter for (_, earlier), (_, later) in pairwise(samples))
    return falls and samples[0][1] - samples[-1][1] > SURE * scatter


def _two_points(samples: Sequence[Sample], volume_m3: float, slope_limit: float, limits: Limits) -> DecayVerdict:
    """Two readings never classify: they pass or fail the school's number, where so short a look can see the limit at all."""
    (first_s, first_pa), (last_s, last_pa) = samples[0], samples[-1]
    lasted = last_s - first_s
    if lasted <= 0.0:
        return DecayVerdict("cannot tell yet", 0.0, inf, slope_limit, None, 0.0, limits.hold_s, two_points=True)
    slope = (last_pa - first_pa) / lasted
    slope_u = sqrt(limits.noise.of(first_pa) ** 2 + limits.noise.of(last_pa) ** 2) / lasted
    wait: float | None = max(limits.hold_s - last_s, 0.0)
    kind: Kind = "cannot tell yet"
    if last_s >= limits.hold_s:
        sees = SURE * slope_u <= slope_limit
        fell = min(value for _, value in samples) < first_pa - SURE * limits.noise.of(first_pa)  # then the ends hide what came down
        if last_pa <= limits.stays_pa and slope <= slope_limit and sees and not fell:
            kind, wait = "tight", None
        else:
            wait = max(limits.hold_s * 0.5, lasted * (SURE * slope_u / slope_limit - 1.0)) if not sees else limits.hold_s * 0.5
    return DecayVerdict(kind, slope, slope_u, slope_limit, None, max(slope, 0.0) * volume_m3, wait, lasted, two_points=True)


@dataclass(frozen=True)
class _Rise:
    """Every model through a rise, which of them wins, and the slope that binds the leak closest.

    `rate` is the leak's own slope where a model with a leak wins, else that of the closest line; all Pa and s.
    """

    groups: Sequence[Group]
    leak: Fit
    moisture: Fit
    both: Fit | None
    winner: Fit | None
    slope: float
    slope_u: float
    rate: float
    rate_u: float

    @property
    def window_s(self) -> float:
        return self.groups[-1].second - self.groups[0].second

    @property
    def lead(self) -> float:
        """By how much moisture leads over leak."""
        return self.leak.score - self.moisture.score

    def answer(self, kind: Kind, wait: float | None, volume_m3: float, slope_limit: float, plateau: float | None) -> DecayVerdict:
        shown, shown_u = (self.rate, self.rate_u) if kind in {"leaking", "leaking and moist"} else (self.slope, self.slope_u)
        return DecayVerdict(
            kind,
            shown,
            shown_u,
            slope_limit,
            plateau,
            max(shown, 0.0) * volume_m3,
            wait,
            self.window_s,
            self.lead,
            False,
            self.leak,
            self.moisture,
            self.both,
            self.groups[0].second,
        )


def _rise(groups: Sequence[Group], noise: Noise) -> _Rise:
    leak, moisture = fit_leak(groups), fit_moisture(groups)
    both = fit_both(groups) if len(groups) >= BOTH_POINTS else None
    winner = _winner(leak, moisture, both, fit_moisture(groups, SLOWEST_SHARE))
    slope, slope_u = _flattest(groups, both, noise)
    leaks = winner is not None and winner.model != "moisture"
    rate, rate_u = (winner.rate_pa_s, winner.rate_u) if leaks and winner is not None else (slope, slope_u)
    return _Rise(groups, leak, moisture, both, winner, slope, slope_u, rate, rate_u)


def _winner(leak: Fit, moisture: Fit, both: Fit | None, slow: Fit) -> Fit | None:
    """The model that is believed; None while two stand too close, or a slow levelling off would explain the leak."""
    lead = leak.score - moisture.score
    if lead > 0.0 and (moisture.plateau_pa or 0.0) > WATER_MOST_PA:
        return leak  # no water levels off there: whatever slows it down keeps coming
    better = moisture if lead > 0.0 else leak
    if both is not None and better.score - both.score >= BETTER and slow.score - both.score >= BETTER:
        return both
    if abs(lead) < BETTER or (better is leak and slow.score < leak.score):
        return None
    return slow if better is moisture and moisture.score - slow.score >= SLOWER else better


def _fitted(
    groups: Sequence[Group], samples: Sequence[Sample], volume_m3: float, slope_limit: float, band: float, limits: Limits
) -> DecayVerdict:
    """A rise of enough readings: passed first, then leak, moisture or both; otherwise how much longer."""
    last_s, last_pa = samples[-1]
    rise = _rise(groups, limits.noise)
    most = _most_it_may_leak(rise, samples, limits)
    winner = rise.winner
    plateau = winner.plateau_pa if winner is not None else None

    def answer(kind: Kind, wait: float | None = None, level: float | None = plateau) -> DecayVerdict:
        return rise.answer(kind, wait, volume_m3, slope_limit, level)

    level_ok = winner is None or winner.model != "moisture" or (plateau or 0.0) <= limits.stays_pa
    if last_pa <= limits.stays_pa and level_ok and most < slope_limit:
        return answer("tight") if last_s >= limits.hold_s else answer("cannot tell yet", limits.hold_s - last_s)
    leaks = _leaks(rise, volume_m3 / band, limits)
    slows = winner is not None and winner.model == "moisture"
    level = _level_at_end(groups, limits.noise, rise.rate if leaks else rise.leak.rate_pa_s, slope_limit) if leaks or slows else None
    if level is not None:
        plateau, leaks = level, False
        if level > limits.stays_pa:
            return answer("moist", None, level)
    wet = winner is not None and winner.plateau_pa is not None and winner.plateau_pa > limits.stays_pa and _seen(winner, rise.window_s)
    if leaks:
        return answer("leaking and moist" if winner is not None and winner.model == "both" and wet else "leaking")
    if wet and winner is not None and (winner.model == "moisture" or rise.rate * volume_m3 * band <= limits.leak_pa_m3_s):
        return answer("moist", None, plateau)
    by_ends = _two_points(samples, volume_m3, slope_limit, limits)
    if by_ends.kind == "tight":  # from when it was shut off on, a peak and all
        slope, unsure, leak = by_ends.slope_pa_s, by_ends.slope_u, by_ends.leak_pa_m3_s
        return replace(answer("tight"), slope_pa_s=slope, slope_u=unsure, leak_pa_m3_s=leak, by_ends=True)
    return answer("cannot tell yet", _how_long(rise, slope_limit, last_s, limits), plateau)


def _most_it_may_leak(rise: _Rise, samples: Sequence[Sample], limits: Limits) -> float:
    """The steepest leak in Pa/s that the rise allows. What still comes down from an early peak hides as much of it as it falls by."""
    peak_s = max((s for s in samples if s[0] <= PEAK_S), key=lambda s: s[1], default=(0.0, 0.0))[0]
    since = [s for s in samples if s[0] >= max(peak_s, limits.discard_s)]
    seen = _falls(samples, limits.noise)
    falls = [
        under_a_fall(part, limits.noise, inf if seen else UNSEEN_FALL_S)
        for part in _parts(group(since, limits.noise) if len(since) >= 2 else ())
    ]
    if seen or any(fall.seen for fall in falls) or not _looked_early(samples):
        return min((fall.most_pa_s for fall in falls), default=inf)
    return rise.slope + SURE * rise.slope_u


def _parts(groups: Sequence[Group]) -> list[Sequence[Group]]:
    """All of a rise and its later parts, each of enough readings for a line."""
    parts = [groups[int(len(groups) * share) :] for share in PARTS]
    return [part for part in parts if len(part) >= BETWEEN_TWO]


def _looked_early(samples: Sequence[Sample]) -> bool:
    """Whether it was read so often in its first minutes that no peak could come and half go unseen."""
    looked = [second for second, _ in samples if second <= PEAK_S]
    return bool(looked) and all(later - earlier <= UNSEEN_S for earlier, later in pairwise((0.0, *looked, PEAK_S)))


def _falls(samples: Sequence[Sample], noise: Noise) -> bool:
    """Whether it came down, by more than its scatter, from anything it stood at before."""
    highest: Group | None = None
    for one in group(samples, noise) if len(samples) > 1 else ():
        if highest is None or one.pressure_pa > highest.pressure_pa:
            highest = one
        elif highest.pressure_pa - one.pressure_pa > SURE * sqrt(1.0 / highest.weight + 1.0 / one.weight):
            return True
    return False


def _leaks(rise: _Rise, least_m3: float, limits: Limits) -> bool:
    """Whether a model with a leak wins over a long enough window, by more than the limit in the smallest volume it may be."""
    if rise.winner is None or rise.winner.model == "moisture" or rise.window_s < LEAK_WINDOW_S:
        return False
    return min(rise.rate - LEAK_SURE * rise.rate_u, _late(rise.groups)) * least_m3 > limits.leak_pa_m3_s


def _late(groups: Sequence[Group]) -> float:
    """The slope of the later half, in Pa/s: a leak keeps it, what evaporates does not."""
    half = groups[len(groups) // 2 :]
    return fit_leak(half, rising=False).rate_pa_s if len(half) >= BETWEEN_TWO else inf


def _seen(fit: Fit, window: float) -> bool:
    """Whether the window shows enough of the levelling off to name where it ends."""
    return fit.tau_s is not None and window >= LEVELLED * fit.tau_s and (fit.plateau_pa or 0.0) > SURE * fit.plateau_u


def _flattest(groups: Sequence[Group], both: Fit | None, noise: Noise) -> tuple[float, float]:
    """Slope in Pa/s and its uncertainty of whatever binds the leak closest.

    A line over all of the window or over its later part, or the slope left under the levelling part.
    """
    found = []
    for part in _parts(groups):
        line = fit_leak(part, rising=False)
        found.append((line.rate_pa_s, line.rate_u * _scatter_share(part, line, noise, 2)))
    if both is not None:
        share_seen = _scatter_share(groups, both, noise, 4)
        if share_seen <= GOOD_FIT:
            found.append((both.rate_pa_s, both.rate_u * share_seen))
    return min(found, key=lambda pair: pair[0] + SURE * pair[1])


def _scatter_share(groups: Sequence[Group], fit: Fit, noise: Noise, terms: int) -> float:
    """How far readings scatter about this fit, as a share of what was allowed for."""
    chi = fsum(g.weight * (g.pressure_pa - fit.at(g.second)) ** 2 for g in groups)
    return scatter_share(chi, groups, noise, terms)


def _level_at_end(groups: Sequence[Group], noise: Noise, rate: float, slope_limit: float) -> float | None:
    """Mean pressure of the last readings where they are too level for a leak of this rate, and no longer climb by more than the limit; None otherwise.

    Over readings this close together a gauge's percentage error is the same, so its floor and their own scatter count.
    """
    for points in {TAIL_POINTS, len(groups) // 6}:
        tail = groups[-points:] if points >= TAIL_POINTS else ()
        if not tail or len(tail) == len(groups):
            continue
        line = fit_leak(tail, rising=False)
        scatter = sqrt(fsum((g.pressure_pa - line.at(g.second)) ** 2 for g in tail) / (len(tail) - 2))
        middle = fsum(g.second for g in tail) / len(tail)
        slope_u = max(noise.floor_pa, scatter) / sqrt(fsum((g.second - middle) ** 2 for g in tail))
        level = fsum(g.pressure_pa for g in tail) / len(tail)
        if line.rate_pa_s + SURE * slope_u < rate and line.rate_pa_s - SURE * slope_u <= slope_limit and level <= WATER_MOST_PA:
            return level
    return None


def _how_long(rise: _Rise, slope_limit: float, last_s: float, limits: Limits) -> float:
    """How much longer until leak and moisture stand apart, or until the slope is known well enough to pass."""
    window, winner = rise.window_s, rise.winner
    least = max(limits.hold_s - last_s, 60.0)
    if winner is None:
        every = max(window / (len(rise.groups) - 1), 30.0)
        apart = until_apart(rise.leak, rise.moisture, last_s, every, limits.noise, rise.lead)
        return max(least, apart if apart is not None else window)
    if winner.model == "moisture" and winner.tau_s is not None and not _seen(winner, window):
        return max(least, LEVELLED * winner.tau_s - window)
    if rise.slope < slope_limit and rise.slope_u > 0.0:
        grows = float((SURE * rise.slope_u / (slope_limit - rise.slope)) ** (2.0 / 3.0))
        return max(least, window * (min(grows, 10.0) - 1.0))
    return max(least, 0.5 * window)


def until_apart(leak: Fit, moisture: Fit, last_s: float, every_s: float, noise: Noise, lead: float = 0.0) -> float | None:
    """Seconds until further readings, one every `every_s`, will have told the two models apart; None within nine times as long.

    Both are fitted again as readings come, so each counts half its distance: `Σ (Δp/2σ)²` has to make up what is missing.
    """
    missing = BETTER + abs(lead)
    for n in range(1, MOST_READINGS):
        at = last_s + n * every_s
        if at > FARTHEST * last_s:
            return None
        one, two = leak.at(at), moisture.at(at)
        missing -= (0.5 * (one - two) / noise.of(0.5 * (one + two))) ** 2
        if missing <= 0.0:
            return at - last_s
    return None
