"""Signing in against those who guess: failures are counted by account, by address and by device, and each makes the next wait longer.

A device that signed in before as this person is counted by itself, so that nobody who guesses a name elsewhere locks it out.
"""

import hashlib
import secrets
import threading
from collections.abc import Iterable
from datetime import datetime, timedelta
from math import ceil

from django.conf import settings
from django.contrib.auth import authenticate
from django.core import signing
from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.utils import timezone

from accounts.models import Person, SignInTries

FREE = {"account": 5, "device": 10, "address": 30}  # so many failures cost nothing
LONGEST_S = 900
FORGOTTEN = timedelta(days=1)
DEVICE, DEVICE_S, NAMES = "yoshi_device", 365 * 86_400, 8
AT_ONCE = threading.BoundedSemaphore(2)  # a hash takes much memory on purpose; no more than so many of a process
WAITS_S = 10.0


class TooMany(Exception):
    """Not now: so many seconds are left to wait."""

    def __init__(self, wait_s: int) -> None:
        super().__init__(f"wait {wait_s} s")
        self.wait_s = wait_s


def sign_in(request: HttpRequest, username: str, password: str) -> Person | None:
    """The person of this name and password; None where they do not belong together. Raises `TooMany`."""
    keys = _keys(request, username)
    now = timezone.now()
    tries = {row.key: row for row in SignInTries.objects.filter(key__in=keys)}
    until = max((row.next_at for row in tries.values()), default=now)
    if until > now:
        raise TooMany(ceil((until - now).total_seconds()))
    if not AT_ONCE.acquire(timeout=WAITS_S):
        raise TooMany(int(WAITS_S))
    try:
        person = authenticate(request, username=username, password=password)
    finally:
        AT_ONCE.release()
    if isinstance(person, Person):
        SignInTries.objects.filter(key__in=[key for key in keys if not key.startswith("address")]).delete()
        return person
    _count(keys, now)
    return None


def _keys(request: HttpRequest, username: str) -> list[str]:
    name = _digest(username.casefold())
    device, names = _device(request)
    if name in names:
        return [f"device:{device}:{name[:12]}"]
    return [f"account:{name}", f"address:{_digest(address_of(request))}"]


def _count(keys: Iterable[str], now: datetime) -> None:
    for key in keys:
        with transaction.atomic():
            SignInTries.objects.get_or_create(key=key, defaults={"next_at": now, "last_at": now})
            row = SignInTries.objects.select_for_update().get(key=key)
            row.failures = 1 if now - row.last_at > FORGOTTEN else row.failures + 1
            over = row.failures - FREE[key.partition(":")[0]]
            row.next_at = now + timedelta(seconds=min(2**over, LONGEST_S)) if over > 0 else now
            row.last_at = now
            row.save()


def address_of(request: HttpRequest) -> str:
    """Who asks, by address: what a proxy says is believed only where so many are configured."""
    seen = str(request.META.get("REMOTE_ADDR") or "")
    said = [part.strip() for part in str(request.META.get("HTTP_X_FORWARDED_FOR") or "").split(",") if part.strip()]
    if settings.PROXIES < 1 or not said:
        return seen
    return str(said[-min(settings.PROXIES, len(said))])


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
