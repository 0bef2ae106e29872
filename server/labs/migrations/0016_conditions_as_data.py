"""Settings that are a number of a variable are kept in its one form: “4 cm apart” becomes “spacing 4 cm”."""

from django.db import migrations

from galvanic.condition import canonical

STAYS = "ALTER TABLE labs_plannedcell {} TRIGGER labs_measured_cell_stays"


def _rows(rows):
    """Cells as JSON, their condition in its one form."""
    return [{**row, "condition": canonical(row["condition"])} for row in rows]


def convert(apps, schema_editor):
    """Labs, their cells (measured ones too: they stay the same cells), wishes, and plans that can be taken back."""
    lab, cell, earlier = (apps.get_model("labs", name) for name in ("Lab", "PlannedCell", "EarlierPlan"))
    for one in lab.objects.exclude(conditions=[""]).iterator():
        one.conditions = list(dict.fromkeys(map(canonical, one.conditions)))
        one.wished = _rows(one.wished)
        one.save(update_fields=["conditions", "wished"])
    for one in earlier.objects.iterator():
        one.wished, one.hands = _rows(one.wished), [_rows(hand) for hand in one.hands]
        one.save(update_fields=["wished", "hands"])
    schema_editor.execute("SET CONSTRAINTS ALL IMMEDIATE")
    schema_editor.execute(STAYS.format("DISABLE"))
    for text in cell.objects.exclude(condition="").values_list("condition", flat=True).distinct().order_by():
        if canonical(text) != text:
            cell.objects.filter(condition=text).update(condition=canonical(text))
    schema_editor.execute("SET CONSTRAINTS ALL IMMEDIATE")
    schema_editor.execute(STAYS.format("ENABLE"))


class Migration(migrations.Migration):
    dependencies = [("labs", "0015_varies")]
    operations = [migrations.RunPython(convert, migrations.RunPython.noop)]
