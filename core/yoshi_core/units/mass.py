"""Masses as people write them, all faces of a mass, and the classic slip between ounces and tenths.

16 oz to the pound: 9.5 lb is 9 lb 8 oz, not 9 lb 5 oz.
"""

import math
import re

from yoshi_core.errors import UnitError
from yoshi_core.frozen import dataclass
from yoshi_core.units.numbers import read_number
from yoshi_core.units.quantities import LB_KG, OZ_KG, QUANTITIES

_NUM = r"[-+−]?[\d.,]*\d[\d.,]*(?:[eE][-+]?\d+)?"
_POUND = r"(?:lbs?|pounds?|#)"
_OUNCE = r"(?:oz|ounces?)"
_LB_OZ = re.compile(rf"^({_NUM})\s*{_POUND}\.?\s*,?\s*({_NUM})\s*{_OUNCE}?\.?$", re.IGNORECASE)
_DASHED = re.compile(r"^(\d+)\s*-\s*(\d+(?:\.\d+)?)$")
_SINGLE = re.compile(rf"^({_NUM})\s*([a-z#]*)\.?$", re.IGNORECASE)
_TWO_UNITS = re.compile(rf"^{_NUM}\s*[a-z#]+\.?\s*{_NUM}\s*[a-z#]+\.?$", re.IGNORECASE)
SLIP_SHARE = 0.015


@dataclass(frozen=True)
class ParsedMass:
    """A mass as read: `kg`, the `unit` it was written in (`lb oz` for both), and an unmistakable text."""

    kg: float
    unit: str
    canonical_text: str


@dataclass(frozen=True)
class MassFaces:
    """The same mass in every form a scale, a plate or a person may show."""

    lb_oz: str
    lb: str
    oz: str
    kg: str
    g: str


def parse_mass(text: str, *, default_unit: str | None = None) -> ParsedMass:
    """Read a mass: `9 lb 4 oz`, `9-4`, `9.25 lb`, `148 oz`, `4.196 kg`, `4196 g`.

    `default_unit` (lb, oz, kg, g) applies to a bare number. Raises `UnitError` with the reason.

    >>> round(parse_mass("9 lb 4 oz").kg, 5)
    4.19573
    """
    written = " ".join(text.split())
    if not written:
        raise UnitError("empty", "Nothing was entered.")
    both = _LB_OZ.match(written) or _DASHED.match(written)
    if both:
        return _pounds_and_ounces(both[1], both[2], written)
    single = _SINGLE.match(written)
    if not single:
        if _TWO_UNITS.match(written):
            raise UnitError("mixed_units", "“{written}” mixes units. Write one of lb and oz, lb, oz, kg or g.", words={"written": written})
        raise UnitError(
            "not_a_number", "“{written}” is not a weight such as 9 lb 4 oz, 9.25 lb, 148 oz or 4.2 kg.", words={"written": written}
        )
    return _single_unit(single[1], single[2] or default_unit, written)


def _pounds_and_ounces(pounds_text: str, ounces_text: str, written: str) -> ParsedMass:
    pounds, ounces = read_number(pounds_text), read_number(ounces_text)
    if pounds < 0 or ounces < 0:
        raise UnitError("negative", "“{written}” is below zero, which a weight cannot be.", words={"written": written})
    if pounds != int(pounds):
        raise UnitError(
            "fraction_beside_ounces",
            "“{written}” has a fraction of a pound beside ounces. Write {pounds} lb, or whole pounds and ounces.",
            words={"written": written, "pounds": _trim(pounds)},
        )
    if ounces >= 16:
        raise UnitError(
            "ounces_over_15",
            "“{written}” has {ounces} oz beside pounds; 16 oz are 1 lb. Did you mean less?",
            words={"written": written, "ounces": _trim(ounces)},
        )
    return ParsedMass(pounds * LB_KG + ounces * OZ_KG, "lb oz", f"{int(pounds)} lb {_trim(ounces)} oz")


def _single_unit(number_text: str, symbol: str | None, written: str) -> ParsedMass:
    number = read_number(number_text)
    if symbol is None:
        raise UnitError("needs_unit", "“{written}” needs a unit: lb, oz, kg or g.", words={"written": written})
    if symbol == "lb oz":
        symbol = "lb"
    unit = QUANTITIES["mass"].unit(symbol)
    if unit is None:
        raise UnitError("unknown_unit", "“{symbol}” is not a unit of weight. Use lb, oz, kg or g.", words={"symbol": symbol})
    if number < 0:
        raise UnitError("negative", "“{written}” is below zero, which a weight cannot be.", words={"written": written})
    kg = number * unit.factor
    if not math.isfinite(kg):
        raise UnitError("too_large", "“{written}” is too large to be a weight.", words={"written": written})
    return ParsedMass(kg, unit.symbol, f"{_trim(number)} {unit.symbol}")


