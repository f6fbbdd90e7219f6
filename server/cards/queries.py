"""Reading cards: one with what hangs on it and what was done to it, and a page of a kind."""

from typing import Any

from django.db.models import Q, QuerySet

from accounts.models import Shop
from accounts.paging import following, holds_words
from cards.actions.write import in_use
from cards.kinds import CardKind, Row, is_archived, kind_of, rows_of, title_of, values_of
from cards.models import CardEvent
from cylinders.models import Cylinder

PAGE, MOST = 40, 60
SEARCHED = {
    "customer": ("name", "address", "contact"),
    "site": ("name", "address", "customer__name"),
    "system": ("name", "site__name"),
    "circuit": ("name", "code", "system__name", "system__site__name"),
    "cylinder": ("code", "owner", "refrigerant"),
}


def card_page(shop: Shop, kind_name: str, search: str, after: int | None, *, archived: bool) -> dict[str, Any]:
    """A page of the cards of a kind by name, those in the lists or those archived; merged ones are in neither."""
    kind = kind_of(kind_name)
    order = ("code" if kind.id == "cylinder" else "name", "id")
    rows = rows_of(kind, shop).filter(holds_words(search, SEARCHED[kind.id]), merged_into=None)
    here = Q(gone="") if kind.id == "cylinder" else Q(archived_at=None)
    away = Q(gone="archived") if kind.id == "cylinder" else ~here
    rows = rows.filter(away if archived else here)
    if after is not None:
        rows = rows.filter(following(rows_of(kind, shop).values(*order).get(pk=after)))
    page = list(rows.select_related(*([kind.parent] if kind.parent else [])).order_by(*order)[: PAGE + 1])
    return {"rows": [_line(kind, row) for row in page[:PAGE]], "next": page[PAGE - 1].pk if len(page) > PAGE else None}


def _line(kind: CardKind, row: Row) -> dict[str, Any]:
    above = getattr(row, kind.parent) if kind.parent else None
    below = above.name if above else row.refrigerant if isinstance(row, Cylinder) else getattr(row, "address", "")
    return {"id": row.pk, "title": title_of(row), "below": below or ""}


def card(shop: Shop, kind_name: str, card_id: int) -> dict[str, Any]:
    """One card: its fields, what it belongs to, what belongs to it, and what was done to it, last first."""
    kind = kind_of(kind_name)
    row: Row = rows_of(kind, shop).get(pk=card_id)
    above = getattr(row, kind.parent) if kind.parent else None
    values = values_of(row)
    return {
        "kind": kind.id,
        "id": row.pk,
        "title": title_of(row),
        "parent_kind": kind.parent,
        "parent": {"id": above.pk, "title": title_of(above)} if above else None,
        "fields": fields_of(kind, values),
        "archived": is_archived(row),
        "merged_into": {"id": row.merged_into.pk, "title": title_of(row.merged_into)} if row.merged_into else None,
        "in_use": in_use(row),
        "below": _below(kind, row),
        "events": [
            _event(event)
            for event in CardEvent.objects.filter(kind=kind.id, card=row.pk).select_related("by", "undone_by").order_by("-pk")[:MOST]
        ],
    }


def blank(kind_name: str) -> dict[str, Any]:
    """A card of a kind as it is before anything is written on it."""
    kind = kind_of(kind_name)
    return {"parent_kind": kind.parent, "fields": fields_of(kind, {field.name: field.usual for field in kind.fields})}


def fields_of(kind: CardKind, values: dict[str, str]) -> list[dict[str, Any]]:
    return [
        {
            "name": field.name,
            "label": field.label,
            "value": values.get(field.name, ""),
            "most": field.most,
            "needed": field.needed,
            "hint": field.hint,
            "options": [{"value": value, "label": label} for value, label in (field.options or {}).items()],
        }
        for field in kind.fields
    ]


BELOW = {"customer": ("site", "customer"), "site": ("system", "site"), "system": ("circuit", "system")}


def _below(kind: CardKind, row: Row) -> list[dict[str, Any]]:
    """The cards that belong to it, as far as they are in use."""
    if kind.id not in BELOW:
        return []
    name, column = BELOW[kind.id]
    rows: QuerySet[Any] = QuerySet(kind_of(name).model).filter(**{column: row}, archived_at=None).order_by("name", "pk")[:MOST]
    return [{"kind": name, "id": each.pk, "title": title_of(each)} for each in rows]


def _event(event: CardEvent) -> dict[str, Any]:
    changed = [] if event.what != "edited" else [[name, str(was or ""), str(now or "")] for name, (was, now) in event.detail.items()]
    return {
        "id": event.pk,
        "what": event.what,
        "at": event.at,
        "by": event.by.shown_name,
        "title": str(event.detail.get("title", "")) if event.what in {"merged", "unmerged"} else "",
        "changed": [{"name": name, "was": was, "now": now} for name, was, now in changed],
        "undone": hasattr(event, "undone_by"),
    }
