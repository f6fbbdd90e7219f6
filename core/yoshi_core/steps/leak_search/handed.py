"""What Leak search hands to the steps after it."""

from datetime import datetime

from yoshi_core.frozen import dataclass
from yoshi_core.leaks import rate as leak_rate


@dataclass(frozen=True)
class Searched:
    """What later steps build on: the leak seen under nitrogen before the repair, what was lost in kg/s, None where unknown.

    `empty`: nothing was in it when it was searched, `nitrogen`: dry nitrogen and nothing else, as somebody said. `hits` are places found leaking in any search, `leaking` those not found clean since;
    `last_hit_at` is when one of a further search was first entered, None in the first.
    """

    before: leak_rate.LeakBand | None
    loss_kg_s: float | None
    empty: bool
    nitrogen: bool = False
    hits: tuple[str, ...] = ()
    leaking: tuple[str, ...] = ()
    last_hit_at: datetime | None = None
