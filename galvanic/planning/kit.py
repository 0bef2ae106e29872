"""The kit of a plan: what each group needs, spares, what has to be made, and what it costs at the teacher's own prices."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass

from galvanic.cells import Cell
from galvanic.chemistry import mixing
from galvanic.conditions import Surface, part_of, surface_of
from galvanic.errors import within
from galvanic.planning.asked import PACK_CUPS, Asked
from galvanic.planning.recipes import Batch, batch, diluted, recipes
from galvanic.preparing import USUAL, preparations
from galvanic.reference.bridges import bridges
from galvanic.reference.catalogue import electrodes, electrolytes
from galvanic.words import mark, say

Plate = tuple[str, str]

CUP_ML = 40.0  # covers two plates 3 cm deep in a small cup: common practice, no source
LEAST_CUP_ML, MOST_CUP_ML = 5.0, 1000.0
SPARE = 0.1
STEP_L = 0.1  # solutions are made in steps of 100 mL
READINGS = 3

# What every bench needs whatever the plan: common practice, no source. Amount for one group.
BENCH: tuple[tuple[str, int, str], ...] = (
    (mark("voltmeter, 0.01 V or finer"), 1, mark("measures")),
    (mark("red lead with clip"), 1, mark("to the plate the card names for red")),
    (mark("black lead with clip"), 1, mark("to the plate the card names for black")),
    (mark("fresh dry cell, 1.5 V"), 1, mark("checks meter and leads")),
    (mark("abrasive pad"), 1, mark("bares the metal")),
    (mark("cup of rinse water"), 1, mark("between cells")),
    (mark("paper towels, sheets"), 6, mark("dry plates")),
    (mark("tray"), 1, mark("catches drips")),
    (mark("eye protection, each student"), 4, mark("on from start to end")),
)


@dataclass(frozen=True, slots=True)
class KitLine:
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

    plates: tuple[KitLine, ...]
    vessels: tuple[KitLine, ...]
    bench: tuple[KitLine, ...]
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
    asked: Asked | None = None,
) -> Kit:
    """The kit for groups' cells.

    `there`: plates in the cupboard and `prices` of one (one litre for a liquid), by key, where known. A group keeps its
    plates for the whole lab and rinses them; it has one cup of each liquid and dilution. `asked`: what is measured besides
    open voltages. Raises OutOfRange for a bad cup.
    """
    within(
        "cup_ml",
        cup_ml,
        LEAST_CUP_ML,
        MOST_CUP_ML,
        say("A cup holds {least_cup_ml:.0f} to {most_cup_ml:.0f} mL.", least_cup_ml=LEAST_CUP_ML, most_cup_ml=MOST_CUP_ML),
    )
    there, prices = there or {}, prices or {}
    needs = [list(dict.fromkeys(plate for cell in hand for plate in _plates(cell))) for hand in hands]
    pack = _pack_cell(hands) if asked and asked.packs else None
    plates = _plate_lines(needs, there, prices, _plates(pack) if pack else ())
    baths = [list(dict.fromkeys(_bath(cell) for cell in hand)) for hand in hands]
    vessels, volumes = _vessels(baths, prices, cup_ml)
    if pack:
        _for_packs(pack, sum(_bath(pack) in own for own in baths), prices, vessels, volumes)
    batches = _batches(volumes, cup_ml / 1000.0)
    n = len(hands)
    bench = tuple(
        KitLine("", name, "bench", each, n, _spares(n * each), n * each + _spares(n * each), None, None, why)
        for name, each, why in (*((say(name), each, say(why)) for name, each, why in BENCH), *(asked or Asked()).bench)
    ) + _for_steps(hands)
    for_group = tuple(
        tuple([_plate_name(*plate) for plate in plates_] + [_bath_name(*bath) for bath in own])
        for plates_, own in zip(needs, baths, strict=True)
    )
    return Kit(tuple(plates), tuple(vessels), bench, batches, for_group, _day_before(batches, vessels))


def _pack_cell(hands: Sequence[Sequence[Cell]]) -> Cell | None:
    """The cell that packs are reckoned with: the one that most groups have, the first of those; None without cells."""
    held = Counter(cell for hand in hands for cell in dict.fromkeys(hand))
    return max(held, key=lambda cell: held[cell]) if held else None


def _for_packs(
    cell: Cell, groups: int, prices: Mapping[str, float], vessels: list[KitLine], volumes: dict[tuple[str, str], int]
) -> None:
    """What groups' packs of `PACK_CUPS` such cells take besides plates: fruit, pieces of card, or what is in the cups."""
    liquid, count = cell.electrolyte, groups * PACK_CUPS
    recipe, row, spare = recipes().get(liquid), electrolytes()[liquid], _spares(count)
    why = say("packs: each cell in a piece of its own")
    if (recipe and recipe.kind == "whole") or row.form == "whole":
        name = recipe.piece if recipe and recipe.kind == "whole" else row.name
        vessels.append(
            KitLine(liquid, name, "vessel", PACK_CUPS, groups, spare, count + spare, None, prices.get(liquid), why)
        )
    elif recipe and recipe.kind == "card":
        name = say("pieces of {value} for {name}", value=recipe.what or say("card"), name=row.name)
        vessels.append(KitLine(liquid, name, "vessel", PACK_CUPS, groups, spare, count + spare, None, None, why))
        volumes[recipe.soak, ""] = volumes.get((recipe.soak, ""), 0) + groups
    else:
        sides = [side for side in (row.negative_side, row.positive_side) if side] or [liquid]
        for side in sides:
            key = (side, "") if side != liquid else _bath(cell)
            volumes[key] = volumes.get(key, 0) + count


