"""When it was asked is what the database's own clock says: from then its time counts until it is erased."""

from django.db import migrations

CLOCK = """
CREATE TRIGGER homework_homework_own_clock BEFORE INSERT OR UPDATE OF set_at ON homework_homework
  FOR EACH ROW EXECUTE FUNCTION pipette_own_clock('set_at');
"""


class Migration(migrations.Migration):
    dependencies = [("homework", "0002_keep"), ("people", "0013_own_clock")]
    operations = [migrations.RunSQL(CLOCK, "DROP TRIGGER homework_homework_own_clock ON homework_homework;")]
