"""Repair: what was opened, replaced and joined."""
