from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('bag', '0002_as_it_closes'),
    ]

    operations = [
        migrations.AddField(
            model_name='lens',
            name='front_mm',
            field=models.FloatField(blank=True, null=True),
        ),
        migrations.AddField(
            model_name='lens',
            name='ring_off_mm',
            field=models.FloatField(blank=True, null=True),
        ),
    ]
