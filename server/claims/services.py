"""Keeping claims and answers, and what the core makes of a claim."""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import asdict, dataclass, replace
from datetime import timedelta
from typing import Any

from django.db import transaction
from django.db.models import Prefetch
from django.utils import timezone

from galvanic.bench.readings import parse
from galvanic.errors import NotEnoughData, UnreadableReading
from galvanic.findings.by_variable import Really
from galvanic.findings.claims import CAUSES, weigh, weigh_ladder
from galvanic.findings.compare import ElectrolyteResult
from galvanic.findings.misconceptions import Heard, heard_in, keys_heard
from galvanic.findings.own_tests import BenchTest, earlier, tests_of, weigh_test
from galvanic.findings.pack_claims import PACK_CAUSES, PackCause, weigh_all, weigh_pack
from galvanic.findings.rubric import Row, usual_rubric
from galvanic.findings.verdicts import ClaimData, Verdict, data_of
from galvanic.words import mark, say, speaking
from server.base.problems import Problem, not_found
from server.claims.schemas import ClaimIn, MeantIn, OwnTestIn
from server.entries.models import Reading
from server.entries.once import keep_once
from server.findings.models import Answer, Claim, Meant, OwnTest
from server.labs.changes import announce
from server.labs.models import Lab, PlannedCell
from server.labs.services import lab_to_change
from server.people.auth import Member
from server.people.deeds import keep_deed
from server.people.models import Teacher
from server.people.sharing import to_change
from server.power.models import Pack
from server.power.packs import made_of
from server.power.runs import data_of_pack

MAX_CLAIMS, MAX_CITED = 60, 30
MAX_TESTS = 12
MAX_ROWS, MOST_POINTS = 8, 20
NONE_CITED = mark("No reading is cited. Which of yours shows it?")


@dataclass(frozen=True, slots=True)
class Tested:
    """What the core says of a claim: its verdict, what the cited readings lack, and misconceptions heard in it."""

    verdict: Verdict
    evidence: str
    heard: Sequence[Heard]


def record_claim(*, actor: Member, entry: ClaimIn) -> Claim:
    """Keep a version of a claim; the same id again changes nothing.

    Raises Problem: not_released, not_found (cell, reading or earlier version), cause, empty, already_revised, or enough.
    """

    def create() -> Claim:
        lab = _asked_for(actor)
        if entry.cause not in (CAUSES if entry.pack is None else PACK_CAUSES):
            raise Problem(422, "cause", say("Choose one of the causes."), field="cause")
        reasoning = entry.reasoning.strip()
        if not reasoning:
            raise Problem(422, "empty", say("Write why your readings show it."), field="reasoning")
        about = entry.cell.model_dump() if entry.cell else {}
        if about and not PlannedCell.objects.filter(group__lab=lab, **about).exists():
            raise not_found("cell")
        if entry.pack is not None and (about or not Pack.objects.visible_to(actor).filter(id=entry.pack).exists()):
            raise not_found("pack")
        cited = list(dict.fromkeys(entry.cited))[:MAX_CITED]
        if Reading.objects.visible_to(actor).filter(id__in=cited).count() != len(cited):
            raise not_found("reading")
        if Claim.objects.visible_to(actor).count() >= MAX_CLAIMS:
            raise Problem(
                409,
                "enough",
                say("Your group has {max_claims} versions of claims, which is the most it can hold.", max_claims=MAX_CLAIMS),
            )
        announce(actor.lab_id, actor.group_id)
        return Claim.objects.create(
            id=entry.id, group_id=actor.group_id, **about, pack=entry.pack, cause=entry.cause, reasoning=reasoning,
            against=" ".join(entry.against.split()), cited=cited, may_show=entry.may_show,
            revises=_earlier(actor, entry), received_at=timezone.now(),
        )  # fmt: skip

    return keep_once(Claim, actor, entry.id, create)[0]


