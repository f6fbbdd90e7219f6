"""Inside areas of refrigerant tube from outside diameter and wall.

Walls: ASTM B280 annealed (from memory) for soft tube up to 7/8 in and hard-drawn above, type ACR
hard-drawn ASTM B280 table (from memory) for larger sizes; metric sizes with 0.8 and 1.0 mm walls
as commonly sold (common practice, no source).
"""

import math

from yoshi_core.errors import CoreError, OutOfRange
from yoshi_core.units.display import Amount
from yoshi_core.units.quantities import INCH_M
from yoshi_core.units.text import parse

_INCH_WALLS = {
    0.25: 0.030, 0.3125: 0.032, 0.375: 0.032, 0.5: 0.032, 0.625: 0.035, 0.75: 0.035, 0.875: 0.045,
    1.125: 0.050, 1.375: 0.055, 1.625: 0.060, 2.125: 0.070, 2.625: 0.080, 3.125: 0.090,
}  # fmt: skip
_METRIC_WALLS_MM = {
    6.0: 0.8, 6.35: 0.76, 8.0: 0.8, 9.52: 0.81, 10.0: 0.8, 12.0: 0.8, 12.7: 0.81, 15.0: 1.0, 15.88: 0.89, 16.0: 1.0,
    18.0: 1.0, 19.05: 0.89, 22.0: 1.0, 22.2: 1.14, 28.0: 1.0, 28.58: 1.27, 35.0: 1.2, 42.0: 1.2,
}  # fmt: skip
WALLS_M = {inch * INCH_M: wall * INCH_M for inch, wall in _INCH_WALLS.items()} | {
    mm / 1000: wall / 1000 for mm, wall in _METRIC_WALLS_MM.items()
}
SAME_SIZE_M = 2e-5


def wall_m(od_m: float) -> float:
    """Wall in m of the standard tube with this outside diameter in m. Raises `OutOfRange` for no such size."""
    nearest = min(WALLS_M, key=lambda size: abs(size - od_m))
    if abs(nearest - od_m) > SAME_SIZE_M:
        raise OutOfRange(
            "{od} is not a tube size Yoshi knows; give the wall, or the maker's allowance per length.",
            words={"od": Amount(od_m, "tube_od")},
            value=od_m,
        )
    return WALLS_M[nearest]


def inside_area_m2(od_m: float, wall: float | None = None) -> float:
    """Inside area in m² of a tube; the wall in m is looked up unless given.

    Raises `OutOfRange` for an unknown size or a wall that leaves no bore.
    """
    thickness = wall_m(od_m) if wall is None else wall
    bore = od_m - 2 * thickness
    if not (thickness > 0 and bore > 0):
        raise OutOfRange(
            "A wall of {thickness} leaves no bore in a {od} tube.",
            words={"thickness": Amount(thickness, "tube_od"), "od": Amount(od_m, "tube_od")},
            value=thickness,
        )
    return math.pi / 4 * bore * bore


def bore_m(text: str | None) -> float | None:
    """A bore as stamped on an orifice, in m, however it is written: 57, .057, 0.057 in, 1.45 mm.

    In inches where no unit stands, a bare whole number in thousandths; None where it says nothing, as for the number of a drill.
    """
    plain = (text or "").replace('"', " in").replace(",", ".").strip()
    if not plain:
        return None
    if plain.isascii() and plain.isdigit():
        return float(plain) / 1000.0 * INCH_M
    try:
        return parse("tube_od", plain, default_unit="in").value
    except CoreError:
        return None
