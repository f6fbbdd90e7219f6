"""Evacuate: set-up, pull, and the isolated vacuum."""
