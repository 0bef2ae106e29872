"""What a pack gives a load from the first second to the last day, and how long a class would say that it runs.

At each of a few moments, evenly spread on a logarithmic scale, the pack is met as it can be expected then (`expected`); in
between, the share of packs in which the load still runs is read off along the logarithm of time. A load runs as long as it
does in half of what can be expected; the ends of the range are where it does in nearly all and in hardly any. What is used
up first (`life`) ends it in any case.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from galvanic.chemistry.circuit import Pack
from galvanic.chemistry.expected import DOUBTFUL, Expected, expect
from galvanic.chemistry.life import life
from galvanic.reference.catalogue import kept

MOMENTS_S = (1.0, 10.0, 60.0, 300.0, 1200.0, 3600.0, 6 * 3600.0, 86_400.0, 10 * 86_400.0)
LESSON_S = 45 * 60.0
HALF = 0.5
SAME = 0.01  # of the current: then nothing more happens before something is used up


@dataclass(frozen=True, slots=True)
class Moment:
    """A pack with its load so long after it was joined."""

    at_s: float
    expected: Expected


@dataclass(frozen=True)
class InTime:
    """How a pack drives a load in time.

    `runs_s` s after joining it still runs in half of what can be expected, 0 if it never does; `low_s` in nearly all,
    `high_s` in hardly any. `ends_by`: what is used up at that time (a key of `life`), empty where it fades before;
    `used_up_s`: when something is used up in any case.
    """

    moments: tuple[Moment, ...]
    runs_s: float
    low_s: float
    high_s: float
    ends_by: str
    used_up_s: float


@kept(128)
def in_time(pack: Pack, load: str | float, volume_ml: float | None = None, metal_um: float | None = None) -> InTime:
    """The pack into a load (key, or Ω) in time; sizes as for `life`. Raises UnknownMaterial, OutOfRange."""
    lasting = life(pack, load, volume_ml, metal_um)
    first = lasting.ends[0].seconds if lasting.ends else None
    used_up_s, least_s, most_s = (math.inf,) * 3 if first is None else (first.middle, first.low, first.high)
    moments: list[Moment] = []
    for at_s in MOMENTS_S:
        if at_s > most_s:
            break
        moments.append(Moment(at_s, expect(pack, load, at_s)))
        if at_s >= 60.0 and _settled(moments[-2], moments[-1]):
            break
        if moments[-1].expected.runs == 0.0 and at_s >= 60.0:
            break
    faded_s, nearly_s, hardly_s = (_until(moments, share) for share in (HALF, DOUBTFUL[1], DOUBTFUL[0]))
    ends_by = lasting.ends[0].what if first is not None and used_up_s <= faded_s else ""
    return InTime(tuple(moments), min(faded_s, used_up_s), min(nearly_s, least_s), min(hardly_s, most_s), ends_by, used_up_s)


def _settled(before: Moment, now: Moment) -> bool:
    was, is_now = before.expected.current_a.middle, now.expected.current_a.middle
    return abs(is_now - was) <= SAME * abs(was) and before.expected.runs == now.expected.runs


def _until(moments: Sequence[Moment], share: float) -> float:
    """Until when the load runs in so large a share of what can be expected, s: 0 if never, without end if it still does."""
    if not moments or max(moment.expected.runs for moment in moments[:2]) < share:
        return 0.0
    for now, after in pairwise(moments):
        above, below = now.expected.runs, after.expected.runs
        if below < share <= above:
            part = (above - share) / (above - below)
            return float(math.exp(math.log(now.at_s) + part * math.log(after.at_s / now.at_s)))
    return math.inf if moments[-1].expected.runs >= share else 0.0
