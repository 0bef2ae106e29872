"""Tags, labs put away, what earlier classes foretell, and how long photographs and notes are kept.

Labs that are there already keep theirs as long as themselves: nobody has been told otherwise.
"""

import django.contrib.postgres.fields
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("labs", "0017_schoolcupboard")]

    operations = [
        migrations.AddField("lab", "archived_at", models.DateTimeField(blank=True, null=True)),
        migrations.AddField("lab", "earlier", models.JSONField(default=list)),
        migrations.AddField("lab", "keep_days", models.PositiveSmallIntegerField(blank=True, default=None, null=True)),
        migrations.AlterField("lab", "keep_days", models.PositiveSmallIntegerField(blank=True, default=90, null=True)),
        migrations.AddField(
            "lab",
            "tags",
            django.contrib.postgres.fields.ArrayField(
                base_field=models.CharField(max_length=30), default=list, size=None
            ),
        ),
    ]
