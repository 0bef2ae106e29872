"""`python -m galvanic predict|ladder|gap|load|materials`: the core for those who live in files."""

import os
import sys

from galvanic.command.main import main

if __name__ == "__main__":
    try:
        code = main()
        sys.stdout.flush()
    except BrokenPipeError:  # the reader, `head` for example, has seen enough
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        code = 0
    sys.exit(code)
