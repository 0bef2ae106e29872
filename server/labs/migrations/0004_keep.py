"""The database itself refuses to change or remove signatures and predictions, as it does readings."""

from django.db import migrations

TABLES = ("labs_signoff", "labs_prediction")
GUARD = "".join(
    f"""
CREATE TRIGGER {table}_keep_rows BEFORE UPDATE OR DELETE ON {table} FOR EACH ROW EXECUTE FUNCTION bench_keep();
CREATE TRIGGER {table}_keep_table BEFORE TRUNCATE ON {table} FOR EACH STATEMENT EXECUTE FUNCTION bench_keep();
"""
    for table in TABLES
)
UNGUARD = "".join(
    f"DROP TRIGGER {table}_keep_rows ON {table};DROP TRIGGER {table}_keep_table ON {table};" for table in TABLES
)


class Migration(migrations.Migration):
    dependencies = [("labs", "0003_plans"), ("bench", "0003_append_only")]
    operations = [migrations.RunSQL(GUARD, UNGUARD)]
