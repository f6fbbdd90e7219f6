"""What Leak search hands to the steps after it."""

from dataclasses import dataclass

from yoshi_core.leaks import rate as leak_rate


@dataclass(frozen=True)
class Searched:
    """What later steps build on: the leak seen under nitrogen before the repair, what was lost in kg/s, None where unknown.

    `empty`: nothing was in it when it was searched.
    """

    before: leak_rate.LeakBand | None
    loss_kg_s: float | None
    empty: bool
