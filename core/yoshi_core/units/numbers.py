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
                "not_a_number",
                "“{plain}” has more than one sign in it that may be a decimal one. Write it with a single point.",
                words={"plain": plain},
            )
        raise UnitError(
            "comma",
            "“{plain}” has a comma. If it is a decimal sign, write {shown}.",
            words={"plain": plain, "shown": shown},
            suggestion=shown,
        )
    try:
        number = float(plain)
    except ValueError:
        raise UnitError("not_a_number", "“{plain}” is not a number.", words={"plain": plain}) from None
    if math.isnan(number):
        raise UnitError("not_a_number", "“{plain}” is not a number.", words={"plain": plain})
    if math.isinf(number):
        raise UnitError("too_large", "“{plain}” is too large to be a measurement.", words={"plain": plain})
    return number
