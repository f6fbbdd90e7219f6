"""What Repair hands to the steps after it."""

from datetime import datetime

from yoshi_core.frozen import dataclass


@dataclass(frozen=True)
class Repaired:
    """What later steps build on: whether water may be inside, and oil to add in m³, None where it was not measured.

    `done`: something was opened, joined or fitted, and `parts` names it. `failed` names parts whose cause is known, `unknown` those whose cause is
    not. `typed` are the moments its rows were first entered.
    """

    wet: bool
    oil_m3: float | None
    done: bool = False
    parts: tuple[str, ...] = ()
    failed: tuple[str, ...] = ()
    unknown: tuple[str, ...] = ()
    typed: tuple[datetime, ...] = ()

    def again(self, read_at: datetime) -> tuple[datetime, ...]:
        """Moments of a further opening: rows entered after that moment, where others stood before it. Paper that is filled in late opens nothing."""
        return tuple(moment for moment in self.typed if moment > read_at) if any(moment <= read_at for moment in self.typed) else ()
