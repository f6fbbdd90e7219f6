"""The second factor: a code of an app that counts time (TOTP), and codes on paper for the day the phone is gone."""

import secrets
from base64 import b32encode
from typing import Any

import segno
from django.db import transaction
from django_otp import match_token
from django_otp.plugins.otp_static.models import StaticDevice, StaticToken
from django_otp.plugins.otp_totp.models import TOTPDevice

from accounts import trail
from accounts.models import Person, Shop
from accounts.queries import shop_of
from accounts.retry import again_when_met
from yoshi_core.errors import InvalidInput

ON_PAPER = 10
DIGITS = "23456789abcdefghjkmnpqrstuvwxyz"  # none that is taken for another


def is_on(person: Person) -> bool:
    return bool(TOTPDevice.objects.filter(user=person, confirmed=True).exists())


def paper_left(person: Person) -> int:
    """How many codes on paper are not used yet."""
    return int(StaticToken.objects.filter(device__user=person).count())


def those_with(shop: Shop) -> set[int]:
    """The people of a shop who use one."""
    return set(TOTPDevice.objects.filter(user__shop=shop, confirmed=True).values_list("user", flat=True))


def passes(person: Person, code: str) -> bool:
    """Whether this code is right now; each is good once, and wrong ones make the next wait."""
    return match_token(person, code.replace(" ", "").replace("-", "").lower()) is not None


@again_when_met
@transaction.atomic
def prepare(person: Person) -> dict[str, Any]:
    """A new secret to be taken into the app; it counts once a code of it was entered."""
    if is_on(person):
        raise InvalidInput("The second factor is on already. Turn it off first.", path="/second_factor")
    TOTPDevice.objects.filter(user=person, confirmed=False).delete()
    device = TOTPDevice.objects.create(user=person, name="app", confirmed=False)
    secret = b32encode(device.bin_key).decode().rstrip("=")
    picture = segno.make(device.config_url, error="m").svg_data_uri(scale=5, dark="#000", light="#fff")
    return {"secret": " ".join(secret[n : n + 4] for n in range(0, len(secret), 4)), "address": device.config_url, "picture": picture}


@again_when_met
@transaction.atomic
def turn_on(person: Person, code: str) -> list[str]:
    """Begin to ask for codes; the codes for paper, shown this once. Raises `InvalidInput` for a wrong code."""
    device = TOTPDevice.objects.select_for_update().filter(user=person, confirmed=False).first()
    if device is None or not device.verify_token(code.replace(" ", "")):
        raise InvalidInput("This is not the code the app shows now. Look at the clock of the phone, and take the next one.", path="/code")
    device.confirmed = True
    device.save(update_fields=["confirmed"])
    StaticDevice.objects.filter(user=person).delete()
    paper = StaticDevice.objects.create(user=person, name="paper")
    codes = ["".join(secrets.choice(DIGITS) for _ in range(10)) for _ in range(ON_PAPER)]
    for code_ in codes:
        paper.token_set.create(token=code_)
    trail.note(shop_of(person), person, "turned the second factor on")
    return [f"{code_[:5]}-{code_[5:]}" for code_ in codes]


@again_when_met
@transaction.atomic
def turn_off(person: Person, by: Person) -> None:
    """Ask for no codes any more."""
    TOTPDevice.objects.filter(user=person).delete()
    StaticDevice.objects.filter(user=person).delete()
    trail.note(shop_of(person), by, "turned the second factor off", person.username)
