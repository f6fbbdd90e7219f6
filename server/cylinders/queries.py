"""Reading cylinders: contents by two sums over the index, whatever the number of movements."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from datetime import datetime
from functools import lru_cache
from typing import NamedTuple

from django.db import connection
from django.db.models import Case, Q, QuerySet, Sum, When

from accounts import clock
from accounts.models import Shop
from accounts.paging import following, holds_words
from accounts.queries import profile_of
from cylinders.models import Cylinder, Movement
from systems.models import Circuit
from yoshi_core.books.cylinder import Account, Card, account
from yoshi_core.errors import CoreError
from yoshi_core.message import headline, told
from yoshi_core.profile.profile import Profile

PAGE = 40
ORDERS = {"number": ("kind", "code"), "refrigerant": ("refrigerant", "code"), "retest": ("unstamped", "retest", "code")}
SEARCHED = ("code", "owner", "refrigerant")


@dataclass(frozen=True)
class Line:
    """A ledger line of one cylinder: signed mass and what the scale reads after it, kg."""

    movement: Movement
    moved_kg: float
    gross_kg: float


def card_of(row: Cylinder) -> Card:
    """The cylinder as the core knows it."""
    return Card(
        row.code,
        "new" if row.kind == "new" else "recovery",
        row.refrigerant,
        row.owner,
        row.tare_kg,
        row.water_capacity_kg,
        row.retest,
        row.evacuated,
        row.oily,
        row.mixed,
    )


def contents_kg(rows: Iterable[Cylinder]) -> dict[int, float]:
    """Net contents of cylinders by id, in two queries."""
    ids = [row.pk for row in rows]
    into = dict(Movement.objects.filter(to_cylinder__in=ids).values_list("to_cylinder").annotate(Sum("mass_kg")))
    out = dict(Movement.objects.filter(from_cylinder__in=ids).values_list("from_cylinder").annotate(Sum("mass_kg")))
    return {pk: into.get(pk, 0.0) - out.get(pk, 0.0) for pk in ids}


def net_kg(row: Cylinder) -> float:
    return contents_kg([row])[row.pk]


def cylinder_page(
    shop: Shop, search: str, exactly: Mapping[str, str], after: int | None = None, sort: str = "number"
) -> tuple[list[Cylinder], int | None]:
    """A page of the shop's cylinders, by number with one-way ones first, by refrigerant, or the next retest first; and the marker of the next page, None where it is the last.

    `exactly` names columns and what stands in them; what is empty is not asked. Raises `Cylinder.DoesNotExist` for a marker that is none.
    """
    order = ORDERS[sort]
    every = Cylinder.objects.filter(shop=shop).annotate(unstamped=Case(When(retest="", then=1), default=0))
    rows = every.filter(gone="").order_by(*order)
    if after is not None:
        rows = rows.filter(following(every.values(*order).get(pk=after)))
    rows = rows.filter(**{name: value for name, value in exactly.items() if value})
    page: list[Cylinder] = list(rows.filter(holds_words(search, SEARCHED))[: PAGE + 1])
    return page[:PAGE], page[PAGE - 1].pk if len(page) > PAGE else None


@dataclass(frozen=True)
class Held:
    """What a shop's cylinders of one kind hold of a refrigerant."""

    refrigerant: str
    kind: str
    net_kg: float


HELD = """
SELECT c.refrigerant, c.kind, SUM(moved.kg)
FROM (
  SELECT to_cylinder_id AS cylinder, SUM(mass_kg) AS kg FROM cylinders_movement WHERE to_cylinder_id IS NOT NULL GROUP BY to_cylinder_id
  UNION ALL
  SELECT from_cylinder_id, -SUM(mass_kg) FROM cylinders_movement WHERE from_cylinder_id IS NOT NULL GROUP BY from_cylinder_id
) AS moved
JOIN cylinders_cylinder AS c ON c.id = moved.cylinder
WHERE c.shop_id = %s AND c.gone = '' AND c.refrigerant <> ''
GROUP BY c.refrigerant, c.kind ORDER BY c.refrigerant, c.kind
"""


def held(shop: Shop) -> tuple[Held, ...]:
    """What the shop holds by refrigerant and kind, from the sums of all movements; summed anew once somebody wrote in its books."""
    return held_at(shop.pk, shop.turn)


