"""The database itself refuses to change or remove groups' questions and what was made of them."""

from importlib import import_module

from django.db import migrations

_keep = import_module("server.entries.migrations.0007_keep_beside_readings")
TABLES = ("question", "questionanswer")


class Migration(migrations.Migration):
    dependencies = [("bench", "0015_question")]
    operations = [migrations.RunSQL(_keep.GUARD.format(table), _keep.UNGUARD.format(table)) for table in TABLES]
