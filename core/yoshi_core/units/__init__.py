"""Quantities as people write them, in SI, and back."""

from yoshi_core.units.display import Amount, show
from yoshi_core.units.mass import Echo, MassFaces, ParsedMass, echo, looks_like_slip, mass_faces, parse_mass
from yoshi_core.units.text import Parsed, parse

__all__ = ["Amount", "Echo", "MassFaces", "Parsed", "ParsedMass", "echo", "looks_like_slip", "mass_faces", "parse", "parse_mass", "show"]
