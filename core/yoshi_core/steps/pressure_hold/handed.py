"""What Pressure hold hands to the steps after it."""

from dataclasses import dataclass


@dataclass(frozen=True)
class Held:
    """What later steps build on: whether it is proven under nitrogen."""

    holds: bool
