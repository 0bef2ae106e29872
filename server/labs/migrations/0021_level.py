from django.db import migrations, models


class Migration(migrations.Migration):
    """Labs that are there keep all that they show: the upper level; a new one begins with the middle."""

    dependencies = [
        ("labs", "0020_prediction_way"),
    ]

    LEVELS = [("first", "First"), ("middle", "Middle"), ("upper", "Upper")]

    operations = [
        migrations.AddField(
            model_name="lab",
            name="level",
            field=models.CharField(choices=LEVELS, default="upper", max_length=6),
        ),
        migrations.AlterField(
            model_name="lab",
            name="level",
            field=models.CharField(choices=LEVELS, default="middle", max_length=6),
        ),
    ]
