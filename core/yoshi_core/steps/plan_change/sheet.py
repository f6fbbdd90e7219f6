"""Which refrigerant it changes to, and under what it runs."""

from typing import Annotated

from yoshi_core.document.sheets import Entry, Facts
from yoshi_core.frozen import dataclass
from yoshi_core.units.quantities import FAHRENHEIT_K


@dataclass(frozen=True)
class PlanChangeSheet:
    """Which refrigerant goes in, who agrees, and the conditions it is compared at; what is empty is usual for the kind."""

    refrigerant: Annotated[str | None, Facts("text", "changes to", max_length=40)] = None
    approved: Annotated[bool | None, Facts("yesno", "the maker, or whoever is responsible for the unit, agrees")] = None
    evaporating: Annotated[Entry | None, Facts("temperature", "evaporating, mean", (203.15, 303.15), (223.15, 293.15))] = None
    condensing: Annotated[Entry | None, Facts("temperature", "condensing, mean", (263.15, 353.15), (288.15, 338.15))] = None
    superheat: Annotated[Entry | None, Facts("temperature_delta", "superheat at the compressor", (0.0, 60.0), (0.0, 40 * FAHRENHEIT_K))] = (
        None
    )
    subcooling: Annotated[Entry | None, Facts("temperature_delta", "subcooling", (0.0, 40.0), (0.0, 30 * FAHRENHEIT_K))] = None
    efficiency: Annotated[Entry | None, Facts("fraction", "compressor's efficiency", (0.3, 1.0), (0.4, 0.85))] = None
    outdoor: Annotated[Entry | None, Facts("temperature", "air on the worst day", (253.15, 333.15), (288.15, 325.15))] = None
    duty: Annotated[Entry | None, Facts("power", "duty it has to do", (10.0, 5e6), (100.0, 5e5))] = None
