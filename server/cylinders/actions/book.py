"""Writing the cylinder book: every movement locks the shop, is checked by the core, and is added once."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any

from django.db.models import Max, Q

from accounts import clock
from accounts.models import Person, Shop
from accounts.once import lock_shop, once
from accounts.queries import profile_of, shop_of
from accounts.texts import code_of, one_line
from cylinders.models import Cylinder, Movement
from cylinders.queries import card_of, net_kg
from systems.models import Circuit
from systems.queries import circuit_called
from yoshi_core import refrigerants
from yoshi_core.books import cylinder as cylinder_book
from yoshi_core.books import ownership
from yoshi_core.books.cylinder import BOOK_KG
from yoshi_core.errors import CoreError, InvalidInput
from yoshi_core.message import headline
from yoshi_core.units.display import Amount
from yoshi_core.units.text import parse

LEAST_WATER_KG, MOST_WATER_KG = 0.09, 2000.0
UNDONE = frozenset({"weigh", "combine", "transfer", "reclaim", "lost"})
PLACES = {"reclaim": "sent for reclaim", "lost": "lost"}


def mass_of(text: str, path: str) -> float:
    """A weight as people write it, in kg. Raises a `CoreError` at the path."""
    try:
        return parse("mass", text, default_unit="lb").value
    except CoreError as error:
        raise error.at(path) from None


def add_cylinder(person: Person, key: str, facts: dict[str, Any]) -> dict[str, Any]:
    """A cylinder with its opening balance, from what the scale reads now; empty where that is not given."""
    shop = shop_of(person)

    def act(_: Shop) -> dict[str, Any]:
        row = cylinder_of(shop, facts)
        if Cylinder.objects.filter(shop=shop, code=row.code).exists():
            raise InvalidInput("There is a cylinder {code} already.", words={"code": row.code}, path="/code")
        gross = str(facts.get("gross") or "").strip()
        line = opening_of(row, gross) if gross else None
        row.save(force_insert=True)
        if line is not None:
            movement_of(shop, f"open/{row.pk}", person.shown_name, line).save(force_insert=True)
        return {"code": row.code}

    return once(shop, key, {"cylinder": facts}, lambda: lock_shop(shop), act)


def cylinder_of(shop: Shop, facts: dict[str, Any]) -> Cylinder:
    """A row from checked facts, not written yet. Raises `InvalidInput` with the field's path."""
    code = code_of(str(facts.get("code") or ""), 40, "/code", "A cylinder's number")
    name = one_line(str(facts.get("refrigerant") or ""), 40, "/refrigerant", "A refrigerant")
    name = refrigerants.normalize(name) if name else ""
    tare_text = one_line(str(facts.get("tare") or ""), 40, "/tare", "A tare")
    water_text = one_line(str(facts.get("water_capacity") or ""), 40, "/water_capacity", "A water capacity")
    water = mass_of(water_text, "/water_capacity") if water_text else None
    kind = str(facts.get("kind") or "recovery")
    if kind not in dict(Cylinder.KINDS):
        raise InvalidInput("A cylinder is new (one-way) or recovery (refillable).", path="/kind")
    tare = mass_of(tare_text, "/tare")
    if not 0.05 <= tare <= 2000.0:
        raise InvalidInput("A tare is from 0.1 lb to 4400 lb; read it off the collar.", path="/tare")
    if water is not None and not LEAST_WATER_KG <= water <= MOST_WATER_KG:
        raise InvalidInput("A water capacity is from 0.2 lb to 4400 lb; it is stamped WC on the collar.", path="/water_capacity")
    return Cylinder(
        shop=shop,
        code=code,
        kind=kind,
        refrigerant=name,
        owner=one_line(str(facts.get("owner") or ""), 120, "/owner", "An owner"),
        tare_kg=tare,
        tare_text=tare_text,
        water_capacity_kg=water,
        retest=cylinder_book.read_retest(str(facts.get("retest") or "")),
        evacuated=bool(facts.get("evacuated")),
        oily=bool(facts.get("oily")),
        mixed=bool(facts.get("mixed")),
        created_at=clock.now(),
    )


