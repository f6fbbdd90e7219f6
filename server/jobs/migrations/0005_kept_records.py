"""What a closed job printed is kept as it was."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("jobs", "0004_history_of_a_document")]

    operations = [
        migrations.CreateModel(
            name="KeptRecord",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("content", models.JSONField()),
                ("core_version", models.CharField(max_length=20)),
                ("at", models.DateTimeField()),
                ("job", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="kept", to="jobs.job")),
            ],
            options={"ordering": ("-pk",)},
        ),
    ]
