"""What a group could claim of a cell and what becomes of it, and what happens at its plates: as the pages say it."""

from __future__ import annotations

import argparse
import sys
from dataclasses import asdict
from typing import Any

from galvanic.bench.checks import MOST_CELL_V
from galvanic.bench.readings import parse
from galvanic.chemistry.plate_work import at_plates
from galvanic.command.cells import cell_of, say_of
from galvanic.command.tables import BadFile, dump
from galvanic.errors import UnknownMaterial
from galvanic.findings.claims import CAUSES, weigh
from galvanic.findings.compare import ClassReading, compare
from galvanic.findings.verdicts import data_of
from galvanic.reference import catalogue

GROUP = "you"


def run_claim(options: argparse.Namespace) -> None:
    """Weigh a claim on one reading: CAUSE NEGATIVE ELECTROLYTE POSITIVE VOLTS."""
    if options.cause not in CAUSES:
        raise UnknownMaterial(f"There is no cause “{options.cause}”. There are: {', '.join(CAUSES)}.")
    cell, measured = cell_of(options.negative, options.electrolyte, options.positive), parse(options.volts)
    if abs(measured.volts_v) > MOST_CELL_V:
        raise BadFile(f"No cell of two plates gives {options.volts} V: {MOST_CELL_V} V at most. Were these millivolts?")
    say_of(cell)
    reading = ClassReading(GROUP, cell.positive, cell.negative, cell.electrolyte, measured.volts_v, measured.resolution_v)
    results = compare([reading])
    data = data_of(GROUP, results[0].cells[0].cell, results)
    verdict = weigh(options.cause, data)
    if options.json:
        dump({"cause": options.cause, "verdict": verdict.code, "text": verdict.text, "question": verdict.question})
    else:
        sys.stdout.write(f"{verdict.code}\n{verdict.text}\n{verdict.question}\n")


def run_plates(options: argparse.Namespace) -> None:
    """What happens at each plate of a cell that gives current: NEGATIVE ELECTROLYTE POSITIVE."""
    cell = cell_of(options.negative, options.electrolyte, options.positive)
    say_of(cell)
    found = at_plates(cell)
    sides = (("negative", found.negative, found.at_negative), ("positive", found.positive, found.at_positive))
    if options.json:
        dump({side: {"plate": plate, "reactions": [asdict(work) for work in works]} for side, plate, works in sides})
        return
    for side, plate, works in sides:
        sys.stdout.write(f"{side} plate, {catalogue.electrodes()[plate].name}\n")
        for work in works:
            remark = f"; {work.remark}" if work.remark else ""
            sys.stdout.write(f"  {work.equation}  ({100.0 * work.share:.0f} %; {work.what_is_seen}{remark})\n")


def add_explained(commands: Any) -> None:
    """The arguments of both."""
    for name, run in (("claim", run_claim), ("plates", run_plates)):
        command = commands.add_parser(name, help=run.__doc__)
        if name == "claim":
            command.add_argument("cause", help=", ".join(CAUSES))
        for word in ("negative", "electrolyte", "positive"):
            command.add_argument(word)
        if name == "claim":
            command.add_argument("volts")
        command.set_defaults(run=run)
