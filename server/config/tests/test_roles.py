"""The role the server runs as: what it does works, and what it must never do the database refuses."""

import uuid

from django.db import DatabaseError, connection, transaction
from django.test import TestCase

from server.base.roles import grant
from server.entries.models import Reading
from server.entries.services import record_reading
from server.labs.models import Lab, PlannedCell
from server.records.retention import purge
from server.room.cells import give_cell
from server.tests.support import cell_of, entry, group_of, lab_of, member_of, record, teacher

ROLE = "pipette_test_server"


class LeastPrivilege(TestCase):
    def setUp(self):
        self.ada = teacher()
        self.lab = lab_of(self.ada)
        self.cell = cell_of(group_of(self.lab))
        record(self.cell)
        grant(uuid.uuid4().hex, ROLE)
        self.sql(f"SET LOCAL ROLE {ROLE}")

    def sql(self, text):
        with connection.cursor() as cursor:
            cursor.execute(text)

    def refused(self, text):
        with self.assertRaises(DatabaseError, msg=text), transaction.atomic():
            self.sql(text)

    def test_the_servers_own_work_goes_on(self):
        record_reading(actor=member_of(self.cell.group), entry=entry(self.cell, "0.95"))
        lab_of(teacher("bea"), groups=("Dodo",))
        self.assertEqual(Reading.objects.count(), 2)

    def test_what_is_to_be_erased_waits_by_the_databases_own_clock_whatever_is_written(self):
        """A stolen server role dates a deletion, a closing, an account, a wish to have words removed a year back."""
        past = "now() - interval '1 year'"
        self.sql(f"UPDATE labs_lab SET deleted_at = {past}, state = 'closed', closed_at = {past}, keep_days = 0, "
                 f"keep_days_at = {past}")  # fmt: skip
        self.sql(f"UPDATE people_teacher SET deleted_at = {past}")
        words = (
            "INSERT INTO records_removal (lab_id, kind, row, teacher_id, asked_at) "
            f"SELECT id, 'words', gen_random_uuid(), owner_id, {past} FROM labs_lab"
        )
        self.sql(words)
        self.sql(f"UPDATE records_removal SET asked_at = {past}")
        for column, table in (
            ("deleted_at", "labs_lab"),
            ("closed_at", "labs_lab"),
            ("keep_days_at", "labs_lab"),
            ("deleted_at", "people_teacher"),
            ("asked_at", "records_removal"),
        ):
            with connection.cursor() as cursor:
                cursor.execute(f"SELECT bool_and({column} = now()) FROM {table}")
                self.assertEqual(cursor.fetchone(), (True,), f"{table}.{column}")
        self.sql("UPDATE labs_lab SET deleted_at = NULL")  # taking it back is no erasure
        self.sql("RESET ROLE")
        purge()
        self.assertEqual((Lab.objects.count(), Reading.objects.count()), (1, 1))

    def test_it_is_no_superuser_and_owns_nothing(self):
        with connection.cursor() as cursor:
            cursor.execute("SELECT rolsuper OR rolcreatedb OR rolcreaterole FROM pg_roles WHERE rolname = current_user")
            self.assertEqual(cursor.fetchone(), (False,))
            cursor.execute(
                "SELECT count(*) FROM pg_class c JOIN pg_roles r ON r.oid = c.relowner WHERE rolname = current_user"
            )
            self.assertEqual(cursor.fetchone(), (0,))

    def test_what_is_kept_stays_even_with_the_retention_switch(self):
        self.sql("SET LOCAL pipette.retention = 'on'")
        for table in (
            "bench_reading",
            "bench_metercheck",
            "labs_prediction",
            "labs_signoff",
            "findings_claim",
            "people_deed",
        ):
            self.refused(f"DELETE FROM {table}")
            self.refused(f"TRUNCATE {table} CASCADE")
            self.refused(f"DROP TABLE {table}")
            self.refused(f"ALTER TABLE {table} DISABLE TRIGGER ALL")
        self.refused("UPDATE bench_reading SET volts_v = 1")
        self.refused("DELETE FROM labs_lab")
        self.refused("UPDATE django_migrations SET name = ''")
        self.refused("CREATE TABLE mine (a int)")
        self.refused("CREATE OR REPLACE FUNCTION bench_keep() RETURNS trigger LANGUAGE plpgsql AS 'BEGIN RETURN NEW; END'")
        self.refused("SET SESSION AUTHORIZATION postgres")

    def test_the_trigger_itself_heeds_the_switch_only_for_the_owner(self):
        self.sql("RESET ROLE")
        self.sql(f"GRANT UPDATE, DELETE ON bench_reading TO {ROLE}")
        self.sql("SET LOCAL pipette.retention = 'on'")
        self.sql(f"SET LOCAL ROLE {ROLE}")
        self.refused("UPDATE bench_reading SET volts_v = 1")
        self.sql("RESET ROLE")
        self.sql("UPDATE bench_reading SET volts_v = 1")


class MeasuredCells(TestCase):
    def test_a_cell_that_has_readings_keeps_plates_liquid_and_group_and_may_move_on_its_list(self):
        ada = teacher()
        lab = lab_of(ada, minutes=60)
        cell, other = cell_of(group_of(lab)), cell_of(group_of(lab, "Knot"), 2)
        record(cell)
        rows = PlannedCell.objects.filter(id=cell.id)
        for change in ({"negative": "tin"}, {"electrolyte": "x"}, {"condition": "warm"}, {"group": other.group}):
            with self.assertRaises(DatabaseError), transaction.atomic():
                rows.update(**change)
        rows.update(position=90)
        mine = PlannedCell.objects.filter(group=group_of(lab, "Knot"), shared=False).exclude(
            negative__in=[c.negative for c in PlannedCell.objects.filter(group=cell.group)]
        )
        for one in mine[:1]:
            give_cell(actor=ada, cell_id=one.id, group_id=cell.group_id)
