"""The database itself refuses to change or remove loggers' files of packs."""

from importlib import import_module

from django.db import migrations

earlier = import_module("server.power.migrations.0002_keep")


class Migration(migrations.Migration):
    dependencies = [("power", "0006_run_file")]
    operations = [migrations.RunSQL(earlier.GUARD.format("runfile"), earlier.UNGUARD.format("runfile"))]
