"""Reading a quantity as a person writes it.

A bare number needs a unit or the field's default; a comma is asked about, never guessed; nothing
is clamped. Errors are `UnitError`s whose `reason` a caller can act on and whose message a person can.
"""

import math
import re
from fractions import Fraction

from yoshi_core.errors import InvalidInput, UnitError
from yoshi_core.frozen import dataclass
from yoshi_core.units.mass import parse_mass
from yoshi_core.units.numbers import read_number
from yoshi_core.units.quantities import INCH_M, QUANTITIES, Quantity

_NUMBER_UNIT = re.compile(r"^\s*([-+−]?[\d.,]*\d[\d.,]*(?:[eE][-+]?\d+)?)\s*(.*?)\s*$")
_FRACTION = re.compile(r"^\s*(?:(\d+)[\s-]+)?(\d+)\s*/\s*(\d+)\s*(.*?)\s*$")
_FEET_INCHES = re.compile(r"^\s*(\d+)\s*(?:ft|')\s*(\d+(?:\.\d+)?)\s*(?:in|\")\s*$")


@dataclass(frozen=True)
class Parsed:
    """A quantity as read: SI value, the unit it was read in, and the text that says so unmistakably."""

    value: float
    unit: str
    canonical_text: str


def parse(quantity_name: str, text: str, *, default_unit: str | None = None) -> Parsed:
    """Read `text` as the named quantity.

    `default_unit` is used for a bare number. Returns the SI value. Raises `UnitError`.
    """
    quantity = QUANTITIES[quantity_name]
    if quantity_name == "mass":
        mass = parse_mass(text, default_unit=default_unit)
        return Parsed(mass.kg, mass.unit, mass.canonical_text)
    if not text.strip():
        raise UnitError("empty", "Nothing was entered.")
    fraction = _FRACTION.match(text)
    if quantity_name == "tube_od" and fraction:
        return _parse_fraction(quantity, fraction, text)
    feet = _FEET_INCHES.match(text)
    if quantity_name == "length" and feet:
        value = int(feet[1]) * 12 * INCH_M + float(feet[2]) * INCH_M
        return Parsed(value, "ft", f"{feet[1]} ft {feet[2]} in")
    return _parse_plain(quantity, text, default_unit)


def _parse_plain(quantity: Quantity, text: str, default_unit: str | None) -> Parsed:
    match = _NUMBER_UNIT.match(text)
    if not match:
        raise UnitError(
            "not_a_number",
            "“{text}” is not a number with a unit, such as {example}.",
            words={"text": text.strip(), "example": _example(quantity)},
        )
    number = read_number(match[1])
    symbol = match[2] or default_unit
    if symbol is None:
        raise UnitError("needs_unit", "“{text}” needs a unit: {choices}.", words={"text": text.strip(), "choices": _choices(quantity)})
    unit = quantity.unit(symbol)
    if unit is None:
        raise UnitError(
            "unknown_unit",
            "“{symbol}” is not a unit Yoshi knows here. Use {choices}.",
            words={"symbol": symbol, "choices": _choices(quantity)},
        )
    if number < 0 and not quantity.signed:
        raise UnitError("negative", "“{text}” is below zero, which this cannot be.", words={"text": text.strip()})
    value = number * unit.factor + unit.offset
    if not math.isfinite(value):
        raise UnitError("too_large", "“{text}” is too large to be a measurement.", words={"text": text.strip()})
    return Parsed(value, unit.symbol, f"{_plain(number)} {unit.symbol}".strip())


def _parse_fraction(quantity: Quantity, match: re.Match[str], text: str) -> Parsed:
    whole, top, bottom = int(match[1] or 0), int(match[2]), int(match[3])
    if bottom == 0:
        raise UnitError("not_a_number", "“{text}” divides by zero.", words={"text": text.strip()})
    unit = quantity.unit(match[4] or "in")
    if unit is None or unit.symbol != "in":
        raise UnitError("unknown_unit", "A tube size written as a fraction is in inches.")
    inches = whole + Fraction(top, bottom)
    shown = f"{whole}-{top}/{bottom}" if whole else f"{top}/{bottom}"
    return Parsed(float(inches) * INCH_M, "in", f"{shown} in")


def parse_number(value: float, quantity_name: str, unit_symbol: str) -> float:
    """SI value of a number already known to be in the unit. Raises `InvalidInput` for an unknown unit."""
    unit = QUANTITIES[quantity_name].unit(unit_symbol)
    if unit is None:
        raise InvalidInput(
            "{unit_symbol} is not a unit of {quantity_name}.", words={"unit_symbol": unit_symbol, "quantity_name": quantity_name}
        )
    return value * unit.factor + unit.offset


def _plain(number: float) -> str:
    return f"{number:.10g}"


def _choices(quantity: Quantity) -> str:
    return ", ".join(unit.symbol for unit in quantity.units)


def _example(quantity: Quantity) -> str:
    return {"tube_od": "3/8 in", "length": "55 ft", "temperature": "54 °F", "linear_density": "0.6 oz/ft"}.get(
        quantity.name, f"10 {quantity.us}"
    )
