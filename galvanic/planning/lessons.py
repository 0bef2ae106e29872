"""How lessons with cells go: minutes, what to ask, what comes out, what goes wrong. Common practice, no source."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from galvanic.words import mark, say


@dataclass(frozen=True, slots=True)
class LessonStep:
    """Minutes of a lesson and what happens in them."""

    minutes: int
    what: str


@dataclass(frozen=True, slots=True)
class Lesson:
    """A lesson in words: its steps, what to ask the class, what to expect, what goes wrong and what mends it, and what
    groups that are early can do."""

    steps: tuple[LessonStep, ...]
    asks: tuple[str, ...]
    expect: str
    wrong: tuple[str, ...]
    early: str

    @property
    def minutes(self) -> int:
        """Minutes of all steps."""
        return sum(step.minutes for step in self.steps)


LOOSE = mark("Numbers that jump: a loose clip, or one that sits in the juice. Clean it, clip it dry, read again.")
TURNED = mark("A minus sign: red is on the negative plate. It is a finding; write it down as it stands.")
DULL = mark("Dull plates read low and drift: rub them just before dipping.")
AMPS = mark("A meter left on mA shorts the cell: back to volts before the next cell.")
EARLY_NEXT = mark("Early: the board offers the next cell worth making.")

LESSONS: Mapping[str, Lesson] = {
    "demonstration": Lesson(
        (
            LessonStep(3, mark("Show two metals and a cup of juice. Vote by phone or hand: which plate will be negative?")),
            LessonStep(4, mark("Build the cell, the meter covered. Uncover it: first the sign, then the number.")),
            LessonStep(5, mark("Turn the leads: the sign turns, the size stays. Ask what the sign says.")),
            LessonStep(5, mark("One change the class chooses: deeper, nearer, another metal. Vote, then measure.")),
            LessonStep(3, mark("On the way out: one question on every phone.")),
        ),
        (
            mark("Which plate gives electrons to the wire?"),
            mark("What would the meter show with two plates of the same metal?"),
            mark("What is the juice for?"),
        ),
        mark("Zinc and copper in lemon juice: 0.9 to 1.0 V in a minute. Deeper or nearer changes nothing on a voltmeter."),
        (LOOSE, TURNED),
        mark("Left over time: the same two plates in salt water, or magnesium instead of zinc."),
    ),
    "single-lesson": Lesson(
        (
            LessonStep(5, mark("The question, and each group’s prediction of its first cell.")),
            LessonStep(3, mark("Meter check: leads together, then a fresh cell.")),
            LessonStep(25, mark("Four cells a group: rub, dip, wait, read three times.")),
            LessonStep(7, mark("The class’s ladder on the wall beside the table’s: what is the same, what is not?")),
            LessonStep(5, mark("One claim a group, or the question on the way out.")),
        ),
        (
            mark("Which order do the metals come in, and is it the table’s?"),
            mark("Which metal is furthest from its place in the table?"),
        ),
        mark("The table’s order, but for aluminium, whose skin holds it back; all volts against copper are less."),
        (DULL, LOOSE, TURNED),
        EARLY_NEXT,
    ),
    "two-cups": Lesson(
        (
            LessonStep(5, mark("One cup or two? Predict both from the table.")),
            LessonStep(10, mark("Build the cell with a bridge: each metal in its own solution, the wet strip last.")),
            LessonStep(15, mark("Read, take the bridge out, read, put it back. Beside it the same metals in lemon juice.")),
            LessonStep(10, mark("Compare: which of the two comes near the table, and why?")),
        ),
        (
            mark("What stops when the bridge is out?"),
            mark("Why does this cell come to the table’s value and the lemon does not?"),
        ),
        mark("Two cups come to 1.10 V within a hundredth or two; the lemon stays 0.1 to 0.2 V below."),
        (
            mark("A dry bridge reads nothing or drifts: wet it through, both ends in the liquid."),
            mark("Zinc that touches the copper solution gets a dark coat: lift it out, rub it, new solution."),
            LOOSE,
        ),
        mark("Early: the zinc side ten times weaker. Foretell the change before reading it."),
    ),
    "volts-or-current": Lesson(
        (
            LessonStep(5, mark("What will a bigger plate change: volts, current, both, neither? Each group says so first.")),
            LessonStep(20, mark("First lesson: the same cell at three depths, volts three times at each.")),
            LessonStep(15, mark("Then the short-circuit current at each depth, for two seconds only.")),
            LessonStep(10, mark("Draw both against depth, side by side.")),
            LessonStep(40, mark("Next lesson: each group does the same with one other variable; then the class compares.")),
            LessonStep(20, mark("Last lesson: a pack that runs something, planned from the class’s own numbers.")),
        ),
        (
            mark("Which of the two does the metal decide, and which the size?"),
            mark("What does a lamp need, and what does a clock need?"),
        ),
        mark("Volts stay where they are; the current grows with what is wet. Who expected both to grow is in good company."),
        (AMPS, DULL, mark("The current falls while it is read: read at two seconds every time.")),
        mark("Early: the same with plates nearer together."),
    ),
    "against-copper": Lesson(
        (
            LessonStep(5, mark("Read five numbers off the table; each group predicts its first cell.")),
            LessonStep(3, mark("Meter check: leads together, then a fresh cell.")),
            LessonStep(30, mark("Each group measures its metals against the same copper plate.")),
            LessonStep(10, mark("The ladder, the widest gap, and a first claim.")),
        ),
        (mark("Which metal is more negative than which?"), mark("Where would a metal stand that nobody measured?")),
        mark("Magnesium most negative, then zinc; aluminium well above its place; steel and tin between zinc and copper."),
        (DULL, LOOSE, TURNED),
        EARLY_NEXT,
    ),
}  # fmt: skip


def lesson(key: str) -> Lesson | None:
    """A lesson in the language around; None where there is none of that key."""
    found = LESSONS.get(key)
    if found is None:
        return None
    return Lesson(
        tuple(LessonStep(step.minutes, say(step.what)) for step in found.steps),
        tuple(say(one) for one in found.asks),
        say(found.expect),
        tuple(say(one) for one in found.wrong),
        say(found.early),
    )
