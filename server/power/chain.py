"""The class's chain: begun by the teacher, voted on and built by the groups; what is made of it."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from dataclasses import asdict, dataclass
from typing import Any

from django.db import IntegrityError, transaction

from galvanic.bench.chain import Link, Seen, chain_findings, lit_with, nearest, rises, votes_in_words
from galvanic.bench.load_standing import usual_row, volts_standing
from galvanic.bench.pack_steps import CAUTIONS, MOST_POSITION, known_load, too_much, what_is_seen
from galvanic.bench.readings import parse
from galvanic.bench.standing import Standing
from galvanic.cells import Cell
from galvanic.chemistry.expected import how_many
from galvanic.errors import UnreadableReading
from galvanic.findings.power_notes import promise
from galvanic.words import mark, say
from server.base.kept import made_once
from server.base.problems import Problem, Refusal, not_found
from server.entries.once import arrival, keep_once
from server.labs.changes import announce
from server.labs.models import Lab
from server.labs.services import lab_to_change
from server.people.auth import Member
from server.people.models import Group, Teacher
from server.power.entry import ChainEntryIn
from server.power.models import Chain, ChainEntry
from server.power.packs import counting, plates_of
from server.power.schemas import ChainIn, ChainOut, ForetoldOut, LinkOut, PackAsk, PackFindingOut, VotesOut
from server.power.services import cell_named, load_named, measured_cells, pack_of

FORETOLD = 8  # cells in a row that are foretold
MAX_ENTRIES = 200  # of a group: votes changed, cells joined, things seen
VOTING_OVER = Refusal(409, "voting_over", mark("The first cell is joined, so voting is over. Your vote was not recorded."))


@transaction.atomic
def begin_chain(*, actor: Teacher, lab_id: uuid.UUID, data: ChainIn) -> Chain:
    """Begin a chain, which takes the place of an earlier one; the same id again changes nothing.

    Raises Problem: not_found, unknown_material (no such load or cell).
    """
    lab = lab_to_change(actor, lab_id)
    kept = Chain.objects.visible_to(actor).filter(id=data.id).first()
    if kept is not None:
        return kept
    load_named(data.load)
    cell = cell_named(data.cell)
    made = Chain.objects.create(id=data.id, lab=lab, load=data.load.strip(), **_plates(cell))
    announce(lab.id)
    return made


def _plates(cell: Cell) -> dict[str, str]:
    return {"negative": cell.negative, "electrolyte": cell.electrolyte, "positive": cell.positive}


def record_chain_entry(*, actor: Member, entry: ChainEntryIn) -> ChainEntry:
    """Keep what a group does for the chain; the same id again changes nothing.

    Raises Problem: not_found, lab_closed, empty, voting_over, chain_over, unknown_material, unreadable_reading, no_reason,
    already_corrected, or enough; then nothing is kept.
    """
    try:
        return keep_once(ChainEntry, actor, entry.id, lambda: _create(actor, entry))[0]
    except IntegrityError:
        raise Problem(
            409, "already_corrected", say("That number was corrected on another device. Look at it again.")
        ) from None


def _create(actor: Member, entry: ChainEntryIn) -> ChainEntry:
    chain = Chain.objects.visible_to(actor).select_related("lab").filter(id=entry.chain_id).first()
    if chain is None:
        raise not_found("chain")
    when = arrival(chain.lab, entry.clock)
    if _latest(chain.lab) != chain:
        raise Problem(409, "chain_over", say("Your teacher has begun another chain. What you typed was not recorded."))
    if ChainEntry.objects.filter(chain=chain, group_id=actor.group_id).count() >= MAX_ENTRIES:
        raise Problem(
            409,
            "enough",
            say(
                "Your group has {max_entries} entries in this chain, which is the most it can hold.", max_entries=MAX_ENTRIES
            ),
        )
    if entry.kind == "vote":
        if entry.cells is None:
            raise Problem(422, "empty", say("Choose how many cells first."), field="cells")
        first = ChainEntry.objects.filter(chain=chain, kind="link").first()
        if first is not None and (first.taken_at or first.received_at) < when.taken_at:
            raise VOTING_OVER()
    made = ChainEntry.objects.create(
        id=entry.id,
        group_id=actor.group_id,
        chain=chain,
        kind=entry.kind,
        cells=entry.cells if entry.kind == "vote" else None,
        corrects=_corrected(chain, actor, entry),
        reason=entry.reason.strip(),
        **_columns(chain, entry),
        **when.columns,
    )
    announce(actor.lab_id)
    return made


def _columns(chain: Chain, entry: ChainEntryIn) -> dict[str, Any]:
    """What was typed, as the table keeps it."""
    if entry.kind == "vote":
        return {}
    if entry.kind == "seen":
        text = " ".join(entry.text.split())
        if not text:
            raise Problem(422, "empty", say("Choose what you see first."), field="text")
        return {"text": text}
    if (
        entry.corrects is None
        and ChainEntry.objects.filter(chain=chain, kind="link", corrects=None).count() >= MOST_POSITION
    ):
        raise Problem(
            409,
            "enough",
            say("The chain has {most_position} cells, which is the most it can hold.", most_position=MOST_POSITION),
        )
    try:
        volts = parse(entry.text, entry.unit)
    except UnreadableReading as error:
        raise Problem(422, error.code, str(error), field="text") from error
    return plates_of(entry) | {"text": entry.text.strip(), "unit": volts.unit, "value": volts.volts_v}


def _corrected(chain: Chain, actor: Member, entry: ChainEntryIn) -> ChainEntry | None:
    if entry.corrects is None:
        return None
    wrong: ChainEntry | None = (
        ChainEntry.objects.visible_to(actor).filter(chain=chain, id=entry.corrects, kind="link").first()
    )
    if wrong is None or entry.kind != "link":
        raise not_found("entry")
    if not entry.reason.strip():
        raise Problem(422, "no_reason", say("Say in a few words why the first number was wrong."), field="reason")
    if ChainEntry.objects.filter(corrects=wrong).exists():
        raise Problem(409, "already_corrected", say("That number is already corrected. Correct the newer one."))
    return wrong


def _latest(lab: Lab) -> Chain | None:
    chain: Chain | None = Chain.objects.filter(lab=lab).last()
    return chain


def voted_in(labs: Sequence[Lab]) -> dict[uuid.UUID, str]:
    """What groups expected of each lab's chain beside what came, in words, once its first cell is joined. Two queries."""
    latest = {chain.lab_id: chain for chain in Chain.objects.filter(lab__in=labs).prefetch_related("entries__group")}
    told = {lab_id: _told(list(chain.entries.all())) for lab_id, chain in latest.items()}
    return {lab_id: votes_in_words(one.votes, lit_with(one.seen)) for lab_id, one in told.items() if one.links}


