"""What the software has to say about a pack with its load, in sentences a fifteen-year-old reads once."""

from __future__ import annotations

import math
from collections.abc import Sequence

from galvanic.chemistry.circuit import Pack
from galvanic.chemistry.expected import DOUBTFUL, HOLDS, Expected, Option, Smallest, weakest
from galvanic.chemistry.life import DAY_S, End, Life
from galvanic.notes import THIN, Action, Note, Tone, capital, volts

CARE = Note(
    "care",
    "caution",
    "Take care",
    "Only cells built here: never a bought battery, a supply or the mains on the same wires. Short circuits for seconds "
    "only. A pack under load makes hydrogen: open cups, windows open, no flame, dry hands. Your school’s rules come first.",
)
ONE_BOWL = Note(
    "one_bowl",
    "plain",
    "In one bowl?",
    "Cells that share one liquid cannot be put in a row: the liquid joins them, and one cell’s voltage is left. More plates "
    "in one cup give more current, not more volts.",
)
TONES: dict[str, Tone] = {"runs": "good", "doubtful": "caution", "no": "plain"}
LABELS = {
    "cell": "Add one cell",
    "row": "Add a second row",
    "area": "Twice the plate",
    "pairs": "Add a pair of plates",
    "gap": "Half as far apart",
}
SEEN = {
    "dark": "It stays dark.",
    "glows in the dark": "It glows, seen in the dark.",
    "glows by day": "It glows, seen by day.",
    "bright": "It is bright.",
    "nothing": "It does nothing.",
    "runs": "It runs.",
    "takes its current": "A resistor takes whatever it is given.",
}


LEAST_SHOWN_A = 5e-10


def amps(value_a: float) -> str:
    """A current for reading: two digits, in mA, or in µA below a tenth of one."""
    unit, shown = ("µA", 1e6 * value_a) if abs(value_a) < 1e-4 else ("mA", 1e3 * value_a)
    if abs(value_a) < LEAST_SHOWN_A:
        return f"0{THIN}mA"
    digits = max(0, 1 - math.floor(math.log10(abs(shown))))
    return f"{round(shown, digits):.{min(digits, 3)}f}{THIN}{unit}"


def chance(share: float) -> str:
    """A probability as people say it: 1 in 5, 9 in 10."""
    if share < 0.025:
        return "hardly ever"
    if share > 0.975:
        return "nearly always"
    if share <= 0.5:
        return f"1 in {round(1.0 / share)}"
    return f"{round(share * 10)} in 10" if share < 0.95 else "19 in 20"


def promise(found: Expected) -> str:
    """What a pack promises, in a word or two: runs, no, a chance, or that it is too much for the load."""
    if found.harm:
        return "too much"
    return chance(found.runs) if found.verdict == "doubtful" else found.verdict


def days(seconds: float) -> str:
    """A time for reading, by its size."""
    for size, one, many in ((DAY_S, "day", "days"), (3600.0, "hour", "hours"), (60.0, "minute", "minutes")):
        if seconds >= size:
            n = seconds / size
            shown = f"{n:.1f}" if n < 3.0 else f"{round(n, -1) if n >= 100.0 else n:.0f}"
            return f"{shown} {one if shown == '1' else many}"
    return f"{seconds:.0f} seconds"


def verdict_note(pack: Pack, load_name: str, found: Expected) -> Note:
    """Whether it runs, with its current and how sure that is."""
    n = len(pack.rows[0])
    met = found.meeting
    current = f"{amps(met.current_a)} ({amps(found.current_a.low)} to {amps(found.current_a.high)})"
    if found.harm:
        return Note("harm", "wrong", "Do not join it", f"{found.harm} Take a cell away, or choose another load.")
    title = {"runs": f"Runs with {n}", "doubtful": f"Doubtful with {n}", "no": f"Not with {n}"}[found.verdict]
    if found.level == "takes its current":
        return Note("verdict", "plain", amps(met.current_a), f"{current} at {volts(met.volts_v)}. {SEEN[found.level]}")
    sees = f"Would a class say that it runs? {capital(chance(found.runs))}."
    where = "From what the class has measured." if found.measured else "From the model alone: nobody has measured it."
    seen = SEEN[found.level]
    if found.verdict == "doubtful":
        seen = f"In the middle of that {seen[0].lower()}{seen[1:]}"
    text = f"{current} through the {load_name}. {seen} {sees} {where}"
    return Note("verdict", TONES[found.verdict], title, text)


