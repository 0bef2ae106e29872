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
    "all-pairs": Lesson(
        (
            LessonStep(5, mark("Foretell a third cell from two: zinc with copper less zinc with tin.")),
            LessonStep(3, mark("Meter check: leads together, then a fresh cell.")),
            LessonStep(30, mark("Each group measures its own pairs; no two lists are the same.")),
            LessonStep(12, mark("Go round loops on the wall: do three cells come back to nought?")),
        ),
        (
            mark("If two cells are known, what must the third one read?"),
            mark("Which pair does not fit, and is it a metal, a meter or a slip?"),
        ),
        mark("Loops close within a few hundredths of a volt; one that does not points at a plate or a meter."),
        (TURNED, DULL, LOOSE),
        EARLY_NEXT,
    ),
    "one-pair": Lesson(
        (
            LessonStep(5, mark("Order the liquids before measuring: which gives most volts, which least?")),
            LessonStep(30, mark("Each group: zinc and copper in its liquids, rinsed and dried between them.")),
            LessonStep(10, mark("The class’s liquids side by side: how far are they apart, and how far are two groups?")),
        ),
        (
            mark("What do the liquids with more volts have in common?"),
            mark("Is the difference larger than that between two groups in one liquid?"),
        ),
        mark("Sour liquids lie close together, salt water a tenth or two below: the metals decide most."),
        (mark("Juice carried into the next cup: rinse plates and clips, wipe them dry."), DULL, LOOSE),
        EARLY_NEXT,
    ),
    "spacing": Lesson(
        (
            LessonStep(5, mark("Vote: plates nearer together. More volts, more current, both, neither?")),
            LessonStep(25, mark("Volts at each distance, in the order on the list, three times each.")),
            LessonStep(10, mark("The current at each distance, leads joined for two seconds.")),
            LessonStep(10, mark("Both against distance, side by side.")),
        ),
        (mark("What has to travel further when the plates stand apart?"), mark("Why does the voltmeter not notice?")),
        mark("Volts stay; the current falls with distance, in step with it where the liquid conducts badly."),
        (AMPS, mark("Plates that lean: hold them upright against the cup’s wall.")),
        mark("Early: the same in tap water. Foretell first whether distance matters more there."),
    ),
    "depth": Lesson(
        (
            LessonStep(5, mark("Vote: plates deeper in. More volts, more current, both, neither?")),
            LessonStep(25, mark("Volts at each depth, in the order on the list, three times each.")),
            LessonStep(10, mark("The current at each depth, leads joined for two seconds.")),
            LessonStep(10, mark("Both against depth, side by side.")),
        ),
        (mark("Which of the two does the metal decide, and which the size?"),),
        mark("Volts stay; the current grows with what is wet, at most in step with it."),
        (AMPS, mark("A mark on the plate, not on the cup: liquid rises as plates go in.")),
        mark("Early: only one of the two plates deeper. Which one matters?"),
    ),
    "surface": Lesson(
        (
            LessonStep(5, mark("Vote: bright plates or plates from the drawer. Which give more volts, which more current?")),
            LessonStep(25, mark("Each pair as it was first, then rubbed: volts, then the current for two seconds.")),
            LessonStep(15, mark("Bright beside dull, metal by metal: where is there a difference?")),
        ),
        (mark("What is the skin on a metal made of?"), mark("What becomes of it in the juice?")),
        mark(
            "Aluminium differs most. Dull copper can give more current for the first seconds: its skin takes electrons up "
            "until it is gone. Both sides saw something."
        ),
        (mark("Rubbed plates that dry in the air are dull again: dip them at once."), AMPS),
        mark("Early: rub aluminium under the liquid and watch the number come back."),
    ),
    "dilution": Lesson(
        (
            LessonStep(5, mark("Foretell: half the juice, half the volts?")),
            LessonStep(30, mark("The weakest liquid first, then stronger ones; plates rubbed each time.")),
            LessonStep(10, mark("Volts against strength: a line, a curve, hardly anything?")),
        ),
        (mark("Which numbers would you need to tell a small change from chance?"),),
        mark("A hundred times weaker moves the volts by a few hundredths at most; the current falls."),
        (mark("Strong to weak carries juice along: go from weak to strong."), DULL),
        mark("Early: the current at each strength, leads joined for two seconds. Now it matters."),
    ),
    "salt": Lesson(
        (
            LessonStep(5, mark("Read both sides aloud. Who says stronger, who says weaker, and what would show it?")),
            LessonStep(25, mark("Volts at each amount of salt, from none upwards, three times each.")),
            LessonStep(10, mark("The current at each amount, leads joined for two seconds.")),
            LessonStep(10, mark("Both against salt. Which side saw what?")),
        ),
        (
            mark("What do “stronger” and “weaker” mean here: volts or current?"),
            mark("What does salt do to the copper plate?"),
        ),
        mark("The current grows and the volts fall a little: each side saw one of the two."),
        (mark("Salt that has not gone: stir until clear, wait until still."), AMPS),
        mark("Early: the same with sugar. What do you expect, and why?"),
    ),
    "vessel": Lesson(
        (
            LessonStep(5, mark("Read both sides aloud and vote: more volts, more current, where?")),
            LessonStep(25, mark("Plates at one depth and distance in the fruit, then in a cup of juice, and back.")),
            LessonStep(10, mark("The current in both, leads joined for two seconds.")),
            LessonStep(10, mark("How far are fruit and cup apart, and how far are two fruits?")),
        ),
        (mark("What is the same in fruit and cup?"), mark("How much of a plate does a fruit really wet?")),
        mark("Volts differ by less than two fruits do. The current follows what is wet and how freely ions pass."),
        (mark("A plate pushed in crooked touches the other inside: keep them apart and parallel."), AMPS),
        mark("Early: roll the fruit first, and measure again."),
    ),
    "pressed": Lesson(
        (
            LessonStep(5, mark("Read both sides aloud. What would each of them see?")),
            LessonStep(20, mark("One layer, loose and under a weight, in turn: volts, then the current for two seconds.")),
            LessonStep(15, mark("A pile of three, loose and pressed: does the whole read three times one layer?")),
            LessonStep(10, mark("Volts and current, loose beside pressed. When does pressing hurt?")),
        ),
        (mark("What is better when layers touch?"), mark("What happens where liquid runs down the side?")),
        mark("Pressed layers let more current through; a card that drips joins its neighbours and the pile loses volts."),
        (mark("Cards that drip: press them out, wipe the edges dry."), AMPS),
        mark("Early: look for the layer that is bridged, halving the pile each time."),
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
