"""Accounts over time: of a cylinder and of a circuit."""