def _for_steps(hands: Sequence[Sequence[Cell]]) -> tuple[KitLine, ...]:
    """What the steps of preparing fruit, card or paste need, for the groups that have such cells."""
    lines = []
    own = [dict.fromkeys(step for cell in hand for step in preparations(cell) if step.kit) for hand in hands]
    every = dict.fromkeys(step for steps in own for step in steps)
    for thing in dict.fromkeys(step.kit for step in every):
        those = [step for step in every if step.kit == thing]
        each = max(step.each for step in those)
        groups = sum(any(step.kit == thing for step in steps) for steps in own)
        spare = _spares(groups * each)
        what_for = those[0].text.format(**USUAL).split(";")[0]
        lines.append(KitLine("", thing, "bench", each, groups, spare, groups * each + spare, None, None, what_for))
    return tuple(lines)


def _plates(cell: Cell) -> tuple[Plate, Plate]:
    """The plates of a cell: a rubbed one and a dull one of the same metal are two."""
    mark = cell.condition if surface_of(cell.condition) else ""
    return (cell.negative, mark), (cell.positive, mark)


def _bath(cell: Cell) -> tuple[str, str]:
    """What the cup of a cell holds: a liquid, and how it is diluted; other settings share a cup."""
    return cell.electrolyte, cell.condition if part_of(cell.condition) is not None else ""


def _plate_name(key: str, mark: str) -> str:
    return f"{electrodes()[key].supplied}{say(', marked “{mark}”', mark=mark) if mark else ''}"


def _plate_lines(
    needs: Sequence[Sequence[Plate]], there: Mapping[str, int], prices: Mapping[str, float], in_packs: Collection[Plate] = ()
) -> list[KitLine]:
    """A line for every plate and, where the surface is varied, for every mark; what is there goes to the first. Of plates
    `in_packs` each group has as many as a pack has cups."""
    lines = []
    left = dict(there)
    for key, marked in sorted({plate for group in needs for plate in group}):
        groups = sum((key, marked) in group for group in needs)
        each = PACK_CUPS if (key, marked) in in_packs else 1
        spare = _spares(groups * each)
        total = groups * each + spare
        why = say("leave it as it lies, do not rub it") if surface_of(marked) is Surface.DULL else electrodes()[key].prepare
        lines.append(
            KitLine(key, _plate_name(key, marked), "plate", each, groups, spare, total, left.get(key), prices.get(key), why)
        )
        if key in left:
            left[key] = max(0, left[key] - total)
    return lines


