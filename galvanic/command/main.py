"""Arguments of all commands, and those about single cells and tables of readings."""

from __future__ import annotations

import argparse
import sys
from collections.abc import Callable, Sequence
from dataclasses import asdict, replace
from typing import TypeVar

from galvanic.bench.checks import MOST_CELL_V
from galvanic.bench.readings import parse
from galvanic.cells import Cell
from galvanic.chemistry.accounts import predict
from galvanic.chemistry.gap import METER_OHM, explain
from galvanic.chemistry.polarisation import LoadedCell
from galvanic.chemistry.shorted import joined
from galvanic.chemistry.two_solutions import TwoSolutions, is_two_solutions, two_solutions
from galvanic.command.cells import add_geometry, cell_from, cell_of, geometry_of, say_of, two_sides
from galvanic.command.deciding import add_deciding
from galvanic.command.explained import add_explained
from galvanic.command.heard import add_heard
from galvanic.command.liquids import add_liquids
from galvanic.command.materials import run_materials
from galvanic.command.packs import add_packs
from galvanic.command.runs import add_runs
from galvanic.command.sentences import sentences
from galvanic.command.tables import BadFile, dump, plain, read, readings, say, write
from galvanic.errors import GalvanicError, UnknownMaterial
from galvanic.findings.class_says import class_says
from galvanic.findings.class_standing import standing_readings
from galvanic.findings.compare import compare, differences_of
from galvanic.findings.loop_notes import loop_note
from galvanic.reference import catalogue
from galvanic.statistics.ladder import fit
from galvanic.statistics.ladder_checks import odd_readings
from galvanic.words import LANGUAGES, speaking

UNKNOWN, FAILED = 2, 1
TWO_WORDS, FOUR_WORDS = 2, 4  # of `gap`: a cell of two solutions with its volts, or plates, liquid and volts
T = TypeVar("T")


def run_predict(options: argparse.Namespace) -> None:
    """All four accounts for the cells of a file; or Nernst for a cell of two solutions, “zinc | … || … | copper”."""
    if is_two_solutions(options.file):
        only = two_solutions(options.file, options.celsius)
        _say_far(only)
        write([two_sides(only)], options.json)
        return
    rows = read(options.file, ("negative", "electrolyte", "positive"))
    cells = [_at(row, lambda row: _cell_in(row, options.celsius)) for row in rows]
    accounts = iter(predict([cell for cell in cells if isinstance(cell, Cell)], celsius=options.celsius))
    out: list[dict[str, object]] = []
    for row, cell in zip(rows, cells, strict=True):
        kept: dict[str, object] = {name: value for name, value in row.items() if name != "line"}
        if isinstance(cell, TwoSolutions):
            _say_far(cell)
            none = "a cell of two solutions is foretold by Nernst’s equation alone"
            told = two_sides(cell)
            kept |= {"standard_v": told["standard_v"], "hydrogen_v": None, "series_v": None}
            kept |= {"rest_v": told["rest_v"], "u_rest_v": told["u_rest_v"]}
            if options.json:
                kept["reasons"] = {"hydrogen": none, "series": none}
                kept["nernst_v"] = told["nernst_v"]
            out.append(kept)
            continue
        found = next(accounts)
        kept |= {f"{name}_v": found[name].volts_v for name in ("standard", "hydrogen", "series", "rest")}
        kept["u_rest_v"] = found["rest"].u_v
        if options.json:
            kept["reasons"] = {name: found[name].reason for name in found}
            kept["u_v"] = {name: found[name].u_v for name in found}
        out.append(kept)
    write(out, options.json)


def _cell_in(row: dict[str, str], celsius: float) -> Cell | TwoSolutions:
    """The cell of a row; its electrolyte may be two solutions with what they are made up to."""
    if is_two_solutions(row["electrolyte"]):
        return two_solutions(f"{row['negative']} | {row['electrolyte']} | {row['positive']}", celsius)
    return cell_of(row["negative"], row["electrolyte"], row["positive"])


def _at(row: dict[str, str], make: Callable[[dict[str, str]], T]) -> T:
    """Say the line of a row that fails."""
    try:
        return make(row)
    except UnknownMaterial as error:
        raise UnknownMaterial(f"line {row['line']}: {error}", error.nearest) from error
    except GalvanicError as error:
        raise BadFile(f"line {row['line']}: {error}") from error


