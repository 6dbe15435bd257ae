"""Plans get an owner: those from before, which were everybody's, become the sample's."""

import django.db.models.deletion
from django.db import migrations, models


def give_to_the_sample(apps, schema_editor):
    plans = apps.get_model("view", "Plan").with_deleted.all()
    if plans.exists():
        owner, _ = apps.get_model("people", "Owner").objects.get_or_create(is_sample=True)
        plans.update(owner=owner)


class Migration(migrations.Migration):
    dependencies = [("view", "0001_plans"), ("people", "0001_people")]

    operations = [
        migrations.AddField(
            model_name="plan",
            name="copied_from",
            field=models.BigIntegerField(blank=True, editable=False, null=True),
        ),
        migrations.AddField(
            model_name="plan",
            name="owner",
            field=models.ForeignKey(
                null=True,
                on_delete=django.db.models.deletion.CASCADE,
                related_name="%(class)ss",
                to="people.owner",
            ),
        ),
        migrations.RunPython(give_to_the_sample, migrations.RunPython.noop),
        migrations.AlterField(
            model_name="plan",
            name="owner",
            field=models.ForeignKey(
                on_delete=django.db.models.deletion.CASCADE,
                related_name="%(class)ss",
                to="people.owner",
            ),
        ),
        migrations.AddIndex(
            model_name="plan",
            index=models.Index(fields=["owner", "-updated_at"], name="view_plan_owner_recent"),
        ),
    ]
