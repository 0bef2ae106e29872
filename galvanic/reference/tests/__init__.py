"""Tests of this folder; importing the core’s brings their settings."""

import galvanic.tests  # noqa: F401
