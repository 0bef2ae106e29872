"""What several labs together need more of than there is."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from galvanic.planning.kit import Kit


@dataclass(frozen=True, slots=True)
class Short:
    """A material of which labs to come need more than is there: pieces, or litres."""

    key: str
    needed: float
    there: float
    labs: tuple[str, ...]


def shortages(kits: Iterable[tuple[str, Kit]], there: Mapping[str, float]) -> list[Short]:
    """What is missing for labs, each its title and kit, spares left out; `there`: pieces or litres by key, where counted.

    Plates come back after a lab, so the largest need counts; liquids are used up, so needs add up. A dilution is made from
    a batch that counts already. Materials without a count have enough.
    """
    needed: dict[str, float] = {}
    labs: dict[str, list[str]] = {}
    for title, kit in kits:
        for key, pieces in _plates(kit).items():
            needed[key] = max(needed.get(key, 0.0), pieces)
            labs.setdefault(key, []).append(title)
        for batch in kit.batches:
            if not batch.dilution:
                needed[batch.electrolyte] = needed.get(batch.electrolyte, 0.0) + batch.volume_l
                labs.setdefault(batch.electrolyte, []).append(title)
    return [
        Short(key, amount, there[key], tuple(dict.fromkeys(labs[key])))
        for key, amount in needed.items()
        if key in there and there[key] < amount
    ]


def _plates(kit: Kit) -> dict[str, float]:
    """Plates of a kit by key, spares left out: bare and dull ones of a metal are as many more."""
    plates: dict[str, float] = {}
    for line in kit.plates:
        plates[line.key] = plates.get(line.key, 0.0) + line.total - line.spare
    return plates
