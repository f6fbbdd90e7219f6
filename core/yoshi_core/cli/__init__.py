"""The command `yoshi`."""
