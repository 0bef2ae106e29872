"""Where the volts went: from the table's difference to what was measured, one named cause at a time, exactly additive.

For each plate, in this fixed order (see `plate_account`, which says when a step is a cause of its own):

1. trace ions: Nernst, from 1 mol/L to the level that the plate's own corrosion keeps up at its surface;
2. complexing: the same with the ions bound by chloride, hydroxide or fruit acids, whichever lies lowest;
3. other reactions: from that equilibrium to the rest potential of a bare plate, where oxygen, hydrogen and the metal's own
   reluctance decide together;
4. film: what the plate's skin adds.

Then for the cell: meter loading R_m/(R_m + R_int), meter offset, and what is left over. The order matters: the causes act
together, so what one seems to add depends on which were taken before it (the traces are those that film and oxygen allow,
the film acts on the plate with all else in place). The sum does not depend on it. An inert plate has no table entry; it
starts from hydrogen at this pH instead.
"""

from __future__ import annotations

import math
import re
from collections.abc import Sequence
from dataclasses import dataclass

from galvanic.cells import Cell
from galvanic.chemistry.junction import junction
from galvanic.chemistry.oxidants import lift
from galvanic.chemistry.plate_account import LAST_DIGIT_V, Step, account_of
from galvanic.chemistry.plate_work import OWN, WHAT, Work, at_plates
from galvanic.chemistry.polarisation import Geometry, LoadedCell, sides_of
from galvanic.errors import OutOfRange
from galvanic.level import Level
from galvanic.notes import capital, volts
from galvanic.reference.catalogue import electrodes, kept
from galvanic.words import mark, number, say

METER_OHM = 1e7
LEFT = "left"
SEEN_LOADING_V = 0.001  # the last digit of a fine meter: what its own current takes below that is not seen
SMALL_V = 0.0125  # what is smaller is less than the height of a line on the smallest chart
BIG_PART = 0.4  # of the whole gap: a step this large is what there is to explain


@dataclass(frozen=True, slots=True)
class Cause:
    """One step: what it adds to the cell's voltage, V, the equation with its numbers, and a test that would confirm it."""

    code: str
    plate: str | None
    name: str
    volts_v: float
    u_v: float
    equation: str
    test: str

    def worked(self, level: Level) -> str:
        """The working as a level has it: none below the upper one."""
        return self.equation if level.has_logarithms else ""


@dataclass(frozen=True, slots=True)
class Drawn:
    """One step as it is drawn, from where the last one ended: a cause, or several small ones together.

    `u_v` takes the causes as independent; `big` where the step is a large part of the whole gap.
    """

    code: str
    name: str
    from_v: float
    to_v: float
    u_v: float
    big: bool
    causes: tuple[Cause, ...]


@dataclass(frozen=True, slots=True)
class Gap:
    """From `start_v` through `causes` to `measured_v`; `start` says where it starts.

    `parts` are all steps of both plates, those too that no test tells apart: the same sum, for weighing claims.
    """

    cell: Cell
    start: str
    start_v: float
    causes: tuple[Cause, ...]
    measured_v: float
    parts: tuple[Cause, ...] = ()

    @property
    def by_table(self) -> bool:
        """Whether it starts from two entries of the table, and not from hydrogen at this pH for a plate that has none."""
        return all(electrodes()[key].couple is not None for key in self.cell.pair)

    def text(self) -> str:
        """The account in plain text, a line a step."""
        lines = [f"{self.cell.notation}", f"{number(self.start_v, '+.3f')} V  {self.start}"]
        lines += [
            say(
                "{volts_v:+.3f} V  {name}: {equation} (± {u_v:.3f}). Test: {test}",
                volts_v=c.volts_v,
                name=c.name,
                equation=c.equation,
                u_v=c.u_v,
                test=c.test,
            )
            for c in self.causes
        ]
        return "\n".join([*lines, say("{measured_v:+.3f} V  measured", measured_v=self.measured_v)])


def drawn(gap: Gap) -> tuple[Drawn, ...]:
    """The causes as steps from the start to what was measured; those below `SMALL_V` are one step, before what is left."""
    small = tuple(cause for cause in gap.causes if cause.code != LEFT and abs(cause.volts_v) < SMALL_V)
    small = small if len(small) > 1 else ()
    rows: list[tuple[str, str, tuple[Cause, ...]]] = []
    for place, cause in enumerate(gap.causes):
        if cause.code == LEFT and small:
            rows.append(("small", say("{n_small} small causes", n_small=len(small)), small))
        if cause not in small:
            rows.append((f"{cause.code}-{place}", cause.name, (cause,)))
    whole = abs(gap.start_v - gap.measured_v)
    steps: list[Drawn] = []
    at = gap.start_v
    for code, name, causes in rows:
        by = math.fsum(cause.volts_v for cause in causes)
        u_v = math.hypot(*(cause.u_v for cause in causes))
        steps.append(Drawn(code, name, at, at + by, u_v, abs(by) > BIG_PART * whole, causes))
        at += by
    return tuple(steps)


