"""Claims name their cell as the labs do now: “4 cm apart” has become “spacing 4 cm”."""

from django.db import migrations

from galvanic.condition import canonical

KEEPS = "ALTER TABLE findings_claim {} TRIGGER findings_claim_keep_rows"


def convert(apps, schema_editor):
    """The cells that claims are about; nothing else of a claim changes."""
    claim = apps.get_model("findings", "Claim")
    schema_editor.execute("SET CONSTRAINTS ALL IMMEDIATE")
    schema_editor.execute(KEEPS.format("DISABLE"))
    for text in claim.objects.exclude(condition="").values_list("condition", flat=True).distinct().order_by():
        if canonical(text) != text:
            claim.objects.filter(condition=text).update(condition=canonical(text))
    schema_editor.execute("SET CONSTRAINTS ALL IMMEDIATE")
    schema_editor.execute(KEEPS.format("ENABLE"))


class Migration(migrations.Migration):
    dependencies = [("findings", "0003_pack"), ("labs", "0016_conditions_as_data")]
    operations = [migrations.RunPython(convert, migrations.RunPython.noop)]
