"""What the core says of seeded plans, classes, packs and runs, and what its commands print.

Each case gives lines of text. They are compared with those in `approved/`, so that whatever changes is seen, and read before
it is kept.
"""

from __future__ import annotations

import contextlib
import io
import sys
from collections.abc import Callable, Iterator
from dataclasses import replace
from unittest import mock

import numpy as np

from galvanic.bench.checks import check
from galvanic.bench.class_reference import GroupCell, Reference
from galvanic.bench.pack_faults import pack_findings
from galvanic.bench.readings import parse
from galvanic.cells import Cell
from galvanic.chemistry.circuit import Pack, in_a_row
from galvanic.chemistry.curves import PackCell
from galvanic.chemistry.demand import demand
from galvanic.chemistry.expected import expect, smallest
from galvanic.chemistry.gap import explain
from galvanic.chemistry.life import life
from galvanic.chemistry.transient import Event, simulate
from galvanic.chemistry.what_if import Change, what_if
from galvanic.command.main import main
from galvanic.condition import Condition
from galvanic.findings.bath_notes import bath_notes
from galvanic.findings.by_variable import current_by_variable, volts_by_variable
from galvanic.findings.claims import CAUSES, data_of, weigh, weigh_ladder
from galvanic.findings.class_accounts import score_accounts
from galvanic.findings.class_notes import class_notes
from galvanic.findings.class_says import class_says
from galvanic.findings.class_standing import standing_readings
from galvanic.findings.compare import ClassReading, compare
from galvanic.findings.liquid_notes import in_liquids
from galvanic.findings.pack_claims import pack_data, weigh_all
from galvanic.findings.power_notes import cell_notes, life_note, smallest_note, verdict_note
from galvanic.findings.ranked import notes
from galvanic.findings.runs import Done, RunPoint, tell
from galvanic.planning.design import Task, design
from galvanic.planning.kit import kit
from galvanic.planning.level_notes import level_notes
from galvanic.planning.plan_notes import plan_notes
from galvanic.planning.safety import AGE_BANDS, bench_cautions, set_up_notes, sheet
from galvanic.planning.schedule import Steps, overfull, timeline
from galvanic.simulated.one_changed import a_class
from galvanic.simulated.packs import PACK_FAULTS, build
from galvanic.simulated.rehearsal import Entry, simulated_class
from galvanic.simulated.slips import SLIPS, with_slips
from galvanic.statistics.drift import Shared
from galvanic.tests.cases_numbers import NUMBERS
from galvanic.tests.cases_words import WORDS_OF_CORE
from galvanic.tests.telling import told

NAMES = ("Tern", "Knot", "Ruff", "Plover", "Curlew", "Dunlin", "Gannet", "Fulmar")
LEMON = Cell("zinc", "lemon-juice", "copper")
TASKS = (
    Task(("zinc", "copper", "tin", "steel", "magnesium"), ("rhubarb-juice", "kelp-brine"), 8, 6),
    Task(("zinc", "copper", "tin", "nickel", "aluminium", "graphite", "magnesium"), ("lemon-juice",), 5, 4),
    Task(("zinc", "copper"), ("lemon-juice",), 4, 5, conditions=("spacing 1 cm", "spacing 2 cm", "spacing 8 cm")),
    Task(("zinc", "copper", "tin"), ("salt-water", "vinegar"), 3, 3, stock={"zinc": 2, "tin": 1}),
)


def plans() -> Iterator[str]:
    """Four labs: who measures what, notes, minutes, kit."""
    for n, task in enumerate(TASKS):
        plan, steps = design(task), Steps()
        yield f"lab {n}: " + "; ".join(", ".join(cell.notation for cell in hand) for hand in plan.hands)
        for minutes in (30.0, 60.0):
            for note in plan_notes(task, plan, steps, minutes, NAMES[: task.groups]):
                yield from told(note, f"{minutes:g} min")
            yield f"over {overfull(plan.hands, steps, minutes)}"
        yield from told(level_notes(task.conditions, task.groups), "levels")
        yield from told(timeline(len(plan.hands[0]), Steps(late=3.0, packs=8.0)), "minutes")
        yield from told(kit(plan.hands, {"zinc": 3}, {"copper": 0.5, "lemon-juice": 4.0}), "kit")


