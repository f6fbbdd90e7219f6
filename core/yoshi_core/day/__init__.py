"""What is left of a job on the clock, and the plan of a day."""
