"""Scores the rest-potential model on published cells, currents and trends, or on a class.

`python benchmark/score.py`: `cells.csv` and `trends.csv`, which no parameter was fitted to, as registered for this edition
of the tables (`registered.csv`) and as the model says now. `python benchmark/score.py FILE`: a class's exported package
(.zip) or a table with the columns negative, electrolyte, positive, volts; its cells are laid against the model. `--register`
writes what the model says now as this edition's. What was fitted (`published.csv`) is scored by `tools/calibrate.py`, each
row as foretold when it is left out.
"""

from __future__ import annotations

import argparse
import csv
import io
import sys
import zipfile
from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from pathlib import Path

import numpy as np

HERE = Path(__file__).resolve().parent
sys.path.insert(0, str(HERE.parent))

from galvanic.cells import Cell  # noqa: E402
from galvanic.chemistry.accounts import predict  # noqa: E402
from galvanic.chemistry.polarisation import Geometry, sides_of  # noqa: E402
from galvanic.chemistry.posterior import kind_of  # noqa: E402
from galvanic.chemistry.shorted import shorted  # noqa: E402
from galvanic.chemistry.what_if import Change, what_if  # noqa: E402
from galvanic.errors import GalvanicError  # noqa: E402
from galvanic.reference.catalogue import electrodes, electrolytes  # noqa: E402
from galvanic.reference.names import find  # noqa: E402
from galvanic.reference.reader import edition  # noqa: E402

NORMAL_95 = 1.96
FACTOR = 3.0  # currents are known to a factor of three
REGISTERED = HERE / "registered.csv"
HEAD = f"{'cell':<52}{'said':>16}{'registered':>12}{'now':>9}  verdict\n"


@dataclass(frozen=True)
class Foretold:
    """What a row says from low to high, and what the model says with its own 95 %."""

    name: str
    kind: str
    low: float
    high: float
    value: float
    half: float

    @property
    def met(self) -> bool:
        """Whether both ranges meet."""
        return self.low - self.half <= self.value <= self.high + self.half


def table(name: str) -> list[dict[str, str]]:
    """A table of this folder, without its remarks."""
    lines = (HERE / name).read_text(encoding="utf-8").splitlines(True)
    return list(csv.DictReader(io.StringIO("".join(line for line in lines if not line.startswith("#")))))


def cells() -> list[Foretold]:
    """Volts and currents that nothing was fitted to."""
    out = []
    for row in table("cells.csv"):
        cell = Cell(row["negative"], row["electrolyte"], row["positive"])
        name = f"{cell.notation}{'' if row['load_ohm'] == '' else ' shorted, ' + row['minute'] + ' min'}"
        low, high = float(row["low"]), float(row["high"])
        if row["unit"] == "V":
            by_rest = predict([cell])[0]["rest"]
            value, half = by_rest.volts_v or 0.0, NORMAL_95 * (by_rest.u_v or 0.0)
        else:
            short = shorted(cell, Geometry(1e-4 * float(row["area_cm2"]), 1e-2 * float(row["gap_cm"])))
            value = 1e3 * (short.minute_a if float(row["minute"]) <= 1.0 else short.steady_a)
            low, high, half = low / FACTOR, high * FACTOR, 0.0
        out.append(Foretold(name, kind_of(electrolytes()[sides_of(cell)[1]]), low, high, value, half))
    return out


def trends() -> list[Foretold]:
    """What a change does: ratios and differences."""
    out = []
    for row in table("trends.csv"):
        cell = Cell(row["negative"], row["electrolyte"], row["positive"])
        change = Change(**{row["change"]: float(row["value"])})
        after, before = (getattr(what_if(cell, one), row["quantity"]) for one in (change, Change()))
        value = after / before if row["compare"] == "ratio" else after - before
        name = f"{cell.notation}: {row['quantity']} with {row['change']} {row['value']}"
        out.append(Foretold(name, row["compare"], float(row["low"]), float(row["high"]), value, 0.0))
    return out


def registered() -> dict[str, float]:
    """What the model of this edition was registered to say."""
    if not REGISTERED.is_file():
        return {}
    rows = csv.DictReader(REGISTERED.read_text(encoding="utf-8").splitlines())
    return {row["name"]: float(row["value"]) for row in rows if row["edition"] == edition()}


def register(rows: Iterable[Foretold]) -> None:
    """Write what the model says now as this edition's; earlier editions stay."""
    old = []
    if REGISTERED.is_file():
        text = REGISTERED.read_text(encoding="utf-8").splitlines()
        old = [row for row in csv.DictReader(text) if row["edition"] != edition()]
    with REGISTERED.open("w", encoding="utf-8", newline="") as file:
        writer = csv.DictWriter(file, ["edition", "name", "value", "half"], lineterminator="\n")
        writer.writeheader()
        writer.writerows(old)
        writer.writerows(
            {"edition": edition(), "name": row.name, "value": f"{row.value:.4g}", "half": f"{row.half:.3g}"} for row in rows
        )