def run_ladder(options: argparse.Namespace) -> None:
    """One ladder for each electrolyte; whether it adds up, and odd readings, on standard error."""
    out = []
    counting, left_out = standing_readings(readings(options.file))
    for value in left_out:
        say(f"left out: {value.group}, {value.cell.short}, {value.typed}: {value.standing.why}")
    for result in compare(counting):
        name = catalogue.electrolytes()[result.electrolyte].name + (f", {result.condition}" if result.condition else "")
        for rung in result.rungs:
            plate = catalogue.electrodes()[rung.electrode].name
            out.append(
                {
                    "electrolyte": name,
                    "electrode": plate,
                    "potential_v": rung.class_v,
                    "u_v": rung.u_v,
                    "low_v": rung.low_v,
                    "high_v": rung.high_v,
                    "table_v": rung.table_v,
                }
            )
        if result.anchor:
            say(f"{name}: held at {catalogue.electrodes()[result.anchor].name}, its table value")
        for loose in result.loose:
            say(f"{name}: no chain of cells connects {catalogue.electrodes()[loose].name} to the rest")
        data = differences_of(result)
        if not data:
            say(f"{name}: no pair of different plates, so no ladder")
            continue
        fitted = fit(data)
        loops = loop_note(data)
        say(f"{name}: no loop to check the ladder by" if loops is None else f"{name}: {loops.title}. {loops.text}")
        if fitted.tau_v:
            say(f"{name}: groups differ by {fitted.tau_v:.3f} V beyond their own scatter")
        for odd, t in odd_readings(data, fitted):
            symbols = f"{catalogue.electrodes()[odd.red].symbol} − {catalogue.electrodes()[odd.black].symbol}"
            say(f"{name}: odd: {odd.group}, {symbols} = {odd.volts_v:+.3f} V, {t:+.1f} standard deviations off the ladder")
    write(out, options.json)


def run_notes(options: argparse.Namespace) -> None:
    """What is to be said of a class, most weighty first: a code, a tab, and the note, a line each."""
    every = readings(options.file)
    counting, left_out = standing_readings(every)
    results = compare(counting)
    said = class_says(every, counting, left_out, results)
    notes = said.in_order
    if len(results) > 1:  # which liquid a note is about is its heading on a page
        liquid = {
            id(note): catalogue.electrolytes()[result.electrolyte].name
            for result, of_bath in zip(results, said.of_baths, strict=True)
            for note in of_bath
        }
        notes = [replace(one, title=f"{one.title} ({liquid[id(one)]})") if id(one) in liquid else one for one in notes]
    if options.json:
        dump([{"code": note.code, "title": note.title, "text": note.text, "evidence": note.evidence} for note in notes])
    else:
        sys.stdout.write("".join(f"{note.code}\t{note.title}: {note.text}\n" for note in notes))


def run_gap(options: argparse.Namespace) -> None:
    """Where the volts of one cell went: NEGATIVE ELECTROLYTE POSITIVE VOLTS, or “zinc | … || … | copper” VOLTS."""
    if len(options.cell) == TWO_WORDS and is_two_solutions(options.cell[0]):
        _gap_of_two(options)
        return
    if len(options.cell) != FOUR_WORDS:
        raise BadFile("Name the negative plate, the electrolyte, the positive plate and the volts.")
    negative, electrolyte, positive, volts = options.cell
    measured = parse(volts)
    if abs(measured.volts_v - options.offset_v) > MOST_CELL_V:
        raise BadFile(f"No cell of two plates gives {volts} V: {MOST_CELL_V} V at most. Were these millivolts?")
    geometry = geometry_of(options)
    cell = cell_of(negative, electrolyte, positive)
    say_of(cell)
    gap = explain(
        cell,
        measured.volts_v,
        meter_ohm=options.meter_ohm,
        offset_v=options.offset_v,
        geometry=geometry,
        u_measured_v=max(measured.resolution_v, 0.001),
    )
    if options.json:
        dump({**asdict(gap), "notation": gap.cell.notation})
    else:
        sys.stdout.write(f"{gap.text()}\n")


def _say_far(cell: TwoSolutions) -> None:
    for metal in cell.far:
        say(f"{metal} stays far from equilibrium in water (a skin, hydrogen): expect much less than Nernst says.")


def _gap_of_two(options: argparse.Namespace) -> None:
    """The gap of a cell near equilibrium: strengths, then the drag of other ions, then what is left."""
    cell, measured_v = two_solutions(options.cell[0]), parse(options.cell[1]).volts_v - options.offset_v
    _say_far(cell)
    say("Two solutions near equilibrium: plates' size, distance and the meter's resistance play no part; its offset does.")
    steps = {
        "start_v": cell.standard_v,
        "strength_v": cell.nernst_v - cell.standard_v,
        "activity_v": cell.volts_v - cell.nernst_v - cell.junction.volts_v,
        "junction_v": cell.junction.volts_v,
        "left_v": measured_v - cell.volts_v,
        "measured_v": measured_v,
        "u_v": cell.u_v,
    }
    if options.json:
        dump(steps)
        return
    sys.stdout.write(
        f"printed table {cell.standard_v:+.3f} V\n"
        f"the strengths, by Nernst {steps['strength_v']:+.3f} V\n"
        f"ions hold each other back {steps['activity_v']:+.3f} V\n"
        f"the bridge {steps['junction_v']:+.3f} V\n"
        f"left (± {cell.u_v:.3f} V known of bridge and ions) {steps['left_v']:+.3f} V\n"
        f"measured {measured_v:+.3f} V\n"
    )


