"""What the result of one electrolyte says, in sentences: computed, ranked, each with the numbers it rests on.

A note appears only where the data bear it out; limits are chosen so that on sound simulated classes fewer than one note in
twenty says something that is not so (tests/test_class_notes.py counts them).
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace

from galvanic.errors import NotEnoughData
from galvanic.findings.compare import USUAL_SCATTER_V, CellResult, ElectrolyteResult, Rung
from galvanic.notes import MINUS, Note, capital, spread, volts
from galvanic.reference.catalogue import electrodes, kept
from galvanic.statistics.ladder import Difference, fit
from galvanic.statistics.ladder_checks import closure, next_cells, rank_agreement

SURE_SIGMA = 3.0
LEAST_SHIFT_V = 0.3
LOOP_SIGMA = 3.0
LEAST_GAIN = 0.02  # neighbours: less is not worth a walk


@dataclass(frozen=True, slots=True)
class Ranked:
    """A note with its weight: the heavier stand first."""

    weight: int
    note: Note


@kept(256)  # results are kept too, and are the same object while a bath has nothing new
def bath_notes(result: ElectrolyteResult) -> tuple[Note, ...]:
    """Notes on one electrolyte's result, most useful first."""
    ranked = [
        *_outliers(result),
        *_swaps(result),
        *_short(result),
        *_loops(result),
        *_next(result),
        *_standing(result),
    ]
    return tuple(one.note for one in sorted(ranked, key=lambda one: -one.weight))


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
            "That is what a bridge between the plates or the clips does: almost nothing is left."
            if near_zero
            else "With red and black the other way round it would fit."
            if turned
            else "Something was different at this bench: plates, liquid, clips, or the number."
        )
        text = (
            f"{d.group} has {volts(d.volts_v)}; all other cells together say {volts(outlier.expected_v)}. {why} "
            "It stays in the picture but pulls neither the ladder nor the class mean."
        )
        evidence = (
            f"{volts(abs(outlier.off_v))} from the ladder of all other values",
            f"{outlier.times:.0f} times the scatter of the others"
            if math.isfinite(outlier.times)
            else "more than any cell gives, or the others do not scatter at all",
        )
        note = Note("outlier", "wrong", f"{d.group}’s {_pair(d)} does not fit", text, evidence=evidence)
        ranked.append(Ranked(90, note))
    return ranked


def _swaps(result: ElectrolyteResult) -> list[Ranked]:
    """Two plates in another order than the table's."""
    ranked = []
    swaps = result.swaps
    for swap in swaps[:3]:
        direct = [c for c in result.cells if set(c.cell.pair) == {swap.upper, swap.lower}]
        rows = [f"{c.cell.short} measured directly: {volts(c.mean_v, signed=True)}, n = {c.n}" for c in direct]
        chain = f"all cells together: {volts(swap.by_v)} ± {spread(swap.u_v)} (standard uncertainty)"
        ranked.append(
            Ranked(
                80,
                Note(
                    "swapped",
                    "wrong",
                    f"{_symbol(swap.lower)} and {_symbol(swap.upper)} changed places",
                    f"The table puts {_name(swap.lower)} below {_name(swap.upper)}. This class found it above, by "
                    f"{volts(swap.by_v)} ± {spread(swap.u_v)}.",
                    evidence=(chain, *rows),
                ),
            )
        )
    if len(swaps) > 3:
        others = ", ".join(f"{_symbol(s.lower)} and {_symbol(s.upper)}" for s in swaps[3:])
        ranked.append(Ranked(45, Note("more_swaps", "plain", f"{len(swaps) - 3} more changed places", f"{others}.")))
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
        short = "short" if shift > 0.0 else "over"
        rows = tuple(
            f"{c.cell.short}: {volts(_by_cell(c, plate, shifted))}, its partner’s own shift taken off" for c in cells
        )
        ranked.append(
            Ranked(
                70,
                Note(
                    "plate_shift",
                    "plain",
                    f"{capital(_name(rung.electrode))} is {volts(abs(shift), 1)} {short} everywhere",
                    f"Its plate sits {volts(abs(shift))} {'above' if shift > 0 else 'below'} its table value, measured "
                    f"against the middle of the others, in all its {len(cells)} cells. So the cause is on the "
                    f"{_name(rung.electrode)}, not on its partners.",
                    evidence=rows,
                ),
            )
        )
    return ranked


def _loops(result: ElectrolyteResult) -> list[Ranked]:
    """Whether the ladder adds up around its loops."""
    if result.ladder is None or result.ladder.dof < 1:
        return []
    tau = result.tau_v or 0.0
    kept = [replace(d, u_v=math.hypot(d.u_v, tau)) for d in result.fitted if result.bears_out(d.group, (d.red, d.black))]
    try:
        loops = closure(kept, fit(kept)).loops
    except NotEnoughData:
        return []
    if not loops:
        return []
    open_loops = [loop for loop in loops if abs(loop.sum_v) > LOOP_SIGMA * loop.u_v]
    worst = loops[0]
    names = ", ".join(_symbol(key) for key in worst.electrodes)
    evidence = tuple(
        f"{', '.join(_symbol(key) for key in loop.electrodes)}: {volts(loop.sum_v, 3, signed=True)} ± {volts(loop.u_v, 3)}"
        for loop in loops[:6]
    )
    if open_loops:
        return [
            Ranked(
                65,
                Note(
                    "loop",
                    "caution",
                    "The ladder does not add up",
                    f"Around {names} the cells add up to {volts(worst.sum_v, signed=True)} and should add up to nothing. "
                    "One of these cells was different, or a meter that is off read some of them and not the others.",
                    evidence=evidence,
                ),
            )
        ]
    text = f"{len(loops)} of {len(loops)} loops close within their scatter (worst: {names}, {volts(abs(worst.sum_v))})."
    return [Ranked(20, Note("closes", "good", "The ladder adds up", text, evidence=evidence))]


