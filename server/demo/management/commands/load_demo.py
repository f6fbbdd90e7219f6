"""Loads the demo world once; a world that is there already is left alone."""

from collections.abc import Sequence
from datetime import datetime, timedelta
from typing import Any

from django.core.management.base import BaseCommand
from django.db import transaction
from django.utils import timezone

from accounts.models import Person, ProfileRevision, Shop
from accounts.queries import profile_of, shop_of
from cylinders.actions.book import add_cylinder
from cylinders.actions.past import record_past
from cylinders.queries import circuit_movements
from demo import world
from demo.world import Ago, Close, LeaveOut
from jobs.actions.change_job import close_step, end_visit, leave_out, save_changes
from jobs.actions.create_job import create_job
from systems.models import Circuit, CircuitRevision, Customer, Site, System
from yoshi_core.books.cylinder import BOOK_KG
from yoshi_core.document import schema
from yoshi_core.document.plate import Plate
from yoshi_core.job.evaluate import full_charge_kg
from yoshi_core.job.patches import Change


class Command(BaseCommand):
    help = "Load the made-up observatory, its people, circuits and jobs."

    def handle(self, *args: Any, **options: Any) -> None:
        if Shop.objects.exists():
            self.stdout.write("There is a shop here already, whatever it is called now; nothing was loaded.")
            return
        self.load()
        self.stdout.write("The demo world is loaded.")

    def load(self) -> None:
        """Load it, whatever else is there."""
        with transaction.atomic():
            shop = Shop.objects.create(name=world.SHOP)
            people = {row["username"]: _person(shop, **row) for row in world.PEOPLE}
            ProfileRevision.objects.create(
                shop=shop,
                revision=1,
                name="Brindlewick field profile",
                reason="the defaults, looked at and kept",
                at=timezone.now(),
                by=people["vesk"].shown_name,
            )
            circuits = _circuits(shop)
            _past(people["vesk"], circuits)
            for cylinder in world.CYLINDERS:
                add_cylinder(people["vesk"], f"demo-cylinder-{cylinder['code']}", cylinder)
            for number, job in enumerate(world.JOBS):
                make_job(people[job["by"]], circuits[job["circuit"]], job, f"demo-job-{number}")


def _person(shop: Shop, username: str, shown_name: str, role: str) -> Person:
    person = Person(username=username, shown_name=shown_name, role=role, shop=shop)
    person.set_password(world.PASSWORD)
    person.save()
    return person


def _circuits(shop: Shop) -> dict[str, Circuit]:
    site = Site.objects.create(
        shop=shop, name=world.SITE, customer=Customer.objects.create(shop=shop, **world.CUSTOMER), address=world.CUSTOMER["address"]
    )
    found = {}
    for facts in world.CIRCUITS:
        system, _ = System.objects.get_or_create(site=site, name=facts["system"])
        plate = schema.dump(schema.load(Plate, {**world.SITE_FACTS, **facts["plate"]}, "/plate"))
        circuit = Circuit.objects.create(system=system, code=facts["code"], name=facts["name"], plate=plate)
        CircuitRevision.objects.create(
            circuit=circuit, revision=1, plate=plate, at=timezone.now(), by="T. Vesk", reason="read off the plate at installation"
        )
        found[facts["code"]] = circuit
    return found


def _past(person: Person, circuits: dict[str, Circuit]) -> None:
    """Earlier records, so many days ago."""
    for facts in world.CIRCUITS:
        for n, past in enumerate(facts.get("past", ())):
            at = timezone.now() - timedelta(days=past["days_ago"])
            record_past(person, f"demo-{facts['code']}-{n}", circuits[facts["code"]].pk, past["kind"], past["mass"], at, past["source"])


def _arrives_empty(job: dict[str, Any]) -> bool:
    """Whether the job begins on a system that was emptied before it came."""
    rows = [row for stage in job["stages"] if not isinstance(stage, Close | LeaveOut) for row in stage]
    return any(row[:3] == ("weigh_in", "system_state", "empty") for row in rows) and not any(row.step == "recover" for row in rows)


def _was_recovered(person: Person, circuit: Circuit, key: str) -> None:
    """What the book says was in it came out on the visit before, so that the new charge is none that was lost."""
    circuit.refresh_from_db()
    net = sum(row.mass_kg if row.to_circuit_id == circuit.pk else -row.mass_kg for row in circuit_movements(circuit))
    full = full_charge_kg(schema.load(Plate, circuit.plate, "/plate"), profile_of(shop_of(person))) or 0.0
    out = min(net, full)
    if out > BOOK_KG:
        record_past(
            person, f"{key}-out", circuit.pk, "recovered", f"{out:.4f} kg", timezone.now(), "recovered on the visit before, for the repair"
        )


def _given(value: Any) -> Any:
    return value.at(timezone.now()) if isinstance(value, Ago) else value


def _before(later: Sequence[Any]) -> datetime | None:
    """When a stage was typed: before anything was read in those that follow, so that the account has things in their order."""
    minutes = [
        row.value.minutes for stage in later if not isinstance(stage, Close | LeaveOut) for row in stage if isinstance(row.value, Ago)
    ]
    return timezone.now() - timedelta(minutes=max(minutes) + 1) if minutes else None


def make_job(person: Person, circuit: Circuit, job: dict[str, Any], key: str) -> str:
    """A demo job brought through its stages; its code."""
    if _arrives_empty(job):
        _was_recovered(person, circuit, key)
    code: str = create_job(person, key, job.get("kind", "charge"), job["title"], circuit.pk)["code"]
    for n, stage in enumerate(job["stages"]):
        stage_key = f"{key}-{n}"
        if isinstance(stage, Close):
            close_step(person, code, stage_key, stage.step, stage.reason)
            continue
        if isinstance(stage, LeaveOut):
            leave_out(person, code, stage_key, stage.step, stage.reason)
            continue
        typed_at = _before(job["stages"][n + 1 :])
        changes = [Change(f"/steps/{step}/runs/0/sheet/{field}", None, _given(value), typed_at=typed_at) for step, field, value in stage]
        answer = save_changes(person, code, stage_key, changes)
        assert not answer["problems"], answer["problems"]
    if "visit_ends" in job:
        end_visit(person, code, f"{key}-visit", job["visit_ends"])
    return code