def safety() -> Iterator[str]:
    """Sheets and cautions of three sets of materials for each age."""
    for plates, liquids in (
        (("zinc", "copper", "magnesium"), ("lemon-juice", "salt-water")),
        (("lead", "aluminium", "copper", "nickel-plated"), ("hcl-0.1", "cuso4-1.0", "washing-soda")),
        (("zinc", "graphite"), ("vinegar", "daniell-pot")),
    ):
        for age in AGE_BANDS:
            found = sheet(plates, liquids, age)
            yield f"{age}: {found.used_liquid}"
            for entry in found.entries:
                yield f"{age} {entry.hazard.key} refused={entry.refused}: {', '.join(entry.because)}"
            yield from told(set_up_notes(plates, liquids, age), age)
        yield from told(bench_cautions(plates, liquids))


def readings(seed: int, task: Task) -> list[ClassReading]:
    """A simulated class's readings of a plan."""
    return [as_read(entry) for entry in simulated_class(design(task).hands, seed)]


def as_read(entry: Entry) -> ClassReading:
    """A simulated entry as a table has it."""
    typed, cell = parse(entry.typed.text, entry.typed.unit), entry.cell
    values = (cell.positive, cell.negative, cell.electrolyte, typed.volts_v, typed.resolution_v, cell.condition)
    return ClassReading(NAMES[entry.group], *values)


def classes() -> Iterator[str]:
    """Simulated classes: ladders, notes, accounts, liquids, claims."""
    for n, task in enumerate(TASKS):
        for seed in (1, 2):
            results = compare(readings(seed, task))
            at = f"class {n}.{seed}"
            for result in results:
                yield from told([(rung.electrode, rung.class_v, rung.u_v) for rung in result.rungs], f"{at} rungs")
                yield from told([(note.code, note.title, note.text) for note in notes(bath_notes(result))], at)
            yield from told([(note.code, note.title, note.text) for note in notes(class_notes(results))], at)
            yield from told(score_accounts(results).rows, f"{at} accounts")
            yield from told(in_liquids(results), f"{at} liquids")
            yield from told([(c.variable.key, c.notes) for c in volts_by_variable(results)], f"{at} changed")
            first = next(cell for cell in results[0].cells if any(group.group == NAMES[0] for group in cell.groups))
            for cause in CAUSES:
                yield from told(weigh(cause, data_of(NAMES[0], first.cell, results)), f"{at} {cause}")
                if seed == 1:
                    yield from told(weigh_ladder(cause, NAMES[0], results), f"{at} ladder {cause}")


def turned() -> Iterator[str]:
    """Classes in which one group, or every group, has its leads the other way round; a meter that is off; a drift."""
    for groups in (NAMES[:1], NAMES):
        wrong = [
            replace(reading, volts_v=-reading.volts_v) if reading.group in groups else reading
            for reading in readings(4, TASKS[0])
        ]
        off = [replace(r, volts_v=r.volts_v + 0.15) if r.group == NAMES[1] else r for r in wrong]
        for at, values in (("turned", wrong), ("turned and off", off)):
            yield from told(
                [(note.title, note.text, note.evidence) for note in notes(class_notes(compare(values)))],
                f"{at} {len(groups)}",
            )
    shared = [Shared(name, minute, 0.95 - 0.002 * minute) for name in NAMES for minute in (8.0, 9.0, 48.0, 49.0)]
    yield from told([(note.title, note.text, note.evidence) for note in notes(class_notes((), shared))], "drift")


def mistakes() -> Iterator[str]:
    """Classes with each mistake of benches: all that is said of them, in order, with what it rests on."""
    hands = design(TASKS[0]).hands
    for slip in SLIPS:
        every = [as_read(entry) for entry in with_slips(hands, 7, [slip])]
        counting, left_out = standing_readings(every)
        said = class_says(every, counting, left_out, compare(counting)).in_order
        yield from told([(note.code, note.title, note.text, note.evidence) for note in said[:3]], slip)
        yield from told([note.code for note in said[3:]], slip)