def opening_of(row: Cylinder, text: str) -> "Line":
    """The balance a cylinder came with, by what the scale read. Raises `InvalidInput` for one lighter than its tare, or full of nothing named."""
    gross_kg = mass_of(text, "/gross")
    net = gross_kg - row.tare_kg
    if net < -BOOK_KG:
        raise InvalidInput("The scale reads less than the tare. Check the tare stamped on it and the scale's zero.", path="/gross")
    if net > 0.1 and not row.refrigerant:
        raise InvalidInput("Something is in it: say which refrigerant.", path="/refrigerant")
    return Line("opening", clock.now(), max(net, 0.0), "came with", gross_kg, text, to_cylinder=row)


def weigh(person: Person, key: str, code: str, gross: str, reason: str) -> dict[str, Any]:
    """Weigh a cylinder: the book takes the scale's word, and the difference is named."""
    shop = shop_of(person)

    def act(_: Shop) -> dict[str, Any]:
        row = Cylinder.objects.get(shop=shop, code=code)
        gross_kg = mass_of(gross, "/gross")
        _book_scale(row, gross_kg, gross, reason, person.shown_name, f"weigh/{key}", clock.now())
        return {"code": code}

    return once(shop, key, {"weigh": code, "gross": gross, "reason": reason}, lambda: lock_shop(shop), act)


def _book_scale(row: Cylinder, gross_kg: float, text: str, reason: str, by: str, key: str, at: datetime) -> None:
    """Book what the scale says against the book; a difference beyond two weighings needs its reason."""
    if gross_kg < row.tare_kg - 0.01:
        raise InvalidInput("The scale reads less than the tare. Check the tare stamped on it and the scale's zero.", path="/gross")
    difference = gross_kg - row.tare_kg - net_kg(row)
    limit = profile_of(row.shop).value("scale.limit")
    if abs(difference) > 2.0 * limit and not reason.strip():
        raise InvalidInput(
            "The scale says {difference} more than the book. Say why, or that it cannot be explained; it is booked as a difference."
            if difference > 0
            else "The scale says {difference} less than the book. Say why, or that it cannot be explained; it is booked as a difference.",
            words={"difference": Amount(abs(difference), "mass")},
            path="/reason",
            difference_kg=difference,
        )
    less, more = (row, None) if difference < 0 else (None, row)
    line = Line("weigh", at, abs(difference), "difference", gross_kg, text, reason, from_cylinder=less, to_cylinder=more)
    _add(row.shop, key, by, line)


def move(person: Person, key: str, code: str, body: dict[str, Any]) -> dict[str, Any]:
    """Move refrigerant out of a cylinder: into another, into a circuit of the same owner, away for reclaim, or lost."""
    shop = shop_of(person)

    def act(_: Shop) -> dict[str, Any]:
        row = Cylinder.objects.get(shop=shop, code=code)
        now, dated = clock.now(), body.get("at")
        held = net_kg(row)
        mass = _moved_kg(row, held, body)
        cylinder_book.may_give(card_of(row), held, mass)
        sides, owner, place = _destination(shop, row, body)
        target = sides.get("to_cylinder")
        weighed = [at for touched in (row, target) if touched is not None and (at := _last_weighed(touched)) is not None]
        at = dated or max([now, *weighed])  # what is written now comes after what is written, also by a clock that was set back
        if dated:
            cylinder_book.not_before(max(weighed, default=None), at, now)
        if target is not None:
            cylinder_book.may_take(card_of(target), net_kg(target), mass, row.refrigerant, owner, profile_of(shop), now)
            _settle_into(target, row)
        kind = {"cylinder": "combine", "circuit": "transfer"}.get(str(body["to_kind"]), str(body["to_kind"]))
        text = str(body.get("mass") or body.get("gross_after") or "")
        reason = str(body.get("reason") or "")
        line = Line(kind, at, mass, place, text=text, reason=reason, from_cylinder=row, **sides)
        _add(shop, f"move/{key}", person.shown_name, line)
        if body["to_kind"] == "reclaim" and held - mass <= 0.5:
            row.gone = "reclaim"
            row.save(update_fields=["gone"])
        return {"code": code}

    return once(shop, key, {"move": code, **{k: str(v) for k, v in body.items()}}, lambda: lock_shop(shop), act)