def _next(result: ElectrolyteResult) -> list[Ranked]:
    """The cell that would raise the expected number of neighbours in the right order most."""
    if result.ladder is None:
        return []
    u_next = max(result.between.s_v if result.between else USUAL_SCATTER_V, 1e-3)
    order = [rung.electrode for rung in result.rungs]
    cells = next_cells(result.ladder, order, u_next)
    if not cells or cells[0].then - cells[0].now < LEAST_GAIN:
        return []
    best = cells[0]
    text = (
        f"{best.now:.2f} of {len(order) - 1} neighbours are expected to stand in the right order. One more group on this "
        f"cell would make that {best.then:.2f}, the most of any cell."
    )
    evidence = (f"scatter of one more group: {volts(u_next, 3)}", f"{len(cells)} cells compared")
    title = f"Next cell worth making: {_symbol(best.black)} | {_symbol(best.red)}"
    return [Ranked(40, Note("next", "plain", title, text, evidence=evidence))]


def _standing(result: ElectrolyteResult) -> list[Ranked]:
    """What holds of every result: widest gap, what is not on the ladder, where it is held, scatter, order."""
    ranked = []
    listed = [cell for cell in result.cells if cell.gap_v is not None]
    if listed and abs(listed[0].gap_v or 0.0) >= 0.005:
        widest = listed[0]
        gap = widest.gap_v or 0.0
        text = (
            f"The table gives {volts(widest.table_v or 0.0)}, the class {volts(widest.mean_v)}: {volts(abs(gap))} "
            f"{'less' if gap < 0 else 'more'}."
        )
        ranked.append(Ranked(30, Note("widest_gap", "plain", f"Widest gap: {widest.cell.short}", text)))
    if result.loose:
        names = ", ".join(_name(name) for name in result.loose)
        total = len(result.loose) + len(result.rungs)
        text = f"No chain of cells connects {names} to the rest ({len(result.loose)} of {total} plates)."
        ranked.append(Ranked(60, Note("loose", "caution", "Not on the ladder yet", text)))
    if result.anchor:
        text = (
            "Voltmeters only show differences, so one plate has to be held at its table value, "
            f"{volts(electrodes()[result.anchor].table_v(), signed=True)}. The uncertainty of every other plate is that of "
            f"its distance to {_name(result.anchor)}."
        )
        ranked.append(Ranked(10, Note("anchor", "plain", f"Held at {_name(result.anchor)}", text)))
    ranked += _scatter(result)
    table = {rung.electrode: rung.table_v for rung in result.rungs if rung.table_v is not None}
    if result.ladder is not None and len(table) >= 3:
        try:
            rank = rank_agreement(result.ladder, table)
        except NotEnoughData:
            return ranked
        text = (
            f"Of {rank.n * (rank.n - 1) // 2} pairs of plates, the class agrees with the table’s order in "
            f"{round((rank.tau + 1) / 2 * rank.n * (rank.n - 1) / 2)}."
        )
        evidence = (f"Kendall’s τ = {rank.tau:.2f}, 95 % from {rank.low:.2f} to {rank.high:.2f}".replace("-", MINUS),)
        ranked.append(Ranked(12, Note("order", "plain", "The order", text, evidence=evidence)))
    return ranked


def _kept(result: ElectrolyteResult) -> list[str]:
    """What the ladder's fit makes of the scatter: new at each cell, kept with plates, kept with meters."""
    scatter = result.ladder.scatter if result.ladder else None
    if scatter is None:
        return []
    rough = [f"{_name(key)} adds {volts(sd, 3)} of its own" for key, sd in scatter.rough.items()]
    return [
        f"new at each cell {volts(scatter.cell_v, 3)}, kept with a group’s plates {volts(scatter.plates_v, 3)}, "
        f"with its meter {volts(scatter.meter_v, 3)}",
        *rough,
    ]


def _scatter(result: ElectrolyteResult) -> list[Ranked]:
    """Repeatability and reproducibility."""
    ranked = []
    if result.tau_v is None and result.rungs:
        text = (
            f"{len(result.rungs)} plates, and no cell by two groups and no closed loop: the ladder cannot check itself. "
            f"Its bars take the scatter between groups as usual, {volts(USUAL_SCATTER_V)}."
        )
        ranked.append(Ranked(55, Note("no_check", "caution", "Nothing measured twice over", text)))
    if result.inside and result.between and result.inside.dof > 0:
        text = (
            f"The same group again: {volts(result.inside.s_v, 3)}. Another group: {volts(result.between.s_v, 3)}. "
            "The bars count both, and that a group keeps its plates and its meter from cell to cell."
        )
        evidence = (
            f"inside groups: s = {volts(result.inside.s_v, 4)} with {result.inside.dof} degrees of freedom",
            f"between groups: s = {volts(result.between.s_v, 4)} with {result.between.dof}",
            *_kept(result),
        )
        ranked.append(Ranked(15, Note("scatter", "plain", "How well it repeats", text, evidence=evidence)))
    return ranked