def run_load(options: argparse.Namespace) -> None:
    """Voltage and current of one cell into a load."""
    cell = cell_from(options.cell)
    say_of(cell)
    loaded = LoadedCell.of(cell, geometry_of(options))
    under = loaded.at_load(options.ohms)
    rested = loaded.rest()
    towards = 1.0 if rested[1] >= rested[0] else -1.0
    later = {name.removesuffix("_a"): towards * amps for name, amps in asdict(joined(loaded, options.ohms, rested)).items()}
    rows = {name: value for name, value in asdict(under).items() if name != "cell"} | {"cell": under.cell.notation}
    rows |= {f"{name}_current_a": amps for name, amps in later.items()}
    if options.json:
        dump(rows)
    else:
        sys.stdout.write(
            f"{under.cell.notation} into {plain(under.load_ohm, 6)} Ω: {under.volts_v:.4f} V, "
            f"{plain(under.current_a * 1000, 4)} mA (open circuit {under.open_v:.4f} V, "
            f"liquid {plain(under.solution_ohm, 4)} Ω, inside {plain(under.internal_ohm, 4)} Ω)\n"
            + "".join(f"  {name}: {amps * options.ohms:.4f} V, {plain(amps * 1000, 4)} mA\n" for name, amps in later.items())
        )


def run_sentences(options: argparse.Namespace) -> None:
    """Every sentence the core can say, with where it stands."""
    rows = [{"place": place, "sentence": text} for place, text in sentences()]
    if options.json:
        dump(rows)
    else:
        sys.stdout.write("".join(f"{row['place']}\t{row['sentence']}\n" for row in rows))


def parser() -> argparse.ArgumentParser:
    """The arguments of all commands."""
    top = argparse.ArgumentParser(prog="galvanic", description="Simple cells: predict, fit, explain.")
    top.add_argument("--language", choices=sorted(LANGUAGES), default="en", help="of names and sentences; columns stay")
    commands = top.add_subparsers(required=True, metavar="COMMAND")
    for name, run, columns in (
        ("predict", run_predict, "negative,electrolyte,positive"),
        ("ladder", run_ladder, "group,red,black,electrolyte,volts"),
        ("notes", run_notes, "group,red,black,electrolyte,volts"),
    ):
        command = commands.add_parser(name, help=run.__doc__)
        command.add_argument("file", help=f"CSV with columns {columns}; - for standard input")  # or a cell of two solutions
        command.set_defaults(run=run)
    commands.choices["predict"].add_argument("--celsius", type=float, default=25.0, help="5 to 60")
    gap = commands.add_parser("gap", help=run_gap.__doc__)
    gap.add_argument("cell", nargs="+", metavar="WORD", help="zinc “lemon juice” copper 0.94")
    gap.add_argument("--meter-ohm", type=float, default=METER_OHM)
    gap.add_argument("--offset-v", type=float, default=0.0, help="what the meter shows with its leads together")
    gap.set_defaults(run=run_gap)
    load = commands.add_parser("load", help=run_load.__doc__)
    load.add_argument("cell", help="“zinc | lemon juice | copper”")
    load.add_argument("ohms", type=float, help="0: short circuit")
    load.set_defaults(run=run_load)
    for command in (gap, load, *add_packs(commands), *add_runs(commands), *add_liquids(commands)):
        add_geometry(command)
    add_explained(commands)
    materials = commands.add_parser("materials", help=run_materials.__doc__)
    materials.add_argument("name", nargs="?", help="show one, with the source of every number")
    materials.set_defaults(run=run_materials)
    add_heard(commands)
    add_deciding(commands)
    listing = commands.add_parser("sentences", help=run_sentences.__doc__)
    listing.set_defaults(run=run_sentences)
    for command in commands.choices.values():
        command.add_argument("--json", action="store_true")
        command.add_argument("--language", choices=sorted(LANGUAGES), default=argparse.SUPPRESS)
    return top


def main(arguments: Sequence[str] | None = None) -> int:
    """Run a command; 0 when done, 2 for an unknown name (and for wrong arguments), 1 for any other refusal."""
    options = parser().parse_args(arguments)
    try:
        with speaking(options.language):
            options.run(options)
    except UnknownMaterial as error:
        say(f"galvanic: {error}")
        return UNKNOWN
    except GalvanicError as error:
        say(f"galvanic: {error}")
        return FAILED
    return 0
