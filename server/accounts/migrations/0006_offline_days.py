"""How long a device works on without a word of the server; an older server beside this one leaves it at what is usual."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("accounts", "0005_clock")]

    operations = [
        migrations.AddField(
            model_name="shop",
            name="offline_days",
            field=models.PositiveSmallIntegerField(db_default=14, default=14),
        ),
    ]
