"""Close out: how the job ends."""
