"""What the software has to say about a plan: does it fit, what can it tell apart, what is left out, and the way out."""

from __future__ import annotations

from collections.abc import Sequence

from galvanic.chemistry.fitting import refusal
from galvanic.notes import Action, Note, volts
from galvanic.planning.design import LOOSE, Plan, Task
from galvanic.planning.replan import fewest_missed
from galvanic.planning.schedule import Steps, overfull
from galvanic.planning.tell_apart import SCATTER_V, SURE, Neighbours, cheapest_help, tell_apart
from galvanic.reference.catalogue import electrodes, electrolytes
from galvanic.statistics.ladder import connected

PER_CENT = "\u202f%"


def _minutes(value: float) -> str:
    return f"{value:g}"


USUAL_PACKS = 15.0  # minutes: common practice, no source


def _bath(bath: tuple[str, str]) -> str:
    return f"{electrolytes()[bath[0]].name}{', ' + bath[1] if bath[1] else ''}"


def plan_notes(
    task: Task, plan: Plan, steps: Steps, minutes: float, names: Sequence[str], scatter_v: float = SCATTER_V
) -> list[Note]:
    """Notes on a plan, most useful first. `names` are the groups', `scatter_v` that between groups on one cell."""
    return [
        _fit(task, plan, steps, minutes, names),
        *_two_solutions(task),
        *_connection(task, plan),
        *_telling_apart(task, plan, scatter_v),
        *_free_places(task, plan),
        *_wishes(task, plan),
        *_scarce(task),
        _sharpness(task, plan),
    ]


def packs_note(steps: Steps) -> Note | None:
    """That a lab asks for packs and the plan leaves no minutes for them; None where it does."""
    if steps.packs > 0.0:
        return None
    text = (
        f"Groups build packs in this lab. Give them minutes among the steps: about {USUAL_PACKS:.0f} for three cells and a "
        "try, after the last cell. Or let them take turns at one table with wires, LEDs and the milliammeter."
    )
    return Note("no_minutes_for_packs", "caution", "No minutes for packs", text)


def _fit(task: Task, plan: Plan, steps: Steps, minutes: float, names: Sequence[str]) -> Note:
    most = max((len(hand) for hand in plan.hands), default=0)
    needed = steps.needed(most)
    each = (
        f"Start {_minutes(steps.start)}, each cell {_minutes(steps.cell)} (prepare {_minutes(steps.prepare)}, settle "
        f"{_minutes(steps.settle)}, three readings {_minutes(steps.read)}, rinse {_minutes(steps.rinse)}), "
        + (f"packs {_minutes(steps.packs)}, " if steps.packs else "")
        + f"clear up {_minutes(steps.clear)}."
    )
    if steps.late or steps.pause:
        each += f" Late start {_minutes(steps.late)}, break {_minutes(steps.pause)}."
    over = overfull(plan.hands, steps, minutes)
    if not over:
        return Note("fits", "good", f"Fits: {_minutes(needed)} of {_minutes(minutes)} minutes", each)
    title = f"Too long: {_minutes(needed)} of {_minutes(minutes)} minutes"
    who = ", ".join(names[g] for g in over[:3]) + (f" and {len(over) - 3} more" if len(over) > 3 else "")
    dropped = fewest_missed(task, plan, over)
    if dropped is None:
        return Note("too_long", "caution", title, f"{each} Over time: {who}. Shorten a step or take more minutes.")
    group, cell = dropped
    return Note(
        "too_long",
        "caution",
        title,
        f"{each} Over time: {who}. Missed least: {cell.notation} at {names[group]}.",
        Action("drop", f"Drop {cell.short}", cell, group=group),
    )


def _two_solutions(task: Task) -> list[Note]:
    """Which pairs cannot be built of two solutions, liquid by liquid, with the reason."""
    notes = []
    for liquid in task.electrolytes:
        row = electrolytes()[liquid]
        if row.bridge is None:
            continue
        there = {cell.pair: cell for cell in task.cells if cell.electrolyte == liquid}
        out = {cell.pair: refusal(cell) for cell in task.possible if cell.electrolyte == liquid and cell.pair not in there}
        why = " ".join(dict.fromkeys(out.values()))
        if not there:
            text = f"{why} Choose the plates of its own two metals; for one metal on both sides, its second plate."
            notes.append(Note("no_cell_in", "caution", f"No cell in {row.name}", text))
        elif out:
            can = ", ".join(cell.short for cell in there.values())
            notes.append(Note("left_out", "plain", f"In {row.name}: only {can}", why))
    return notes


def _connection(task: Task, plan: Plan) -> list[Note]:
    notes = []
    links = task.links - (1 if plan.shared else 0)
    for bath in task.baths:
        pairs = [cell.pair for hand in plan.hands for cell in hand if cell.bath == bath]
        parts = connected(task.plates_in[bath], pairs)
        if len(parts) > 1:
            away = ", ".join(electrodes()[name].name for part in parts[1:] for name in part)
            notes.append(
                Note(
                    "unconnected",
                    "caution",
                    "One ladder needs more cells",
                    f"In {_bath(bath)} no chain of cells reaches {away} ({len(parts)} separate parts). All ladders together "
                    f"need {links} places beside the shared cell; there are {task.free * task.groups}. Take fewer plates or "
                    "liquids, more groups or more time.",
                )
            )
    if len(notes) > 2:
        more = Note(
            "unconnected_more", "caution", f"{len(notes) - 2} more ladders need cells", "They are cut in parts as well."
        )
        return [*notes[:2], more]
    return notes


