"""Saturation, vapour, cycle, air: what the refrigerant and the air are at a state."""
