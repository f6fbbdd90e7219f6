"""How the job ends."""

from typing import Annotated

from yoshi_core.document.model import OUTCOMES, Outcome
from yoshi_core.document.sheets import Facts
from yoshi_core.frozen import dataclass


@dataclass(frozen=True)
class CloseOutSheet:
    """How the job ends."""

    outcome: Annotated[Outcome | None, Facts("choice", "how the job closes", options=OUTCOMES)] = None
    reason: Annotated[str | None, Facts("text", "reason", max_length=500)] = None
    label_fixed: Annotated[bool | None, Facts("yesno", "label fixed to the unit")] = None
    update_circuit: Annotated[bool | None, Facts("yesno", "put this plate on the circuit's record")] = None
    site: Annotated[str | None, Facts("text", "site", max_length=120)] = None
    system: Annotated[str | None, Facts("text", "name of the unit", max_length=120)] = None
    customer: Annotated[str | None, Facts("text", "note for the customer", max_length=120)] = None
    note: Annotated[str | None, Facts("text", "note", max_length=1000)] = None
