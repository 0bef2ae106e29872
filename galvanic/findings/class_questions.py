"""Questions for a whole class, ready to ask on any device: before the lab, as a vote, or on the way out.

An option that betrays a misconception says which, so that the sums say what to talk about next. Common practice, no source.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import lru_cache

from galvanic.findings.misconceptions import keys_heard, misconceptions
from galvanic.words import mark, say


@dataclass(frozen=True, slots=True)
class Option:
    """What can be chosen, and the misconception it betrays (empty: none)."""

    text: str
    belief: str = ""


@dataclass(frozen=True, slots=True)
class ClassQuestion:
    """A question, its options (none: answered in words), which one fits (None: none, or the meter says), and when to ask."""

    key: str
    text: str
    options: tuple[Option, ...]
    fits: int | None
    about: str


@dataclass(frozen=True, slots=True)
class Thought:
    """A misconception that a class seems to hold: in how many answers, what speaks against it, and a question back."""

    key: str
    name: str
    answers: int
    against: str
    question: str


BEFORE_AND_AFTER = mark("Before the lab and again after it: the two sums side by side are what the lab did.")
ON_THE_WAY_OUT = mark("On the way out, in a sentence.")
_READY: tuple[ClassQuestion, ...] = (
    ClassQuestion(
        "bigger",
        mark("What gives one cell more volts?"),
        (
            Option(mark("two metals that are further apart in the table")),
            Option(mark("bigger plates"), "bigger_more"),
            Option(mark("plates closer together"), "closer_more"),
            Option(mark("more juice, or a sourer one"), "acid_sets_it"),
        ),
        0,
        BEFORE_AND_AFTER,
    ),
    ClassQuestion(
        "electrons",
        mark("What moves through the wire while a lamp is on?"),
        (
            Option(mark("electrons, from the negative plate to the positive one")),
            Option(mark("ions of the juice")),
            Option(mark("electrons, and back through the juice to where they came from"), "electrons_in_liquid"),
            Option(mark("volts"), "voltage_flows"),
        ),
        0,
        BEFORE_AND_AFTER,
    ),
    ClassQuestion(
        "where_from",
        mark("Zinc and copper in a lemon: what is used up?"),
        (
            Option(mark("the zinc")),
            Option(mark("the lemon’s electricity"), "fruit_makes_it"),
            Option(mark("the copper"), "cathode_dissolves"),
            Option(mark("nothing, it runs for ever")),
        ),
        0,
        BEFORE_AND_AFTER,
    ),
    ClassQuestion(
        "minus",
        mark("The meter shows −0.45 V. What does the minus sign say?"),
        (
            Option(mark("the red lead is on the negative plate")),
            Option(mark("the measurement is wrong"), "minus_is_error"),
            Option(mark("the cell is empty")),
            Option(mark("less than no volts")),
        ),
        0,
        BEFORE_AND_AFTER,
    ),
    ClassQuestion(
        "table",
        mark("The table gives 1.10 V, your cell 0.94 V. Why?"),
        (
            Option(mark("the table is for other conditions than a cup of juice")),
            Option(mark("we measured wrong"), "table_is_truth"),
            Option(mark("the meter used some of it up"), "meter_uses_up"),
            Option(mark("the plates are too small"), "bigger_more"),
        ),
        0,
        BEFORE_AND_AFTER,
    ),
    ClassQuestion("why", mark("Why did your cells show other volts than the table?"), (), None, ON_THE_WAY_OUT),
    ClassQuestion("unclear", mark("What is still unclear to you?"), (), None, ON_THE_WAY_OUT),
)


def _said(one: ClassQuestion) -> ClassQuestion:
    options = tuple(Option(say(option.text), option.belief) for option in one.options)
    return ClassQuestion(one.key, say(one.text), options, one.fits, say(one.about))


def ready(plates: tuple[str, str] | None = None) -> list[ClassQuestion]:
    """The questions in the reader's language; with two plates' names, also which of the two will be negative."""
    own = [_said(one) for one in _READY]
    if plates is None:
        return own
    vote = ClassQuestion(
        "order",
        say("Which plate will be the negative one: {one} or {other}?", one=plates[0], other=plates[1]),
        tuple(Option(name) for name in sorted(plates)),
        None,
        say("By hands or phones, before the cell is built. Then the meter speaks."),
    )
    return [vote, *own]


def belief_behind(text: str) -> str:
    """The misconception behind an option as it reads in the language around; empty where it is none of the ready ones."""
    return next((o.belief for one in ready() for o in one.options if o.text == text), "")


@lru_cache(maxsize=4096)  # sums are asked for every two seconds while a question runs
def _heard(text: str) -> tuple[str, ...]:
    """The misconception that an answer seems to hold, if one."""
    return tuple(keys_heard(text)[:1])


def thoughts(beliefs: Sequence[str], chosen: Iterable[int], texts: Iterable[str]) -> list[Thought]:
    """The misconceptions behind what was chosen and written, those of most answers first.

    `beliefs`: what each option betrays (empty: nothing); `chosen`: places of options; `texts`: what was written instead.
    What the ear hears in words is a guess, and is put as one.
    """
    found = Counter(beliefs[place] for place in chosen if place < len(beliefs) and beliefs[place])
    for text in texts:
        found.update(_heard(text))
    known = misconceptions()
    return [
        Thought(key, known[key].name, many, known[key].against, known[key].question)
        for key, many in found.most_common()
        if key in known
    ]
