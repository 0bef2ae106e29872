"""The retention switch counts only for the owner of the table; what is new is append-only too."""

from django.db import migrations

KEEP = """
CREATE OR REPLACE FUNCTION bench_keep() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF current_setting('pipette.retention', true) = 'on'
    AND pg_has_role(current_user, (SELECT relowner FROM pg_class WHERE oid = TG_RELID), 'MEMBER') THEN
    IF TG_OP = 'DELETE' THEN RETURN OLD; ELSE RETURN NEW; END IF;
  END IF;
  RAISE EXCEPTION 'readings are never changed or removed (%)', TG_OP USING ERRCODE = 'restrict_violation';
END $$;
CREATE TRIGGER bench_photoremoved_keep_rows BEFORE UPDATE OR DELETE ON bench_photoremoved
  FOR EACH ROW EXECUTE FUNCTION bench_keep();
CREATE TRIGGER bench_photoremoved_keep_table BEFORE TRUNCATE ON bench_photoremoved
  FOR EACH STATEMENT EXECUTE FUNCTION bench_keep();
"""


class Migration(migrations.Migration):
    dependencies = [("bench", "0010_nothing_lost")]
    operations = [migrations.RunSQL(KEEP, migrations.RunSQL.noop)]
