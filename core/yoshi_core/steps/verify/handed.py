"""What Verify hands to the steps after it."""

from typing import Literal

from yoshi_core.frozen import dataclass
from yoshi_core.message import Message
from yoshi_core.running.targets import Judge


@dataclass(frozen=True)
class Verified:
    """What close-out builds on: the charge inside in kg, what proved it, and the fingerprint.

    `shows`: the running unit is inside its `target`, or inside the `thumb` rules of its kind, None where neither speaks. `gone`: the fault it was called for does not show. `against`: outside its target, or its
    readings fit another fault. `read`: there are readings. `trimmed`: charge was added or taken by them. `stale`: charge went in or out after the last. `which_circuit`: it says which
    of two plates is its own. `words` say what was read.
    """

    inside_kg: float | None
    judged_by: Judge | None
    holds: bool
    shows: Literal["target", "thumb"] | None = None
    gone: bool = False
    against: bool = False
    read: bool = False
    trimmed: bool = False
    stale: bool = False
    which_circuit: bool = False
    mode: str = ""
    words: Message | None = None
