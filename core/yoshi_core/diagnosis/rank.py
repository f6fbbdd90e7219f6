"""Ranking: how well each cause's known cases explain the readings, and what to check next."""

import json
import pkgutil
from collections.abc import Mapping, Sequence
from functools import lru_cache
from math import exp, fsum, inf, log

from yoshi_core.diagnosis.causes import CANNOT, CAUSES, CHECKS, DANGEROUS, ONLY_FOR, Check, factor, spoken
from yoshi_core.diagnosis.observed import FEATURES, Derived, Family, Observed, derive, impossible
from yoshi_core.errors import InvalidInput
from yoshi_core.frozen import dataclass
from yoshi_core.message import Message, sentence
from yoshi_core.running.targets import formula_superheat_k
from yoshi_core.units.display import Amount
from yoshi_core.units.quantities import FAHRENHEIT_K, ZERO_FAHRENHEIT_K

TYPICAL_SUBCOOLING_K = 10.0 * FAHRENHEIT_K
TYPICAL_SUPERHEAT_K = 10.0 * FAHRENHEIT_K
LEAST_SUPERHEAT_K = 2.0 * FAHRENHEIT_K
DRY_BULB_OVER_WET_K = 13.0 * FAHRENHEIT_K
POWER_SCALE = 10.0
TAIL = 4.0
HALF = TAIL**-0.5
POWER = -0.5 * (TAIL + 1.0)
SHOWN_SHARE = 0.015
SPEAKS = 1.0
# By reliability on cases of another seed than these were set on (bench/diagnosis_study.py): what is called eight in ten is right in eight of ten.
BELIEVED, NO_WEATHER = 1.1, 0.77
ANYTHING = 0.02  # of the weight belongs to what nobody thought of
UNLIKE = 0.42  # one known case in two hundred lies farther from all others than that
APART = 0.05  # two causes that readings cannot tell apart stand this far from their mean
# Always shown beside the leader, with the check that excludes them: the mistakes people make with it.
LOOK_ALIKES: Mapping[str, frozenset[str]] = {
    "overcharge": frozenset({"condenser_air", "non_condensables"}),
    "condenser_air": frozenset({"overcharge", "non_condensables"}),
    "non_condensables": frozenset({"overcharge", "condenser_air"}),
    "undercharge": frozenset({"liquid_restriction", "low_airflow"}),
    "liquid_restriction": frozenset({"undercharge"}),
    "low_airflow": frozenset({"undercharge"}),
}
WEIGHED = {
    "undercharge": sentence("Recover and weigh: the scale decides."),
    "overcharge": sentence("Recover and weigh: the scale decides."),
}
LABELS = {
    "evaporating": "evaporating",
    "over_outdoor": "condensing over outdoor",
    "superheat": "superheat",
    "subcooling": "subcooling",
    "split": "split",
    "power": "power over rated",
    "standing": "standing saturation",
}

Reasons = tuple[tuple[Message, ...], tuple[Message, ...]]


@dataclass(frozen=True)
class Signatures:
    """What was learned: expectation of a healthy unit by conditions, kernel widths, and known cases of each cause.

    `cases` are deviations in widths; `bands` the middle four fifths of each, in the feature's own unit.
    """

    expectation: list[list[float]]
    widths: list[float]
    cases: Mapping[str, list[list[float]]]
    bands: Mapping[str, list[tuple[float, float]]]


@dataclass(frozen=True)
class Ranked:
    """A cause with its share of all weight, what speaks for and against it, from this job's numbers."""

    cause: str
    label: str
    share: float
    speaks_for: tuple[Message, ...]
    speaks_against: tuple[Message, ...]


@dataclass(frozen=True)
class Diagnosis:
    """All causes that fit, best first; `missing` readings that would help; `impossible` findings; the next check.

    `unlike`: no case that was learned is near these readings; then the ranking is a hint at most.
    """

    derived: Derived
    ranked: tuple[Ranked, ...]
    impossible: tuple[Message, ...]
    missing: tuple[str, ...]
    next_check: Check | None
    unlike: bool = False


@lru_cache(maxsize=4)
def signatures(family: Family) -> Signatures:
    """The learned signatures of a family of metering devices."""
    plain = json.loads(pkgutil.get_data("yoshi_core.diagnosis", "signatures.json") or b"{}")[family]
    widths = plain["widths"]
    cases = {cause: [[v / w for v, w in zip(case, widths, strict=True)] for case in some] for cause, some in plain["cases"].items()}
    bands = {cause: [_band(list(column)) for column in zip(*some, strict=True)] for cause, some in plain["cases"].items()}
    return Signatures(plain["expectation"], widths, cases, bands)


