"""What is gone for good, and when. Runs as the owner of the tables, by hand or on a timer; the server itself cannot."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import timedelta

from django.contrib.sessions.models import Session
from django.db import connection, transaction
from django.utils import timezone

from server.asking.models import ClassAnswer, ClassQuestion
from server.asking.services import KEPT as ASKED_KEPT
from server.entries.models import (
    Actual,
    KeptTrace,
    Observation,
    Photo,
    PhotoRemoved,
    Prediction,
    Question,
    Reading,
    UnderLoad,
)
from server.entries.photos import remove
from server.homework.models import Homework, Tried
from server.homework.services import KEPT as HOMEWORK_KEPT
from server.labs.changes import announce
from server.labs.deleting import KEPT
from server.labs.models import Lab, PlannedCell
from server.materials.models import OwnMaterial, SchoolCupboard, Shelf
from server.people import limits
from server.people.deeds import keep_deed
from server.people.done_once import KEPT as DONE_KEPT
from server.people.models import DoneOnce, GroupSession, SignedIn, Teacher, WrongTry
from server.records.gone import remove_account, remove_lab
from server.records.models import Removal
from server.records.removing import REMOVABLE, REMOVED
from server.records.tables_in import forget_old
from server.school.models import Link

ENDED_SESSIONS = timedelta(days=1)
KEEP_DAYS_WAIT = timedelta(days=7)  # after the time for photographs and notes was changed, so that somebody may notice
WORDS_WAIT = timedelta(hours=20)  # after words were asked to be taken out: the night after the next at the latest
MOST_LABS, LEAST_READINGS, MOST_SHARE = (
    10,
    500,
    0.25,
)  # erased in one run: a year's tidying is more, and is confirmed by hand
AT_CELL = (Photo, UnderLoad, Observation, Question, Actual, KeptTrace, Prediction)


@dataclass(frozen=True, slots=True)
class Purged:
    """How much was removed; `held`: labs that are over and were left, since they are unusually many."""

    labs: int
    teachers: int
    photographs: int
    notes: int
    words: int
    sessions: int
    tries: int
    held: int = 0


@contextmanager
def _allowed() -> Iterator[None]:
    """The triggers let the owner of the tables remove rows inside."""
    with transaction.atomic(), connection.cursor() as cursor:
        cursor.execute("SET LOCAL pipette.retention = 'on'")
        yield
        cursor.execute("SET LOCAL pipette.retention = 'off'")


def purge(even_so: bool = False) -> Purged:
    """Remove what was deleted 30 days ago or more, photographs and notes whose time is over, words whose removal is asked
    for, homework and questions to classes of long ago, and sessions and wrong tries that are over. What was removed from a
    lab stands in its teacher's list of deeds. Unusually many labs at once are left where they are, unless `even_so`."""
    before = timezone.now() - KEPT
    over = [_remove_over(lab) for lab in _labs_over()]
    asked = Removal.objects.filter(done_at=None, asked_at__lt=timezone.now() - WORDS_WAIT).values("lab")
    words = sum(_remove_words(lab) for lab in Lab.objects.filter(id__in=asked))
    gone = list(Teacher.objects.filter(deleted_at__lt=before, forgotten=False))
    labs = list(Lab.objects.filter(deleted_at__lt=before).union(Lab.objects.filter(owner__in=gone)))
    held = 0
    if not even_so and _unusual(labs):
        labs, gone, held = [], [], len(labs)
    photographs = sum(_purge_lab(lab) for lab in labs)
    _hand_over(gone)
    with _allowed():
        for teacher in gone:
            remove_account(teacher)
        homework = Homework.objects.filter(set_at__lt=timezone.now() - HOMEWORK_KEPT)
        Tried.objects.filter(homework__in=homework).delete()
        homework.delete()
        asked = ClassQuestion.objects.filter(asked_at__lt=timezone.now() - ASKED_KEPT)
        ClassAnswer.objects.filter(question__in=asked).delete()
        asked.delete()
    old_sessions, _ = GroupSession.objects.filter(joined_at__lt=timezone.now() - ENDED_SESSIONS).delete()
    web_sessions, _ = Session.objects.filter(expire_date__lt=timezone.now()).delete()
    SignedIn.objects.exclude(session_key__in=Session.objects.values("session_key")).delete()
    Link.objects.filter(ends_at__lt=before).delete()
    forget_old()
    DoneOnce.objects.filter(at__lt=timezone.now() - DONE_KEPT).delete()
    tries, _ = WrongTry.objects.filter(at__lt=timezone.now() - limits.KEPT).delete()
    photographs += sum(pictures for pictures, _ in over)
    notes = sum(gone_notes for _, gone_notes in over)
    return Purged(len(labs), len(gone), photographs, notes, words, old_sessions + web_sessions, tries, held)


