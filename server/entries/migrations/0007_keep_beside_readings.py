"""The database itself refuses to change or remove what groups keep beside readings, and what teachers set aside."""

from django.db import migrations

TABLES = ("setaside", "underload", "observation", "photo", "kepttrace")
GUARD = """
CREATE TRIGGER bench_{0}_keep_rows BEFORE UPDATE OR DELETE ON bench_{0}
  FOR EACH ROW EXECUTE FUNCTION bench_keep();
CREATE TRIGGER bench_{0}_keep_table BEFORE TRUNCATE ON bench_{0}
  FOR EACH STATEMENT EXECUTE FUNCTION bench_keep();
"""
UNGUARD = """
DROP TRIGGER bench_{0}_keep_rows ON bench_{0};
DROP TRIGGER bench_{0}_keep_table ON bench_{0};
"""


class Migration(migrations.Migration):
    dependencies = [("bench", "0006_beside_readings")]
    operations = [migrations.RunSQL(GUARD.format(table), UNGUARD.format(table)) for table in TABLES]
