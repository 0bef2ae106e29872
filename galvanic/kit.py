"""The kit of a plan: what each group needs, spares, what has to be made, and what it costs at the teacher's own prices."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from galvanic import mixing
from galvanic.catalogue import electrodes, electrolytes
from galvanic.cells import Cell
from galvanic.errors import OutOfRange
from galvanic.recipes import Batch, batch, recipes

CUP_ML = 40.0  # covers two plates 3 cm deep in a small cup: common practice, no source
SPARE = 0.1
STEP_L = 0.1  # solutions are made in steps of 100 mL
READINGS = 3

# What every bench needs whatever the plan: common practice, no source. Amount for one group.
BENCH: tuple[tuple[str, int, str], ...] = (
    ("voltmeter, 0.01 V or finer", 1, "measures"),
    ("red lead with clip", 1, "to the positive plate"),
    ("black lead with clip", 1, "to the negative plate"),
    ("fresh dry cell, 1.5 V", 1, "checks meter and leads"),
    ("abrasive pad", 1, "bares the metal"),
    ("cup of rinse water", 1, "between cells"),
    ("paper towels, sheets", 6, "dry plates"),
    ("tray", 1, "catches drips"),
    ("eye protection, each student", 4, "on from start to end"),
)


@dataclass(frozen=True, slots=True)
class Line:
    """One thing to have: for one group (None where groups differ), groups, spares, total; costs None without a price."""

    key: str
    name: str
    kind: str
    per_group: float | None
    groups: int
    spare: int
    total: int
    there: int | None
    price: float | None
    why: str

    @property
    def short(self) -> int:
        """How many are missing, spares left out."""
        return 0 if self.there is None else max(0, self.total - self.spare - self.there)

    @property
    def cost(self) -> float | None:
        """Price times total."""
        return None if self.price is None else self.price * self.total


@dataclass(frozen=True)
class Kit:
    """Everything to fetch and to make."""

    plates: tuple[Line, ...]
    vessels: tuple[Line, ...]
    bench: tuple[Line, ...]
    batches: tuple[Batch, ...]
    for_group: tuple[tuple[str, ...], ...]
    day_before: tuple[str, ...]

    @property
    def cost(self) -> float | None:
        """Sum of what has a price; None if nothing has."""
        costs = [line.cost for line in (*self.plates, *self.vessels, *self.bench) if line.cost is not None]
        return math.fsum(costs) if costs else None


def _spares(n: int) -> int:
    return max(1, math.ceil(n * SPARE)) if n else 0


def kit(
    hands: Sequence[Sequence[Cell]],
    there: Mapping[str, int] | None = None,
    prices: Mapping[str, float] | None = None,
    cup_ml: float = CUP_ML,
) -> Kit:
    """The kit for groups' cells.

    `there`: plates in the cupboard and `prices` of one (one litre for a liquid), by key, where known. A group keeps its
    plates for the whole lab and rinses them; it has one cup of each liquid and condition. Raises OutOfRange for a bad cup.
    """
    if not 5.0 <= cup_ml <= 1000.0:
        raise OutOfRange("A cup holds 5 to 1000 mL.")
    there, prices = there or {}, prices or {}
    needs = [list(dict.fromkeys(plate for cell in hand for plate in cell.pair)) for hand in hands]
    plates = []
    for key in sorted({plate for group in needs for plate in group}):
        groups = sum(key in group for group in needs)
        spare = _spares(groups)
        plates.append(
            Line(key, electrodes()[key].supplied, "plate", 1, groups, spare, groups + spare, there.get(key), prices.get(key),
                 electrodes()[key].prepare)
        )  # fmt: skip
    baths = [list(dict.fromkeys(cell.bath for cell in hand)) for hand in hands]
    vessels, volumes = _vessels(baths, prices, cup_ml)
    batches = tuple(
        batch(key, mixing.for_groups(cup_ml / 1000.0, cups, SPARE, STEP_L)) for key, cups in sorted(volumes.items())
    )
    n = len(hands)
    bench = tuple(
        Line("", name, "bench", each, n, _spares(n * each), n * each + _spares(n * each), None, None, why)
        for name, each, why in BENCH
    )
    for_group = tuple(
        tuple([electrodes()[key].supplied for key in plates_] + [_bath_name(*bath) for bath in own])
        for plates_, own in zip(needs, baths, strict=True)
    )
    return Kit(tuple(plates), tuple(vessels), bench, batches, for_group, _day_before(batches, vessels))


def _bath_name(liquid: str, condition: str) -> str:
    return f"{electrolytes()[liquid].name}{', ' + condition if condition else ''}"


def _vessels(
    baths: Sequence[Sequence[tuple[str, str]]], prices: Mapping[str, float], cup_ml: float
) -> tuple[list[Line], dict[str, int]]:
    """Cups, fruit, card and dividers; and how many cups of each liquid are poured."""
    lines: list[Line] = []
    volumes: dict[str, int] = {}

    def line(key: str, name: str, count: int, why: str, each: int | None = None) -> None:
        groups = count if each is None else count // each
        spare = _spares(count)
        lines.append(Line(key, name, "vessel", each, groups, spare, count + spare, None, prices.get(key), why))

    cups = 0
    for liquid in sorted({bath[0] for own in baths for bath in own}):
        count = sum(bath[0] == liquid for own in baths for bath in own)
        recipe, row = recipes().get(liquid), electrolytes()[liquid]
        if recipe and recipe.kind == "whole":
            line(liquid, recipe.piece, count * recipe.pieces, "the plates go in 2 cm apart", recipe.pieces)
        elif row.form == "whole":
            line(liquid, row.name, count, "the plates go in 2 cm apart", 1)
        elif recipe and recipe.kind == "card":
            line(
                liquid,
                f"pieces of card for {row.name}",
                count * recipe.pieces,
                "a fresh piece for every reading",
                recipe.pieces,
            )
            volumes[recipe.soak] = volumes.get(recipe.soak, 0) + count
        elif row.negative_side and row.positive_side:
            line(liquid, recipe.divider if recipe else "divider", count, "keeps the two solutions apart", 1)
            cups += 2 * count
            for side in (row.negative_side, row.positive_side):
                volumes[side] = volumes.get(side, 0) + count
        else:
            cups += count
            volumes[liquid] = volumes.get(liquid, 0) + count
    if cups:
        line("", f"cup, {cup_ml:g} mL and more, labelled", cups, "one for each liquid of a group")
    return lines, volumes


def _day_before(batches: Sequence[Batch], vessels: Sequence[Line]) -> tuple[str, ...]:
    todo = [f"Make {electrolytes()[one.electrolyte].name}, {one.volume_l:.2f} L." for one in batches if one.day_before]
    todo += [f"Soak {line.name.removeprefix('pieces of ')}." for line in vessels if line.name.startswith("pieces of card")]
    return (*todo, "Cut plates to one width and mark the depth of dip.", "Label cups and fill rinse cups.",
            "Try every meter on a dry cell; change weak meter batteries.")  # fmt: skip
