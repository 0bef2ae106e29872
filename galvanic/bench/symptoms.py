"""What a group sees on its meter when something is off, what it may be, and what to try. Common practice, no source.

The sheet behind “Something is off”, and the key to the fault drill: each symptom names the findings of `checks` that go
with it.
"""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Symptom:
    """A symptom: a key, what is seen, what it may mean, what to try in order, and the findings that go with it."""

    key: str
    seen: str
    means: str
    tries: tuple[str, ...]
    codes: frozenset[str]


SYMPTOMS = (
    Symptom(
        "minus",
        "A minus sign",
        "Red is on the negative plate. That is evidence, not a mistake.",
        ("Record it with its minus sign.", "Press “Swap leads” if your leads are not as drawn."),
        frozenset({"reversed"}),
    ),
    Symptom(
        "zero",
        "Nothing, or a few hundredths of a volt",
        "Something joins the two plates, a clip joins nothing, or both plates are the same metal.",
        (
            "Do the plates or the clips touch? Does liquid bridge the clips?",
            "Wiggle each clip: is the metal under it clean and dry?",
            "Are they really two different metals?",
            "Is the meter on DC volts, with the leads in the right sockets?",
        ),
        frozenset({"near_zero"}),
    ),
    Symptom(
        "climbs",
        "It keeps climbing or falling",
        "The plates have not settled, or one of them is still changing its surface.",
        (
            "Wait until the last digit stands still for ten seconds.",
            "After two minutes: lift out, rub, rinse, dip again.",
            "If it never settles, record it and write that down as an observation.",
        ),
        frozenset({"drifting"}),
    ),
    Symptom(
        "jumps",
        "It jumps about",
        "A clip is loose or wet, or a plate moves in the liquid.",
        ("Press the clips on, on dry metal.", "Hold the plates still: nobody leans on the table.", "Measure again."),
        frozenset({"jump"}),
    ),
    Symptom(
        "low",
        "Much less than expected",
        "A dirty plate, a film on the metal, a wrong plate, or something draws current.",
        (
            "Rub both plates to bright metal, rinse, dip again.",
            "Are these the right plates, in the right liquid?",
            "Is anything else connected: a lamp, a second meter, a resistor?",
        ),
        frozenset({"far"}),
    ),
    Symptom(
        "high",
        "Much more than expected",
        "The wrong unit, a point in the wrong place, or more than one cell in the circuit.",
        (
            "Does the meter say mV? Then press “mV instead”.",
            "Look at the point on the display again.",
            "Is there only one cell, and no battery, in the circuit?",
        ),
        frozenset({"millivolts", "digit", "too_high"}),
    ),
    Symptom(
        "blank",
        "The display is blank, or shows 1 or OL",
        "The meter is off, its battery is empty, or its range is too small.",
        (
            "Switch it on; some meters switch themselves off.",
            "Turn it to the next larger range of DC volts, then back.",
            "Hold the leads together: it should show about zero. If not, ask for another meter.",
        ),
        frozenset(),
    ),
)
