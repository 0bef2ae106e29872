"""What a group may claim about a cell, what each claim implies, and whether chemistry and the class's data bear it out.

A claim is tested, never answered: the verdict says what the numbers do and asks a question back. Chemistry comes from the
gap's causes (`gap.explain`), data from the class's result.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from galvanic.errors import NotEnoughData
from galvanic.findings.by_variable import AS_PLANNED, Really
from galvanic.findings.changed_claims import SIZE, WARMTH
from galvanic.findings.class_accounts import electronegativity
from galvanic.findings.class_notes import class_offsets
from galvanic.findings.compare import ElectrolyteResult
from galvanic.findings.liquid_notes import PairInLiquids, in_liquids
from galvanic.findings.verdicts import MATTERS_V, ClaimData, Code, Test, Verdict, data_of
from galvanic.notes import volts
from galvanic.reference.catalogue import electrodes
from galvanic.statistics.effects import Slope
from galvanic.words import mark, say

OVERSHOOTS = 1.5  # of the gap
OFFSET_V = 0.05  # of a meter: what may be as large is not called none
SHOWN: tuple[tuple[Code, str], ...] = (
    ("fits", mark("For example for it")),
    ("contradicted", mark("For example against it")),
)
COUNTED: Mapping[Code, tuple[Code, ...]] = {  # of a claim about all cells
    "fits": ("fits", "part"),
    "contradicted": ("contradicted",),
    "cannot_tell": ("cancels", "cannot_tell"),
}
LEFT_BY_BRIDGE, LIKE = 0.25, 0.3  # parts of the expected voltage: common practice, no source


@dataclass(frozen=True, slots=True)
class CauseClaim:
    """One cause that a group may claim: its name in a student's words, what would follow from it, and its test."""

    key: str
    name: str
    implies: str
    test: Test


def _by_plates(codes: tuple[str, ...], what: str, question: str) -> Test:
    """A claim that each plate's own account can weigh: by what it does at both plates together to this gap, beside what
    nobody can explain."""

    def test(data: ClaimData) -> Verdict:
        asks, whose = say(question), say(what)
        # as they are printed, so that they add up to what is said of both together
        parts = tuple((key, round(part, 2)) for key, part in data.by_plate(*codes))
        missing, left = data.missing_v, data.left_v
        if not parts:
            least = say("less than {matters_v} at either plate: too little to see.", matters_v=volts(MATTERS_V))
            return Verdict(
                "contradicted",
                say("In this cell {cause} accounts for {least}", cause=whose[:1].lower() + whose[1:], least=least),
                asks,
            )
        together = math.fsum(part for _, part in parts)
        each = say(" and ").join(
            say("{part} through the {name}", part=volts(part, signed=True), name=electrodes()[key].name)
            for key, part in parts
        )
        of_model = say(
            "By the model, from {what}: {each}; {left} is left that no cause explains.",
            what=whose[:1].lower() + whose[1:],
            each=each
            if len(parts) < 2
            else say("{each}, together {together}", each=each, together=volts(together, signed=True)),
            left=volts(left, signed=True),
        )
        text = f"{_measured(data)} {of_model}"
        largest = max(abs(part) for _, part in parts)
        if abs(left) > max(MATTERS_V, largest if abs(together) < MATTERS_V else abs(together)):
            return Verdict(
                "cannot_tell",
                say("{said} That is smaller than what nobody can explain here, so your data cannot tell.", said=text),
                say("What was different at your bench: would the other groups find the same gap?"),
            )
        if abs(together) < MATTERS_V:
            return Verdict("cancels", say("{said} It is there at both plates, and it cancels.", said=text), asks)
        if together * missing <= 0.0:
            return Verdict(
                "cancels",
                say("{said} It is there, and works against this gap: without it the gap would be larger.", said=text),
                say("What takes more than the whole gap?"),
            )
        if abs(together) >= OVERSHOOTS * abs(missing):
            return Verdict(
                "fits", say("{said} That is more than the whole gap: something else works against it.", said=text), asks
            )
        if abs(together) >= 0.5 * abs(missing):
            return Verdict("fits", say("{said} That is the larger part of the gap.", said=text), asks)
        return Verdict(
            "part",
            say("{said} That is a part of the gap; something else takes more.", said=text),
            say("What takes the rest?"),
        )

    return test