def _moved_kg(row: Cylinder, held: float, body: dict[str, Any]) -> float:
    if body.get("gross_after"):
        return row.tare_kg + held - mass_of(str(body["gross_after"]), "/gross_after")
    if body.get("mass"):
        return mass_of(str(body["mass"]), "/mass")
    if body["to_kind"] == "reclaim":
        return held
    raise InvalidInput("Say how much, or what the scale reads after.", path="/mass")


def _destination(shop: Shop, row: Cylinder, body: dict[str, Any]) -> tuple[dict[str, Any], str, str]:
    kind, to = str(body["to_kind"]), str(body.get("to") or "")
    if kind == "cylinder":
        if to == row.code:
            raise InvalidInput("It is in that cylinder already.", path="/to")
        target = Cylinder.objects.filter(shop=shop, code=to).first()
        if target is None:
            raise InvalidInput("There is no such cylinder.", path="/to")
        return {"to_cylinder": target}, row.owner, ""
    if kind == "circuit":
        circuit = circuit_called(shop, to)
        if circuit is None:
            raise InvalidInput("There is no such circuit.", path="/to")
        name = circuit.plate.get("refrigerant")
        if name != row.refrigerant:
            raise InvalidInput(
                "{circuit} takes {takes}, not {refrigerant}.",
                words={"circuit": circuit.name, "takes": name or "an unknown refrigerant", "refrigerant": row.refrigerant},
                path="/to",
            )
        site = circuit.system.site.name
        whose = headline("It belongs to {owner}; {circuit} is at {site}.", owner=row.owner, circuit=circuit.name, site=site)
        against = ownership.refused(ownership.stays(row.owner, site), whose) if row.kind == "recovery" else None
        if against is not None:
            raise InvalidInput("{against}", words={"against": against}, path="/to")
        return {"to_circuit": circuit}, row.owner, ""
    if kind not in PLACES:
        raise InvalidInput("It goes to a cylinder, a circuit, reclaim, or is lost.", path="/to_kind")
    if kind == "lost" and not str(body.get("reason") or "").strip():
        raise InvalidInput("Say how it was lost; it stands in the yearly balance.", path="/reason")
    return {}, row.owner, PLACES[kind]


def _settle_into(target: Cylinder, source: Cylinder) -> None:
    """An empty recovery cylinder takes the refrigerant and owner of what first goes in."""
    if not target.refrigerant:
        target.refrigerant, target.owner = source.refrigerant, target.owner or source.owner
        target.save(update_fields=["refrigerant", "owner"])


def prepare(person: Person, key: str, code: str) -> dict[str, Any]:
    """Note that an empty refillable cylinder was evacuated and purged: it may take a refrigerant again."""
    shop = shop_of(person)

    def act(_: Shop) -> dict[str, Any]:
        row = Cylinder.objects.get(shop=shop, code=code)
        if row.kind == "new":
            raise InvalidInput("{code} is a one-way cylinder: it is never refilled.", words={"code": code}, path="/code")
        if net_kg(row) > BOOK_KG:
            raise InvalidInput(
                "{code} is not empty by its book: weigh it empty, or move what is in it.", words={"code": code}, path="/code"
            )
        row.evacuated, row.refrigerant, row.mixed = True, "", False
        row.save(update_fields=["evacuated", "refrigerant", "mixed"])
        _add(shop, f"prepare/{key}", person.shown_name, Line("prepare", clock.now(), 0.0, "vacuum and purge", to_cylinder=row))
        return {"code": code}

    return once(shop, key, {"prepare": code}, lambda: lock_shop(shop), act)


