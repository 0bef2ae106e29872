"""How each reading of a class stands: sound, doubtful, impossible or turned. One verdict, which everything that counts uses.

A reading is *impossible* where its number is a thousand times too large or above what these two plates can give and nobody
else found the like; *turned* where its sign is the other one than all who measured that cell found, or than the account says
beyond its interval with a second witness (another group, or nearly all of the group's other cells). Neither counts until
somebody says so. A *doubtful* one counts, and is marked: the checks say why. What a teacher has set aside or a correction
has replaced never comes here. Limits are common practice, no source.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Hashable, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from statistics import fmean, median
from typing import Protocol

from galvanic.bench.checks import (
    MILLIVOLTS_V,
    MOST_CELL_V,
    NEAR_ZERO_V,
    OUTSIDE,
    OWN_PLATES_U_V,
    Expectation,
    check,
    lost_points,
)
from galvanic.bench.class_reference import GroupCell, Reference
from galvanic.cells import Cell
from galvanic.notes import volts
from galvanic.words import say

THOUSAND = 1000.0
ALIKE_V, ALIKE_PART = 0.15, 0.2  # what two groups' values of one cell may differ by and be the same find
WHOLE, LEAST_WHOLE = 0.75, 2  # of a group's cells whose sign the account knows: then its leads are turned throughout


class Stand(StrEnum):
    """How a reading stands."""

    SOUND = "sound"
    DOUBTFUL = "doubtful"
    IMPOSSIBLE = "impossible"
    TURNED = "turned"


class Said(Protocol):
    """A reading that is neither corrected nor set aside: whose, of which cell of its list, V as the cell is written."""

    @property
    def id(self) -> Hashable: ...
    @property
    def group(self) -> Hashable: ...
    @property
    def cell_id(self) -> Hashable: ...
    @property
    def cell(self) -> Cell: ...
    @property
    def signed_v(self) -> float: ...
    @property
    def resolution_v(self) -> float: ...
    @property
    def decided(self) -> bool: ...


@dataclass(frozen=True, slots=True)
class Standing:
    """A verdict: how it stands, a code for programs (what most likely happened), and why, in a sentence.

    `repaired_v`: what the reading would be if that is put right, V as the cell is written; None where nobody can say.
    """

    stand: Stand
    code: str = ""
    why: str = ""
    repaired_v: float | None = None

    @property
    def counts(self) -> bool:
        """Whether the reading counts."""
        return self.stand in (Stand.SOUND, Stand.DOUBTFUL)


SOUND = Standing(Stand.SOUND)


def standings(rows: Iterable[Said], account: Reference) -> dict[Hashable, Standing]:
    """The verdicts on a class's readings that are not sound, by id; rows in the order in which they were taken.

    `account` knows no group's values. A reading that a teacher has `decided` to count is sound.
    """
    every = list(rows)
    expected = {cell: account.of(cell) for cell in dict.fromkeys(row.cell for row in every)}
    found = _impossible(every, expected)
    possible = [row for row in every if row.id not in found]
    found |= _turned(possible, expected)
    return {row.id: found[row.id] for row in every if row.id in found and not row.decided}


def doubtful(rows: Iterable[Said], reference: Reference) -> dict[Hashable, Standing]:
    """The verdicts on one group's readings that count though something speaks against them, by id.

    `rows`: the group's readings that count, in order; `reference`: what the account and the other groups say.
    """
    earlier: dict[Hashable, list[float]] = defaultdict(list)
    found = {}
    for row in rows:
        said = check(row.cell, row.signed_v, row.resolution_v, earlier[row.cell_id], reference.of(row.cell))
        earlier[row.cell_id].append(row.signed_v)
        if said and not row.decided:
            found[row.id] = Standing(Stand.DOUBTFUL, said[0].code, said[0].text)
    return found


def _impossible(rows: Sequence[Said], expected: Mapping[Cell, Expectation]) -> dict[Hashable, Standing]:
    """Numbers that no cell of these plates gives, and that no other group has found there."""
    found: dict[Hashable, Standing] = {}
    high = [row for row in rows if abs(row.signed_v) > expected[row.cell].ceiling_v]
    for row in high:
        v, ceiling = row.signed_v, expected[row.cell].ceiling_v
        comma = _comma_lost(row, expected[row.cell])
        if comma is not None:
            why = say("{v} would be {comma} with the decimal point in its place.", v=volts(v, 0), comma=volts(comma))
            found[row.id] = Standing(Stand.IMPOSSIBLE, "comma", why, comma)
            continue
        if abs(v) >= MILLIVOLTS_V:
            milli = v / THOUSAND
            if NEAR_ZERO_V / 2.0 < abs(milli) <= ceiling:
                why = say(
                    "{v} is a thousand times too much: were it millivolts, it would be {milli}.",
                    v=volts(v, 0),
                    milli=volts(milli),
                )
                found[row.id] = Standing(Stand.IMPOSSIBLE, "millivolts", why, milli)
            else:
                found[row.id] = Standing(Stand.IMPOSSIBLE, "beyond", say("No cell gives {v}.", v=volts(v, 0)))
            continue
        others = [other.signed_v for other in high if other.cell == row.cell and other.group != row.group]
        if abs(v) <= MOST_CELL_V and any(alike(v, other) for other in others):
            continue
        why = say(
            "{v} is above anything {short} can give (about {ceiling} at most).",
            v=volts(v), short=row.cell.short, ceiling=volts(ceiling, 1),
        )  # fmt: skip
        found[row.id] = Standing(Stand.IMPOSSIBLE, "too_high", why)
    return found


def _comma_lost(row: Said, expected: Expectation) -> float | None:
    """What a whole number would be if its decimal point was lost, V; None where millivolts explain it as well."""
    v = row.signed_v
    if row.resolution_v < 1.0 or abs(v - round(v)) > 1e-9:
        return None
    found = min(lost_points(v, expected).values(), key=lambda now: abs(now - expected.volts_v), default=None)
    milli = abs(v / THOUSAND - expected.volts_v)
    return found if found is not None and abs(found - expected.volts_v) < milli else None


def alike(one_v: float, other_v: float) -> bool:
    """Whether two groups' values of a cell are the same find."""
    return abs(one_v - other_v) <= max(ALIKE_V, ALIKE_PART * min(abs(one_v), abs(other_v)))


