"""The sheets of a plan: kit, safety, bench cards."""
