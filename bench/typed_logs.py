"""Logs as people type them: three to five readings, whole microns or tens of them, whole pounds or tens of them."""

import itertools
import random
from collections.abc import Sequence

from yoshi_core.tight_and_dry.pressure_hold import HoldSample
from yoshi_core.units.quantities import MICRON_PA, PSI_PA

FEWEST, MOST = 3, 5
NEEDLE = 0.1  # parallax and friction of a needle in divisions, standard, beside its reading to the nearest; common practice, no source
Row = tuple[float, float]


def few(dice: random.Random, watch_s: float, looks: Sequence[float]) -> list[float]:
    """When somebody reads: at first, at the end of the watch and one to three times between; then one or two more before each later look."""
    between = dice.randint(FEWEST - 2, MOST - 2)
    moments = [0.0, *(dice.uniform(0.1, 0.9) * watch_s for _ in range(between)), watch_s]
    for before, look in itertools.pairwise(looks):
        moments += [dice.uniform(before, look) * watch_s for _ in range(dice.randint(0, 1))]
        moments.append(look * watch_s)
    return sorted(moments)


def first_from(seconds: Sequence[float], moments: Sequence[float]) -> list[int]:
    """The places of what was read at each moment or as soon after it as possible, each once."""
    return sorted({next((n for n, second in enumerate(seconds) if second >= moment - 1e-6), len(seconds) - 1) for moment in moments})


def decay(dice: random.Random, rows: Sequence[Row], watch_s: float, looks: Sequence[float]) -> tuple[Row, ...]:
    """A few rows of a decay, by a gauge in whole microns or in tens of them."""
    step = dice.choice((1.0, 10.0)) * MICRON_PA
    kept = first_from([second for second, _ in rows], few(dice, watch_s, looks))
    return tuple((rows[n][0], max(round(rows[n][1] / step), 1) * step) for n in kept)


def gauge_step_pa(dice: random.Random) -> float:
    """A needle read to the pound, to five or to ten."""
    return dice.choice((1.0, 5.0, 10.0)) * PSI_PA


def hold(dice: random.Random, samples: Sequence[HoldSample], settle_s: float, least_s: float) -> tuple[HoldSample, ...]:
    """A few samples of a hold: once settled, at its end, and up to three times between or while it settles."""
    between = dice.randint(FEWEST - 2, MOST - 2)
    seconds = [one.second for one in samples]
    settled = seconds[first_from(seconds, [settle_s])[0]]
    moments = [settled, *(dice.uniform(0.0, settled + least_s) for _ in range(between)), settled + least_s]
    return tuple(samples[n] for n in first_from(seconds, moments))
