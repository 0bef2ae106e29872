"""What a group may claim of a pack that does not run, or sags: causes, what follows, and whether its numbers bear it out.

The numbers are the pack's: its steps, its trial, and its run over time. A cause without a number for it stays open, with the
measurement that would tell.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from galvanic.bench.pack_faults import pack_findings
from galvanic.bench.pack_record import PackRecord
from galvanic.chemistry.polarisation import Geometry
from galvanic.chemistry.work import plate_mass_g
from galvanic.findings.runs import BACK, Run
from galvanic.findings.verdicts import Verdict
from galvanic.notes import amps, volts
from galvanic.words import mark, say

SINGLE = frozenset({"turned", "bridged", "worn"})  # findings that point at one cell
AT_ONCE, LATER = 0.7, 0.3  # parts of a sag: which of the two carries it is common practice, no source
SAGS = 0.8  # of the open volts: below it the load is heard to pull the pack down
SHEET_M = 0.5e-3  # usual zinc or copper sheet of a kit: common practice, no source
USED = 0.1  # of the plate: what a class could see


@dataclass(frozen=True, slots=True)
class PackData:
    """What a claim about a pack is weighed on. `first_v`, `last_v`, `before_v`: the volts just after the load was joined, at
    the end of that stretch, and before it; `back` the part of those before that came back. None without a run. `plate`: the
    negative one, where all cells have the same."""

    record: PackRecord
    run: Run | None = None
    before_v: float | None = None
    first_v: float | None = None
    last_v: float | None = None
    back: float | None = None
    plate: str | None = None

    @property
    def sag_v(self) -> float | None:
        """How far the volts fell from before the load to the end, V."""
        return None if self.before_v is None or self.last_v is None else self.before_v - self.last_v

    @property
    def at_once(self) -> float | None:
        """The part of the sag that is there with the first number after joining."""
        if self.sag_v is None or self.before_v is None or self.first_v is None or self.sag_v <= 0.0:
            return None
        return min(1.0, max(0.0, (self.before_v - self.first_v) / self.sag_v))


PackTest = Callable[[PackData], Verdict]


@dataclass(frozen=True, slots=True)
class PackCause:
    """One cause that may be claimed of a pack: its name in a student's words, what would follow, and its test."""

    key: str
    name: str
    implies: str
    test: PackTest


def _one_cell(data: PackData) -> Verdict:
    question = say("What does each cell read alone, and across itself with the load on?")
    findings = [finding for finding in pack_findings(data.record) if finding.code in SINGLE]
    if findings:
        return Verdict("fits", " ".join(f"{one.title} {one.text}" for one in findings), question)
    under = [v for v in data.record.under_v if v is not None]
    whole = [v for v in data.record.sums_v if v is not None]
    if len(under) == len(data.record.under_v) and len(under) > 1:
        spread = say(
            "Under the load the cells read {under}: none is far from the others.", under=", ".join(volts(v) for v in under)
        )
        return Verdict("contradicted", spread, question)
    if len(whole) == len(data.record.sums_v) > 1 and all(v is not None for v in data.record.alone_v):
        text = say("Every cell adds about what it gives alone. A worn cell would only show with the load on.")
        return Verdict("cannot_tell", text, question)
    return Verdict("cannot_tell", say("Not every cell was measured alone and in the row."), question)


def _few_volts(data: PackData) -> Verdict:
    question = say("How many volts does the load need before it does anything?")
    open_v, least = data.record.open_v, data.record.least_v
    if data.record.load is None or data.record.load.row is None or open_v is None:
        return Verdict("cannot_tell", say("This needs the pack’s volts and a load that begins at some volts."), question)
    text = say(
        "With nothing joined the pack reads {open_v}; the {name} begins at {least}.",
        open_v=volts(open_v),
        name=data.record.load.name,
        least=volts(least),
    )
    return Verdict("fits" if open_v < least else "contradicted", text, question)


def _little_current(data: PackData) -> Verdict:
    question = say("What would the volts under load do with plates of twice the size?")
    open_v, on_v = data.record.open_v, data.record.load_v if data.record.load_v is not None else data.last_v
    if open_v is None or on_v is None:
        return Verdict(
            "cannot_tell",
            say("It was not measured with the load on."),
            say("What do the meter’s volts do when the load is joined?"),
        )
    if open_v < data.record.least_v:
        return Verdict(
            "contradicted",
            say("The volts are too few already: {open_v} with nothing joined.", open_v=volts(open_v)),
            question,
        )
    through = "" if data.record.load_a is None else say(" {load_a} go through it.", load_a=amps(abs(data.record.load_a)))
    text = say(
        "{open_v} with nothing joined, {on_v} with the load on.{through}",
        open_v=volts(open_v),
        on_v=volts(on_v),
        through=through,
    )
    return Verdict("fits" if on_v < SAGS * open_v else "contradicted", text, question)


