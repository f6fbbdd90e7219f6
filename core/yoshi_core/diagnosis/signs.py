"""Ranking by signs, where no signatures were learned: heating, refrigeration, one port, a loop.

Each figure is low, usual or high against a band of the practice profile; each cause moves each figure the way
the trade's signature table says (common practice, no source). Coarser than `rank`, and said to be.
"""

from collections.abc import Mapping, Sequence
from math import fsum, log
from typing import Literal

from yoshi_core.diagnosis.causes import CAUSES, ONLY_FOR, Check, spoken
from yoshi_core.diagnosis.observed import Family
from yoshi_core.diagnosis.rank import SHOWN_SHARE, Ranked, beside, held_back, next_check, shares_of
from yoshi_core.frozen import dataclass
from yoshi_core.message import Message, headline, joined
from yoshi_core.units.display import Amount

Sign = Literal["-", "=", "+"]
SIGNS: tuple[Sign, ...] = ("-", "=", "+")
LIKE, NEAR, FAR = 0.7, 0.2, 0.05
WORDS: Mapping[Sign, str] = {"-": "low", "=": "usual", "+": "high"}

# suction, head, superheat, subcooling, split, power; "~" is any sign.
TABLE: Mapping[str, Mapping[str, str]] = {
    "healthy": {"suction": "=", "head": "=", "superheat": "=", "subcooling": "=", "split": "=", "power": "="},
    "undercharge": {"suction": "-", "head": "-", "superheat": "+", "subcooling": "-", "split": "-", "power": "-"},
    "overcharge": {"suction": "=+", "head": "+", "superheat": "=-", "subcooling": "+", "split": "~", "power": "+"},
    "liquid_restriction": {"suction": "-", "head": "-=", "superheat": "+", "subcooling": "+=", "split": "-", "power": "-"},
    "valve_starving": {"suction": "-", "head": "-=", "superheat": "+", "subcooling": "+=", "split": "-", "power": "-"},
    "valve_flooding": {"suction": "+", "head": "~", "superheat": "-", "subcooling": "-=", "split": "~", "power": "+"},
    "orifice_large": {"suction": "+", "head": "~", "superheat": "-", "subcooling": "-", "split": "~", "power": "+"},
    "orifice_small": {"suction": "-", "head": "~", "superheat": "+", "subcooling": "+", "split": "~", "power": "-"},
    "low_airflow": {"suction": "-", "head": "-=", "superheat": "-=", "subcooling": "=+", "split": "+=", "power": "-="},
    "condenser_air": {"suction": "+=", "head": "+", "superheat": "-=", "subcooling": "~", "split": "-=", "power": "+"},
    "non_condensables": {"suction": "=+", "head": "+", "superheat": "~", "subcooling": "+", "split": "~", "power": "+"},
    "other_refrigerant": {"suction": "~", "head": "~", "superheat": "~", "subcooling": "~", "split": "~", "power": "~"},
    "compressor_leak": {"suction": "+", "head": "-", "superheat": "~", "subcooling": "-=", "split": "-", "power": "-"},
    "reversing_leak": {"suction": "+", "head": "-", "superheat": "+", "subcooling": "-=", "split": "-", "power": "-="},
}
# Heating: the indoor coil condenses, the outdoor coil evaporates; air on either changes its role with it.
HEATING: Mapping[str, Mapping[str, str]] = {
    **TABLE,
    "low_airflow": {"suction": "=+", "head": "+", "superheat": "=", "subcooling": "~", "split": "+", "power": "+"},
    "condenser_air": {"suction": "-", "head": "-=", "superheat": "~", "subcooling": "=", "split": "-", "power": "-"},
    "liquid_restriction": {**TABLE["liquid_restriction"], "subcooling": "+"},
    "valve_starving": {**TABLE["valve_starving"], "subcooling": "+"},
}
HEATING_LABELS = {"condenser_air": "outdoor coil starved of air: dirty, iced, fan"}
LABELS = {
    "suction": "the evaporating temperature",
    "head": "the condensing temperature",
    "superheat": "superheat",
    "subcooling": "subcooling",
    "split": "the air temperature split",
    "power": "the compressor's current",
}
NEEDS_REVERSING = frozenset({"reversing_leak"})


@dataclass(frozen=True)
class Seen:
    """A figure that is low, usual or high, said in this job's numbers."""

    name: str
    sign: Sign
    message: Message


def held(name: str, value: float, low: float, high: float, text: str, quantity: str = "temperature_delta") -> Seen:
    """A figure held against its band, SI; `{value}`, `{low}` and `{high}` stand in the text."""
    sign: Sign = "-" if value < low - 1e-9 else "+" if value > high + 1e-9 else "="
    usual = {"temperature_delta": "about_delta", "temperature": "about_temperature"}.get(quantity, quantity)
    amounts = {"value": Amount(value, quantity), "low": Amount(low, usual), "high": Amount(high, usual)}
    return Seen(name, sign, Message(text, amounts))


@dataclass(frozen=True)
class BySigns:
    """All causes that fit, best first, and the check that separates the leaders."""

    ranked: tuple[Ranked, ...]
    next_check: Check | None


def rank_by_signs(
    seen: Sequence[Seen],
    family: Family,
    checks: Mapping[str, str],
    *,
    heating: bool = False,
    reversing: bool = False,
    can_run: bool = True,
) -> BySigns:
    """Rank the causes of this family of metering devices by the signs seen and the checks done.

    `reversing`: the unit has a reversing valve. `can_run`: false where it is kept off, so that checks on a
    running unit are not offered.
    """
    table, labels = (HEATING, HEATING_LABELS) if heating else (TABLE, {})
    possible = [c for c in table if ONLY_FOR.get(c, family) == family and (reversing or c not in NEEDS_REVERSING)]
    weights = {cause: log(CAUSES[cause].prior) + fsum(log(_fit(item.sign, table[cause][item.name])) for item in seen) for cause in possible}
    shares = held_back(shares_of(weights, checks), checks)
    ranked = tuple(
        Ranked(cause, labels.get(cause, CAUSES[cause].label), share, *beside(spoken(cause, checks), _reasons(seen, table[cause])))
        for share, cause in shares
        if share >= SHOWN_SHARE
    )
    return BySigns(ranked, next_check(shares, family, checks, can_run=can_run))


def _fit(sign: Sign, expected: str) -> float:
    """How likely a sign is under a cause; a usual figure is near to either side, the other side is far."""
    if expected == "~":
        return 1.0 / 3.0
    spread = {s: LIKE if s in expected else NEAR if s == "=" or "=" in expected else FAR for s in SIGNS}
    return spread[sign] / fsum(spread.values())


def _reasons(seen: Sequence[Seen], row: Mapping[str, str]) -> tuple[tuple[Message, ...], tuple[Message, ...]]:
    speaks_for, against = [], []
    for item in seen:
        expected = row[item.name]
        if expected == "~":
            continue
        if item.sign in expected:
            if item.sign != "=" or expected == "=":
                speaks_for.append(item.message)
            continue
        wanted = tuple(WORDS[s] for s in SIGNS if s in expected)
        makes = headline("This fault makes {reading} {wanted:or}.", reading=LABELS[item.name], wanted=wanted)
        against.append(joined(item.message, makes))
    return tuple(speaks_for), tuple(against)
