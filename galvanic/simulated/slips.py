"""Classes as they are: hands slip, groups stop, meters fail. Every finding is tried on them.

A mistake is put into a sound simulated class (`rehearsal.py`), in one cell, in one group, or in all. How often each happens
at a bench is common practice, no source.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import replace

import numpy as np

from galvanic.cells import Cell
from galvanic.simulated.faults import Typed
from galvanic.simulated.rehearsal import Entry, Spread, simulated_class

SOUND = Spread(faulty=0.0)
Class = list[Entry]
Slip = Callable[[Class, np.random.Generator], Class]


def _number(entry: Entry) -> float:
    """What was typed, as a number."""
    return float(entry.typed.text)


def _typed(entry: Entry, value: float, kind: str) -> Entry:
    decimals = len(entry.typed.text.partition(".")[2])
    return replace(entry, kind=kind, typed=Typed(f"{value:.{decimals}f}"))


def _cells(entries: Class) -> list[tuple[int, int]]:
    return sorted({(entry.group, entry.place) for entry in entries})


def _somebody(entries: Class, rng: np.random.Generator) -> int:
    groups = sorted({entry.group for entry in entries})
    return groups[int(rng.integers(len(groups)))]


def _somewhere(entries: Class, rng: np.random.Generator) -> tuple[int, int]:
    cells = _cells(entries)
    return cells[int(rng.integers(len(cells)))]


def _changed(entries: Class, where: Callable[[Entry], bool], change: Callable[[Entry], Entry]) -> Class:
    return [change(entry) if where(entry) else entry for entry in entries]


def _turned(entry: Entry) -> Entry:
    return _typed(entry, -_number(entry), "turned")


def _milli(entry: Entry) -> Entry:
    return replace(entry, kind="millivolts", typed=Typed(f"{1000.0 * _number(entry):.0f}"))


def _in_a_cell(change: Callable[[Entry], Entry]) -> Slip:
    def slip(entries: Class, rng: np.random.Generator) -> Class:
        at = _somewhere(entries, rng)
        return _changed(entries, lambda entry: (entry.group, entry.place) == at, change)

    return slip


def _once(change: Callable[[Entry], Entry]) -> Slip:
    def slip(entries: Class, rng: np.random.Generator) -> Class:
        at = int(rng.integers(len(entries)))
        return [change(entry) if number == at else entry for number, entry in enumerate(entries)]

    return slip


def _in_a_group(change: Callable[[Entry], Entry]) -> Slip:
    def slip(entries: Class, rng: np.random.Generator) -> Class:
        group = _somebody(entries, rng)
        return _changed(entries, lambda entry: entry.group == group, change)

    return slip


def _in_all(change: Callable[[Entry], Entry]) -> Slip:
    return lambda entries, rng: _changed(entries, lambda entry: True, change)


def _comma_lost(entry: Entry) -> Entry:
    return replace(entry, kind="comma", typed=Typed(f"{100.0 * _number(entry):.0f}"))


def _sign_lost(entry: Entry) -> Entry:
    """A minus sign that was not written down; a number without one becomes the turned pair's, for something to be lost."""
    return _typed(entry, abs(_number(entry)), "sign")


def _other_cup(entries: Class, rng: np.random.Generator) -> Class:
    """The numbers of another cell of the same group, written beside this one."""
    group = _somebody(entries, rng)
    places = sorted({entry.place for entry in entries if entry.group == group})
    if len(places) < 2:
        return entries
    here, there = (int(place) for place in rng.permutation(places)[:2])
    theirs = {entry.nth: entry.typed for entry in entries if (entry.group, entry.place) == (group, there)}
    return _changed(
        entries,
        lambda entry: (entry.group, entry.place) == (group, here) and entry.nth in theirs,
        lambda entry: replace(entry, kind="cup", typed=theirs[entry.nth]),
    )


def _repeated(entries: Class, rng: np.random.Generator) -> Class:
    """Read once and written three times, all through a group's list."""
    group = _somebody(entries, rng)
    first = {entry.place: entry.typed for entry in entries if entry.group == group and entry.nth == 0}
    return _changed(
        entries, lambda entry: entry.group == group, lambda entry: replace(entry, kind="repeated", typed=first[entry.place])
    )


def _constant(entries: Class, rng: np.random.Generator) -> Class:
    """A group that writes one number for every cell."""
    group, text = _somebody(entries, rng), f"{rng.uniform(0.2, 1.1):.2f}"
    return _changed(
        entries, lambda entry: entry.group == group, lambda entry: replace(entry, kind="constant", typed=Typed(text))
    )


def _copied(entries: Class, rng: np.random.Generator) -> Class:
    """A group that writes the table's differences."""
    group = _somebody(entries, rng)
    return _changed(entries, lambda entry: entry.group == group, _copy)


def _copy(entry: Entry) -> Entry:
    table = entry.cell.table_v
    return entry if table is None else replace(entry, kind="copied", typed=Typed(f"{table:.2f}"))


def _noise(entries: Class, rng: np.random.Generator) -> Class:
    """A group whose numbers jump about by a volt: a clip that does not hold."""
    group = _somebody(entries, rng)
    return _changed(
        entries,
        lambda entry: entry.group == group,
        lambda entry: replace(entry, kind="noise", typed=Typed(f"{rng.uniform(-1.0, 1.0):.2f}")),
    )


