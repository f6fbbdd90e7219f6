"""Getting in again: links by which a password is set, passwords changed, sessions ended."""

import hashlib
import secrets
from base64 import b64encode
from typing import Any

from django.conf import settings
from django.core import signing
from django.db import transaction

from accounts import trail
from accounts.actions import second_factor
from accounts.mail import send
from accounts.models import Person, SignedIn
from accounts.passwords import check, shortest_for
from accounts.queries import shop_of
from accounts.retry import again_when_met
from yoshi_core.errors import InvalidInput
from yoshi_core.units.display import lasting

INVITED_S, RESET_S = 7 * 86_400, 3_600
SALTS = {"invitation": INVITED_S, "reset": RESET_S}
OLD_LINK = "This link is used or has run out. Ask for a new one."


def link_for(person: Person, purpose: str) -> str:
    """The path by which a person sets a password; good once, and until the password is another. Behind the #, so that no log keeps it."""
    return f"/password#{signing.dumps({'p': person.pk, 'm': _mark(person)}, salt=purpose, compress=True)}"


def _mark(person: Person) -> str:
    """Another once the password is, so that a link is good once."""
    return hashlib.sha256(f"{person.password} {person.is_active}".encode()).hexdigest()[:16]


def person_of_link(token: str) -> Person:
    """Whose link this is. Raises `InvalidInput` for one that is used or has run out."""
    for purpose, most_s in SALTS.items():
        try:
            plain = signing.loads(token, salt=purpose, max_age=most_s)
        except signing.BadSignature:
            continue
        person = Person.objects.select_related("shop").filter(pk=plain["p"], is_active=True).first()
        if person is not None and _mark(person) == plain["m"]:
            return person
    raise InvalidInput(OLD_LINK, path="/token")


def said_of_link(token: str) -> dict[str, Any]:
    """What the page of a link says: whose account, and how long a password has to be."""
    person = person_of_link(token)
    shop = shop_of(person)
    shortest = shortest_for(person, second_factor=second_factor.is_on(person))
    return {"username": person.username, "name": person.shown_name, "shop": shop.name, "shortest": shortest}


@again_when_met
@transaction.atomic
def set_by_link(token: str, password: str) -> Person:
    """Set the password of the link's account and end all its sessions. Raises `InvalidInput`."""
    person = Person.objects.select_for_update().get(pk=person_of_link(token).pk)
    person_of_link(token)  # again, now that nobody else can use it
    _set(person, password)
    end_sessions(person)
    trail.note(shop_of(person), person, "set a password by a link", person.username)
    return person


@again_when_met
@transaction.atomic
def change_password(person: Person, old: str, new: str, here: str) -> Person:
    """Another password for one's own; every session but this one ends. Raises `InvalidInput`."""
    fresh = Person.objects.select_for_update().get(pk=person.pk)
    if not fresh.check_password(old):
        raise InvalidInput("This is not your present password.", path="/old")
    _set(fresh, new, "/new")
    end_sessions(fresh, but=here)
    trail.note(shop_of(fresh), fresh, "changed their password", fresh.username)
    return fresh


def _set(person: Person, password: str, path: str = "/password") -> None:
    person.set_password(check(person, password, second_factor=second_factor.is_on(person), path=path))
    person.save(update_fields=["password"])


def end_sessions(person: Person, but: str = "") -> int:
    """End every session of a person, with the streams that live by them; `but` is the key of one that stays."""
    return SignedIn.objects.filter(person=person).exclude(session_key=but).delete()[0]


def device_key(person: Person) -> str:
    """The key for what a person's devices keep, 256 bits in base 64; made the first time it is asked for."""
    if not person.device_key:
        made = b64encode(secrets.token_bytes(32)).decode()
        Person.objects.filter(pk=person.pk, device_key="").update(device_key=made)
        person.refresh_from_db(fields=["device_key"])
    return person.device_key


def mail_link(username: str) -> None:
    """Mail a link to set a new password, where the account has an address; nothing says whether it has."""
    person = Person.objects.select_related("shop").filter(username=username, is_active=True).first()
    if person is None or not person.email or person.shop is None:
        return
    words = (
        f"Somebody asked for a new password for {person.username} at Yoshi, {person.shop.name}.\n\n"
        f"Set it here within {lasting(RESET_S)}:\n{settings.PUBLIC_URL}{link_for(person, 'reset')}\n\n"
        "If it was not you, do nothing: your password stays as it is."
    )
    send(person.shop, person.email, "A new password for Yoshi", words)


def invite(person: Person) -> str:
    """The link of an invitation, mailed too where there is an address."""
    link = link_for(person, "invitation")
    if person.email and person.shop is not None:
        words = (
            f"{person.shown_name}, {person.shop.name} works with Yoshi, and you are to sign in as {person.username}.\n\n"
            f"Choose your password here within {lasting(INVITED_S)}:\n{settings.PUBLIC_URL}{link}"
        )
        send(person.shop, person.email, f"{person.shop.name}: your account at Yoshi", words)
    return link
