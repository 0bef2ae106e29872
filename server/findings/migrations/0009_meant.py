"""What groups said when they were asked whether they mean what was heard; the database refuses to change or remove it."""

import uuid

import django.db.models.deletion
from django.db import migrations, models

GUARD = """
CREATE TRIGGER findings_meant_keep_rows BEFORE UPDATE OR DELETE ON findings_meant
  FOR EACH ROW EXECUTE FUNCTION bench_keep();
CREATE TRIGGER findings_meant_keep_table BEFORE TRUNCATE ON findings_meant
  FOR EACH STATEMENT EXECUTE FUNCTION bench_keep();
"""
UNGUARD = """
DROP TRIGGER findings_meant_keep_rows ON findings_meant;
DROP TRIGGER findings_meant_keep_table ON findings_meant;
"""


class Migration(migrations.Migration):
    dependencies = [("findings", "0008_own_tests"), ("people", "0011_done_once")]
    operations = [
        migrations.CreateModel(
            name="Meant",
            fields=[
                ("id", models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ("belief", models.CharField(max_length=60)),
                ("yes", models.BooleanField()),
                ("received_at", models.DateTimeField()),
                ("claim", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="meant", to="findings.claim")),
                ("group", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="meant", to="people.group")),
            ],
            options={"ordering": ["received_at", "id"]},
        ),
        migrations.AddConstraint(
            model_name="meant",
            constraint=models.UniqueConstraint(fields=["claim", "belief"], name="one_answer_a_belief"),
        ),
        migrations.RunSQL(GUARD, UNGUARD),
    ]
