"""Deliberate errors: each has a code for programs and a sentence for people that says what would be right."""

from __future__ import annotations


class GalvanicError(ValueError):
    """Base of every deliberate error of the core; `code` names the kind, `str(error)` is the sentence.

    `field` names the argument that is wrong, `value` is what it was and `limit` what it may not pass, where there are such.
    """

    code = "galvanic"

    def __init__(self, sentence: str, *, field: str = "", value: object = None, limit: float | None = None) -> None:
        super().__init__(sentence)
        self.field, self.value, self.limit = field, value, limit


class BadTable(GalvanicError):
    """A shipped data table is not fit for use; raised when it is loaded, never later."""

    code = "bad_table"


class UnknownMaterial(GalvanicError):
    """A name is not in the catalogue; `nearest` holds the closest names."""

    code = "unknown_material"

    def __init__(self, sentence: str, nearest: tuple[str, ...] = (), value: str = "") -> None:
        super().__init__(sentence, field="name", value=value)
        self.nearest = nearest


class NoTableEntry(GalvanicError):
    """The table of standard potentials has no entry for an inert plate."""

    code = "no_table_entry"


class OutOfRange(GalvanicError):
    """A quantity lies outside the range in which an equation holds."""

    code = "out_of_range"


def within(field: str, value: float, low: float, high: float, sentence: str) -> None:
    """Raise OutOfRange with its field, value and limit where a value does not lie between two limits; nan never does."""
    if not low <= value <= high:
        raise OutOfRange(sentence, field=field, value=value, limit=low if value < low else high)


class UnreadableReading(GalvanicError):
    """Typed text is not one number with an optional unit."""

    code = "unreadable_reading"


class NotEnoughData(GalvanicError):
    """There are too few values for what was asked."""

    code = "not_enough_data"