def changed() -> Iterator[str]:
    """One thing changed: volts and currents of simulated classes with an effect and without, numbers and words."""
    rng = np.random.default_rng(8)
    for variable, levels, slope in (
        ("spacing", (1.0, 2.0, 4.0, 8.0), -0.02), ("spacing", (1.0, 2.0, 4.0, 8.0), 0.0), ("temperature", (5.0, 20.0, 40.0), 0.004),
        ("pairs", (1.0, 2.0, 3.0), 0.3), ("depth", (1.0, 4.0), 0.0),
    ):  # fmt: skip
        groups, at, values = a_class(rng, slope=slope, levels=levels, each=min(3, len(levels)))
        for size, quantity in ((1.0, "V"), (1e-3, "A")):
            cells = [replace(LEMON, condition=str(Condition(variable, level))) for level in at]
            rows = [(name, cell, size * value) for name, cell, value in zip(groups, cells, values, strict=True)]
            found = (
                current_by_variable(rows)
                if quantity == "A"
                else volts_by_variable(
                    compare(
                        ClassReading(name, cell.positive, cell.negative, cell.electrolyte, volts, 0.001, cell.condition)
                        for name, cell, volts in rows
                    )
                )
            )
            yield from told([(c.variable.key, c.form, c.fit, c.notes) for c in found], f"{variable} {slope} {quantity}")


def checks() -> Iterator[str]:
    """What is said of every entry of a class that is remarkable."""
    entries = list(simulated_class(design(TASKS[0]).hands, 3))
    plates = sorted({plate for entry in entries for plate in entry.cell.pair})
    liquids = sorted({entry.cell.electrolyte for entry in entries})
    before: dict[tuple[int, int], list[float]] = {}
    for entry in entries:
        others = [GroupCell(str(g), entries[0].cell, v[0]) for (g, p), v in before.items() if p == 0 and g != entry.group]
        expected = Reference(plates, liquids, others, str(entry.group)).of(entry.cell)
        typed = parse(entry.typed.text, entry.typed.unit)
        earlier = before.setdefault((entry.group, entry.place), [])
        for finding in check(entry.cell, typed.volts_v, typed.resolution_v, earlier, expected):
            yield from told(finding, f"{entry.kind or 'sound'} {entry.typed.text} {entry.cell.short}")
        earlier.append(typed.volts_v)


def packs() -> Iterator[str]:
    """Packs with and without faults: what is said of each, what is expected, how long it lasts, claims."""
    rng = np.random.default_rng(5)
    for load in ("led-red", 470.0):
        for fault in ("", *PACK_FAULTS):
            record = build(PackCell(LEMON), 3, load, fault, rng).record
            yield from told(pack_findings(record), f"{load} {fault or 'sound'}")
            yield from told(
                [(c.key, verdict) for c, verdict in weigh_all(pack_data(record, None, ()))], f"{load} {fault} claim"
            )
    for cells, load in ((1, "led-red"), (3, "led-red"), (2, 100.0), (4, "clock")):
        pack = in_a_row([PackCell(LEMON)] * cells)
        expected = expect(pack, load)
        at = f"{cells} into {load}"
        yield from told(verdict_note(pack, str(load), expected), at)
        yield from told(cell_notes(pack, expected), at)
        fewest = smallest(PackCell(LEMON), load)
        yield from told(smallest_note(str(load), fewest, 12), at)
        lasting = life([PackCell(LEMON)] * cells, load, 40.0, 10.0)
        yield from told(lasting, f"{at} life")
        yield from told(life_note(lasting), at)
    yield from told(
        expect(Pack(((PackCell(LEMON),) * 2, (PackCell(LEMON),) * 2)), 220.0).meeting.current_a, "rows side by side"
    )


def runs() -> Iterator[str]:
    """Runs in time, as simulated and as told."""
    for liquid in ("lemon-juice", "salt-water"):
        cell = PackCell(Cell("zinc", liquid, "copper"))
        events = [Event(120.0, "load", demand(470.0)), Event(600.0, "open"), Event(800.0, "short"), Event(830.0, "open")]
        trace = simulate([cell], events, 1200.0)
        volts = tuple(
            RunPoint(float(t), round(float(v), 3)) for t, v in zip(trace.t_s[::10], trace.volts_v[::10], strict=True)
        )
        done = (Done(120.0, "joined"), Done(600.0, "taken off"), Done(800.0, "shorted"), Done(830.0, "taken off"))
        run = tell((cell,), 470.0, volts, (), done)
        yield from told(volts, liquid)
        yield from told((run.notes, run.charge_c, run.metal_g), liquid)


