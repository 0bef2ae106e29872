"""Times of devices that no program can read become text, in predictions too."""

from django.db import migrations

from server.labs.repair import keep_as_text


class Migration(migrations.Migration):
    dependencies = [("labs", "0008_device_times"), ("bench", "0003_append_only")]
    operations = [migrations.RunPython(keep_as_text("labs_prediction"), migrations.RunPython.noop)]
