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
from galvanic.words import say, say_n

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
    text = say(
        "Groups build packs in this lab. Give them minutes among the steps: about {usual_packs:.0f} "
        "for three cells and a try, after the last cell. Or let them take turns at one table with "
        "wires, LEDs and the milliammeter.",
        usual_packs=USUAL_PACKS,
    )
    return Note("no_minutes_for_packs", "caution", say("No minutes for packs"), text)


def _fit(task: Task, plan: Plan, steps: Steps, minutes: float, names: Sequence[str]) -> Note:
    most = max((len(hand) for hand in plan.hands), default=0)
    needed = steps.needed(most)
    each = (
        say(
            "Start {minutes}, each cell {minutes2} (prepare {minutes3}, settle {minutes4}, three "
            "readings {minutes5}, rinse {minutes6}), ",
            minutes=_minutes(steps.start),
            minutes2=_minutes(steps.cell),
            minutes3=_minutes(steps.prepare),
            minutes4=_minutes(steps.settle),
            minutes5=_minutes(steps.read),
            minutes6=_minutes(steps.rinse),
        )
        + (say("packs {minutes}, ", minutes=_minutes(steps.packs)) if steps.packs else "")
        + say("clear up {minutes}.", minutes=_minutes(steps.clear))
    )
    if steps.late or steps.pause:
        each += say(" Late start {minutes}, break {minutes2}.", minutes=_minutes(steps.late), minutes2=_minutes(steps.pause))
    over = overfull(plan.hands, steps, minutes)
    if not over:
        return Note(
            "fits",
            "good",
            say("Fits: {minutes} of {minutes2} minutes", minutes=_minutes(needed), minutes2=_minutes(minutes)),
            each,
        )
    title = say("Too long: {minutes} of {minutes2} minutes", minutes=_minutes(needed), minutes2=_minutes(minutes))
    who = ", ".join(names[g] for g in over[:3]) + (say(" and {n_over} more", n_over=len(over) - 3) if len(over) > 3 else "")
    dropped = fewest_missed(task, plan, over)
    if dropped is None:
        return Note(
            "too_long",
            "caution",
            title,
            say("{each} Over time: {who}. Shorten a step or take more minutes.", each=each, who=who),
        )
    group, cell = dropped
    return Note(
        "too_long",
        "caution",
        title,
        say(
            "{each} Over time: {who}. Missed least: {notation} at {names}.",
            each=each,
            who=who,
            notation=cell.notation,
            names=names[group],
        ),
        Action("drop", say("Drop {short}", short=cell.short), cell, group=group),
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
            text = say(
                "{why} Choose the plates of its own two metals; for one metal on both sides, its second plate.", why=why
            )
            notes.append(Note("no_cell_in", "caution", say("No cell in {name}", name=row.name), text))
        elif out:
            can = ", ".join(cell.short for cell in there.values())
            notes.append(Note("left_out", "plain", say("In {name}: only {can}", name=row.name, can=can), why))
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
                    say("One ladder needs more cells"),
                    say(
                        "In {bath} no chain of cells reaches {away} ({n_parts} separate parts). All ladders together "
                        "need {links} places beside the shared cell; there are {groups}. Take fewer plates or "
                        "liquids, more groups or more time.",
                        bath=_bath(bath),
                        away=away,
                        n_parts=len(parts),
                        links=links,
                        groups=task.free * task.groups,
                    ),
                )
            )
    if len(notes) > 2:
        more = Note(
            "unconnected_more",
            "caution",
            say("{n_notes} more ladders need cells", n_notes=len(notes) - 2),
            say("They are cut in parts as well."),
        )
        return [*notes[:2], more]
    return notes


def _telling_apart(task: Task, plan: Plan, scatter_v: float) -> list[Note]:
    neighbours = tell_apart(task, plan, scatter_v)
    if all(one.u_v == float("inf") for one in neighbours):
        return []
    weak = [one for one in neighbours if one.probability < SURE and one.u_v < float("inf")]
    loose = sum(one.u_v == float("inf") for one in neighbours)
    start = say("With values that scatter {scatter_v} from group to group, ", scatter_v=volts(scatter_v))
    if not weak:
        told = (
            say("{loose} of {n_neighbours} neighbours", loose=len(neighbours) - loose, n_neighbours=len(neighbours))
            if loose
            else say("all neighbours")
        )
        text = say(
            "{start}{told} on the expected ladders come out in the right order, each with 90{per_cent} or more.",
            start=start,
            told=told,
            per_cent=PER_CENT,
        )
        return [Note("tells_apart", "good" if not loose else "plain", say("What this plan can tell apart"), text)]
    text = say(
        "{start}every neighbour on the expected ladders separates except {listed}.", start=start, listed=_listed(weak[:3])
    )
    if len(weak) > 3:
        many = say(
            "{n_weak} of {n_neighbours} neighbours may come out in the wrong order",
            n_weak=len(weak),
            n_neighbours=len(neighbours),
        )
        text = say("{start}{many}; least sure: {listed}.", start=start, many=many, listed=_listed(weak[:3]))
    help_ = cheapest_help(task, plan, weak[0], scatter_v)
    action = None
    if help_ is not None:
        text += say(
            " {times} more {short} would make that {percent}.",
            times=help_.times,
            short=help_.cell.short,
            percent=_percent(help_.probability),
        )
        action = Action(
            "more", say("Add {times} {short}", times=help_.times, short=help_.cell.short), help_.cell, help_.times
        )
    return [Note("tells_apart", "plain", say("What this plan can tell apart"), text, action)]


