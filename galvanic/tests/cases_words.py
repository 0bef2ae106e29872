"""Cases for what the core says and plans: materials, plans under pressure, changes of a plan, benches, years, drills."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from galvanic.bench.attention import GroupState, Left, Work, of_most, relief, sound_values, state_of, visits
from galvanic.bench.checks import check
from galvanic.bench.class_reference import Earlier, GroupCell, Reference
from galvanic.bench.foretold import Foretold, in_words, order_told
from galvanic.bench.loading import by_load, by_short, remark
from galvanic.bench.loading import in_words as inner_in_words
from galvanic.bench.meter import judge
from galvanic.bench.readings import parse, parse_current
from galvanic.bench.settling import settling
from galvanic.cells import Cell
from galvanic.chemistry.circuit import Pack
from galvanic.chemistry.curves import PackCell
from galvanic.chemistry.expected import expect, options
from galvanic.condition import Condition, as_found, canonical
from galvanic.condition import condition_of as understood
from galvanic.findings.by_variable import current_by_variable, volts_by_variable
from galvanic.findings.claims import data_of
from galvanic.findings.compare import ClassReading, compare
from galvanic.findings.misconceptions import heard_in, misconceptions
from galvanic.findings.power_notes import cell_notes, chance, days, holds_note, promise, verdict_note
from galvanic.findings.working import class_working, own_working
from galvanic.findings.years import years
from galvanic.notes import amps
from galvanic.planning.about import about
from galvanic.planning.design import Task, design
from galvanic.planning.kit import kit
from galvanic.planning.level_notes import level_notes
from galvanic.planning.next_level import next_level
from galvanic.planning.plan_changes import Laid, what_moved
from galvanic.planning.plan_notes import plan_notes
from galvanic.planning.recipes import batch, diluted, recipes
from galvanic.planning.replan import ban, fewer, fewest_missed, fill_free, more, move
from galvanic.planning.schedule import Steps
from galvanic.planning.shortages import shortages
from galvanic.planning.tell_apart import tell_apart
from galvanic.preparing import usual_steps
from galvanic.reference.additions import additions
from galvanic.reference.catalogue import electrodes, electrolytes
from galvanic.reference.variables import variables
from galvanic.simulated.drill import GROUPS, case
from galvanic.simulated.drill_readings import displays
from galvanic.simulated.drill_sums import sums
from galvanic.simulated.rehearsal import simulated_class
from galvanic.simulated.stream import CellStream
from galvanic.statistics.decay import fit_decay
from galvanic.tests.telling import or_refused, told

NAMES = ("Tern", "Knot", "Ruff", "Plover", "Curlew", "Dunlin", "Gannet", "Fulmar")
LEMON = Cell("zinc", "lemon-juice", "copper")
TINS = Cell("tin", "lemon-juice", "copper")


def materials() -> Iterator[str]:
    """What is known of plates, liquids and additions; what a liquid is made of; how each is prepared."""
    for key in (*list(electrodes())[::3], *list(electrolytes())[::2], *list(additions())[::3], "nothing"):
        found = about(key)
        if found is None:
            yield f"{key} none"
            continue
        yield f"{key}: {found.name}, {found.what}. {' '.join(found.use)} {' '.join(found.prepare)} {' '.join(found.cautions)}"
        yield f"{key} hazards: {', '.join(hazard.key for hazard in found.hazards)}"
        for fact in found.facts:
            yield f"{key}: {fact.what} {fact.value}; {fact.source} {fact.locator} {fact.checked}"
    for key in (key for key, recipe in recipes().items() if recipe.kind not in ("whole", "card", "two")):
        yield f"{key}: {or_refused(lambda k=key: list(told(batch(k, 0.75))))}"
    yield from told(
        [diluted("lemon-juice", "1 in 4", 0.25, 0.5), or_refused(lambda: diluted("lemon-juice", "0", 0.0, 0.5))], "diluted"
    )
    for plate in ("zinc", "magnesium", "aluminium", "graphite", "silver"):
        yield f"{plate}: {' '.join(usual_steps(Cell.of(plate, 'lemon-juice', 'copper')))}"


PLATES = ("zinc", "copper", "tin", "steel", "magnesium", "nickel", "aluminium")
PRESSED = (
    (Task(PLATES, ("rhubarb-juice", "kelp-brine", "vinegar"), 3, 3), Steps(), 40.0),
    (Task(PLATES[:4], ("lemon-juice",), 6, 3, stock={"zinc": 2, "tin": 3}), Steps(), 60.0),
    (Task(PLATES[:4], ("lemon-juice",), 6, 3, stock=dict.fromkeys(PLATES[:4], 2)), Steps(late=5.0, pause=10.0), 25.0),
    (Task(PLATES[:3], ("lemon-juice", "daniell-pot"), 4, 4), Steps(packs=10.0), 90.0),
    (Task(PLATES[:3], ("lemon-juice",), 8, 5), Steps(), 30.0),
    (Task(PLATES[:5], ("lemon-juice",), 4, 6, wished={Cell("zinc", "lemon-juice", "copper"): 9}), Steps(), 75.0),
)


def pressed() -> Iterator[str]:
    """Plans with too little time, too few plates, wishes, two solutions; changes made to them, and what moved."""
    for n, (task, steps, minutes) in enumerate(PRESSED):
        plan, names = design(task), NAMES[: task.groups]
        for scatter in (0.02, 0.12):
            for note in plan_notes(task, plan, steps, minutes, names, scatter):
                yield from told(note, f"plan {n} {minutes:g} min {scatter:g}")
        yield f"plan {n}: {[(one.lower, one.upper, round(one.probability, 2)) for one in tell_apart(task, plan)]}"
        yield from told(fewest_missed(task, plan, range(task.groups)), f"plan {n} missed")
        cell = next(iter(plan.counts))
        changes = {
            "more": lambda t=task, p=plan, c=cell, w=names: more(t, p, c, w),
            "fewer": lambda t=task, p=plan, c=cell, w=names: fewer(t, p, c, w),
            "ban": lambda t=task, p=plan, c=cell: ban(t, p, c),
            "move": lambda t=task, p=plan, w=names: move(t, p, p.hands[0][-1], 0, 1, w),
            "fill": lambda t=task, p=plan, w=names: fill_free(t, p, w),
        }
        for what, make in changes.items():
            found = or_refused(make)
            if isinstance(found, str):
                yield f"plan {n} {what} {found}"
                continue
            yield f"plan {n} {what}: {' '.join(found.said)} | {'; '.join(', '.join(c.notation for c in hand) for hand in found.plan.hands)}"
            moved = what_moved(Laid(task, plan, names), Laid(found.task, found.plan, names))
            yield f"plan {n} {what} moved: {' '.join(moved)}"
        kits = [(f"lab {k}", kit(plan.hands, {}, {})) for k in range(2)]
        yield from told(shortages(kits, {"zinc": 3.0, "copper": 20.0, "lemon-juice": 0.1}), f"plan {n} short")
    for conditions in (
        ("spacing 1 cm", "spacing 8 cm"),
        ("dilution 1", "dilution 0.1", "dilution 0.01"),
        ("as it was", "rubbed"),
    ):
        yield from told(level_notes(conditions, 4), str(conditions))
    for key in ("spacing", "temperature", "pairs"):
        yield f"{key} {next_level(variables()[key], lambda v: v, [1.0, 4.0])} {next_level(variables()[key], lambda v: v, [2.0])}"


def benches() -> Iterator[str]:
    """Entries judged with earlier classes in mind, meters, settling, loads, who needs the teacher."""
    earlier = {LEMON.bath: Earlier(3, ("zinc", "copper", "tin"), (0.95, 0.52), ((4e-4, 2e-4), (2e-4, 5e-4)))}
    for others in ([], [GroupCell("Knot", LEMON, 0.93), GroupCell("Ruff", LEMON, 0.97)], [GroupCell("Knot", LEMON, -0.93)]):
        for known in (None, earlier):
            reference = Reference(["zinc", "copper", "tin", "nickel"], ["lemon-juice"], others, "Tern", known)
            for cell in (LEMON, TINS):
                expected = reference.of(cell)
                yield from told(expected, f"{cell.short} {len(others)} {known is not None}")
                for volts in (0.94, 0.45, -0.94, 0.01, 9.4, 0.094, 940.0, 1.9, 0.7):
                    for before in ([], [volts + 0.2, volts - 0.02]):
                        codes = [(f.code, f.sure, f.text) for f in check(cell, volts, 0.001, before, expected)]
                        yield f"{cell.short} {volts} {before != []} {codes}"
    for leads, dry in (
        ("0.000", "1.56"),
        ("0.02", "1.58"),
        ("0.00", "1.30"),
        ("0.3", "1.9"),
        ("-0.01", "1.5"),
        ("0.5", "0.5"),
        ("0", "-1.56"),
    ):
        yield from told(judge(parse(leads), parse(dry)), f"meter {leads} {dry}")
    for text, unit in (("0,94", "V"), ("940", "mV"), ("-.5", "V"), ("1.2 mV", "V"), ("much", "V"), ("1e3", "mV"), ("", "V")):
        yield from told(or_refused(lambda t=text, u=unit: parse(t, u)), f"{text} {unit}")
    for text, unit in (("2.2", "mA"), ("300", "µA"), ("0.5", "A"), ("-1", "mA"), ("x", "mA")):
        yield from told(or_refused(lambda t=text, u=unit: parse_current(t, u)), f"{text} {unit}")
    for settle_s in (2.0, 20.0):
        stream = CellStream(0.95, settle_s=settle_s)
        rng = np.random.default_rng(2)
        times = [0.5 * k for k in range(60)]
        volts = [float(stream.at(t, rng)) for t in times]
        yield from told([settling(times[:k], volts[:k]) for k in (8, 20, 40, 60)], f"settling {settle_s:g}")
    for inner in (by_short(0.95, 0.005, 0.002, 1e-5), by_load(0.95, 0.005, 0.4, 0.002, 1000.0)):
        yield from told((inner, inner_in_words(inner)), "inside")
    for kind, value, volts in (
        ("short", 0.002, 0.95),
        ("short", 2.0, 0.95),
        ("load", 1.2, 0.95),
        ("load", 0.3, 0.95),
        ("load", -0.3, None),
    ):
        yield f"{kind} {value} {remark(kind, value, volts)}"
    yield in_words([Foretold(True, 1.1, 0.95), Foretold(False, -0.5, 0.45), Foretold(True, 0.4, 0.41)])
    yield in_words([Foretold(True, None, 0.95), Foretold(False, None, 0.45)])
    yield from (order_told(right, "zinc", "copper") for right in (True, False))
    finding = check(LEMON, -0.94, 0.001, [], Reference(["zinc", "copper"], ["lemon-juice"], [], "Tern").of(LEMON))
    sound = ("good", "Sound.")
    states = [
        GroupState("Tern", 2.0, 3, 4, 3.0, 3, 6.0, [("Zn | Cu", one) for one in finding], None, sound),
        GroupState("Knot", 14.0, 1, 6, 4.0, 3, 6.0, [], 0.2, sound), GroupState("Ruff", 3.0, 2, 5, 2.0, 3, 6.0, [], 0.01, None),
        GroupState("Plover", 30.0, 5, 0, 5.0, 3, 6.0, [], None, ("caution", "The last digit is 0.1 V.")),
        GroupState("Curlew", 9.0, 1, 6, 2.6, 3, 6.0, [], -0.2, ("wrong", "0.3 V with the leads together.")),
    ]  # fmt: skip
    yield from told(visits(states), "visits")
    yield from told(of_most(visits(states), 3), "of most")
    values = [GroupCell("Tern", LEMON, -0.9), GroupCell("Knot", LEMON, 0.93), GroupCell("Ruff", LEMON, 0.95)]
    yield from told([v.group for v in sound_values(values, {("Tern", LEMON)})], "sound")
    yield from told([v.group for v in sound_values(values, {(v.group, LEMON) for v in values[:2]})], "sound")
    work = [Work(LEMON, 3, 0.7, True), Work(TINS, 2, 0.5, False), Work(LEMON, 3, None, False)]
    yield from told(
        state_of(
            "Tern",
            work,
            wanted=3,
            due=2,
            cell_min=6.0,
            silent_min=4.0,
            meter=sound,
            findings=[],
            values=values,
            expected_v=lambda _: 0.95,
        ),
        "state",
    )
    lists = {"Tern": [Left(LEMON, True), Left(TINS, False)], "Knot": [], "Ruff": [Left(TINS, False)]}
    yield f"relief {relief('Tern', lists, ['Tern'])} {relief('Ruff', lists, [])} {relief('Tern', {'Tern': lists['Tern']}, [])}"


def _class(seed: int, shift_v: float = 0.0) -> list[ClassReading]:
    task = Task(("zinc", "copper", "tin", "steel"), ("lemon-juice", "salt-water"), 6, 6)
    out = []
    for entry in simulated_class(design(task).hands, seed):
        typed, cell = parse(entry.typed.text, entry.typed.unit), entry.cell
        volts = typed.volts_v + shift_v * ((cell.positive == "tin") - (cell.negative == "tin"))
        out.append(
            ClassReading(NAMES[entry.group], cell.positive, cell.negative, cell.electrolyte, volts, 0.001, cell.condition)
        )
    return out


def results() -> Iterator[str]:
    """Years over each other, workings, misconceptions, power in words, one thing changed by additions and own words."""
    laid = [(f"class {k}", compare(_class(20 + k, 0.15 * (k == 2)))[0]) for k in range(4)]
    for many in (2, 4):
        found = years(laid[:many])
        yield from told(replace(found, between=None), f"{many} years")  # type: ignore[type-var]
    for cell in laid[0][1].cells[:4]:
        yield from told(class_working(laid[0][1], cell), f"working {cell.cell.short}")
    for shown in ([0.951, 0.949, 0.955], [0.95], [-0.02, 0.01]):
        yield from told(own_working(shown, [0.002] * len(shown), [0.001] * len(shown)), "own working")
    data = data_of(NAMES[0], LEMON, compare(_class(21)))
    for row in misconceptions().values():
        yield from told(heard_in(f"{row.name}.", data), row.key)
    for share in (0.01, 0.1, 0.4, 0.6, 0.94, 0.96, 0.99):
        yield f"{share} {chance(share)}"
    for seconds in (5.0, 70.0, 4000.0, 9e3, 1e5, 3e6, 2e7):
        yield f"{seconds:g} {days(seconds)}"
    for current in (0.0, 2e-9, 3.2e-6, 0.00042, 0.0123, 0.2, 2.5):
        yield f"{current} {amps(current)}"
    zinc, tin = PackCell(LEMON), PackCell(TINS)
    for name, pack in (
        ("turned", Pack(((zinc, zinc, tin, tin),))),
        ("rows", Pack(((zinc, zinc), (tin, tin)))),
        ("one", Pack(((zinc,),))),
    ):
        for load in ("led-red", "clock", 100.0):
            expected = or_refused(lambda p=pack, q=load: expect(p, q))
            if isinstance(expected, str):
                yield f"{name} {load} {expected}"
                continue
            yield from told(
                (promise(expected), verdict_note(pack, str(load), expected), cell_notes(pack, expected)), f"{name} {load}"
            )
            for holds in ("volts", "current", "nothing", "cell 2"):
                yield from told(holds_note(pack, str(load), holds, options(pack, load)), f"{name} {load} {holds}")
    for words in (("as it was", "rubbed bright"), ("thin", "thick", "thicker")):
        readings = [
            ClassReading(NAMES[g], "copper", "zinc", "lemon-juice", 0.9 + 0.03 * k + 0.004 * g, 0.001, word)
            for g in range(4) for k, word in enumerate(words)
        ]  # fmt: skip
        changed = volts_by_variable(compare(readings))
        yield from told([(one.variable.key, one.form, one.fit, one.notes, one.model) for one in changed], str(words))
    rows = [
        (NAMES[g], replace(LEMON, condition=f"spacing {d} cm"), 0.004 / d + 1e-4 * g) for g in range(3) for d in (1, 2, 4)
    ]
    yield from told([(one.form, one.fit, one.notes, one.line[::6]) for one in current_by_variable(rows)], "current")
    for text in (
        "4 cm apart",
        "spacing 4cm",
        "as it was",
        "1 part in 10",
        "20 °C",
        "2 g salt",
        "thin",
        "",
        "400 cm apart",
        "stirred",
    ):
        yield f"{text}: {canonical(text)} | {understood(text)} | {or_refused(lambda t=text: as_found('spacing 2 cm', t))}"
    yield from told(Condition("spacing", 3.0).row, "spacing")


def drills() -> Iterator[str]:
    """All that the drills ask and answer."""
    for symptom in GROUPS:
        found = case(symptom)
        yield f"{symptom}: {found.cell.notation} {found.right_v:.3f}"
        for key, answers in found.answers.items():
            yield f"{symptom} {key}: {'; '.join(f'{hand} {one.code} {one.says}' for hand, one in answers.items())}"
    for one in sums():
        yield f"{one.first} {one.second} {one.negative} {one.right_v}: {[(slip.volts_v, slip.did, slip.look) for slip in one.slips]}"
    for display in displays():
        yield f"{display.digits} {display.range_v:g} {display.unit} {display.battery} {display.volts_v:g} {[(m.volts_v, m.did) for m in display.misread]}"
    rng = np.random.default_rng(4)
    times = [float(k) for k in range(40)]
    yield from told(fit_decay(times, [0.9 - 0.2 * (1 - np.exp(-t / 9.0)) + rng.normal(0, 0.001) for t in times]), "climb")


WORDS_OF_CORE = {"materials": materials, "pressed": pressed, "benches": benches, "results": results, "drills": drills}
