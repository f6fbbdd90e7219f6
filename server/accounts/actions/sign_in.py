"""Signing in against those who guess: failures are counted by account, by address and by device, and each makes the next wait longer.

A device that signed in before as this person is counted by itself, so that nobody who guesses a name elsewhere locks it out.
"""

import hashlib
import secrets
import threading
from collections.abc import Iterable
from datetime import timedelta
from math import ceil

from django.conf import settings
from django.contrib.auth import authenticate, login
from django.core import signing
from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.utils import timezone

from accounts.actions import second_factor
from accounts.asking import address_of, device_of
from accounts.models import Person, SignInTries
from accounts.passwords import normal
from accounts.sessions import BEGAN

FREE = {"account": 5, "device": 10, "address": 30, "mail": 3}  # so many failures cost nothing
LONGEST_S = 900
FORGOTTEN = timedelta(days=1)
DEVICE, DEVICE_S, NAMES = "yoshi_device", 365 * 86_400, 8
AT_ONCE = threading.BoundedSemaphore(2)  # a hash takes much memory on purpose; no more than so many of a process
WAITS_S = 10.0
KNOWN_S, NEW_S = 7 * 86_400, 86_400
CONFIRMED, CONFIRMED_S = "confirmed", 900


class TooMany(Exception):
    """Not now: so many seconds are left to wait."""

    def __init__(self, wait_s: int) -> None:
        super().__init__(f"wait {wait_s} s")
        self.wait_s = wait_s


class CodeNeeded(Exception):
    """Name and password belong together, and this account takes a code of its second factor too."""


def sign_in(request: HttpRequest, username: str, password: str, code: str = "") -> Person | None:
    """The person of this name and password, and of this code where they use one; None where they do not belong together.

    Raises `TooMany`, and `CodeNeeded` where no code was given.
    """
    keys = _keys(request, username)
    wait_if_many(keys)
    if not AT_ONCE.acquire(timeout=WAITS_S):
        raise TooMany(int(WAITS_S))
    try:
        person = authenticate(request, username=username, password=normal(password))
    finally:
        AT_ONCE.release()
    if isinstance(person, Person) and person.shop_id is not None:
        if second_factor.is_on(person):
            if not code.strip():
                raise CodeNeeded
            if not second_factor.passes(person, code):
                count(keys)
                return None
        SignInTries.objects.filter(key__in=[key for key in keys if not key.startswith("address")]).delete()
        return person
    count(keys)
    return None


def begin(request: HttpRequest, person: Person, username: str) -> None:
    """Start the session: a working week on a device this person signed in on before, a day on another."""
    known = _digest(username.casefold()) in _device(request)[1]
    login(request, person)
    request.session[BEGAN] = {"at": timezone.now().isoformat(), "device": device_of(request), "address": address_of(request)}
    request.session.set_expiry(KNOWN_S if known else NEW_S)
    confirm(request)


def confirm(request: HttpRequest) -> None:
    """The person has just said who they are."""
    request.session[CONFIRMED] = timezone.now().timestamp()


def confirmed(request: HttpRequest) -> bool:
    """Whether the person said who they are within the last minutes."""
    return bool(timezone.now().timestamp() - float(request.session.get(CONFIRMED, 0.0)) < CONFIRMED_S)


def wait_if_many(keys: Iterable[str]) -> None:
    """Raises `TooMany` while one of these has to wait."""
    now = timezone.now()
    until = max((row.next_at for row in SignInTries.objects.filter(key__in=list(keys))), default=now)
    if until > now:
        raise TooMany(ceil((until - now).total_seconds()))


def asked_keys(request: HttpRequest, username: str) -> list[str]:
    """What a mail for a new password is counted by."""
    return [f"mail:{_digest(username.casefold())}", f"address:{_digest(address_of(request))}"]


def _keys(request: HttpRequest, username: str) -> list[str]:
    name = _digest(username.casefold())
    device, names = _device(request)
    if name in names:
        return [f"device:{device}:{name[:12]}"]
    return [f"account:{name}", f"address:{_digest(address_of(request))}"]


def count(keys: Iterable[str]) -> None:
    """One more failure, or one more of what may not be had too often."""
    now = timezone.now()
    for key in keys:
        with transaction.atomic():
            SignInTries.objects.get_or_create(key=key, defaults={"next_at": now, "last_at": now})
            row = SignInTries.objects.select_for_update().get(key=key)
            row.failures = 1 if now - row.last_at > FORGOTTEN else row.failures + 1
            over = row.failures - FREE[key.partition(":")[0]]
            row.next_at = now + timedelta(seconds=min(2**over, LONGEST_S)) if over > 0 else now
            row.last_at = now
            row.save()


def _device(request: HttpRequest) -> tuple[str, list[str]]:
    """The device's own name and who signed in on it before, by digest; nothing where its mark is none of ours."""
    try:
        plain = signing.loads(request.COOKIES.get(DEVICE, ""), salt=DEVICE, max_age=DEVICE_S)
        return str(plain["id"]), [str(name) for name in plain["names"]][:NAMES]
    except (signing.BadSignature, KeyError, TypeError):
        return "", []


def remember_device(request: HttpRequest, response: HttpResponse, username: str) -> None:
    """Mark a device as one this person signed in on."""
    device, names = _device(request)
    name = _digest(username.casefold())
    kept = [name, *(other for other in names if other != name)][:NAMES]
    mark = signing.dumps({"id": device or secrets.token_hex(8), "names": kept}, salt=DEVICE)
    response.set_cookie(DEVICE, mark, max_age=DEVICE_S, httponly=True, samesite="Lax", secure=settings.SESSION_COOKIE_SECURE)


def _digest(text: str) -> str:
    return hashlib.sha256(text.encode("utf-8", "surrogatepass")).hexdigest()[:32]
