"""What the demo's groups write in their notebooks, and what their teacher says to it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np

from server.entries.models import Reading
from server.notebook.schemas import Cite, HandInIn, ReturnIn, WordsIn
from server.notebook.services import give_back, hand_in, record_words
from server.people.auth import Member
from server.people.models import Group, Teacher
from server.practise.finished import drawn_key

EVIDENCED = "discussion"


def write_notebooks(
    teacher: Teacher, groups: Sequence[Group], rows: Sequence[Mapping[str, Any]], rng: np.random.Generator
) -> None:
    """Keep the scenario's words part by part, hand in, and give back what has marks."""
    by_name = {group.name: group for group in groups}
    for row in rows:
        group = by_name[row["group"]]
        actor = Member(group.id, group.lab_id, group.name, group.lab.owner_id)
        own = Reading.objects.counted().filter(cell__group=group).order_by("cell__position", "received_at")
        cites = [Cite(kind="reading", id=reading.id) for reading in own[: row["cites"]]]
        for part, text in row["words"].items():
            pointed = cites if part == EVIDENCED else []
            record_words(actor=actor, entry=WordsIn(id=drawn_key(rng), part=part, text=text, cites=pointed))
        if row["handed_in"]:
            hand_in(actor=actor, entry=HandInIn(id=drawn_key(rng)))
        if row["marks"]:
            back = ReturnIn(text=row["text"], marks=row["marks"], remarks=row.get("remarks", {}))
            give_back(actor=teacher, group_id=group.id, data=back)
