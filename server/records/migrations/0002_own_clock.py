"""When it was asked is what the database's own clock says: from then its time counts until it is erased."""

from django.db import migrations

CLOCK = """
CREATE TRIGGER records_removal_own_clock BEFORE INSERT OR UPDATE OF asked_at ON records_removal
  FOR EACH ROW EXECUTE FUNCTION pipette_own_clock('asked_at');
"""


class Migration(migrations.Migration):
    dependencies = [("records", "0001_tables_in_and_removals"), ("people", "0013_own_clock")]
    operations = [migrations.RunSQL(CLOCK, "DROP TRIGGER records_removal_own_clock ON records_removal;")]
