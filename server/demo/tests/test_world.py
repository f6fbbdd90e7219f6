"""The demo world is whole: fifteen systems, a job at each step, one of every kind proven, one gone wrong at each, books that agree."""

import tomllib
from collections import defaultdict
from typing import Any

import pytest
from django.core.management import call_command
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from accounts.models import Person
from cylinders.models import Cylinder, Movement
from cylinders.queries import accounts, contents_kg
from demo import world
from jobs.histories import histories
from jobs.models import Job
from jobs.store import read
from systems.models import Circuit, Site, System
from systems.queries import listed_circuits
from yoshi_core.document.plate import KINDS
from yoshi_core.job import documents
from yoshi_core.steps import registry

pytestmark = pytest.mark.django_db


def test_every_stage_is_gone_through_and_none_has_the_name_of_a_shared_one() -> None:
    shared = tomllib.loads((world.DATA / "stages.toml").read_text())
    unused = set(shared["stages"]) - {word for words in shared["groups"].values() for word in words}
    for path in (world.DATA / "units").glob("*.toml"):
        unit = tomllib.loads(path.read_text())
        gone = {word for job in [*unit.get("jobs", []), *unit.get("live", [])] for word in job["stages"]}
        assert set(unit.get("stages", {})) <= gone, path.name
        assert not set(unit.get("stages", {})) & {*shared["stages"], *shared["groups"]}, path.name
        unused -= gone
    assert not unused


@pytest.mark.usefixtures("demo_world")
def test_fifteen_systems_and_loading_twice_changes_nothing() -> None:
    assert System.objects.count() == 15
    assert Circuit.objects.count() == len(world.CIRCUITS) == 17
    jobs, movements = Job.objects.count(), Movement.objects.count()
    call_command("load_demo", verbosity=0)
    assert (Job.objects.count(), Movement.objects.count()) == (jobs, movements)


@pytest.mark.usefixtures("demo_world")
def test_a_job_of_every_kind_goes_from_plate_to_proven() -> None:
    proven = set()
    for job in Job.objects.filter(closed=True):
        found = {step["step"]: step["verdict"]["word"] for step in job.findings["steps"]}
        if found.get("weigh_in") == found.get("verify") == "Holds":
            proven.add(read(job).circuit.plate.kind)
    assert proven == set(KINDS)


@pytest.mark.usefixtures("demo_world")
def test_a_job_stands_at_each_step_and_one_gone_wrong_at_each() -> None:
    words: dict[str, set[str]] = defaultdict(set)
    for job in Job.objects.all():
        words[job.step].add(job.word if job.visit != "running_not_proven" else "Wait")
        if job.step == "identify":
            rules = {r["rule_id"] for s in job.findings["steps"] for r in s["verdict"]["reasons"]}
            words["identify"] |= {"Wait"} if "pairing.told" in rules else set()
    assert set(words) == set(registry.order("retrofit"))
    wrong = {step for step, found in words.items() if found & {"Wait", "Stop"}}
    assert wrong == set(registry.order("retrofit"))


@pytest.mark.usefixtures("demo_world")
def test_every_document_is_read_back_as_it_was_written() -> None:
    for row in Job.objects.all():
        job = read(row)
        assert documents.dump_job(documents.load_job(documents.dump_job(job))) == row.document


@pytest.mark.usefixtures("demo_world")
def test_the_cylinders_stand_as_the_books_say() -> None:
    rows = list(Cylinder.objects.all())
    badges = {row.code: held.badge for row, held in accounts(rows[0].shop, rows)}
    assert {"R2": "Retest due", "R4": "Ready", "R7": "Needs vacuum", "R3": "Room", "14": "In use"}.items() <= badges.items()
    net = contents_kg(rows)
    openings = sum(m.mass_kg for m in Movement.objects.filter(kind="opening").exclude(to_cylinder=None))
    recovered = sum(m.mass_kg for m in Movement.objects.filter(kind="recover").exclude(to_cylinder=None))
    drawn = sum(m.mass_kg for m in Movement.objects.exclude(from_cylinder=None))
    assert sum(net.values()) == pytest.approx(openings + recovered - drawn)


