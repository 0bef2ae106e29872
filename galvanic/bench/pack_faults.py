"""What is wrong with a pack, from single voltages, the sum at every step, and what the load showed.

A cell that is joined should add what it gives alone. Turned round it takes that away; liquid between two cups, or plates
that touch, take up to one cell; a dry clip shows only under a load, as volts that are lost in the wires; a worn cell sags or
is driven backwards by the others; an LED the wrong way round leaves the whole voltage across itself; an ammeter in the wrong
socket, or with its fuse gone, shows nothing while the load has its volts. Where two causes are left, the next measurement is
the one that tells them apart. Thresholds are common practice, no source; bench/packs.py prints how often each is right.
"""

from __future__ import annotations

from statistics import median

from galvanic.bench.pack_record import NOTHING_A, NOTHING_V, PackFinding, PackRecord, at_place
from galvanic.bench.pack_sums import STEP_V, sum_findings
from galvanic.notes import volts
from galvanic.words import say

SAGS = 0.2  # of the others' middle voltage under the same load; sound cells of unequal size still have a quarter
LOST_V = 0.15  # between the cells and the load
MOST_PACK_A = 0.3  # more than short circuits of such packs give
ENOUGH_V = 0.2  # above an LED’s least voltage it would glow if it stood the right way round


def pack_findings(record: PackRecord) -> list[PackFinding]:
    """What the numbers say; empty where all is as it should be. Steps that are off are mended first: what the load shows
    follows from them."""
    sums = sum_findings(record)
    if sums:
        return sums
    if record.load is None or record.open_v is None:
        return _odd_current(record)
    return _odd_current(record) or _lost(record) or _sagging(record) or _blocks(record) or _ammeter(record) or _which(record)


def _odd_current(record: PackRecord) -> list[PackFinding]:
    """A current that no pack of such cells gives, or one through a lamp that stays dark."""
    if record.load_a is None:
        return []
    if abs(record.load_a) > MOST_PACK_A:
        tries = (
            say("Look at the dial and the socket: was it milliamperes?"),
            say("Is a battery or a supply in the row? Only cells built here belong there."),
        )
        text = say("{load_a:.3g}\u202fA is far more than a pack like this gives.", load_a=abs(record.load_a))
        return [PackFinding("amperes", "likely", say("Amperes, or milliamperes?"), text, tries)]
    row = None if record.load is None else record.load.row
    if row is None or row.by_day_a is None or record.lit is not False or abs(record.load_a) < row.by_day_a.high:
        return []
    text = say(
        "{load_a:.2g}\u202fmA flows and the {name} is dark: the current goes past it.",
        load_a=1e3 * abs(record.load_a),
        name=row.name,
    )
    tries = (
        say("Is the meter across the load instead of in the loop? Then it shorts the pack."),
        say("Do the two legs touch?"),
    )
    return [PackFinding("past_the_load", "likely", say("A current, and no light"), text, tries)]


def _lost(record: PackRecord) -> list[PackFinding]:
    """Volts that are lost between the cells and the load: a joint without contact."""
    load_v, open_v = record.load_v, record.open_v
    if load_v is None or open_v is None or record.load is None or record.blocked:
        return []
    under = [v for v in record.under_v if v is not None]
    whole = 0 < len(under) == len(record.sums_v)
    has_v = sum(under) if whole else open_v
    if has_v - load_v <= LOST_V + 0.05 * open_v or not (whole or load_v < NOTHING_V):
        return []
    halve = say(
        "With the load on, measure across the first half of the cells with their wires, then across the second: the half "
        "with less than its cells holds the bad joint. Halve it again."
    )
    text = say(
        "The cells have {has_v}, the {name} gets {load_v}: the rest is lost on the way.",
        has_v=volts(has_v),
        name=record.load.name,
        load_v=volts(load_v),
    )
    tries = (halve, say("Squeeze or scrape that clip; wet a dry plate."))
    return [PackFinding("loose", "likely" if whole else "possible", say("A clip or a wire makes no contact"), text, tries)]


def _sagging(record: PackRecord) -> list[PackFinding]:
    """Cells that give far less than the others under the same current."""
    known = [(k, v) for k, v in enumerate(record.under_v) if v is not None]
    out = []
    for k, value in known if len(known) > 2 else []:
        others, alone = median(v for j, v in known if j != k), at_place(record.alone_v, k)
        if others < NOTHING_V or value > SAGS * others or (alone is not None and alone < STEP_V):
            continue
        driven = say(" The others drive it backwards: it takes power, warms and makes gas.") if value < -NOTHING_V else ""
        text = say(
            "In the pack it has {value} left, the others about {others}.{driven}",
            value=volts(value),
            others=volts(others),
            driven=driven,
        )
        tries = (
            say("Look at its plates: deep enough in, rubbed, not crusted?"),
            say("Fresh liquid and a rubbed plate, then measure it under the load again."),
        )
        out.append(PackFinding("worn", "likely", say("Cell {k} gives way under the load", k=k + 1), text, tries, k + 1))
    return out


def _blocks(record: PackRecord) -> list[PackFinding]:
    """An LED that takes nothing though it has volts enough."""
    if record.load is None or record.open_v is None or not record.blocked or record.open_v < record.least_v + ENOUGH_V:
        return []
    text = say("All {open_v} stand across it and nothing flows: it blocks.", open_v=volts(record.open_v))
    tries = (say("Long leg to the plus of the pack, short leg to the minus."), say("Still dark: try another LED."))
    return [PackFinding("led_turned", "likely", say("The {name} the wrong way round?", name=record.load.name), text, tries)]


def _ammeter(record: PackRecord) -> list[PackFinding]:
    """No current shown though the load has light or volts."""
    has_v = record.load_v or 0.0
    if record.load is None or record.load_a is None or abs(record.load_a) > NOTHING_A or record.blocked:
        return []
    if not record.lit and has_v <= NOTHING_V:
        return []
    has = say("is lit") if record.lit else say("has {has_v}", has_v=volts(has_v))
    text = say("The {name} {has}, so a current flows; the meter does not see it.", name=record.load.name, has=has)
    tries = (
        say("Red lead in the mA socket, dial on DC milliamperes, the meter in the loop and not across it."),
        say("Still nothing: the meter’s fuse. Ask for another meter."),
        say("Afterwards the red lead goes back into V."),
    )
    return [PackFinding("ammeter", "likely", say("The ammeter shows nothing"), text, tries)]


def _which(record: PackRecord) -> list[PackFinding]:
    """Volts enough, no light, nothing measured at the load: the one measurement that tells why."""
    if record.load is None or record.open_v is None or record.load_v is not None or record.lit is not False:
        return []
    if record.open_v <= record.least_v:
        return []
    name = record.load.name
    tell = say(
        "Leave the {name} on and measure across it. All the volts: it is the wrong way round, or "
        "broken. None: a clip or a wire makes no contact. Some: the current is not enough.",
        name=name,
    )
    text = say("{open_v} with nothing joined is enough. One measurement tells why.", open_v=volts(record.open_v))
    return [
        PackFinding("measure_across", "possible", say("Enough volts, and the {name} does nothing", name=name), text, (tell,))
    ]
