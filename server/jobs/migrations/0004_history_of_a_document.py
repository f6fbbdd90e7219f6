"""What a document's ledger brought along is its history; of jobs taken over before, what happened before they came."""

from datetime import datetime

from django.db import migrations, models


def find_history(apps, schema_editor):
    Job, Change = apps.get_model("jobs", "Job"), apps.get_model("jobs", "Change")
    for change in Change.objects.filter(kind="imported").iterator():
        job = Job.objects.get(pk=change.job_id)
        lines = job.document.get("ledger", [])
        before = [line for line in lines if datetime.fromisoformat(line["at"]) < job.created_at]
        original = str(change.payload.get("original_id", ""))
        for line in before:  # under the job's own code, so that what moved before is known to have moved
            if original and line["movement"]["key"].startswith(f"{original}/"):
                line["movement"]["key"] = job.code + line["movement"]["key"][len(original) :]
        Job.objects.filter(pk=job.pk).update(document=job.document, history_lines=len(before), original=original[:60])


class Migration(migrations.Migration):
    dependencies = [("jobs", "0003_carried_sentence")]

    operations = [
        migrations.AddField(model_name="job", name="history_lines", field=models.PositiveIntegerField(default=0)),
        migrations.AddField(model_name="job", name="original", field=models.CharField(db_index=True, default="", max_length=60)),
        migrations.RunPython(find_history, migrations.RunPython.noop),
    ]
