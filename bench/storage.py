"""What a write keeps, and a whole job with its log thinned: bytes by table.

    python bench/storage.py      needs the database (`python -m ops db start`) and its environment

Works in a database of its own, `test_yoshi_storage`, and drops it. The bytes are the lengths of what stands in each row.
"""

import json
import os
import sys
from datetime import timedelta
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT), str(ROOT / "core"), str(ROOT / "server")]
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "yoshi_server.settings")
os.environ["YOSHI_TEST_SUFFIX"] = "_storage"

import django

django.setup()

from django.apps import apps
from django.core.management import call_command
from django.db import connection
from django.db.models import QuerySet
from django.test.utils import setup_databases, teardown_databases
from django.utils import timezone

from accounts import asking
from accounts.models import AcceptedRequest, Person
from cylinders.models import Movement
from demo import world
from instruments.actions.ingest import ingest
from instruments.actions.pair import begin_pairing, pair, put_on_job
from jobs.actions.change_job import save_changes
from jobs.actions.create_job import create_job
from jobs.models import Job
from yoshi_core.job.patches import Change

SAVES, READINGS = 40, 20_000
GOAL_WRITE, GOAL_JOB = 8_000, 1_000_000


def sizes() -> dict[str, int]:
    """Bytes in every table."""
    found = {}
    with connection.cursor() as cursor:
        for model in apps.get_models(include_auto_created=True):
            columns = " + ".join(f"COALESCE(LENGTH(`{field.column}`), 0)" for field in model._meta.local_concrete_fields)
            cursor.execute(f"SELECT COALESCE(SUM({columns}), 0) FROM `{model._meta.db_table}`")
            found[model._meta.db_table] = int(cursor.fetchone()[0])
    return found


def grown(before: dict[str, int]) -> dict[str, int]:
    return {name: size - before[name] for name, size in sizes().items() if size != before[name]}


def of_a_write(person: Person) -> dict[str, int]:
    """What one save adds, each of another value."""
    code = create_job(person, "storage-bench-job", "charge", "writes", None)["code"]
    path = "/steps/identify/runs/0/sheet/serial"
    save_changes(person, code, "storage-bench-first", [Change(path, None, "QR-00")])
    start = sizes()
    for n in range(10, 10 + SAVES):
        answer = save_changes(person, code, f"storage-bench-{n}", [Change(path, None, f"QR-{n}", force=True)])
        assert answer["accepted"]
    return {name: round(size / SAVES) for name, size in grown(start).items()}


def stored(rows: QuerySet[Any]) -> int:
    """Bytes in these rows."""
    return sum(len(str(value)) for row in rows.values_list() for value in row if value is not None)


def of_a_job() -> dict[str, int]:
    """The longest job of the demo, from its first entry to its last: everything that is kept of it."""
    number, longest = max(enumerate(world.JOBS), key=lambda item: len(item[1]["stages"]))
    row = Job.objects.filter(title=longest["title"], circuit__code=longest["circuit"]).latest("pk")
    return {
        "document": len(json.dumps(row.document)),
        "findings": len(json.dumps(row.findings)),
        "history": stored(row.changes.all()),
        "kept at closing": stored(row.kept.all()),
        "movements": stored(Movement.objects.filter(job_code=row.code)),
        "answers": stored(AcceptedRequest.objects.filter(key__startswith=f"demo-job-{number}-")),
    }


def of_a_log(person: Person) -> int:
    """What a reading every second for some hours adds."""
    gateway, _ = pair(begin_pairing(person).code, "kit", [{"key": "v", "channel": "vacuum", "unit": "micron"}])
    put_on_job(person, gateway.pk, Job.objects.latest("pk").pk)
    gateway.refresh_from_db()
    before, began = sizes(), timezone.now() - timedelta(seconds=READINGS + 60)
    for first in range(0, READINGS, 1000):
        rows = [
            {"instrument": "v", "value": 500.0 + n % 7, "unit": "micron", "at": (began + timedelta(seconds=n)).isoformat()}
            for n in range(first, first + 1000)
        ]
        ingest(gateway, rows, None)
    return sum(grown(before).values())


def main() -> int:
    """Measure, print, keep the figures; 1 where a goal is missed."""
    old = setup_databases(verbosity=0, interactive=False)
    try:
        call_command("load_demo", verbosity=0)
        person = Person.objects.get(username="vesk")
        asking.now.set(asking.Asking(person_id=person.pk, what="entered", about="x" * 12, address="10.0.0.1", device="Chromium on Android"))
        write, job, log = of_a_write(person), of_a_job(), of_a_log(person)
    finally:
        teardown_databases(old, verbosity=0)
    result = {
        "a write": sum(write.values()),
        "a write by table": write,
        "a whole job": sum(job.values()),
        "a whole job by table": job,
        f"rows of a log of {READINGS}": log,
    }
    print(json.dumps(result, indent=1))
    (ROOT / "bench" / "results" / "storage.json").write_text(json.dumps(result, indent=1) + "\n")
    return 0 if sum(write.values()) <= GOAL_WRITE and sum(job.values()) <= GOAL_JOB else 1


if __name__ == "__main__":
    sys.exit(main())
