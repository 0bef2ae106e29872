"""Text for tables that are opened in a spreadsheet."""

from __future__ import annotations

from server.base.incoming import clean

FORMULA = ("=", "+", "-", "@", "\t", "\r")


def plain_text(text: str) -> str:
    """Text that no spreadsheet takes for a formula, and that does not break it; a number stays a number."""
    tidy = clean(text)
    if not tidy.startswith(FORMULA):
        return tidy
    is_number = tidy[1:].replace(".", "", 1).replace(",", "", 1).isdigit()
    return tidy if is_number else f"\u2019{tidy}"
