"""What Identify hands to the steps after it."""

from yoshi_core.charge.total import ChargeBuildUp
from yoshi_core.document.plate import Plate
from yoshi_core.frozen import dataclass


@dataclass(frozen=True)
class Identified:
    """What later steps build on: the plate as it stands and the total, None while it cannot be computed.

    `careful` is the smaller total while a field is disputed.
    """

    plate: Plate
    build_up: ChargeBuildUp | None
    careful: ChargeBuildUp | None
