"""Reading circuits of a shop."""

from django.db.models import QuerySet

from accounts.models import Shop
from systems.models import Circuit


def circuits_of(shop: Shop) -> QuerySet[Circuit]:
    """All circuits of the shop with their system and site, by site and name."""
    return (
        Circuit.objects.filter(system__site__shop=shop)
        .select_related("system__site")
        .order_by("system__site__name", "system__name", "code")
    )
