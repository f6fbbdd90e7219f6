"""How much refrigerant may be in a system that serves a room: by flammability, and by what a leak would leave to breathe.

A flammable charge is free up to `k·4 m³·LFL` (k = 1.5 for class A2L), above it up to `2.5·LFL^1.25·h₀·√A` with the
mounting height h₀ (IEC 60335-2-40, from memory). Any other is held against its practical limit in kg/m³ of the
smallest room (EN 378-1, from memory). Local code and the maker prevail.
"""

from math import sqrt

from yoshi_core.errors import OutOfRange
from yoshi_core.profile.profile import RULES, Profile
from yoshi_core.refrigerants import Refrigerant

HEIGHTS_M = {"floor": 0.6, "window": 1.0, "wall": 1.8, "ceiling": 2.2}
POWER, FACTOR = 1.25, 2.5


def free_kg(refrigerant: Refrigerant, profile: Profile) -> float | None:
    """The flammable charge in kg that needs no room of its own; None for what is not flammable."""
    if refrigerant.lfl_kg_m3 is None or not refrigerant.is_flammable:
        return None
    mild = profile.value("room.mild") if refrigerant.safety_class.endswith("2L") else 1.0
    return mild * profile.value("room.free") * refrigerant.lfl_kg_m3


def ceiling_kg(refrigerant: Refrigerant, area_m2: float, mounting: str) -> float:
    """The most in kg for a room of this floor and mounting height. Raises `OutOfRange` for no floor, or for what is not flammable."""
    if not area_m2 > 0.0 or refrigerant.lfl_kg_m3 is None:
        raise OutOfRange("A ceiling takes a flammable refrigerant and a floor above zero.", value=area_m2)
    return float(FACTOR * refrigerant.lfl_kg_m3**POWER * HEIGHTS_M[mounting] * sqrt(area_m2))


def area_for_m2(refrigerant: Refrigerant, charge_kg: float, mounting: str) -> float:
    """The smallest floor in m² that this charge may serve. Raises `OutOfRange` for what is not flammable."""
    if refrigerant.lfl_kg_m3 is None:
        raise OutOfRange("Only a flammable charge asks for a floor.", value=charge_kg)
    return float((charge_kg / (FACTOR * refrigerant.lfl_kg_m3**POWER * HEIGHTS_M[mounting])) ** 2)


def breathing_kg_m3(refrigerant: Refrigerant, profile: Profile) -> float | None:
    """What may be in the air of a room after a leak in kg/m³, None where the profile has no figure."""
    rule = f"room.{refrigerant.name}"
    return profile.value(rule) if rule in RULES else None
