"""A workbook of somebody's is read in a process of its own, which ends when it takes too long or too much memory: a file of
a few kilobytes can stand for billions of rows. `python -m server.records.apart LANGUAGE SHEET` reads a file and writes its
tables.
"""

from __future__ import annotations

import json
import resource
import subprocess
import sys
import threading
from dataclasses import asdict
from typing import Any

from galvanic.bench.table_rows import BadTableText
from galvanic.words import language, mark, say, speaking
from server.base.problems import Problem, RowFault
from server.records.file_text import refused
from server.records.spreadsheets import ZIPPED, Tables, tables_of

CPU_S, WALL_S, MOST_BYTES = 12, 25.0, 1_500_000_000
TOO_MUCH = mark("The file takes too long to read: it is far larger than a table. Save the table alone as CSV.")
_one_at_a_time = threading.Semaphore(1)


def tables_apart(content: bytes, sheet: str = "") -> Tables:
    """The tables of a file, as `tables_of` has them. Raises Problem too_big besides where reading takes too much."""
    if content[:4] != ZIPPED:
        return tables_of(content, sheet)
    with _one_at_a_time:
        try:
            done = subprocess.run(  # noqa: S603  # our own module; the sheet's name is one argument, whatever is in it
                [sys.executable, "-m", __name__, language(), sheet],
                input=content,
                capture_output=True,
                timeout=WALL_S,
                check=False,
            )
        except subprocess.TimeoutExpired:
            raise refused("too_big", say(TOO_MUCH), status=413) from None
    if done.returncode != 0:
        raise refused("too_big", say(TOO_MUCH), status=413)
    told: dict[str, Any] = json.loads(done.stdout)
    if (problem := told.get("problem")) is not None:
        rows = [RowFault(**row) for row in problem["rows"]]
        raise Problem(problem["status"], problem["code"], problem["message"], problem["field"], rows)
    if (bad := told.get("bad")) is not None:
        raise BadTableText(bad["code"], bad["text"], [(line, text) for line, text in bad["rows"]])
    readings, loads = ([(line, fields) for line, fields in told[name]] for name in ("readings", "loads"))
    return Tables(readings, loads, tuple(told["says"]), tuple((name, rows) for name, rows in told["sheets"]))


def main(content: bytes, spoken: str, sheet: str) -> dict[str, Any]:
    """The tables of a file, or why there are none, as JSON has it."""
    with speaking(spoken):
        try:
            return asdict(tables_of(content, sheet))
        except Problem as problem:
            return {"problem": asdict(problem.refusal)}
        except BadTableText as error:
            return {"bad": {"code": error.code, "text": str(error), "rows": list(error.rows)}}


if __name__ == "__main__":
    resource.setrlimit(resource.RLIMIT_CPU, (CPU_S, CPU_S))
    resource.setrlimit(resource.RLIMIT_AS, (MOST_BYTES, MOST_BYTES))
    sys.stdout.write(json.dumps(main(sys.stdin.buffer.read(), *sys.argv[1:3])))
