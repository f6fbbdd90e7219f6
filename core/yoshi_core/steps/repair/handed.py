"""What Repair hands to the steps after it."""

from dataclasses import dataclass


@dataclass(frozen=True)
class Repaired:
    """What later steps build on: whether water may be inside, and oil to add in m³, None where it was not measured."""

    wet: bool
    oil_m3: float | None
