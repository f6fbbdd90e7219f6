"""Pressure hold: tight under nitrogen."""
