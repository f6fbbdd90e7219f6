"""Reading circuits of a shop."""

from django.db.models import Q, QuerySet

from accounts.models import Shop
from accounts.paging import following, holds_words
from systems.models import Circuit

ORDER = ("system__site__name", "system__name", "code", "id")
SEARCHED = ("code", "name", "system__name", "system__site__name", "plate__refrigerant")


def circuits_of(shop: Shop) -> QuerySet[Circuit]:
    """All circuits of the shop with their system and site, by site and name."""
    return Circuit.objects.filter(system__site__shop=shop).select_related("system__site").order_by(*ORDER)


def circuit_page(
    shop: Shop, search: str = "", code: str = "", after: int | None = None, most: int = 50
) -> tuple[list[Circuit], int | None]:
    """A page of circuits that hold every word searched for, or the one of a code; and the marker of the next, None where it is the last.

    The page's ids come first, so that only its plates are read. Raises `Circuit.DoesNotExist` for a marker that is none.
    """
    rows = circuits_of(shop).filter(holds_words(search, SEARCHED))
    if code:
        rows = rows.filter(code=code)
    if after is not None:
        rows = rows.filter(following(circuits_of(shop).values(*ORDER).get(pk=after)))
    ids = list(rows.values_list("id", flat=True)[: most + 1])
    return list(circuits_of(shop).filter(Q(id__in=ids[:most]))), ids[most - 1] if len(ids) > most else None
