"""How much to add or take next, so that a wrong guess stays small.

First step from the virtual-charge relation (Li & Braun, Purdue, from memory):
`m/m_rated − 1 = [(SC − SC*) − κ·(SH − SH*)]/K`, `K = SC*/((1 − α₀)·X)`, κ 0.4, α₀ 0.75, X 0.73.
Afterwards the unit's own answer to what was added.

What a degree is worth before the unit has answered: subcooling by the same relation; superheat by the
practice rig, where it moves 0.85 °F for 1 % of charge at no superheat and 0.019 °F less for each degree of it
(R-410A, R-22, R-407C and R-454B, outdoors 65 to 105 °F, wet bulb 60 to 73 °F: within 0.1 °F for 1 %).
"""

from collections.abc import Sequence

from yoshi_core.errors import OutOfRange
from yoshi_core.frozen import dataclass
from yoshi_core.profile.profile import Profile
from yoshi_core.units.quantities import FAHRENHEIT_K

KAPPA = 0.4
ALPHA_0 = 0.75
LIQUID_SHARE = 0.73
LEAST_ANSWER_KG = 1e-4
SUPERHEAT_AT_NONE = 85.0
SUPERHEAT_FADES = 1.9
SUPERHEAT_LEAST = 15.0


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


def first_slope_k_per_kg(rising: bool, value_k: float, rated_subcooling_k: float, plan_kg: float) -> float:
    """How far a kilogram moves the judging difference in K, before the unit has answered: subcooling rises, superheat falls.

    `value_k` is the superheat it is at. Raises `OutOfRange` for a plan or a rated subcooling of zero or less.
    """
    if not plan_kg > 0:
        raise OutOfRange("Without a planned charge above zero nothing is a share of it.", value=plan_kg)
    if rising:
        if not rated_subcooling_k > 0:
            raise OutOfRange("Without a rated subcooling above zero there is no first estimate.", value=rated_subcooling_k)
        return rated_subcooling_k / ((1.0 - ALPHA_0) * LIQUID_SHARE) / plan_kg
    fahrenheit = max(value_k, 0.0) / FAHRENHEIT_K
    return -max(SUPERHEAT_AT_NONE - SUPERHEAT_FADES * fahrenheit, SUPERHEAT_LEAST) * FAHRENHEIT_K / plan_kg


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
        if slope == 0.0 or (slope > 0) != rising:
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
