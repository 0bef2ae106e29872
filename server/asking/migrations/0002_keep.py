"""The database itself refuses to change or remove what devices answered; its time over, retention removes it."""

from django.db import migrations

GUARD = """
CREATE TRIGGER asking_classanswer_keep_rows BEFORE UPDATE OR DELETE ON asking_classanswer
  FOR EACH ROW EXECUTE FUNCTION bench_keep();
CREATE TRIGGER asking_classanswer_keep_table BEFORE TRUNCATE ON asking_classanswer
  FOR EACH STATEMENT EXECUTE FUNCTION bench_keep();
"""
UNGUARD = """
DROP TRIGGER asking_classanswer_keep_rows ON asking_classanswer;
DROP TRIGGER asking_classanswer_keep_table ON asking_classanswer;
"""


class Migration(migrations.Migration):
    dependencies = [("asking", "0001_asking"), ("bench", "0003_append_only")]
    operations = [migrations.RunSQL(GUARD, UNGUARD)]
