"""How near each account comes to outside data: `python bench/accuracy.py`. Prints one row for each account and data set,
then intervals, currents, coverage and false notes, each beside its target.

Data sets: rest potentials of plates in flowing sea water (ASTM G82 / LaQue chart, middles of its ranges, from memory; part
of what the model is calibrated on), and voltages that benches read (common practice, no source): bands, and single benches.
No number was fitted to practice, but forms and thresholds were chosen with it in view (docs/science.md).
"""

from __future__ import annotations

import csv
import sys
from itertools import combinations
from pathlib import Path

import numpy as np

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))

from bench import coverage as coverage_of_ladders  # noqa: E402
from bench import fits, notes  # noqa: E402
from benchmark.score import trends  # noqa: E402
from galvanic.cells import Cell  # noqa: E402
from galvanic.chemistry.accounts import ACCOUNTS, predict, series  # noqa: E402
from galvanic.chemistry.half import Half  # noqa: E402
from galvanic.chemistry.plate_work import at_plates  # noqa: E402
from galvanic.chemistry.polarisation import Geometry, LoadedCell  # noqa: E402
from galvanic.chemistry.rest import rest_potentials  # noqa: E402
from galvanic.chemistry.rubbing import rubbed  # noqa: E402
from galvanic.chemistry.shorted import shorted  # noqa: E402
from galvanic.errors import NotEnoughData, UnknownMaterial  # noqa: E402
from galvanic.reference.catalogue import electrodes, electrolytes  # noqa: E402
from galvanic.reference.names import find  # noqa: E402
from galvanic.statistics.scoring import score  # noqa: E402

LOADS = ROOT / "galvanic" / "tests" / "certified" / "practice-loads.csv"
PRACTICE = ROOT / "galvanic" / "tests" / "certified" / "practice-readings.csv"
BENCHES = ROOT / "galvanic" / "tests" / "certified" / "practice-cells.csv"
NORMAL_95 = 1.96
MOST_OF_ONE_V = 2.0  # more was read across several cells
COVERED = "{:<45} {:>8} {:>8} {:>9}\n"
ROW = "{:<10} {:<34} {:>8} {:>8} {:>9} {:>4}\n"


def practice() -> tuple[list[Cell], list[tuple[float, float]]]:
    """Cells and bands of common practice."""
    lines = [line for line in PRACTICE.read_text(encoding="utf-8").splitlines() if not line.startswith("#")]
    cells, bands = [], []
    for negative, liquid, positive, low, high, *_ in csv.reader(lines):
        cells.append(
            Cell(
                find(negative, electrodes(), "electrode").key,
                find(liquid, electrolytes(), "electrolyte").key,
                find(positive, electrodes(), "electrode").key,
            )
        )
        bands.append((float(low), float(high)))
    return cells, bands


def benches() -> list[tuple[Cell, float, str]]:
    """Single benches of common practice: a cell of the catalogue, what it read in V, and a remark."""
    out = []
    for line in BENCHES.read_text(encoding="utf-8").splitlines():
        if line.startswith("#"):
            continue
        negative, liquid, positive, read, unit, note = next(csv.reader([line]))
        try:
            keys = (find(negative, electrodes(), "electrode").key, find(liquid, electrolytes(), "electrolyte").key)
            cell = Cell(*keys, find(positive, electrodes(), "electrode").key)
        except UnknownMaterial:
            continue
        if unit == "V" and float(read) < MOST_OF_ONE_V:
            out.append((cell, float(read), note))
    return out


def of_benches() -> None:
    """The rest account against single benches, with its targets and what it was before calibration."""
    rows = benches()
    said = [p["rest"] for p in predict([cell for cell, *_ in rows])]
    errors = np.array([(p.volts_v or 0.0) - read for p, (_, read, _) in zip(said, rows, strict=True)])
    halves = np.array([NORMAL_95 * (p.u_v or 0.0) for p in said])
    zinc_copper = np.array([{c.negative, c.positive} <= {"zinc", "copper", "copper-coin"} for c, *_ in rows])
    usual = np.array(["weakest" not in note for *_, note in rows])
    out = sys.stdout.write
    out("\nSingle benches (practice-cells.csv: common practice, no source; nothing fitted to them)\n")
    out(f"{'':<48}{'before':>8}{'now':>8}   target\n")
    for name, before, now, target in (
        ("rms, V", 0.126, np.sqrt(np.mean(errors**2)), "0.06 at most"),
        ("  without the weakest bench", 0.088, np.sqrt(np.mean(errors[usual] ** 2)), "0.06 at most"),
        ("mean of zinc and copper, V", 0.120, errors[zinc_copper].mean(), "within 0.03"),
        ("  without the weakest bench", 0.091, errors[zinc_copper & usual].mean(), "within 0.03"),
        ("inside 95 %", 0.90, np.mean(np.abs(errors) <= halves), "0.93 to 0.97"),
        ("median half-width, V", 0.17, np.median(halves), "0.15 at most"),
    ):
        out(f"{name:<48}{before:>8.3f}{now:>8.3f}   {target}\n")


