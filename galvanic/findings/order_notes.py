"""What goes with the order of a group's cells: a liquid that tires, a plate that was taken for another one, a meter that
reads too much in proportion."""

from __future__ import annotations

import math
from collections.abc import Collection, Mapping, Sequence
from statistics import fmean

import numpy as np

from galvanic.bench.checks import OWN_PLATES_U_V
from galvanic.findings.compare import ElectrolyteResult
from galvanic.findings.group_lists import GroupList, Visit
from galvanic.findings.ranked import Ranked
from galvanic.notes import Note, capital, digits, spread, volts
from galvanic.reference.catalogue import electrodes
from galvanic.statistics.by_order import Change, changed_plates, fading
from galvanic.statistics.ladder import Difference
from galvanic.words import mark, say

Visits = Mapping[str, Sequence[Visit]]
LEAST_U_V = 3e-4  # a last digit of a millivolt
LEAST_SCALE, SURE_SCALE, FITS = 0.1, 4.0, 4.0
LEAST_FADING, LEAST_CHANGE_V = 0.02, 0.08  # over the whole list; of a plate


def order_notes(
    lists: Sequence[GroupList], visited: Visits, results: Sequence[ElectrolyteResult], without: Collection[str]
) -> list[Ranked]:
    """What goes with the order in which groups made their cells.

    `lists`: all that was written; `visited`: the readings that count; groups in `without` have written what is no
    measurement.
    """
    scales = _scales([one for one in lists if one.group not in without])
    off = {group for scale in scales for group in scale.groups} | set(without)
    baths = [(*_in_bath(visited, one, off, _alone(one)), one.ladder) for one in results if one.ladder is not None]
    changes = [
        Ranked(91, _changed(change), frozenset({change.group}))
        for change in changed_plates([bath for bath in baths if bath[0]])
        if abs(change.shift_v) >= LEAST_CHANGE_V
    ]
    off |= {group for change in changes for group in change.groups}
    return [*scales, *changes, *_fading(visited, results, off)]


def _alone(result: ElectrolyteResult) -> set[tuple[str, frozenset[str]]]:
    """Values that everything else contradicts, of groups that have one such: no plate was changed for that."""
    groups = [outlier.difference.group for outlier in result.outliers]
    return {outlier.key for outlier in result.outliers if groups.count(outlier.difference.group) == 1}


def _in_bath(
    visited: Visits,
    result: ElectrolyteResult,
    off: Collection[str],
    without: Collection[tuple[str, frozenset[str]]] = (),
) -> tuple[list[Difference], list[int]]:
    """One value for each visit of a group to a cell of a liquid, with its place in the group's list."""
    inside_v = result.inside.s_v if result.inside else 0.0
    values, places = [], []
    for group, found in visited.items():
        for visit in found:
            cell = visit.cell
            if group in off or cell.bath != (result.electrolyte, result.condition) or cell.positive == cell.negative:
                continue
            if (group, frozenset(cell.pair)) in without:
                continue
            u_v = max(LEAST_U_V, inside_v / math.sqrt(len(visit.values)))
            values.append(Difference(cell.positive, cell.negative, fmean(visit.values), u_v, group))
            places.append(visit.place)
    return values, places


def _scales(lists: Sequence[GroupList]) -> list[Ranked]:
    """A group all of whose values are too large in proportion, and more so from cell to cell."""
    ranked = []
    for one in lists:
        cells = [cell for cell in one.values if one.expected[cell].others]
        due = np.array([one.expected[cell].volts_v for cell in cells])
        if len(cells) < 3 or float(np.ptp(due)) < 0.3:
            continue
        read = np.array([one.means[cell] for cell in cells])
        u = np.array([math.hypot(one.expected[cell].u_v, OWN_PLATES_U_V) for cell in cells])
        place = np.array([list(one.values).index(cell) for cell in cells], dtype=float)
        x = np.column_stack([due, due * place]) / u[:, None]
        part, *_ = np.linalg.lstsq(x, read / u, rcond=None)
        before, after = float((((read - due) / u) ** 2).sum()), float(((read / u - x @ part) ** 2).sum())
        times = part[0] + part[1] * place
        if times.min() < 1.0 + LEAST_SCALE or before - after < SURE_SCALE**2 + 4.0 or after > FITS * max(1, len(cells) - 2):
            continue
        low, high = (100.0 * (float(value) - 1.0) for value in (times.min(), times.max()))
        text = say(
            "All its values are too large in proportion, by {low:.0f} % at one end of its list and {high:.0f} % at the "
            "other. A meter whose own battery is nearly empty does that. Hold it on a fresh battery, or beside another "
            "meter, then change its battery and read again.",
            low=low, high=high,
        )  # fmt: skip
        rows = tuple(
            say(
                "{short}: {read}, and {due} is expected",
                short=cell.short, read=volts(one.means[cell]), due=volts(one.expected[cell].volts_v),
            )
            for cell in cells[:8]
        )  # fmt: skip
        title = say("{group}’s meter reads too much", group=one.group)
        ranked.append(Ranked(93, Note("scale", "wrong", title, text, evidence=rows), frozenset({one.group})))
    return ranked


def _changed(change: Change) -> Note:
    name = electrodes()[change.plate].name
    higher = mark("From its cell {since} on, {name} sits {shift} ± {u} higher than before.")
    lower = mark("From its cell {since} on, {name} sits {shift} ± {u} lower than before.")
    sits = say(
        higher if change.shift_v > 0.0 else lower,
        since=change.since + 1, name=name, shift=volts(abs(change.shift_v), digits(change.u_v)), u=spread(change.u_v),
    )  # fmt: skip
    text = f"{sits} {say('Was another piece taken, or was it rubbed?')}"
    title = say("{group}: another {name} from cell {since} on?", group=change.group, name=name, since=change.since + 1)
    return Note("plate_changed", "caution", capital(title), text)


def _fading(visited: Visits, results: Sequence[ElectrolyteResult], off: Collection[str]) -> list[Ranked]:
    """Volts that fade from cell to cell in all groups alike."""
    baths = []
    for result in results:
        values, places = _in_bath(visited, result, off)
        sound = [i for i, d in enumerate(values) if result.bears_out(d.group, (d.red, d.black))]
        if result.ladder is not None and sound:
            baths.append(([values[i] for i in sound], [places[i] for i in sound], result.ladder))
    found = fading(baths)
    if found is None:
        return []
    over = found.per_cell * found.most_places
    if not found.shown or abs(over) < LEAST_FADING:
        return []
    less = mark("From one cell of a list to the next all groups read {part:.1f} ± {u:.1f} % less, whatever the cell.")
    more = mark("From one cell of a list to the next all groups read {part:.1f} ± {u:.1f} % more, whatever the cell.")
    text = " ".join(
        [
            say(less if over < 0.0 else more, part=100.0 * abs(found.per_cell), u=max(0.1, 100.0 * found.u)),
            *([say("The liquid tires, or the plates do.")] if over < 0.0 else []),
            say("Early and late cells are not quite comparable: pour fresh liquid, or mix the order."),
        ]
    )
    over_all = (say("over {n} cells that makes {over:.0f} %", n=found.most_places + 1, over=100.0 * abs(over)),)
    title = say("Readings fade with the order of cells") if over < 0.0 else say("Readings rise with the order of cells")
    return [Ranked(85, Note("order_drift", "caution", title, text, evidence=over_all))]
