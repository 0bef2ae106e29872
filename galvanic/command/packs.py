"""The commands about packs: `pack` and `smallest`."""

from __future__ import annotations

import argparse
import re
import sys
from dataclasses import asdict, replace

from galvanic.bench.checks import MOST_CELL_V
from galvanic.chemistry.anchoring import UnderLoad, anchored
from galvanic.chemistry.circuit import MOST_CELLS, Pack
from galvanic.chemistry.curves import PackCell
from galvanic.chemistry.demand import load_of
from galvanic.chemistry.expected import MOST_IN_SEARCH, Expected, expect, options, smallest, what_holds_back
from galvanic.chemistry.in_time import InTime, in_time
from galvanic.chemistry.polarisation import FIRST_S, Geometry
from galvanic.command.cells import cell_of, geometry_of, say_of
from galvanic.command.tables import BadFile, dump, plain, say
from galvanic.errors import within

LIKE_THIS = "Write it as “4 * zinc | lemon juice | copper”, several kinds joined by “ + ”."


def cells_of(text: str, geometry: Geometry) -> list[PackCell]:
    """The cells of “4 * zinc | lemon juice | copper + 2 * …”, in that order, the first at the minus.

    Raises BadFile for anything else, UnknownMaterial for a name, OutOfRange for too many.
    """
    out: list[PackCell] = []
    for part in re.split(r"\s\+\s", text.strip()):
        match = re.fullmatch(r"(?:(\d+)\s*[*×x]\s*)?([^|*]+)\|([^|]+)\|([^|]+)", part.strip())
        if match is None:
            raise BadFile(f"“{part.strip()[:60]}” is not understood. {LIKE_THIS}")
        times = int((match[1] or "1")[:6])
        within("cells", times, 1, MOST_CELLS, f"A pack has from one to {MOST_CELLS} cells.")
        out += [PackCell(cell_of(match[2], match[3], match[4]), geometry)] * times
    return out


def run_pack(options: argparse.Namespace) -> None:
    """A pack of cells into a load: volts, current, each cell's share, how likely it runs."""
    row = cells_of(options.cells, geometry_of(options))
    if options.one_vessel:
        row = [replace(one, cup="one") for one in row]
    within("rows", options.rows, 1, MOST_CELLS, f"From one to {MOST_CELLS} rows side by side.")
    for cell in dict.fromkeys(one.cell for one in row):
        say_of(cell)
    row = [measured(one, options.open_v, options.short_ma) for one in row]
    pack, load = Pack((tuple(row),) * options.rows), load_of(options.load)
    expected = expect(pack, load, options.after)
    changes = _options(pack, load, options.after)
    holds = what_holds_back(pack, load, options.after)
    lasting = in_time(pack, load)
    if options.json:
        dump(
            {
                **_numbers(expected),
                "after_s": options.after,
                **_times(lasting),
                "cells": [
                    {"cell": one.cell.notation, **asdict(share)}
                    for one, share in zip(pack.cells, expected.meeting.cells, strict=True)
                ],
                "rows_a": list(expected.meeting.rows_a),
                "round_a": expected.meeting.round_a,
                "holds_back": holds,
                "options": changes,
            }
        )
        return
    write_pack(pack, expected)
    sys.stdout.write(f"Runs for {plain(lasting.runs_s)} s ({plain(lasting.low_s)} to {plain(lasting.high_s)} s)\n")
    sys.stdout.write(f"What holds it back: {holds}\n")
    for change in changes:
        times = (
            "gives current where there was none"
            if change["times"] is None
            else f"{plain(float(str(change['times'])), 2)} times the current"
        )
        sys.stdout.write(f"  {change['words']}: {times}, runs {change['runs']:.0%}\n")


def _options(pack: Pack, load: str | float, after_s: float) -> list[dict[str, object]]:
    if pack.size * 2 > MOST_CELLS:
        return []
    return [
        {**asdict(option), "times": option.times if option.times < 1e6 else None} for option in options(pack, load, after_s)
    ]


def measured(cell: PackCell, open_v: float | None, short_ma: float | None) -> PackCell:
    """A cell held to what was measured of each: its open voltage, its short-circuit current."""
    if open_v is None and short_ma is None:
        return cell
    within("open_v", open_v or 0.0, -MOST_CELL_V, MOST_CELL_V, f"No cell of two plates gives more than {MOST_CELL_V} V.")
    under = [] if short_ma is None else [UnderLoad(0.0, 1e-3 * short_ma)]
    return anchored(cell, open_v, 0.0, under)