def sea_cells() -> tuple[list[Cell], list[tuple[float, float]]]:
    """Every two plates of the galvanic series as a cell in flowing sea water, with the band that their ranges leave."""
    plates = {surface: next(k for k, e in electrodes().items() if e.surface == surface) for surface in series()}
    rows = [(plates[surface], 0.5 * (r.low + r.high), (r.high - r.low) / 12.0**0.5) for surface, r in series().items()]
    cells, bands = [], []
    for (a, a_v, a_u), (b, b_v, b_u) in combinations(rows, 2):
        cells.append(Cell(a, "sea-water-flowing", b))
        half = 3.0**0.5 * float(np.hypot(a_u, b_u))
        bands.append((b_v - a_v - half, b_v - a_v + half))
    return cells, bands


def coverage(what: str, cells: list[Cell], bands: list[tuple[float, float]]) -> str:
    """How many bands the rest account's stated 95 % interval meets, and how wide it is."""
    rest = [p["rest"] for p in predict(cells)]
    met = [
        low - NORMAL_95 * (p.u_v or 0.0) <= (p.volts_v or 0.0) <= high + NORMAL_95 * (p.u_v or 0.0)
        for p, (low, high) in zip(rest, bands, strict=True)
    ]
    middle = [
        abs((p.volts_v or 0.0) - 0.5 * (low + high)) <= NORMAL_95 * float(np.hypot(p.u_v or 0.0, (high - low) / 12.0**0.5))
        for p, (low, high) in zip(rest, bands, strict=True)
    ]
    width = float(np.median([NORMAL_95 * (p.u_v or 0.0) for p in rest]))
    return COVERED.format(what, f"{sum(met)}/{len(met)}", f"{100.0 * np.mean(middle):.0f} %", f"±{width:.2f} V")


def of_changes() -> None:
    """Trends and single targets of the model, each beside what it has to be."""
    rows = [
        ("Daniell’s cell, V", f"{predict([Cell('zinc', 'daniell-pot', 'copper')])[0]['rest'].volts_v:.3f}", "1.09 to 1.11"),
        *((row.name, f"{row.value:.3g}", f"{row.low:g} to {row.high:g}") for row in trends()),
    ]
    work = {row.part: row.share for row in at_plates(Cell("zinc", "lemon-juice", "copper")).at_positive}
    rows.append(("lemon cell shorted for a minute: hydrogen’s share", f"{work['hydrogen']:.2f}", "most of it"))
    skin = rubbed(Half.of("aluminium", "salt-water"))
    rows.append(
        ("aluminium rubbed in salt water, V", f"{skin.falls_v:.2f}, back in {skin.back_s:.1f} s", "some tenths, seconds")
    )
    sys.stdout.write("\nChanges and splits (benchmark/trends.csv: laws and published ranges, from memory)\n")
    for name, value, target in rows:
        sys.stdout.write(f"{name:<64}{value:>22}   {target}\n")


