"""A new revision of the practice profile."""

from collections.abc import Mapping

from django.db import transaction
from django.utils import timezone

from accounts import trail
from accounts.models import Person, ProfileRevision
from accounts.once import lock_shop
from accounts.queries import shop_of
from accounts.retry import again_when_met
from yoshi_core.errors import InvalidInput
from yoshi_core.profile.profile import Profile, check, read_overrides


@again_when_met
def revise_profile(
    person: Person, seen_revision: int, name: str, entries: Mapping[str, str], choices: Mapping[str, str], reason: str
) -> ProfileRevision:
    """Add a revision: what is given changes, an empty entry goes back to the default, the rest stays.

    Raises `InvalidInput`, `UnitError` or `OutOfRange` from the core, or when another revision came first.
    """
    read = read_overrides(entries)
    check(Profile(name=name, overrides=read, choices=choices))
    if not reason.strip():
        raise InvalidInput("A changed practice needs a reason; records show it.", path="/reason")
    with transaction.atomic():
        shop = lock_shop(shop_of(person))
        latest = ProfileRevision.objects.filter(shop=shop).first()
        number = latest.revision if latest else 0
        if number != seen_revision:
            raise InvalidInput("The profile was changed meanwhile; look at it again.", path="/revision", seen=seen_revision, now=number)
        before = latest.overrides if latest else {}
        overrides = {rule: value for rule, value in before.items() if rule not in entries} | read
        trail.note_asked(shop, reason=reason.strip(), revision=number + 1)
        return ProfileRevision.objects.create(
            shop=shop,
            revision=number + 1,
            name=name.strip() or "Field practice",
            overrides=overrides,
            choices={**(latest.choices if latest else {}), **choices},
            reason=reason.strip(),
            at=timezone.now(),
            by=person.shown_name,
        )
