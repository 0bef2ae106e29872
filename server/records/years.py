"""Labs of several classes laid over each other."""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Collection, Sequence
from typing import Any

from galvanic.errors import NotEnoughData
from galvanic.findings.compare import ElectrolyteResult, fingerprint
from galvanic.findings.years import LEAST_FOR_FORETELLING, Years, years
from galvanic.words import say
from server.base.problems import Problem, not_found
from server.findings.services import compare_lab
from server.labs.models import Lab
from server.people.models import Teacher

MOST_LABS, MOST_EARLIER = 30, 12
Bath = tuple[str, str]


def labs_laid_over(actor: Teacher, ids: Sequence[uuid.UUID]) -> list[Lab]:
    """Chosen labs that the teacher sees, oldest first. Raises Problem: not_found, or too_many."""
    if len(ids) > MOST_LABS:
        raise Problem(
            422, "too_many", say("At most {most_labs} labs are laid over each other.", most_labs=MOST_LABS), field="lab"
        )
    labs = list(Lab.objects.visible_to(actor).filter(id__in=ids).order_by("date", "created_at"))
    if len(labs) != len(set(ids)):
        raise not_found("lab")
    return labs


def named(labs: Sequence[Lab]) -> dict[uuid.UUID, str]:
    """A name for each lab that no other of them has: its title, with its date where titles are alike."""
    titles = [lab.title for lab in labs]
    names: dict[uuid.UUID, str] = {}
    for lab in labs:
        name = lab.title if titles.count(lab.title) == 1 else f"{lab.title}, {lab.date.isoformat()}"
        names[lab.id] = name if name not in names.values() else f"{name} ({len(names) + 1})"
    return names


def copies_among(labs: Sequence[Lab]) -> dict[uuid.UUID, uuid.UUID]:
    """Labs whose readings are those of an earlier one of them (a package that came back, a restored lab), and of which."""
    first: dict[str, uuid.UUID] = {}
    copies = {}
    for lab in labs:
        mark = fingerprint(compare_lab(lab))
        if mark and first.setdefault(mark, lab.id) != lab.id:
            copies[lab.id] = first[mark]
    return copies


def over_each_other(labs: Sequence[Lab], copies: Collection[uuid.UUID]) -> list[Years]:
    """One result for each liquid and setting that two of the labs have in common; `copies` are no other classes."""
    names = named(labs)
    labs = [lab for lab in labs if lab.id not in copies]
    by_bath: dict[Bath, list[tuple[str, ElectrolyteResult]]] = defaultdict(list)
    for lab in labs:
        for result in compare_lab(lab):
            by_bath[result.electrolyte, result.condition].append((names[lab.id], result))
    out = []
    for classes in by_bath.values():
        try:
            out.append(years(classes))
        except NotEnoughData:
            continue
    return out


def foretell(lab: Lab, **_: object) -> None:
    """Keep with a lab that is being opened what its teacher's earlier classes foretell, liquid by liquid.

    From three classes on; those of the demo or a rehearsal count for simulated labs only.
    """
    before = Lab.objects.filter(
        owner=lab.owner_id, state=Lab.State.CLOSED, simulated=lab.simulated, deleted_at__isnull=True, date__lte=lab.date
    ).exclude(id=lab.id)
    labs = list(before.order_by("-date", "-created_at")[:MOST_EARLIER])[::-1]
    lab.earlier = [
        _foretold(one) for one in over_each_other(labs, copies_among(labs)) if len(one.names) >= LEAST_FOR_FORETELLING
    ]
    lab.save(update_fields=["earlier"])


def _foretold(one: Years) -> dict[str, Any]:
    found = one.between.next_class()
    return {
        "electrolyte": one.electrolyte, "condition": one.condition, "classes": len(one.names),
        "plates": list(found.electrodes), "volts_v": found.volts_v.tolist(), "covariance_v2": found.covariance_v2.tolist(),
    }  # fmt: skip
