"""Numbers as typed: one decimal point; a comma alone is asked about, a point and a comma together say which is which."""

import math
import re

from yoshi_core.errors import UnitError

_GROUPED = re.compile(r"[-+]?\d{1,3}(?:(?P<group>[.,])\d{3})(?:(?P=group)\d{3})*(?!(?P=group))[.,]\d+")


def read_number(text: str) -> float:
    """The number `text` stands for; raises `UnitError` for a comma (ask), for two points, for infinity."""
    plain = text.strip().replace("−", "-")
    grouped = _GROUPED.fullmatch(plain)
    if grouped is not None:  # 1.225,5 and 1,225.5 leave no doubt: threes before, a share behind
        whole, share = plain.replace(grouped["group"], "").replace(",", ".").split(".")
        plain = f"{whole}.{share}"
    if "," in plain:
        shown = plain.replace(",", ".")
        if shown.count(".") > 1:
            raise UnitError(
                "not_a_number", f"“{plain}” has more than one sign in it that may be a decimal one. Write it with a single point."
            )
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
