"""Notebooks: a group's own to write, all of a lab's to read and give back, and the class's."""

from __future__ import annotations

import uuid
from typing import cast

from django.http import HttpRequest
from ninja import Query, Router

from galvanic.cells import Cell
from server.labs.lookups import lab_for_teacher, lab_of_group
from server.labs.schemas import CellIO
from server.notebook import services
from server.notebook.evidence import evidence_of
from server.notebook.lookups import group_for_teacher
from server.notebook.outputs import class_book_out, evidence_out, notebook_out, notebooks_out, versions_out
from server.notebook.schemas import (
    ClassBookOut,
    EvidenceOut,
    HandInIn,
    NotebookOut,
    NotebooksOut,
    PartKey,
    ReturnIn,
    VersionsOut,
    WordsIn,
)
from server.people.auth import GroupAuth, TeacherAuth, actor_of, teacher_of
from server.people.lookups import own_group
from server.people.schemas import Done, ProblemOut

router = Router()
REFUSED = {403: ProblemOut, 404: ProblemOut, 409: ProblemOut, 422: ProblemOut}
DONE = Done(ok=True)


@router.get("/bench/notebook", response={200: NotebookOut, 401: ProblemOut}, auth=GroupAuth(), operation_id="bench_notebook")
def bench_notebook(request: HttpRequest) -> NotebookOut:
    """The group's own notebook."""
    actor = actor_of(request)
    return notebook_out(actor, lab_of_group(actor), own_group(actor))


@router.post("/bench/words", response={200: Done, **REFUSED}, auth=GroupAuth(), operation_id="record_words")
def post_words(request: HttpRequest, data: WordsIn) -> Done:
    """Keep a version of a part; the same id again changes nothing."""
    services.record_words(actor=actor_of(request), entry=data)
    return DONE


@router.post("/bench/hand-in", response={200: Done, **REFUSED}, auth=GroupAuth(), operation_id="hand_in")
def post_hand_in(request: HttpRequest, data: HandInIn) -> Done:
    """Hand the notebook in; the same id again changes nothing."""
    services.hand_in(actor=actor_of(request), entry=data)
    return DONE


@router.get("/bench/words/{part}", response={200: VersionsOut, **REFUSED}, auth=GroupAuth(), operation_id="words_versions")
def bench_versions(request: HttpRequest, part: PartKey) -> VersionsOut:
    """All versions of a part of the group's own notebook."""
    group = own_group(actor_of(request))
    return versions_out(services.written_of([group])[group.id].words[cast(str, part)])


@router.get(
    "/labs/{uuid:lab_id}/notebooks",
    response={200: NotebooksOut, 404: ProblemOut},
    auth=TeacherAuth(),
    operation_id="notebooks",
)
def notebooks(request: HttpRequest, lab_id: uuid.UUID) -> NotebooksOut:
    """How far each group's notebook is."""
    return notebooks_out(lab_for_teacher(teacher_of(request), lab_id))


@router.get(
    "/labs/{uuid:lab_id}/notebook",
    response={200: ClassBookOut, 404: ProblemOut},
    auth=TeacherAuth(),
    operation_id="class_notebook",
)
def class_notebook(request: HttpRequest, lab_id: uuid.UUID) -> ClassBookOut:
    """The class's notebook."""
    actor = teacher_of(request)
    return class_book_out(actor, lab_for_teacher(actor, lab_id))


@router.get(
    "/groups/{uuid:group_id}/notebook",
    response={200: NotebookOut, 404: ProblemOut},
    auth=TeacherAuth(),
    operation_id="group_notebook",
)
def group_notebook(request: HttpRequest, group_id: uuid.UUID) -> NotebookOut:
    """A group's notebook, for its teacher."""
    actor = teacher_of(request)
    group = group_for_teacher(actor, group_id)
    return notebook_out(actor, lab_for_teacher(actor, group.lab_id), group)


@router.get(
    "/groups/{uuid:group_id}/words/{part}",
    response={200: VersionsOut, **REFUSED},
    auth=TeacherAuth(),
    operation_id="group_versions",
)
def group_versions(request: HttpRequest, group_id: uuid.UUID, part: PartKey) -> VersionsOut:
    """All versions of a part of a group's notebook, for its teacher."""
    group = group_for_teacher(teacher_of(request), group_id)
    return versions_out(services.written_of([group])[group.id].words[cast(str, part)])


@router.post(
    "/groups/{uuid:group_id}/notebook", response={200: Done, **REFUSED}, auth=TeacherAuth(), operation_id="give_back"
)
def post_back(request: HttpRequest, group_id: uuid.UUID, data: ReturnIn) -> Done:
    """Give a notebook back with remarks and marks."""
    services.give_back(actor=teacher_of(request), group_id=group_id, data=data)
    return DONE


@router.get(
    "/labs/{uuid:lab_id}/evidence",
    response={200: EvidenceOut, 404: ProblemOut, 422: ProblemOut},
    auth=TeacherAuth(),
    operation_id="evidence",
)
def evidence(request: HttpRequest, lab_id: uuid.UUID, about: Query[CellIO]) -> EvidenceOut:
    """What groups kept of a cell beside its readings, and the packs built of such cells."""
    actor = teacher_of(request)
    lab = lab_for_teacher(actor, lab_id)
    return evidence_out(lab, evidence_of(actor, lab, Cell(**about.model_dump())))
