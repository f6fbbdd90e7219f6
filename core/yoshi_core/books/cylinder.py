"""What a cylinder's account says: contents, room, what can leave as liquid, and what must not be done with it."""

import re
from datetime import date, datetime
from typing import Literal

from yoshi_core import refrigerants
from yoshi_core.books import ownership
from yoshi_core.charge import cylinders, recovery
from yoshi_core.errors import InvalidInput
from yoshi_core.findings.verdict import Word
from yoshi_core.frozen import dataclass
from yoshi_core.message import Message, headline
from yoshi_core.profile.profile import Profile
from yoshi_core.units.display import Amount

Kind = Literal["new", "recovery"]
BOOK_KG = 1e-6
_MONTH = re.compile(r"^(\d{4})-(0[1-9]|1[0-2])$")


@dataclass(frozen=True)
class Card:
    """What is stamped on a cylinder and known of it. `refrigerant` is empty while nothing is in it.

    `evacuated`: pulled to a vacuum and purged before its first use. `mixed`: two refrigerants met in it.
    """

    code: str
    kind: Kind
    refrigerant: str
    owner: str
    tare_kg: float
    water_capacity_kg: float | None
    retest: str = ""
    evacuated: bool = False
    oily: bool = False
    mixed: bool = False


@dataclass(frozen=True)
class Account:
    """A cylinder as it stands; masses in kg, None where the water capacity or the refrigerant is not known.

    `usable_kg` leaves as liquid, `heel_kg` stays as vapour; `liquid_full_k` is where liquid alone would fill it.
    """

    word: Word
    badge: str
    reason: Message
    gross_kg: float
    net_kg: float
    limit_kg: float | None
    room_kg: float | None
    stop_gross_kg: float | None
    heel_kg: float | None
    usable_kg: float | None
    liquid_full_k: float | None


def read_retest(text: str) -> str:
    """A retest month as year-month; empty where there is none. Raises `InvalidInput`."""
    text = text.strip()
    if text and not _MONTH.match(text):
        raise InvalidInput("Write the retest date as year and month, such as 2029-03.", path="/retest")
    return text


def retest_due(retest: str, today: date) -> bool:
    """Whether a retest month, written year-month, has passed; false where none is stamped."""
    found = _MONTH.match(retest)
    return found is not None and (int(found[1]), int(found[2])) < (today.year, today.month)


def account(card: Card, net_kg: float, profile: Profile, now: datetime) -> Account:
    """The account of a cylinder that holds `net_kg` by the sum of its movements."""
    known = card.refrigerant != "" and refrigerants.is_known(card.refrigerant)
    water = card.water_capacity_kg
    heel = usable = limit = hot = None
    if known and water is not None:
        heel = min(max(net_kg, 0.0), cylinders.heel_kg(card.refrigerant, water, profile.value("cylinder.heel_k")))
        usable = max(net_kg - heel, 0.0)
        limit = cylinders.fill_limit_kg(card.refrigerant, water, _share(card, profile))
        hot = recovery.liquid_full_k(card.refrigerant, water, net_kg) if net_kg > BOOK_KG else None
    room = None if limit is None or card.kind == "new" else max(limit - net_kg, 0.0)
    word, badge, reason = _standing(card, net_kg, limit, hot, profile, now)
    stop = None if limit is None or card.kind == "new" else card.tare_kg + limit
    return Account(word, badge, reason, card.tare_kg + net_kg, net_kg, limit, room, stop, heel, usable, hot)


def _share(card: Card, profile: Profile) -> float:
    return profile.value("recover.oily_fill" if card.oily else "cylinder.fill")


