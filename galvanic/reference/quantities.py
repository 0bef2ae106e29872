"""Single cited quantities by key; the end of the key is the unit."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cache

from galvanic.reference.reader import Reader, Value, read_table


def _quantity(r: Reader) -> Value:
    r.take("key", str)
    return r.value("value")


@cache
def quantities() -> Mapping[str, Value]:
    """Everything in transport.toml."""
    return read_table("transport", "quantity", _quantity)


def quantity(key: str) -> float:
    """One number of transport.toml. Raises KeyError for a key that is not there."""
    return quantities()[key].value
