"""The class's chain: every group's cell in one row, one after the other, voted on before and read at every step."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from galvanic.bench.pack_faults import pack_findings
from galvanic.bench.pack_record import PackFinding, PackRecord
from galvanic.bench.pack_steps import LIT, known_load
from galvanic.words import say, say_n

MOST_VOTED = 12  # cells: what a pack may hold


@dataclass(frozen=True, slots=True)
class Link:
    """A cell of the chain: what the class has of it alone, V (None where nobody measured it), and what the whole row read
    with it joined, V (None where that number does not count)."""

    alone_v: float | None
    whole_v: float | None


@dataclass(frozen=True, slots=True)
class Seen:
    """What the load was seen to do, and with how many cells joined."""

    text: str
    cells: int


def rises(links: Sequence[Link]) -> list[float | None]:
    """What each cell added to the row, V: what was read with it less what was read before it; None without one of them."""
    before = [0.0, *(link.whole_v for link in links)]
    return [
        None if link.whole_v is None or earlier is None else link.whole_v - earlier
        for link, earlier in zip(links, before, strict=False)
    ]


def chain_findings(load: str, links: Sequence[Link], seen: Sequence[Seen]) -> list[PackFinding]:
    """What the numbers of the chain say is off, as of any pack."""
    record = PackRecord(
        alone_v=tuple(link.alone_v for link in links),
        sums_v=tuple(link.whole_v for link in links),
        load=known_load(load),
        under_v=(None,) * len(links),
        lit=seen[-1].text in LIT if seen else None,
    )
    return pack_findings(record)


def lit_with(seen: Iterable[Seen]) -> int | None:
    """With how many cells the load first ran; None as long as it has not."""
    return min((one.cells for one in seen if one.text in LIT), default=None)


def nearest(votes: Mapping[str, int], lit: int) -> list[str]:
    """The groups whose vote came nearest to the count that it took, in alphabetical order."""
    least = min((abs(cells - lit) for cells in votes.values()), default=0)
    return sorted(group for group, cells in votes.items() if abs(cells - lit) == least)


def votes_in_words(votes: Mapping[str, int], lit: int | None) -> str:
    """What groups expected of a chain, beside with how many cells its load ran (None: it was not seen to)."""
    if not votes:
        return ""
    low, high = min(votes.values()), max(votes.values())
    said = say_n("{n} group voted for {cells} cells.", "{n} groups voted for {cells} cells.", len(votes), cells=low)
    if low < high:
        said = say("{n} groups voted for {low} to {high} cells.", n=len(votes), low=low, high=high)
    if lit is None:
        return said
    near = ", ".join(nearest(votes, lit))
    return f"{said} " + say("It ran with {lit}; nearest: {groups}.", lit=lit, groups=near)
