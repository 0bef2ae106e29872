"""Tests of the core, and how all of them draw examples: no clock decides, however slow the machine is."""

from hypothesis import HealthCheck, settings

settings.register_profile("steady", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("steady")
