"""Property tests on shared machines: no deadline for a single example."""

from hypothesis import HealthCheck, settings

settings.register_profile("patient", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("patient")
