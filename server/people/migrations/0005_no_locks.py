"""Wrong tries make whoever tries wait instead of locking: the tables of the locks go."""

from django.db import migrations

GONE = "; ".join(
    f"DROP TABLE IF EXISTS axes_{table}"
    for table in ("accessattemptexpiration", "accessattempt", "accessfailurelog", "accesslog")
)


class Migration(migrations.Migration):
    dependencies = [("people", "0004_nothing_lost")]
    operations = [migrations.RunSQL(GONE, migrations.RunSQL.noop)]