def _measured(data: ClaimData) -> str:
    """The gap that the group's own readings show, and the class's, which is weighed."""
    own, others = data.own_and_others()
    missing = volts(data.missing_v, signed=True)
    if own is None:
        return say("The class’s readings: {missing} against the table.", missing=missing)
    if not others:
        return say("Your readings: {missing} against the table.", missing=missing)
    gap = volts(own - data.gap.start_v, signed=True)
    return say("Your readings: {own} against the table; the class’s: {missing}.", own=gap, missing=missing)


def _loading(data: ClaimData) -> Verdict:
    """The meter's own current: nothing of a plate, so weighed by itself."""
    part, question = data.from_causes("loading"), say("What is your meter’s resistance, and the cell’s?")
    text = say(
        "The meter’s own current accounts for {part} of {missing_v}.",
        part=volts(part, 3, signed=True),
        missing_v=volts(data.missing_v, signed=True),
    )
    if abs(part) < MATTERS_V:
        return Verdict("contradicted", say("{said} That is too little to see.", said=text), question)
    whole = part * data.missing_v >= 0.5 * data.missing_v**2
    return Verdict("fits" if whole else "part" if part * data.missing_v > 0.0 else "cancels", text, question)


def _offset(data: ClaimData) -> Verdict:
    """A meter that is off shifts every cell of its group by the same amount."""
    question = say("What do your other cells read against the other groups’?")
    offsets = class_offsets(data.results)
    if not offsets:
        return Verdict("cannot_tell", say("There are too few shared cells to tell a meter from its plates."), question)
    own = next((offset for offset in offsets if offset.group == data.group), None)
    if own is None:
        return Verdict("cannot_tell", say("Your group has no cell that counts yet."), question)
    text = say(
        "Against the class your meter reads {volts_v} ± {u_v} in all your cells.",
        volts_v=volts(own.volts_v, 3, signed=True),
        u_v=volts(own.u_v, 3),
    )
    unsure = abs(own.volts_v) < max(0.02, 2.0 * own.u_v)
    if unsure and abs(own.volts_v) + 2.0 * own.u_v > OFFSET_V:
        return Verdict("cannot_tell", say("{said} Your data cannot tell whether that is an offset.", said=text), question)
    if unsure:
        return Verdict(
            "contradicted",
            say(
                "{said} That is no offset, and the gap is {missing_v}.",
                said=text,
                missing_v=volts(data.missing_v, signed=True),
            ),
            question,
        )
    if abs(own.volts_v) < 0.5 * abs(data.missing_v):
        more = say(
            "That is real, but the gap of this cell is {missing_v}: something else takes more.",
            missing_v=volts(data.missing_v, signed=True),
        )
        return Verdict("cannot_tell", f"{text} {more}", question)
    return Verdict("fits", text, question)


def _by_slope(of: Callable[[PairInLiquids], tuple[Slope | None, str]], question: str, fact: str) -> Test:
    """A claim that the same pair across liquids can weigh. That no slope shows is no proof that there is none: only an
    interval that leaves no room for a step that matters speaks against it."""

    def test(data: ClaimData) -> Verdict:
        asks = say(question)
        one = next(
            (liquid for liquid in in_liquids(data.results) if (liquid.negative, liquid.positive) == data.cell.pair), None
        )
        if one is None:
            return Verdict("cannot_tell", say("This pair was measured in one liquid only, so nothing is known of it."), asks)
        slope, says = of(one)
        text = say(
            "{short} in {n_volts_v} liquids: {says} {fact}",
            short=one.short,
            n_volts_v=len(one.volts_v),
            says=says,
            fact=say(fact),
        )
        if slope is None:
            return Verdict("cannot_tell", text, asks)
        shown = slope.low > 0.0 or slope.high < 0.0
        small = max(abs(slope.low), abs(slope.high)) < MATTERS_V
        return Verdict("fits" if shown and not small else "contradicted" if small else "cannot_tell", text, asks)

    return test