def _zero(entry: Entry) -> Entry:
    return replace(entry, kind="zero", typed=Typed("0.00"))


def _flat(entries: Class, rng: np.random.Generator) -> Class:
    """A meter whose battery is nearly empty: everything reads too much, and more so from cell to cell."""
    group = _somebody(entries, rng)
    return _changed(
        entries,
        lambda entry: entry.group == group,
        lambda entry: _typed(entry, _number(entry) * (1.15 + 0.05 * entry.place), "flat"),
    )


def _coarse(entries: Class, rng: np.random.Generator) -> Class:
    """A meter on a range of tenths of a volt."""
    group = _somebody(entries, rng)
    return _changed(
        entries,
        lambda entry: entry.group == group,
        lambda entry: replace(entry, kind="coarse", typed=Typed(f"{_number(entry):.1f}")),
    )


def _drifting(entries: Class, rng: np.random.Generator) -> Class:
    """Every cell of every group reads 0.8 % less than the one before: the liquid tires."""
    return _changed(
        entries, lambda entry: True, lambda entry: _typed(entry, _number(entry) * (1.0 - 0.008 * entry.place), "drift")
    )


def _plate_changed(entries: Class, rng: np.random.Generator) -> Class:
    """A plate is taken for another one half-way: from then on it lies 0.15 V elsewhere, in one group."""
    group = _somebody(entries, rng)
    mine = [entry for entry in entries if entry.group == group]
    half = (max(entry.place for entry in mine) + 1) / 2
    plates = sorted({plate for entry in mine if entry.place >= half for plate in entry.cell.pair})
    if not plates:
        return entries
    plate = plates[int(rng.integers(len(plates)))]

    def shift(entry: Entry) -> Entry:
        sign = (entry.cell.positive == plate) - (entry.cell.negative == plate)
        return _typed(entry, _number(entry) + 0.15 * sign, "plate") if sign else entry

    return _changed(entries, lambda entry: entry.group == group and entry.place >= half, shift)


def _stops(entries: Class, rng: np.random.Generator) -> Class:
    """A group that stops after two cells."""
    group = _somebody(entries, rng)
    return [entry for entry in entries if entry.group != group or entry.place < 2]


def _two_groups(entries: Class, rng: np.random.Generator) -> Class:
    """Two groups came."""
    groups = sorted({entry.group for entry in entries})[:2]
    return [entry for entry in entries if entry.group in groups]


def _half_way(entries: Class, rng: np.random.Generator) -> Class:
    """The bell rings early."""
    return entries[: len(entries) // 2]


def _impossible(entry: Entry) -> Entry:
    return replace(entry, kind="impossible", typed=Typed(f"{100.0 * abs(_number(entry)) + 870.0:.0f}"))


SLIPS: Mapping[str, tuple[Slip, float]] = {
    "leads turned in one cell": (_in_a_cell(_turned), 0.35),
    "leads turned in one group": (_in_a_group(_turned), 0.10),
    "leads turned in all": (_in_all(_turned), 0.02),
    "one value in millivolts": (_once(_milli), 0.25),
    "one group in millivolts": (_in_a_group(_milli), 0.06),
    "all in millivolts": (_in_all(_milli), 0.02),
    "a value of another cup": (_other_cup, 0.15),
    "a lost sign": (_in_a_cell(_sign_lost), 0.15),
    "a lost comma": (_once(_comma_lost), 0.15),
    "one impossible value": (_once(_impossible), 0.10),
    "read once, written three times": (_repeated, 0.20),
    "one number for every cell": (_constant, 0.03),
    "copied from the table": (_copied, 0.04),
    "all copied from the table": (_in_all(_copy), 0.01),
    "noise of a volt": (_noise, 0.03),
    "all zero": (_in_all(_zero), 0.01),
    "one group zero": (_in_a_group(_zero), 0.03),
    "a flat meter": (_flat, 0.08),
    "a coarse meter": (_coarse, 0.10),
    "a drift with the order of cells": (_drifting, 0.15),
    "a plate changed half-way": (_plate_changed, 0.08),
    "a group that stops": (_stops, 0.30),
    "two groups": (_two_groups, 0.05),
    "half-way": (_half_way, 0.15),
}
"""What goes wrong, by what it is called, and in which part of classes."""


def with_slips(hands: Sequence[Sequence[Cell]], seed: int, slips: Iterable[str], spread: Spread = SOUND) -> Class:
    """The entries of a class with these mistakes, in the order in which they were typed.

    `hands`: each group's cells in order. Raises KeyError for a mistake that is not in `SLIPS`.
    """
    rng = np.random.default_rng([2027, seed])
    entries = list(simulated_class(hands, seed, spread))
    for name in slips:
        entries = SLIPS[name][0](entries, rng)
    return entries


def usual_slips(seed: int) -> list[str]:
    """The mistakes of one class, drawn at the rates of benches."""
    rng = np.random.default_rng([2028, seed])
    return [name for name, (_, rate) in SLIPS.items() if rng.random() < rate]
