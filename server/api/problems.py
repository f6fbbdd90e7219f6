"""Errors as problem+json (RFC 9457): `code`, `detail`, `path`, `params`."""

import json
import logging
from typing import Any

from django.core.exceptions import ObjectDoesNotExist, RequestDataTooBig
from django.db import OperationalError
from django.http import HttpRequest, HttpResponse
from ninja import NinjaAPI, Schema
from ninja.errors import AuthenticationError, HttpError, Throttled, ValidationError

from accounts import asking
from api.permissions import AnotherPerson, ConfirmFirst, operation_of
from api.who import units_of
from yoshi_core.errors import CoreError
from yoshi_core.message import told

log = logging.getLogger("yoshi")


class ProblemBody(Schema):
    """What every refused request answers with."""

    type: str
    title: str
    status: int
    code: str
    detail: str
    path: str
    params: dict[str, Any]


def problem(status: int, code: str, detail: str, path: str = "", params: dict[str, Any] | None = None) -> HttpResponse:
    body = {
        "type": "about:blank",
        "title": code.replace("_", " ").capitalize(),
        "status": status,
        "code": code,
        "detail": detail,
        "path": path,
        "params": params or {},
    }
    return HttpResponse(json.dumps(body, default=str), status=status, content_type="application/problem+json")


def register(api: NinjaAPI) -> None:
    """Every way a request can fail, in words."""

    @api.exception_handler(CoreError)
    def core_error(request: HttpRequest, error: CoreError) -> HttpResponse:
        return problem(422, error.code, told(error).show(units_of(request)), error.path, error.params)

    @api.exception_handler(ValidationError)
    def invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
        first = error.errors[0] if error.errors else {"msg": "The request could not be read.", "loc": ()}
        path = "/" + "/".join(str(part) for part in first.get("loc", ())[2:])
        return problem(422, "invalid_request", str(first.get("msg")), path)

    @api.exception_handler(ObjectDoesNotExist)
    def missing(request: HttpRequest, error: ObjectDoesNotExist) -> HttpResponse:
        return problem(404, "not_found", "There is nothing here, or it belongs to another shop.")

    @api.exception_handler(AnotherPerson)
    def another_person(request: HttpRequest, error: AnotherPerson) -> HttpResponse:
        return problem(401, "another_person", "Somebody else is signed in on this device now. Sign in again; what you typed is kept.")

    @api.exception_handler(ConfirmFirst)
    def confirm_first(request: HttpRequest, error: ConfirmFirst) -> HttpResponse:
        return problem(403, "confirm_first", "Say once more who you are: only the owner may do this.")

    @api.exception_handler(PermissionError)
    def forbidden(request: HttpRequest, error: PermissionError) -> HttpResponse:
        return problem(403, "forbidden", str(error))

    @api.exception_handler(RequestDataTooBig)
    def too_big(request: HttpRequest, error: RequestDataTooBig) -> HttpResponse:
        return problem(413, "too_large", "This is longer than one request may be. Send it in parts.")

    @api.exception_handler(AuthenticationError)
    def signed_out(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
        return problem(401, "signed_out", "You are signed out. Sign in again; what you typed is kept on this device.")

    @api.exception_handler(Throttled)
    def throttled(request: HttpRequest, error: Throttled) -> HttpResponse:
        return problem(429, "throttled", "Too many tries. Wait a minute and try again.")

    @api.exception_handler(HttpError)
    def http_error(request: HttpRequest, error: HttpError) -> HttpResponse:
        code = "bad_request" if error.status_code == 400 else "refused"
        return problem(error.status_code, code, "The request could not be read as JSON." if error.status_code == 400 else str(error))

    @api.exception_handler(OperationalError)
    def later(request: HttpRequest, error: OperationalError) -> HttpResponse:
        log.error("the database broke off", extra={"route": operation_of(request)}, exc_info=error)
        refused = problem(503, "database", "The database did not answer. Send it again; if it was done, it is not done twice.")
        refused.headers["Retry-After"] = "1"
        return refused

    @api.exception_handler(Exception)
    def unexpected(request: HttpRequest, error: Exception) -> HttpResponse:
        number = asking.now.get().id
        log.error("unexpected error", extra={"route": operation_of(request)}, exc_info=error)
        words = "Something failed on the server; nothing was changed. Try again."
        return problem(500, "unexpected", words, params={"request": number})