def _trim(number: float) -> str:
    return f"{number:.10g}"


def pounds_ounces(kg: float, decimals: int = 1) -> tuple[str, int, str]:
    """Sign, whole pounds and ounces text, rounded as a whole so that ounces never read 16.0."""
    total = round(abs(kg) / OZ_KG, decimals)
    pounds, ounces = divmod(total, 16.0)
    sign = "-" if kg < 0 and total > 0 else ""
    return sign, int(pounds), f"{ounces:.{decimals}f}"


def mass_faces(kg: float) -> MassFaces:
    """Every face of a mass in kg (any sign; minus marks what was taken out or counts down).

    >>> mass_faces(4.74855).lb_oz
    '10 lb 7.5 oz'
    """
    sign, pounds, ounces = pounds_ounces(kg)
    return MassFaces(
        lb_oz=f"{sign}{pounds} lb {ounces} oz",
        lb=f"{kg / LB_KG:.2f} lb",
        oz=f"{kg / OZ_KG:.1f} oz",
        kg=f"{kg:.3f} kg",
        g=f"{kg * 1000:.0f} g",
    )


@dataclass(frozen=True)
class Echo:
    """How an entry was read: its other faces, and the reading it is not (empty where there is no such confusion)."""

    also: tuple[str, ...]
    is_not: str


def echo(mass: ParsedMass) -> Echo:
    """The entry read back, with the classic misreading named.

    >>> echo(parse_mass("7 lb 11 oz")).is_not
    'not 7.11 lb, which is 7 lb 1.8 oz'
    """
    faces = mass_faces(mass.kg)
    shown = {"lb oz": faces.lb_oz, "lb": faces.lb, "oz": faces.oz, "kg": faces.kg, "g": faces.g}
    also = tuple(text for unit, text in shown.items() if unit != mass.unit and not (unit == "g" and mass.kg >= 1))
    return Echo(also, _misreading(mass))


def _misreading(mass: ParsedMass) -> str:
    if mass.unit == "lb oz":
        pounds, _, ounces = mass.canonical_text.removesuffix(" oz").partition(" lb ")
        if "." not in ounces and ounces != "0":
            wrong = f"{pounds}.{ounces}"
            return f"not {wrong} lb, which is {mass_faces(float(wrong) * LB_KG).lb_oz}"
    if mass.unit == "lb" and "." in mass.canonical_text:
        pounds, _, tenths = mass.canonical_text.removesuffix(" lb").partition(".")
        if len(tenths) <= 2 and 0 < int(tenths) < 16:
            return f"not {pounds} lb {int(tenths)} oz, which is {(int(pounds) + int(tenths) / 16):.2f} lb"
    return ""


def looks_like_slip(entry: ParsedMass, reference_kg: float, matters_kg: float | None = None) -> bool:
    """Whether an entry looks like tenths of a pound used as ounces, or the reverse, against a reference.

    Same whole pounds; the ounces written are the floor or the rounding of ten times the reference's
    decimal (or the tenths written are the reference's ounces); and the two differ by more than `matters_kg`,
    by which a charge may be out, or by over 1.5 % of the reference where that is not said.
    """
    if reference_kg <= 0 or abs(entry.kg - reference_kg) <= (SLIP_SHARE * reference_kg if matters_kg is None else matters_kg):
        return False
    entry_lb, reference_lb = entry.kg / LB_KG, reference_kg / LB_KG
    if int(entry_lb + 1e-9) != int(reference_lb + 1e-9):
        return False
    entry_part, reference_part = entry_lb % 1.0, reference_lb % 1.0
    if entry.unit == "lb oz":
        return _tenths_match(entry_part * 16.0, reference_part)
    if entry.unit == "lb":
        return _tenths_match(reference_part * 16.0, entry_part)
    return False


def _tenths_match(ounces: float, decimal_part: float) -> bool:
    tenths = decimal_part * 10.0
    return any(abs(ounces - whole) < 1e-6 for whole in (math.floor(tenths + 1e-9), round(tenths)))
