"""What groups’ sentences are heard to hold, on the command line."""

from __future__ import annotations

import argparse
import sys
from pathlib import Path
from typing import Any

from galvanic.command.tables import BadFile, dump
from galvanic.findings.ear import hear
from galvanic.findings.misconceptions import keys_heard


def run_hear(options: argparse.Namespace) -> None:
    """Beliefs heard in sentences, one a line: their keys, or a dash."""
    try:
        text = sys.stdin.read() if options.file == "-" else Path(options.file).read_text(encoding="utf-8")
    except (OSError, UnicodeDecodeError) as error:
        raise BadFile(f"{options.file}: cannot be read ({error})") from error
    heard = hear if options.language == "de" else keys_heard  # the rules know English only
    rows = [(line.strip(), heard(line)) for line in text.splitlines() if line.strip()]
    if options.json:
        dump([{"sentence": line, "heard": keys} for line, keys in rows])
    else:
        sys.stdout.write("".join(f"{' '.join(keys) or '-'}\n" for _, keys in rows))


def add_heard(commands: Any) -> None:
    """The arguments of the command."""
    command = commands.add_parser("hear", help=run_hear.__doc__)
    command.add_argument("file", help="one sentence a line; - for standard input")
    command.set_defaults(run=run_hear)
