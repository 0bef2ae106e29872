"""What the result of one electrolyte says, in sentences: computed, ranked, each with the numbers it rests on.

A note appears only where the data bear it out; limits are chosen so that on sound simulated classes fewer than one note in
twenty says something that is not so (tests/test_class_notes.py counts them).
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

from galvanic.errors import NotEnoughData
from galvanic.findings.compare import USUAL_SCATTER_V, CellResult, ElectrolyteResult, Rung
from galvanic.findings.loop_notes import loop_note
from galvanic.findings.ranked import Ranked
from galvanic.notes import MINUS, Note, capital, digits, spread, volts
from galvanic.reference.catalogue import electrodes, kept
from galvanic.statistics.ladder import Difference
from galvanic.statistics.ladder_checks import NextCell, next_cells, rank_agreement
from galvanic.words import mark, say, say_n

SURE_SIGMA = 3.0
LEAST_SHIFT_V = 0.3
LEAST_GAIN = 0.02  # neighbours: less is not worth a walk


@kept(256)  # results are kept too, and are the same object while a bath has nothing new
def bath_notes(result: ElectrolyteResult) -> tuple[Ranked, ...]:
    """Notes on one electrolyte's result, most useful first; `class_says` leaves out what others explain."""
    ranked = [
        *_outliers(result),
        *_swaps(result),
        *_short(result),
        *_loops(result),
        *_next(result),
        *_standing(result),
    ]
    return tuple(sorted(ranked, key=lambda one: -one.weight))


def _name(key: str) -> str:
    return electrodes()[key].name


def _symbol(key: str) -> str:
    return electrodes()[key].symbol


def _pair(d: Difference) -> str:
    return f"{_symbol(d.black)} | {_symbol(d.red)}"


def _outliers(result: ElectrolyteResult) -> list[Ranked]:
    """A value that every other cell contradicts."""
    ranked = []
    for outlier in result.outliers[:4]:
        d = outlier.difference
        near_zero = abs(d.volts_v) < 0.25 * abs(outlier.expected_v)
        turned = abs(d.volts_v + outlier.expected_v) < 0.15 * abs(outlier.expected_v)
        why = (
            say("That is what a bridge between the plates or the clips does: almost nothing is left.")
            if near_zero
            else say("With red and black the other way round it would fit.")
            if turned
            else say("Something was different at this bench: plates, liquid, clips, or the number.")
        )
        text = say(
            "{group} has {volts_v}; all other cells together say {expected_v}. {why} It stays in the "
            "picture but pulls neither the ladder nor the class mean.",
            group=d.group,
            volts_v=volts(d.volts_v),
            expected_v=volts(outlier.expected_v),
            why=why,
        )
        evidence = (
            say("{off_v} from the ladder of all other values", off_v=volts(abs(outlier.off_v))),
            say("{times:.0f} times the scatter of the others", times=outlier.times)
            if math.isfinite(outlier.times)
            else say("more than any cell gives, or the others do not scatter at all"),
        )
        note = Note(
            "outlier", "wrong", say("{group}’s {pair} does not fit", group=d.group, pair=_pair(d)), text, evidence=evidence
        )
        ranked.append(Ranked(90, note, frozenset({d.group})))
    return ranked


def _swaps(result: ElectrolyteResult) -> list[Ranked]:
    """Two plates in another order than the table's."""
    ranked = []
    swaps = result.swaps
    for swap in swaps[:3]:
        direct = [c for c in result.cells if set(c.cell.pair) == {swap.upper, swap.lower}]
        rows = [
            say(
                "{short} measured directly: {mean_v}, n = {n}",
                short=c.cell.short,
                mean_v=volts(c.mean_v, signed=True),
                n=c.n,
            )
            for c in direct
        ]
        chain = say(
            "all cells together: {by_v} ± {u_v} (standard uncertainty)",
            by_v=volts(swap.by_v, digits(swap.u_v)),
            u_v=spread(swap.u_v),
        )
        ranked.append(
            Ranked(
                80,
                Note(
                    "swapped",
                    "wrong",
                    say("{symbol} and {symbol2} changed places", symbol=_symbol(swap.lower), symbol2=_symbol(swap.upper)),
                    say(
                        "The table puts {name} below {name2}. This class found it above, by {by_v} ± {u_v}.",
                        name=_name(swap.lower),
                        name2=_name(swap.upper),
                        by_v=volts(swap.by_v, digits(swap.u_v)),
                        u_v=spread(swap.u_v),
                    ),
                    evidence=(chain, *rows),
                ),
            )
        )
    if len(swaps) > 3:
        others = ", ".join(
            say("{symbol} and {symbol2}", symbol=_symbol(s.lower), symbol2=_symbol(s.upper)) for s in swaps[3:]
        )
        ranked.append(
            Ranked(
                45, Note("more_swaps", "plain", say("{n_swaps} more changed places", n_swaps=len(swaps) - 3), f"{others}.")
            )
        )
    return ranked


