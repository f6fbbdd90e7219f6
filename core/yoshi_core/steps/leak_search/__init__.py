"""Leak search: where it went."""
