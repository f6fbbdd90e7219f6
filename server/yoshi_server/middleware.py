"""What every request gets: a number, an entry in the log and the counts; headers; and bodies no route reads."""

import logging
import re
import time
import uuid
from collections.abc import Callable
from typing import Any

from django.db import connection
from django.http import HttpRequest, HttpResponse

from accounts import asking
from api.permissions import operation_of
from api.problems import problem
from yoshi_core.message import headline
from yoshi_server.guard import LIMIT_S, TookTooLong, guard
from yoshi_server.metrics import REQUESTS, SECONDS, SLOW

log = logging.getLogger("yoshi.requests")
slow_log = logging.getLogger("yoshi.slow")
SLOW_S = 0.5
LONG, LONG_S = re.compile(r"/(log|import|record|label|trail\.csv)$"), 120.0  # files in and out
BODIES = ("application/json", "text/csv")


def asked(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Give the request its number, know from where it is asked, and log and count it once it is answered: its route, never what is in it."""

    def middleware(request: HttpRequest) -> HttpResponse:
        number, began = uuid.uuid4().hex[:16], time.monotonic()
        token = asking.now.set(asking.Asking(id=number, address=asking.address_of(request)[:45], device=asking.device_of(request)))
        try:
            with connection.execute_wrapper(_watch):
                response = get_response(request)
            response.headers["X-Request-Id"] = number
            if request.path.startswith("/api/"):
                took = time.monotonic() - began
                route = operation_of(request) if request.resolver_match else f"{request.method} elsewhere"
                REQUESTS.labels(request.method, route.partition(" ")[2], str(response.status_code)).inc()
                SECONDS.labels(route).observe(took)
                log.info("answered", extra={"route": route, "status": response.status_code, "ms": round(took * 1000.0, 1)})
            return response
        finally:
            asking.now.reset(token)

    return middleware


def _watch(execute: Callable[..., Any], sql: str, params: Any, many: bool, context: Any) -> Any:
    """Log a statement that takes long, without what was put into it."""
    began = time.monotonic()
    try:
        return execute(sql, params, many, context)
    finally:
        took = time.monotonic() - began
        if took > SLOW_S:
            SLOW.inc()
            slow_log.warning("slow statement", extra={"sql": sql[:2_000], "ms": round(took * 1000.0)})


def in_time(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """The last guard: what takes longer than any request should is broken off and said so."""

    def middleware(request: HttpRequest) -> HttpResponse:
        limit_s = LONG_S if LONG.search(request.path) else LIMIT_S
        try:
            with guard.watching(limit_s):
                return get_response(request)
        except TookTooLong:
            log.exception("broken off", extra={"route": operation_of(request), "limit_s": limit_s})
            return problem(503, "took_too_long", "This took too long and was broken off; nothing was changed. Try again later.")

    return middleware


def more_headers(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """No use of the device's senses; no caching of the interface's data. The content policy is in the settings."""

    def middleware(request: HttpRequest) -> HttpResponse:
        response = get_response(request)
        response.headers.setdefault("Permissions-Policy", "camera=(), microphone=(), geolocation=()")
        if request.path.startswith("/api/"):
            response.headers.setdefault("Cache-Control", "no-store")
        return response

    return middleware


def only_known_bodies(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """A body the interface does not read is refused before anything tries to read it as a form."""

    def middleware(request: HttpRequest) -> HttpResponse:
        kind = request.content_type or ""
        if kind and kind not in BODIES and request.path.startswith("/api/") and request.META.get("CONTENT_LENGTH") not in {None, "", "0"}:
            return problem(415, "body_kind", str(headline("The body is {kind}; send {known:or}.", kind=kind, known=tuple(BODIES))))
        return get_response(request)

    return middleware
