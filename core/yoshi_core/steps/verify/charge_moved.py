"""What a step of trimming changed, by the scale where it was weighed, else as typed."""

from datetime import datetime

from yoshi_core.document.sheets import Entry, value_of
from yoshi_core.steps.verify.sheet import VerifyReading


def change_kg(reading: VerifyReading) -> float:
    """Charge in kg that went in before a reading; negative where it was taken out, zero where nothing was done or is still open."""
    if reading.gross_before is not None and reading.gross_after is not None:
        return reading.gross_before.value - reading.gross_after.value
    return (value_of(reading.added) or 0.0) - (value_of(reading.removed) or 0.0)


def is_read(reading: VerifyReading) -> bool:
    """Whether anything of the running unit was read, beside the change of charge."""
    return any(entry is not None for entry in _read(reading))


def read_at(reading: VerifyReading) -> datetime | None:
    """When it was read: as said, else when the last of its figures was written down; None where neither is known."""
    if reading.at is not None:
        return reading.at
    return max((entry.at for entry in _read(reading) if entry is not None and entry.at is not None), default=None)


def _read(reading: VerifyReading) -> tuple[Entry | None, ...]:
    return reading.suction_pressure, reading.liquid_pressure, reading.suction_line, reading.liquid_line
