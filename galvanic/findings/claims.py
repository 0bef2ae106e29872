"""What a group may claim about a cell, what each claim implies, and whether chemistry and the class's data bear it out.

A claim is tested, never answered: the verdict says what the numbers do and asks a question back. Chemistry comes from the
gap's causes (`gap.explain`), data from the class's result.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal, get_args

from galvanic.cells import Cell
from galvanic.chemistry.gap import Gap, explain
from galvanic.errors import NotEnoughData
from galvanic.findings.by_variable import Changed, volts_by_variable
from galvanic.findings.class_accounts import electronegativity
from galvanic.findings.class_notes import class_offsets
from galvanic.findings.compare import CellResult, ElectrolyteResult
from galvanic.findings.liquid_notes import PairInLiquids, in_liquids
from galvanic.notes import volts
from galvanic.reference.catalogue import electrodes
from galvanic.statistics.effects import Slope

SHOWN = (("fits", "For example for it"), ("contradicted", "For example against it"))
LEFT_BY_BRIDGE, LIKE = 0.25, 0.3  # parts of the expected voltage: common practice, no source
MATTERS_V = 0.05  # a cause below this explains nothing that a class can see


Code = Literal["fits", "contradicted", "open"]
CODES: tuple[Code, ...] = get_args(Code)


@dataclass(frozen=True, slots=True)
class Verdict:
    """What becomes of a claim: fits, contradicted or open; a sentence with its numbers, and a question back."""

    code: Code
    text: str
    question: str


@dataclass(frozen=True, slots=True)
class ClaimData:
    """What a claim is tested on: the cell as the class found it, the group, all results, and where the volts went."""

    group: str
    cell: Cell
    found: CellResult
    results: Sequence[ElectrolyteResult]
    gap: Gap

    def by_plate(self, *codes: str) -> list[tuple[str, float]]:
        """What causes of these kinds add to the cell's voltage through each plate, V, the positive one first; plates whose
        part is too small to see are left out."""
        found = []
        for plate in (self.cell.positive, self.cell.negative):
            part = math.fsum(c.volts_v for c in self.gap.parts if c.plate == plate and c.code in codes)
            if abs(part) >= MATTERS_V:
                found.append((plate, part))
        return found

    def from_causes(self, *codes: str) -> float:
        """What causes of these kinds that belong to no plate add to the cell's voltage, V."""
        return math.fsum(cause.volts_v for cause in self.gap.parts if cause.code in codes)

    def own_and_others(self) -> tuple[float | None, list[float]]:
        """The group's mean of the cell (None without one) and the other groups', V."""
        means = {g.group: g.summary.mean_v for g in self.found.groups}
        own = means.pop(self.group, None)
        return own, list(means.values())

    @property
    def missing_v(self) -> float:
        """Measured less where the gap starts, V."""
        return self.gap.measured_v - self.gap.start_v


def data_of(group: str, cell: Cell, results: Sequence[ElectrolyteResult]) -> ClaimData:
    """Collect what a claim about a cell is tested on. Raises NotEnoughData where the cell is not measured."""
    for result in results:
        for one in result.cells:
            if one.cell == cell:
                return ClaimData(group, cell, one, results, explain(cell, one.mean_v))
    raise NotEnoughData("This cell has no reading that counts yet.")


Test = Callable[[ClaimData], Verdict]


@dataclass(frozen=True, slots=True)
class CauseClaim:
    """One cause that a group may claim: its name in a student's words, what would follow from it, and its test."""

    key: str
    name: str
    implies: str
    test: Test


def _by_plates(codes: tuple[str, ...], what: str, question: str) -> Test:
    """A claim that each plate's own account can weigh: two plates that cancel do not contradict it."""

    def test(data: ClaimData) -> Verdict:
        parts, missing = data.by_plate(*codes), data.missing_v
        if not parts:
            least = f"less than {volts(MATTERS_V)} at either plate: too little to see."
            return Verdict("contradicted", f"In this cell {what[0].lower()}{what[1:]} accounts for {least}", question)
        each = " and ".join(f"{volts(part, signed=True)} through the {electrodes()[key].name}" for key, part in parts)
        text = f"{what} accounts for {each}; the whole gap is {volts(missing, signed=True)}."
        helping = [part for _, part in parts if part * missing > 0.0]
        if not helping:
            return Verdict("open", f"{text} It is there, but works the other way: something else is larger.", question)
        most = max(abs(c.volts_v) for c in data.gap.parts if c.code not in (*codes, "left"))
        if max(map(abs, helping)) >= most:
            return Verdict("fits", f"{text} It is the largest single cause.", question)
        return Verdict("fits", f"{text} Something else takes more.", "What takes the rest?")

    return test


