"""Reading circuits of a shop, and finding a card by what it was called when it was another."""

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any, Protocol, TypeVar

from django.db.models import Q, QuerySet

from accounts.models import Shop
from accounts.paging import following, holds_words
from accounts.texts import alike
from systems.models import Circuit, CircuitRevision, Site


class Merges(Protocol):
    """A card that may have been merged into another of its kind."""

    @property
    def merged_into(self) -> Any: ...


Kept = TypeVar("Kept", bound=Merges)

BY_NAME = ("name", "code", "id")
ORDER = ("system__site__name", "system__name", "code", "id")
SEARCHED = ("code", "name", "system__name", "system__site__name", "refrigerant")


def circuits_of(shop: Shop) -> QuerySet[Circuit]:
    """All circuits of the shop with their system and site, by site and name; archived and merged ones too."""
    return Circuit.objects.filter(system__site__shop=shop).select_related("system__site__customer").order_by(*ORDER)


def listed_circuits(shop: Shop) -> QuerySet[Circuit]:
    """Those that are neither archived nor of something that is."""
    return circuits_of(shop).filter(archived_at=None, system__archived_at=None, system__site__archived_at=None)


def goes_on(row: Kept) -> Kept:
    """The card itself, or the one it was merged into."""
    while row.merged_into is not None:
        row = row.merged_into
    return row


def circuit_called(shop: Shop, code: str) -> Circuit | None:
    """The circuit of a code, or the one that goes on for it."""
    found = circuits_of(shop).filter(code=code).order_by("archived_at", "pk").first()
    return None if found is None else goes_on(found)


def revisions_of(circuit: Circuit) -> QuerySet[CircuitRevision]:
    """What its plate said before, last first; what was merged into it had its own."""
    return CircuitRevision.objects.filter(Q(circuit=circuit) | Q(circuit__merged_into=circuit)).order_by("-at", "-pk")


def sites_called(shop: Shop, names: Iterable[str]) -> dict[str, Site]:
    """The sites of these names as the database takes names for alike, or those that go on for them; archived ones are in use again from here on."""
    rows = Site.objects.filter(shop=shop, name__in=set(names)).select_related("merged_into").order_by("-archived_at", "-pk")
    found = {alike(row.name): goes_on(row) for row in rows}
    away = [site for site in found.values() if site.archived_at is not None]
    for site in away:
        site.archived_at = None
    Site.objects.bulk_update(away, ["archived_at"])
    return found


@dataclass(frozen=True)
class WantedCircuits:
    """Which circuits a list is to hold, and in which order; what is empty is not asked."""

    search: str = ""
    code: str = ""
    kind: str = ""
    refrigerant: str = ""
    by_name: bool = False


def circuit_page(shop: Shop, wanted: WantedCircuits, after: int | None = None, most: int = 50) -> tuple[list[Circuit], int | None]:
    """A page of circuits that hold every word searched for; and the marker of the next, None where it is the last.

    The page's ids come first, so that only its plates are read. Raises `Circuit.DoesNotExist` for a marker that is none.
    """
    order = BY_NAME if wanted.by_name else ORDER
    exactly = {"code": wanted.code, "kind": wanted.kind, "refrigerant": wanted.refrigerant}
    rows = listed_circuits(shop).filter(holds_words(wanted.search, SEARCHED)).order_by(*order)
    rows = rows.filter(**{column: value for column, value in exactly.items() if value})
    if after is not None:
        rows = rows.filter(following(circuits_of(shop).values(*order).get(pk=after)))
    ids = list(rows.values_list("id", flat=True)[: most + 1])
    return list(circuits_of(shop).filter(Q(id__in=ids[:most])).order_by(*order)), ids[most - 1] if len(ids) > most else None
