"""Accepted requests belong to every writer, not to jobs alone; the table stays where it is."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("accounts", "0001_initial"), ("jobs", "0001_initial")]

    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.CreateModel(
                    name="AcceptedRequest",
                    fields=[
                        ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                        ("key", models.CharField(max_length=64)),
                        ("digest", models.CharField(max_length=64)),
                        ("answer", models.JSONField()),
                        ("at", models.DateTimeField(auto_now_add=True, db_index=True)),
                        ("shop", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, to="accounts.shop")),
                    ],
                    options={
                        "db_table": "jobs_acceptedrequest",
                        "constraints": [models.UniqueConstraint(fields=("shop", "key"), name="one_answer_per_key")],
                    },
                ),
            ],
            database_operations=[],
        ),
    ]
