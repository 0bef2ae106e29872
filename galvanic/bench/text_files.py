"""Text of files that spreadsheets and loggers write, and the marks between their columns."""

from __future__ import annotations

from galvanic.errors import GalvanicError
from galvanic.words import mark, say

DELIMITERS = {";": mark("semicolon"), "\t": mark("tab"), ",": mark("comma")}
UTF16_MARKS = (b"\xff\xfe", b"\xfe\xff")


class NotText(GalvanicError):
    """A file that is no text."""

    code = "not_csv"


def _utf16(content: bytes) -> str | None:
    """UTF-16 without its mark: of Latin letters every second byte is zero, all on one side."""
    sample = content[:2000]
    for first, name in ((1, "utf-16-le"), (0, "utf-16-be")):
        zeros = sample[first::2].count(0)
        if zeros > 0.8 * len(sample[first::2]) > 0 and not sample[1 - first :: 2].count(0):
            try:
                return content.decode(name)
            except UnicodeDecodeError:
                return None
    return None


def decoded(content: bytes) -> str:
    """Text of a file: UTF-8 or UTF-16 by its mark or by its zeros, UTF-8 without one, else Windows Latin. Raises NotText."""
    if content[:2] in UTF16_MARKS:
        try:
            return content.decode("utf-16")
        except UnicodeDecodeError as error:
            raise NotText(say("The file is not text. Save the table as CSV and try again.")) from error
    if (unmarked := _utf16(content)) is not None:
        return unmarked
    if b"\0" in content:
        raise NotText(say("The file is not text. Save the table as CSV and try again."))
    try:
        return content.decode("utf-8-sig")
    except UnicodeDecodeError:
        return content.decode("cp1252", errors="replace")
