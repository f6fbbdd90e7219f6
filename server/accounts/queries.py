"""Reading people and profiles."""

from accounts.models import Person, ProfileRevision, Shop
from yoshi_core.profile.profile import Profile


def profile_of(shop: Shop) -> Profile:
    """The shop's present practice profile, as the core knows it."""
    row = ProfileRevision.objects.filter(shop=shop).first()
    if row is None:
        return Profile()
    return Profile(f"shop-{shop.pk}", row.name, row.revision, row.overrides, row.choices)


def profile_history(shop: Shop) -> list[ProfileRevision]:
    return list(ProfileRevision.objects.filter(shop=shop)[:100])


def shop_of(person: Person) -> Shop:
    """The shop of a signed-in person; a person without one may see nothing."""
    if person.shop is None:
        raise PermissionError("This account belongs to no shop.")
    return person.shop
