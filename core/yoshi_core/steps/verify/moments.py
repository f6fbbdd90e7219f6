"""Whether a row of Verify was read, and when."""

from datetime import datetime

from yoshi_core.document.sheets import Entry
from yoshi_core.steps.verify.sheet import VerifyReading


def is_read(reading: VerifyReading) -> bool:
    """Whether anything of the running unit was read, beside the change of charge."""
    return any(entry is not None for entry in _read(reading))


def read_at(reading: VerifyReading) -> datetime | None:
    """When it was read: as said, else when the last of its figures was written down; None where neither is known."""
    if reading.at is not None:
        return reading.at
    return max((entry.at for entry in _read(reading) if entry is not None and entry.at is not None), default=None)


def _read(reading: VerifyReading) -> tuple[Entry | None, ...]:
    return reading.suction_pressure, reading.true_suction, reading.liquid_pressure, reading.suction_line, reading.liquid_line
