"""What Recover hands to the steps after it."""

from dataclasses import dataclass


@dataclass(frozen=True)
class Recovered:
    """What later steps build on: weight in kg, whether it is over, and whether the system is empty."""

    recovered_kg: float | None
    finished: bool
    empty: bool