def shifts(result: ElectrolyteResult) -> list[tuple[Rung, float]]:
    """How far each plate of the table sits from its table value, against the middle of all, largest first, V."""
    listed = [rung for rung in result.rungs if rung.table_v is not None]
    shifted = [(rung, rung.class_v - (rung.table_v or 0.0)) for rung in listed]
    ordered = sorted(shift for _, shift in shifted)
    middle = ordered[len(ordered) // 2] if ordered else 0.0
    return sorted(((rung, shift - middle) for rung, shift in shifted), key=lambda one: -abs(one[1]))


def _by_cell(result: CellResult, plate: str, shifted: Mapping[str, float]) -> float:
    """How far a plate is shifted by one cell alone, V: the cell's gap with the shift of its partner taken off."""
    gap = result.gap_v or 0.0
    if plate == result.cell.negative:
        return shifted[result.cell.positive] - gap
    return gap + shifted[result.cell.negative]


def _where(result: ElectrolyteResult, plate: str, shift: float, cells: Sequence[CellResult]) -> str:
    """Where a plate sits against the table, and what that does to its cells on either side."""
    above = mark("Measured against the middle of the others, {name} sits {shift} above its table value.")
    below = mark("Measured against the middle of the others, {name} sits {shift} below its table value.")
    sits = say(above if shift > 0.0 else below, name=_name(plate), shift=volts(abs(shift)))
    as_minus = [_symbol(c.cell.positive) for c in cells if c.cell.negative == plate]
    as_plus = [_symbol(c.cell.negative) for c in cells if c.cell.positive == plate]
    less, more = (as_minus, as_plus) if shift > 0.0 else (as_plus, as_minus)
    does = [
        *([say("With {names} that makes its cells read less than the table.", names=", ".join(less))] if less else []),
        *([say("With {names} it makes them read more.", names=", ".join(more))] if more else []),
    ]
    cause = say("So the cause is on the {name}, not on its partners.", name=_name(plate))
    return " ".join([sits, *does, cause])


def _short(result: ElectrolyteResult) -> list[Ranked]:
    """A plate that is off by the same amount against every partner: the cause sits on that plate."""
    ranked: list[Ranked] = []
    if result.ladder is None or len(result.rungs) < 4:
        return ranked
    shifted = {rung.electrode: shift for rung, shift in shifts(result)}
    for rung, shift in shifts(result)[:2]:
        plate = rung.electrode
        cells = [
            c for c in result.cells if plate in c.cell.pair and c.gap_v is not None and set(c.cell.pair) <= set(shifted)
        ]
        if abs(shift) < max(LEAST_SHIFT_V, SURE_SIGMA * rung.u_v) or len(cells) < 2:
            continue
        rows = tuple(
            say(
                "{short}: {by_cell}, its partner’s own shift taken off",
                short=c.cell.short,
                by_cell=volts(_by_cell(c, plate, shifted)),
            )
            for c in cells
        )
        ranked.append(
            Ranked(
                70,
                Note(
                    "plate_shift",
                    "plain",
                    say(
                        mark("{name} sits {shift} above the table")
                        if shift > 0.0
                        else mark("{name} sits {shift} below the table"),
                        name=capital(_name(plate)),
                        shift=volts(abs(shift), 1),
                    ),
                    _where(result, plate, shift, cells),
                    evidence=rows,
                ),
            )
        )
    return ranked


def _loops(result: ElectrolyteResult) -> list[Ranked]:
    """Whether the ladder adds up around its loops, or what does not fit, or that it cannot be told."""
    if result.ladder is None or result.ladder.dof < 1:
        return []
    note = loop_note([d for d in result.fitted if result.bears_out(d.group, (d.red, d.black))])
    return [] if note is None else [Ranked({"loop": 65, "closes": 20}.get(note.code, 18), note)]


def sharpening(result: ElectrolyteResult) -> list[NextCell]:
    """The cells on which one more group would raise the expected number of neighbours in the right order, most first."""
    if result.ladder is None:
        return []
    u_next = _u_next(result)
    cells = next_cells(result.ladder, [rung.electrode for rung in result.rungs], u_next)
    return [cell for cell in cells if cell.then - cell.now >= LEAST_GAIN]


def _u_next(result: ElectrolyteResult) -> float:
    return max(result.between.s_v if result.between else USUAL_SCATTER_V, 1e-3)


def _next(result: ElectrolyteResult) -> list[Ranked]:
    """The cell that would raise the expected number of neighbours in the right order most."""
    cells, order, u_next = sharpening(result), [rung.electrode for rung in result.rungs], _u_next(result)
    if not cells:
        return []
    best = cells[0]
    pairs = len(order) - 1
    text = say(
        "Two neighbours on the ladder stand in the right order in {now:.0f} of 100 such classes, taken over all neighbours. "
        "One more group on this cell would make that {then:.0f}, the most of any cell.",
        now=100.0 * best.now / pairs,
        then=100.0 * best.then / pairs,
    )
    evidence = (
        say("scatter of one more group: {u_next}", u_next=volts(u_next, 3)),
        say_n("{n} cell compared", "{n} cells compared", len(result.rungs) * (len(result.rungs) - 1) // 2),
    )
    title = say("Next cell worth making: {symbol} | {symbol2}", symbol=_symbol(best.black), symbol2=_symbol(best.red))
    return [Ranked(40, Note("next", "plain", title, text, evidence=evidence))]


def _standing(result: ElectrolyteResult) -> list[Ranked]:
    """What holds of every result: widest gap, what is not on the ladder, where it is held, scatter, order."""
    ranked = []
    listed = [cell for cell in result.cells if cell.gap_v is not None]
    if listed and abs(listed[0].gap_v or 0.0) >= 0.005:
        widest = listed[0]
        gap = widest.gap_v or 0.0
        less = mark("The table gives {table_v}, the class {mean_v}: {gap} less.")
        more = mark("The table gives {table_v}, the class {mean_v}: {gap} more.")
        shown = abs(round(widest.mean_v, 2) - round(widest.table_v or 0.0, 2))  # of the numbers as they stand there
        text = say(
            less if gap < 0 else more,
            table_v=volts(widest.table_v or 0.0),
            mean_v=volts(widest.mean_v),
            gap=volts(shown),
        )
        title = mark("Widest gap: {short}") if len(listed) > 1 else mark("The gap of {short}")
        ranked.append(Ranked(30, Note("widest_gap", "plain", say(title, short=widest.cell.short), text)))
    if result.loose:
        names = ", ".join(_name(name) for name in result.loose)
        total = len(result.loose) + len(result.rungs)
        text = say(
            "No chain of cells connects {names} to the rest ({n_loose} of {total} plates).",
            names=names,
            n_loose=len(result.loose),
            total=total,
        )
        ranked.append(Ranked(60, Note("loose", "caution", say("Not on the ladder yet"), text)))
    if result.anchor:
        text = say(
            "Voltmeters only show differences, so one plate has to be held at its table value, "
            "{table_v}. The uncertainty of every other plate is that of its distance to {name}.",
            table_v=volts(electrodes()[result.anchor].table_v(), signed=True),
            name=_name(result.anchor),
        )
        ranked.append(Ranked(10, Note("anchor", "plain", say("Held at {name}", name=_name(result.anchor)), text)))
    ranked += _scatter(result)
    table = {rung.electrode: rung.table_v for rung in result.rungs if rung.table_v is not None}
    if result.ladder is not None and len(table) >= 3:
        try:
            rank = rank_agreement(result.ladder, table)
        except NotEnoughData:
            return ranked
        text = say(
            "Of {n} pairs of plates, the class agrees with the table’s order in {n2}.",
            n=rank.n * (rank.n - 1) // 2,
            n2=round((rank.tau + 1) / 2 * rank.n * (rank.n - 1) / 2),
        )
        evidence = (
            say(
                "Kendall’s τ = {tau:.2f}, 95 % from {low:.2f} to {high:.2f}", tau=rank.tau, low=rank.low, high=rank.high
            ).replace("-", MINUS),
        )
        ranked.append(Ranked(12, Note("order", "plain", say("The order"), text, evidence=evidence)))
    return ranked


def _kept(result: ElectrolyteResult) -> list[str]:
    """What the ladder's fit makes of the scatter: new at each cell, kept with plates, kept with meters."""
    scatter = result.ladder.scatter if result.ladder else None
    if scatter is None:
        return []
    rough = [say("{name} adds {sd} of its own", name=_name(key), sd=volts(sd, 3)) for key, sd in scatter.rough.items()]
    return [
        say(
            "new at each cell {cell_v}, kept with a group’s plates {plates_v}, with its meter {meter_v}",
            cell_v=volts(scatter.cell_v, 3),
            plates_v=volts(scatter.plates_v, 3),
            meter_v=volts(scatter.meter_v, 3),
        ),
        *rough,
    ]


def _scatter(result: ElectrolyteResult) -> list[Ranked]:
    """Repeatability and reproducibility."""
    ranked = []
    if result.tau_v is None and result.rungs:
        text = say(
            "{n_rungs} plates, and no cell by two groups and no closed loop: the ladder cannot check "
            "itself. Its bars take the scatter between groups as usual, {usual_scatter_v}.",
            n_rungs=len(result.rungs),
            usual_scatter_v=volts(USUAL_SCATTER_V),
        )
        ranked.append(Ranked(55, Note("no_check", "caution", say("Nothing measured twice over"), text)))
    if result.inside and result.between and result.inside.dof > 0:
        text = say(
            "The same group again: {s_v}. Another group: {s_v2}. The bars count both, and that a group "
            "keeps its plates and its meter from cell to cell.",
            s_v=volts(result.inside.s_v, 3),
            s_v2=volts(result.between.s_v, 3),
        )
        evidence = (
            say(
                "inside groups: s = {s_v} with {dof} degrees of freedom",
                s_v=volts(result.inside.s_v, 4),
                dof=result.inside.dof,
            ),
            say("between groups: s = {s_v} with {dof}", s_v=volts(result.between.s_v, 4), dof=result.between.dof),
            *_kept(result),
        )
        ranked.append(Ranked(15, Note("scatter", "plain", say("How well it repeats"), text, evidence=evidence)))
    return ranked
