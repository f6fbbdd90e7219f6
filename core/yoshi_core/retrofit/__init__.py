"""Another refrigerant in the same system."""
