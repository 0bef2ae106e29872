"""Cited data and the only code that reads it."""