def currents() -> None:
    """Short circuits of one cell against common practice, in the first seconds, after a minute, and steady."""
    lines = LOADS.read_text(encoding="utf-8").splitlines()
    sys.stdout.write(
        "\nCurrents of one cell, mA (practice-loads.csv: common practice, no source; target: within a factor of three)\n"
    )
    for row in csv.DictReader(lines):
        if row["what"] not in ("short circuit", "short circuit ratio"):
            continue
        liquid = row["cells"].split("|")[1].strip()
        cell = Cell(
            "zinc",
            "lemon-whole" if "ratio" in row["what"] else find(liquid, electrolytes(), "").key,
            "copper",
        )
        size = float(row["area_cm2"]) * 1e-4, float(row["gap_cm"]) * 1e-2
        short = shorted(cell, Geometry(*size))
        low, high = float(row["low"]), float(row["high"])
        if "ratio" in row["what"]:
            times = shorted(cell, Geometry(*size, 3)).first_a / short.first_a
            sys.stdout.write(f"  three pairs against one: {times:.2f} times, measured {low} to {high}\n")
            continue
        amps = (short.first_a, short.minute_a, short.steady_a)
        said = ", ".join(f"{1e3 * a:.2f}" for a in amps)
        ok = low / 3.0 <= 1e3 * short.first_a <= 3.0 * high
        sys.stdout.write(
            f"  {row['cells']}: {said} (at once, a minute, steady), measured {low} to {high}: {'met' if ok else 'missed'}\n"
        )
    for cell in (
        Cell("zinc", "salt-water", "copper"),
        Cell("zinc", "salt-water", "silver"),
        Cell("magnesium", "salt-water", "graphite"),
    ):
        short = shorted(cell, Geometry(5e-4, 0.02))
        sys.stdout.write(
            f"  {cell.notation}: {1e3 * short.first_a:.2f}, {1e3 * short.minute_a:.2f}, {1e3 * short.steady_a:.2f}\n"
        )
    for cell, low, high in (
        (Cell("zinc", "daniell-pot", "copper"), 1.09, 1.11),
        (Cell("zinc", "vinegar", "graphite"), 1.05, 1.15),
    ):
        rest = LoadedCell.of(cell).rest()
        sys.stdout.write(f"  {cell.notation}: {rest[1] - rest[0]:.3f} V open, target {low} to {high}\n")


def main() -> None:
    """Print the table, then each band of common practice beside the rest account."""
    out = sys.stdout.write
    out(ROW.format("account", "data set", "rms, V", "bias, V", "signs", "n"))
    plates = {surface: next(k for k, e in electrodes().items() if e.surface == surface) for surface in series()}
    rested = rest_potentials(list(plates.values()), ["sea-water-flowing"])
    middles = [0.5 * (r.low + r.high) for r in series().values()]
    sea = score([rested.at(plate, "sea-water-flowing") for plate in plates.values()], middles)
    out(
        ROW.format(
            "rest",
            "sea water, plates against hydrogen",
            f"{sea.rms_v:.3f}",
            f"{sea.bias_v:+.3f}",
            f"{sea.signs_right}/{sea.n}",
            sea.n,
        )
    )
    cells, bands = practice()
    predictions = predict(cells)
    measured = [0.5 * (low + high) for low, high in bands]
    for account in ACCOUNTS:
        try:
            s = score([p[account].volts_v for p in predictions], measured)
        except NotEnoughData:
            continue
        signs = f"{s.signs_right}/{s.n}"
        out(ROW.format(account, "common practice, whole cells", f"{s.rms_v:.3f}", f"{s.bias_v:+.3f}", signs, s.n))
    out("\n" + COVERED.format("95 % intervals of the rest account", "meet", "cover", "median"))
    out(coverage("cells of common practice", cells, bands))
    out(coverage("every two plates in flowing sea water", *sea_cells()))
    out("  targets: at least 90 % of the middles covered, the bands' own width counted; median at most ±0.20 V\n")
    of_benches()
    of_changes()
    currents()
    out("\nRest account against each band of common practice (no source), V\n")
    for cell, (low, high), p in zip(cells, bands, predictions, strict=True):
        rest = p["rest"]
        miss = max(low - (rest.volts_v or 0.0), (rest.volts_v or 0.0) - high, 0.0)
        out(f"{cell.notation:<48} {low:+.2f} to {high:+.2f}   {rest.volts_v:+.3f} ± {rest.u_v:.3f}   off by {miss:.3f}\n")


if __name__ == "__main__":
    main()
    sys.stdout.write("\nThe ladder's 95 % intervals (target: 93 to 97 % hold) and false notes (target: under 3 % a kind)\n")
    coverage_of_ladders.main(int(sys.argv[1]) if len(sys.argv) > 1 else 40)
    notes.main(int(sys.argv[1]) if len(sys.argv) > 1 else 40)
    sys.stdout.write("\nFitted traces: how often 95 % intervals hold (target: 93 to 97 %)\n")
    fits.main(int(sys.argv[1]) if len(sys.argv) > 1 else 60)
