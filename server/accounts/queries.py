"""Reading people and profiles."""

from collections.abc import Collection

from django.db.models import OuterRef, Subquery

from accounts.models import Person, ProfileRevision, Shop
from yoshi_core.profile.profile import Profile


def profile_of(shop: Shop) -> Profile:
    """The shop's present practice profile, as the core knows it."""
    return profiles_of({shop.pk})[shop.pk]


def profiles_of(shops: Collection[int]) -> dict[int, Profile]:
    """The present profile of each shop by its id, in one query; the usual one where a shop has made none."""
    latest = ProfileRevision.objects.filter(shop=OuterRef("shop")).order_by("-revision").values("pk")[:1]
    rows = ProfileRevision.objects.filter(shop__in=shops, pk=Subquery(latest))
    made = {row.shop_id: Profile(f"shop-{row.shop_id}", row.name, row.revision, row.overrides, row.choices) for row in rows}
    return {shop: made.get(shop, Profile()) for shop in shops}


def profile_history(shop: Shop) -> list[ProfileRevision]:
    return list(ProfileRevision.objects.filter(shop=shop)[:100])


def shop_of(person: Person) -> Shop:
    """The shop of a signed-in person; a person without one may see nothing."""
    if person.shop is None:
        raise PermissionError("This account belongs to no shop.")
    return person.shop