def _asked_for(actor: Member) -> Lab:
    """The group's lab, if its teacher has asked for claims. Raises Problem: not_released."""
    lab = Lab.objects.visible_to(actor).get()
    if "claims" not in lab.released:
        raise Problem(403, "not_released", say("Your teacher has not asked for claims yet. What you typed stays here."))
    return lab


def record_test(*, actor: Member, claim_id: uuid.UUID, entry: OwnTestIn) -> OwnTest:
    """Keep what a group did to test its claim; the same id again changes nothing.

    Raises Problem: not_released, not_found (claim), test, unreadable, or enough.
    """

    def create() -> OwnTest:
        _asked_for(actor)
        claim = Claim.objects.visible_to(actor).filter(id=claim_id).first()
        if claim is None:
            raise not_found("claim")
        if entry.test not in {test.key for test in offered(claim)}:
            raise Problem(422, "test", say("Choose what you did."), field="test")
        volts_v = {}
        for field, text in (("before", entry.before), ("after", entry.after)):
            try:
                volts_v[field] = parse(text).volts_v
            except UnreadableReading as error:
                raise Problem(422, "unreadable", str(error), field=field) from error
        if OwnTest.objects.filter(claim=claim).count() >= MAX_TESTS:
            raise Problem(
                409, "enough", say("A claim holds {max_tests} tests. Revise it to go on testing.", max_tests=MAX_TESTS)
            )
        announce(actor.lab_id, actor.group_id)
        return OwnTest.objects.create(
            id=entry.id, group_id=actor.group_id, claim=claim, test=entry.test, before_text=entry.before.strip(),
            after_text=entry.after.strip(), before_v=volts_v["before"], after_v=volts_v["after"], received_at=timezone.now(),
        )  # fmt: skip

    return keep_once(OwnTest, actor, entry.id, create)[0]


def record_meant(*, actor: Member, claim_id: uuid.UUID, entry: MeantIn) -> Meant:
    """Keep whether a group means what was heard in its claim; once said it stays, a new version of the claim is asked anew.

    Raises Problem: not_released, not_found (claim), or belief.
    """

    def create() -> Meant:
        _asked_for(actor)
        claim = Claim.objects.visible_to(actor).filter(id=claim_id).first()
        if claim is None:
            raise not_found("claim")
        if entry.belief not in keys_heard(claim.reasoning):
            raise Problem(422, "belief", say("That was not heard in this claim."), field="belief")
        if said := Meant.objects.filter(claim=claim, belief=entry.belief).first():
            return said
        announce(actor.lab_id, actor.group_id)
        return Meant.objects.create(
            id=entry.id, group_id=actor.group_id, claim=claim, belief=entry.belief, yes=entry.yes, received_at=timezone.now()
        )

    return keep_once(Meant, actor, entry.id, create)[0]


def offered(claim: Claim) -> tuple[BenchTest, ...]:
    """What a group can do at its bench to test a claim about a cell; nothing about a pack or the whole ladder."""
    cell = claim.cell
    return () if cell is None or claim.pack is not None else tests_of(claim.cause, cell)


def weighed_tests(claim: Claim) -> list[tuple[OwnTest, BenchTest, Verdict]]:
    """The tests of a claim that were done, with what their readings say of it."""
    known = {test.key: test for test in offered(claim)}
    done = [(row, known.get(row.test) or earlier(row.test)) for row in claim.tests.all()]
    return [(row, test, weigh_test(test, row.before_v, row.after_v)) for row, test in done]


def _earlier(actor: Member, entry: ClaimIn) -> Claim | None:
    if entry.revises is None:
        return None
    earlier = Claim.objects.visible_to(actor).filter(id=entry.revises).first()
    if earlier is None:
        raise not_found("claim")
    if Claim.objects.filter(revises=earlier).exists():
        raise Problem(409, "already_revised", say("That version is revised already. Revise the newest one."))
    return earlier


