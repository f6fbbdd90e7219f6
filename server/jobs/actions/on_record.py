"""What a closed job leaves on record: what a circuit learned, and the circuit itself where the unit was not on record yet."""

from typing import Any

from accounts import clock
from accounts.models import Person
from accounts.texts import alike
from cylinders.actions.post import give_circuit
from jobs.models import Job
from systems.models import Circuit, CircuitRevision, Site, System
from systems.queries import circuits_of, sites_called
from yoshi_core.document import schema
from yoshi_core.document.model import Job as CoreJob
from yoshi_core.steps.plates import left_plate
from yoshi_core.steps.verify import fingerprint
from yoshi_core.units.display import Amount

NO_SITE = "Site not named"


def put_on_record(row: Job, job: CoreJob, inside: Amount | None, person: Person) -> None:
    """Make site, system and circuit of a unit that was on none, with its lines, targets and orifice as this job leaves them."""
    sheet = job.steps["close_out"].runs[-1].sheet
    name = (sheet.system or row.title)[:120]
    called = (sheet.site or NO_SITE)[:120]
    site = sites_called(row.shop, [called]).get(alike(called)) or Site.objects.create(shop=row.shop, name=called)
    system = System.objects.create(site=site, name=name)
    plate = schema.dump(left_plate(job, None if inside is None else inside.value))
    taken = circuits_of(row.shop).filter(code=row.code).exists()
    circuit = Circuit.objects.create(
        system=system, code=f"{row.code}-{system.pk}" if taken else row.code, name=name, plate=plate, fingerprint=lessons(job, inside)
    )
    CircuitRevision.objects.create(
        circuit=circuit, revision=1, plate=plate, at=clock.now(), by=person.shown_name, reason=f"first job {job.id} closed"
    )
    row.circuit = circuit
    row.save(update_fields=["circuit"])
    give_circuit(row.shop, row.code, circuit, job.ledger)


def lessons(job: CoreJob, inside: Amount | None) -> dict[str, Any]:
    """What the next visit starts from: the figures of the proof, and the charge that is in."""
    outcome = job.steps["close_out"].runs[-1].sheet.outcome
    return {
        "job": job.id,
        "at": clock.now().isoformat(),
        "outcome": outcome,
        "figures": fingerprint.take(job) if outcome == "proven" else None,
        "inside_kg": inside.value if inside is not None and outcome in {"proven", "proven_by_weight"} else None,
    }
