"""What hangs on a lab and on an account, found by walking the models, so that nothing new is forgotten; and its removal.

Runs where retention allows it: there the database lets go of what it otherwise keeps.
"""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Iterator
from functools import cache

from django.db import models, transaction
from django.db.models import ProtectedError, Q

from galvanic.words import say
from server.labs.models import Lab
from server.people.models import Teacher

Model = type[models.Model]


def _pointing_at(model: Model) -> Iterator[models.ForeignKey[models.Model, models.Model]]:
    """The fields by which other models hang on a model."""
    for relation in model._meta.get_fields(include_hidden=True):
        if isinstance(relation, models.ManyToOneRel) and relation.related_model is not model:
            field = relation.field
            assert isinstance(field, models.ForeignKey)
            yield field


@cache
def hanging_on_lab() -> dict[Model, tuple[str, ...]]:
    """All models whose rows belong to a lab, with the ways from them to it; what others hang on comes after those."""
    ways: dict[Model, set[str]] = defaultdict(set)
    depth: dict[Model, int] = {Lab: 0}
    found: list[tuple[Model, str]] = [(Lab, "")]
    while found:
        model, way = found.pop()
        for field in _pointing_at(model):
            further = f"{field.name}__{way}" if way else field.name
            ways[field.model].add(further)
            depth[field.model] = max(depth.get(field.model, 0), further.count("__") + 1)
            found.append((field.model, further))
    return {model: tuple(sorted(ways[model])) for model in sorted(ways, key=lambda model: -depth[model])}


def remove_lab(lab_id: uuid.UUID) -> None:
    """Remove a lab and all that hangs on it, in any of the ways."""
    for model, ways in hanging_on_lab().items():
        rows = model._base_manager.filter(Q(*((way, lab_id) for way in ways), _connector=Q.OR))
        rows.order_by()._raw_delete(rows.db)  # without collecting what hangs on each: all of it has gone
    rows = Lab.objects.filter(id=lab_id)
    rows._raw_delete(rows.db)


def remove_account(teacher: Teacher) -> None:
    """Remove an account whose labs have gone. What it did in a colleague's lab is that lab's record and stays, by “a former
    colleague”: then a row without name, address and password is left of the account."""
    try:
        with transaction.atomic():
            teacher.delete()
    except ProtectedError:
        for field in _pointing_at(Teacher):
            if field.remote_field.on_delete is models.CASCADE:
                field.model._base_manager.filter(**{field.name: teacher}).delete()
        teacher.set_unusable_password()
        teacher.username, teacher.email = say("a former colleague ({pk})", pk=teacher.pk), ""
        teacher.first_name = teacher.last_name = ""
        teacher.is_active, teacher.is_head, teacher.last_login, teacher.forgotten = False, False, None, True
        teacher.save()
