"""When a lab was deleted or closed, and when its time for photographs was changed, is what the database's own clock says."""

from django.db import migrations

CLOCK = """
CREATE TRIGGER labs_lab_own_clock BEFORE UPDATE OF deleted_at, closed_at, keep_days, keep_days_at ON labs_lab
  FOR EACH ROW EXECUTE FUNCTION pipette_own_clock('deleted_at', 'closed_at', 'keep_days_at');
CREATE FUNCTION labs_keep_days_at() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF NOT pg_has_role(current_user, (SELECT relowner FROM pg_class WHERE oid = TG_RELID), 'MEMBER') THEN
    NEW.keep_days_at := now();
  END IF;
  RETURN NEW;
END $$;
CREATE TRIGGER labs_lab_keep_days_at BEFORE UPDATE OF keep_days ON labs_lab
  FOR EACH ROW WHEN (NEW.keep_days IS DISTINCT FROM OLD.keep_days) EXECUTE FUNCTION labs_keep_days_at();
"""
BACK = """
DROP TRIGGER labs_lab_keep_days_at ON labs_lab;
DROP FUNCTION labs_keep_days_at();
DROP TRIGGER labs_lab_own_clock ON labs_lab;
"""


class Migration(migrations.Migration):
    dependencies = [("labs", "0023_keep_days_at"), ("people", "0013_own_clock")]
    operations = [migrations.RunSQL(CLOCK, BACK)]
