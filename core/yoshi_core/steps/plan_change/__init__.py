"""Plan the change: another refrigerant in this system."""
