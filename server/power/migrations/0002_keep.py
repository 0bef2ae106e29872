"""The database itself refuses to change or remove packs and what was measured of them."""

from django.db import migrations

TABLES = ("pack", "packentry")
GUARD = """
CREATE TRIGGER power_{0}_keep_rows BEFORE UPDATE OR DELETE ON power_{0}
  FOR EACH ROW EXECUTE FUNCTION bench_keep();
CREATE TRIGGER power_{0}_keep_table BEFORE TRUNCATE ON power_{0}
  FOR EACH STATEMENT EXECUTE FUNCTION bench_keep();
"""
UNGUARD = """
DROP TRIGGER power_{0}_keep_rows ON power_{0};
DROP TRIGGER power_{0}_keep_table ON power_{0};
"""


class Migration(migrations.Migration):
    dependencies = [("power", "0001_packs"), ("bench", "0011_owner_only")]
    operations = [migrations.RunSQL(GUARD.format(table), UNGUARD.format(table)) for table in TABLES]
