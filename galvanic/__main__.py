"""`python -m galvanic predict|ladder|gap|load|materials`: the core for those who live in files."""

import sys

from galvanic.command.main import main

if __name__ == "__main__":
    sys.exit(main())