def _turned_load(data: PackData) -> Verdict:
    question = say("What happens when its two legs change places?")
    if data.record.lit:
        return Verdict("contradicted", say("It ran, so it stands the right way round."), question)
    if data.record.blocked:
        text = say("All of {value} stand across it and nothing flows.", value=volts(data.record.load_v or 0.0))
        return Verdict("fits", text, question)
    if data.record.load_a is not None and abs(data.record.load_a) > 1e-5:
        return Verdict(
            "contradicted", say("{load_a} go through it: it lets them pass.", load_a=amps(abs(data.record.load_a))), question
        )
    return Verdict("cannot_tell", say("Volts across it and milliamps through it would tell."), question)


def _at_the_plates(data: PackData) -> Verdict:
    question = say("What does it do when left alone for as long, or stirred?")
    if data.at_once is None or data.sag_v is None:
        return Verdict("cannot_tell", say("There is no run with the load joined and a number before."), question)
    text = say(
        "Of {sag_v} of sag {at_once} % came later, not at once.",
        sag_v=volts(data.sag_v),
        at_once=round(100 * (1.0 - data.at_once)),
    )
    if data.back is not None:
        text += say(" Left alone it came back to {back} %.", back=round(100 * data.back))
        if data.back < BACK:
            return Verdict("contradicted" if data.at_once > AT_ONCE else "cannot_tell", text, question)
    if 1.0 - data.at_once < LATER:
        return Verdict("contradicted", text, question)
    return Verdict("fits" if data.back is not None else "cannot_tell", text, question)


def _resistance(data: PackData) -> Verdict:
    question = say("What would half the distance between the plates do to it?")
    if data.at_once is None or data.sag_v is None:
        return Verdict("cannot_tell", say("There is no run with the load joined and a number before."), question)
    text = say(
        "Of {sag_v} of sag {at_once} % was there with the first number.",
        sag_v=volts(data.sag_v),
        at_once=round(100 * data.at_once),
    )
    if data.at_once < AT_ONCE:
        return Verdict(
            "contradicted", say("{said} A resistance takes its share at once and no more later.", said=text), question
        )
    more = say("A plate that is slow from the start looks the same: distance tells the two apart.")
    return Verdict("cannot_tell", f"{text} {more}", question)


def _metal(data: PackData) -> Verdict:
    question = say("How much does the plate weigh, and how much of it went?")
    metal = None if data.run is None else data.run.metal_g
    plate = None if data.plate is None else plate_mass_g(data.plate, Geometry().area_m2, SHEET_M)
    if metal is None or plate is None:
        return Verdict("cannot_tell", say("No charge was measured, so nothing is known of the metal that went."), question)
    text = say(
        "The charge took {metal:.2g} mg of the plate; half a millimetre of sheet has {plate:.0f} mg there.",
        metal=1e3 * metal,
        plate=1e3 * plate,
    )
    return Verdict("fits" if metal > USED * plate else "contradicted", text, question)


PACK_CAUSES: dict[str, PackCause] = {
    one.key: one
    for one in (
        PackCause(
            "pack-cell",
            mark("One cell is the trouble"),
            mark("Its step in the row, or its volts under load, is short."),
            _one_cell,
        ),
        PackCause(
            "pack-volts", mark("Too few volts"), mark("With nothing joined it reads less than the load needs."), _few_volts
        ),
        PackCause(
            "pack-current",
            mark("Volts enough, too little current"),
            mark("Open it reads enough; joined, it sags."),
            _little_current,
        ),
        PackCause(
            "pack-load", mark("The load is the wrong way round"), mark("All volts across it, no current."), _turned_load
        ),
        PackCause(
            "pack-plates",
            mark("The liquid at the plates runs short"),
            mark("It falls while it works and comes back when left alone."),
            _at_the_plates,
        ),
        PackCause(
            "pack-inside",
            mark("The liquid’s resistance"),
            mark("The whole drop is there at once, and goes at once."),
            _resistance,
        ),
        PackCause(
            "pack-metal",
            mark("The metal is used up"),
            mark("A good part of the plate is gone; it does not come back."),
            _metal,
        ),
    )
}


def weigh_pack(cause: str, data: PackData) -> Verdict:
    """A claim's cause against the pack's own numbers. Raises KeyError for a cause that is none."""
    return PACK_CAUSES[cause].test(data)


def weigh_all(data: PackData) -> list[tuple[PackCause, Verdict]]:
    """Every cause with what the numbers say to it, in the order of PACK_CAUSES."""
    return [(cause, cause.test(data)) for cause in PACK_CAUSES.values()]


def pack_data(
    record: PackRecord, run: Run | None, volts_v: Sequence[tuple[float, float]], plate: str | None = None
) -> PackData:
    """What a claim about a pack is weighed on: its record, its run as told, the volts as (s, V) in order, its plate."""
    worked = next((stretch for stretch in run.stretches if stretch.joined), None) if run is not None else None
    if worked is None:
        return PackData(record, run, plate=plate)
    before = [v for t, v in volts_v if t < worked.from_s]
    inside = [v for t, v in volts_v if worked.from_s <= t <= worked.to_s]
    after = [v for t, v in volts_v if t > worked.to_s]
    if not before or len(inside) < 2:
        return PackData(record, run, plate=plate)
    back = sum(after[-2:]) / len(after[-2:]) / before[-1] if len(after) > 1 and before[-1] > 0.0 else None
    return PackData(record, run, before[-1], inside[0], inside[-1], back, plate)
