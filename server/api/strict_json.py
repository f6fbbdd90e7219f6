"""JSON as this server takes it: finite numbers, whole characters, and not nested without end."""

import json
import math
from typing import Any, NoReturn

from django.http import HttpRequest
from ninja.parser import Parser

DIGITS = 40
NESTED = 60


class NotJson(ValueError):
    """A body that is no JSON of ours, in words."""


def loads(body: bytes) -> Any:
    """The value of a body. Raises `NotJson`."""
    try:
        value = json.loads(body, parse_constant=_constant, parse_float=_float, parse_int=_int)
        if b"\\u" in body:
            json.dumps(value, ensure_ascii=False).encode()  # half a character has no bytes
    except NotJson:
        raise
    except (ValueError, RecursionError):
        raise NotJson("This is not JSON, or nested too deep, or holds half a character.") from None
    _shallow(value, NESTED)
    return value


def _constant(text: str) -> NoReturn:
    raise NotJson(f"{text} is no number.")


def _float(text: str) -> float:
    value = float(text)
    if not math.isfinite(value):
        raise NotJson(f"{text[:DIGITS]} is larger than any number here.")
    return value


def _int(text: str) -> int:
    if len(text) > DIGITS:
        raise NotJson("A number here has at most forty digits.")
    return int(text)


def _shallow(value: Any, left: int) -> None:
    if not isinstance(value, (dict, list)):
        return
    if left == 0:
        raise NotJson(f"Nested more than {NESTED} deep.")
    for part in value.values() if isinstance(value, dict) else value:
        _shallow(part, left - 1)


class StrictParser(Parser):
    """Reads every body so."""

    def parse_body(self, request: HttpRequest) -> Any:
        """The body's value; the interface answers 400 where there is none."""
        return loads(request.body)
