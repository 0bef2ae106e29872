"""What a reading's number says about how it was made: findings that advise and never block.

A reading is held against what can be expected of this cell: the rest account, and the ladder that the other groups' values
make, combined by their variances. What lies within the combined scatter is not remarked on. What lies outside gets the
likeliest explanation by its size and sign; what moves between readings of one cell gets one by how it moves. Scatters and
limits are common practice, no source; hit and false-alarm rates on simulated faults are printed by `bench/checks.py`.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from galvanic.bench.faults import tries_for
from galvanic.bench.repairs import Kind
from galvanic.cells import Cell
from galvanic.notes import volts
from galvanic.preparing import skipped
from galvanic.reference.catalogue import electrodes
from galvanic.words import mark, say

OWN_PLATES_U_V = 0.025  # how far one group's plates lie from the class's
OUTSIDE = 3.3  # standard deviations beyond which a value is remarked on
DIP_V = 0.012  # scatter of one dip, generously
DRIFT_V, JUMP_V = 0.035, 0.08
MILLIVOLTS_V, MOST_CELL_V = 20.0, 3.2
NEAR_ZERO_V = 0.06


@dataclass(frozen=True, slots=True)
class Expectation:
    """What can be expected of a cell, E(positive) − E(negative) in V, with its standard uncertainty.

    `others` is how many other groups' values stand behind it; `ceiling_v` is more than these two plates can give;
    `classes` earlier classes foretell it between `low_v` and `high_v`.
    """

    volts_v: float
    u_v: float
    others: int
    ceiling_v: float
    classes: int = 0
    low_v: float = 0.0
    high_v: float = 0.0


@dataclass(frozen=True, slots=True)
class Finding:
    """One remark: a code for programs, how sure (likely or possible), a title, a sentence, what to try, in order, and the
    repairs that would make the number fit. `hint`: the sentence without what a group should think of itself first; empty
    where that is the sentence."""

    code: str
    sure: Literal["likely", "possible"]
    title: str
    text: str
    tries: tuple[str, ...]
    repairs: tuple[Kind, ...] = ()
    hint: str = ""

    @property
    def whole(self) -> str:
        """Title and sentence in one."""
        return f"{self.title.rstrip('?')}. {self.text}"


def check(
    cell: Cell, signed_v: float, resolution_v: float, earlier_v: Sequence[float], expected: Expectation | None
) -> list[Finding]:
    """Findings on one reading, most useful first; none where nothing is remarkable.

    `signed_v`: the reading as written, red on the positive plate (meter offset taken off), V; `earlier_v`: the group's
    readings of this cell before it that count, the same way, oldest first.
    """
    by_size = _size(cell, signed_v, expected)
    if any(one.code in ("millivolts", "digit", "too_high", "reversed") for one in by_size):
        return by_size
    # How it moves says more than that it is off. A sound reading after a wrong one has not moved: it was put right.
    before = [(e, {one.code for one in _size(cell, e, expected)}) for e in earlier_v]
    climbs_from = [e for e, codes in before if codes <= {"far"}]
    jumps_from = [e for e, codes in before if by_size or not codes]
    return [*_movement(signed_v, climbs_from, jumps_from, resolution_v), *by_size]


def _size(cell: Cell, v: float, expected: Expectation | None) -> list[Finding]:
    """What the size and sign say, by itself."""
    if abs(v) >= MILLIVOLTS_V:
        return [_millivolts(v, expected)]
    if expected is None:
        return [_too_high(cell, v, MOST_CELL_V)] if abs(v) > MOST_CELL_V else []
    ref, u = expected.volts_v, math.hypot(expected.u_v, OWN_PLATES_U_V)

    def fits(value: float) -> bool:
        return abs(value - ref) <= OUTSIDE * u

    if fits(v):
        return []
    findings = []
    if abs(v) > expected.ceiling_v:
        if fits(v / 10.0) or fits(-v / 10.0):
            findings.append(_digit(v, say("ten times too big"), "tenth"))
        findings.append(_too_high(cell, v, expected.ceiling_v))
    if abs(ref) > u and fits(-v) and v * ref < 0.0 and abs(v) > NEAR_ZERO_V:
        findings.append(_reversed(cell, ref))
    if abs(v) < max(NEAR_ZERO_V, 0.2 * abs(ref)) and abs(ref) > NEAR_ZERO_V:
        findings.append(_near_zero(cell, ref))
        if abs(v) > 0.02 and fits(10.0 * v):
            findings.append(_digit(v, say("ten times too small"), "tenfold"))
    return findings or [_far(cell, v, expected)]


def _movement(v: float, climbs_from: Sequence[float], jumps_from: Sequence[float], resolution: float) -> list[Finding]:
    """What the readings of one cell say together: a climb, or a jump."""
    noise = 3.0 * math.hypot(DIP_V, resolution)
    if len(climbs_from) >= 2:
        first, second = climbs_from[-1] - climbs_from[-2], v - climbs_from[-1]
        if first * second > 0.0 and abs(first + second) > max(DRIFT_V, noise) and abs(second) > resolution:
            return [_drifting(first + second)]
    before = jumps_from[-1] if jumps_from else None
    if before is not None and v * before < 0.0 and min(abs(v), abs(before)) > noise and abs(v + before) < max(JUMP_V, noise):
        return [_sign_changed(before, v)]
    if jumps_from and abs(v - jumps_from[-1]) > max(JUMP_V, 2.0 * noise):
        return [_jump(jumps_from[-1], v)]
    return []


def _with(code: str, asked: Sequence[str]) -> tuple[str, ...]:
    """What to try, with what is asked of this kind of cell after the first."""
    first, *rest = tries_for(code)
    return (first, *asked, *rest)


def lost_points(v: float, expected: Expectation) -> dict[Kind, float]:
    """What a number would be with its decimal point put back, V, where that is what can be expected."""
    u = math.hypot(expected.u_v, OWN_PLATES_U_V)
    tried: dict[Kind, float] = {"tenth": v / 10.0, "hundredth": v / 100.0}
    return {kind: now for kind, now in tried.items() if abs(now - expected.volts_v) <= OUTSIDE * u}


def _millivolts(v: float, expected: Expectation | None) -> Finding:
    kinds: tuple[Kind, ...] = ("millivolts",)
    if expected is not None:
        kinds = (*lost_points(v, expected), *kinds)
    return Finding(
        "millivolts",
        "likely",
        say("Millivolts?"),
        say("{v} is far more than any cell gives. Did the meter show millivolts?", v=volts(abs(v), 0)),
        tries_for("millivolts"),
        kinds,
    )


def _digit(v: float, how: str, kind: Kind) -> Finding:
    return Finding(
        "digit",
        "possible",
        say("Has the point slipped?"),
        say("{v} looks {how} for this cell: a slipped point, or a digit too many.", v=volts(v), how=how),
        tries_for("digit"),
        (kind,),
    )


def _too_high(cell: Cell, v: float, ceiling: float) -> Finding:
    return Finding(
        "too_high",
        "likely",
        say("Too much for this cell"),
        say(
            "{v} is above anything {short} could give in one liquid (about {ceiling} at most).",
            v=volts(v),
            short=cell.short,
            ceiling=volts(ceiling, 1),
        ),
        tries_for("too_high"),
        hint=say("{v} is more than two such plates can give in one liquid.", v=volts(v)),
    )


def _reversed(cell: Cell, ref: float) -> Finding:
    plate = electrodes()[cell.positive if ref > 0.0 else cell.negative].name
    return Finding(
        "reversed",
        "likely",
        say("Leads the other way round?"),
        say("The sign is the other way round than expected: red should be on {plate} for a plus.", plate=plate),
        tries_for("reversed"),
        ("leads",),
        say("The sign is not the one that is expected. Which plate is the red lead on, and which did you mean?"),
    )


def _near_zero(cell: Cell, ref: float) -> Finding:
    return Finding(
        "near_zero",
        "likely",
        say("Close to nothing"),
        say(
            "About {ref} can be expected here. Either something joins the plates, or a clip joins nothing.",
            ref=volts(abs(ref), 1),
        ),
        _with("near_zero", skipped(cell)),
        hint=say("Such plates give far more. Either something joins the plates, or a clip joins nothing."),
    )


def _far(cell: Cell, v: float, expected: Expectation) -> Finding:
    low = abs(v) < abs(expected.volts_v)
    who = say("what these plates usually do")
    if expected.others:
        who = say("{others} values of other groups", others=expected.others)
    elif expected.classes:
        low_v, high_v = volts(expected.low_v), volts(expected.high_v)
        who = say(
            "what is expected: {classes} earlier classes lead one to expect {low_v} to {high_v}",
            classes=expected.classes,
            low_v=low_v,
            high_v=high_v,
        )
    return Finding(
        "far",
        "possible",
        say("Far from expected"),
        say("{v} lies {volts_v} from {who}.", v=volts(v), volts_v=volts(abs(v - expected.volts_v)), who=who),
        _with("far", skipped(cell) if low else ()),
        hint=say("This is far from what such plates do: look at clips, plates and liquid."),
    )


def _drifting(change: float) -> Finding:
    return Finding(
        "drifting",
        "likely",
        say("Not steady yet"),
        say(
            mark("The readings climb each time, by {change} in all.")
            if change > 0
            else mark("The readings fall each time, by {change} in all."),
            change=volts(abs(change), 3),
        ),
        tries_for("drifting"),
    )


def _sign_changed(before: float, now: float) -> Finding:
    return Finding(
        "reversed",
        "possible",
        say("Has the sign changed?"),
        say(
            "{now} after {before}: the size is as before, the sign is not. Were the leads swapped in between, or is a minus "
            "too many or too few?",
            now=volts(now, signed=True),
            before=volts(before, signed=True),
        ),
        tries_for("reversed"),
        ("leads",),
    )


def _jump(before: float, now: float) -> Finding:
    return Finding(
        "jump",
        "possible",
        say("A jump"),
        say("This reading jumps by {before} from the one before.", before=volts(abs(now - before))),
        tries_for("jump"),
    )
