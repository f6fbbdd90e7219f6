"""The request that is being answered: who asks, what for, from where. Empty outside a request."""

import re
from contextvars import ContextVar
from dataclasses import dataclass, replace
from datetime import datetime

from django.conf import settings
from django.http import HttpRequest

BROWSERS = (("Edg/", "Edge"), ("OPR/", "Opera"), ("Firefox/", "Firefox"), ("Chrome/", "Chromium"), ("Safari/", "Safari"))
SYSTEMS = ("Android", "iPhone", "iPad", "Windows", "Macintosh", "CrOS", "Linux")


@dataclass(frozen=True)
class Asking:
    """`what` in plain words, empty for what only reads; `about` names what it is done to; `moment` is set where another clock than the office's goes."""

    id: str = ""
    person_id: int | None = None
    what: str = ""
    about: str = ""
    address: str = ""
    device: str = ""
    moment: datetime | None = None


NOBODY = Asking()
now: ContextVar[Asking] = ContextVar("asking", default=NOBODY)


def tell(about: str) -> None:
    """Name what it is done to, where that has only now got a name."""
    if now.get().what:
        now.set(replace(now.get(), about=about))


def address_of(request: HttpRequest) -> str:
    """Who asks, by address: what a proxy says is believed only where so many are configured."""
    seen = str(request.META.get("REMOTE_ADDR") or "")
    said = [part.strip() for part in str(request.META.get("HTTP_X_FORWARDED_FOR") or "").split(",") if part.strip()]
    if settings.PROXIES < 1 or not said:
        return seen
    return str(said[-min(settings.PROXIES, len(said))])


def device_of(request: HttpRequest) -> str:
    """The kind of browser and system in two words, as far as it says; never the whole of what it sends."""
    text = str(request.META.get("HTTP_USER_AGENT") or "")
    browser = next((name for mark, name in BROWSERS if mark in text), "")
    system = next((name for name in SYSTEMS if name in text), "")
    said = " on ".join(part for part in (browser, {"Macintosh": "Mac", "CrOS": "Chromebook"}.get(system, system)) if part)
    return said or re.sub(r"[^\w ./-]", "", text)[:40] or "not said"
