"""What a column of a table holds, by its heading: times, volts or currents, and in which unit. No unit is ever guessed."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Literal

Kind = Literal["time", "volts", "current", "other"]

TIME = {"ms": 1e-3, "s": 1.0, "min": 60.0, "h": 3600.0, "d": 86_400.0}
VOLTS = {"uV": 1e-6, "mV": 1e-3, "V": 1.0}
AMPERES = {"uA": 1e-6, "mA": 1e-3, "A": 1.0}
UNITS: dict[str, dict[str, float]] = {"time": TIME, "volts": VOLTS, "current": AMPERES}

_SPELLED = {
    "ms": "ms millisecond milliseconds msec",
    "s": "s sec secs second seconds sekunden",
    "min": "min mins minute minutes minuten",
    "h": "h hr hrs hour hours std stunden heures horas",
    "d": "d day days tage jours",
    "uV": "uv µv μv microvolt microvolts",
    "mV": "mv millivolt millivolts",
    "V": "v volt volts",
    "uA": "ua µa μa microamp microamps microampere microamperes",
    "mA": "ma milliamp milliamps milliampere milliamperes",
    "A": "a amp amps ampere amperes",
}
_UNIT = {word: unit for unit, words in _SPELLED.items() for word in words.split()}
_WORDS: dict[str, set[str]] = {
    "time": set("time times zeit temps tiempo tempo t elapsed clock timestamp date when".split()),
    "volts": set("voltage voltages spannung tension potential emf u e reading".split()),
    "current": set("current currents strom courant corriente intensity intensidad i".split()),
}
_FILL = set("of the since start from run in at cell load under measured relative total and".split())


@dataclass(frozen=True, slots=True)
class Column:
    """A column's kind, its unit (None: none is named) and what of the heading was not understood as either."""

    kind: Kind
    unit: str | None
    unknown: str = ""

    @property
    def scale(self) -> float:
        """From the column's unit to s, V or A; 1 where none is named."""
        return UNITS[self.kind][self.unit] if self.unit and self.kind in UNITS else 1.0


def column(heading: str) -> Column:
    """What a heading says: `t_min`, `Time (s)`, `U/mV`, `current mA`; `other` for anything else."""
    words = [word for word in re.split(r"[^a-zµμäöüé]+", heading.casefold()) if word]
    units = [_UNIT[word] for word in words if word in _UNIT]
    kinds = [kind for kind, known in _WORDS.items() if any(word in known for word in words)]
    by_unit = [kind for kind, known in UNITS.items() if any(unit in known for unit in units)]
    kind = kinds[0] if kinds else by_unit[0] if by_unit else None
    if kind is None:
        return Column("other", None)
    unit = next((unit for unit in reversed(units) if unit in UNITS[kind]), None)
    rest = [word for word in words if word not in _UNIT and word not in _WORDS[kind] and word not in _FILL]
    return Column(kind, unit, " ".join(rest) if unit is None else "")  # type: ignore[arg-type]
