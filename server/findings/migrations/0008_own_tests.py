"""Groups' own tests of their claims; the database itself refuses to change or remove them."""

import uuid

import django.db.models.deletion
from django.db import migrations, models

GUARD = """
CREATE TRIGGER findings_owntest_keep_rows BEFORE UPDATE OR DELETE ON findings_owntest
  FOR EACH ROW EXECUTE FUNCTION bench_keep();
CREATE TRIGGER findings_owntest_keep_table BEFORE TRUNCATE ON findings_owntest
  FOR EACH STATEMENT EXECUTE FUNCTION bench_keep();
"""
UNGUARD = """
DROP TRIGGER findings_owntest_keep_rows ON findings_owntest;
DROP TRIGGER findings_owntest_keep_table ON findings_owntest;
"""


class Migration(migrations.Migration):
    dependencies = [("findings", "0007_claim_against"), ("people", "0011_done_once")]
    operations = [
        migrations.CreateModel(
            name="OwnTest",
            fields=[
                ("id", models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ("test", models.CharField(max_length=100)),
                ("before_text", models.CharField(max_length=32)),
                ("after_text", models.CharField(max_length=32)),
                ("before_v", models.FloatField()),
                ("after_v", models.FloatField()),
                ("received_at", models.DateTimeField()),
                ("claim", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="tests", to="findings.claim")),
                ("group", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="own_tests", to="people.group")),
            ],
            options={"ordering": ["received_at", "id"]},
        ),
        migrations.RunSQL(GUARD, UNGUARD),
    ]
