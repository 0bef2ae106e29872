"""A class's own table as it is brought in: the core reads it, refusals say that nothing was imported."""

from __future__ import annotations

from galvanic.bench.readings_table import Looked, ReadingsTable, look_at, whole
from galvanic.bench.table_rows import BadTableText, rows_of
from galvanic.words import say
from server.base.problems import RowFault
from server.labs.services import MAX_GROUP_NAME
from server.records.file_text import MAX_ROWS, refused


def read_table(text: str) -> ReadingsTable:
    """Read the table. Raises Problem naming every faulty row by its line and reason; a faulty table is refused whole."""
    try:
        looked = look_at(rows_of(text), MAX_ROWS)
    except BadTableText as error:
        raise refused(error.code, str(error), [RowFault(line, message) for line, message in error.rows]) from error
    return understood(looked)


def understood(looked: Looked) -> ReadingsTable:
    """A table that was understood whole. Raises Problem as `read_table` does."""
    try:
        table = whole(looked)
    except BadTableText as error:
        raise refused(error.code, str(error), [RowFault(line, message) for line, message in error.rows]) from error
    long = [
        RowFault(
            reading.line, say("The group’s name is longer than {max_group_name} letters.", max_group_name=MAX_GROUP_NAME)
        )
        for reading in table.readings
        if len(reading.group) > MAX_GROUP_NAME
    ]
    if long:
        raise refused(
            "bad_rows", say("{n_long} rows could not be read; mend them and try again.", n_long=len(long)), long[:50]
        )
    return table
