"""A closed system under dry nitrogen: the pressure the metal's temperature asks for, and the leak a drop means.

Pressures are absolute in Pa, temperatures of the metal in K, times in s.
"""

from collections.abc import Sequence
from math import fsum, sqrt
from typing import Literal

from yoshi_core.errors import OutOfRange
from yoshi_core.frozen import dataclass
from yoshi_core.profile.fixed import fixed
from yoshi_core.units.quantities import PSI_PA

BAR_PA = 1e5
AT_K = 295.0
REAL_GAS = 8.1e-6
LOW_K, HIGH_K = 240.0, 340.0
HIGHEST_PA = 60e5
SURE_PA = 1e-6 * PSI_PA


@dataclass(frozen=True)
class Drop:
    """What was lost beyond the metal's temperature: `drop_pa` with its expanded uncertainty, and the leak in Pa·m³/s.

    `least_pa_m3_s` is the smallest leak this hold could have seen.
    """

    expected_pa: float
    drop_pa: float
    uncertainty_pa: float
    leak_pa_m3_s: float
    least_pa_m3_s: float

    @property
    def seen(self) -> bool:
        """Whether the drop is beyond its uncertainty."""
        return self.drop_pa > self.uncertainty_pa + SURE_PA


def expected_pa(start_pa: float, start_k: float, end_k: float) -> float:
    """Absolute pressure in Pa of tight nitrogen when its metal goes from one temperature in K to another.

    Real isochore, `p·T₂/T₁·[1 + 8.1e-6·p·ΔT·(295/T₁)^2.4·(295/T₂)^1.2]`, p in bar: within 0.1 psi of the reference
    equation over 20 to 600 psig and 0 to 120 °F. Raises `OutOfRange` outside 240 to 340 K or 60 bar.
    """
    for kelvin in (start_k, end_k):
        if not LOW_K <= kelvin <= HIGH_K:
            raise OutOfRange("Nitrogen's rule is true for pipes from −28 to 152 °F.", value=kelvin, low=LOW_K, high=HIGH_K)
    if not 0.0 < start_pa <= HIGHEST_PA:
        raise OutOfRange("Nitrogen's rule is true up to 60 bar absolute.", value=start_pa, high=HIGHEST_PA)
    real = REAL_GAS * start_pa / BAR_PA * (end_k - start_k) * (AT_K / start_k) ** 2.4 * (AT_K / end_k) ** 1.2
    return start_pa * end_k / start_k * (1.0 + float(real))


def spread_pa(pressure_pa: float, metal_k: float, step_pa: float, metal_u_k: float) -> float:
    """Expanded uncertainty in Pa of a drop between two readings: `U = 2·√(r²/6 + 2·(p·u_T/T)²)`, at least one display step."""
    return max(2.0 * sqrt(step_pa**2 / 6.0 + 2.0 * (pressure_pa * metal_u_k / metal_k) ** 2), step_pa)


def drop(
    start_pa: float, start_k: float, end_pa: float, end_k: float, lasted_s: float, volume_m3: float, step_pa: float, metal_u_k: float
) -> Drop:
    """The drop between two readings at absolute pressures in Pa, and what leak it means in this volume in m³.

    `step_pa` is the gauge's display step, `metal_u_k` the standard uncertainty of the metal's temperature. Raises `OutOfRange`.
    """
    if not (lasted_s > 0.0 and volume_m3 > 0.0):
        raise OutOfRange("A leak needs a time and a volume above zero.", value=min(lasted_s, volume_m3))
    expected = expected_pa(start_pa, start_k, end_k)
    spread = spread_pa(start_pa, start_k, step_pa, metal_u_k)
    lost = expected - end_pa
    return Drop(expected, lost, spread, max(lost, 0.0) * volume_m3 / lasted_s, spread * volume_m3 / lasted_s)


STOP_SHARE = 1.5
AVERAGE_S = 60.0
SETTLES_BY, SETTLES_FIRST_S = fixed("hold.settles_by"), fixed("hold.settles_first")


