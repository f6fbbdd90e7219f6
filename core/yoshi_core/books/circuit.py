"""A circuit's charge over the years: what was added and taken out, how fast it loses, and when it is looked at next.

Rates by 40 CFR 82.152, thresholds by 82.157, intervals by EU 517/2014 (all from memory). Rules differ by place: the
practice profile chooses, and local law prevails.
"""

from collections.abc import Sequence
from datetime import date, datetime, timedelta
from typing import Literal

from yoshi_core import refrigerants
from yoshi_core.errors import CoreError
from yoshi_core.findings.verdict import Word
from yoshi_core.frozen import dataclass
from yoshi_core.leaks import rate as leak_rate
from yoshi_core.leaks.rate import Addition
from yoshi_core.message import Message, headline
from yoshi_core.profile.profile import Profile
from yoshi_core.units.display import Amount

Kind = Literal["added", "recovered"]
NOTHING_KG = 1e-3
COOLING_KINDS = frozenset({"split", "heat_pump", "packaged", "ductless", "vrf", "chiller"})
LIGHT_COOLING_KINDS = frozenset({"split", "heat_pump", "packaged", "ductless"})
TONNES = 1000.0


@dataclass(frozen=True)
class Event:
    """A change of a circuit's charge in kg. `counts` is false right after an installation or a retrofit; `refrigerant` is empty where the book does not say."""

    at: datetime
    kind: Kind
    kg: float
    counts: bool = True
    refrigerant: str = ""


@dataclass(frozen=True)
class History:
    """What the history says; None where nothing can be said.

    `next_check` is a day, year-month-day. `rate` is the share of the full charge lost a year by the profile's rule; `limit` the threshold where one applies.
    """

    full: Amount | None
    balance: Amount
    rate: Amount | None
    limit: Amount | None
    co2e: Amount | None
    next_check: str | None
    word: Word
    message: Message


def additions(events: Sequence[Event]) -> list[Addition]:
    """Losses made good, by day: what was recovered before goes against what went in, so a recharge is no loss.

    The first filling of a circuit, with nothing recovered before it, does not count: it was empty.
    """
    found: list[Addition] = []
    credit = 0.0
    seen = False
    for event in sorted(events, key=lambda e: e.at):
        if event.kind == "recovered":
            credit += event.kg
            seen = True
            continue
        back = min(credit, event.kg)
        credit -= back
        net = event.kg - back
        if net > NOTHING_KG:
            found.append(Addition(event.at.date(), net, event.counts and seen))
        seen = True
    return found


def since_change(events: Sequence[Event], refrigerant: str | None) -> list[Event]:
    """Events after the last one of another refrigerant, oldest first."""
    ordered = sorted(events, key=lambda e: e.at)
    others = [n for n, event in enumerate(ordered) if event.refrigerant and refrigerant and event.refrigerant != refrigerant]
    return ordered[others[-1] + 1 :] if others else ordered


def history(
    events: Sequence[Event],
    full_kg: float | None,
    refrigerant: str | None,
    kind: str | None,
    profile: Profile,
    today: date,
    last_check: date | None,
) -> History:
    """The history of one circuit as the profile's rules read it; what was before a change of refrigerant balances nothing."""
    events = since_change(events, refrigerant)
    balance = sum(e.kg if e.kind == "added" else -e.kg for e in events)
    full = None if not full_kg else Amount(full_kg, "mass")
    co2e = _co2e_kg(full_kg, refrigerant)
    check = _next_check(co2e, last_check, today) if profile.choice("leak.checks") == "co2e" else None
    rate = _rate(events, full_kg, profile, today)
    limit = _limit(full_kg, refrigerant, kind, profile)
    usual = profile.value("leak.limit_cooling" if kind in COOLING_KINDS else "leak.limit_commercial")
    word, message = _said(rate, limit, usual, check, today)
    return History(
        full,
        Amount(balance, "mass"),
        None if rate is None else Amount(rate, "yearly_loss"),
        None if limit is None else Amount(limit, "yearly_loss"),
        None if co2e is None else Amount(co2e, "co2e"),
        None if check is None else check.isoformat(),
        word,
        message,
    )


def _rate(events: Sequence[Event], full_kg: float | None, profile: Profile, today: date) -> float | None:
    counted = additions(events)
    if not full_kg or not any(a.counts for a in counted):
        return None
    try:
        if profile.choice("leak.rate") == "rolling":
            return leak_rate.rolling_share(counted, full_kg, today)
        return leak_rate.annualized_share(counted, full_kg)
    except CoreError:
        return None


def _limit(full_kg: float | None, refrigerant: str | None, kind: str | None, profile: Profile) -> float | None:
    """The threshold; none under the size where the rule begins, nor for light comfort cooling."""
    if not full_kg or refrigerant is None or not refrigerants.is_known(refrigerant):
        return None
    if full_kg < profile.value("leak.from_charge") - 1e-9 or kind in LIGHT_COOLING_KINDS or kind == "vehicle":
        return None
    if refrigerants.get(refrigerant).gwp_ar4 <= profile.value("leak.from_gwp"):
        return None
    return profile.value("leak.limit_cooling" if kind in COOLING_KINDS else "leak.limit_commercial")


def _co2e_kg(full_kg: float | None, refrigerant: str | None) -> float | None:
    if not full_kg or refrigerant is None or not refrigerants.is_known(refrigerant):
        return None
    return full_kg * refrigerants.get(refrigerant).gwp_ar4


def _next_check(co2e_kg: float | None, last: date | None, today: date) -> date | None:
    """The next day of a leak check; today where none is on record."""
    days = None if co2e_kg is None else check_days(co2e_kg)
    if days is None:
        return None
    return today if last is None else last + timedelta(days=days)


def check_days(co2e_kg: float) -> int | None:
    """Days between leak checks for a charge in kg of CO₂ equivalent: from 5 t yearly, 50 t half-yearly, 500 t quarterly; None below.

    EU 517/2014 (from memory); places differ.
    """
    if co2e_kg < 5 * TONNES:
        return None
    return 365 if co2e_kg < 50 * TONNES else 182 if co2e_kg < 500 * TONNES else 91


def _said(rate: float | None, limit: float | None, usual: float, check: date | None, today: date) -> tuple[Word, Message]:
    """`usual` is the threshold of its kind, also where no law applies it: a system that loses more leaks, whatever its size."""
    if rate is not None and limit is not None and rate > limit:
        amounts = {"rate": Amount(rate, "yearly_loss"), "limit": Amount(limit, "yearly_loss")}
        return "Stop", Message(
            "It loses {rate} of its charge a year; over {limit} it is repaired within 30 days and the repair is tested.", amounts
        )
    if check is not None and check < today:
        return "Wait", headline("Its leak check was due {check}.", check=f"{check:%d %b %Y}")
    if rate is not None and rate > usual:
        return "Wait", Message(
            "It loses {rate} of its charge a year. No limit applies to it, but it leaks: find out where.",
            {"rate": Amount(rate, "yearly_loss")},
        )
    if rate is not None:
        return "Holds", Message("It loses {rate} of its charge a year.", {"rate": Amount(rate, "yearly_loss")})
    return "Open", Message("Nothing was added that counts, so there is no rate.")