def _times(found: InTime) -> dict[str, object]:
    return {"runs_s": found.runs_s, "runs_low_s": found.low_s, "runs_high_s": found.high_s, "used_up_s": found.used_up_s}


def _numbers(found: Expected) -> dict[str, object]:
    met = found.meeting
    return {
        "open_v": met.open_v,
        "volts_v": met.volts_v,
        "current_a": met.current_a,
        "runs": found.runs,
        "verdict": found.verdict,
        "level": found.level,
        "harm": found.harm,
        "expected": {name: asdict(getattr(found, name)) for name in ("open_v", "volts_v", "current_a")},
    }


def write_pack(pack: Pack, found: Expected) -> None:
    """A pack in lines for reading."""
    met = found.meeting
    sys.stdout.write(
        f"{met.open_v:.3f} V with nothing joined; {met.volts_v:.3f} V and {plain(1000 * met.current_a)} mA with the load "
        f"(95 %: {plain(1000 * found.current_a.low, 2)} to {plain(1000 * found.current_a.high, 2)} mA): "
        f"{found.verdict}, {found.level}, "
        f"runs in {found.runs:.0%} of what can be expected\n"
    )
    if found.harm:
        say(f"Do not join it: {found.harm}")
    for one, share in zip(pack.cells, met.cells, strict=True):
        back = ", driven backwards" if share.backwards else ""
        sys.stdout.write(f"  {one.cell.notation}: {share.open_v:.3f} V alone, {share.volts_v:.3f} V in the pack{back}\n")
    if met.round_a > 1e-9:
        sys.stdout.write(f"  {plain(1000 * met.round_a)} mA goes round between the rows with nothing joined\n")


def run_smallest(options: argparse.Namespace) -> None:
    """The fewest cells, then the fewest plates, that run a load."""
    row = cells_of(options.cell, geometry_of(options))
    if len(row) != 1:
        raise BadFile("Name one kind of cell, as “zinc | lemon juice | copper”.")
    lasts_s = options.after if options.lasts is None else options.lasts
    fewest = smallest(row[0], load_of(options.load), lasts_s)
    if fewest is not None and in_time(fewest.pack, load_of(options.load)).used_up_s < lasts_s:
        fewest = None
    if fewest is None:
        answer: dict[str, object] = {"cells": None, "rows": None, "pairs": None, "verdict": "no"}
        words = f"No pack of up to {MOST_IN_SEARCH} such cells runs it{f' for {lasts_s:g} s' if options.lasts else ''}.\n"
    else:
        answer = {"cells": fewest.cells, "rows": fewest.rows, "pairs": fewest.pairs, **_numbers(fewest.expected)}
        words = (
            f"{fewest.cells} cells in {fewest.rows} row{'s' if fewest.rows > 1 else ''}, {fewest.pairs} pair"
            f"{'s' if fewest.pairs > 1 else ''} of plates in each cup: "
            f"{plain(1000 * fewest.expected.meeting.current_a)} mA, "
            f"runs in {fewest.expected.runs:.0%} of what can be expected\n"
        )
    if options.json:
        dump(answer)
    else:
        sys.stdout.write(words)


def add_packs(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> list[argparse.ArgumentParser]:
    """Both commands' arguments; geometry and --json are added for all."""
    pack = commands.add_parser("pack", help=run_pack.__doc__)
    pack.add_argument(
        "cells", help="“4 * zinc | lemon juice | copper”, several kinds joined by “ + ”, the first at the minus"
    )
    pack.add_argument("--rows", type=int, default=1, help="so many such rows side by side")
    pack.add_argument("--one-vessel", action="store_true", help="all cells stand in one liquid (refused, with the reason)")
    pack.set_defaults(run=run_pack)
    fewest = commands.add_parser("smallest", help=run_smallest.__doc__)
    fewest.add_argument("cell", help="“zinc | lemon juice | copper”")
    fewest.add_argument("--for", dest="lasts", type=float, default=None, metavar="SECONDS", help="that still runs it then")
    fewest.set_defaults(run=run_smallest)
    pack.add_argument("--open-v", type=float, default=None, help="what each cell was measured to have with nothing joined")
    pack.add_argument("--short-ma", type=float, default=None, help="what each cell gave in a short circuit, mA")
    for command in (pack, fewest):
        command.add_argument("--load", required=True, help="a load's key or name, or ohms")
        command.add_argument("--after", type=float, default=FIRST_S, metavar="SECONDS", help="so long after it was joined")
    return [pack, fewest]