def tested(
    claim: Claim,
    results: Sequence[ElectrolyteResult],
    cited: Sequence[Reading],
    packs: Mapping[uuid.UUID, Pack],
    really: Really,
) -> Tested:
    """Weigh a claim against chemistry and the class's data as they are now; of a pack, against the pack's own numbers."""
    cell, group = claim.cell, claim.group.name
    if claim.pack is not None:
        return Tested(weigh_pack(claim.cause, data_of_pack(packs[claim.pack])), "", ())
    try:
        if cell is None:
            widest = next(one.cell for result in results for one in result.cells)
            heard = heard_in(claim.reasoning, data_of(group, widest, results))
            return Tested(
                _borne_out(weigh_ladder(claim.cause, group, results, really), cited), "" if cited else say(NONE_CITED), heard
            )
        data = data_of(group, cell, results, really)
    except (NotEnoughData, StopIteration):
        return Tested(
            Verdict("cannot_tell", say("This has no reading that counts yet."), say("Which of your readings shows it?")),
            "",
            (),
        )
    return Tested(_borne_out(weigh(claim.cause, data), cited), _evidence(data, cited), heard_in(claim.reasoning, data))


def _borne_out(verdict: Verdict, cited: Sequence[Reading]) -> Verdict:
    """A claim that cites nothing is borne out by nothing, whatever the class's numbers say."""
    if cited or verdict.code not in ("fits", "part"):
        return verdict
    return Verdict("cannot_tell", verdict.text, say("Which of your readings shows it?"))


def _evidence(data: ClaimData, cited: Sequence[Reading]) -> str:
    """What the cited readings lack as evidence; empty where they are of the cell and count."""
    if not cited:
        return say(NONE_CITED)
    if all(reading.cell.cell != data.cell for reading in cited):
        return say("The readings you cite are of other cells than {short}. Do they bear on it?", short=data.cell.short)
    if any(reading.aside for reading in cited):
        return say("One of the readings you cite is set aside. Does the claim stand without it?")
    return ""


@transaction.atomic
def answer_claim(*, actor: Teacher, claim_id: uuid.UUID, text: str, marks: dict[str, float], shown: bool) -> Answer:
    """Keep the teacher's answer to a claim. Raises Problem: not_found, marks, or no_leave (the group has not agreed)."""
    claim: Claim = to_change(Claim.objects.select_related("group__lab"), actor, claim_id, "claim")
    if shown and not claim.may_show:
        raise Problem(
            409, "no_leave", say("{name} has not agreed to have this claim shown. Ask them.", name=claim.group.name)
        )
    rows = {row["name"]: float(row["most"]) for row in rubric_of(claim.group.lab)}
    for name, points in marks.items():
        if name not in rows or not 0.0 <= points <= rows[name]:
            raise Problem(422, "marks", say("Marks lie between 0 and the most of their row."), field="marks")
    announce(claim.group.lab_id, claim.group_id)
    keep_deed(actor, "answered", claim.group.lab, claim.group.name)
    return Answer.objects.create(claim=claim, teacher=actor, text=" ".join(text.split()), marks=marks, shown=shown)


def rubric_of(lab: Lab) -> list[dict[str, Any]]:
    """The lab's rubric, the usual one where the teacher has made none, in the lab's language: marks go by its names."""
    with speaking(lab.language):
        return list(lab.rubric) or [asdict(row) for row in usual_rubric()]


