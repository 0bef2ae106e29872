"""The database itself refuses to change or remove a chain and what groups did for it."""

from importlib import import_module

from django.db import migrations

TABLES = ("chain", "chainentry")
earlier = import_module("server.power.migrations.0002_keep")


class Migration(migrations.Migration):
    dependencies = [("power", "0004_chain")]
    operations = [
        migrations.RunSQL(earlier.GUARD.format(table), earlier.UNGUARD.format(table)) for table in TABLES
    ]
