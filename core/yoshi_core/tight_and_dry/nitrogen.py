"""What a job takes out of a nitrogen bottle, and whether it lasts: the flow while brazing, the test, breaks and sweeps.

Gas is counted as free gas, m³ at the pressure of the air, ideal and at one temperature: enough to say whether a bottle lasts.
"""

from yoshi_core.errors import OutOfRange
from yoshi_core.frozen import dataclass
from yoshi_core.profile.profile import Profile

BREAK_OVER = 1.15
# Water volume in m³ of bottles known by their gas, in cubic feet at the air's pressure, filled to about 2000 psi; common practice, from memory.
BOTTLES_M3 = {"20": 0.0041, "40": 0.0082, "60": 0.0112, "80": 0.0164, "125": 0.0233, "250": 0.0465}


@dataclass(frozen=True)
class Needs:
    """What is still to be done with it: seconds of flow for the flame, the test's gauge pressure in Pa, breaks of a vacuum, sweeps."""

    flow_s: float = 0.0
    test_pa: float = 0.0
    breaks: int = 0
    sweeps: int = 0


@dataclass(frozen=True)
class Account:
    """Free gas in m³: what each use takes, what the bottle gives, and the gauge pressure in Pa left in it, below zero where it does not last."""

    flame_m3: float
    test_m3: float
    vacuum_m3: float
    gives_m3: float
    left_pa: float

    @property
    def takes_m3(self) -> float:
        """All that is taken from the bottle, m³ at the site's pressure."""
        return self.flame_m3 + self.test_m3 + self.vacuum_m3


def bottle_m3(volume_m3: float | None, size: str | None) -> float | None:
    """The water volume of a bottle in m³: as stamped, else by its size in cubic feet of gas (`BOTTLES_M3`); None where neither is known."""
    return volume_m3 if volume_m3 is not None else BOTTLES_M3.get(size or "")


def after(method: str | None, wet: bool) -> tuple[int, int]:
    """Breaks and sweeps that the evacuation will take: two breaks where three pulls are chosen or it is wet, one sweep where that is the way."""
    if method == "sweep":
        return 0, 1
    return (2, 0) if method == "triple" or (method is None and wet) else (0, 0)


def account(bottle_pa: float, bottle_m3: float, system_m3: float, needs: Needs, site_pa: float, profile: Profile) -> Account:
    """The whole of it. `bottle_pa` is what the bottle's gauge reads in Pa. Raises `OutOfRange` for volumes or a reading that cannot be."""
    if not (bottle_m3 > 0.0 and system_m3 > 0.0 and bottle_pa >= 0.0):
        raise OutOfRange("A bottle and a system have a volume above zero, and a bottle reads nothing or more.")
    flow = profile.value("nitrogen.flow")
    flame = flow * needs.flow_s
    test = needs.test_pa * system_m3 / site_pa
    vacuum = needs.breaks * BREAK_OVER * system_m3 + needs.sweeps * profile.value("nitrogen.sweep") * profile.value("nitrogen.sweep_time")
    gives = bottle_pa * bottle_m3 / site_pa
    return Account(flame, test, vacuum, gives, (gives - flame - test - vacuum) * site_pa / bottle_m3)
