"""The fault drill's pack: three cells in a row and an LED that stays dark, as a circuit, with one thing the matter.

Every hand measures or looks at what the circuit then has. The LED is a diode that asks for some volts before it lets current
through; sizes are common practice, no source.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from galvanic.cells import Cell
from galvanic.notes import MINUS, THIN
from galvanic.words import mark, number, say

CELLS = 3
LED_V, LED_OHM = 1.9, 40.0
METER_OHM = 1e7
PACK_HANDS: Mapping[str, str] = {
    "whole": mark("Measure the whole pack, nothing joined"),
    "each": mark("Measure each cell alone"),
    "loaded": mark("Measure across each cell with the LED on"),
    "joints": mark("Measure across each joint with the LED on"),
    "turn_led": mark("Turn the LED round"),
    "dry": mark("Dry table and cups"),
    "look": mark("Look along the wires and into the cups"),
}


@dataclass(frozen=True, slots=True)
class FaultyPack:
    """Cells in a row: EMFs in V (a turned one below zero), inner resistances and what shorts each, joints, the LED's way."""

    emf_v: tuple[float, ...]
    inner_ohm: tuple[float, ...]
    short_ohm: tuple[float, ...]
    joint_ohm: tuple[float, ...]
    led_right: bool = True

    def source(self, k: int) -> tuple[float, float]:
        """A cell as its neighbours meet it, shorted or not: volts and ohms."""
        short = self.short_ohm[k]
        if math.isinf(short):
            return self.emf_v[k], self.inner_ohm[k]
        total = self.inner_ohm[k] + short
        return self.emf_v[k] * short / total, self.inner_ohm[k] * short / total

    def current_a(self) -> float:
        """Through the LED, A."""
        volts = math.fsum(self.source(k)[0] for k in range(CELLS))
        ohms = math.fsum(self.source(k)[1] for k in range(CELLS)) + math.fsum(self.joint_ohm)
        if not self.led_right or volts <= LED_V:
            return 0.0
        return (volts - LED_V) / (ohms + LED_OHM)

    def open_v(self) -> float:
        """Of the whole, nothing joined, at a meter."""
        volts = math.fsum(self.source(k)[0] for k in range(CELLS))
        ohms = math.fsum(self.source(k)[1] for k in range(CELLS)) + math.fsum(self.joint_ohm)
        return volts * METER_OHM / (METER_OHM + ohms)

    def across_v(self, k: int) -> float:
        """Across a cell with the LED on."""
        volts, ohms = self.source(k)
        return volts - self.current_a() * ohms


def sound_pack(right_v: float, inner_ohm: float) -> FaultyPack:
    """Three sound cells."""
    return FaultyPack((right_v,) * CELLS, (inner_ohm,) * CELLS, (math.inf,) * CELLS, (0.0,) * CELLS)


def _second(values: Sequence[float], value: float) -> tuple[float, ...]:
    return (values[0], value, values[2])


def faulty_pack(key: str, sound: FaultyPack) -> FaultyPack:
    """The pack with a fault, at its second cell or joint."""
    v, r = sound.emf_v[1], sound.inner_ohm[1]
    made = {
        "turned": lambda: replace(sound, emf_v=_second(sound.emf_v, -v)),
        "pack_bridge": lambda: replace(sound, short_ohm=(0.02 * r, 0.02 * r, math.inf)),
        "touching": lambda: replace(sound, short_ohm=_second(sound.short_ohm, 0.01 * r)),
        "pack_joint": lambda: replace(sound, joint_ohm=_second(sound.joint_ohm, 60.0 * r)),
        "led_turned": lambda: replace(sound, led_right=False),
        "worn_cell": lambda: replace(sound, inner_ohm=_second(sound.inner_ohm, 25.0 * r)),
        "dry_layer": lambda: replace(sound, inner_ohm=_second(sound.inner_ohm, 4e6), emf_v=_second(sound.emf_v, 0.9 * v)),
    }
    return made[key]()


def pack_answers(
    cell: Cell, right_v: float, inner_ohm: float, keys: Sequence[str]
) -> Mapping[str, Mapping[str, tuple[str, str]]]:
    """What each hand finds with each fault: as it is read or seen, and a code by which two answers are alike."""
    sound = sound_pack(right_v, inner_ohm)
    return {key: _all(key, faulty_pack(key, sound), sound) for key in keys}


def _all(key: str, pack: FaultyPack, sound: FaultyPack) -> Mapping[str, tuple[str, str]]:
    return {
        "whole": _numbers([pack.open_v()], [sound.open_v()]),
        "each": _numbers(_alone(pack), list(sound.emf_v)),
        "loaded": _numbers([pack.across_v(k) for k in range(CELLS)], [sound.across_v(k) for k in range(CELLS)]),
        "joints": _joints(pack),
        "turn_led": (say("It glows now."), "glows") if key == "led_turned" else (say("Still dark."), "dark"),
        "dry": (say("The table is dry now, and it glows."), "glows")
        if key == "pack_bridge"
        else (say("Dry, and still dark."), "dark"),
        "look": _look(key),
    }


LOOKS = {
    "turned": (mark("At the second cell a wire joins plus to plus."), "turned"),
    "touching": (mark("In the second cup the plates lean together."), "touching"),
    "dry_layer": (mark("The second card is pale and dry at one corner."), "dry"),
}


def _look(key: str) -> tuple[str, str]:
    says, code = LOOKS.get(key, (mark("Cups apart, plates apart, wires from plus to minus."), "as_drawn"))
    return say(says), code


def _alone(pack: FaultyPack) -> list[float]:
    """Each cell with the pack taken apart: what joins cups is then gone, what is inside a cup stays; black on its minus."""
    out = []
    for k in range(CELLS):
        bridged = not math.isinf(pack.short_ohm[0])
        short = math.inf if bridged else pack.short_ohm[k]
        volts = abs(pack.emf_v[k])
        ohms = pack.inner_ohm[k]
        if not math.isinf(short):
            volts, ohms = volts * short / (ohms + short), ohms * short / (ohms + short)
        out.append(volts * METER_OHM / (METER_OHM + ohms))
    return out


def _numbers(found: Sequence[float], right: Sequence[float]) -> tuple[str, str]:
    text = ", ".join(f"{number(v, '.2f')}{THIN}V".replace("-", MINUS) for v in found)
    code = ",".join("right" if abs(v - ok) <= 0.06 else "minus" if v < -0.06 else "nothing" if v < 0.06 else
                    "less" if v < ok else "more" for v, ok in zip(found, right, strict=True))  # fmt: skip
    return text, code


def _joints(pack: FaultyPack) -> tuple[str, str]:
    """Volts lost at each joint while the LED is on."""
    lost = [pack.current_a() * ohm for ohm in pack.joint_ohm]
    text = ", ".join(f"{number(v, '.2f')}{THIN}V" for v in lost)
    return text, ",".join("lost" if v > 0.05 else "none" for v in lost)
