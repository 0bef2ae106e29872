"""Which cells, how often, by whom, when; what it takes; what can hurt."""