def _unusual(labs: list[Lab]) -> bool:
    """Whether so much would be erased at once that somebody should look first."""
    if len(labs) > MOST_LABS:
        return True
    readings = Reading.objects.filter(cell__group__lab__in=[lab.id for lab in labs]).count()
    return readings > LEAST_READINGS and readings > MOST_SHARE * Reading.objects.count()


def _labs_over() -> list[Lab]:
    """Labs whose photographs and notes have been kept for as long as they were to be."""
    now = timezone.now()
    rows = Lab.objects.filter(state=Lab.State.CLOSED, keep_days__isnull=False, closed_at__isnull=False)
    rows = rows.filter(keep_days_at__lt=now - KEEP_DAYS_WAIT)
    return [lab for lab in rows.select_related("owner") if (lab.closed_at or now) + timedelta(days=lab.keep_days or 0) < now]


def _remove_over(lab: Lab) -> tuple[int, int]:
    """Remove a lab's photographs and notes; returns how many of each."""
    at = PlannedCell.objects.filter(group__lab=lab)
    photos = list(Photo.objects.filter(cell__in=at).values_list("id", flat=True))
    notes = Observation.objects.filter(cell__in=at)
    counts = len(photos), notes.count()
    if not any(counts):
        return counts
    with _allowed():
        for rows in (PhotoRemoved.objects.filter(photo__in=photos), Photo.objects.filter(id__in=photos), notes):
            rows._raw_delete(rows.db)
        keep_deed(lab.owner, "over", lab, f"{counts[0]} photographs, {counts[1]} notes")
        announce(lab.id)
    for photo in photos:
        remove(photo)
    return counts


def _remove_words(lab: Lab) -> int:
    """Take out the words that somebody asked to have removed; the row stays and says so."""
    ripe = timezone.now() - WORDS_WAIT
    asked = list(Removal.objects.filter(lab=lab, done_at=None, asked_at__lt=ripe).select_related("teacher"))
    with _allowed():
        for one in asked:
            model, columns = REMOVABLE[one.kind]
            model.objects.filter(pk=one.row).update(**dict.fromkeys(columns, REMOVED))  # type: ignore[attr-defined]
        Removal.objects.filter(id__in=[one.id for one in asked]).update(done_at=timezone.now())
        keep_deed(lab.owner, "removed_words", lab, f"{len(asked)} of them")
        announce(lab.id)
    return len(asked)


def _hand_over(gone: list[Teacher]) -> None:
    """Leave to a head of the school's accounts what colleagues' labs may use: own materials, and the school's cupboard."""
    heir = Teacher.objects.here().filter(is_head=True).order_by("id").first()
    if heir is None:
        return
    if SchoolCupboard.objects.filter(owner__in=gone).update(owner=heir):
        has = Shelf.objects.filter(owner=heir).values("material")
        Shelf.objects.filter(owner__in=gone).exclude(material__in=has).update(owner=heir)
    OwnMaterial.objects.filter(owner__in=gone).update(owner=heir)


def _purge_lab(lab: Lab) -> int:
    """Remove a lab and all that hangs on it; returns how many photographs. Files go after the rows have gone."""
    photos = list(Photo.objects.filter(cell__group__lab=lab).values_list("id", flat=True))
    with _allowed():
        remove_lab(lab.id)
    for photo in photos:
        remove(photo)
    return len(photos)
