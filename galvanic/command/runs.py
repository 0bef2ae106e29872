"""The commands about time: `run`, `fit` and `life`."""

from __future__ import annotations

import argparse
import re
import sys
from dataclasses import asdict, replace

import numpy as np

from galvanic.bench.run_table import RunTable, read_run
from galvanic.chemistry.circuit import MOST_CELLS, Pack
from galvanic.chemistry.demand import demand, load_of
from galvanic.chemistry.life import CUP_PRICE, DAY_S, Life, life
from galvanic.chemistry.transient import MOST_S, Event, simulate
from galvanic.chemistry.work import work_of
from galvanic.command.cells import geometry_of
from galvanic.command.packs import cells_of
from galvanic.command.tables import BadFile, dump, plain, say, text_of, write
from galvanic.errors import within
from galvanic.statistics.decay import Decay, Interval, fit_decay

LIKE_THIS = "Write events as “0 open; 120 load 470; 720 open”: open, load OHMS, short, stir TIMES."
MOST_ROWS = 100_000


def events_of(text: str) -> list[Event]:
    """Events as typed, in their order. Raises BadFile for anything else, OutOfRange, UnknownMaterial."""
    out = []
    for part in (part.strip() for part in text.split(";")):
        if not part:
            continue
        match = re.fullmatch(r"([\d.]+)\s+(open|short|load|stir)(?:\s+(.+))?", part, re.IGNORECASE)
        if match is None:
            raise BadFile(f"“{part[:40]}” is no event. {LIKE_THIS}")
        kind, what = match[2].casefold(), match[3]
        if (kind in ("load", "stir")) != (what is not None):
            raise BadFile(f"“{part[:40]}” is no event. {LIKE_THIS}")
        try:
            at_s, times = float(match[1]), float(what) if kind == "stir" else 1.0
        except ValueError:
            raise BadFile(f"“{part[:40]}” is no event. {LIKE_THIS}") from None
        load = demand(load_of(what)) if kind == "load" else None
        out.append(Event(at_s, kind, load, times))  # type: ignore[arg-type]  # one of the four words
    return out


def run_run(options: argparse.Namespace) -> None:
    """A cell, or cells in a row, in time: volts and current from dipping in, with what is done to it."""
    within("until", options.until, 0.01, MOST_S, f"A run lasts from 0.01 s to {MOST_S / DAY_S:.0f} days.")
    within("every", options.every, options.until / MOST_ROWS, MOST_S, f"At most {MOST_ROWS} rows: a longer step, please.")
    cells = cells_of(options.cells, geometry_of(options))
    trace = simulate(cells, events_of(options.events), options.until, options.celsius)
    at = np.arange(0.0, options.until + 0.5 * options.every, options.every)
    volts, amps = trace.at(at)
    rows = zip(at, volts, amps, strict=True)
    write([{"t_s": float(t), "volts_v": float(v), "current_a": float(a)} for t, v, a in rows], options.json)


def run_fit(options: argparse.Namespace) -> None:
    """Exponentials through a run: level, how much falls or climbs and how fast, charge where there is a current."""
    table = read_run(text_of(options.file))
    if table.unused:
        say(f"not understood and not used: the columns {', '.join(table.unused)}")
    decays = {name: fit_decay(table.t_s, values) for name, values in _series(table)}
    work = None
    if table.current_a:
        work = work_of(table.t_s, table.current_a, _last_digit(table.current_a), table.volts_v or None)
    if options.json:
        dump({"n": len(table.t_s), **{name: _fitted(one) for name, one in decays.items()}, "work": work and asdict(work)})
        return
    for name, one in decays.items():
        sys.stdout.write(f"{name}: level {_said(one.level)}\n")
        for part in one.parts:
            goes = "falls" if part.amount.value > 0.0 else "climbs"
            amount, time = _said(part.amount, size=True), _said(part.time)
            sys.stdout.write(f"  {goes} by {amount}, half of it in {plain(part.half, 4)} s; time {time} s\n")
        sys.stdout.write(f"  residual standard deviation {plain(one.s)}, {one.n} points\n")
    if work is not None:
        sys.stdout.write(f"charge {plain(work.charge_c.value, 4)} C ± {plain(work.charge_c.u, 2)} C\n")
        if work.energy_j is not None:
            sys.stdout.write(f"energy {plain(work.energy_j.value, 4)} J ± {plain(work.energy_j.u, 2)} J\n")


def _series(table: RunTable) -> list[tuple[str, tuple[float, ...]]]:
    return [(name, values) for name, values in (("volts_v", table.volts_v), ("current_a", table.current_a)) if values]


def _last_digit(values: tuple[float, ...]) -> float:
    """The step that the values seem to be read in: the smallest difference between two of them."""
    steps = np.diff(np.unique(np.asarray(values)))
    return float(steps.min()) / 12.0**0.5 if len(steps) else 0.0


