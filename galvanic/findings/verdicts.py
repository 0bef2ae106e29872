"""What a claim is tested on, and what becomes of it."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from typing import Literal

from galvanic.cells import Cell
from galvanic.chemistry.gap import Gap, explain
from galvanic.errors import NotEnoughData
from galvanic.findings.by_variable import AS_PLANNED, Really
from galvanic.findings.compare import CellResult, ElectrolyteResult
from galvanic.words import say

MATTERS_V = 0.05  # a cause below this explains nothing that a class can see

Code = Literal["fits", "part", "cancels", "cannot_tell", "contradicted"]


@dataclass(frozen=True, slots=True)
class Verdict:
    """What becomes of a claim, with its numbers in words and a question back.

    fits: it is what happened, or the larger part of it; part: there, and a smaller part; cancels: there, and does not make
    this gap; cannot_tell: the data do not say; contradicted: not there.
    """

    code: Code
    text: str
    question: str


@dataclass(frozen=True, slots=True)
class ClaimData:
    """What a claim is tested on: the cell as the class found it, the group, all results, and where the volts went."""

    group: str
    cell: Cell
    found: CellResult
    results: Sequence[ElectrolyteResult]
    gap: Gap
    really: Really = field(default_factory=lambda: AS_PLANNED)

    def by_plate(self, *codes: str) -> list[tuple[str, float]]:
        """What causes of these kinds add to the cell's voltage through each plate, V, the positive one first; plates whose
        part is too small to see are left out."""
        plates = []
        for plate in (self.cell.positive, self.cell.negative):
            part = math.fsum(c.volts_v for c in self.gap.parts if c.plate == plate and c.code in codes)
            if abs(part) >= MATTERS_V:
                plates.append((plate, part))
        return plates

    @property
    def left_v(self) -> float:
        """What no cause explains, V."""
        return self.from_causes("left")

    def from_causes(self, *codes: str) -> float:
        """What causes of these kinds that belong to no plate add to the cell's voltage, V."""
        return math.fsum(cause.volts_v for cause in self.gap.parts if cause.code in codes)

    def own_and_others(self) -> tuple[float | None, list[float]]:
        """The group's mean of the cell (None without one) and the other groups', V."""
        means = {g.group: g.summary.mean_v for g in self.found.groups}
        own = means.pop(self.group, None)
        return own, list(means.values())

    @property
    def missing_v(self) -> float:
        """Measured less where the gap starts, V."""
        return self.gap.measured_v - self.gap.start_v


def data_of(group: str, cell: Cell, results: Sequence[ElectrolyteResult], really: Really = AS_PLANNED) -> ClaimData:
    """Collect what a claim about a cell is tested on; `really`: what cells were really set to.

    Raises NotEnoughData where the cell is not measured."""
    for result in results:
        for one in result.cells:
            if one.cell == cell:
                return ClaimData(group, cell, one, results, explain(cell, one.mean_v), really)
    raise NotEnoughData(say("This cell has no reading that counts yet."))


Test = Callable[[ClaimData], Verdict]
