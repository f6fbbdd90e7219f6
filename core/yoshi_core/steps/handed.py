"""What the steps of a job hand to those after them, as far as they were judged."""

from dataclasses import field, replace
from typing import Any

from yoshi_core.document.plate import Plate
from yoshi_core.frozen import dataclass
from yoshi_core.steps.as_found.handed import Found
from yoshi_core.steps.evacuate.handed import Evacuated
from yoshi_core.steps.identify.handed import Identified
from yoshi_core.steps.leak_search.handed import Searched
from yoshi_core.steps.plan_change.handed import Change
from yoshi_core.steps.pressure_hold.handed import Held
from yoshi_core.steps.recover.handed import Recovered
from yoshi_core.steps.repair.handed import Repaired
from yoshi_core.steps.verify.handed import Verified
from yoshi_core.steps.weigh_in.handed import Weighed

HandedOn = Identified | Found | Change | Searched | Recovered | Repaired | Held | Evacuated | Weighed | Verified


def _nothing_identified() -> Identified:
    return Identified(Plate(), None, None)


def _nothing_weighed() -> Weighed:
    return Weighed(None, None, None, weighed=False)


def _nothing_verified() -> Verified:
    return Verified(None, None, holds=False)


@dataclass(frozen=True)
class Handed:
    """One place a step that hands something on; None where it was not judged yet, or this kind of job has no such step."""

    identify: Identified = field(default_factory=_nothing_identified)
    as_found: Found | None = None
    plan_change: Change | None = None
    leak_search: Searched | None = None
    recover: Recovered | None = None
    repair: Repaired | None = None
    pressure_hold: Held | None = None
    evacuate: Evacuated | None = None
    weigh_in: Weighed = field(default_factory=_nothing_weighed)
    verify: Verified = field(default_factory=_nothing_verified)

    def with_one(self, step: str, hands: HandedOn | None) -> "Handed":
        """With what one step handed on; unchanged for a step that hands on nothing, or nothing yet."""
        given: dict[str, Any] = {} if hands is None else {step: hands}
        return replace(self, **given)
