"""The database itself refuses to change or remove readings.

Retention, which must one day remove whole labs, and the clean-up between tests run with `SET pipette.retention = 'on'`
in their own connection; nothing in the application sets it.
"""

from django.db import migrations

GUARD = """
CREATE FUNCTION bench_keep() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF current_setting('pipette.retention', true) = 'on' THEN
    IF TG_OP = 'DELETE' THEN RETURN OLD; ELSE RETURN NEW; END IF;
  END IF;
  RAISE EXCEPTION 'readings are never changed or removed (%)', TG_OP USING ERRCODE = 'restrict_violation';
END $$;
CREATE TRIGGER bench_reading_keep_rows BEFORE UPDATE OR DELETE ON bench_reading
  FOR EACH ROW EXECUTE FUNCTION bench_keep();
CREATE TRIGGER bench_reading_keep_table BEFORE TRUNCATE ON bench_reading
  FOR EACH STATEMENT EXECUTE FUNCTION bench_keep();
"""
UNGUARD = """
DROP TRIGGER bench_reading_keep_rows ON bench_reading;
DROP TRIGGER bench_reading_keep_table ON bench_reading;
DROP FUNCTION bench_keep();
"""


class Migration(migrations.Migration):
    dependencies = [("bench", "0002_initial")]
    operations = [migrations.RunSQL(GUARD, UNGUARD)]
