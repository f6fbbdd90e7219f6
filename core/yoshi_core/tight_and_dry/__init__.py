"""Hold, nitrogen, decay, evacuation, pull-down, and the thinning of logs."""
