"""The trail: who did what, from where. Written in the transaction of what was done, and only read afterwards."""

from collections.abc import Iterator
from datetime import datetime
from typing import Any

from django.db.models import Q

from accounts import asking
from accounts.models import Person, Shop, Trail
from accounts.texts import cell, table

PAGE = 100
COLUMNS = ("number", "at", "who", "what", "about", "detail", "address", "device")


def note(shop: Shop, person: Person | None, what: str, about: str = "", **detail: Any) -> None:
    """One line, with the address and the device of the request that is being answered."""
    here = asking.now.get()
    Trail.objects.create(shop=shop, person=person, what=what, about=about[:120], detail=detail, address=here.address, device=here.device)


def note_asked(shop: Shop, **detail: Any) -> None:
    """One line for the request that is being answered, in the words of its operation; none where nobody asked."""
    here = asking.now.get()
    if here.what:
        Trail.objects.create(
            shop=shop,
            person_id=here.person_id,
            what=here.what,
            about=here.about[:120],
            detail=detail,
            address=here.address,
            device=here.device,
        )


def page(shop: Shop, before: tuple[datetime, int] | None, search: str = "") -> list[Trail]:
    """The last lines, newest first, from before a line on; `search` is a name, a thing or a word of what was done."""
    rows = Trail.objects.filter(shop=shop).select_related("person")
    if before is not None:
        moment, row_id = before
        rows = rows.filter(Q(at__lte=moment), Q(at__lt=moment) | Q(pk__lt=row_id))
    if search.strip():
        text = search.strip()
        rows = rows.filter(Q(person__shown_name__icontains=text) | Q(about__icontains=text) | Q(what__icontains=text))
    return list(rows.order_by("-at", "-pk")[: PAGE + 1])


def line(row: Trail) -> dict[str, Any]:
    return {
        "number": row.pk,
        "at": row.at,
        "who": row.person.shown_name if row.person else "",
        "what": row.what,
        "about": row.about,
        "detail": ", ".join(f"{name}: {value}" for name, value in row.detail.items()),
        "address": row.address,
        "device": row.device,
    }


def as_csv(shop: Shop) -> Iterator[str]:
    """The whole trail, oldest first, in pieces."""
    rows = Trail.objects.filter(shop=shop).select_related("person").order_by("at", "pk").iterator(chunk_size=500)
    return table(COLUMNS, (_cells(row) for row in rows))


def _cells(row: Trail) -> list[str]:
    said = line(row)
    return [str(row.pk), row.at.isoformat(), *(cell(str(said[name])) for name in COLUMNS[2:])]
