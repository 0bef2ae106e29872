"""The science of simple galvanic cells: numpy and scipy only, no interface code, no I/O but its own tables."""