def _electronegativity(data: ClaimData) -> Verdict:
    question = say("If electronegativity made the voltage, what would the liquid do to it?")
    low, high = (electronegativity(plate) for plate in data.cell.pair)
    if low is None or high is None:
        return Verdict(
            "cannot_tell", say("One of these plates is no single element, so it has no electronegativity."), question
        )
    said = data.cell.negative if low < high else data.cell.positive
    truly = data.cell.negative if data.found.mean_v > 0.0 else data.cell.positive
    name = electrodes()[said].name
    if low != high and said != truly:
        text = say(
            "It would make {name} the negative plate. The class found the other one negative, {mean_v}.",
            name=name,
            mean_v=volts(data.found.mean_v),
        )
        return Verdict("contradicted", text, question)
    return Verdict(
        "cannot_tell",
        say("It puts {name} on the right side, but it has no volts: it cannot say how much is missing.", name=name),
        question,
    )


def _bridge(data: ClaimData) -> Verdict:
    question = say("If the plates touched, what would be left of the voltage?")
    own, others = data.own_and_others()
    if own is None:
        return Verdict("cannot_tell", say("Your group has no reading of this cell that counts."), question)
    expected = sum(others) / len(others) if others else data.gap.measured_v - data.from_causes("left")
    who = say("the other groups have") if others else say("these plates should give about")
    text = say("You have {own}; {who} {expected}.", own=volts(own), who=who, expected=volts(expected))
    if abs(own) < LEFT_BY_BRIDGE * abs(expected):
        return Verdict("fits", say("{said} A bridge leaves about that little.", said=text), question)
    return Verdict("contradicted", say("{said} A bridge would leave almost nothing.", said=text), question)


def _leads(data: ClaimData) -> Verdict:
    question = say("Which plate was negative, and how do you know?")
    own, others = data.own_and_others()
    if own is None or not others:
        return Verdict(
            "cannot_tell", say("Without another group’s reading of this cell the sign cannot be checked."), question
        )
    mean = sum(others) / len(others)
    text = say("You have {own}, the other groups {mean}.", own=volts(own, signed=True), mean=volts(mean, signed=True))
    if own * mean < 0.0 and abs(abs(own) - abs(mean)) < LIKE * abs(mean):
        return Verdict("fits", say("{said} Turned round, yours fits theirs.", said=text), question)
    return Verdict("contradicted", say("{said} The sign is not what differs.", said=text), question)


def _alloy(data: ClaimData) -> Verdict:
    question = say("What is your plate made of, all the way through?")
    plates = [electrodes()[key] for key in data.cell.pair]
    mixed = [plate for plate in plates if plate.couple is not None and not plate.pure]
    if not mixed:
        return Verdict("contradicted", say("Both plates of this cell are the metal they are called."), question)
    names = ", ".join(one.name for one in mixed)
    return Verdict(
        "cannot_tell",
        say(
            "The metal of the table is pure; {names} may not be. The gap is {missing_v}.",
            names=names,
            missing_v=volts(data.missing_v, signed=True),
        ),
        question,
    )


