"""What waits for a teacher in their labs: notebooks that were handed in, and questions nobody has looked at."""

from __future__ import annotations

import uuid
from collections.abc import Collection, Mapping

from django.db.models import Count, Exists, OuterRef

from server.entries.models import Question
from server.notebook.models import HandedIn, Returned


def notebooks_waiting(labs: Collection[uuid.UUID]) -> Mapping[uuid.UUID, int]:
    """Groups of each lab whose notebook was handed in and not given back since; one query."""
    back = Returned.objects.filter(group=OuterRef("group"), at__gt=OuterRef("received_at"))
    rows = HandedIn.objects.filter(~Exists(back), group__lab__in=labs).order_by()
    return dict(rows.values_list("group__lab").annotate(Count("group", distinct=True)))


def questions_waiting(labs: Collection[uuid.UUID]) -> Mapping[uuid.UUID, int]:
    """Questions of each lab that nobody has looked at; one query."""
    rows = Question.objects.filter(cell__group__lab__in=labs, answers__isnull=True).order_by()
    return dict(rows.values_list("cell__group__lab").annotate(Count("id")))
