"""A run that a group has recorded: what was done when, how far and how fast it fell, whether it came back, what went round.

A run is cut where something was done (joined, taken off, shorted, stirred, left). Each part is fitted by itself with one or
two exponentials and a level; the charge that went round is the area under the current, which is measured or follows from the
volts across a known resistor; the metal used is Faraday's law. The model's trace of the same cells with the same events
stands beside.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from galvanic.chemistry.curves import PackCell
from galvanic.chemistry.demand import Demand, Resistor, demand
from galvanic.chemistry.transient import Event, simulate
from galvanic.chemistry.work import Quantity, area_under, metal_used_g
from galvanic.errors import GalvanicError
from galvanic.findings.power_notes import days
from galvanic.notes import THIN, Note, amps, volts
from galvanic.reference.catalogue import kept
from galvanic.statistics.decay import LEAST_POINTS, Decay, fit_decay
from galvanic.words import mark, number, say

DONE = ("joined", "taken off", "shorted", "stirred", "topped up", "left")
JOINS = frozenset({"joined", "shorted"})
OPENS = frozenset({"taken off"})
DRAWN = 90  # points of the model's trace
STIRRED = 4.0  # how much thinner stirring makes the still layer: common practice, no source
LEAST_CHARGE_C = 1e-3
APART = 2.0  # times of two parts that lie nearer together are not told apart
BACK = 0.9  # of the voltage before: it has come back
# Uncertainty of one current of a run, as a share of the least: a school meter’s last digit (common practice, no source).
READ = 0.01
TWO_PARTS = mark(
    "The first fall may be the liquid at the plates running short of acid and oxygen, the slow one the plates changing. "
    "Stirring would tell: it brings back the first."
)
MOST_MODEL_S = 8 * 3600.0  # longer runs are told without the model's trace: evaporation and crusts are not in it


@dataclass(frozen=True, slots=True)
class RunPoint:
    """One number: seconds from the start, V or A."""

    t_s: float
    value: float


@dataclass(frozen=True, slots=True)
class Done:
    """Something done to the cells, one of DONE."""

    t_s: float
    what: str


@dataclass(frozen=True)
class Stretch:
    """A part of a run between two things done: its name, its ends, and its fit (None with too few points)."""

    name: str
    from_s: float
    to_s: float
    joined: bool
    fit: Decay | None


@dataclass(frozen=True)
class Run:
    """A run as it is told: stretches, notes, the charge in C and metal in g that it used, and the model's trace."""

    stretches: tuple[Stretch, ...]
    notes: tuple[Note, ...]
    charge_c: Quantity | None
    metal_g: float | None
    model: tuple[tuple[float, float], ...]


@kept(256)
def tell(
    cells: tuple[PackCell, ...],
    load_key: str | float | None,
    volts_v: tuple[RunPoint, ...],
    current_a: tuple[RunPoint, ...],
    events: tuple[Done, ...],
) -> Run:
    """What a run says; points and events in the order of their times, the load by its key or Ω (None: unknown).

    Kept, because a class asks for it again with every entry of anybody. Without points there is nothing to tell.
    """
    load = None if load_key is None else demand(load_key)
    last = max([point.t_s for point in (*volts_v, *current_a)], default=0.0)
    stretches = _stretches(volts_v or current_a, events, last)
    charge = _charge(load, volts_v, current_a, events, last)
    metal = None
    if charge is not None and len({cell.cell.negative for cell in cells}) == 1:
        metal = metal_used_g(cells[0].cell.negative, charge.value)
    notes = [*_under(stretches, bool(volts_v)), *_back(stretches, volts_v)]
    notes += _inside(load, volts_v, events) + _used(cells, charge, metal)
    return Run(tuple(stretches), tuple(notes), charge, metal, _model(cells, load, events, last) if volts_v else ())


def _stretches(points: Sequence[RunPoint], events: Sequence[Done], last: float) -> list[Stretch]:
    cuts = [(0.0, "open", False)]
    joined = False
    for event in events:
        joined = True if event.what in JOINS else False if event.what in OPENS else joined
        name = {"joined": "joined", "shorted": "shorted", "taken off": say("open again")}.get(event.what, event.what)
        cuts.append((event.t_s, name, joined))
    out = []
    for (start, name, on), end in zip(cuts, [*(cut[0] for cut in cuts[1:]), math.inf], strict=True):
        inside = [point for point in points if start <= point.t_s < end]
        if not inside or end <= start:
            continue
        fit = None
        if len(inside) >= LEAST_POINTS and len({point.value for point in inside}) > 1:
            fit = _fit(inside)
        out.append(Stretch(name, start, min(end, last), on, fit))
    return out


