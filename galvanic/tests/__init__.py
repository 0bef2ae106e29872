"""Tests of the core alone. Time is measured by benchmarks, never by tests: a slow machine fails nothing."""

from hypothesis import settings

settings.register_profile("steady", deadline=None)
settings.load_profile("steady")