def _band(values: list[float]) -> tuple[float, float]:
    values.sort()
    return values[len(values) // 10], values[-1 - len(values) // 10]


def features(observed: Observed, derived: Derived) -> list[float | None]:
    """The numbers that are compared, less what the plate or the formula gives for them; None where not read."""
    superheat = derived.superheat_k
    if superheat is not None:
        wanted = TYPICAL_SUPERHEAT_K
        if observed.family == "fixed":
            outdoor, wet, _ = _conditions_k(observed)
            wanted = max(formula_superheat_k(wet, outdoor), LEAST_SUPERHEAT_K)  # an expectation for ranking, never a target to charge to
        superheat -= wanted
    subcooling = derived.subcooling_k
    if subcooling is not None:
        target = observed.subcooling_target_k
        subcooling -= TYPICAL_SUBCOOLING_K if target is None else target
    power = None if observed.power_share is None else POWER_SCALE * observed.power_share
    return [derived.evaporating_k, derived.over_outdoor_k, superheat, subcooling, derived.split_k, power, derived.standing_k]


def _conditions_k(observed: Observed) -> tuple[float, float, float]:
    """Outdoor, return wet bulb and return dry bulb in K; the usual where not read."""
    outdoor = observed.outdoor_k
    if outdoor is None:
        outdoor = 85.0 * FAHRENHEIT_K + ZERO_FAHRENHEIT_K
    wet, dry = observed.return_wet_bulb_k, observed.return_k
    if wet is None:
        wet = (dry - DRY_BULB_OVER_WET_K) if dry is not None else 65.0 * FAHRENHEIT_K + ZERO_FAHRENHEIT_K
    return outdoor, wet, dry if dry is not None else wet + DRY_BULB_OVER_WET_K


def basis(observed: Observed) -> list[float]:
    """The conditions as the expectation is linear in them: 1, outdoor, wet bulb, dry bulb, each about its usual value."""
    outdoor, wet, dry = ((k - ZERO_FAHRENHEIT_K) / FAHRENHEIT_K for k in _conditions_k(observed))
    return [1.0, (outdoor - 95.0) / 10.0, (wet - 67.0) / 5.0, (dry - 80.0) / 5.0]


def deviations(observed: Observed, derived: Derived, learned: Signatures) -> list[float | None]:
    """Each feature less what a healthy unit shows in this weather."""
    row = basis(observed)
    expected = [fsum(c * learned.expectation[n][f] for n, c in enumerate(row)) for f in range(len(FEATURES))]
    return [None if value is None else value - e for value, e in zip(features(observed, derived), expected, strict=True)]


def diagnose(observed: Observed) -> Diagnosis:
    """Rank every cause for this family by how its known cases explain the readings, the checks taken in.

    At least suction and liquid pressure with one line temperature are needed. Raises `InvalidInput` when they
    are missing or a check is unknown, and what `derive` raises.
    """
    derived = derive(observed)
    if derived.evaporating_k is None or derived.condensing_k is None or (derived.superheat_k is None and derived.subcooling_k is None):
        raise InvalidInput("Both pressures and at least one line temperature are needed before anything can be said.", path="/suction_pa")
    check_results(observed.checks)
    learned = signatures(observed.family)
    seen = deviations(observed, derived, learned)
    used = tuple(n for n, value in enumerate(seen) if value is not None)
    point = tuple(0.0 if value is None else HALF * value / learned.widths[n] for n, value in enumerate(seen))
    sure = _sureness(observed)
    known = _weights(observed.family, used, point)
    weights = {cause: sure * weight for cause, weight, _ in known}
    shares = _never_certain(shares_of(weights, observed.checks))
    if derived.standing_k is None:
        shares = held_back(shares, observed.checks)
    twins = LOOK_ALIKES.get(shares[0][1], frozenset())
    ranked = tuple(
        Ranked(cause, CAUSES[cause].label, share, *beside(spoken(cause, observed.checks), _reasons(seen, learned, cause)))
        for share, cause in shares
        if share >= SHOWN_SHARE or cause in twins
    )
    read = {"load_flow": CANNOT} if derived.standing_k is None else {"load_flow": CANNOT, "standing": CANNOT}
    done = {**read, **observed.checks}
    missing = tuple(LABELS[name] for name, value in zip(FEATURES, seen, strict=True) if value is None)
    apart = log(min(nearest for _, _, nearest in known)) / len(used)  # the mean of ln(1 + z²/4) to the nearest known case
    return Diagnosis(derived, ranked, impossible(observed, derived), missing, next_check(shares, observed.family, done), apart > UNLIKE)


def beside(checked: Reasons, read: Reasons) -> Reasons:
    """For and against, what was checked before what was read: a check says more."""
    return (*checked[0], *read[0]), (*checked[1], *read[1])


def _sureness(observed: Observed) -> float:
    """How much of what the readings say is believed: less where the weather they are held against was not read."""
    return BELIEVED if observed.outdoor_k is not None else NO_WEATHER


def _never_certain(shares: list[tuple[float, str]]) -> list[tuple[float, str]]:
    """Shares with a little of every cause in them: none is ever at nought, none at a hundred."""
    even = ANYTHING / len(shares)
    return [((1.0 - ANYTHING) * share + even, cause) for share, cause in shares]


def shares_of(weights: Mapping[str, float], checks: Mapping[str, str]) -> list[tuple[float, str]]:
    """Each cause's share of all weight once the results of checks are taken in, greatest first; `weights` are logs."""
    after = {
        cause: weight + fsum(log(factor(CHECKS[check_id], result, cause)) for check_id, result in checks.items())
        for cause, weight in weights.items()
    }
    top = max(after.values())
    raised = {cause: exp(weight - top) for cause, weight in after.items()}
    total = fsum(raised.values())
    return sorted(((weight / total, cause) for cause, weight in raised.items()), reverse=True)


def held_back(shares: list[tuple[float, str]], checks: Mapping[str, str]) -> list[tuple[float, str]]:
    """Shares in which air in the system does not lead: running it looks like too much charge, and a standing pressure alone tells it apart.

    Where no standing check said that it stands above saturation, the best of its look-alikes stands before it.
    """
    if len(shares) < 2 or shares[0][1] != "non_condensables" or checks.get("standing") == "above":
        return shares
    place = next((n for n, (_, cause) in enumerate(shares) if cause in LOOK_ALIKES["non_condensables"]), 1)
    (top, air), (other, twin) = shares[0], shares[place]
    mean = 0.5 * (top + other)
    rest = [row for n, row in enumerate(shares) if n not in {0, place}]
    return [(mean * (1.0 + APART), twin), *sorted([(mean * (1.0 - APART), air), *rest], reverse=True)]


def check_results(checks: Mapping[str, str]) -> None:
    """Raise `InvalidInput` for a check that is none, or a result it does not have."""
    for check_id, result in checks.items():
        if check_id not in CHECKS:
            raise InvalidInput(
                "There is no check called {check_id}; there are {known}.",
                words={"check_id": check_id, "known": tuple(CHECKS)},
                path=f"/checks/{check_id}",
            )
        if result != CANNOT and result not in CHECKS[check_id].results:
            known = (*CHECKS[check_id].results, CANNOT)
            raise InvalidInput(
                "{check_id} has the results {known}; {result} is none.",
                words={"check_id": check_id, "known": known, "result": result},
                path=f"/checks/{check_id}",
            )


@lru_cache(maxsize=32)
def _cases_by(family: Family, read: tuple[int, ...]) -> Mapping[str, tuple[tuple[float, ...], ...]]:
    """The known cases of each cause, halved as `_fit` wants them; zero in every feature that was not read."""
    return {
        cause: tuple(tuple(HALF * v if n in read else 0.0 for n, v in enumerate(case)) for case in some)
        for cause, some in signatures(family).cases.items()
    }


@lru_cache(maxsize=256)
def _weights(family: Family, read: tuple[int, ...], point: tuple[float, ...]) -> tuple[tuple[str, float, float], ...]:
    """Log weight of each cause by the readings alone, and how near its nearest case is; kept, since a job is judged again at every entry elsewhere in it."""
    found = []
    for cause, cases in _cases_by(family, read).items():
        weight, nearest = _fit(point, cases)
        found.append((cause, log(CAUSES[cause].prior) + weight, nearest))
    return tuple(found)


def _fit(point: tuple[float, ...], cases: tuple[tuple[float, ...], ...]) -> tuple[float, float]:
    """Log of the mean likelihood over the known cases, and the nearest of them as `Π(1 + z²/4)`; tails are long, so that one wild reading does not decide alone.

    Student's t with four degrees: `Π(1 + z²/4)^-2.5`. Written out over the seven features, since this is where the time goes.
    """
    a, b, c, d, e, f, g = point
    total, nearest = 0.0, inf
    for u, v, w, x, y, z, s in cases:
        apart = (
            (1.0 + (a - u) * (a - u))
            * (1.0 + (b - v) * (b - v))
            * (1.0 + (c - w) * (c - w))
            * (1.0 + (d - x) * (d - x))
            * (1.0 + (e - y) * (e - y))
            * (1.0 + (f - z) * (f - z))
            * (1.0 + (g - s) * (g - s))
        )
        total += apart**POWER
        nearest = min(nearest, apart)
    most = log(total) if total > 0.0 else POWER * log(nearest)  # so far from all of them that every share is below the smallest number
    return most - log(len(cases)), nearest


def _reasons(seen: Sequence[float | None], learned: Signatures, cause: str) -> tuple[tuple[Message, ...], tuple[Message, ...]]:
    """What this cause does to each reading, held against what is read: within the band of its cases, or outside."""
    speaks_for, against = [], []
    for n, value in enumerate(seen):
        if value is None:
            continue
        low, high = learned.bands[cause][n]
        width = learned.widths[n]
        fits = low - SPEAKS * width <= value <= high + SPEAKS * width
        moved = abs(value) > width or abs(0.5 * (low + high)) > width
        if fits and moved:
            speaks_for.append(_said(FEATURES[n], value, low, high))
        elif not fits:
            against.append(_said(FEATURES[n], value, low, high))
    return tuple(speaks_for), tuple(against)


def _said(name: str, value: float, low: float, high: float) -> Message:
    scale, quantity = (1.0 / POWER_SCALE, "fraction") if name == "power" else (1.0, "temperature_delta")
    known = "about_delta" if quantity == "temperature_delta" else quantity
    amounts = {"value": Amount(abs(value) * scale, quantity), "low": Amount(low * scale, known), "high": Amount(high * scale, known)}
    text = (
        sentence("{reading:cap} {value} above a healthy unit; with this fault {low} to {high}")
        if value >= 0
        else sentence("{reading:cap} {value} below a healthy unit; with this fault {low} to {high}")
    )
    return Message(text, amounts, {"reading": LABELS[name]})


def next_check(shares: Sequence[tuple[float, str]], family: Family, done: Mapping[str, str], *, can_run: bool = True) -> Check | None:
    """The check not yet done that separates the leaders most a minute; None when one cause stands alone.

    `can_run`: false where the unit is kept off, so that only checks on a standing unit are offered.
    """
    leaders = [(share, cause) for share, cause in shares[:4] if share >= SHOWN_SHARE]
    if len(leaders) < 2 or leaders[0][0] > 0.97:
        return None
    total = fsum(share for share, _ in leaders)
    best, best_gain = None, 0.0
    for check in CHECKS.values():
        if check.id in done or not _applies(check, family) or (check.needs_running and not can_run):
            continue
        gain = _separates(check, [(share / total, cause) for share, cause in leaders]) / check.minutes
        if check.id in DANGEROUS:
            gain *= 0.25
        if gain > best_gain:
            best, best_gain = check, gain
    return best


def _applies(check: Check, family: Family) -> bool:
    return check.id in _checks_for(family)


@lru_cache(maxsize=4)
def _checks_for(family: Family) -> frozenset[str]:
    """Ids of the checks that name a cause this family can have."""
    return frozenset(check.id for check in CHECKS.values() if _names_one_of(check, family))


def _names_one_of(check: Check, family: Family) -> bool:
    named = {cause for row in check.factors.values() for cause in row if cause != "*"}
    return any(ONLY_FOR.get(cause, family) == family for cause in named)


def outcomes(check: Check, ranked: Sequence[Ranked]) -> dict[str, str]:
    """What each result of a check would mean: the label of the cause that then leads."""
    found = {}
    for result in check.results:
        lead = max(ranked, key=lambda r: r.share * factor(check, result, r.cause))
        found[result] = lead.label
    return found


def excluded_by(cause: str, family: Family, done: Mapping[str, str]) -> str:
    """The check, not yet done, that can speak against a cause by name; the scale where charge itself is the cause."""
    left = (text for check_id, text in _against(cause, family) if check_id not in done)
    return next(left, WEIGHED.get(cause, ""))


@lru_cache(maxsize=64)
def _against(cause: str, family: Family) -> tuple[tuple[str, str], ...]:
    """Checks that can speak against a cause by name, the strongest first: id and text."""
    found = []
    for check in CHECKS.values():
        lowest = min((row[cause] for row in check.factors.values() if cause in row), default=1.0)
        if lowest < 1.0 and _applies(check, family):
            found.append((lowest, check.id, check.text))
    return tuple((check_id, text) for _, check_id, text in sorted(found))


def _separates(check: Check, leaders: Sequence[tuple[float, str]]) -> float:
    """Expected gain in certainty: how much the leader's share would rise over the results, weighed by how likely each is."""
    gain = 0.0
    odds = {result: fsum(share * _chance(check, result, cause) for share, cause in leaders) for result in check.results}
    whole = fsum(odds.values())
    for result, chance in odds.items():
        after = [share * factor(check, result, cause) for share, cause in leaders]
        gain += chance / whole * (max(after) / fsum(after) - leaders[0][0])
    return gain


def _chance(check: Check, result: str, cause: str) -> float:
    """How likely a result is when a cause is true, from its factors."""
    values = {name: factor(check, name, cause) for name in check.results}
    return values[result] / fsum(values.values())
