"""The rules and the computation of refrigerant charging: one function of a job document."""

__version__ = "0.4.0"
