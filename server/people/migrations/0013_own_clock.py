"""When something was asked to be erased is what the database's own clock says, whatever the server writes: a role that was
stolen cannot date a deletion back, so nothing is erased before its waiting time is over."""

from django.db import migrations

CLOCK = """
CREATE FUNCTION pipette_own_clock() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  name text;
  was text;
  becomes text;
BEGIN
  IF pg_has_role(current_user, (SELECT relowner FROM pg_class WHERE oid = TG_RELID), 'MEMBER') THEN
    RETURN NEW;
  END IF;
  FOREACH name IN ARRAY TG_ARGV LOOP
    EXECUTE format('SELECT ($1).%I::text', name) INTO becomes USING NEW;
    was := NULL;
    IF TG_OP = 'UPDATE' THEN
      EXECUTE format('SELECT ($1).%I::text', name) INTO was USING OLD;
    END IF;
    IF becomes IS NOT NULL AND becomes IS DISTINCT FROM was THEN
      NEW := jsonb_populate_record(NEW, jsonb_build_object(name, now()));
    END IF;
  END LOOP;
  RETURN NEW;
END $$;
CREATE TRIGGER people_teacher_own_clock BEFORE UPDATE OF deleted_at ON people_teacher
  FOR EACH ROW EXECUTE FUNCTION pipette_own_clock('deleted_at');
"""
BACK = """
DROP TRIGGER people_teacher_own_clock ON people_teacher;
DROP FUNCTION pipette_own_clock();
"""


class Migration(migrations.Migration):
    dependencies = [("people", "0012_wrong_tries_by_code")]
    operations = [migrations.RunSQL(CLOCK, BACK)]
