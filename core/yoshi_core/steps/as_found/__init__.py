"""As found: what the unit says before anyone touches it."""
