"""Two readings of one cylinder on a scale: the only place where they become a mass, and which follow on from which."""

from math import fsum

from yoshi_core.errors import InvalidInput
from yoshi_core.frozen import dataclass

FOLLOWS_WITHIN_KG = 1e-6
ROUNDING_KG = 1e-9


@dataclass(frozen=True)
class Weighing:
    """Gross before and after in kg, each with its standard uncertainty in kg."""

    cylinder: str
    before_kg: float
    after_kg: float
    before_u_kg: float = 0.0
    after_u_kg: float = 0.0

    def follows(self, earlier: "Weighing") -> bool:
        """Whether it begins at the reading the earlier one of the same cylinder ended with."""
        return self.cylinder == earlier.cylinder and abs(self.before_kg - earlier.after_kg) <= FOLLOWS_WITHIN_KG


def weighed_in_kg(start_gross_kg: float, end_gross_kg: float, hose_loss_kg: float) -> float:
    """What reached the system from one cylinder.

    Raises `InvalidInput` when the scale went up, or moved by less than the hose holds.
    """
    drawn = start_gross_kg - end_gross_kg
    if drawn < -ROUNDING_KG:
        raise InvalidInput(
            "The scale reads more at the end than at the start; the two readings may be swapped.",
            path="/gross_end",
            start_kg=start_gross_kg,
            end_kg=end_gross_kg,
        )
    if ROUNDING_KG < drawn < hose_loss_kg - ROUNDING_KG:
        raise InvalidInput(
            "Less left the cylinder than is counted as lost in the hose; check the hose loss.",
            path="/hose_loss",
            drawn_kg=drawn,
        )
    reached = fsum((drawn, -hose_loss_kg))
    return reached if drawn > ROUNDING_KG and reached > 0.0 else 0.0