def explained() -> Iterator[str]:
    """Where the volts went and what if, for unlike cells."""
    changes = (
        Change(ph=2.0), Change(celsius=40.0), Change(oxygen=0.1), Change(stir=10.0), Change(gap_m=0.08, pairs=3), Change(dull=True),
        Change(scratched=True), Change(chloride_mol_per_l=0.5), Change(meter_ohm=1e4),
    )  # fmt: skip
    for negative, liquid, positive, volts in (
        ("zinc", "lemon-juice", "copper", 0.95), ("aluminium", "rhubarb-juice", "copper", 0.5),
        ("magnesium", "salt-water", "graphite", 1.6), ("tin", "vinegar", "nickel", 0.1), ("zinc", "daniell-pot", "copper", 1.08),
    ):  # fmt: skip
        cell = Cell(negative, liquid, positive)
        at = cell.notation
        gap = explain(cell, volts)
        yield from told((gap.start, gap.start_v, gap.causes), at)
        if liquid != "daniell-pot":
            for change in changes:
                yield from told(what_if(cell, change), f"{at} {change}")


def printed(words: list[str], given: str = "") -> str:
    """What a command prints, on both ways; `given`: what comes in by standard input."""
    out, typed = io.StringIO(), io.TextIOWrapper(io.BytesIO(given.encode()))
    with mock.patch.object(sys, "stdin", typed), contextlib.redirect_stdout(out), contextlib.redirect_stderr(out):
        try:
            code = main(words)
        except SystemExit as end:
            code = end.code
    return f"{out.getvalue()}→ {code}"


WORDS = (
    ["gap", "aluminium", "rhubarb juice", "copper", "0.60"],
    ["gap", "zinc | zinc sulfate 1.0 mol/L || copper sulfate 1.0 mol/L | copper", "1.08"],
    ["load", "zinc | lemon juice | copper", "1000", "--area-cm2", "4", "--gap-cm", "2", "--pairs", "2"],
    ["pack", "4 * zinc | lemon juice | copper", "--load", "led-red"],
    ["pack", "2 * zinc | lemon juice | copper", "--load", "470", "--after", "600"],
    ["smallest", "zinc | lemon juice | copper", "--load", "led-red"],
    ["run", "zinc | lemon juice | copper", "--events", "0 open; 120 load 470; 720 open", "--until", "1200", "--every", "60"],
    ["life", "3 * zinc | lemon juice | copper", "--load", "led-red", "--volume-ml", "40", "--zinc-um", "10"],
    ["vary", "zinc | lemon juice | copper", "spacing", "1", "2", "4", "8"],
    ["vary", "zinc | lemon juice | copper", "temperature", "5", "25", "45"],
    ["mix", "lemon juice", "--add", "baking soda 2 g", "--volume-ml", "100", "--plates", "zinc | copper"],
    ["predict", "zinc | zinc sulfate 0.1 mol/L || copper sulfate 1.0 mol/L | copper"],
    ["materials", "zinc"],
    ["materials", "lemon juice"],
    ["materials", "unobtainium"],
    ["gap", "zinc", "lemon juice", "copper", "many"],
)


RUN = "t_s,volts_v,current_ma,colour\n" + "".join(
    f"{t},{0.6 + 0.3 * 0.98**t:.3f},{0.5 + 2.0 * 0.99**t:.3f},red\n" for t in range(0, 200, 4)
)
LADDER = "group,red,black,electrolyte,volts\n" + "".join(
    f"{group},{red},{black},lemon juice,{volts + 0.01 * place:.3f}\n"
    for place, group in enumerate(NAMES[:4])
    for red, black, volts in (("copper", "zinc", 0.94), ("tin", "zinc", 0.5), ("copper", "tin", 0.44 if place else 0.6))
)
GIVEN = (
    (["fit", "-"], RUN),
    (["fit", "-", "--json"], RUN),
    (["fit", "-"], "t_s,volts_v\n0,much\n"),
    (["ladder", "-"], LADDER),
    (["ladder", "-", "--json"], LADDER),
    (["run", "zinc | lemon juice | copper", "--events", "0 dance"], ""),
    (["run", "zinc | lemon juice | copper", "--events", "0 load"], ""),
)


def commands() -> Iterator[str]:
    """What the commands print."""
    for words in WORDS:
        yield "$ " + " ".join(words)
        yield from printed(list(words)).splitlines()
    for words, given in GIVEN:
        yield "$ " + " ".join(words)
        yield from printed(list(words), given).splitlines()


CASES: dict[str, Callable[[], Iterator[str]]] = {
    "plans": plans,
    "safety": safety,
    "classes": classes,
    "turned": turned,
    "mistakes": mistakes,
    "changed": changed,
    "checks": checks,
    "packs": packs,
    "runs": runs,
    "explained": explained,
    "commands": commands,
    **NUMBERS,
    **WORDS_OF_CORE,
}