def _turned(rows: Sequence[Said], expected: Mapping[Cell, Expectation]) -> dict[Hashable, Standing]:
    """Readings whose sign is the other one than the witnesses say."""
    series: dict[Hashable, list[Said]] = defaultdict(list)
    of_cell: dict[Cell, dict[Hashable, list[float]]] = defaultdict(lambda: defaultdict(list))
    for row in rows:
        series[row.cell_id].append(row)
        of_cell[row.cell][row.group].append(row.signed_v)
    whole = _turned_throughout(rows, expected)
    found = {}
    for row in rows:
        if abs(row.signed_v) <= NEAR_ZERO_V:
            continue
        others = [fmean(values) for group, values in of_cell[row.cell].items() if group != row.group]
        why = _witness(row, series[row.cell_id], others, expected[row.cell], whole)
        if why:
            found[row.id] = Standing(Stand.TURNED, "reversed", why, -row.signed_v)
    return found


def _witness(
    row: Said, own: Sequence[Said], others: Sequence[float], expected: Expectation, whole: frozenset[Hashable]
) -> str:
    """Who says that a reading is turned round, in words; empty where nobody does."""
    v = row.signed_v
    same = sum(alike(v, other) and abs(other) > NEAR_ZERO_V for other in others)
    against = sum(alike(-v, other) and abs(other) > NEAR_ZERO_V for other in others)
    model = _says_other_sign(v, expected)
    if against >= 2 and against > 2 * same:
        return say("{n} other groups found the other sign: the leads were swapped, most likely.", n=against)
    rest = [other.signed_v for other in own if other.id != row.id]
    if len(rest) >= 2 and all(other * v < 0.0 for other in rest) and alike(-v, median(rest)) and not same:
        return say("The other readings of this cell have the other sign: one was lost, or the leads were swapped.")
    if not model or (same >= 2 and row.group not in whole):
        return ""
    if against:
        return say("Another group and the account have the other sign: the leads were swapped, most likely.")
    if row.group not in whole:
        return ""
    return say("In nearly all cells of this group the sign is not the one that is expected: leads swapped, most likely.")


def _says_other_sign(v: float, expected: Expectation) -> bool:
    """Whether the account denies a value beyond its interval, and would have it with the other sign."""
    u = (expected.u_v**2 + OWN_PLATES_U_V**2) ** 0.5
    return (
        v * expected.volts_v < 0.0 and abs(v - expected.volts_v) > OUTSIDE * u and abs(-v - expected.volts_v) <= OUTSIDE * u
    )


def _turned_throughout(rows: Sequence[Said], expected: Mapping[Cell, Expectation]) -> frozenset[Hashable]:
    """The groups nearly all of whose cells have the other sign than the account says, of those whose sign it knows."""
    cells: dict[Hashable, dict[Cell, list[float]]] = defaultdict(lambda: defaultdict(list))
    for row in rows:
        cells[row.group][row.cell].append(row.signed_v)
    found = set()
    for group, values in cells.items():
        known = [
            (fmean(read), expected[cell])
            for cell, read in values.items()
            if abs(expected[cell].volts_v) > OUTSIDE * (expected[cell].u_v ** 2 + OWN_PLATES_U_V**2) ** 0.5
        ]
        other = sum(_says_other_sign(v, one) for v, one in known)
        if len(known) >= LEAST_WHOLE and other >= WHOLE * len(known):
            found.add(group)
    return frozenset(found)


def previewed(rows: Iterable[Said], verdicts: Mapping[Hashable, Standing]) -> dict[Hashable, Standing]:
    """The verdicts; what does not count and could be put right says what it would be, beside the other groups' values."""
    every = list(rows)
    out: dict[Hashable, Standing] = {}
    for row in every:
        verdict = verdicts.get(row.id)
        if verdict is None:
            continue
        out[row.id] = verdict
        if not verdict.counts and verdict.repaired_v is not None:
            others = [
                other.signed_v
                for other in every
                if other.cell == row.cell and other.group != row.group and verdicts.get(other.id, SOUND).counts
            ]
            out[row.id] = replace(verdict, why=f"{verdict.why} {_preview(verdict.repaired_v, others)}")
    return out


def _preview(repaired_v: float, others: Sequence[float]) -> str:
    if not others:
        return say("Put right, it would be {v}; no other group has this cell.", v=volts(repaired_v, signed=True))
    return say(
        "Put right, it would be {v}; other groups have {mean}.",
        v=volts(repaired_v, signed=True),
        mean=volts(fmean(others), signed=True),
    )


def values_that_count(rows: Iterable[Said], verdicts: Mapping[Hashable, Standing]) -> list[GroupCell]:
    """Each group's mean of each of its cells, of the readings that count."""
    values: dict[tuple[Hashable, Cell], list[float]] = defaultdict(list)
    for row in rows:
        if verdicts.get(row.id, SOUND).counts:
            values[row.group, row.cell].append(row.signed_v)
    return [GroupCell(str(group), cell, fmean(found)) for (group, cell), found in values.items()]