def _batches(volumes: Mapping[tuple[str, str], int], cup_l: float) -> tuple[Batch, ...]:
    """What is made: every liquid as it is, as much as is poured and diluted, then its dilutions."""
    litres = {bath: mixing.for_groups(cup_l, cups, SPARE, STEP_L) for bath, cups in volumes.items()}
    batches = []
    for liquid in sorted({liquid for liquid, _ in litres}):
        parts = {
            condition: (part_of(condition) or 1.0, volume) for (key, condition), volume in litres.items() if key == liquid
        }
        weaker = sorted(((part, one, volume) for one, (part, volume) in parts.items()), reverse=True)
        needed = math.fsum(part * volume for part, volume in parts.values())
        batches.append(batch(liquid, math.ceil(round(needed / STEP_L, 6)) * STEP_L))
        batches += [diluted(liquid, one, part, volume) for part, one, volume in weaker if part < 1.0]
    return tuple(batches)


def _bath_name(liquid: str, condition: str) -> str:
    return f"{electrolytes()[liquid].name}{', ' + condition if condition else ''}"


def _vessels(
    baths: Sequence[Sequence[tuple[str, str]]], prices: Mapping[str, float], cup_ml: float
) -> tuple[list[KitLine], dict[tuple[str, str], int]]:
    """Cups, fruit, card and dividers; and how many cups of each liquid, diluted or not, are poured."""
    lines: list[KitLine] = []
    volumes: dict[tuple[str, str], int] = {}

    def line(key: str, name: str, count: int, why: str, each: int | None = None) -> None:
        groups = count if each is None else count // each
        spare = _spares(count)
        lines.append(KitLine(key, name, "vessel", each, groups, spare, count + spare, None, prices.get(key), why))

    cups = 0
    for liquid in sorted({bath[0] for own in baths for bath in own}):
        count = sum(bath[0] == liquid for own in baths for bath in own)
        recipe, row = recipes().get(liquid), electrolytes()[liquid]
        if recipe and recipe.kind == "whole":
            line(liquid, recipe.piece, count * recipe.pieces, say("the plates go in 2 cm apart"), recipe.pieces)
        elif row.form == "whole":
            line(liquid, row.name, count, say("the plates go in 2 cm apart"), 1)
        elif recipe and recipe.kind == "card":
            line(
                liquid,
                say("pieces of {value} for {name}", value=recipe.what or say("card"), name=row.name),
                count * recipe.pieces,
                say("a fresh piece for every reading"),
                recipe.pieces,
            )
            volumes[recipe.soak, ""] = volumes.get((recipe.soak, ""), 0) + count
        elif row.negative_side and row.positive_side:
            divider = bridges()[row.bridge].long if row.bridge else say("divider")
            line(liquid, divider, count, say("joins the two solutions and keeps them apart"), 1)
            cups += 2 * count
            for side in (row.negative_side, row.positive_side):
                volumes[side, ""] = volumes.get((side, ""), 0) + count
        else:
            cups += count
            for bath in (bath for own in baths for bath in own if bath[0] == liquid):
                volumes[bath] = volumes.get(bath, 0) + 1
    if cups:
        line("", say("cup, {cup_ml:g} mL and more, labelled", cup_ml=cup_ml), cups, say("one for each liquid of a group"))
    return lines, volumes


def _day_before(batches: Sequence[Batch], vessels: Sequence[KitLine]) -> tuple[str, ...]:
    todo = [say("Make {name}, {volume_l:.2f} L.", name=one.name, volume_l=one.volume_l) for one in batches if one.day_before]
    todo += [
        say("Soak card for {name}.", name=electrolytes()[line.key].name)
        for line in vessels
        if (recipe := recipes().get(line.key)) is not None and recipe.kind == "card" and not recipe.what
    ]
    return (*todo, say("Cut plates to one width and mark the depth of dip."), say("Label cups and fill rinse cups."),
            say("Try every meter on a dry cell; change weak meter batteries."))  # fmt: skip
