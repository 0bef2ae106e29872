"""A planned cell that has readings keeps its plates, its liquid, its condition and its group."""

from django.db import migrations

KEEP = """
CREATE FUNCTION labs_measured_cell_stays() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF (NEW.negative, NEW.electrolyte, NEW.positive, NEW.condition, NEW.group_id)
    IS DISTINCT FROM (OLD.negative, OLD.electrolyte, OLD.positive, OLD.condition, OLD.group_id)
    AND EXISTS (SELECT 1 FROM bench_reading WHERE cell_id = OLD.id) THEN
    RAISE EXCEPTION 'a cell that has readings stays as it is' USING ERRCODE = 'restrict_violation';
  END IF;
  RETURN NEW;
END $$;
CREATE TRIGGER labs_measured_cell_stays BEFORE UPDATE ON labs_plannedcell
  FOR EACH ROW EXECUTE FUNCTION labs_measured_cell_stays();
"""
GONE = """
DROP TRIGGER labs_measured_cell_stays ON labs_plannedcell;
DROP FUNCTION labs_measured_cell_stays();
"""


class Migration(migrations.Migration):
    dependencies = [("labs", "0010_nothing_lost"), ("bench", "0003_append_only")]
    operations = [migrations.RunSQL(KEEP, GONE)]
