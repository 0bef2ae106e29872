"""The database itself refuses to change or remove what devices tried at homework; its time over, retention removes it."""

from django.db import migrations

GUARD = """
CREATE TRIGGER homework_tried_keep_rows BEFORE UPDATE OR DELETE ON homework_tried
  FOR EACH ROW EXECUTE FUNCTION bench_keep();
CREATE TRIGGER homework_tried_keep_table BEFORE TRUNCATE ON homework_tried
  FOR EACH STATEMENT EXECUTE FUNCTION bench_keep();
"""
UNGUARD = """
DROP TRIGGER homework_tried_keep_rows ON homework_tried;
DROP TRIGGER homework_tried_keep_table ON homework_tried;
"""


class Migration(migrations.Migration):
    dependencies = [("homework", "0001_homework"), ("bench", "0003_append_only")]
    operations = [migrations.RunSQL(GUARD, UNGUARD)]
