"""Units that people write instead of a variable's own, and what they are in it.

Factors are exact by definition (SI brochure, 9th edition; inch: 25.4 mm; degree Fahrenheit: ISO 80000-5).
"""

from __future__ import annotations

from collections.abc import Callable, Mapping

_LENGTH = {"mm": 0.1, "m": 100.0, "in": 2.54, "inch": 2.54, "inches": 2.54}
_TIMES: Mapping[str, Mapping[str, float]] = {
    "cm": _LENGTH,
    "cm²": {"cm2": 1.0, "mm²": 0.01, "mm2": 0.01, "m²": 10_000.0, "m2": 10_000.0},
    "mol/L": {"M": 1.0, "mol/l": 1.0, "mmol/L": 0.001, "mmol/l": 0.001, "mM": 0.001},
    "g in 100 mL": {"g/100 mL": 1.0, "g in 100 ml": 1.0, "g/L": 0.1, "g/l": 0.1, "g in 1 L": 0.1},
    "part": {"%": 0.01},
    "min": {"s": 1.0 / 60.0, "sec": 1.0 / 60.0, "h": 60.0},
    "days": {"d": 1.0, "day": 1.0, "h": 1.0 / 24.0, "weeks": 7.0, "week": 7.0},
    "MΩ": {"kΩ": 0.001, "Ω": 1e-6, "GΩ": 1000.0},
}
_SHIFTED: Mapping[str, Mapping[str, Callable[[float], float]]] = {
    "°C": {
        "C": lambda t: t,
        "K": lambda t: t - 273.15,
        "°F": lambda t: (t - 32.0) / 1.8,
        "F": lambda t: (t - 32.0) / 1.8,
    }
}
DIGITS = 6  # that a converted number keeps


def converted(value: float, written: str, unit: str) -> float | None:
    """A number with the unit it was written in, in `unit`; None where the two do not measure the same thing."""
    if (factor := _TIMES.get(unit, {}).get(written)) is not None:
        return float(f"{value * factor:.{DIGITS}g}")
    shift = _SHIFTED.get(unit, {}).get(written)
    return None if shift is None else float(f"{shift(value):.{DIGITS}g}")
