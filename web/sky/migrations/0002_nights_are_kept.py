from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [
        ("sky", "0001_nights"),
        ("kept", "0002_what_planners_kept"),
    ]

    operations = [
        migrations.DeleteModel(name="Night"),
    ]
