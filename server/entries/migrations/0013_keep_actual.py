"""The database itself refuses to change or remove what a cell was really set to."""

from importlib import import_module

from django.db import migrations

_keep = import_module("server.entries.migrations.0007_keep_beside_readings")


class Migration(migrations.Migration):
    dependencies = [("bench", "0012_actual")]
    operations = [migrations.RunSQL(_keep.GUARD.format("actual"), _keep.UNGUARD.format("actual"))]
