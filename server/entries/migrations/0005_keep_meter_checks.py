"""The database itself refuses to change or remove meter checks, as it does readings."""

from django.db import migrations

GUARD = """
CREATE TRIGGER bench_metercheck_keep_rows BEFORE UPDATE OR DELETE ON bench_metercheck
  FOR EACH ROW EXECUTE FUNCTION bench_keep();
CREATE TRIGGER bench_metercheck_keep_table BEFORE TRUNCATE ON bench_metercheck
  FOR EACH STATEMENT EXECUTE FUNCTION bench_keep();
"""
UNGUARD = """
DROP TRIGGER bench_metercheck_keep_rows ON bench_metercheck;
DROP TRIGGER bench_metercheck_keep_table ON bench_metercheck;
"""


class Migration(migrations.Migration):
    dependencies = [("bench", "0004_meter_checks")]
    operations = [migrations.RunSQL(GUARD, UNGUARD)]
