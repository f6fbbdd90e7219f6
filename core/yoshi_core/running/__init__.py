"""The running unit: readings, targets, the next step of charge, pressure controls."""
