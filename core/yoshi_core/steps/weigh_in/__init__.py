"""Weigh in: the total becomes a reading of the scale."""
