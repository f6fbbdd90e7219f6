"""Compressor oils as people write them: by kind and viscosity grade, and whether two names are the same oil.

Kinds by their usual short names (common practice, no source); grades are those of ISO 3448, from memory.
"""

import re
from typing import Literal

from yoshi_core.frozen import dataclass

OilKind = Literal["POE", "PVE", "PAG", "MO", "AB", "PAO"]
KIND_WORDS: dict[OilKind, tuple[str, ...]] = {
    "POE": ("poe", "polyol", "polyolester", "ester"),
    "PVE": ("pve", "polyvinyl"),
    "PAG": ("pag", "polyalkylene"),
    "MO": ("mo", "mineral", "naphthenic"),
    "AB": ("ab", "alkylbenzene"),
    "PAO": ("pao", "polyalphaolefin"),
}
DRAWS_WATER: frozenset[OilKind] = frozenset({"POE", "PVE", "PAG"})
GRADES = frozenset({7, 10, 15, 22, 32, 46, 68, 100, 150, 220, 320})


@dataclass(frozen=True)
class Oil:
    """What a name says: kind and ISO viscosity grade, each None where it does not."""

    kind: OilKind | None
    grade: int | None


def read_oil(text: str | None) -> Oil:
    """An oil from its name, such as “POE 32”, “polyolester VG68” or “PAG46”; nothing known of an empty one."""
    plain = (text or "").lower()
    words = re.findall(r"[a-z]+", plain)
    kind = next((kind for kind, known in KIND_WORDS.items() if any(word in known for word in words)), None)
    grades = [int(number) for number in re.findall(r"(?<![\d.])\d{1,3}(?![\d.]\d|\d)", plain)]
    return Oil(kind, next((grade for grade in grades if grade in GRADES), None))


def differs(one: str | None, other: str | None) -> Literal["kind", "grade", "not_known"] | None:
    """How two oils differ by their names; None where nothing speaks against their being the same."""
    if (one or "").strip().lower() == (other or "").strip().lower() and (one or "").strip():
        return None
    first, second = read_oil(one), read_oil(other)
    if first.kind is None or second.kind is None:
        return "not_known"
    if first.kind != second.kind:
        return "kind"
    if first.grade is None or second.grade is None:
        return "not_known"
    return "grade" if first.grade != second.grade else None
