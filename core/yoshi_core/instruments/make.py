"""An instrument as it describes itself: its ±, and when its calibration is overdue."""

from datetime import date, datetime

from yoshi_core.frozen import dataclass
from yoshi_core.profile.profile import Profile


@dataclass(frozen=True)
class Make:
    """An instrument as it describes itself: name, display step, ± as a limit and as a share of the reading, in SI, and its calibration day."""

    name: str
    step: float
    limit: float
    relative: float
    calibrated_on: str = ""


def overdue(calibrated_on: str, today: date, profile: Profile) -> bool:
    """Whether the day of calibration is longer ago than the profile lets it count; an unknown day is not overdue, only unknown."""
    if not calibrated_on:
        return False
    return (today - date.fromisoformat(calibrated_on)).days * 86_400.0 > profile.value("instrument.calibrated")


def limit_at(make: Make, value: float, now: datetime, profile: Profile) -> float:
    """The ± of a reading in SI; it counts for more once the calibration is overdue."""
    own = max(make.limit, make.relative * abs(value))
    return own * (profile.value("instrument.overdue") if overdue(make.calibrated_on, now.date(), profile) else 1.0)
