"""Running the command line as its user would."""

import io
import subprocess
import sys
from unittest import mock

from galvanic.command.main import main


def outside(*arguments, text=None):
    """As its user would: a process of its own."""
    found = subprocess.run([sys.executable, "-m", "galvanic", *arguments], input=text, capture_output=True, text=True)
    return found.returncode, found.stdout, found.stderr


def run(*arguments, text=None):
    """The same in this process, which starts SciPy once."""
    out, err = io.StringIO(), io.StringIO()
    given = io.TextIOWrapper(io.BytesIO((text or "").encode()))
    with mock.patch.multiple(sys, stdin=given, stdout=out, stderr=err):
        try:
            code = main(arguments)
        except SystemExit as stopped:  # wrong arguments
            code = int(stopped.code or 0)
    return code, out.getvalue(), err.getvalue()
