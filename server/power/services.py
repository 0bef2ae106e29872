"""From what is asked of a pack to the core's cells, held to what the class has measured of them."""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import replace
from itertools import combinations, islice

from galvanic.bench.load_standing import under_load_standing
from galvanic.cells import Cell, standing
from galvanic.chemistry.anchoring import UnderLoad, anchored
from galvanic.chemistry.circuit import Pack, in_a_row
from galvanic.chemistry.curves import PackCell
from galvanic.chemistry.demand import demand, load_of
from galvanic.chemistry.fitting import refusal
from galvanic.chemistry.polarisation import Geometry, LoadedCell
from galvanic.errors import OutOfRange, UnknownMaterial
from galvanic.reference.catalogue import electrodes, electrolytes
from galvanic.words import say
from server.base.kept import made_once
from server.base.problems import Problem
from server.entries.models import SetAside
from server.entries.models import UnderLoad as KeptUnderLoad
from server.findings.services import compare_lab
from server.labs.models import Lab
from server.power.schemas import PackAsk

MEASURED = Geometry()  # plates as groups dip them: nothing else is asked of them
MOST_KINDS = 40
U_OF_ONE_V = 0.03  # a class value of a single group: common practice, no source
Measured = Mapping[Cell, tuple[float, float]]
Loaded = Mapping[Cell, Sequence[UnderLoad]]


def measured_cells(lab: Lab) -> Measured:
    """The class's mean and its standard uncertainty of every cell without a setting of its own, V."""
    return {
        cell.cell: (cell.mean_v, U_OF_ONE_V if cell.u_v is None else cell.u_v)
        for result in compare_lab(lab)
        if not result.condition
        for cell in result.cells
    }


def groups_aside(lab: Lab) -> set[uuid.UUID]:
    """The groups of a lab that are set aside; one query."""
    latest = {row.group_id: row.reason for row in SetAside.objects.filter(group__lab=lab)}  # the latest comes last
    return {group for group, reason in latest.items() if reason and group is not None}


def measured_under_load(lab: Lab) -> Loaded:
    """What counts of groups' measurements under loads, by cell: the latest of each kind that could be, of groups that are
    not set aside.

    Kept until the lab's next change.
    """

    def fetch() -> Loaded:
        aside = groups_aside(lab)
        latest: dict[tuple[object, str], KeptUnderLoad] = {}
        for row in KeptUnderLoad.objects.filter(cell__group__lab=lab).select_related("cell"):
            if row.cell.group_id not in aside and under_load_standing(row.cell.cell, row.kind, row.value).counts:
                latest[row.cell_id, row.kind] = row
        loads: dict[Cell, list[UnderLoad]] = defaultdict(list)
        for row in latest.values():
            loads[row.cell.cell].append(UnderLoad(row.load_ohm or 0.0, abs(row.value)))
        return loads

    return made_once(lab, "power under load", fetch)


def kinds_of(lab: Lab) -> list[tuple[str, PackCell]]:
    """Every cell the class has measured, with its key, held to what was measured of it; kept until the next change.

    Before anything is measured, every cell that could be built of the lab's plates and liquids, by the model alone.
    """

    def make() -> list[tuple[str, PackCell]]:
        volts, under = measured_cells(lab), measured_under_load(lab)
        cells = list(volts) or _could_be_built(lab)
        return [(f"{cell.negative}|{cell.electrolyte}|{cell.positive}", _facing(cell, volts, under)) for cell in cells]

    return made_once(lab, "power kinds", make)


def _could_be_built(lab: Lab) -> list[Cell]:
    """Cells of a lab's plates and liquids, at most `MOST_KINDS`."""
    known = [plate for plate in lab.electrodes if plate in electrodes()]
    pairs = combinations(sorted(known, key=lambda key: (standing(key), key)), 2)
    cells = (Cell(low, liquid, high) for low, high in pairs for liquid in lab.electrolytes)
    return list(islice((cell for cell in cells if not refusal(cell)), MOST_KINDS))


def cell_named(text: str) -> Cell:
    """A cell written `negative|electrolyte|positive` by keys. Raises Problem unknown_material."""
    negative, liquid, positive = text.split("|")
    plates = electrodes()
    if negative not in plates or positive not in plates or liquid not in electrolytes() or negative == positive:
        raise Problem(422, "unknown_material", say("That cell is not in the catalogue."), field="cell")
    return Cell(negative, liquid, positive)


def load_named(text: str) -> str | float:
    """A load by its key, or ohms. Raises Problem with the core's sentence for anything else."""
    try:
        load = load_of(text)
        demand(load)  # refuses ohms that no resistor has
        return load
    except (OutOfRange, UnknownMaterial) as error:
        raise Problem(422, error.code, str(error), field="load") from error


def pack_of(lab: Lab, ask: PackAsk) -> Pack:
    """The pack that is asked for, each of its cells held to what the class has measured of it."""
    volts, under = measured_cells(lab), measured_under_load(lab)
    geometry = Geometry(ask.area_cm2 * 1e-4, ask.gap_cm * 1e-2, ask.pairs)
    known: dict[str, PackCell] = {}
    for text in ask.cell:
        if text not in known:
            known[text] = replace(_facing(cell_named(text), volts, under), geometry=geometry)
    return in_a_row([known[text] for text in ask.cell], ask.rows)


def _facing(cell: Cell, volts: Measured, under: Loaded) -> PackCell:
    """The cell as the bench has it, held to what was measured, with its plus where it really is: a pack is built by the
    meter, not by the table."""
    mean, u = volts.get(cell, (None, 0.0))
    if mean is None:
        rest_v = LoadedCell.of(cell).rest()
        if rest_v[1] < rest_v[0]:
            cell = Cell(cell.positive, cell.electrolyte, cell.negative)
    elif mean < 0.0:
        cell, mean = Cell(cell.positive, cell.electrolyte, cell.negative), -mean
    one = PackCell(cell, MEASURED)
    other = Cell(cell.positive, cell.electrolyte, cell.negative)
    return anchored(one, mean, u, under.get(cell) or under.get(other) or ())


def carried_over(lab: Lab, ask: PackAsk) -> list[tuple[float, float, str]]:
    """The class's measurements of the pack's cell, as this pack would show them, where it is of one kind: V, A, in words.

    Nothing where the pack's plates are not as large or as far apart as those that were measured: that is foretold.
    """
    geometry = Geometry(ask.area_cm2 * 1e-4, ask.gap_cm * 1e-2, ask.pairs)
    if len(set(ask.cell)) != 1 or geometry != MEASURED:
        return []
    cell, n = cell_named(ask.cell[0]), len(ask.cell)
    out = []
    for one in measured_under_load(lab).get(cell, ()):
        if one.load_ohm == 0.0:
            out.append((0.0, one.value * ask.rows, say("short circuit")))
        else:
            out.append(
                (n * one.value, one.value / one.load_ohm * ask.rows, say("{load_ohm:g} Ω a cell", load_ohm=one.load_ohm))
            )
    return out
