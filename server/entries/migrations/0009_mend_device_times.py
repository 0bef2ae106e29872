"""Times of devices that no program can read become text; until now one of them closed a lab's pages for good."""

from django.db import migrations

from server.labs.repair import keep_as_text

TABLES = ("reading", "metercheck", "underload", "observation", "photo", "kepttrace")


class Migration(migrations.Migration):
    dependencies = [("bench", "0008_device_times")]
    operations = [migrations.RunPython(keep_as_text(f"bench_{table}"), migrations.RunPython.noop) for table in TABLES]
