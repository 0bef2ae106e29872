"""The gateway to connected meters."""
