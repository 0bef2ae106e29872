"""All that the core says of seeded cases is what was kept last; numbers may differ in their last digit.

After a change that is meant, `python -m galvanic.tests.test_approved` keeps the new texts: read the difference before.
"""

from __future__ import annotations

import re
import unittest
from pathlib import Path

from galvanic.tests.cases import CASES

KEPT = Path(__file__).parent / "approved"
_NUMBER = re.compile(r"[-+\u2212]?\d+(?:\.\d+)?(?:e[-+]?\d+)?")
NEAR = 0.02  # of a number: processors differ in the last bit, and roundings and samples carry that on


def same(line: str, kept: str) -> bool:
    """Whether two lines say the same, with numbers that are as good as equal."""
    if _NUMBER.sub("#", line) != _NUMBER.sub("#", kept):
        return False
    pairs = zip(_NUMBER.findall(line), _NUMBER.findall(kept), strict=True)
    return all(near(a, b) for a, b in pairs)


def near(number: str, kept: str) -> bool:
    """Whether two numbers are as good as equal."""
    return abs(_value(number) - _value(kept)) <= max(NEAR * abs(_value(kept)), _digit(kept))


def _value(text: str) -> float:
    return float(text.replace("\u2212", "-"))


def _digit(text: str) -> float:
    """One of the last digit that is shown."""
    mantissa, _, power = text.partition("e")
    return 10.0 ** (float(power or 0) - len(mantissa.partition(".")[2]))


class Approved(unittest.TestCase):
    def test_all_that_is_said_is_what_was_read(self) -> None:
        for name, lines in CASES.items():
            kept = (KEPT / f"{name}.txt").read_text(encoding="utf-8").splitlines()
            new = list(lines())
            with self.subTest(name):
                unlike = [
                    f"{n + 1}:\n- {b}\n+ {a}" for n, (a, b) in enumerate(zip(new, kept, strict=False)) if not same(a, b)
                ]
                self.assertEqual((unlike[:5], len(new)), ([], len(kept)))

    def test_a_word_or_a_number_that_differs_is_seen(self) -> None:
        self.assertTrue(same("zinc 0.951 V", "zinc 0.950 V"))
        for other in ("zinc 0.99 V", "tin 0.95 V", "zinc \u22120.95 V", "zinc 0.95 V."):
            self.assertFalse(same("zinc 0.95 V", other), other)


def keep() -> None:
    """Keep what is said now as read."""
    for name, lines in CASES.items():
        (KEPT / f"{name}.txt").write_text("\n".join(lines()) + "\n", encoding="utf-8")


if __name__ == "__main__":
    keep()
