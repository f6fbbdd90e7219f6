"""Verify: what the running unit says of the charge."""