@lru_cache(maxsize=256)
def held_at(shop_id: int, turn: int) -> tuple[Held, ...]:
    """The same at a turn of the shop: whoever writes a movement takes the next.

    Summed by cylinder along the indexes first, which the ORM's join does not do: three times as fast at 200,000 movements.
    """
    with connection.cursor() as cursor:
        cursor.execute(HELD, [shop_id])
        return tuple(Held(name, kind, kg) for name, kind, kg in cursor.fetchall())


def one_cylinder(shop: Shop, code: str) -> Cylinder:
    """`Cylinder.DoesNotExist` for another shop's."""
    return Cylinder.objects.get(shop=shop, code=code)


def accounts(shop: Shop, rows: list[Cylinder]) -> list[tuple[Cylinder, Account]]:
    """Every cylinder with its account."""
    profile, now, held = profile_of(shop), clock.now(), contents_kg(rows)
    return [(row, account_of(row, held[row.pk], profile, now)) for row in rows]


def account_of(row: Cylinder, net: float, profile: Profile, now: datetime) -> Account:
    """A cylinder's account; one kept with what cannot be right is named and never filled, and takes no list down with it."""
    card = card_of(row)
    try:
        return account(card, net, profile, now)
    except CoreError as error:
        said = headline("What is kept of this cylinder cannot be right: {why}", why=told(error))
    bare = account(replace(card, refrigerant="", water_capacity_kg=None, retest=""), net, profile, now)
    return replace(bare, word="Stop", badge="Not as stamped", reason=said)


def ledger(row: Cylinder, before: int | None = None) -> tuple[list[Line], int | None]:
    """A page of the cylinder's lines, last first, with the scale's reading after each; and the next page's marker."""
    mine = Movement.objects.filter(Q(from_cylinder=row) | Q(to_cylinder=row))
    older = mine if before is None else mine.filter(pk__lt=before)
    rows = list(older.select_related("from_cylinder", "to_cylinder", "from_circuit", "to_circuit").order_by("-pk")[: PAGE + 1])
    page, more = rows[:PAGE], len(rows) > PAGE
    later = 0.0
    if before is not None:
        since = mine.filter(pk__gte=before)
        later = _sum(since.filter(to_cylinder=row)) - _sum(since.filter(from_cylinder=row))
    net = net_kg(row) - later
    lines = []
    for movement in page:
        moved = _signed(movement, row)
        lines.append(Line(movement, moved, row.tare_kg + net))
        net -= moved
    return lines, page[-1].pk if more else None


def _sum(rows: QuerySet[Movement]) -> float:
    total: float | None = rows.aggregate(Sum("mass_kg"))["mass_kg__sum"]
    return total or 0.0


def _signed(movement: Movement, row: Cylinder) -> float:
    into = movement.mass_kg if movement.to_cylinder_id == row.pk else 0.0
    return into - (movement.mass_kg if movement.from_cylinder_id == row.pk else 0.0)


def circuit_movements(circuit: Circuit) -> list[Movement]:
    """Everything that came into a circuit or left it, oldest first."""
    mine = Movement.objects.filter(Q(from_circuit=circuit) | Q(to_circuit=circuit))
    return list(mine.select_related("from_cylinder", "to_cylinder", "from_circuit", "to_circuit").order_by("at", "pk"))


class Moved(NamedTuple):
    """What a circuit's list needs of a movement."""

    pk: int
    at: datetime
    kind: str
    from_circuit_id: int | None
    to_circuit_id: int | None
    refrigerant: str
    mass_kg: float
    job_code: str
    by: str
    reverses_id: int | None


def movements_of(circuits: Iterable[Circuit]) -> dict[int, list[Moved]]:
    """The same of several circuits by id, in two queries each along its index; bare rows, for a page may have some thousands."""
    ids = [circuit.pk for circuit in circuits]
    found: dict[int, list[Moved]] = {pk: [] for pk in ids}
    rows = Movement.objects.values_list(*Moved._fields)
    for row in map(Moved._make, rows.filter(to_circuit__in=ids)):
        found[row.to_circuit_id or 0].append(row)
    for row in map(Moved._make, rows.filter(from_circuit__in=ids)):
        if row.from_circuit_id != row.to_circuit_id:
            found[row.from_circuit_id or 0].append(row)
    return {pk: sorted(moved, key=lambda row: (row.at, row.pk)) for pk, moved in found.items()}
