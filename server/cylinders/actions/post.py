"""Posting a job's ledger into the book: each line once; a weighed fact is never refused, the difference is named."""

from collections.abc import Sequence
from datetime import datetime

from accounts.models import Shop
from cylinders.models import Cylinder, Movement
from cylinders.queries import net_kg
from systems.models import Circuit
from systems.queries import circuit_called, goes_on
from yoshi_core.books.cylinder import BOOK_KG
from yoshi_core.document.model import Posting
from yoshi_core.errors import InvalidInput
from yoshi_core.findings.verdict import Movement as CoreMovement


def post_ledger(shop: Shop, job_code: str, circuit: Circuit | None, ledger: Sequence[Posting], history: int = 0) -> list[Movement]:
    """Add the lines of a job's ledger the book does not have yet; call with the shop locked.

    The first `history` of them happened before the job came here: neither they nor what corrects them is of this book.
    """
    before = {posting.movement.key for posting in ledger[:history]}
    done = set(Movement.objects.filter(shop=shop, job_code=job_code).values_list("key", flat=True))
    added = []
    for number, posting in enumerate(ledger):
        key = f"job/{job_code}/{number}"
        if key in done or posting.movement.key in before:
            continue
        added.append(_post(shop, key, job_code, circuit, posting))
    return added


def _post(shop: Shop, key: str, job_code: str, circuit: Circuit | None, posting: Posting) -> Movement:
    movement = posting.movement
    if movement.kind == "transfer" and posting.kind == "movement":
        _may_receive(shop, movement, circuit)
    source, destination = movement.source, movement.destination
    reason = ""
    before = None
    if posting.kind == "reversal":
        source, destination = destination, source
        reason = "corrected in the job"
        before = (
            Movement.objects.filter(shop=shop, job_code=job_code, core_key=movement.key, reverses=None, reversed_by=None)
            .order_by("-pk")
            .first()
        )
    from_cylinder, to_cylinder = _cylinder(shop, source), _cylinder(shop, destination)
    if from_cylinder is not None and posting.kind == "movement":
        _cover(shop, key, job_code, from_cylinder, movement, posting.at, posting.by)
    if to_cylinder is not None:
        _settle(to_cylinder, movement, circuit)
    named = [place for place, row in ((source, from_cylinder), (destination, to_cylinder)) if place.startswith("cylinder:") and row is None]
    return Movement.objects.create(
        shop=shop,
        key=key,
        kind=movement.kind if posting.kind == "movement" else "reversal",
        at=posting.at,
        by=posting.by,
        from_cylinder=from_cylinder,
        to_cylinder=to_cylinder,
        from_circuit=_circuit(shop, source, job_code, circuit),
        to_circuit=_circuit(shop, destination, job_code, circuit),
        place=", ".join(place.partition(":")[2] + ", not in the book" for place in named)[:80] or _elsewhere(source, destination),
        refrigerant=movement.refrigerant,
        mass_kg=movement.mass_kg,
        provenance=movement.provenance[:20],
        reason=reason,
        core_key=movement.key,
        job_code=job_code,
        reverses=before,
    )


def give_circuit(shop: Shop, job_code: str, circuit: Circuit, ledger: Sequence[Posting]) -> None:
    """Name the circuit in lines of a job that were posted before its unit was on record; what moved, and when, stays as it was."""
    rows = {row.key: row for row in Movement.objects.filter(shop=shop, job_code=job_code)}
    for number, posting in enumerate(ledger):
        row = rows.get(f"job/{job_code}/{number}")
        if row is None:
            continue
        places = posting.movement.source, posting.movement.destination
        source, destination = places if posting.kind == "movement" else places[::-1]
        row.from_circuit = row.from_circuit or _circuit(shop, source, job_code, circuit)
        row.to_circuit = row.to_circuit or _circuit(shop, destination, job_code, circuit)
        row.save(update_fields=["from_circuit", "to_circuit"])


def _may_receive(shop: Shop, movement: CoreMovement, own: Circuit | None) -> None:
    """Raise `InvalidInput` where a transfer goes to no circuit here, to another refrigerant, or to another owner."""
    code = movement.destination.partition(":")[2]
    target = circuit_called(shop, code)
    if target is None:
        raise InvalidInput(
            "There is no circuit {code} in this shop, so nothing can be booked to it.", words={"code": code}, path="/to_circuit"
        )
    takes = target.plate.get("refrigerant")
    if takes != movement.refrigerant:
        raise InvalidInput(
            "{name} takes {takes}, not {refrigerant}.",
            words={"name": target.name, "takes": takes or "an unknown refrigerant", "refrigerant": movement.refrigerant},
            path="/to_circuit",
        )
    if own is not None and target.system.site_id != own.system.site_id:
        raise InvalidInput(
            "{circuit} is at {site}: used refrigerant changes owner only through reclaim.",
            words={"circuit": target.name, "site": target.system.site.name},
            path="/to_circuit",
        )


def _cylinder(shop: Shop, place: str) -> Cylinder | None:
    kind, _, code = place.partition(":")
    row = Cylinder.objects.filter(shop=shop, code=code).first() if kind == "cylinder" else None
    return row and goes_on(row)


def _circuit(shop: Shop, place: str, job_code: str, own: Circuit | None) -> Circuit | None:
    kind, _, code = place.partition(":")
    if kind != "circuit":
        return None
    if own is not None and code in {own.code, job_code}:
        return own
    return circuit_called(shop, code)


def _elsewhere(source: str, destination: str) -> str:
    for place in (source, destination):
        kind, _, name = place.partition(":")
        if kind not in {"cylinder", "circuit"}:
            return f"{kind} {name}"[:80]
    return ""


def _cover(shop: Shop, key: str, job_code: str, row: Cylinder, movement: CoreMovement, at: datetime, by: str) -> None:
    """The scale gave more than the book held: the difference comes in first, named, so the book never goes below zero."""
    lacking = movement.mass_kg - net_kg(row)
    if lacking > BOOK_KG:
        Movement.objects.create(
            shop=shop,
            key=f"{key}/difference",
            kind="weigh",
            at=at,
            by=by,
            to_cylinder=row,
            place="difference",
            refrigerant=movement.refrigerant,
            mass_kg=lacking,
            provenance="weighed",
            reason="the scale gave more than the book held",
            job_code=job_code,
        )


def _settle(row: Cylinder, movement: CoreMovement, circuit: Circuit | None) -> None:
    """What came into a cylinder decides what it holds; two refrigerants make it a mixture, which is said, not refused."""
    if row.refrigerant == "":
        row.refrigerant = movement.refrigerant
        row.owner = row.owner or (circuit.system.site.name if circuit else "")
    elif movement.refrigerant and row.refrigerant != movement.refrigerant:
        row.mixed = True
    row.save(update_fields=["refrigerant", "owner", "mixed"])
