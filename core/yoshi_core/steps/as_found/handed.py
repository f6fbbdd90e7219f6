"""What As found hands to the steps after it."""

from yoshi_core.frozen import dataclass
from yoshi_core.running.readings import CoolingState


@dataclass(frozen=True, kw_only=True)
class Read(CoolingState):
    """Absolute pressures in Pa, saturations and differences in K; None where a reading is missing.

    In heating the vapour port is the high side: `condensing_k` is from it, `evaporating_k` from the true suction at the
    compressor, and `under_k` is under the outdoor air. A unit that cycles gives none of them.
    `standing` is below, at or above saturation at the coldest part; `left_kg` what is left where it is below.
    """

    suction_pa: float | None = None
    liquid_pa: float | None = None
    evaporating_k: float | None = None
    condensing_k: float | None = None
    split_k: float | None = None
    over_k: float | None = None
    under_k: float | None = None
    amps_share: float | None = None
    standing: str | None = None
    left_kg: float | None = None


@dataclass(frozen=True)
class Found:
    """What later steps build on: the leading cause (None: not said), whether it stands clear, what is left in kg, and what was read.

    `at_air`: it stood at the air's own pressure, or under it.
    """

    lead: str | None
    settled: bool
    standing: str | None
    left_kg: float | None
    read: Read
    at_air: bool