def show(rows: Sequence[Foretold]) -> None:
    """Each row, then how many are met by kind."""
    known = registered()
    sys.stdout.write(HEAD)
    for row in rows:
        said, was = f"{row.low:.3g} to {row.high:.3g}", known.get(row.name)
        before = "" if was is None else f"{was:.3g}"
        sys.stdout.write(f"{row.name:<52}{said:>16}{before:>12}{row.value:>9.3g}  {'met' if row.met else 'missed'}\n")
    by_kind: dict[str, list[bool]] = defaultdict(list)
    for row in rows:
        by_kind[row.kind].append(row.met)
    sys.stdout.write("  met: " + ", ".join(f"{kind} {sum(met)}/{len(met)}" for kind, met in sorted(by_kind.items())) + "\n")


def of_class(path: Path) -> list[tuple[Cell, float, str]]:
    """A class's readings: the cell, volts with their sign (positive plate less negative), and who read them."""
    if path.suffix.lower() == ".csv":
        rows = csv.DictReader(path.read_text(encoding="utf-8-sig").splitlines())
        return [(_cell(row), float(row["volts"].replace(",", ".")), row.get("group") or "") for row in rows]
    with zipfile.ZipFile(path) as package:

        def read(name: str) -> list[dict[str, str]]:
            if name not in package.namelist():
                return []
            return list(csv.DictReader(io.StringIO(package.read(name).decode("utf-8"))))

        planned = {row["id"]: row for row in read("cells.csv")}
        readings = read("readings.csv")
        gone = {row["corrects"] for row in readings if row["corrects"]}
        latest: dict[str, str] = {}
        for row in read("set_aside.csv"):
            latest[row.get("reading", "") or row.get("group", "")] = row.get("reason", "")
        out = []
        for row in readings:
            cell = planned[row["cell"]]
            if row["id"] in gone or latest.get(row["id"]) or latest.get(cell["group"]):
                continue
            volts = float(row["volts_v"]) - float(row["offset_v"])
            sign = 1.0 if row["red"] == cell["positive"] else -1.0
            if cell["electrolyte"] in electrolytes() and {cell["negative"], cell["positive"]} <= set(electrodes()):
                out.append((Cell(cell["negative"], cell["electrolyte"], cell["positive"]), sign * volts, cell["group"]))
        return out


def _cell(row: dict[str, str]) -> Cell:
    return Cell(
        find(row["negative"], electrodes(), "electrode").key,
        find(row["electrolyte"], electrolytes(), "electrolyte").key,
        find(row["positive"], electrodes(), "electrode").key,
    )


def score_class(path: Path) -> None:
    """A class's cells against the model: each with its mean, then rms, mean and how many lie inside 95 %, by kind."""
    by_cell: dict[Cell, list[float]] = defaultdict(list)
    for cell, volts, _ in of_class(path):
        by_cell[cell].append(volts)
    if not by_cell:
        raise GalvanicError("This file has no readings of plates and liquids that the catalogue knows.")
    foretold = predict(list(by_cell))
    sys.stdout.write(f"{'cell':<48}{'n':>4}{'class, V':>10}{'model, V':>10}{'± 95 %':>8}\n")
    misses: dict[str, list[tuple[float, bool]]] = defaultdict(list)
    for (cell, values), said in zip(by_cell.items(), foretold, strict=True):
        mean, by_rest = float(np.mean(values)), said["rest"]
        value, half = by_rest.volts_v or 0.0, NORMAL_95 * (by_rest.u_v or 0.0)
        sys.stdout.write(f"{cell.notation:<48}{len(values):>4}{mean:>10.3f}{value:>10.3f}{half:>8.2f}\n")
        for kind in (kind_of(electrolytes()[sides_of(cell)[1]]), "all"):
            misses[kind].append((value - mean, abs(value - mean) <= half))
    for kind, found in sorted(misses.items()):
        errors = np.array([error for error, _ in found])
        inside = sum(met for _, met in found)
        rms = float(np.sqrt(np.mean(errors**2)))
        sys.stdout.write(f"{kind}: rms {rms:.3f} V, mean {errors.mean():+.3f} V, inside 95 %: {inside} of {len(found)}\n")


def main(arguments: Sequence[str] | None = None) -> None:
    """Score a file, or print the benchmark."""
    parser = argparse.ArgumentParser(description=__doc__.partition("\n")[0])
    parser.add_argument("file", nargs="?", type=Path)
    parser.add_argument("--register", action="store_true")
    options = parser.parse_args(arguments)
    if options.file is not None:
        score_class(options.file)
        return
    rows, changes = cells(), trends()
    if options.register:
        register([*rows, *changes])
    sys.stdout.write(f"Tables of edition {edition()}. What nothing was fitted to:\n")
    show(rows)
    sys.stdout.write("\nWhat changes do:\n")
    show(changes)
    sys.stdout.write("\nWhat was fitted, each row left out in turn: python tools/calibrate.py\n")


if __name__ == "__main__":
    try:
        main()
    except (GalvanicError, OSError, zipfile.BadZipFile, KeyError, ValueError) as error:
        sys.exit(f"This file could not be scored: {error}")