def _loading(data: ClaimData) -> Verdict:
    """The meter's own current: nothing of a plate, so weighed by itself."""
    part, question = data.from_causes("loading"), "What is your meter’s resistance, and the cell’s?"
    text = f"The meter’s own current accounts for {volts(part, 3, signed=True)} of {volts(data.missing_v, signed=True)}."
    if abs(part) < MATTERS_V:
        return Verdict("contradicted", f"{text} That is too little to see.", question)
    return Verdict("fits" if part * data.missing_v > 0.0 else "open", text, question)


def _offset(data: ClaimData) -> Verdict:
    """A meter that is off shifts every cell of its group by the same amount."""
    question = "What do your other cells read against the other groups’?"
    offsets = class_offsets(data.results)
    if not offsets:
        return Verdict("open", "There are too few shared cells to tell a meter from its plates.", question)
    own = next((one for one in offsets if one.group == data.group), None)
    if own is None:
        return Verdict("open", "Your group has no cell that counts yet.", question)
    text = (
        f"Against the class your meter reads {volts(own.volts_v, 3, signed=True)} ± {volts(own.u_v, 3)} in all your cells."
    )
    if abs(own.volts_v) < max(0.02, 2.0 * own.u_v):
        return Verdict(
            "contradicted", f"{text} That is no offset, and the gap is {volts(data.missing_v, signed=True)}.", question
        )
    if abs(own.volts_v) < 0.5 * abs(data.missing_v):
        more = f"That is real, but the gap of this cell is {volts(data.missing_v, signed=True)}: something else takes more."
        return Verdict("open", f"{text} {more}", question)
    return Verdict("fits", text, question)


def _by_slope(of: Callable[[PairInLiquids], tuple[Slope | None, str]], question: str, fact: str) -> Test:
    """A claim that the same pair across liquids can weigh. That no slope shows is no proof that there is none: only an
    interval that leaves no room for a step that matters speaks against it."""

    def test(data: ClaimData) -> Verdict:
        one = next((one for one in in_liquids(data.results) if (one.negative, one.positive) == data.cell.pair), None)
        if one is None:
            return Verdict("open", "This pair was measured in one liquid only, so nothing is known of it.", question)
        slope, says = of(one)
        text = f"{one.short} in {len(one.volts_v)} liquids: {says} {fact}"
        if slope is None:
            return Verdict("open", text, question)
        shown = slope.low > 0.0 or slope.high < 0.0
        small = max(abs(slope.low), abs(slope.high)) < MATTERS_V
        return Verdict("fits" if shown and not small else "contradicted" if small else "open", text, question)

    return test


def _electronegativity(data: ClaimData) -> Verdict:
    question = "If electronegativity made the voltage, what would the liquid do to it?"
    low, high = (electronegativity(plate) for plate in data.cell.pair)
    if low is None or high is None:
        return Verdict("open", "One of these plates is no single element, so it has no electronegativity.", question)
    said = data.cell.negative if low < high else data.cell.positive
    truly = data.cell.negative if data.found.mean_v > 0.0 else data.cell.positive
    name = electrodes()[said].name
    if low != high and said != truly:
        text = (
            f"It would make {name} the negative plate. The class found the other one negative, {volts(data.found.mean_v)}."
        )
        return Verdict("contradicted", text, question)
    return Verdict(
        "open", f"It puts {name} on the right side, but it has no volts: it cannot say how much is missing.", question
    )


