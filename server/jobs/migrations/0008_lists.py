"""The list a job stands in, made by the database of what else it says, and the indexes those lists are read by."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("jobs", "0007_big_lists")]

    operations = [
        migrations.AddField(model_name="job", name="discarded", field=models.BooleanField(db_default=False)),
        migrations.AddField(
            model_name="job",
            name="listed",
            field=models.GeneratedField(
                db_persist=True,
                expression=models.Case(
                    models.When(discarded=True, then=models.Value("discarded")),
                    models.When(closed=True, then=models.Value("closed")),
                    models.When(kind="quick", then=models.Value("quick")),
                    default=models.Value("open"),
                ),
                output_field=models.CharField(max_length=10),
            ),
        ),
        migrations.AddIndex(
            model_name="job",
            index=models.Index(
                fields=["shop", "listed", "-updated_at", "-id", "title", "code", "circuit", "step", "word"], name="job_lists"
            ),
        ),
        migrations.AddIndex(
            model_name="job",
            index=models.Index(fields=["shop", "listed", "title", "id", "code", "circuit", "step", "word"], name="job_lists_by_name"),
        ),
        migrations.RemoveIndex(model_name="job", name="job_list"),
        migrations.RemoveIndex(model_name="job", name="job_search"),
    ]
