"""Identify: plate, lines and parts become the total charge."""
