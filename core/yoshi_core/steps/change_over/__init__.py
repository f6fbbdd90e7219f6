"""Change over: oil, seals, metering and controls for the other refrigerant."""
