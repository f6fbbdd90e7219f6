"""What Weigh in hands to the steps after it."""

from yoshi_core.frozen import dataclass


@dataclass(frozen=True)
class Weighed:
    """What later steps build on: what is inside now and the plan, in kg; None where unknown.

    `state` is what was said to be in it before. `goal_kg` is what weighing aims at: the total, or what is expected of another refrigerant; `tolerance_kg` how far from it is right.
    """

    inside_kg: float | None
    plan_kg: float | None
    uncertainty_kg: float | None
    weighed: bool
    state: str | None = None
    goal_kg: float | None = None
    tolerance_kg: float = 0.0