def _fit(points: Sequence[RunPoint]) -> Decay | None:
    """The fit of a stretch; two parts only where their times lie apart and above the time between two points."""
    t, y = [point.t_s for point in points], [point.value for point in points]
    try:
        decay = fit_decay(t, y)
        if len(decay.parts) == 2:
            fast, slow = (part.time.value for part in decay.parts)
            if slow < APART * fast or fast < min(b - a for a, b in zip(t, t[1:], strict=False)):
                decay = fit_decay(t, y, parts=1)
    except GalvanicError:
        return None
    return decay


def ohms(value: float) -> str:
    """A resistance for reading, two digits."""
    if value >= 1000.0:
        return f"{number(value / 1000.0, '.1f')}{THIN}kΩ"
    return f"{round(value, -1) if value >= 100.0 else value:.0f}{THIN}Ω"


def _span(seconds: float) -> str:
    return (
        f"{seconds:.0f} s"
        if seconds < 90.0
        else say("{seconds:.1f} min", seconds=seconds / 60.0)
        if seconds < 5400.0
        else days(seconds)
    )


def half_times(fit: Decay) -> str:
    """How fast a stretch goes, in words: half of its way in so long, with the range."""
    said = []
    for part in fit.parts:
        low, high = part.time.low, part.time.high
        reach = (
            ""
            if low is None or high is None
            else say(" ({span} to {span2})", span=_span(low * math.log(2.0)), span2=_span(high * math.log(2.0)))
        )
        said.append(f"{_span(part.half)}{reach}")
    return say(", then ").join(said)


def _under(stretches: Sequence[Stretch], in_volts: bool) -> list[Note]:
    """What a joined stretch does: from where to where, and how fast."""
    out = []
    show = volts if in_volts else amps
    for stretch in stretches:
        if not stretch.joined or stretch.fit is None or not stretch.fit.parts:
            continue
        first, last = (float(v) for v in stretch.fit.at(np.array([0.0, stretch.to_s - stretch.from_s])))
        falls = last < first
        why = f" {say(TWO_PARTS)}" if len(stretch.fit.parts) == 2 and falls else ""
        text = say(
            "{first} at first, {last} at the end: half of its way in {half_times}.{why}",
            first=show(first),
            last=show(last),
            half_times=half_times(stretch.fit),
            why=why,
        )
        title = say("It falls while it works") if falls else say("It climbs while it works")
        out.append(Note("under", "plain", title, text))
    return out


def _mean_before(points: Sequence[RunPoint], t_s: float) -> float | None:
    before = [point.value for point in points if point.t_s < t_s]
    return float(np.mean(before[-3:])) if before else None


def _back(stretches: Sequence[Stretch], volts_v: Sequence[RunPoint]) -> list[Note]:
    """Whether the open voltage comes back after work, and how far."""
    works = [k for k, one in enumerate(stretches) if one.joined]
    if not works or works[-1] + 1 >= len(stretches) or stretches[works[-1] + 1].joined:
        return []
    worked, after = stretches[works[0]], stretches[works[-1] + 1]
    before = _mean_before(volts_v, worked.from_s)
    rest = [point.value for point in volts_v if point.t_s >= after.from_s]
    if before is None or before <= 0.0 or len(rest) < 2:
        return []
    share = float(np.mean(rest[-2:])) / before
    fast = (
        say(", half of the way in {half_times}", half_times=half_times(after.fit))
        if after.fit is not None and after.fit.parts
        else ""
    )
    text = say("To {share} % in {span}{fast}.", share=round(100 * share), span=_span(after.to_s - after.from_s), fast=fast)
    if share > BACK:
        return [
            Note(
                "back", "good", say("It comes back"), say("{said} What comes back was used up at the plate only.", said=text)
            )
        ]
    return [
        Note(
            "back",
            "caution",
            say("It does not come back"),
            say("{said} A plate or the liquid has changed for good.", said=text),
        )
    ]