def _fitted(decay: Decay) -> dict[str, object]:
    parts = [{"amount": asdict(p.amount), "time_s": asdict(p.time), "half_s": p.half} for p in decay.parts]
    return {"level": asdict(decay.level), "parts": parts, "s": decay.s, "rss": decay.rss}


def _said(interval: Interval, size: bool = False) -> str:
    value, low, high = (interval.value, interval.low, interval.high)
    if size and value < 0.0:
        value, low, high = -value, None if high is None else -high, None if low is None else -low
    ends = ["?" if end is None else f"{plain(end, 4)}" for end in (low, high)]
    return f"{plain(value, 4)} ({ends[0]} to {ends[1]})"


def _days(lasting: Life) -> dict[str, object]:
    """Until something is used up, in days, and what."""
    if not lasting.ends:
        return {"days": None, "low_days": None, "high_days": None, "ends_by": None}
    first = lasting.ends[0]
    middle, low, high = (seconds / DAY_S for seconds in (first.seconds.middle, first.seconds.low, first.seconds.high))
    return {"days": middle, "low_days": low, "high_days": high, "ends_by": first.what}


def run_life(options: argparse.Namespace) -> None:
    """How long a pack lasts under a load, and what runs out first."""
    row = cells_of(options.cells, geometry_of(options))
    within("rows", options.rows, 1, MOST_CELLS, f"From one to {MOST_CELLS} rows side by side.")
    cells = Pack((tuple(replace(one, cup="one") if options.one_vessel else one for one in row),) * options.rows)
    lasting = life(cells, load_of(options.load), options.volume_ml, options.zinc_um, options.cup_price)
    met = lasting.expected.meeting
    if options.json:
        dump(
            {
                "volts_v": met.volts_v,
                "current_a": met.current_a,
                "verdict": lasting.expected.verdict,
                **_days(lasting),
                "ends": [asdict(end) for end in lasting.ends],
                "first": lasting.ends[0].what if lasting.ends else None,
                "oxygen_share": lasting.oxygen_share,
                "charge_c": lasting.charge_c,
                "energy_wh": lasting.energy_wh,
                "metal_g": lasting.metal_g,
                "cost_per_kwh": lasting.cost_per_kwh,
                "bought_per_kwh": lasting.bought_per_kwh,
            }
        )
        return
    sys.stdout.write(
        f"{met.volts_v:.3f} V and {plain(1000 * met.current_a)} mA in the long run: {lasting.expected.verdict}\n"
    )
    for end in lasting.ends:
        days = [seconds / DAY_S for seconds in (end.seconds.middle, end.seconds.low, end.seconds.high)]
        sys.stdout.write(f"  {end.words}: {plain(days[0], 2)} days ({plain(days[1], 2)} to {plain(days[2], 2)})\n")
    sys.stdout.write(f"Oxygen from the air does {lasting.oxygen_share:.0%} of the positive plate's work, from the start.\n")
    gives = f"{plain(lasting.charge_c)} C, {plain(lasting.energy_wh, 2)} Wh, {plain(1000 * lasting.metal_g)} mg of metal"
    prices = (
        ""
        if lasting.cost_per_kwh is None
        else f"; {plain(lasting.cost_per_kwh, 2)} a kWh, bought {plain(lasting.bought_per_kwh, 2)}"
    )
    sys.stdout.write(f"Until the first end: {gives}{prices}\n")


def add_runs(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> list[argparse.ArgumentParser]:
    """The arguments of all three; those with cells are returned, for geometry to be added."""
    run = commands.add_parser("run", help=run_run.__doc__)
    run.add_argument("--events", default="", help=LIKE_THIS)
    run.add_argument("--until", type=float, required=True, metavar="SECONDS")
    run.add_argument("--every", type=float, default=10.0, metavar="SECONDS")
    run.add_argument("--celsius", type=float, default=25.0, help="5 to 60")
    run.set_defaults(run=run_run)
    fit = commands.add_parser("fit", help=run_fit.__doc__)
    fit.add_argument("file", help="CSV with t_s, t_min or t_h, and volts_v, volts_mv or current_ma; - for standard input")
    fit.set_defaults(run=run_fit)
    lasts = commands.add_parser("life", help=run_life.__doc__)
    lasts.add_argument("--load", required=True, help="a load's key or name, or ohms")
    lasts.add_argument("--volume-ml", type=float, default=None, help="liquid in each cup; else as usual for its kind")
    lasts.add_argument("--rows", type=int, default=1, help="so many such rows side by side")
    lasts.add_argument("--one-vessel", action="store_true", help="all cells stand in one liquid (refused, with the reason)")
    lasts.add_argument("--zinc-um", type=float, default=None, help="thickness of the negative plate's metal (or coating)")
    lasts.add_argument("--cup-price", type=float, default=CUP_PRICE, help="one cup with its liquid, in any currency")
    lasts.set_defaults(run=run_life)
    for command in (run, lasts):
        command.add_argument("cells", help="“3 * zinc | lemon juice | copper”, kinds joined by “ + ”")
    return [run, lasts]