def _percent(p: float) -> str:
    return f"{min(99, round(100.0 * p))}{PER_CENT}"


def _listed(weak: Sequence[Neighbours]) -> str:
    return ", ".join(
        say(
            "{symbol} and {symbol2} in {bath} ({percent})",
            symbol=electrodes()[one.lower].symbol,
            symbol2=electrodes()[one.upper].symbol,
            bath=_bath(one.bath),
            percent=_percent(one.probability),
        )
        for one in weak
    )


def _free_places(task: Task, plan: Plan) -> list[Note]:
    free = sum(max(0, task.places - len(hand)) for hand in plan.hands)
    placeable = any(plan.counts[cell] < task.groups for cell in task.cells if task.wished.get(cell) is None)
    if not free or not placeable:
        return []
    text = say("{free} more cells fit into the period.", free=free)
    return [
        Note(
            "free_places",
            "plain",
            say_n("{n} free place", "{n} free places", free),
            text,
            Action("fill", say("Fill them")),
        )
    ]


def _wishes(task: Task, plan: Plan) -> list[Note]:
    short = [(cell, n) for cell, n in task.wished.items() if n > plan.counts[cell]]
    if not short:
        return []
    text = "; ".join(
        say("{notation}: wished {n}, planned {counts}", notation=cell.notation, n=n, counts=plan.counts[cell])
        for cell, n in short[:3]
    )
    return [
        Note(
            "wishes",
            "caution",
            say("Not all wishes fit"),
            say("{said}. Take more time or more groups, or wish for less.", said=text),
        )
    ]


def _scarce(task: Task) -> list[Note]:
    notes = []
    shared = task.shared
    for key, n in task.stock.items():
        if key not in task.electrodes or n >= task.groups:
            continue
        title = say("{name} for only {n} of {groups} groups", name=electrodes()[key].name, n=n, groups=task.groups)
        if shared is not None and key in shared.pair:
            text = say(
                "{short} goes to all {groups} groups and needs one for each. Plan anew to share another cell.",
                short=shared.short,
                groups=task.groups,
            )
            notes.append(Note("scarce_shared", "caution", title, text, Action("anew", say("Plan anew"))))
            continue
        text = say(
            "So at most {n} of {groups} groups measure with it; a plate stays with its group.", n=n, groups=task.groups
        )
        notes.append(Note("scarce", "plain", title, text))
    if shared is None:
        notes.append(_no_shared(task))
    return notes


def _no_shared(task: Task) -> Note:
    title = say("No shared cell for {groups} groups", groups=task.groups)
    if (now := task.resettled().shared) is not None:
        text = say("There are plates for {short} for everybody. Plan anew, and every group measures it.", short=now.short)
        return Note("no_shared", "caution", title, text, Action("anew", say("Plan anew")))
    text = say("No pair of plates is there for all groups, so groups and drift cannot be compared. More plates would help.")
    return Note("no_shared", "caution", title, text)


def _sharpness(task: Task, plan: Plan) -> Note:
    possible = len(task.cells)
    measured = len({cell for hand in plan.hands for cell in hand})
    text = (
        say("Each by {repeats} groups or more.", repeats=plan.repeats)
        if plan.repeats > 1
        else say("Some by one group only, so chance shows less.")
    )
    if plan.variance < LOOSE:
        text += say(" The others follow from the ladder.") if measured < possible else ""
        text += say(
            " {nearness}{per_cent} of the sharpness that this many places could ever give;",
            nearness=round(100 * plan.nearness),
            per_cent=PER_CENT,
        )
    text += say(" {changes} changes of plate or cup in all.", changes=plan.changes)
    return Note(
        "sharpness", "plain", say("{measured} of {possible} cells are measured", measured=measured, possible=possible), text
    )
