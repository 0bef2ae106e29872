"""The database itself refuses to change or remove claims and answers."""

from django.db import migrations

TABLES = ("claim", "answer")
GUARD = """
CREATE TRIGGER findings_{0}_keep_rows BEFORE UPDATE OR DELETE ON findings_{0}
  FOR EACH ROW EXECUTE FUNCTION bench_keep();
CREATE TRIGGER findings_{0}_keep_table BEFORE TRUNCATE ON findings_{0}
  FOR EACH STATEMENT EXECUTE FUNCTION bench_keep();
"""
UNGUARD = """
DROP TRIGGER findings_{0}_keep_rows ON findings_{0};
DROP TRIGGER findings_{0}_keep_table ON findings_{0};
"""


class Migration(migrations.Migration):
    dependencies = [("findings", "0001_claims"), ("bench", "0003_append_only")]
    operations = [migrations.RunSQL(GUARD.format(table), UNGUARD.format(table)) for table in TABLES]
