"""What was asked of a group is never removed, so a cell does not take it along; nothing changes in the database."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("bench", "0017_planned_question")]
    operations = [
        migrations.AlterField(
            model_name="askedagain",
            name="cell",
            field=models.ForeignKey(
                on_delete=django.db.models.deletion.PROTECT, related_name="asked", to="labs.plannedcell"
            ),
        )
    ]
