"""The product as it is served: every writing operation as the server's own role, on labs where everything hangs that can."""

import tempfile
from pathlib import Path

from django.apps import apps
from django.core.management import call_command
from django.db import connection, models
from django.test import TestCase, override_settings

from server.config.as_served import ROLE, AsServed
from server.entries.models import AskedAgain
from server.labs.models import Lab, PlannedCell
from server.people.done_once import OWN_RULES
from server.records.retention import purge
from server.tests.support import (
    KeptReadingsTestCase,
    after_waiting,
    as_group,
    as_teacher,
    cell_of,
    group_of,
    lab_of,
    record,
    send,
    teacher,
)  # fmt: skip
from server.tests.walk import CASES, REFUSED, WRITES, World, asking

# What tells who is signed in, and what only counts tries: these may differ after a second request.
OF_SIGN_INS = {
    "django_session",
    "people_signedin",
    "people_wrongtry",
    "people_groupsession",
    "people_pulse",
    "axes_accessattempt",
}
# What is meant to be done anew each time: its answer is a secret that is given once, or a device signs in.
ANEW = {
    "reset_colleague",
    "invite",
    "begin_second",
    "confirm_second",
    "sign_in",
    "join",
    "forgotten",
    "use_link",
    "leave",
    "sign_out",
}


def may(table, right):
    """Whether the server's role has a right on a table."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT has_table_privilege(%s, %s, %s)", [ROLE, table, right])
        return cursor.fetchone()[0]


def taken_along(model):
    """The models whose rows go, and those whose rows are changed, with a row of `model`."""
    goes, changes, look = set(), set(), [model]
    while look:
        for hangs in look.pop()._meta.related_objects:
            if hangs.on_delete is models.CASCADE and hangs.related_model not in goes:
                goes.add(hangs.related_model)
                look.append(hangs.related_model)
            elif hangs.on_delete in (models.SET_NULL, models.SET_DEFAULT):
                changes.add(hangs.related_model)
    return goes, changes


class Walk(KeptReadingsTestCase):
    def setUp(self):
        self.enterContext(override_settings(PHOTO_DIR=Path(self.enterContext(tempfile.TemporaryDirectory()))))
        self.world = World()

    def state(self):
        """Every table's rows as one digest each."""
        tables = [model._meta.db_table for model in apps.get_models(include_auto_created=True) if model._meta.managed]
        with connection.cursor() as cursor:
            found = {}
            for table in sorted(set(tables) - OF_SIGN_INS):
                cursor.execute(f"SELECT md5(coalesce(string_agg(t::text, chr(10) ORDER BY t::text), '')) FROM \"{table}\" t")
                found[table] = cursor.fetchone()[0]
        return found

    def test_every_writing_operation_is_answered_and_what_is_sent_twice_is_done_once(self):
        self.assertEqual(
            set(CASES), set(WRITES), "an operation of the schema has no case in walk.py, or a case no operation"
        )
        for operation in CASES:
            with self.subTest(operation):
                ask = asking(self.world, operation)
                answer = ask()
                if operation in REFUSED:
                    self.assertEqual(answer.status_code, REFUSED[operation], answer.content)
                    continue
                self.assertIn(answer.status_code, (200, 201, 202), answer.content[:500])
                self.world.said[operation] = answer.json()
                after = self.state()
                again = ask()
                self.assertLess(again.status_code, 500, again.content)
                if operation in ANEW:
                    continue
                now = self.state()
                self.assertEqual([table for table in now if now[table] != after[table]], [], "done twice")
                if not WRITES[operation][1].startswith(OWN_RULES) and self.world.desk is not None:
                    self.assertLess(again.status_code, 300, again.content)
        with self.subTest("and in the end it is gone"):
            after_waiting()
            purge()
            Lab.objects.update(deleted_at="2020-01-01T00:00:00Z")
            call_command("retention")
            self.assertEqual(PlannedCell.objects.count(), 0)


class Deletions(TestCase):
    def test_whatever_the_role_may_remove_it_may_remove_with_all_that_goes_along(self):
        removable = [model for model in apps.get_models() if model._meta.managed and may(model._meta.db_table, "DELETE")]
        self.assertIn(PlannedCell, removable)  # or nothing was looked at
        for model in removable:
            goes, changes = taken_along(model)
            for right, rows in (("DELETE", goes), ("UPDATE", changes)):
                missing = [other.__name__ for other in rows if not may(other._meta.db_table, right)]
                self.assertEqual(missing, [], f"removing a {model.__name__} would {right} these")

    def test_the_role_of_requests_is_the_servers_and_ends_with_them(self):
        def who():
            with connection.cursor() as cursor:
                cursor.execute("SELECT current_user")
                return cursor.fetchone()[0]

        owner = who()
        with AsServed():
            self.assertEqual(who(), ROLE)
        self.assertEqual(who(), owner)


class HangsAtACell(TestCase):
    def setUp(self):
        self.ada = teacher()
        self.lab = lab_of(self.ada, ("Tern", "Knot", "Ruff"), electrodes=["zinc", "copper", "tin", "nickel", "magnesium"])
        self.desk, self.tern = as_teacher(self.ada), group_of(self.lab)
        knot = {planned.cell for planned in PlannedCell.objects.filter(group=group_of(self.lab, "Knot"))}
        mine = PlannedCell.objects.filter(group=self.tern, shared=False)
        self.cell = next(planned for planned in mine if planned.cell not in knot)

    def give(self):
        return send(self.desk, f"/cells/{self.cell.id}/give", {"group": str(group_of(self.lab, "Knot").id)})

    def test_a_cell_with_a_question_stays_with_the_group_that_asked(self):
        body = {"id": "6f9d2f1e-5b0c-4a52-9b5b-0d6f4f0f9a01", "cell_id": str(self.cell.id), "text": "Why is it so low?"}
        self.assertEqual(send(as_group(self.tern), "/bench/questions", body).status_code, 200)
        self.assertEqual(self.give().json()["code"], "begun")
        on_board = {cell["id"]: cell for group in self.board()["groups"] for cell in group["cells"]}
        self.assertEqual([cell for cell in on_board if on_board[cell]["begun"]], [str(self.cell.id)])

    def board(self):
        return self.desk.get(f"/api/labs/{self.lab.id}/board").json()

    def test_a_group_never_gets_a_cell_twice_and_a_press_that_comes_twice_moves_it_once(self):
        self.assertEqual([self.give().status_code, self.give().status_code], [200, 200])
        self.assertEqual(PlannedCell.objects.get(id=self.cell.id).group.name, "Knot")
        ruff = group_of(self.lab, "Ruff")
        PlannedCell.objects.create(
            group=ruff,
            position=90,
            negative=self.cell.negative,
            electrolyte=self.cell.electrolyte,
            positive=self.cell.positive,
        )
        record(cell_of(ruff, 90))
        again = send(self.desk, f"/cells/{self.cell.id}/give", {"group": str(ruff.id)})
        self.assertEqual(again.json()["code"], "has_it")

    def test_a_reading_is_asked_for_again_only_where_there_is_one(self):
        path = f"/cells/{self.cell.id}/ask-again"
        self.assertEqual(send(self.desk, path).json()["code"], "not_measured")
        record(self.cell)
        self.assertEqual(send(self.desk, path).status_code, 200)
        self.assertEqual(AskedAgain.objects.count(), 1)
