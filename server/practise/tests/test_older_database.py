"""A database made by an older version: the demo as it was before the server's rooms were laid out anew, with its data."""

import gzip
import os
import subprocess
import sys
import uuid
from pathlib import Path

import psycopg
from django.conf import settings
from django.db import connection
from django.test import SimpleTestCase
from psycopg import sql

DUMP = Path(__file__).parent / "data" / "demo-before.sql.gz"
OPENS = """
from django.test import Client
from server.labs.models import Lab
from server.people.models import Teacher
client = Client()
client.force_login(Teacher.objects.get(username="demo-teacher"))
for lab in Lab.objects.order_by("created_at"):
    for page in ("", "/board", "/compare", "/kit", "/predictions", "/claims"):
        print(client.get(f"/api/labs/{lab.id}{page}", HTTP_HOST="127.0.0.1").status_code, lab.state, page)
"""


class OlderDatabase(SimpleTestCase):
    databases = {"default"}

    def setUp(self):
        to = connection.settings_dict
        self.to = {"host": to["HOST"], "port": to["PORT"], "user": to["USER"], "password": to["PASSWORD"]}
        self.name = f"older_{uuid.uuid4().hex[:12]}"
        self.cluster = psycopg.connect(**self.to, dbname="postgres", autocommit=True)
        self.addCleanup(self.cluster.close)
        self.cluster.execute(sql.SQL("CREATE DATABASE {}").format(sql.Identifier(self.name)))
        self.addCleanup(self.cluster.execute, sql.SQL("DROP DATABASE {} WITH (FORCE)").format(sql.Identifier(self.name)))
        self.environment = os.environ | {
            "PGHOST": to["HOST"], "PGPORT": str(to["PORT"]), "PGUSER": to["USER"], "PGPASSWORD": to["PASSWORD"],
            "DATABASE_URL": f"postgresql://{to['USER']}:{to['PASSWORD']}@{to['HOST']}:{to['PORT']}/{self.name}",
            "PIPETTE_SECRET_KEY": "only-for-this-test-0123456789-0123456789", "PIPETTE_LOG": "plain",
        }  # fmt: skip

    def run_here(self, *command, text=None):
        done = subprocess.run(
            command, input=text, env=self.environment, cwd=settings.BASE_DIR, capture_output=True, text=True, check=False
        )
        self.assertEqual(done.returncode, 0, done.stderr[-2000:])
        return done.stdout

    def rows(self, columns=None):
        """Every table's rows in the columns it had, as one digest and a count; the bookkeeping of migrations left out."""
        with psycopg.connect(**self.to, dbname=self.name) as open_:
            if columns is None:
                columns = {}
                for table, column in open_.execute(
                    "SELECT table_name, column_name FROM information_schema.columns JOIN information_schema.tables"
                    " USING (table_schema, table_name) WHERE table_schema = 'public' AND table_type = 'BASE TABLE'"
                    " AND table_name NOT IN ('django_migrations', 'auth_permission', 'django_content_type') ORDER BY 1, 2"
                ):
                    columns.setdefault(table, []).append(column)
            found = {}
            for table, names in columns.items():
                row = sql.SQL(", ").join(map(sql.Identifier, names))
                query = sql.SQL("SELECT count(*), md5(string_agg(r::text, '|' ORDER BY r::text)) FROM (SELECT {} FROM {}) r")
                found[table] = open_.execute(query.format(row, sql.Identifier(table))).fetchone()
        return columns, found

    def test_it_opens_with_every_row_as_it_was(self):
        self.run_here("psql", "-Xqv", "ON_ERROR_STOP=1", "-d", self.name, text=gzip.decompress(DUMP.read_bytes()).decode())
        columns, before = self.rows()
        self.assertGreater(before["bench_reading"][0], 250)
        self.run_here(sys.executable, "manage.py", "migrate", "--noinput")
        self.assertEqual(self.rows(columns)[1], before)
        answers = self.run_here(sys.executable, "manage.py", "shell", "-v", "0", "-c", OPENS).splitlines()
        self.assertEqual(len(answers), 18)
        self.assertEqual({line.split()[0] for line in answers}, {"200"}, answers)
