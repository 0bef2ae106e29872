"""Any value of the core told in lines, to be compared with those that were kept."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import fields, is_dataclass

import numpy as np

from galvanic.errors import GalvanicError

NOTHING = 2e-8  # a remainder of rounding, which differs from processor to processor


def told(value: object, at: str = "") -> Iterator[str]:
    """Lines that say all of a value: fields of dataclasses, entries of mappings and sequences, numbers with four digits."""
    if is_dataclass(value) and not isinstance(value, type):
        for field in fields(value):
            yield from told(getattr(value, field.name), f"{at}.{field.name}")
    elif isinstance(value, Mapping):
        for key, inner in value.items():
            yield from told(inner, f"{at}[{key}]")
    elif isinstance(value, (list, tuple, np.ndarray)):
        for place, inner in enumerate(value):
            yield from told(inner, f"{at}[{place}]")
    elif isinstance(value, (float, np.floating)):
        yield f"{at} {0.0 if abs(value) < NOTHING else float(value):.4g}"
    else:
        yield f"{at} {value}"


def or_refused(what: Callable[[], object]) -> object:
    """What is computed, or the sentence by which the core refuses it."""
    try:
        return what()
    except GalvanicError as error:
        return f"refused ({error.code}): {error}"