ACID = _by_slope(
    lambda one: (one.effect.per_ph, one.ph_says),
    mark("How many volts did one step of pH move your cell, and which plate moved?"),
    mark("One unit of pH moves a plate that hydrogen decides by 0.059 V; a skin, or strong alkali, can make it more."),
)
IONS = _by_slope(
    lambda one: (one.effect.per_decade, one.conductivity_says),
    mark("What does a better conductor change: the voltage without a load, or the current?"),
    "",
)
CAUSES: Mapping[str, CauseClaim] = {
    one.key: one
    for one in (
        CauseClaim(
            "film",
            mark("A skin on the metal holds it back"),
            mark(
                "Scratched under the surface, the reading changes at once and comes back. The plate is off in all its cells."
            ),
            _by_plates(("film",), mark("The skin"), mark("What should happen when you scratch it under the liquid?")),
        ),
        CauseClaim(
            "no_ions",
            mark("There are none of this metal’s ions in the liquid"),
            mark("A few drops of that metal’s salt solution lift the plate."),
            _by_plates(
                ("traces", "strength"),
                mark("Having only traces of ions"),
                mark("Which ions would you have to add, at which plate?"),
            ),
        ),
        CauseClaim(
            "bound",
            mark("The liquid binds the metal’s ions (salt or fruit acid)"),
            mark("A pair with copper or silver reads less in salt water than in plain acid."),
            _by_plates(("complexing",), mark("Binding of ions"), mark("In which of your liquids is the most chloride?")),
        ),
        CauseClaim(
            "oxygen",
            mark("Something else happens at the plate: oxygen or hydrogen"),
            mark("Stirring, air blown past the plate, or more acid moves the reading."),
            _by_plates(("other",), mark("Other reactions at the plates"), mark("What would you see if you stirred?")),
        ),
        CauseClaim(
            "loading",
            mark("The meter draws too much current"),
            mark("A meter of higher resistance reads more; a poor conductor suffers most."),
            _loading,
        ),
        CauseClaim("offset", mark("Our meter is off"), mark("All our cells are off by the same amount."), _offset),
        CauseClaim(
            "acid",
            mark("It is the acid (the pH)"),
            mark("The same pair changes steadily from liquid to liquid with pH."),
            ACID,
        ),
        CauseClaim(
            "ions", mark("More ions make more volts"), mark("The same pair changes steadily with conductivity."), IONS
        ),
        CauseClaim("bridge", mark("The plates or clips touched"), mark("Almost nothing is left of the voltage."), _bridge),
        CauseClaim(
            "leads",
            mark("Red and black were the wrong way round"),
            mark("Turned round, the reading fits the others’."),
            _leads,
        ),
        CauseClaim(
            "size", mark("The plates were too small or too far apart"), mark("Deeper or closer plates read more."), SIZE
        ),
        CauseClaim(
            "warmth", mark("It was too cold or too warm"), mark("The same cell reads otherwise in warm water."), WARMTH
        ),
        CauseClaim(
            "electronegativity",
            mark("One metal holds its electrons more strongly"),
            mark("The order is that of electronegativity."),
            _electronegativity,
        ),
        CauseClaim("alloy", mark("The plate is not the pure metal"), mark("A pure plate reads differently."), _alloy),
    )
}


def weigh_ladder(cause: str, group: str, results: Sequence[ElectrolyteResult], really: Really = AS_PLANNED) -> Verdict:
    """Test a claim about the whole ladder: cell by cell, on every cell of the class. Raises KeyError, NotEnoughData."""
    cells = [one.cell for result in results for one in result.cells]
    if not cells:
        raise NotEnoughData(say("Nothing is measured yet."))
    weighed = [(cell, weigh(cause, data_of(group, cell, results, really))) for cell in cells]
    by = {key: [cell for cell, one in weighed if one.code in codes] for key, codes in COUNTED.items()}
    counts = say(
        "Of {n_cells} cells the numbers bear it out in {n_by}, speak against it in {n_by2} and leave it open in {n_by3}.",
        n_cells=len(cells),
        n_by=len(by["fits"]),
        n_by2=len(by["contradicted"]),
        n_by3=len(by["cannot_tell"]),
    )
    named = [f"{say(code)}: {', '.join(cell.short for cell in by[key][:4])}" for key, code in SHOWN if by[key]]
    most: Sequence[Code] = [code for code in COUNTED if len(by[code]) > len(cells) / 2]
    return Verdict(
        most[0] if most else "cannot_tell",
        " ".join([counts, *(f"{line}." for line in named)]),
        say("In which cell should it show most, and does it?"),
    )


def weigh(cause: str, data: ClaimData) -> Verdict:
    """Test a claim. Raises KeyError for a cause that is not one of `CAUSES`."""
    return CAUSES[cause].test(data)