NAMES = {
    "strength": mark("Its salt’s strength at {plate}"),
    "traces": mark("Traces of ions at {plate}"),
    "complexing": mark("Ions bound in the liquid at {plate}"),
    "other": mark("Other reactions on {plate}"),
    "film": mark("Skin on {plate}"),
}
OTHER_BRIDGE = mark("use another bridge, a strip soaked in a stronger potassium nitrate: what the junction adds shrinks")
NO_TEST = mark("nothing that is done at a bench moves this plate by more than a hundredth of a volt in the model")


NAMED_SHARE = 0.05  # of a plate's current
UNSEEN_V = 5e-4  # what prints as zero is nothing that has a cause


def _moved(value_v: float, by_v: float) -> str:
    """How a potential changes, so that nobody has to think whether a negative number rises."""
    up = by_v > 0.0
    if value_v >= 0.0:
        return say("more positive") if up else say("less positive")
    return say("less negative") if up else say("more negative")


def _reading(value_v: float, by_v: float) -> str:
    """How a reading changes: it rises or falls; with a minus sign it goes nearer to zero or further from it."""
    if value_v >= 0.0:
        return say("rises") if by_v > 0.0 else say("falls")
    return say("goes nearer to zero") if by_v > 0.0 else say("goes further from zero")


def _test_of(step: Step, sign: float, rest_v: float, reading_v: float) -> str:
    """What to do, and what the model says the plate, at rest at `rest_v`, and the reading then do; `sign`: +1 for the
    positive plate."""
    if not step.do or abs(step.moves_v) <= LAST_DIGIT_V:
        return say(NO_TEST)
    back = say(", and comes back as the skin grows") if step.code == "film" else ""
    return say(
        "{do}: the plate gets {plate} by about {moves_v}, the reading {reading}{back}",
        do=step.do,
        plate=_moved(rest_v, step.moves_v),
        moves_v=volts(abs(step.moves_v)),
        reading=_reading(reading_v, sign * step.moves_v),
        back=back,
    )


def _causes(
    steps: tuple[Step, ...], key: str, sign: float, at_work: Sequence[str], rest_v: float, reading_v: float
) -> list[Cause]:
    """Causes at one plate; `at_work`: what takes part there besides its own ions, most first."""
    plate = electrodes()[key].name
    names = {code: say(name, plate=plate) for code, name in NAMES.items()}
    if at_work:
        more = mark("{what} and others at {plate}")
        only = mark("{what} at {plate}")
        names["other"] = say(more if len(at_work) > 1 else only, what=capital(at_work[0]), plate=plate)
    return [
        Cause(
            step.code, key, names[step.code], sign * step.volts_v, step.u_v,
            _minus(step.equation), _test_of(step, sign, rest_v, reading_v),
        )
        for step in steps
        if abs(step.volts_v) >= UNSEEN_V
    ]  # fmt: skip


