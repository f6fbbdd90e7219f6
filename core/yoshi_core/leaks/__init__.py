"""Where to look for a leak, what was found, and how much it loses."""
