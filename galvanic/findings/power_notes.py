"""What the software has to say about a pack with its load, in sentences a fifteen-year-old reads once."""

from __future__ import annotations

from collections.abc import Sequence

from galvanic.chemistry.circuit import Pack
from galvanic.chemistry.expected import DOUBTFUL, HOLDS, Expected, Option, Smallest, weakest
from galvanic.chemistry.in_time import InTime
from galvanic.chemistry.life import DAY_S, End, Life
from galvanic.notes import Action, Note, Tone, amps, capital, volts
from galvanic.words import mark, number, say, say_n

CARE = Note(
    "care",
    "caution",
    mark("Take care"),
    mark(
        "Only cells built here: never a bought battery, a supply or the mains on the same wires. Short circuits for seconds "
        "only. A pack under load makes hydrogen: open cups, windows open, no flame, dry hands. Your "
        "school’s rules come first."
    ),
)
ONE_BOWL = Note(
    "one_bowl",
    "plain",
    mark("In one bowl?"),
    mark(
        "Cells that share one liquid cannot be put in a row: the liquid joins them, and one cell’s "
        "voltage is left. More plates "
        "in one cup give more current, not more volts."
    ),
)
TONES: dict[str, Tone] = {"runs": "good", "doubtful": "caution", "no": "plain"}
LABELS = {
    "cell": mark("Add one cell"),
    "row": mark("Add a second row"),
    "area": mark("Twice the plate"),
    "pairs": mark("Add a pair of plates"),
    "gap": mark("Half as far apart"),
}
SEEN = {
    "dark": mark("It stays dark."),
    "glows in the dark": mark("It glows, seen in the dark."),
    "glows by day": mark("It glows, seen by day."),
    "bright": mark("It is bright."),
    "nothing": mark("It does nothing."),
    "runs": mark("It runs."),
    "takes its current": mark("A resistor takes whatever it is given."),
}


def chance(share: float) -> str:
    """A probability as people say it: 1 in 5, 9 in 10."""
    if share < 0.025:
        return say("hardly ever")
    if share > 0.975:
        return say("nearly always")
    if share <= 0.5:
        return say("1 in {share}", share=round(1.0 / share))
    return say("{share} in 10", share=round(share * 10)) if share < 0.95 else say("19 in 20")


def promise(found: Expected) -> str:
    """What a pack promises, in a word or two: runs, no, a chance, or that it is too much for the load."""
    if found.harm:
        return say("too much")
    return chance(found.runs) if found.verdict == "doubtful" else found.verdict


def days(seconds: float) -> str:
    """A time for reading, by its size."""
    for size, one, many in (
        (DAY_S, mark("{shown} day"), mark("{shown} days")),
        (3600.0, mark("{shown} hour"), mark("{shown} hours")),
        (60.0, mark("{shown} minute"), mark("{shown} minutes")),
    ):
        if seconds >= size:
            n = seconds / size
            shown = number(n, ".1f") if n < 3.0 else f"{round(n, -1) if n >= 100.0 else n:.0f}"
            return say(one if shown == "1" else many, shown=shown)
    return say("{seconds:.0f} seconds", seconds=seconds)


def verdict_note(pack: Pack, load_name: str, found: Expected) -> Note:
    """Whether it runs, with its current and how sure that is."""
    n = len(pack.rows[0])
    met = found.meeting
    current = say(
        "{current_a} ({low} to {high})",
        current_a=amps(met.current_a),
        low=amps(found.current_a.low),
        high=amps(found.current_a.high),
    )
    if found.harm:
        return Note(
            "harm", "wrong", say("Do not join it"), say("{harm} Take a cell away, or choose another load.", harm=found.harm)
        )
    title = {
        "runs": say("At first it runs with {n}", n=n),
        "doubtful": say("Doubtful with {n}, from the start", n=n),
        "no": say("Not with {n}, not even at first", n=n),
    }[found.verdict]
    if found.level == "takes its current":
        return Note(
            "verdict",
            "plain",
            amps(met.current_a),
            say("{current} at {volts_v}. {seen}", current=current, volts_v=volts(met.volts_v), seen=say(SEEN[found.level])),
        )
    sees = say("Would a class say that it runs? {runs}.", runs=capital(chance(found.runs)))
    where = (
        say("From what the class has measured.") if found.measured else say("From the model alone: nobody has measured it.")
    )
    seen = say(SEEN[found.level])
    if found.verdict == "doubtful":
        seen = say("In the middle of that {lower}{seen}", lower=seen[0].lower(), seen=seen[1:])
    text = say(
        "Ten seconds after joining {current} goes through the {load_name}. {seen} {sees} {where}",
        current=current,
        load_name=load_name,
        seen=seen,
        sees=sees,
        where=where,
    )
    return Note("verdict", TONES[found.verdict], title, text)


