"""Entries and the facts of a field: what a sheet is made of.

A sheet is a frozen dataclass whose fields are `Annotated` with `Facts`. From those facts come the
checks on saving, the JSON Schema, the OpenAPI and TypeScript types and the web's forms. Do not use
`from __future__ import annotations` in a module that declares sheets: it would strip the facts.
"""

from collections.abc import Mapping
from datetime import datetime
from typing import Literal

from yoshi_core.frozen import dataclass

Provenance = Literal["weighed", "measured", "plate", "note", "makers", "told", "assumed", "typed"]


@dataclass(frozen=True)
class Entry:
    """One entered figure: SI `value`, the text and unit as typed, where it is from, its ± limit, when and by whom."""

    value: float
    text: str = ""
    unit: str = ""
    source: Provenance = "typed"
    limit: float | None = None
    at: datetime | None = None
    by: str = ""


@dataclass(frozen=True, eq=False)
class Facts:
    """What is true of a field.

    `quantity` names one of `units.quantities`, or is `choice`, `yesno`, `text` or `record`. `hard`
    is refused outside (SI), `usual` is asked about once. `options` are a choice's values with their
    words. `plate` is the default provenance. `unit_us` and `unit_si` override the units shown first. `kept` is what is read off a thing
    and does not change: typed as something else, the earlier stays beside it until a person chooses.
    """

    quantity: str
    label: str
    hard: tuple[float, float] | None = None
    usual: tuple[float, float] | None = None
    options: Mapping[str, str] | None = None
    source: Provenance = "typed"
    max_length: int = 200
    unit_us: str | None = None
    unit_si: str | None = None
    kept: bool = False


def value_of(entry: Entry | None) -> float | None:
    """The SI value of an entry, or None where nothing was entered."""
    return None if entry is None else entry.value


def limit_of(entry: Entry | None, otherwise: float) -> float:
    """The typed ± limit of an entry, or the profile's."""
    return otherwise if entry is None or entry.limit is None else entry.limit
