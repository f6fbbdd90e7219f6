"""Whether lists stay flat from 100 to 100,000 jobs, for who sees all and for who is named on some: the page's queries timed on a scratch database.

    ./test server -- is not needed first; run:  python bench/list_speed.py

Makes its own test database and drops it.
"""

import os
import statistics
import sys
import time
from datetime import timedelta
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT), str(ROOT / "core"), str(ROOT / "server")]
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "yoshi_server.settings")
os.environ["YOSHI_TEST_SUFFIX"] = "_bench"

import django

from ops import database

database.ensure_running()
os.environ.update(database.environment())
django.setup()

from django.conf import settings
from django.test.utils import get_runner
from django.utils import timezone

from accounts.models import Person, Shop
from jobs import queries
from jobs.models import Job

SIZES = (100, 1_000, 10_000, 100_000)


SHARE = 10  # a technician is named on one of so many


def fill(shop: Shop, upto: int, technician: Person) -> None:
    start, now = Job.objects.count(), timezone.now()
    plain = {"document": {"id": "x"}, "findings": {"steps": []}, "document_version": 2, "profile_revision": 0}
    while start < upto:
        rows = [
            Job(shop=shop, code=f"b{n}", kind="charge", title=f"Job {n}", step="identify", word="Open", technician="x",
                created_at=now, updated_at=now - timedelta(seconds=n), **plain)
            for n in range(start, min(start + 2_000, upto))
        ]  # fmt: skip
        made = Job.objects.bulk_create(rows)
        named = Job.people.through
        named.objects.bulk_create(named(job_id=row.pk, person_id=technician.pk) for row in made[::SHARE])
        start += len(rows)


def page_ms(person: Person) -> float:
    """Median of a page in the middle of what a person sees."""
    rows = queries.seen_by(person).order_by("-updated_at", "-id").values_list("updated_at", "id")
    before = rows[queries.seen_by(person).count() // 2]
    times = []
    for _ in range(30):
        started = time.perf_counter()
        queries.job_page(person, queries.Wanted(), before)
        times.append((time.perf_counter() - started) * 1000)
    return statistics.median(times)


def main() -> int:
    runner = get_runner(settings)(verbosity=0, interactive=False)
    old = runner.setup_databases()
    try:
        shop = Shop.objects.create(name="bench")
        lead, technician = (Person.objects.create(username=role, shown_name=role, role=role, shop=shop) for role in ("lead", "technician"))
        times = []
        for size in SIZES:
            fill(shop, size, technician)
            times.append(page_ms(lead))
            print(f"{size:>8,} jobs: one page {times[-1]:.2f} ms; of the tenth a technician is named on {page_ms(technician):.2f} ms")
        ratio = times[-1] / times[0]
        print(f"100,000 against 100: {ratio:.2f}× (flat is about 1)")
        return 0 if ratio < 3 else 1
    finally:
        runner.teardown_databases(old)


if __name__ == "__main__":
    sys.exit(main())