@dataclass(frozen=True, slots=True)
class _Told:
    """The entries of a chain as they count."""

    votes: dict[str, int]
    links: list[ChainEntry]
    seen: list[Seen]


def _told(entries: Sequence[ChainEntry]) -> _Told:
    """The latest vote of each group, joined cells in their order (a corrected one in its place), and what was seen when."""
    first_of = {entry.id: entry for entry in entries}

    def root(one: ChainEntry) -> ChainEntry:
        while one.corrects_id is not None:
            one = first_of[one.corrects_id]
        return one

    links = sorted((one for one in counting(entries) if one.kind == "link"), key=lambda one: _at(root(one)))
    seen = [
        Seen(entry.text, sum(_at(root(link)) <= _at(entry) for link in links))
        for entry in sorted(entries, key=_at)
        if entry.kind == "seen"
    ]
    return _Told({entry.group.name: entry.cells or 0 for entry in entries if entry.kind == "vote"}, links, seen)


def _at(entry: ChainEntry) -> Any:
    return (entry.taken_at or entry.received_at, entry.received_at)


def chain_of(actor: Member) -> ChainOut | None:
    """The chain of a group's class."""
    return chain_out(Lab.objects.visible_to(actor).get(), actor.group_id)


def chain_out(lab: Lab, group_id: uuid.UUID | None) -> ChainOut | None:
    """The chain of a lab for its teacher, or for a group, which learns of the others what is read aloud at the front: no
    votes, nothing foretold, no other group's cell alone. None where none was begun. Three queries."""
    chain = _latest(lab)
    if chain is None:
        return None
    entries = list(chain.entries.select_related("group"))
    told = _told(entries)
    volts = measured_cells(lab) if group_id is None else {}

    def alone(entry: ChainEntry) -> float | None:
        cell = Cell(entry.negative, entry.electrolyte, entry.positive)
        other = Cell(entry.positive, entry.electrolyte, entry.negative)
        known = volts.get(cell) or volts.get(other)
        return None if known is None else abs(known[0])

    verdicts = _verdicts(told.links)
    links = [
        Link(alone(one), (one.value or 0.0) if verdict.counts else None)
        for one, verdict in zip(told.links, verdicts, strict=True)
    ]
    load = known_load(chain.load)
    row = None if load is None else load.row
    lit = lit_with(told.seen)
    own = [entry.cells for entry in entries if entry.kind == "vote" and entry.group_id == group_id]
    groups = list(Group.objects.filter(lab=lab).values_list("name", flat=True)) if group_id is None else []
    covered = group_id is not None or (not links and not set(groups) <= set(told.votes))
    return ChainOut(
        id=chain.id,
        load_name=chain.load if load is None else load.name,
        least_v=None if row is None else row.voltage_v.low,
        full_v=None if row is None else row.voltage_v.high,
        short=Cell(chain.negative, chain.electrolyte, chain.positive).short,
        voting=not links,
        covered=covered,
        voted=len(told.votes) if group_id is None else 0,
        my_vote=own[-1] if own else None,
        votes=[] if covered else _votes(told.votes),
        without_vote=[name for name in groups if name not in told.votes],
        foretold=[] if covered else _foretold(lab, chain),
        links=[
            LinkOut(
                id=one.id, group=one.group.name, short=Cell(one.negative, one.electrolyte, one.positive).short,
                negative=one.negative, electrolyte=one.electrolyte, positive=one.positive, alone_v=link.alone_v,
                text=one.text, unit=one.unit, whole_v=link.whole_v, added_v=added,
                why=verdict.why, mine=one.group_id == group_id,
            )
            for one, link, added, verdict in zip(told.links, links, rises(links), verdicts, strict=True)
        ],
        seen=told.seen[-1].text if told.seen else "",
        seen_with=told.seen[-1].cells if told.seen else None,
        lit_with=lit,
        nearest=[] if lit is None else nearest(told.votes, lit),
        harm=too_much(load, next((link.whole_v for link in reversed(links) if link.whole_v is not None), None)),
        findings=[
            PackFindingOut(**asdict(finding) | {"tries": list(finding.tries)})
            for finding in chain_findings(chain.load, links, told.seen)
        ],
        can_be_seen=list(what_is_seen(load)),
        cautions=[say(text) for text in CAUTIONS],
        most=MOST_POSITION,
    )  # fmt: skip


def _verdicts(links: Sequence[ChainEntry]) -> list[Standing]:
    """The verdict on what the row read at each step, by the cells that were joined then."""
    cells = [Cell(one.negative, one.electrolyte, one.positive) for one in links]
    return [volts_standing(one.value or 0.0, usual_row(cells[: place + 1])) for place, one in enumerate(links)]


def _votes(votes: dict[str, int]) -> list[VotesOut]:
    return [
        VotesOut(cells=cells, groups=sorted(name for name, said in votes.items() if said == cells))
        for cells in sorted(set(votes.values()))
    ]


def _foretold(lab: Lab, chain: Chain) -> list[ForetoldOut]:
    """One, two, three … of the class's own cells, before they are joined; kept until the lab's next change."""

    def make() -> list[ForetoldOut]:
        ask = PackAsk(load=chain.load, cell=[f"{chain.negative}|{chain.electrolyte}|{chain.positive}"])
        smallest = how_many(pack_of(lab, ask), load_named(chain.load), FORETOLD)
        return [
            ForetoldOut(cells=n, open_v=one.meeting.open_v, verdict=one.verdict, said=promise(one))
            for n, one in enumerate(smallest, start=1)
        ]

    return made_once(lab, f"chain {chain.id}", make)