def _inside(load: Demand | None, volts_v: Sequence[RunPoint], events: Sequence[Done]) -> list[Note]:
    """The apparent resistance at the first and at the last point of the first stretch with a known resistor."""
    joins = [event.t_s for event in events if event.what == "joined"]
    if load is None or not isinstance(load.takes, Resistor) or load.takes.ohm <= 0.0 or not joins:
        return []
    open_v = _mean_before(volts_v, joins[0])
    ends = [event.t_s for event in events if event.t_s > joins[0] and event.what in ("taken off", "shorted")]
    on = [point for point in volts_v if joins[0] <= point.t_s < (ends[0] if ends else math.inf)]
    if open_v is None or len(on) < 2 or not all(0.0 < point.value < open_v for point in (on[0], on[-1])):
        return []
    first, last = (load.takes.ohm * (open_v / point.value - 1.0) for point in (on[0], on[-1]))
    text = say(
        "{first} after {span}, {last} after {span2}. One number for “the resistance inside” would hide that.",
        first=ohms(first),
        span=_span(on[0].t_s - joins[0]),
        last=ohms(last),
        span2=_span(on[-1].t_s - joins[0]),
    )
    return [Note("inside", "plain", say("Inside"), text)]


def _charge(
    load: Demand | None, volts_v: Sequence[RunPoint], current_a: Sequence[RunPoint], events: Sequence[Done], last: float
) -> Quantity | None:
    """Charge that went round while something was joined, C: from measured currents, else from volts across the resistor."""
    parts = []
    edges = [event for event in events if event.what in JOINS or event.what in OPENS]
    for event, end in zip(edges, [*(edge.t_s for edge in edges[1:]), last], strict=False):
        if event.what not in JOINS:
            continue
        measured = [point for point in current_a if event.t_s <= point.t_s <= end]
        if len(measured) < 2 and event.what == "joined" and load is not None and isinstance(load.takes, Resistor):
            ohm = load.takes.ohm
            across = [point for point in volts_v if event.t_s <= point.t_s <= end]
            measured = [RunPoint(point.t_s, point.value / ohm) for point in across] if ohm > 0.0 else []
        if len(measured) > 1:
            least = min(abs(point.value) for point in measured)
            parts.append(area_under([p.t_s for p in measured], [p.value for p in measured], READ * least))
    if not parts:
        return None
    return Quantity(math.fsum(part.value for part in parts), math.hypot(*(part.u for part in parts)))


def _used(cells: Sequence[PackCell], charge: Quantity | None, metal_g: float | None) -> list[Note]:
    if charge is None or charge.value < LEAST_CHARGE_C:
        return []
    digits = 3 if charge.value < 0.1 else 2
    text = say("{value}\u202fC went round (± {u:.1g}).", value=number(charge.value, f".{digits}f"), u=charge.u)
    if metal_g is not None:
        text += say(
            " That is {metal_g:.2g}\u202fmg of the negative plate in each cell, and what the liquid eats besides.",
            metal_g=1e3 * metal_g,
        )
    return [Note("used", "plain", say("What it cost"), text)]


def lasted(seen: Sequence[tuple[float, bool]]) -> Note | None:
    """How long a load ran, from what was seen of it: seconds and whether it ran, in order. None before it was seen twice."""
    begun = next((t for t, ran in seen if ran), None)
    if begun is None or len(seen) < 2:
        return None
    last = max(t for t, ran in seen if ran)
    ended = next((t for t, ran in seen if not ran and t > last), None)
    if ended is None:
        if last == begun:
            return None
        return Note("lasted", "good", say("Still going"), say("It was seen to run over {span}.", span=_span(last - begun)))
    text = say("It ran for {span} at least and {span2} at most.", span=_span(last - begun), span2=_span(ended - begun))
    return Note("lasted", "plain", say("How long it ran"), text)


def _model(
    cells: Sequence[PackCell], load: Demand | None, events: Sequence[Done], last: float
) -> tuple[tuple[float, float], ...]:
    """The model's volts with the same events; nothing where it cannot be run."""
    if not cells or last < 1.0 or last > MOST_MODEL_S:
        return ()
    made = []
    for event in events:
        if event.what == "joined" and load is not None:
            made.append(Event(event.t_s, "load", load))
        elif event.what in ("shorted", "taken off"):
            made.append(Event(event.t_s, "short" if event.what == "shorted" else "open"))
        elif event.what == "stirred":
            made += [Event(event.t_s, "stir", times=STIRRED), Event(event.t_s + 10.0, "stir", times=1.0)]
    made.sort(key=lambda event: event.at_s)
    try:
        trace = simulate(cells, [event for event in made if event.at_s < last], last)
    except GalvanicError:
        return ()
    at = np.unique([*np.linspace(0.0, last, DRAWN), *(event.at_s + 0.5 for event in made if event.at_s + 0.5 < last)])
    return tuple((float(t), float(v)) for t, v in zip(at, trace.at(at)[0], strict=True))
