"""Nitrogen bottles as people call them: by the cubic feet of gas in a full one."""

from typing import Literal

BottleSize = Literal["20", "40", "60", "80", "125", "250"]
BOTTLE_SIZES = {size: f"{size} cubic feet" for size in ("20", "40", "60", "80", "125", "250")}
