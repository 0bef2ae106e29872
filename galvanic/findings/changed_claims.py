"""Claims that something a class changed on purpose moves the volts, weighed on the class's own slope of it."""

from __future__ import annotations

from galvanic.findings.by_variable import Changed, volts_by_variable
from galvanic.findings.verdicts import MATTERS_V, ClaimData, Code, Test, Verdict
from galvanic.notes import volts
from galvanic.words import mark, say


def _by_changed(keys: frozenset[str], question: str, known: str, without: Code, shown: Code, so: str) -> Test:
    """A claim that a thing of `keys` moves the volts, weighed on the class's own slope of it where it changed it on purpose:
    overall with its interval by group, and the group's own. `without`: the verdict on `known` alone, where nothing was
    changed; `shown`: that where an effect is seen, with `so` after it."""

    def test(data: ClaimData) -> Verdict:
        own = [
            volt
            for volt in volts_by_variable(data.results, data.really)
            if volt.variable.key in keys
            and volt.cell.pair == data.cell.pair
            and volt.cell.electrolyte == data.cell.electrolyte
        ]
        if not own:
            return Verdict(without, say(known), say(question))
        one = max(own, key=lambda each: len(each.ticks))
        answer = one.notes[0]
        text = f"{answer.title}. {answer.text}{_own_change(one, data.group)}"
        if one.fit is None or (not one.fit.shown and one.largest_v > MATTERS_V):
            return Verdict("cannot_tell", say("{said} That is too rough to tell.", said=text), say(question))
        if one.fit.shown and one.moved_v > MATTERS_V:
            return Verdict(shown, f"{text} {say(so)}", say(question))
        return Verdict("contradicted", f"{text} {say(known)}", say(question))

    return test


def _own_change(changed: Changed, group: str) -> str:
    """What the group itself found between its first and its last level."""
    own = sorted((tick for tick in changed.ticks if tick.group == group), key=lambda tick: tick.condition.rank)
    if len(own) < 2:
        return ""
    step = own[-1].value - own[0].value
    return say(
        " You found {step} from {condition} to {condition2}.",
        step=volts(step, 3, signed=True),
        condition=own[0].condition.said,
        condition2=own[-1].condition.said,
    )


SIZE_KNOWN = mark(
    "Larger or closer plates let more current flow; the voltage without a load stays the same. A voltmeter draws almost "
    "none."
)
WARM_KNOWN = mark(
    "Between a cold and a warm room the table moves by a few millivolts; in juice a warm cell mostly gives more current."
)
SIZE = _by_changed(
    frozenset({"spacing", "depth", "area", "length", "pairs"}),
    mark("How could you test it with the same two plates, half as deep?"),
    SIZE_KNOWN,
    "contradicted",
    "cannot_tell",
    mark(
        "Larger or closer plates let more current flow; the voltage without a load stays the same. A voltmeter draws almost "
        "none. So what else differed between them?"
    ),
)
WARMTH = _by_changed(
    frozenset({"temperature"}),
    mark("How could you test it with one cell, cold and warm?"),
    WARM_KNOWN,
    "cannot_tell",
    "fits",
    mark("Does the model foretell as much?"),
)
