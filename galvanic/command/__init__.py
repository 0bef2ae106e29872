"""The command line: `python -m galvanic`."""