def holds_note(pack: Pack, load_name: str, holds: str, changes: Sequence[Option]) -> Note | None:
    """What holds it back, with the number of the one change that does most."""
    useful = [change for change in changes if change.times >= HOLDS][:2]
    gains = [
        f"{capital(one.words)} gives {one.times:.1f} times the current."
        if one.times < 1e3
        else f"{capital(one.words)} lets a current flow."
        for one in useful
    ]
    said = {
        "volts": f"The volts are not enough for the {load_name}.",
        "current": "Volts are enough, current is not.",
        "nothing": "",
    }.get(holds, f"It is {holds}: it gives far less than the others.")
    if not said or not gains:
        return None if not said else Note("holds", "plain", "What holds it back", said)
    key = useful[0].key
    return Note("holds", "plain", "What holds it back", f"{said} {' '.join(gains)}", Action(key, LABELS[key]))


def cell_notes(pack: Pack, found: Expected) -> list[Note]:
    """Cells that are driven backwards or fall far behind, and currents that go round between rows."""
    out = []
    met = found.meeting
    for k, share in enumerate(met.cells):
        if share.backwards:
            watts = abs(share.volts_v * share.current_a)
            text = (
                f"The others drive a current through it against its own voltage: {volts(share.volts_v)} across it. It takes "
                f"{1e3 * watts:.2g}{THIN}mW, warms, and makes gas."
            )
            out.append(Note("backwards", "caution", f"Cell {k + 1} is driven backwards", text))
    if not out and len(met.cells) > 1 and (odd := weakest(met)) is not None:
        left = met.cells[odd]
        text = f"{volts(left.volts_v)} of its {volts(left.open_v)} is left under the load. A fresh plate there gains most."
        out.append(Note("weakest", "plain", f"Cell {odd + 1} is the weakest", text))
    if met.round_a > 1e-6:
        text = f"With nothing joined {amps(met.round_a)} goes from the stronger row through the weaker one, for nothing."
        out.append(Note("round", "caution", "The rows are not equal", text))
    return out


def smallest_note(load_name: str, found: Smallest | None, most: int) -> Note:
    """How many cells it takes."""
    if found is None:
        text = f"No pack of up to {most} of these cells is likely to run the {load_name}."
        return Note("smallest", "plain", "Too much for these cells", text)
    rows = "" if found.rows == 1 else f" in {found.rows} rows"
    plates = "" if found.pairs == 1 else f", each with {found.pairs} pairs of plates"
    cells = f"{found.cells} cell{'s' if found.cells != 1 else ''}"
    text = f"{cells}{rows}{plates}: {amps(found.expected.meeting.current_a)}, runs {chance(found.expected.runs)}."
    return Note("smallest", "plain", "The smallest pack", text)


def _range(end: End) -> str:
    return f"{days(end.seconds.middle)} ({days(end.seconds.low)} to {days(end.seconds.high)})"


def life_note(found: Life) -> Note | None:
    """What runs out first, and the others."""
    if not found.ends:
        return None
    first = found.ends[0]
    rows = tuple(f"{end.words}: {_range(end)}" for end in found.ends)
    itself = ""
    if first.what == "metal" and first.by_itself > 0.5:
        itself = f" {round(100 * first.by_itself)} % of it the liquid eats by itself, load or not."
    oxygen = ""
    if found.oxygen_share > DOUBTFUL[1]:
        oxygen = " From the start it gives what oxygen from the air lets it: stirring and wide cups help."
    return Note("life", "plain", "How long", f"About {_range(first)}: {first.words}.{itself}{oxygen}", evidence=rows)