def holds_note(pack: Pack, load_name: str, holds: str, changes: Sequence[Option]) -> Note | None:
    """What holds it back, with the number of the one change that does most."""
    useful = [change for change in changes if change.times >= HOLDS][:2]
    gains = [
        say("{words} gives {times:.1f} times the current.", words=capital(one.words), times=one.times)
        if one.times < 1e3
        else say("{words} lets a current flow.", words=capital(one.words))
        for one in useful
    ]
    said = {
        "volts": say("The volts are not enough for the {load_name}.", load_name=load_name),
        "current": say("Volts are enough, current is not."),
        "nothing": "",
    }.get(holds, say("It is {holds}: it gives far less than the others.", holds=holds))
    if not said or not gains:
        return None if not said else Note("holds", "plain", say("What holds it back"), said)
    key = useful[0].key
    return Note("holds", "plain", say("What holds it back"), f"{said} {' '.join(gains)}", Action(key, say(LABELS[key])))


def cell_notes(pack: Pack, found: Expected) -> list[Note]:
    """Cells that are driven backwards or fall far behind, and currents that go round between rows."""
    out = []
    met = found.meeting
    for k, share in enumerate(met.cells):
        if share.backwards:
            watts = abs(share.volts_v * share.current_a)
            text = say(
                "The others drive a current through it against its own voltage: {volts_v} across it. It "
                "takes {watts:.2g}\u202fmW, warms, and makes gas.",
                volts_v=volts(share.volts_v),
                watts=1e3 * watts,
            )
            out.append(Note("backwards", "caution", say("Cell {k} is driven backwards", k=k + 1), text))
    if not out and len(met.cells) > 1 and (odd := weakest(met)) is not None:
        left = met.cells[odd]
        text = say(
            "{volts_v} of its {open_v} is left under the load. A fresh plate there gains most.",
            volts_v=volts(left.volts_v),
            open_v=volts(left.open_v),
        )
        out.append(Note("weakest", "plain", say("Cell {odd} is the weakest", odd=odd + 1), text))
    if met.round_a > 1e-6:
        text = say(
            "With nothing joined {round_a} goes from the stronger row through the weaker one, for nothing.",
            round_a=amps(met.round_a),
        )
        out.append(Note("round", "caution", say("The rows are not equal"), text))
    return out


def smallest_note(load_name: str, found: Smallest | None, most: int, lasts: Smallest | None = None) -> Note:
    """How many cells it takes at first, and how many for a lesson (`lasts`; None: none that was tried does)."""
    if found is None:
        text = say(
            "No pack of up to {most} of these cells is likely to run the {load_name}.", most=most, load_name=load_name
        )
        return Note("smallest", "plain", say("Too much for these cells"), text)
    rows = "" if found.rows == 1 else say(" in {rows} rows", rows=found.rows)
    plates = "" if found.pairs == 1 else say(", each with {pairs} pairs of plates", pairs=found.pairs)
    cells = say_n("{n} cell", "{n} cells", found.cells)
    longer = (
        say("No pack that was tried runs it through a lesson.")
        if lasts is None
        else say_n("For a lesson it takes {n} cell.", "For a lesson it takes {n} cells.", lasts.cells)
    )
    text = say(
        "{cells}{rows}{plates} at first: {current_a}, runs {runs}. {longer}",
        longer=longer,
        cells=cells,
        rows=rows,
        plates=plates,
        current_a=amps(found.expected.meeting.current_a),
        runs=chance(found.expected.runs),
    )
    return Note("smallest", "plain", say("The smallest pack"), text)


def _range(end: End) -> str:
    return say(
        "{middle} ({low} to {high})", middle=days(end.seconds.middle), low=days(end.seconds.low), high=days(end.seconds.high)
    )


def in_time_note(found: InTime, load_name: str) -> Note:
    """How long it keeps running, and what is seen of it on the way."""
    rows = tuple(
        say(
            "{after} after joining: {current}. It runs {runs}.",
            after=days(moment.at_s),
            current=amps(moment.expected.meeting.current_a),
            runs=chance(moment.expected.runs),
        )
        for moment in found.moments
    )
    if found.runs_s <= 0.0:
        text = say("The {load_name} does not run on it for any time that a class would call running.", load_name=load_name)
        return Note("in_time", "plain", say("For how long?"), text, evidence=rows)
    times = {"middle": days(found.runs_s), "low": days(max(found.low_s, 1.0)), "high": days(found.high_s)}
    text = (
        say("About {middle} ({low} to {high}), until something is used up.", **times)
        if found.ends_by
        else say("About {middle} ({low} to {high}): then too little flows, though nothing is used up.", **times)
    )
    return Note("in_time", "plain", say("It runs for {middle}", middle=days(found.runs_s)), text, evidence=rows)


def life_note(found: Life) -> Note | None:
    """What runs out first, and the others."""
    if not found.ends:
        return None
    first = found.ends[0]
    rows = tuple(f"{end.words}: {_range(end)}" for end in found.ends)
    itself = ""
    if first.what == "metal" and first.by_itself > 0.5:
        itself = say(" {by_itself} % of it the liquid eats by itself, load or not.", by_itself=round(100 * first.by_itself))
    oxygen = ""
    if found.oxygen_share > DOUBTFUL[1]:
        oxygen = say(" From the start it gives what oxygen from the air lets it: stirring and wide cups help.")
    return Note(
        "life",
        "plain",
        say("What is used up first"),
        say(
            "After about {range}: {words}.{itself}{oxygen}",
            range=_range(first),
            words=first.words,
            itself=itself,
            oxygen=oxygen,
        ),
        evidence=rows,
    )