def explain(
    cell: Cell,
    measured_v: float,
    meter_ohm: float = METER_OHM,
    offset_v: float = 0.0,
    geometry: Geometry | None = None,
    u_measured_v: float = 0.01,
) -> Gap:
    """Account for every millivolt between the table and the meter.

    `measured_v`: the class's value in V with red on the positive plate; `offset_v`: what the meter showed with its leads
    together, taken to be still in `measured_v`. The causes add up to the measured value to rounding. Raises OutOfRange for a
    meter without resistance.
    """
    if not (meter_ohm > 0.0 and math.isfinite(meter_ohm)):
        raise OutOfRange(say("A meter's resistance is above zero ohm."), field="meter_ohm", value=meter_ohm, limit=0.0)
    low_side, high_side = sides_of(cell)
    lower, upper = account_of(cell.negative, low_side), account_of(cell.positive, high_side)
    plates = ((upper, cell.positive, 1.0), (lower, cell.negative, -1.0))
    at_work: dict[str, list[str]] = {cell.negative: [], cell.positive: []}
    if cell.negative != cell.positive:
        working = at_plates(cell)
        at_work = {working.negative: _at_work(working.at_negative), working.positive: _at_work(working.at_positive)}
    causes, parts = list[Cause](), list[Cause]()
    for found, key, sign in plates:
        at_plate = (key, sign, at_work[key], found.rest_v, measured_v)
        causes += _causes(found.steps, *at_plate)
        parts += _causes(found.parts, *at_plate)
    open_v = upper.rest_v - lower.rest_v
    shown_v, internal = _at_meter(cell, geometry or Geometry(), meter_ohm)
    bridge = junction(cell)
    loading = shown_v - open_v - bridge.volts_v
    inside = say("{ohm} against {ohm2} inside", ohm=_ohm(meter_ohm), ohm2=_ohm(internal))
    better = say("use a meter of higher resistance: the reading {reading}", reading=_reading(measured_v, measured_v))
    of_cell = [Cause("loading", None, say("Meter loading"), loading, abs(loading) * 0.5, inside, better)]
    if bridge.u_v:
        said = say("Henderson’s equation: faster ions leave their charge behind in the bridge")
        of_cell.append(
            Cause("junction", None, say("Junction in the bridge"), bridge.volts_v, bridge.u_v, said, say(OTHER_BRIDGE))
        )
    lifted = lift(high_side, upper.rest_v)
    if lifted is not None:
        said = say(
            "between 0 and {most_v:.2f} V: {name} would hold it at {at_v:+.2f} V",
            most_v=lifted.most_v,
            name=lifted.by.name,
            at_v=lifted.by.at_v,
        )
        name = say("Oxidant at {name}", name=electrodes()[cell.positive].name)
        alike = say("build the same cell without it, side by side")
        of_cell.append(Cause("oxidant", cell.positive, name, lifted.middle_v, lifted.u_v, _minus(said), alike))
    if offset_v:
        shown = say("leads together show {offset_v:+.3f} V", offset_v=offset_v)
        of_cell.append(
            Cause("offset", None, say("Meter offset"), offset_v, 0.001, shown, say("read with the leads together"))
        )
    start_v = upper.start_v - lower.start_v
    inert = [electrodes()[key].name for key in (cell.positive, cell.negative) if electrodes()[key].couple is None]
    start = (
        say("table difference, with hydrogen at this pH for {inert}", inert=say(" and ").join(inert))
        if inert
        else say("table difference")
    )

    def with_left(known: list[Cause]) -> tuple[Cause, ...]:
        left = measured_v - start_v - math.fsum(cause.volts_v for cause in known)
        u_left = math.sqrt(u_measured_v**2 + math.fsum(cause.u_v**2 for cause in known))
        again = say("repeat the cell with fresh plates; ask another group")
        return (*known, Cause(LEFT, None, say("Left over"), left, u_left, say("measured − all of the above"), again))

    seen = [cause for cause in of_cell if cause.code != "loading" or abs(cause.volts_v) >= SEEN_LOADING_V]
    return Gap(cell, start, start_v, with_left([*causes, *seen]), measured_v, with_left([*parts, *of_cell]))


def _at_work(works: Sequence[Work]) -> list[str]:
    """What takes part at a plate besides its own metal and ions, as the panel of its reactions names it."""
    named = [work for work in works if work.part in WHAT and work.part != OWN and work.resting >= NAMED_SHARE]
    return [say(WHAT[work.part]) for work in sorted(named, key=lambda work: -work.resting)]


def _ohm(value: float) -> str:
    """A resistance for reading, three digits."""
    for size, unit in ((1e6, "MΩ"), (1e3, "kΩ")):
        if value >= size:
            return f"{number(value / size, '.3g')} {unit}"
    return f"{number(value, '.3g')} Ω"


def _minus(text: str) -> str:
    """True minus signs before numbers; powers of ten stay as they are."""
    return re.sub(r"(?<![\de])-(?=\d)", "\u2212", text)


@kept(1024)
def _at_meter(cell: Cell, geometry: Geometry, meter_ohm: float) -> tuple[float, float]:
    """What a meter of this resistance shows, V, and the cell's apparent resistance at that working point, Ω.

    Not the resistance around open circuit in a divider: a plate that only traces hold up gives way at once and then no
    further, so that such a formula takes far too much off (magnesium and graphite in vinegar: 0.75 V instead of 0.3 V).
    """
    point = LoadedCell.of(cell, geometry).at_load(meter_ohm)
    return point.volts_v, point.internal_ohm
