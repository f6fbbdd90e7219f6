"""A document with another value at one field: what it would say if a second value stood there."""

from collections.abc import Mapping
from dataclasses import fields, is_dataclass, replace
from types import NoneType, UnionType
from typing import Annotated, Any, Union, get_args, get_origin

from yoshi_core.document import schema
from yoshi_core.document.model import Job
from yoshi_core.errors import CoreError


def rivals(job: Job) -> tuple[Job, ...]:
    """The job with each second value that two people left standing, one at a time; a value that cannot stand there is none."""
    found = (with_value(job, dispute.path, dispute.value) for dispute in job.disputes)
    return tuple(rival for rival in found if rival is not None)


def with_value(job: Job, path: str, value: Any) -> Job | None:
    """The job with a plain value at a JSON pointer; None where the pointer leads to no field of it, or the value is none for it."""
    try:
        patched = _set(job, Job, [key.replace("~1", "/").replace("~0", "~") for key in path.split("/")[1:]], value)
    except (CoreError, KeyError, IndexError, ValueError, TypeError):
        return None
    return patched if isinstance(patched, Job) else None


def _set(place: Any, kind: Any, keys: list[str], value: Any) -> Any:
    if not keys:
        return schema.load(kind, value, "/")
    key, rest = keys[0], keys[1:]
    if is_dataclass(place) and not isinstance(place, type):
        hints = schema.types_of(type(place))
        if key not in {f.name for f in fields(place)}:
            raise KeyError(key)
        return replace(place, **{key: _set(getattr(place, key), hints[key], rest, value)})
    if isinstance(place, tuple):
        number = int(key)
        return (*place[:number], _set(place[number], None, rest, value), *place[number + 1 :])
    if isinstance(place, Mapping):
        row = get_args(_bare(kind))[1] if get_args(_bare(kind)) else None
        here = place[key] if key in place else row() if isinstance(row, type) else None
        return {**place, key: _set(here, row, rest, value)}
    raise KeyError(key)


def _bare(kind: Any) -> Any:
    """A type without the facts about it, and without its None."""
    if get_origin(kind) is Annotated:
        kind = get_args(kind)[0]
    if get_origin(kind) in {Union, UnionType}:
        others = [one for one in get_args(kind) if one is not NoneType]
        return others[0] if len(others) == 1 else kind
    return kind
