"""Rows of a text with columns: comma, semicolon or tab between them, and what spreadsheets add.

A row with more or fewer fields than the heading is refused: a decimal comma has split it.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterator, Sequence
from itertools import islice

from galvanic.bench.text_files import DELIMITERS
from galvanic.errors import GalvanicError
from galvanic.words import say

LOOKED_AT = 10  # lines, for what stands between columns
_NOTHING = " \t\r\n\u00a0\u200b\ufeff" + ",;"
"""What a row may hold and still be an empty one: spaces, marks that nobody sees, the separators of another table."""
_SEPARATOR = re.compile(r"sep=(.)", re.IGNORECASE)


class BadTableText(GalvanicError):
    """A text that is no table of readings; `rows` names its faulty rows by line, as an editor counts."""

    code = "bad_rows"

    def __init__(self, code: str, sentence: str, rows: Sequence[tuple[int, str]] = ()) -> None:
        super().__init__(sentence)
        self.code, self.rows = code, tuple(rows)


def rows_of(text: str, comments: bool = False) -> Iterator[tuple[int, list[str]]]:
    """Rows with the line they end on, empty ones left out; comma, semicolon or tab between columns, by which
    of them the first lines hold most: a title may stand above the heading.

    Raises BadTableText not_csv.
    """
    lines = text.splitlines()
    skip = (lambda line: not line.strip() or line.startswith("#")) if comments else (lambda line: not line.strip())
    filled = list(islice((line for line in lines if not skip(line)), LOOKED_AT))
    first = filled[0] if filled else ""
    named = _SEPARATOR.fullmatch(first.strip())
    mark = named[1] if named else max((",", *DELIMITERS), key=lambda one: sum(line.count(one) for line in filled))
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=mark)
    try:
        for fields in reader:
            if not any(field.strip(_NOTHING) for field in fields) or (comments and fields[0].startswith("#")):
                continue
            if named and mark.join(fields).strip() == first.strip():
                named = None
                continue
            yield reader.line_num, fields
    except csv.Error as error:
        raise BadTableText("not_csv", say("Line {line_num} cannot be read as CSV.", line_num=reader.line_num)) from error


def check_width(fields: Sequence[str], wanted: int) -> None:
    """Raises BadTableText for a row that has more or fewer fields than the heading."""
    if len(fields) != wanted:
        hint = say(" A decimal comma needs quotes round it, or semicolons between columns.") if len(fields) > wanted else ""
        raise BadTableText(
            "bad_row",
            say(
                "This row has {n_fields} fields and the heading {wanted}.{hint}",
                n_fields=len(fields),
                wanted=wanted,
                hint=hint,
            ),
        )


def as_written(text: str) -> str:
    """A text without the mark that keeps a spreadsheet from taking it for a formula."""
    return text[1:] if text[:1] == "\u2019" and text[1:2] in ("=", "+", "-", "@") else text
