"""What a class's tries at the fault drill show: which faults it finds, which not yet, what it takes them for, and which hand
would have told.

Each device counts once for a fault, with its latest try: what was learned since counts. The share of devices that name the
fault at once has a 90 % interval by Jeffreys' prior, which holds its level at few tries better than the normal one does
(Brown, Cai and DasGupta 2001, Statistical Science 16, 101; cited from memory).
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from galvanic.simulated.drill import GROUPS, HANDS, Case, case
from galvanic.simulated.drill_packs import PACK_HANDS
from galvanic.words import once

LEVEL = 0.9  # of the interval, and how sure "not yet" and "found" have to be
HAND_NAMES: Mapping[str, str] = {**PACK_HANDS, **HANDS}
HALF = 0.5  # a fault is found by a class where more than half of its devices name it at once


@dataclass(frozen=True, slots=True)
class Try:
    """One bench in trouble: on which device, what was the matter, what was named first, and the hands that were tried
    before."""

    device: str
    symptom: str
    fault: str
    named: str
    hands: tuple[str, ...]

    @property
    def found(self) -> bool:
        """Whether it was named at once."""
        return self.named == self.fault

    @property
    def known(self) -> bool:
        """Whether the drill knows such a bench, such a cause of it, and the hands."""
        return {self.fault, self.named} <= set(GROUPS.get(self.symptom, ())) and set(self.hands) <= set(HAND_NAMES)


@dataclass(frozen=True, slots=True)
class TakenFor:
    """What a fault was taken for by how many devices; the hands that tell the two apart, and how many tried none of them."""

    named: str
    devices: int
    tells: tuple[str, ...]
    untried: int


@dataclass(frozen=True, slots=True)
class FaultInClass:
    """How a class does at one fault behind one symptom: `found` of `devices`, the share's interval, the share that guessing
    would give, and the `verdict`: "found", "not_yet", or "few" where the tries cannot say."""

    symptom: str
    fault: str
    devices: int
    found: int
    low: float
    high: float
    guess: float
    verdict: str
    taken_for: tuple[TakenFor, ...]


def class_drill(tries: Iterable[Try]) -> list[FaultInClass]:
    """How a class does at each fault it has met, what it cannot find first. `tries` stand in the order in which they came;
    those at faults that the drill no longer knows are left out."""
    latest: dict[tuple[str, str], dict[str, Try]] = {}
    for one in tries:
        if one.known:
            latest.setdefault((one.symptom, one.fault), {})[one.device] = one
    rows = [_fault(symptom, fault, list(by.values())) for (symptom, fault), by in latest.items()]
    return sorted(rows, key=lambda row: (row.high, row.found / row.devices, -row.devices, row.symptom, row.fault))


def share_found(found: int, devices: int) -> tuple[float, float, float]:
    """The ends of the interval of a share, and how probable it is that the share is below one half."""
    from scipy.special import betainc, betaincinv  # SciPy takes a second to start, and few requests ask for this

    a, b, tail = found + 0.5, devices - found + 0.5, (1.0 - LEVEL) / 2.0
    low = 0.0 if found == 0 else float(betaincinv(a, b, tail))
    high = 1.0 if found == devices else float(betaincinv(a, b, 1.0 - tail))
    return low, high, float(betainc(a, b, HALF))


def _fault(symptom: str, fault: str, tries: Sequence[Try]) -> FaultInClass:
    found = sum(one.found for one in tries)
    low, high, below = share_found(found, len(tries))
    verdict = "not_yet" if below >= LEVEL else "found" if below <= 1.0 - LEVEL else "few"
    wrong = Counter(one.named for one in tries if not one.found)
    return FaultInClass(
        symptom, fault, len(tries), found, low, high,
        1.0 / len(GROUPS[symptom]), verdict,
        tuple(_taken(_case(symptom), fault, named, tries) for named, _ in wrong.most_common()),
    )  # fmt: skip


def _taken(drill: Case, fault: str, named: str, tries: Sequence[Try]) -> TakenFor:
    by = [one for one in tries if one.named == named]
    tells = tuple(hand for hand in drill.hands if not drill.cannot_tell(hand, fault, named))
    return TakenFor(named, len(by), tells, sum(not set(one.hands) & set(tells) for one in by))


def simulated_try(
    rng: np.random.Generator, device: str, symptoms: Sequence[str], never: Sequence[str], most: int, heedless: float = 0.0
) -> Try:
    """A student at a bench in trouble, drawn from some symptoms: tries two to `most` hands at random, none of those that
    `never` come to mind, and names one of the causes that are still possible; `heedless`, from 0 to 1, is how often it is
    any cause at all."""
    symptom = str(rng.choice(symptoms))
    drill = _case(symptom)
    fault = str(rng.choice(GROUPS[symptom]))
    known = [hand for hand in drill.hands if hand not in never]
    hands = [str(hand) for hand in rng.permutation(known)[: rng.integers(2, most + 1)]]
    seen = {hand: drill.answers[fault][hand].code for hand in hands}
    possible = GROUPS[symptom] if rng.random() < heedless else drill.consistent(seen)
    return Try(device, symptom, fault, str(rng.choice(possible)), tuple(hands))


@once
def _case(symptom: str) -> Case:
    return case(symptom)
