"""Text of files that spreadsheets and loggers write, and the marks between their columns."""

from __future__ import annotations

from galvanic.errors import GalvanicError
from galvanic.words import mark, say

DELIMITERS = {";": mark("semicolon"), "\t": mark("tab"), ",": mark("comma")}
UTF16_MARKS = (b"\xff\xfe", b"\xfe\xff")


class NotText(GalvanicError):
    """A file that is no text."""

    code = "not_csv"


def decoded(content: bytes) -> str:
    """Text of a file: UTF-8 or UTF-16 by its mark, UTF-8 without one, else Windows Latin. Raises NotText."""
    if content[:2] in UTF16_MARKS:
        try:
            return content.decode("utf-16")
        except UnicodeDecodeError as error:
            raise NotText(say("The file is not text. Save the table as CSV and try again.")) from error
    if b"\0" in content:
        raise NotText(say("The file is not text. Save the table as CSV and try again."))
    try:
        return content.decode("utf-8-sig")
    except UnicodeDecodeError:
        return content.decode("cp1252", errors="replace")
