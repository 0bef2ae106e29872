"""When it was asked is what the database's own clock says: from then its time counts until it is erased."""

from django.db import migrations

CLOCK = """
CREATE TRIGGER asking_classquestion_own_clock BEFORE INSERT OR UPDATE OF asked_at ON asking_classquestion
  FOR EACH ROW EXECUTE FUNCTION pipette_own_clock('asked_at');
"""


class Migration(migrations.Migration):
    dependencies = [("asking", "0002_keep"), ("people", "0013_own_clock")]
    operations = [migrations.RunSQL(CLOCK, "DROP TRIGGER asking_classquestion_own_clock ON asking_classquestion;")]
