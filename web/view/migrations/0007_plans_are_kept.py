from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [
        ("view", "0006_a_third_along"),
        ("kept", "0002_what_planners_kept"),
    ]

    operations = [
        migrations.DeleteModel(name="PlanMark"),
        migrations.DeleteModel(name="Plan"),
    ]
