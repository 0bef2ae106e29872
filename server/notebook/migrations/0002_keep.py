"""The database itself refuses to change or remove what is written in notebooks and what is said to it."""

from django.db import migrations

TABLES = ("words", "handedin", "returned")
GUARD = """
CREATE TRIGGER notebook_{0}_keep_rows BEFORE UPDATE OR DELETE ON notebook_{0}
  FOR EACH ROW EXECUTE FUNCTION bench_keep();
CREATE TRIGGER notebook_{0}_keep_table BEFORE TRUNCATE ON notebook_{0}
  FOR EACH STATEMENT EXECUTE FUNCTION bench_keep();
"""
UNGUARD = """
DROP TRIGGER notebook_{0}_keep_rows ON notebook_{0};
DROP TRIGGER notebook_{0}_keep_table ON notebook_{0};
"""


class Migration(migrations.Migration):
    dependencies = [("notebook", "0001_notebook"), ("bench", "0003_append_only")]
    operations = [migrations.RunSQL(GUARD.format(table), UNGUARD.format(table)) for table in TABLES]