@dataclass(frozen=True)
class HoldSample:
    """One reading after filling: second, absolute pressure in Pa, and the metal in K where a probe was on it."""

    second: float
    pressure_pa: float
    metal_k: float | None = None


@dataclass(frozen=True)
class HoldTerms:
    """What a hold is held to: settling and least time in s, gauge step in Pa, the metal's standard uncertainty with and without a probe in K.

    `volume_m3` gives the leak. `usual_metal_k` stands in where no probe was on the metal.
    """

    settle_s: float
    least_s: float
    step_pa: float
    probe_u_k: float
    no_probe_u_k: float
    usual_metal_k: float
    volume_m3: float


HoldKind = Literal["settling", "holds", "short", "drops", "unsure", "rises", "unprobed"]


@dataclass(frozen=True)
class HoldVerdict:
    """What a hold says: `holds`, `drops` (leaking), `unsure`, `rises` (warming or not settled), `short` or `settling`.

    `unprobed` is a drop that a probe on the metal would have told from its cooling. `start` and `end` are the readings compared. `wait_s` is how much longer, None where waiting does not help.
    """

    kind: HoldKind
    start: HoldSample
    end: HoldSample
    drop: Drop | None
    lasted_s: float
    wait_s: float | None
    probed: bool


def judge(samples: Sequence[HoldSample], terms: HoldTerms) -> HoldVerdict:
    """Judge the readings after filling, in order of time.

    The first reading after settling is compared with the last; where readings come close together, each is the mean
    of a minute. A drop of exactly one display step is no drop. Nitrogen that settles only loses pressure, so a reading
    from before counts where none was lost since. Raises `OutOfRange` for no readings or terms that cannot be.
    """
    if not samples:
        raise OutOfRange("A hold takes a reading.")
    probed = all(s.metal_k is not None for s in samples)
    settled = [s for s in samples if s.second >= terms.settle_s - 1.0]
    last = samples[-1]
    if not settled or last.second <= settled[0].second:
        unlost = _nothing_lost(samples, terms, probed=probed)
        if unlost is not None:
            return unlost
        wait = max(terms.settle_s - last.second, 0.0) + terms.least_s
        lost = _lost_early(samples, terms, wait, probed=probed)
        if lost is not None:
            return lost
        if not probed and settled:
            apart = _told_by_nothing(samples, terms)
            if apart is not None:
                return apart
        return HoldVerdict("settling", samples[0], last, None, 0.0, wait, probed)
    start, end = _mean(settled, first=True), _mean(settled, first=False)
    lasted = end.second - start.second
    from_k, to_k = (s.metal_k if probed and s.metal_k is not None else terms.usual_metal_k for s in (start, end))
    u_k = terms.probe_u_k if probed else terms.no_probe_u_k
    found = drop(start.pressure_pa, from_k, end.pressure_pa, to_k, lasted, terms.volume_m3, terms.step_pa, u_k)
    wait = max(terms.least_s - (settled[-1].second - settled[0].second), 0.0)
    if not probed and not found.drop_pa <= spread_pa(start.pressure_pa, from_k, terms.step_pa, terms.probe_u_k) and not found.seen:
        return HoldVerdict("unprobed", start, end, found, lasted, None, probed)
    return HoldVerdict(_kind(found, wait), start, end, found, lasted, wait if wait > 0.0 else None, probed)


def _between_ends(samples: Sequence[HoldSample], terms: HoldTerms, *, probed: bool) -> Drop | None:
    """The drop from the first reading to the last, whether it had settled or not; None for readings at one moment."""
    first, last = samples[0], samples[-1]
    if last.second <= first.second:
        return None
    from_k, to_k = (s.metal_k if probed and s.metal_k is not None else terms.usual_metal_k for s in (first, last))
    u_k = terms.probe_u_k if probed else terms.no_probe_u_k
    return drop(first.pressure_pa, from_k, last.pressure_pa, to_k, last.second - first.second, terms.volume_m3, terms.step_pa, u_k)


