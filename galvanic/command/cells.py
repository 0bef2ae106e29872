"""Cells as typed on the command line, and what has to be said of them."""

from __future__ import annotations

import argparse

from galvanic.cells import Cell
from galvanic.chemistry.polarisation import Geometry, LoadedCell
from galvanic.chemistry.two_solutions import TwoSolutions
from galvanic.command.tables import BadFile, say
from galvanic.reference import catalogue
from galvanic.reference.names import find


def cell_of(negative: str, electrolyte: str, positive: str) -> Cell:
    """A cell from names as typed, in the order given. Raises UnknownMaterial."""
    return Cell(
        find(negative, catalogue.electrodes(), "electrode").key,
        find(electrolyte, catalogue.electrolytes(), "electrolyte").key,
        find(positive, catalogue.electrodes(), "electrode").key,
    )


def cell_from(text: str) -> Cell:
    """A cell written with bars, “zinc | lemon juice | copper”. Raises BadFile, UnknownMaterial."""
    parts = [part.strip() for part in text.split("|")]
    if len(parts) != 3:
        raise BadFile("Write the cell as “zinc | lemon juice | copper”.")
    return cell_of(*parts)


def say_of(cell: Cell) -> None:
    """What has to be known of a cell as it was given, on standard error: the same plate twice, or the wrong way round."""
    plates = [catalogue.electrodes()[key] for key in cell.pair]
    if cell.negative == cell.positive:
        say(f"Both plates are {plates[0].name}: nothing drives a current, so any voltage is the meter's or the plates' own.")
    elif (rest := LoadedCell.of(cell).rest())[0] > rest[1]:
        say(
            f"Given the wrong way round: in {catalogue.electrolytes()[cell.electrolyte].name} {plates[1].name} is expected "
            f"to be the negative plate. Voltages are {plates[1].name} minus {plates[0].name}, as you gave them."
        )


def two_sides(cell: TwoSolutions) -> dict[str, object]:
    """A cell of two solutions as `predict` gives it: the printed table, Nernst with concentrations, and with activities."""
    return {
        "negative": cell.left.metal,
        "electrolyte": "two solutions",
        "positive": cell.right.metal,
        "standard_v": cell.standard_v,
        "nernst_v": cell.nernst_v,
        "rest_v": cell.volts_v,
        "u_rest_v": cell.u_v,
    }


def geometry_of(options: argparse.Namespace) -> Geometry:
    """Plates, gap and pairs as asked for."""
    return Geometry(options.area_cm2 * 1e-4, options.gap_cm * 1e-2, options.pairs)


def add_geometry(command: argparse.ArgumentParser) -> None:
    """The arguments that `geometry_of` reads."""
    command.add_argument("--area-cm2", type=float, default=4.0)
    command.add_argument("--gap-cm", type=float, default=2.0)
    command.add_argument("--pairs", type=int, default=1, help="pairs of plates in one vessel")