def _by_changed(keys: frozenset[str], question: str, known: str, without: Code, shown: Code, so: str) -> Test:
    """A claim that a thing of `keys` moves the volts, weighed on the class's own slope of it where it changed it on purpose:
    overall with its interval by group, and the group's own. `without`: the verdict on `known` alone, where nothing was
    changed; `shown`: that where an effect is seen, with `so` after it."""

    def test(data: ClaimData) -> Verdict:
        own = [
            one
            for one in volts_by_variable(data.results)
            if one.variable.key in keys and one.cell.pair == data.cell.pair and one.cell.electrolyte == data.cell.electrolyte
        ]
        if not own:
            return Verdict(without, known, question)
        one = max(own, key=lambda each: len(each.ticks))
        answer = one.notes[0]
        text = f"{answer.title}. {answer.text}{_own_change(one, data.group)}"
        if one.fit is None or (not one.fit.shown and one.largest_v > MATTERS_V):
            return Verdict("open", f"{text} That is too rough to tell.", question)
        if one.fit.shown and one.moved_v > MATTERS_V:
            return Verdict(shown, f"{text} {so}", question)
        return Verdict("contradicted", f"{text} {known}", question)

    return test


def _own_change(one: Changed, group: str) -> str:
    """What the group itself found between its first and its last level."""
    own = sorted((tick for tick in one.ticks if tick.group == group), key=lambda tick: tick.condition.rank)
    if len(own) < 2:
        return ""
    step = own[-1].value - own[0].value
    return f" You found {volts(step, 3, signed=True)} from {own[0].condition} to {own[-1].condition}."


SIZE_KNOWN = "Larger or closer plates let more current flow; the voltage without a load stays the same. A voltmeter draws almost none."
WARM_KNOWN = (
    "Between a cold and a warm room the table moves by a few millivolts; in juice a warm cell mostly gives more current."
)
SIZE = _by_changed(
    frozenset({"spacing", "depth", "area", "length", "pairs"}),
    "How could you test it with the same two plates, half as deep?",
    SIZE_KNOWN,
    "contradicted",
    "open",
    f"{SIZE_KNOWN} So what else differed between them?",
)
WARMTH = _by_changed(
    frozenset({"temperature"}),
    "How could you test it with one cell, cold and warm?",
    WARM_KNOWN,
    "open",
    "fits",
    "Does the model foretell as much?",
)


def _bridge(data: ClaimData) -> Verdict:
    question = "If the plates touched, what would be left of the voltage?"
    own, others = data.own_and_others()
    if own is None:
        return Verdict("open", "Your group has no reading of this cell that counts.", question)
    expected = sum(others) / len(others) if others else data.gap.measured_v - data.from_causes("left")
    who = "the other groups have" if others else "these plates should give about"
    text = f"You have {volts(own)}; {who} {volts(expected)}."
    if abs(own) < LEFT_BY_BRIDGE * abs(expected):
        return Verdict("fits", f"{text} A bridge leaves about that little.", question)
    return Verdict("contradicted", f"{text} A bridge would leave almost nothing.", question)


def _leads(data: ClaimData) -> Verdict:
    question = "Which plate was negative, and how do you know?"
    own, others = data.own_and_others()
    if own is None or not others:
        return Verdict("open", "Without another group’s reading of this cell the sign cannot be checked.", question)
    mean = sum(others) / len(others)
    text = f"You have {volts(own, signed=True)}, the other groups {volts(mean, signed=True)}."
    if own * mean < 0.0 and abs(abs(own) - abs(mean)) < LIKE * abs(mean):
        return Verdict("fits", f"{text} Turned round, yours fits theirs.", question)
    return Verdict("contradicted", f"{text} The sign is not what differs.", question)


def _alloy(data: ClaimData) -> Verdict:
    question = "What is your plate made of, all the way through?"
    plates = [electrodes()[key] for key in data.cell.pair]
    mixed = [one for one in plates if one.couple is not None and not one.pure]
    if not mixed:
        return Verdict("contradicted", "Both plates of this cell are the metal they are called.", question)
    names = ", ".join(one.name for one in mixed)
    return Verdict(
        "open",
        f"The metal of the table is pure; {names} may not be. The gap is {volts(data.missing_v, signed=True)}.",
        question,
    )