def _lost_early(samples: Sequence[HoldSample], terms: HoldTerms, wait_s: float, *, probed: bool) -> HoldVerdict | None:
    """A leak so large that settling does not explain it: told before anything has settled, and without any volume.

    With a probe on the metal it leaks; without one a drop beyond its uncertainty is `unsure`. In its first minutes the gas is warmer than its
    metal, and nothing is told.
    """
    first, last = samples[0], samples[-1]
    found = _between_ends(samples, terms, probed=probed) if last.second - first.second >= SETTLES_FIRST_S else None
    if found is None:
        return None
    sure = found.drop_pa - SETTLES_BY * first.pressure_pa > STOP_SHARE * found.uncertainty_pa
    if not sure and (probed or not found.seen):
        return None
    return HoldVerdict("drops" if sure else "unsure", first, last, found, last.second - first.second, None if sure else wait_s, probed)


def _told_by_nothing(samples: Sequence[HoldSample], terms: HoldTerms) -> HoldVerdict | None:
    """A drop within what the metal's unknown temperature explains, from a reading before it had settled to one after: neither passes nor fails."""
    first, last = samples[0], samples[-1]
    found = _between_ends(samples, terms, probed=False)
    if found is None or found.seen or found.drop_pa <= spread_pa(first.pressure_pa, terms.usual_metal_k, terms.step_pa, terms.probe_u_k):
        return None
    return HoldVerdict("unprobed", first, last, found, last.second - first.second, None, probed=False)


def _nothing_lost(samples: Sequence[HoldSample], terms: HoldTerms, *, probed: bool) -> HoldVerdict | None:
    """The verdict from the first reading on where it has lost nothing since, though it still settled then; None where it has, or read once."""
    first, last = samples[0], samples[-1]
    lasted = last.second - first.second
    found = _between_ends(samples, terms, probed=probed)
    if found is None:
        return None
    from_k = first.metal_k if probed and first.metal_k is not None else terms.usual_metal_k
    sharp = spread_pa(first.pressure_pa, from_k, terms.step_pa, terms.probe_u_k)
    if found.drop_pa > sharp + SURE_PA or found.drop_pa < -sharp - SURE_PA:
        return None
    wait = max(terms.least_s - lasted, 0.0)
    return HoldVerdict("short" if wait > 0.0 else "holds", first, last, found, lasted, wait or None, probed)


def _kind(found: Drop, wait_s: float) -> HoldKind:
    if found.drop_pa > STOP_SHARE * found.uncertainty_pa + SURE_PA:
        return "drops"
    if found.seen:
        return "unsure"
    if found.drop_pa < -found.uncertainty_pa - SURE_PA:
        return "rises"
    return "short" if wait_s > 0.0 else "holds"


def _mean(settled: Sequence[HoldSample], *, first: bool) -> HoldSample:
    """The first or the last reading, or the mean of its minute where readings come close together."""
    edge = settled[0].second if first else settled[-1].second
    spans = (settled[-1].second - settled[0].second) > 4.0 * AVERAGE_S
    near = [s for s in settled if abs(s.second - edge) <= AVERAGE_S] if spans else []
    if len(near) < 5:
        return settled[0] if first else settled[-1]
    metals = [s.metal_k for s in near if s.metal_k is not None]
    metal = fsum(metals) / len(metals) if len(metals) == len(near) else None
    return HoldSample(fsum(s.second for s in near) / len(near), fsum(s.pressure_pa for s in near) / len(near), metal)


def until_seen_s(leak_pa_m3_s: float, pressure_pa: float, metal_k: float, terms: HoldTerms, *, probed: bool) -> float:
    """How long a hold must last, in s, to see a leak: `t = U·V/Q`. Raises `OutOfRange` for a leak of nothing."""
    if not leak_pa_m3_s > 0.0:
        raise OutOfRange("A leak to be seen is above zero.", value=leak_pa_m3_s)
    u_k = terms.probe_u_k if probed else terms.no_probe_u_k
    return spread_pa(pressure_pa, metal_k, terms.step_pa, u_k) * terms.volume_m3 / leak_pa_m3_s
