"""The fault drill: something is the matter at a bench, hands try it, and the cause is named.

A case is called out by its symptom only, so the picture never decides: every fault has at least three others that are called
the same. Each hand has the consequence that the circuit gives (`drill_bench.py`, `drill_packs.py`); what two causes would
have answered alike, a hand cannot tell apart, and that is said. The list of faults is that of the checks and of packs
(`faults.toml`).
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cache

from galvanic.bench.faults import Fault, faults
from galvanic.cells import Cell
from galvanic.chemistry.polarisation import LoadedCell
from galvanic.chemistry.shorted import short_circuit
from galvanic.simulated.drill_bench import FaultyBench, kind_of, text_of
from galvanic.simulated.drill_packs import PACK_HANDS, pack_answers
from galvanic.words import mark, say

GROUPS: Mapping[str, tuple[str, ...]] = {
    "zero": ("bridged", "same_metal", "open_clip", "wrong_socket", "loose"),
    "low": ("far", "drifting", "loose", "bridged"),
    "high": ("millivolts", "digit", "too_high", "meter_off", "ohm_range"),
    "minus": ("reversed", "same_metal", "far", "drifting"),
    "pack": ("turned", "pack_bridge", "touching", "pack_joint", "led_turned", "worn_cell", "dry_layer"),
}
USUAL: tuple[str, ...] = tuple(symptom for symptom in GROUPS if symptom != "pack")  # of a lab without packs
HANDS: Mapping[str, str] = {
    "read": mark("Read the meter yourself"),
    "swap": mark("Swap the leads"),
    "wait": mark("Wait a minute"),
    "dry_cell": mark("Try a dry cell"),
    "wipe": mark("Lift and dry the clips"),
    "press": mark("Press the clips on bare metal"),
    "rub": mark("Rub both plates, dip again"),
    "plates": mark("Look what the plates are"),
    "dial": mark("Look at the dial and the sockets"),
    "wires": mark("Follow the wires"),
}


@dataclass(frozen=True, slots=True)
class Answer:
    """What a hand finds: as it is read or seen, and a code by which two answers are the same to whoever looks."""

    says: str
    code: str


@dataclass(frozen=True, slots=True)
class Case:
    """A bench in trouble: the symptom it is called out by, its cell, what sister cells read, and the answers of every
    possible cause to every hand."""

    symptom: str
    cell: Cell
    right_v: float
    hands: Mapping[str, str]
    answers: Mapping[str, Mapping[str, Answer]]

    def consistent(self, seen: Mapping[str, str]) -> tuple[str, ...]:
        """The causes that would have given all answers that were seen (code by hand)."""
        return tuple(key for key, own in self.answers.items() if all(own[hand].code == code for hand, code in seen.items()))

    def best_hand(self, causes: Sequence[str], used: Sequence[str] = ()) -> str:
        """The hand whose answer is expected to leave the fewest causes; the first of equals."""

        def left(hand: str) -> float:
            groups: dict[str, int] = defaultdict(int)
            for key in causes:
                groups[self.answers[key][hand].code] += 1
            return math.fsum(n * n for n in groups.values()) / len(causes)

        return min((hand for hand in self.hands if hand not in used), key=left)

    def cannot_tell(self, hand: str, one: str, other: str) -> bool:
        """Whether a hand would have answered two causes alike."""
        return self.answers[one][hand].code == self.answers[other][hand].code


@cache
def cell_of(symptom: str) -> tuple[Cell, float, float]:
    """The cell at which a symptom is drilled, its volts and inner resistance by the core. A minus is drilled where little is
    expected, or its size alone would tell."""
    cell = Cell.of("tin", "lemon-juice", "copper") if symptom == "minus" else Cell.of("zinc", "lemon-juice", "copper")
    loaded = LoadedCell.of(cell)
    low_v, high_v = loaded.rest()
    return cell, high_v - low_v, abs(high_v - low_v) / short_circuit(loaded).first_a


def case(symptom: str) -> Case:
    """The case of a symptom, with the answers of all causes that can be behind it. Raises KeyError for no such symptom."""
    cell, right_v, inner_ohm = cell_of(symptom)
    if symptom == "pack":
        return Case(symptom, cell, right_v, PACK_HANDS, _as_answers(pack_answers(cell, right_v, inner_ohm, GROUPS[symptom])))
    sound = FaultyBench(right_v, inner_ohm)
    answers = {key: {hand: _answer(hand, key, symptom, sound) for hand in HANDS} for key in GROUPS[symptom]}
    return Case(symptom, cell, right_v, HANDS, answers)


def _as_answers(found: Mapping[str, Mapping[str, tuple[str, str]]]) -> Mapping[str, Mapping[str, Answer]]:
    return {key: {hand: Answer(*pair) for hand, pair in own.items()} for key, own in found.items()}


def faulty(key: str, symptom: str, sound: FaultyBench) -> FaultyBench:
    """The bench with a fault."""
    v = sound.emf_v
    weak = symptom == "low"
    made: dict[str, Callable[[], FaultyBench]] = {
        "reversed": lambda: replace(sound, turned=True),
        "bridged": lambda: replace(sound, bridge_ohm=sound.inner_ohm * (1.0 if weak else 0.03)),
        "same_metal": lambda: replace(sound, emf_v=-0.02 if symptom == "minus" else 0.02),
        "open_clip": lambda: replace(sound, clips_ohm=(math.inf, math.inf)),
        "drifting": lambda: replace(sound, missing_v=v + 0.09 if symptom == "minus" else 0.45 * v),
        "loose": lambda: replace(sound, clips_ohm=(math.inf, 0.0) if not weak else (1.2e7, 0.0)),
        "far": lambda: replace(sound, film_v=v + 0.12 if symptom == "minus" else 0.4 * v),
        "too_high": lambda: replace(sound, other_v=DRY_V),
        "meter_off": lambda: replace(sound, flat=True),
        "ohm_range": lambda: replace(sound, dial="ohms"),
        "wrong_socket": lambda: replace(sound, ma_socket=True),
        "millivolts": lambda: sound,
        "digit": lambda: sound,
    }
    return made[key]()


DRY_V = 1.56


def _answer(hand: str, key: str, symptom: str, sound: FaultyBench) -> Answer:
    bench = faulty(key, symptom, sound)
    return HAND_DOES[hand](key, bench, sound)


def _shown(bench: FaultyBench, sound: FaultyBench) -> Answer:
    """Two looks at the display: a number, or one that comes and goes."""
    first, second = bench.shows(0), bench.shows(1)
    if first is not None and second is not None and abs(first - second) > 0.05:
        return Answer(
            say("{text_of}, then {text_of2}, then back", text_of=text_of(first, bench), text_of2=text_of(second, bench)),
            "jumps",
        )
    return Answer(text_of(first, bench), kind_of(first, sound.emf_v))


def _read(key: str, bench: FaultyBench, sound: FaultyBench) -> Answer:
    shown = _shown(bench, sound)
    if key == "millivolts":
        return Answer(say("{emf_v:.0f}\u202fmV on the display; they wrote V", emf_v=1000.0 * sound.emf_v), "unit")
    if key == "digit":
        return Answer(
            say(
                "{text_of} on the display; they wrote {emf_v:.1f}",
                text_of=text_of(sound.emf_v, bench),
                emf_v=10.0 * sound.emf_v,
            ),
            "point",
        )
    return shown


def _swap(key: str, bench: FaultyBench, sound: FaultyBench) -> Answer:
    turned = replace(bench, turned=not bench.turned)
    shown = _shown(turned, sound)
    return Answer(shown.says, shown.code)


def _wait(key: str, bench: FaultyBench, sound: FaultyBench) -> Answer:
    now, later = bench.shows(0), bench.later().shows(0)
    if bench.clips_ohm[0] != bench.clips_ohm[1]:
        return Answer(say("It jumps about, with nobody near it."), "jumps")
    if now is None or later is None:
        return Answer(text_of(now, bench), "no_number")
    if abs(later - now) > 0.02:
        return Answer(
            say("{text_of}, a minute later {text_of2}", text_of=text_of(now, bench), text_of2=text_of(later, bench)),
            "climbs",
        )
    return Answer(say("{text_of}, and the same a minute later", text_of=text_of(now, bench)), "steady")


def _dry_cell(key: str, bench: FaultyBench, sound: FaultyBench) -> Answer:
    on = bench.dry_cell()
    shown = on.shows()
    return Answer(text_of(shown, on), kind_of(shown, DRY_V))


def _mended(bench: FaultyBench, sound: FaultyBench, **change: object) -> Answer:
    after = replace(bench, **change)  # type: ignore[arg-type]
    shown = _shown(after, sound)
    before = _shown(bench, sound)
    return Answer(
        say("{says} now", says=shown.says) if shown.says != before.says else say("{says}, as before", says=shown.says),
        shown.code,
    )


def _wipe(key: str, bench: FaultyBench, sound: FaultyBench) -> Answer:
    return _mended(bench, sound, bridge_ohm=math.inf)


def _press(key: str, bench: FaultyBench, sound: FaultyBench) -> Answer:
    return _mended(bench, sound, clips_ohm=(0.0, 0.0))


def _rub(key: str, bench: FaultyBench, sound: FaultyBench) -> Answer:
    missing = 0.45 * abs(sound.emf_v) if bench.missing_v else 0.0  # freshly dipped, it has to settle once more
    return _mended(bench, sound, film_v=0.0, missing_v=missing)


def _plates(key: str, bench: FaultyBench, sound: FaultyBench) -> Answer:
    if key == "same_metal":
        return Answer(say("Both plates are stamped with the same metal."), "same")
    return Answer(say("Two metals, as on the drawing."), "as_drawn")


def _dial(key: str, bench: FaultyBench, sound: FaultyBench) -> Answer:
    if bench.dial == "ohms":
        return Answer(say("The dial stands on Ω."), "ohms")
    if bench.ma_socket:
        return Answer(say("DC volts, but the red lead sits in the mA socket."), "socket")
    return Answer(say("DC volts, leads in COM and V."), "as_it_should")


def _wires(key: str, bench: FaultyBench, sound: FaultyBench) -> Answer:
    if bench.other_v:
        return Answer(say("A dry cell is still in the circuit."), "other")
    if bench.turned:
        return Answer(say("Red goes to the plate that is drawn with black."), "crossed")
    return Answer(say("One cell and the meter, red where it is drawn."), "as_drawn")


HAND_DOES: Mapping[str, Callable[[str, FaultyBench, FaultyBench], Answer]] = {
    "read": _read, "swap": _swap, "wait": _wait, "dry_cell": _dry_cell, "wipe": _wipe, "press": _press, "rub": _rub,
    "plates": _plates, "dial": _dial, "wires": _wires,
}  # fmt: skip


def drilled() -> Mapping[str, Fault]:
    """The faults that the drill knows, by key, in the order of the list."""
    known = {key for group in GROUPS.values() for key in group}
    return {key: fault for key, fault in faults().items() if key in known}
