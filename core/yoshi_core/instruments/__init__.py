"""Instruments as the core sees them: channels, what may come over them, and what a make is worth."""
