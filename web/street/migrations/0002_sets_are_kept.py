from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [
        ("street", "0001_sets"),
        ("kept", "0002_what_planners_kept"),
    ]

    operations = [
        migrations.DeleteModel(name="PositionSet"),
    ]
