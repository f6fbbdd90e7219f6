"""Charging a unit that is not there: exercises, the bench they are done on, and a careful technician to compare with."""
