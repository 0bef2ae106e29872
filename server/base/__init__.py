"""What every application stands on: refusals, what comes in, what is kept, telling open pages."""
