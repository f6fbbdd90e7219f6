"""How much to add or take next, so that a wrong guess stays small.

First step from the virtual-charge relation (Li & Braun, Purdue, from memory):
`m/m_rated − 1 = [(SC − SC*) − κ·(SH − SH*)]/K`, `K = SC*/((1 − α₀)·X)`, κ 0.4, α₀ 0.75, X 0.73.
Afterwards the unit's own answer to what was added.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from yoshi_core.errors import OutOfRange
from yoshi_core.profile import Profile

KAPPA = 0.4
ALPHA_0 = 0.75
LIQUID_SHARE = 0.73
LEAST_ANSWER_KG = 1e-4


@dataclass(frozen=True)
class Gaps:
    """How far readings are from target in K; `rated_subcooling_k` scales the relation."""

    subcooling_gap_k: float
    superheat_gap_k: float
    rated_subcooling_k: float


@dataclass(frozen=True)
class Answered:
    """A logged point: charge inside in kg and the judging difference (superheat or subcooling) in K."""

    inside_kg: float
    value_k: float


@dataclass(frozen=True)
class TrimStep:
    """What to do next: `mass_kg` to add (negative: take out), or `stop` with the reason's id.

    `short_share` is the estimated share missing; `limited` says the step limit bound;
    `slope_k_per_kg` is the unit's own answer where it was used.
    """

    mass_kg: float
    stop: bool
    reason: str
    short_share: float | None
    limited: bool
    slope_k_per_kg: float | None = None


def short_share(gaps: Gaps) -> float:
    """Estimated share of the full charge that is missing (negative: too much).

    Raises `OutOfRange` for a rated subcooling of zero or less: then there is no formula.
    """
    if not gaps.rated_subcooling_k > 0:
        raise OutOfRange("Without a rated subcooling above zero there is no first estimate.", value=gaps.rated_subcooling_k)
    scale = gaps.rated_subcooling_k / ((1.0 - ALPHA_0) * LIQUID_SHARE)
    return -(gaps.subcooling_gap_k - KAPPA * gaps.superheat_gap_k) / scale


def own_slope_k_per_kg(history: Sequence[Answered]) -> float | None:
    """Least-squares slope of the judging difference over charge, when at least two charges were read."""
    if len(history) < 2:
        return None
    mean_m = sum(p.inside_kg for p in history) / len(history)
    mean_v = sum(p.value_k for p in history) / len(history)
    spread = sum((p.inside_kg - mean_m) ** 2 for p in history)
    if spread < LEAST_ANSWER_KG**2:
        return None
    return sum((p.inside_kg - mean_m) * (p.value_k - mean_v) for p in history) / spread


def next_step(
    gaps: Gaps,
    history: Sequence[Answered],
    target_k: float,
    rising: bool,
    plan_kg: float,
    inside_kg: float,
    profile: Profile,
) -> TrimStep:
    """The next bounded step for a charge that was weighed in.

    `rising` says whether the judging difference rises with charge (subcooling) or falls (superheat).
    Step = share of the gap, at most the step limit of the plan; outward of the cap: stop.
    """
    share = short_share(gaps)
    slope = own_slope_k_per_kg(history)
    wanted = profile.value("trim.gap_share") * share * plan_kg
    if slope is not None:
        if (slope > 0) != rising:
            return TrimStep(0.0, True, "trim.no_answer", share, False, slope)
        wanted = profile.value("trim.gap_share") * (target_k - history[-1].value_k) / slope
    step_limit = profile.value("trim.step_share") * plan_kg
    limited = abs(wanted) > step_limit
    step = max(-step_limit, min(step_limit, wanted))
    cap = profile.value("trim.cap_share") * plan_kg
    net = inside_kg - plan_kg
    outward = step * net >= 0
    if outward and abs(net) >= cap - 1e-9:
        return TrimStep(0.0, True, "trim.cap", share, False, slope)
    if outward and abs(net + step) > cap:
        step, limited = (cap - abs(net)) * (1 if step > 0 else -1), True
    return TrimStep(step, False, "trim.step", share, limited, slope)
