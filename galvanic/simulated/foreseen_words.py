"""What a plan foresees, as sentences."""

from __future__ import annotations

from collections.abc import Sequence

from galvanic.notes import capital, volts
from galvanic.planning.replan import FEWEST_PLACES
from galvanic.reference.catalogue import electrodes
from galvanic.simulated.foreseen import Foreseen, Saying
from galvanic.simulated.foreseen_levels import Seen
from galvanic.words import number, say

RARELY, NOTHING_V = 80.0, 0.005


def saying(one: Saying) -> str:
    """What can be said of two plates."""
    lower, upper = (electrodes()[plate].name for plate in (one.lower, one.upper))
    if one.surprise:
        return say("{lower} stands below {upper}, though the table has it above", lower=capital(lower), upper=upper)
    return say("{lower} stands below {upper}", lower=capital(lower), upper=upper)


def late(found: Foreseen) -> list[int]:
    """The groups that will often not get through, by their place."""
    return [group for group, share in enumerate(found.through) if share < RARELY]


def shorter_lists(found: Foreseen, longest: int) -> int | None:
    """How many cells the longest list should have, where groups will often not get through and a cell can be spared."""
    return longest - 1 if late(found) and longest > FEWEST_PLACES else None


def pace(found: Foreseen, names: Sequence[str], with_less: float | None) -> str:
    """Who will get through; `with_less`: in how many of a hundred classes all would with a cell less each."""
    every = say("All groups get through their lists in {n} of 100 classes like yours.", n=round(found.all_through))
    slow = [names[group] for group in late(found)]
    if slow and len(slow) < len(names):
        every += " " + say("These will often not: {names}.", names=", ".join(slow))
    if with_less is None:
        return every
    return f"{every} " + say("With a cell less each, in {n}.", n=round(with_less))


def decided(found: Foreseen) -> str:
    """How often the accounts are decided between; empty where they cannot be weighed."""
    if found.decided is None:
        return ""
    n = round(found.decided)
    return say("In {n} of 100 classes the readings decide which account is right, if all groups get through.", n=n)


def of_levels(one: Seen) -> str:
    """What will be seen of what is changed."""
    if one.quantity == "volts":
        if abs(one.expected) < NOTHING_V:
            expected = say("the volts hardly change")
        else:
            expected = say("the volts change by {v}", v=volts(one.expected, 2))
        return say(
            "By the model {expected} from the first level to the last; you can see {least} or more.",
            expected=expected, least=volts(one.least, 2),
        )  # fmt: skip
    return say(
        "By the model the last level gives {times} times the current of the first; you can see {least} times or more.",
        times=number(one.expected, ".2g"), least=number(one.least, ".2g"),
    )  # fmt: skip
