"""A group tests its claim at the bench: what it can do, and what its reading before and after says.

What can be done is the test of each cause at each plate (`plate_account`), with the way the model moves the reading. It is
held to that way only, not to the size: a change as foretold speaks for the claim, none or the other way against it.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from galvanic.bench.checks import MOST_CELL_V
from galvanic.cells import Cell
from galvanic.chemistry.plate_account import LAST_DIGIT_V, account_of
from galvanic.chemistry.polarisation import sides_of
from galvanic.findings.verdicts import Verdict
from galvanic.notes import capital, volts
from galvanic.reference.catalogue import electrodes
from galvanic.words import mark, say

Way = Literal["rises", "falls"]
STEPS: Mapping[str, tuple[str, ...]] = {  # which parts of a plate's account a claim is about
    "film": ("film",),
    "no_ions": ("traces", "strength"),
    "bound": ("complexing",),
    "oxygen": ("other",),
}
CHANGES_V = 0.02  # less than twice the last digit is no change
REPEAT = mark("Does it come out the same when you do it again, and with nothing done?")


@dataclass(frozen=True, slots=True)
class BenchTest:
    """What a group can do at one plate to test its claim; `moves_v`: how the model moves the reading, V."""

    key: str
    do: str
    moves_v: float

    @property
    def way(self) -> Way:
        """Which way the reading should go if the claim is right."""
        return "rises" if self.moves_v > 0.0 else "falls"


def tests_of(cause: str, cell: Cell) -> tuple[BenchTest, ...]:
    """What can be done at the plates of a cell to test a claim, what moves the reading most first; none for other causes."""
    if cause not in STEPS or cell.negative == cell.positive:
        return ()
    found = []
    sides = sides_of(cell)
    for plate, side, sign in ((cell.negative, sides[0], -1.0), (cell.positive, sides[1], 1.0)):
        for step in account_of(plate, side).parts:
            if step.code in STEPS[cause] and step.do and abs(step.moves_v) > LAST_DIGIT_V:
                do = capital(say("{plate}: {do}", plate=electrodes()[plate].name, do=step.do))
                found.append(BenchTest(f"{plate}:{step.code}", do, sign * step.moves_v))
    return tuple(sorted(found, key=lambda test: -abs(test.moves_v)))


def earlier(key: str) -> BenchTest:
    """A test that was done when the model still offered it: kept and shown, not weighed."""
    plate = electrodes().get(key.partition(":")[0])
    return BenchTest(key, capital(key if plate is None else plate.name), 0.0)


def weigh_test(test: BenchTest, before_v: float, after_v: float) -> Verdict:
    """What a reading before and after says of the claim that the test is of."""
    changed_v = round(after_v - before_v, 3)
    did = say(
        "{do}: {before_v} before, {after_v} after, {changed_v}.",
        do=test.do,
        before_v=volts(before_v),
        after_v=volts(after_v),
        changed_v=volts(changed_v, signed=True),
    )
    asks = say(REPEAT)
    if max(abs(before_v), abs(after_v)) > MOST_CELL_V:
        return Verdict("cannot_tell", say("{said} No two plates give so much: were these millivolts?", said=did), asks)
    if test.moves_v == 0.0:
        said = say("{said} The model does not say which way this moves the reading, so it cannot weigh it.", said=did)
        return Verdict("cannot_tell", said, asks)
    if test.way == "rises":
        foretold = say("By the model the reading rises, by about {moves_v}.", moves_v=volts(abs(test.moves_v)))
    else:
        foretold = say("By the model the reading falls, by about {moves_v}.", moves_v=volts(abs(test.moves_v)))
    text = f"{did} {foretold}"
    if abs(changed_v) < CHANGES_V:
        said = say("{said} It hardly moved: that speaks against your claim, or the plate was not reached.", said=text)
        return Verdict("contradicted", said, asks)
    if (changed_v > 0.0) == (test.moves_v > 0.0):
        return Verdict("fits", say("{said} It moved that way: that speaks for your claim.", said=text), asks)
    return Verdict(
        "contradicted", say("{said} It moved the other way: that speaks against your claim.", said=text), say(REPEAT)
    )