def _standing(
    card: Card, net_kg: float, limit_kg: float | None, hot_k: float | None, profile: Profile, now: datetime
) -> tuple[Word, str, Message]:
    if card.mixed:
        return "Stop", "Mixed", Message("Two refrigerants met in it: reclaim or destruction only, and no limit is known.")
    if retest_due(card.retest, now):
        return (
            "Stop",
            "Retest due",
            headline("Its retest was due {retest}: it must not be filled. Empty it and send it.", retest=card.retest),
        )
    if net_kg < -BOOK_KG:
        return "Stop", "Below zero", Message("More went out of it than ever came in. Weigh it.")
    if card.kind == "recovery" and limit_kg is not None and net_kg > limit_kg + BOOK_KG:
        over = {"over": Amount(net_kg - limit_kg, "mass")}
        return (
            "Stop",
            "Over its limit",
            Message("{over} over what it may hold. Take that much out; liquid that fills it in the heat bursts it.", over),
        )
    if hot_k is not None and hot_k < profile.value("cylinder.hot"):
        return "Wait", "Hot van", Message("Liquid alone fills it at {hot}: keep it cool.", {"hot": Amount(hot_k, "temperature")})
    if card.kind == "new":
        return (
            ("Holds", "In use", Message("One-way: never refilled."))
            if net_kg > BOOK_KG
            else ("Wait", "Empty", Message("Empty. One-way: never refilled."))
        )
    if card.refrigerant == "" and net_kg <= BOOK_KG:
        if card.evacuated:
            return "Holds", "Ready", Message("Evacuated and empty: it takes any refrigerant, and then only that one.")
        return "Wait", "Needs vacuum", Message("Pull a vacuum and purge it before its first use, or air goes in with the charge.")
    if card.water_capacity_kg is None:
        return "Stop", "No limit known", Message("Its water capacity is not known, so no limit can be worked out: do not fill it.")
    if limit_kg is not None and limit_kg - net_kg < profile.value("recover.nearly_full") * limit_kg:
        return "Wait", "Nearly full", Message("{room} of room is left.", {"room": Amount(max(limit_kg - net_kg, 0.0), "mass")})
    return "Holds", "Room", Message("It takes more of the same refrigerant and owner.")


def may_take(card: Card, net_kg: float, mass_kg: float, refrigerant: str, owner: str, profile: Profile, now: datetime) -> None:
    """Raise `InvalidInput` where this much of this refrigerant must not go in."""
    if not mass_kg > 0.0:
        raise InvalidInput("What goes in is above zero; what leaves is booked the other way round.", path="/mass")
    if card.kind == "new":
        raise InvalidInput("{code} is a one-way cylinder: it is never refilled.", words={"code": card.code}, path="/to")
    if card.mixed:
        raise InvalidInput("{code} holds a mixture: nothing more goes in.", words={"code": card.code}, path="/to")
    if retest_due(card.retest, now):
        raise InvalidInput(
            "{code}: its retest was due {retest}; it must not be filled.", words={"code": card.code, "retest": card.retest}, path="/to"
        )
    if card.refrigerant and card.refrigerant != refrigerant:
        raise InvalidInput(
            "{code} holds {refrigerant}; {other} must not be mixed into it.",
            words={"code": card.code, "refrigerant": card.refrigerant, "other": refrigerant},
            path="/to",
        )
    if not card.refrigerant and not card.evacuated:
        raise InvalidInput(
            "{code} was not evacuated and purged yet: air would go in with the charge.", words={"code": card.code}, path="/to"
        )
    against = ownership.refused(
        ownership.stays(card.owner, owner),
        headline(
            "What is in {code} belongs to {its}, this to {other}: refrigerant of two owners is not mixed.",
            code=card.code,
            its=card.owner,
            other=owner,
        ),
    )
    if against is not None and net_kg > BOOK_KG:
        raise InvalidInput("{against}", words={"against": against}, path="/to")
    if card.water_capacity_kg is None or not refrigerants.is_known(refrigerant):
        raise InvalidInput(
            "No limit can be worked out for {code}: its water capacity or the refrigerant's table is missing.",
            words={"code": card.code},
            path="/to",
        )
    limit = cylinders.fill_limit_kg(refrigerant, card.water_capacity_kg, _share(card, profile))
    if net_kg + mass_kg > limit + BOOK_KG:
        room = Amount(max(limit - net_kg, 0.0), "mass")
        raise InvalidInput(
            "{code} has room for {room}; {mass} does not fit.",
            words={"code": card.code, "room": room, "mass": Amount(mass_kg, "mass")},
            path="/mass",
        )


def may_give(card: Card, net_kg: float, mass_kg: float) -> None:
    """Raise `InvalidInput` where this much is not in it."""
    if not mass_kg > 0.0:
        raise InvalidInput("What leaves is above zero; what comes back is booked the other way round.", path="/mass")
    if mass_kg > net_kg + BOOK_KG:
        raise InvalidInput(
            "{code} holds {net} by its book; {mass} cannot leave it. Weigh it first if the scale says otherwise.",
            words={"code": card.code, "net": Amount(max(net_kg, 0.0), "mass"), "mass": Amount(mass_kg, "mass")},
            path="/mass",
        )


def not_before(last_weighed: datetime | None, at: datetime, now: datetime) -> None:
    """Raise `InvalidInput` for a movement dated before the last weighing, which it would silently change, or in the future."""
    if at > now:
        raise InvalidInput("A movement cannot be dated in the future.", path="/at")
    if last_weighed is not None and at < last_weighed:
        raise InvalidInput(
            "It was weighed {at}, and the book agrees with the scale since. A movement before that cannot be added; weigh it again.",
            words={"at": f"{last_weighed:%d %b %Y %H:%M}"},
            path="/at",
        )
