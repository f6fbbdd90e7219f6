"""Whose job it is: of those that are, everybody who entered something in them or in a job of their work order."""

from collections import defaultdict

from django.conf import settings
from django.db import migrations, models


def name_those_who_worked(apps, schema_editor):
    Job, Change, Person = apps.get_model("jobs", "Job"), apps.get_model("jobs", "Change"), apps.get_model("accounts", "Person")
    named = defaultdict(set)
    for job, person in Change.objects.values_list("job", "by").distinct():
        named[job].add(person)
    by_name = {(shop, name): pk for pk, shop, name in Person.objects.values_list("pk", "shop", "shown_name")}
    orders = defaultdict(set)
    for job, shop, order, technician in Job.objects.values_list("pk", "shop", "work_order", "technician"):
        if (shop, technician) in by_name:
            named[job].add(by_name[(shop, technician)])
        if order is not None:
            orders[order].add(job)
    for jobs in orders.values():
        everybody = set().union(*(named[job] for job in jobs))
        for job in jobs:
            named[job] |= everybody
    through = Job.people.through
    through.objects.bulk_create(
        (through(job_id=job, person_id=person) for job, people in named.items() for person in sorted(people)), batch_size=1000
    )


class Migration(migrations.Migration):
    dependencies = [("jobs", "0005_kept_records"), migrations.swappable_dependency(settings.AUTH_USER_MODEL)]

    operations = [
        migrations.AddField(
            model_name="job", name="people", field=models.ManyToManyField(related_name="named_on", to=settings.AUTH_USER_MODEL)
        ),
        migrations.RunPython(name_those_who_worked, migrations.RunPython.noop),
    ]
