"""A shop's own exercises: taken in from a file or edited, put away, and given to people."""

from collections.abc import Sequence
from typing import Any

from django.db import transaction

from accounts import trail
from accounts.models import Person, Shop
from accounts.once import lock_shop, once
from accounts.queries import shop_of
from accounts.retry import again_when_met
from practice.actions.begin import text_of
from practice.models import Exercise, Given
from yoshi_core.errors import InvalidInput
from yoshi_core.practice import exercise as exercises

MOST = 200


def keep(person: Person, key: str, text: str, pk: int | None) -> Exercise:
    """Take an exercise in, or keep another text of one. Raises `InvalidInput` for a text that is none; nothing is kept then."""
    shop, read = shop_of(person), exercises.loads(text)

    def act(_: Shop) -> dict[str, Any]:
        if not read.name.strip():
            raise InvalidInput("An exercise needs a name.", path="/name")
        found = Exercise.objects.filter(shop=shop, pk=pk, gone=False).first() if pk is not None else None
        if pk is not None and found is None:
            raise InvalidInput("There is no such exercise in this shop.", path="/id")
        if found is None and Exercise.objects.filter(shop=shop, gone=False).count() >= MOST:
            raise InvalidInput("The shop has {most} exercises. Put one away first.", words={"most": str(MOST)})
        row = found or Exercise(shop=shop)
        row.name, row.text, row.by = read.name, text, person.shown_name
        row.save()
        return {"id": row.pk}

    return Exercise.objects.get(pk=once(shop, key, {"exercise": text, "id": pk}, lambda: lock_shop(shop), act)["id"])


@again_when_met
@transaction.atomic
def put_away(person: Person, pk: int) -> None:
    """Take it out of the list; runs of it stay. Raises `Exercise.DoesNotExist` for another shop's."""
    if not Exercise.objects.filter(shop=shop_of(person), pk=pk, gone=False).update(gone=True):
        raise Exercise.DoesNotExist
    trail.note_asked(shop_of(person), exercise=pk)


@again_when_met
@transaction.atomic
def give(person: Person, shipped: str, own: int | None, to: Sequence[str]) -> int:
    """Give an exercise to people of the shop; to how many. Raises `InvalidInput` for somebody who is not of it."""
    _, source = text_of(person, shipped, own)
    people = list(Person.objects.filter(shop=shop_of(person), username__in=to, is_active=True))
    if len(people) < len(set(to)) or not people:
        raise InvalidInput("Choose people of the shop to give it to.", path="/to")
    for one in people:
        Given.objects.get_or_create(person=one, **source, defaults={"by": person.shown_name})
    trail.note_asked(shop_of(person), exercise=shipped or str(own), to=sorted(to))
    return len(people)
