"""Cases for the numbers of the core: every plate in every liquid, recipes, circuits, and fits of seeded data."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import combinations

import numpy as np

from galvanic.cells import Cell
from galvanic.chemistry.accounts import predict
from galvanic.chemistry.acids import complexation
from galvanic.chemistry.activity import mean_activity
from galvanic.chemistry.circuit import Pack
from galvanic.chemistry.curves import PackCell
from galvanic.chemistry.demand import demand
from galvanic.chemistry.expected import expect, options, smallest
from galvanic.chemistry.junction import junction
from galvanic.chemistry.life import life
from galvanic.chemistry.made import amount_of, composition, described, made_fields, name_of
from galvanic.chemistry.mixing import by_parts, for_groups, metal_dissolved_g, parts_for_mass_percent, stock_volume
from galvanic.chemistry.plate_account import account_of
from galvanic.chemistry.polarisation import Geometry, LoadedCell
from galvanic.chemistry.shorted import short_circuit
from galvanic.chemistry.subtraction import worked_or_reason
from galvanic.chemistry.transient import Event, simulate
from galvanic.chemistry.two_solutions import two_solutions
from galvanic.chemistry.varied import levels_of
from galvanic.chemistry.warmth import warmth
from galvanic.condition import Condition
from galvanic.reference.catalogue import Made, electrodes, electrolytes
from galvanic.statistics.between_classes import distances_of, lay_over, moved
from galvanic.statistics.by_group import slope_by_group
from galvanic.statistics.class_ladder import fit_class
from galvanic.statistics.decay import fit_decay
from galvanic.statistics.drift import Shared, shared_cell_drift
from galvanic.statistics.effects import liquid_effect, slope, two_way
from galvanic.statistics.ladder import Difference, fit
from galvanic.statistics.ladder_checks import group_offsets, next_cells, odd_readings, rank_agreement, robust_ladder
from galvanic.statistics.misfit import misfit
from galvanic.statistics.outliers import downweight_outliers
from galvanic.statistics.repeats import one_way, pooled, summarise, unsteady
from galvanic.statistics.scoring import Values, contest, score, surely_misses_v
from galvanic.tests.telling import or_refused, told

LIQUIDS = ("lemon-juice", "kelp-brine", "vinegar", "salt-water", "washing-soda", "cuso4-1.0", "hcl-0.1")
DRAWS = 60


def _plate(plate: str, liquid: str) -> str:
    found = account_of(plate, liquid)
    steps = ", ".join(
        f"{one.code} {one.volts_v:.3g} ± {one.u_v:.2g} moves {round(one.moves_v, 5) + 0.0:.2g}" for one in found.parts
    )
    shown = "; ".join(f"{one.code}: {one.equation}. {one.do}" for one in found.steps) if liquid == LIQUIDS[0] else ""
    return f"{found.start_v:.3g} to {found.rest_v:.4g}: {steps} {shown}"


def _cell(cell: Cell) -> Iterator[str]:
    for celsius in (10.0, 45.0):
        for name, one in predict([cell], DRAWS, celsius=celsius)[0].items():
            yield f"{name} {celsius:g} °C {_of(one.volts_v)} ± {_of(one.u_v)} {one.reason}"
    for geometry in (Geometry(), Geometry(4e-4, 0.04, 2)):
        loaded = LoadedCell.of(cell, geometry)
        short = short_circuit(loaded)
        yield f"short {short.first_a:.4g} A, {short.minute_a:.4g} A, {short.steady_a:.4g} A"
        for ohm in (10.0, 1000.0, 1e5):
            at = loaded.at_load(ohm)
            yield f"{ohm:g} Ω: {at.volts_v:.4g} V {at.current_a:.4g} A {at.solution_ohm:.4g} Ω {at.internal_ohm:.4g} Ω"


def _of(value: float | None) -> str:
    return "none" if value is None else f"{value:.4g}"


def potentials() -> Iterator[str]:
    """Every plate in unlike liquids: where it rests and why; cells by four accounts, loaded and shorted."""
    one_cup = [key for key in electrodes() if not key.endswith("-second")]
    for liquid in LIQUIDS:
        for plate in one_cup:
            yield f"{plate} in {liquid}: {or_refused(lambda p=plate, q=liquid: _plate(p, q))}"
    for liquid in LIQUIDS[:4]:
        for negative, positive in (("zinc", "copper"), ("magnesium", "graphite"), ("aluminium", "tin"), ("steel", "nickel")):
            cell = Cell.of(negative, liquid, positive)
            for line in _cell(cell):
                yield f"{cell.notation}: {line}"
    for variable, values in (
        ("spacing", (1.0, 6.0)),
        ("salt", (0.5, 3.0)),
        ("dilution", (0.5, 0.1)),
        ("stirring", ("still", "stirred")),
    ):
        wanted = [Condition(variable, value) for value in values]
        yield from told(or_refused(lambda w=wanted: levels_of(Cell("zinc", "lemon-juice", "copper"), w)), variable)


def recipes() -> Iterator[str]:
    """Liquids made of others, amounts in all units, two solutions, workings on paper."""
    for made in (
        Made("water", 100.0, (("table-salt", 3.0),)), Made("water", 50.0, (("copper-sulfate", 4.0),)),
        Made("lemon-juice", 100.0, (("baking-soda", 2.0), ("table-salt", 1.0))), Made("vinegar", 80.0, (("water", 20.0),)),
        Made("lemon-juice", 60.0, (("vinegar", 40.0),)), Made("water", 100.0, (("zinc-sulfate", 5.0), ("table-salt", 1.0))),
        Made("water", 100.0, (("hydrogen-peroxide", 10.0),)),
    ):  # fmt: skip
        at = f"{made.base} {made.steps}"
        for what in (composition, made_fields, described, name_of):
            yield from told(or_refused(lambda w=what, m=made: w(m)), at)
    for unit in ("g", "mL", "mol/L", "parts", "mass %", "volume %"):
        for what in ("table-salt", "vinegar"):
            for value in (0.5, 5.0, 100.0, 0.0):
                yield from told(
                    or_refused(lambda w=what, v=value, u=unit: amount_of(w, v, u, 80.0)), f"{what} {value} {unit}"
                )
    yield from told(
        [parts_for_mass_percent(5.0, 200.0), parts_for_mass_percent(5.0, 200.0, "CuSO4·5H2O", "CuSO4")], "per cent"
    )
    yield from told([stock_volume(6.0, 0.5, 1.0), by_parts({"juice": 1.0, "water": 3.0}, 200.0)], "stock")
    yield from told([for_groups(60.0, 8), for_groups(60.0, 7, 0.2, 50.0), metal_dissolved_g("Zn", 2, 1000.0)], "groups")
    for text in (
        "zinc | zinc sulfate 0.1 mol/L || copper sulfate 1.0 mol/L | copper", "zinc | zinc sulfate 9 mol/L || copper sulfate 1.0 mol/L | copper",
        "copper | copper sulfate 0.01 mol/L || copper sulfate 1.0 mol/L | copper", "zinc | zinc sulfate || copper",
        "silver | silver nitrate 0.1 mol/L || copper sulfate 1.0 mol/L | copper", "zinc | copper sulfate 1 mol/L || zinc sulfate 1 mol/L | copper",
    ):  # fmt: skip
        yield from told(or_refused(lambda t=text: two_solutions(t)), text)
    for liquid, row in electrolytes().items():
        if row.bridge is not None:
            yield from told(junction(Cell("zinc", liquid, "copper")), liquid)
    for pair in (("zinc", "copper"), ("aluminium", "tin"), ("magnesium", "graphite"), ("silver", "zinc")):
        cell = Cell.of(pair[0], "lemon-juice", pair[1])
        for negative in cell.pair:
            yield from told(worked_or_reason(cell, negative), f"{cell.short} {negative}")
    for metal in ("Cu2+", "Zn2+", "Fe2+"):
        for ph in (2.0, 5.0):
            yield f"{metal} {ph} {complexation(metal, {'citric': 0.3, 'malic': 0.05}, 0.5, ph):.4g}"
    yield from told([mean_activity("CuSO4", 0.05), mean_activity("ZnSO4", 0.7)], "activity")
    yield from told([warmth(celsius) for celsius in (5.0, 25.0, 60.0)], "warmth")


def circuits() -> Iterator[str]:
    """Packs of unlike cells and rows, loads of all kinds, options and life."""
    zinc, tin, iron = (PackCell(Cell.of(key, "lemon-juice", "copper")) for key in ("zinc", "tin", "steel"))
    wide = PackCell(zinc.cell, Geometry(1e-3, 0.01, 3))
    for name, pack in {
        "turned": Pack(((zinc, zinc, tin),)), "unlike": Pack(((zinc, iron), (zinc, zinc))), "wide": Pack(((wide, zinc),)),
    }.items():  # fmt: skip
        for load in ("led-red", "led-white", "clock", "buzzer", "motor", 47.0, 1e4):
            for after in (3.0, 600.0):
                found = or_refused(lambda p=pack, q=load, a=after: expect(p, q, a))
                yield from told(found, f"{name} {load} {after:g} s")
        yield from told(options(pack, "led-red"), f"{name} options")
    for liquid in ("daniell-pot", "kelp-brine"):
        events = [
            Event(30.0, "load", demand(100.0)),
            Event(90.0, "open"),
            Event(100.0, "stir", times=10.0),
            Event(110.0, "short"),
        ]
        trace = simulate([PackCell(Cell("zinc", liquid, "copper"))], events, 130.0)
        at = trace.at(np.array([1.0, 29.0, 31.0, 80.0, 95.0, 105.0, 112.0, 129.0]))
        yield from told(np.round(at, 6) + 0.0, f"run in {liquid}")  # + 0.0: no minus before nothing
    for load in ("led-red", "clock", 100.0):
        yield from told(smallest(wide, load), f"smallest {load}")
        yield from told(or_refused(lambda q=load: life([wide, zinc], q, 30.0, 20.0, 0.1)), f"life {load}")
        yield from told(demand(load).takes, f"demand {load}")


def _ladder_data(seed: int, offset_v: float = 0.0, shift_v: float = 0.0) -> list[Difference]:
    rng = np.random.default_rng(seed)
    true = {"zinc": -0.76, "steel": -0.42, "tin": -0.3 + shift_v, "copper": 0.2, "nickel": 0.0}
    out = []
    for g in range(6):
        plate = {name: rng.normal(0.0, 0.012) for name in true}
        for red, black in list(combinations(true, 2))[g % 2 :: 2]:
            volts = (
                true[red] - true[black] + plate[red] - plate[black] + rng.normal(0.0, 0.004) + (offset_v if g == 2 else 0.0)
            )
            out.append(Difference(red, black, round(volts, 3), 0.005, f"g{g}"))
    return out


def fits() -> Iterator[str]:
    """Ladders, checks of them, classes laid over each other, slopes, decays, drifts, repeats of seeded data."""
    for seed, offset in ((1, 0.0), (2, 0.08)):
        data = _ladder_data(seed, offset)
        wrong = [*data[:-1], Difference(data[-1].black, data[-1].red, data[-1].volts_v, data[-1].u_v, data[-1].group)]
        for at, rows in (("sound", data), ("one turned", wrong)):
            ladder, of_class = fit(rows), fit_class(rows)
            yield from told((ladder, of_class), f"{at} {seed}")
            yield from told(
                [of_class.reach_v("copper", "zinc"), of_class.difference_v("tin", "nickel")], f"{at} {seed} reach"
            )
            yield from told([(d.red, d.black, d.group, t) for d, t in odd_readings(rows, ladder)[:6]], f"{at} {seed} odd")
            odd = misfit(rows)
            likely = (odd.adds_up, odd.power, odd.loops, odd.cells[:2], odd.suspects[:3])
            yield from told(likely, f"{at} {seed} misfit")
            yield from told(group_offsets(rows), f"{at} {seed} offsets")
            yield from told(robust_ladder(rows), f"{at} {seed} robust")
            kept, out = downweight_outliers(rows)
            yield from told(([k.u_v for k in kept], out), f"{at} {seed} outliers")
            yield from told(next_cells(ladder, ladder.electrodes, 0.03), f"{at} {seed} next")
            table = {"zinc": -0.76, "steel": -0.44, "tin": -0.14, "copper": 0.34, "nickel": -0.25}
            yield from told(rank_agreement(ladder, table), f"{at} {seed} ranks")
    laid = [distances_of(f"class {k}", fit_class(_ladder_data(10 + k, 0.0, 0.1 * (k == 3)))) for k in range(4)]
    between = lay_over(laid)
    yield from told(between, "between")
    yield from told([between.reach_v("copper", "zinc"), between.next_class_v("copper", "zinc")], "between reach")
    yield from told(moved(laid), "moved")
    rng = np.random.default_rng(3)
    groups = [f"g{k // 4}" for k in range(24)]
    x = [float(k % 4) for k in range(24)]
    y = [0.9 - 0.03 * value + 0.01 * (k // 4) + rng.normal(0.0, 0.005) for k, value in enumerate(x)]
    fitted = slope_by_group(groups, x, y)
    yield from told((fitted, fitted.at(1.5), fitted.shown), "by group")
    yield from told(or_refused(lambda: slope_by_group(groups[:2], x[:2], y[:2])), "too few")
    yield from told((slope(x, y), slope(x, y, 0.9)), "slope")
    pairs, liquids = [f"p{k % 3}" for k in range(24)], [f"l{k // 12}" for k in range(24)]
    yield from told(two_way(pairs, liquids, y), "two way")
    yield from told(liquid_effect({"lemon-juice": 0.95, "vinegar": 0.93, "salt-water": 0.75, "kelp-brine": 0.78}), "liquids")
    times = np.linspace(0.0, 600.0, 60)
    fall = 0.6 + 0.3 * np.exp(-times / 40.0) + 0.1 * np.exp(-times / 300.0) + rng.normal(0.0, 0.002, 60)
    for parts in (None, 0, 1, 2):
        yield from told(fit_decay(list(times), list(fall), parts), f"decay {parts}")
    shared = [Shared(f"g{k % 5}", 4.0 * k, 0.95 - 0.001 * k + float(rng.normal(0.0, 0.004))) for k in range(20)]
    yield from told((shared_cell_drift(shared), shared_cell_drift(shared).shown), "drift")
    series = [[0.95, 0.951, 0.949], [0.93, 0.94, 0.95], [0.91, 0.97, 0.90], [0.95, 0.95, 0.951]]
    yield from told([summarise(one, 0.001) for one in series], "repeats")
    yield from told([summarise([0.95], 0.01), one_way(series), pooled(series), sorted(unsteady(series, 0.001))], "one way")
    predicted, other = [0.9, 0.8, None, -0.2, 0.1], [0.95, 0.7, 0.3, 0.2, 0.1]
    yield from told((score(predicted, [0.93, 0.72, 0.4, -0.15, 0.0]), or_refused(lambda: score([], []))), "score")
    made_of = np.tile(np.eye(5) - np.roll(np.eye(5), 1, axis=1), (4, 1))
    values = Values(np.array([0.93, 0.72, 0.4, -0.15, 0.0] * 4), made_of, 0.02**2 * np.eye(20), 4)
    one, best = (np.array([v or 0.35 for v in says] * 4) for says in (predicted, other))
    yield from told((contest(one, best, values), surely_misses_v(best, values)), "contest")


NUMBERS = {"potentials": potentials, "recipes": recipes, "circuits": circuits, "fits": fits}
