"""The volume inside a circuit, with the factor it may be off."""

from yoshi_core.frozen import dataclass


@dataclass(frozen=True)
class Volume:
    """A circuit's volume in m³ and the factor it may be off either way; `how` says where it is from."""

    m3: float
    band: float
    how: str
