"""Repeats, ladders and their checks, outliers, drift: what many readings say together."""
