"""How near the total a charge must come: by the plate, the maker, or the kind of system."""

from yoshi_core.document.plate import Plate
from yoshi_core.frozen import dataclass
from yoshi_core.profile.profile import Profile
from yoshi_core.units.quantities import OZ_KG

HALF_SHOWN_KG = 0.05 * OZ_KG
STATED = {"makers": "maker's data", "note": "on record", "told": "as told", "assumed": "assumed"}


@dataclass(frozen=True)
class Tolerance:
    """A ± in kg and the rule it is from. `strict`: stated on the plate, or the charge is critical: then the scale must be fit for it."""

    kg: float
    rule_id: str
    source: str
    strict: bool

    def holds(self, gap_kg: float) -> bool:
        """Whether a charge so far from its total is right: not over the ± by more than half a step shown."""
        return abs(gap_kg) <= self.kg + HALF_SHOWN_KG


def tolerance_of(plate: Plate, total_kg: float, profile: Profile) -> Tolerance:
    """The plate's own ±, or the maker's; else a share by kind, and never finer than the profile says."""
    strict = critical(plate, total_kg, profile)
    if plate.tolerance is not None:
        return Tolerance(plate.tolerance.value, "weigh_in.stated", STATED.get(plate.tolerance.source, "data plate"), strict=True)
    if plate.kind == "reach_in":
        share = max(profile.value("weigh_in.small") * total_kg, profile.value("critical.tolerance"))
        return Tolerance(share, "weigh_in.small", profile.source("weigh_in.small"), strict)
    share = max(profile.value("weigh_in.tolerance") * total_kg, profile.value("weigh_in.least"))
    return Tolerance(share, "weigh_in.tolerance", profile.source("weigh_in.tolerance"), strict)


def critical(plate: Plate, total_kg: float, profile: Profile) -> bool:
    """Critically charged is all three: little in it, a capillary, and no receiver."""
    return plate.metering == "capillary" and plate.kind != "receiver" and total_kg < profile.value("critical.below")