ACID = _by_slope(
    lambda one: (one.effect.per_ph, one.ph_says),
    "How many volts did one step of pH move your cell, and which plate moved?",
    "One unit of pH moves a plate that hydrogen decides by 0.059 V; a skin, or strong alkali, can make it more.",
)
IONS = _by_slope(
    lambda one: (one.effect.per_decade, one.conductivity_says),
    "What does a better conductor change: the voltage without a load, or the current?",
    "",
)
CAUSES: Mapping[str, CauseClaim] = {
    one.key: one
    for one in (
        CauseClaim(
            "film",
            "A skin on the metal holds it back",
            "Scratched under the surface, the reading changes at once and comes back. The plate is off in all its cells.",
            _by_plates(("film",), "The skin", "What should happen when you scratch it under the liquid?"),
        ),
        CauseClaim(
            "no_ions",
            "There are none of this metal’s ions in the liquid",
            "A few drops of that metal’s salt solution lift the plate.",
            _by_plates(("traces",), "Having only traces of ions", "Which ions would you have to add, at which plate?"),
        ),
        CauseClaim(
            "bound",
            "The liquid binds the metal’s ions (salt or fruit acid)",
            "A pair with copper or silver reads less in salt water than in plain acid.",
            _by_plates(("complexing",), "Binding of ions", "In which of your liquids is the most chloride?"),
        ),
        CauseClaim(
            "oxygen",
            "Something else happens at the plate: oxygen or hydrogen",
            "Stirring, air blown past the plate, or more acid moves the reading.",
            _by_plates(("other",), "Other reactions at the plates", "What would you see if you stirred?"),
        ),
        CauseClaim(
            "loading",
            "The meter draws too much current",
            "A meter of higher resistance reads more; a poor conductor suffers most.",
            _loading,
        ),
        CauseClaim("offset", "Our meter is off", "All our cells are off by the same amount.", _offset),
        CauseClaim("acid", "It is the acid (the pH)", "The same pair changes steadily from liquid to liquid with pH.", ACID),
        CauseClaim("ions", "More ions make more volts", "The same pair changes steadily with conductivity.", IONS),
        CauseClaim("bridge", "The plates or clips touched", "Almost nothing is left of the voltage.", _bridge),
        CauseClaim("leads", "Red and black were the wrong way round", "Turned round, the reading fits the others’.", _leads),
        CauseClaim("size", "The plates were too small or too far apart", "Deeper or closer plates read more.", SIZE),
        CauseClaim("warmth", "It was too cold or too warm", "The same cell reads otherwise in warm water.", WARMTH),
        CauseClaim(
            "electronegativity",
            "One metal holds its electrons more strongly",
            "The order is that of electronegativity.",
            _electronegativity,
        ),
        CauseClaim("alloy", "The plate is not the pure metal", "A pure plate reads differently.", _alloy),
    )
}


def weigh_ladder(cause: str, group: str, results: Sequence[ElectrolyteResult]) -> Verdict:
    """Test a claim about the whole ladder: cell by cell, on every cell of the class. Raises KeyError, NotEnoughData."""
    cells = [one.cell for result in results for one in result.cells]
    if not cells:
        raise NotEnoughData("Nothing is measured yet.")
    found = [(cell, weigh(cause, data_of(group, cell, results))) for cell in cells]
    by = {code: [cell for cell, one in found if one.code == code] for code in ("fits", "contradicted", "open")}
    counts = (
        f"Of {len(cells)} cells the numbers bear it out in {len(by['fits'])}, speak against it in "
        f"{len(by['contradicted'])} and leave it open in {len(by['open'])}."
    )
    named = [f"{code}: {', '.join(cell.short for cell in by[key][:4])}" for key, code in SHOWN if by[key]]
    most: Sequence[Code] = [code for code in CODES if len(by[code]) > len(cells) / 2]
    return Verdict(
        most[0] if most else "open",
        " ".join([counts, *(f"{line}." for line in named)]),
        "In which cell should it show most, and does it?",
    )


def weigh(cause: str, data: ClaimData) -> Verdict:
    """Test a claim. Raises KeyError for a cause that is not one of `CAUSES`."""
    return CAUSES[cause].test(data)