@transaction.atomic
def set_rubric(*, actor: Teacher, lab_id: uuid.UUID, rows: Sequence[Row]) -> Lab:
    """Set the rows of the rubric with their levels. Raises Problem: not_found, or rubric."""
    lab = lab_to_change(actor, lab_id)
    tidy = [replace(row, name=" ".join(row.name.split())) for row in rows if row.name.strip()]
    if not 1 <= len(tidy) <= MAX_ROWS or len({row.name for row in tidy}) != len(tidy):
        raise Problem(
            422, "rubric", say("A rubric has 1 to {max_rows} rows, each with its own name.", max_rows=MAX_ROWS), field="rows"
        )
    if any(not 1 <= row.most <= MOST_POINTS for row in tidy):
        raise Problem(422, "rubric", say("A row gives 1 to {most_points} points.", most_points=MOST_POINTS), field="rows")
    if any(not 0 <= one.points <= row.most for row in tidy for one in row.levels):
        raise Problem(422, "rubric", say("A level gives from 0 to the most points of its row."), field="rows")
    lab.rubric = [asdict(row) for row in tidy]
    lab.save(update_fields=["rubric"])
    keep_deed(actor, "rubric", lab)
    return lab


def claims_of(actor: Teacher | Member, lab: Lab) -> list[Claim]:
    """The claims of a lab that its teacher or a group of it sees, all versions, oldest first, with their answers."""
    answers = Prefetch("answers", queryset=Answer.objects.order_by("at", "id"))
    rows = Claim.objects.visible_to(actor).filter(group__lab=lab)
    return list(rows.select_related("group").prefetch_related(answers, "tests", "meant"))


HOLD_S, MOST_HOLD_S, SOON = 30.0, 180.0, timedelta(minutes=10)


@dataclass(frozen=True, slots=True)
class Tries:
    """How often a group has tried: versions about the same thing up to this one, different causes among them, and how long
    the verdict is held back from it, s."""

    versions: int
    causes: int
    hold_s: float


def tries_among(rows: Iterable[Claim]) -> dict[uuid.UUID, Tries]:
    """Of claims in the order in which they came, the tries of each. The verdict on a first one comes at once; each version
    that follows within ten minutes waits half a minute longer, so that nobody clicks through all causes."""
    earlier: dict[tuple[object, ...], list[Claim]] = defaultdict(list)
    found = {}
    for claim in rows:
        about = earlier[
            claim.group_id, claim.negative, claim.electrolyte, claim.positive, claim.condition, claim.pack
        ]  # fmt: skip
        soon = sum(claim.received_at - one.received_at <= SOON for one in about)
        about.append(claim)
        found[claim.id] = Tries(len(about), len({one.cause for one in about}), min(HOLD_S * soon, MOST_HOLD_S))
    return found


def packs_in(claims: Iterable[Claim]) -> dict[uuid.UUID, Pack]:
    """The packs that claims are about, by id, with their entries; two queries, none without such claims."""
    keys = {claim.pack for claim in claims if claim.pack is not None}
    if not keys:
        return {}
    return {
        one.id: one for one in Pack.objects.filter(id__in=keys).select_related("group").prefetch_related("entries", "files")
    }


def weighed_packs(packs: Iterable[Pack]) -> list[tuple[Pack, list[tuple[PackCause, Verdict]]]]:
    """Packs of a class whose numbers say anything of why they fell short, each with every cause and what they say to it."""
    every = [(pack, weigh_all(data_of_pack(pack))) for pack in packs]
    return [(pack, weighed) for pack, weighed in every if any(verdict.code == "fits" for _, verdict in weighed)]


def name_of_pack(pack: Pack) -> str:
    """A pack in a few words."""
    record, _ = made_of(pack, list(pack.entries.all()))
    n, load = len(record.sums_v), record.load
    cells = say("one cell") if n == 1 else say("{n} in a row", n=n)
    if load is None or load.row is None:
        return say("{cells} with {load}", cells=cells, load=pack.load if load is None else load.name)
    return say("{cells} for the {name}", cells=cells, name=load.name)


def cited_in(claims: Iterable[Claim]) -> dict[uuid.UUID, Reading]:
    """The readings that claims cite, by id; one query."""
    cited = {key for claim in claims for key in claim.cited}
    rows = Reading.objects.with_aside().filter(id__in=cited).select_related("cell")
    return {reading.id: reading for reading in rows}
