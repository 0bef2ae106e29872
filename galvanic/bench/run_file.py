"""A logger's file as a run: a plain table with its units in the heading, else a logger's own file with its preamble.

A column whose unit is not in its heading is asked for: then the unit comes with the file, and nothing is guessed.
"""

from __future__ import annotations

import math
from collections.abc import Mapping

from galvanic.bench.logger import read_trace
from galvanic.bench.run_table import BadRun, RunTable, UnitAsked, read_run
from galvanic.bench.text_files import NotText, decoded
from galvanic.errors import NotEnoughData
from galvanic.words import say

LEAST_ROWS = 2


def run_of_file(content: bytes, units: Mapping[str, str] | None = None) -> RunTable:
    """A run from a logger's file; `units` gives units for columns that name none, by heading or kind (time, volts, current).

    Raises UnitAsked for a unit that is missing or not known, BadRun, in words, for anything else that is no run.
    """
    try:
        text = decoded(content)
    except NotText as error:
        raise BadRun(str(error)) from error
    try:
        table = read_run(text, units)
    except UnitAsked:
        raise
    except BadRun as error:
        table = _own(content, error)
    if len(table.t_s) < LEAST_ROWS:
        raise BadRun(say("A run has two samples at least."))
    return table


def _own(content: bytes, plain: BadRun) -> RunTable:
    """A logger's own file, of volts; the plain table's complaint where it is none."""
    try:
        trace = read_trace(content)
    except NotEnoughData:
        raise plain from None
    return RunTable(tuple(trace.times_s), tuple(trace.volts_v), (), trace.others)


def thinned_run(run: RunTable, most: int) -> RunTable:
    """At most `most` samples, evenly taken, the first and the last among them."""
    n = len(run.t_s)
    step = max(1, math.ceil((n - 1) / max(1, most - 1)))
    at = sorted({*range(0, n, step), n - 1})

    def of(values: tuple[float, ...]) -> tuple[float, ...]:
        return tuple(values[i] for i in at) if values else ()

    return RunTable(of(run.t_s), of(run.volts_v), of(run.current_a), run.unused)