def _telling_apart(task: Task, plan: Plan, scatter_v: float) -> list[Note]:
    neighbours = tell_apart(task, plan, scatter_v)
    if all(one.u_v == float("inf") for one in neighbours):
        return []
    weak = [one for one in neighbours if one.probability < SURE and one.u_v < float("inf")]
    loose = sum(one.u_v == float("inf") for one in neighbours)
    start = f"With values that scatter {volts(scatter_v)} from group to group, "
    if not weak:
        told = f"{len(neighbours) - loose} of {len(neighbours)} neighbours" if loose else "all neighbours"
        text = f"{start}{told} on the expected ladders come out in the right order, each with 90{PER_CENT} or more."
        return [Note("tells_apart", "good" if not loose else "plain", "What this plan can tell apart", text)]
    text = f"{start}every neighbour on the expected ladders separates except {_listed(weak[:3])}."
    if len(weak) > 3:
        many = f"{len(weak)} of {len(neighbours)} neighbours may come out in the wrong order"
        text = f"{start}{many}; least sure: {_listed(weak[:3])}."
    help_ = cheapest_help(task, plan, weak[0], scatter_v)
    action = None
    if help_ is not None:
        text += f" {help_.times} more {help_.cell.short} would make that {_percent(help_.probability)}."
        action = Action("more", f"Add {help_.times} {help_.cell.short}", help_.cell, help_.times)
    return [Note("tells_apart", "plain", "What this plan can tell apart", text, action)]


def _percent(p: float) -> str:
    return f"{min(99, round(100.0 * p))}{PER_CENT}"


def _listed(weak: Sequence[Neighbours]) -> str:
    return ", ".join(
        f"{electrodes()[one.lower].symbol} and {electrodes()[one.upper].symbol} in {_bath(one.bath)} "
        f"({_percent(one.probability)})"
        for one in weak
    )


def _free_places(task: Task, plan: Plan) -> list[Note]:
    free = sum(max(0, task.places - len(hand)) for hand in plan.hands)
    placeable = any(plan.counts[cell] < task.groups for cell in task.cells if task.wished.get(cell) is None)
    if not free or not placeable:
        return []
    text = f"{free} more cells fit into the period."
    return [Note("free_places", "plain", f"{free} free place{'s' if free > 1 else ''}", text, Action("fill", "Fill them"))]


def _wishes(task: Task, plan: Plan) -> list[Note]:
    short = [(cell, n) for cell, n in task.wished.items() if n > plan.counts[cell]]
    if not short:
        return []
    text = "; ".join(f"{cell.notation}: wished {n}, planned {plan.counts[cell]}" for cell, n in short[:3])
    return [Note("wishes", "caution", "Not all wishes fit", f"{text}. Take more time or more groups, or wish for less.")]


def _scarce(task: Task) -> list[Note]:
    notes = []
    shared = task.shared
    for key, n in task.stock.items():
        if key not in task.electrodes or n >= task.groups:
            continue
        title = f"{electrodes()[key].name} for only {n} of {task.groups} groups"
        if shared is not None and key in shared.pair:
            text = (
                f"{shared.short} goes to all {task.groups} groups and needs one for each. Plan anew to share another cell."
            )
            notes.append(Note("scarce_shared", "caution", title, text, Action("anew", "Plan anew")))
            continue
        text = f"So at most {n} of {task.groups} groups measure with it; a plate stays with its group."
        notes.append(Note("scarce", "plain", title, text))
    if shared is None:
        notes.append(_no_shared(task))
    return notes


def _no_shared(task: Task) -> Note:
    title = f"No shared cell for {task.groups} groups"
    if (now := task.resettled().shared) is not None:
        text = f"There are plates for {now.short} for everybody now. Plan anew, and groups can be compared."
        return Note("no_shared", "caution", title, text, Action("anew", "Plan anew"))
    text = "No pair of plates is there for all groups, so groups and drift cannot be compared. More plates would help."
    return Note("no_shared", "caution", title, text)


def _sharpness(task: Task, plan: Plan) -> Note:
    possible = len(task.cells)
    measured = len({cell for hand in plan.hands for cell in hand})
    text = f"Each by {plan.repeats} groups or more." if plan.repeats > 1 else "Some by one group only, so chance shows less."
    if plan.variance < LOOSE:
        text += " The others follow from the ladder." if measured < possible else ""
        text += f" {round(100 * plan.nearness)}{PER_CENT} of the sharpness that this many places could ever give;"
    text += f" {plan.changes} changes of plate or cup in all."
    return Note("sharpness", "plain", f"{measured} of {possible} cells are measured", text)
