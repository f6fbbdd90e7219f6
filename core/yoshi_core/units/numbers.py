"""Numbers as typed: one decimal point, no thousands separators, commas asked about."""

import math

from yoshi_core.errors import UnitError


def read_number(text: str) -> float:
    """The number `text` stands for; raises `UnitError` for a comma (ask), for two points, for infinity."""
    plain = text.strip().replace("−", "-")
    if "," in plain:
        shown = plain.replace(",", ".")
        raise UnitError("comma", f"“{plain}” has a comma. If it is a decimal sign, write {shown}.", suggestion=shown)
    try:
        number = float(plain)
    except ValueError:
        raise UnitError("not_a_number", f"“{plain}” is not a number.") from None
    if math.isnan(number):
        raise UnitError("not_a_number", f"“{plain}” is not a number.")
    if math.isinf(number):
        raise UnitError("too_large", f"“{plain}” is too large to be a measurement.")
    return number
