"""What Weigh in hands to the steps after it."""

from dataclasses import dataclass


@dataclass(frozen=True)
class Weighed:
    """What later steps build on: what is inside now and the plan, in kg; None where unknown."""

    inside_kg: float | None
    plan_kg: float | None
    uncertainty_kg: float | None
    weighed: bool