def take_back(person: Person, key: str, code: str, line: int, reason: str) -> dict[str, Any]:
    """Take back the last line written by hand: its reversal, a line of its own, puts back what it moved.

    Raises `InvalidInput` for a line of a job, which is corrected in the job, one that was taken back, and one that later lines stand on.
    """
    shop = shop_of(person)

    def act(_: Shop) -> dict[str, Any]:
        row = Cylinder.objects.get(shop=shop, code=code)
        mine = Movement.objects.filter(Q(from_cylinder=row) | Q(to_cylinder=row))
        found = mine.select_related("from_cylinder", "to_cylinder").get(pk=line)
        if found.job_code:
            raise InvalidInput("This line is a job's. Correct it there: the job writes its reversal.", path="/line")
        if found.kind not in UNDONE or Movement.objects.filter(reverses=found).exists():
            raise InvalidInput("This line cannot be taken back, or it was already.", path="/line")
        for side in (found.from_cylinder, found.to_cylinder):
            later = Q(from_cylinder=side) | Q(to_cylinder=side)
            if side is not None and Movement.objects.filter(later, pk__gt=found.pk).exists():
                raise InvalidInput(
                    "Later lines of {code} stand on it. Weigh it: the book takes the scale's word.", words={"code": side.code}, path="/line"
                )
        Movement.objects.create(
            shop=shop, key=f"back/{key}", kind="reversal", at=clock.now(), by=person.shown_name, from_cylinder=found.to_cylinder,
            to_cylinder=found.from_cylinder, from_circuit=found.to_circuit, place=found.place, refrigerant=found.refrigerant,
            mass_kg=found.mass_kg, provenance=found.provenance, reason=reason.strip()[:300] or "taken back", reverses=found,
        )  # fmt: skip
        _as_before(row, found.to_cylinder)
        return {"code": code}

    return once(shop, key, {"back": [code, line], "reason": reason}, lambda: lock_shop(shop), act)


def _as_before(row: Cylinder, target: Cylinder | None) -> None:
    """A cylinder that had gone for reclaim is here again; one that was empty until now holds no refrigerant by name."""
    if row.gone == "reclaim":
        row.gone = ""
        row.save(update_fields=["gone"])
    if target is not None and not Movement.objects.filter(to_cylinder=target, mass_kg__gt=0.0, reversed_by=None).exists():
        target.refrigerant = ""
        target.save(update_fields=["refrigerant"])


def _last_weighed(row: Cylinder) -> datetime | None:
    found = Movement.objects.filter(Q(from_cylinder=row) | Q(to_cylinder=row), kind__in=("weigh", "opening")).aggregate(Max("at"))
    latest: datetime | None = found["at__max"]
    return latest


@dataclass(frozen=True)
class Line:
    """A movement by hand, as it is to stand in the book: mass in kg, and between what it went."""

    kind: str
    at: datetime
    mass: float
    place: str = ""
    gross: float | None = None
    text: str = ""
    reason: str = ""
    from_cylinder: Cylinder | None = None
    to_cylinder: Cylinder | None = None
    to_circuit: Circuit | None = None


def _add(shop: Shop, key: str, by: str, line: Line) -> None:
    movement_of(shop, key, by, line).save(force_insert=True)


def movement_of(shop: Shop, key: str, by: str, line: Line) -> Movement:
    """A line as a row of the book, not written yet; its cylinders are."""
    named = line.from_cylinder or line.to_cylinder
    return Movement(
        shop=shop,
        key=key,
        kind=line.kind,
        at=line.at,
        by=by,
        from_cylinder=line.from_cylinder,
        to_cylinder=line.to_cylinder,
        to_circuit=line.to_circuit,
        place=line.place,
        refrigerant=named.refrigerant if named else "",
        mass_kg=line.mass,
        text=line.text[:60],
        provenance="weighed",
        gross_kg=line.gross,
        reason=line.reason.strip()[:300],
    )
