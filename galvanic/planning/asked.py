"""What a lab asks for besides open voltages: a short circuit, a resistor, packs; and what has to be there for it.

Amounts are for one group; common practice, no source.
"""

from __future__ import annotations

from dataclasses import dataclass

from galvanic.words import mark, say

PACK_CUPS = 5  # of a group's pack: common practice, no source


@dataclass(frozen=True, slots=True)
class Asked:
    """Measurements besides the open voltage; `load_ohm` None: no resistor."""

    short_circuit: bool = False
    load_ohm: float | None = None
    packs: bool = False

    @property
    def keys(self) -> tuple[str, ...]:
        """Which rules of hazards.toml it brings."""
        named = (("short", self.short_circuit), ("load", self.load_ohm is not None), ("packs", self.packs))
        return tuple(key for key, asked in named if asked)

    @property
    def bench(self) -> tuple[tuple[str, int, str], ...]:
        """What a bench needs for it: name, how many, what for."""
        out: list[tuple[str, int, str]] = []
        if self.short_circuit or self.packs:
            out.append(
                (say("ammeter: a multimeter with DC mA and a sound fuse"), 1, say("the red lead goes to its mA socket"))
            )
        if self.load_ohm is not None:
            out.append(
                (say("resistor, {load_ohm:g} Ω", load_ohm=self.load_ohm), 1, say("across the two clips, for seconds"))
            )
        if self.packs:
            out += [
                (say("wire with a clip at each end"), 6, say("plus of one cup to minus of the next, and to the load")),
                (say("small cup for packs"), PACK_CUPS, say("each cell in a cup of its own; cups do not touch")),
                (say("red LED, clear, low current"), 2, say("the long leg is plus")),
                (say("resistor, 470 Ω"), 1, say("a load that takes any voltage")),
            ]
        return tuple(out)


ASKED = ("short", "load", "packs")
WORDS = {
    "short": mark("the short-circuit current"),
    "load": mark("a resistor across the cell"),
    "packs": mark("packs of cells"),
}