@pytest.mark.usefixtures("demo_world")
def test_a_system_was_changed_to_another_refrigerant_and_keeps_its_history() -> None:
    circuit = Circuit.objects.get(code="AR-1")
    assert circuit.plate["refrigerant"] == "R-407C"
    assert circuit.plate["oil"] == "POE 32"
    before, after = circuit.revisions.get(revision=1), circuit.revisions.get(revision=2)
    assert before.plate["refrigerant"] == "R-22"
    assert after.reason.endswith(": changed from R-22 to R-407C")
    moved = Movement.objects.filter(job_code__in=Job.objects.filter(circuit=circuit).values("code"))
    assert {m.refrigerant for m in moved.filter(kind="recover")} == {"R-22"}
    assert {m.refrigerant for m in moved.filter(kind="charge")} == {"R-407C"}
    assert not Cylinder.objects.get(code="R11").mixed


@pytest.mark.usefixtures("demo_world")
def test_the_list_of_systems_asks_no_question_per_system(client: Client) -> None:
    client.force_login(Person.objects.get(username="orrin"))
    with CaptureQueriesContext(connection) as asked:
        assert len(client.get("/api/systems").json()["rows"]) == len(world.CIRCUITS)
    assert len(asked) < len(world.CIRCUITS)


def named_cylinders(row: Job) -> list[dict[str, Any]]:
    """What a job's sheets say of cylinders: those drawn from, those filled. Cans, known by their label, are in no book."""
    steps = row.document["steps"]
    sheets = [(name, run["sheet"]) for name in ("weigh_in", "recover") for run in steps.get(name, {}).get("runs", [])]
    rows = [part for name, sheet in sheets for part in sheet.get("draws" if name == "weigh_in" else "cylinders", {}).values()]
    return [part for part in rows if part.get("cylinder") and "label_net" not in part]


@pytest.mark.usefixtures("demo_world")
def test_what_jobs_say_of_a_cylinder_is_what_the_book_says() -> None:
    book = {row.code: row for row in Cylinder.objects.all()}
    said = 0
    for job in Job.objects.all():
        for part in named_cylinders(job):
            row = book[part["cylinder"]]
            said += 1
            assert part["tare"]["value"] == pytest.approx(row.tare_kg, abs=0.01), (job.title, row.code)
            if "water_capacity" in part:
                assert part["water_capacity"]["value"] == pytest.approx(row.water_capacity_kg, abs=0.01), (job.title, row.code)
            if part.get("retest"):
                assert part["retest"] == row.retest
    assert said > 20
    assert not Movement.objects.filter(place__contains="not in the book").exclude(place__startswith="can ").exists()
    assert not Movement.objects.filter(place="difference").exists(), "a scale said something else than the book"
    assert min(contents_kg(book.values()).values()) >= -1e-6


@pytest.mark.usefixtures("demo_world")
def test_no_system_is_said_to_hold_while_its_book_says_that_it_empties() -> None:
    shop = Site.objects.get().shop
    rates = {}
    for circuit, history in histories(shop, list(listed_circuits(shop)), timezone.now().date()):
        rate = history.rate.value if history.rate else 0.0
        rates[circuit.code] = rate
        if history.word == "Holds":
            assert rate <= 0.25, circuit.name
        assert history.balance.value < 1.7 * (history.full.value if history.full else 0.0), circuit.name
        plate = circuit.plate.get("refrigerant")
        jobs = Job.objects.filter(circuit=circuit).exclude(kind="retrofit")
        assert {row.document["circuit"]["plate"]["refrigerant"] for row in jobs} <= {plate, "R-22"}, circuit.name
    assert rates["CW-1"] > 0.2, "one of them does leak"
    assert sum(rate > 0.5 for rate in rates.values()) == 0
