"""The catalogue of refrigerants: composition, safety class, GWP, oils, flammability limit."""

import json
import pkgutil
import re
from functools import lru_cache
from math import fsum

from yoshi_core.errors import UnknownRefrigerant
from yoshi_core.frozen import dataclass


@dataclass(frozen=True)
class Part:
    """One component of a blend and its share by mass (0 to 1)."""

    name: str
    mass_share: float


@dataclass(frozen=True)
class Refrigerant:
    """A catalogued refrigerant. `gwp_ar4` is per kg of CO₂; `lfl_kg_m3` is None where not flammable.

    `charted` is how many published service pressures its tables are held to by the tests; nought: a boiling point from memory alone.
    """

    name: str
    parts: tuple[Part, ...]
    safety_class: str
    gwp_ar4: float
    oils: tuple[str, ...]
    lfl_kg_m3: float | None
    charted: int = 0

    @property
    def is_blend(self) -> bool:
        """Whether it is mixed of several."""
        return len(self.parts) > 1

    @property
    def is_flammable(self) -> bool:
        """Whether its safety class burns: 2L, 2 or 3."""
        return self.safety_class[1:] in {"2L", "2", "3"}


@lru_cache(maxsize=1)
def _catalogue() -> dict[str, Refrigerant]:
    raw = json.loads(pkgutil.get_data("yoshi_core.refrigerants", "data/catalogue.json") or b"")
    found = {}
    for entry in raw["refrigerants"]:
        parts = tuple(Part(name, share / 100.0) for name, share in entry["parts"].items())
        gwp = fsum(part.mass_share * raw["components"][part.name]["gwp"] for part in parts)
        found[entry["name"]] = Refrigerant(
            entry["name"], parts, entry["class"], round(gwp, 1), tuple(entry["oils"]), entry.get("lfl"), entry.get("charted", 0)
        )
    return found


def names() -> tuple[str, ...]:
    """Designations in the catalogue, the most met first."""
    return tuple(_catalogue())


@lru_cache(maxsize=512)
def normalize(text: str) -> str:
    """A designation as the catalogue writes it: `r410a`, `410A` and `R 410a` are `R-410A`; others unchanged."""
    squeezed = re.sub(r"[\s_-]", "", text).lower()
    bare = squeezed.removeprefix("r")
    for name in _catalogue():
        if name.lower().replace("-", "").removeprefix("r") == bare:
            return name
    return " ".join(text.split())


def get(designation: str) -> Refrigerant:
    """The catalogued refrigerant. Raises `UnknownRefrigerant` with what to do."""
    found = _catalogue().get(normalize(designation))
    if found is None:
        raise UnknownRefrigerant(
            "“{designation}” is not in the catalogue. Check the data plate; a plan by weight alone is still possible.",
            words={"designation": designation},
            designation=designation,
        )
    return found


def is_known(designation: str) -> bool:
    """Whether the designation is in the catalogue (and so has tables)."""
    return normalize(designation) in _catalogue()
