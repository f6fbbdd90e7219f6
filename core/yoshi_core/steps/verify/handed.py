"""What Verify hands to the steps after it."""

from dataclasses import dataclass

from yoshi_core.running.targets import Judge


@dataclass(frozen=True)
class Verified:
    """What close-out builds on: the charge inside in kg, what proved it, and the fingerprint."""

    inside_kg: float | None
    judged_by: Judge | None
    holds: bool
