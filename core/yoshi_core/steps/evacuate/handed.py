"""What Evacuate hands to the steps after it."""

from dataclasses import dataclass


@dataclass(frozen=True)
class Evacuated:
    """What later steps build on: whether it is proven tight and dry."""

    proven: bool
