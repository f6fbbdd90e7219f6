"""Thresholds and schools of a shop's practice, each with its source and why."""
