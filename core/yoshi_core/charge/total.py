"""Total charge: plate, lines beyond what the plate covers, parts; with its uncertainty."""

from collections.abc import Sequence
from math import fsum, sqrt
from typing import Literal

from yoshi_core.errors import InvalidInput, OutOfRange
from yoshi_core.frozen import dataclass
from yoshi_core.message import Label
from yoshi_core.units.display import Amount

LIMIT_TO_STANDARD = 1 / sqrt(3)


@dataclass(frozen=True)
class Nameplate:
    """The plate's charge in kg, ± `limit_kg`, and the line length in m it covers."""

    charge_kg: float
    limit_kg: float = 0.0
    included_m: float = 0.0


@dataclass(frozen=True)
class LineRun:
    """One line set: length in m ± `length_limit_m`, allowance in kg/m ± `allowance_limit_kg_m`."""

    id: str
    length_m: float
    allowance_kg_m: float
    length_limit_m: float = 0.0
    allowance_limit_kg_m: float = 0.0
    liquid_od_m: float | None = None


@dataclass(frozen=True)
class Adjustment:
    """A part that holds more (or less) than what the plate counted, in kg ± `limit_kg`."""

    id: str
    label: Label
    mass_kg: float
    limit_kg: float = 0.0


@dataclass(frozen=True)
class BuildUpPart:
    """A piece of the total; limits are kept for the picture of what makes the ±. `extra_m` is what a line has beyond the plate's length."""

    id: str
    kind: Literal["plate", "line", "part"]
    label: Label
    kg: float
    limits_kg: tuple[float, ...]
    extra_m: float = 0.0


@dataclass(frozen=True)
class ChargeBuildUp:
    """The total in kg, its standard uncertainty in kg, its parts, the length in m beyond the plate's, and the scale's own limit in kg."""

    total_kg: float
    uncertainty_kg: float
    parts: tuple[BuildUpPart, ...]
    extra_length_m: float
    scale_limit_kg: float = 0.0

    def limits(self) -> tuple["Limit", ...]:
        """What makes the ±, the largest first; nothing that adds nothing."""
        found = [Limit(part.id, LIMITS[part.kind][n], part.label, limit) for part in self.parts for n, limit in enumerate(part.limits_kg)]
        found.append(Limit("scale", "scale", "scale", self.scale_limit_kg))
        return tuple(sorted((limit for limit in found if limit.kg > 0.0), key=lambda limit: -limit.kg))

    def without(self, limit: "Limit") -> float:
        """The standard uncertainty in kg that would be left without one of them."""
        return sqrt(max(self.uncertainty_kg**2 - (limit.kg * LIMIT_TO_STANDARD) ** 2, 0.0))


LimitKind = Literal["plate", "length", "allowance", "part", "scale"]
LIMITS: dict[str, tuple[LimitKind, ...]] = {"plate": ("plate",), "line": ("length", "allowance"), "part": ("part",)}


@dataclass(frozen=True)
class Limit:
    """One thing that makes the ± of a total: which piece of it, what about it, and how much in kg."""

    part: str
    kind: LimitKind
    label: Label
    kg: float


def total_charge(
    nameplate: Nameplate,
    line_sets: Sequence[LineRun] = (),
    adjustments: Sequence[Adjustment] = (),
    *,
    scale_limit_kg: float = 0.0,
    deduct_shorter: bool = False,
) -> ChargeBuildUp:
    """`plate + Σ(L − included)·a + Σ parts`; limits a count as a/√3 and add as squares.

    The included length is used up line by line. A total length below it changes nothing unless
    `deduct_shorter` (the maker says so). Raises `InvalidInput` for a plate charge of zero or less,
    `OutOfRange` when parts would take the total to zero or below.
    """
    if not nameplate.charge_kg > 0:
        raise InvalidInput("The plate charge must be above zero.", path="/factory_charge", value=nameplate.charge_kg)
    parts = [BuildUpPart("plate", "plate", "plate", nameplate.charge_kg, (nameplate.limit_kg,))]
    left_m = nameplate.included_m
    extra_total = fsum(line.length_m for line in line_sets) - nameplate.included_m if line_sets else 0.0
    for index, line in enumerate(line_sets):
        is_last = index == len(line_sets) - 1
        extra_m = line.length_m - left_m
        left_m = max(0.0, -extra_m)
        if extra_m < 0 and not (deduct_shorter and is_last):
            extra_m = 0.0
        limits = (
            line.length_limit_m * line.allowance_kg_m if extra_m else 0.0,
            line.allowance_limit_kg_m * abs(extra_m),
        )
        parts.append(BuildUpPart(line.id, "line", "line", extra_m * line.allowance_kg_m, limits, extra_m))
    parts += [BuildUpPart(a.id, "part", a.label, a.mass_kg, (a.limit_kg,)) for a in adjustments]
    total = fsum(part.kg for part in parts)
    if not total > 0:
        raise OutOfRange(
            "Lines and parts take the total to {total}; it must be above zero.", words={"total": Amount(total, "mass")}, value=total
        )
    squares = [(limit * LIMIT_TO_STANDARD) ** 2 for part in parts for limit in part.limits_kg]
    squares.append((scale_limit_kg * LIMIT_TO_STANDARD) ** 2)
    return ChargeBuildUp(total, sqrt(fsum(squares)), tuple(parts), extra_total, scale_limit_kg)
