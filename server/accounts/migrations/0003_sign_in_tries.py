"""Failures to sign in are counted where every process sees them."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("accounts", "0002_acceptedrequest")]

    operations = [
        migrations.CreateModel(
            name="SignInTries",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("key", models.CharField(max_length=80, unique=True)),
                ("failures", models.PositiveIntegerField(default=0)),
                ("next_at", models.DateTimeField()),
                ("last_at", models.DateTimeField(db_index=True)),
            ],
        ),
    ]
