"""Between which accounts a class decides, and what a plan foresees, on the command line."""

from __future__ import annotations

import argparse
import sys
from itertools import combinations
from typing import Any

from galvanic.cells import Cell
from galvanic.command.tables import dump, readings, write
from galvanic.findings.class_standing import standing_readings
from galvanic.findings.compare import compare
from galvanic.findings.deciding import deciding


def run_decide(options: argparse.Namespace) -> None:
    """Which account a class's readings speak for, of a hundred, and the cells that would tell most."""
    counting, _ = standing_readings(readings(options.file))
    order = [(Cell.of(one.black, one.electrolyte, one.red, one.condition), one.group) for one in counting]
    plates = list(dict.fromkeys(plate for one in counting for plate in (one.black, one.red)))
    baths = list(dict.fromkeys((one.electrolyte, one.condition) for one in counting))
    further = [Cell.of(a, liquid, b, condition) for liquid, condition in baths for a, b in combinations(plates, 2)]
    found = deciding(compare(counting), list(dict.fromkeys(order)), further)
    if options.json:
        dump(
            {
                "shares": dict(found.shares),
                "verdict": found.verdict,
                "cells": found.cells,
                "telling": [
                    {"cell": one.cell.notation, "nats": one.nats, "decides": one.decides, "says_v": dict(one.says_v)}
                    for one in found.telling
                ],
            }
        )
        return
    write([{"account": name, "share": share} for name, share in found.shares.items()], False)
    sys.stderr.write(f"{found.verdict}\n" if found.verdict else "")


def add_deciding(commands: Any) -> None:
    """The arguments of the command."""
    command = commands.add_parser("decide", help=run_decide.__doc__)
    command.add_argument("file", help="CSV with columns group,red,black,electrolyte,volts; - for standard input")
    command.set_defaults(run=run_decide)
