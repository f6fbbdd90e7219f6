"""Two cards of one thing become one: what hangs on the second goes over to the first, the second points at it, and all of it can be undone."""

from typing import Any

from django.apps import apps
from django.db.models import Model, QuerySet, Sum

from accounts import clock
from accounts.models import Person, Shop
from accounts.once import lock_shop, once
from accounts.queries import shop_of
from cards.actions.write import hide
from cards.kinds import CardKind, Row, is_archived, kind_of, rows_of, title_of, values_of
from cards.models import CardEvent
from cylinders.models import Cylinder, Movement
from systems.models import Circuit, System
from yoshi_core.errors import InvalidInput
from yoshi_core.message import Message, headline
from yoshi_core.units.display import show

FILLS = {"customer": ("address", "contact"), "site": ("address",), "cylinder": ("owner", "retest", "water_capacity_kg")}


def preview(shop: Shop, kind_name: str, kept: int, gone: int) -> dict[str, Any]:
    """What merging would do: what goes over, where the two differ, what the books say after, or why it is refused."""
    kind = kind_of(kind_name)
    first, second = _pair(shop, kind, kept, gone)
    hung = [(words, QuerySet(model).filter(**{column: second}).count()) for model, column, words in kind.hangs]
    one, other = values_of(first), values_of(second)
    return {
        "keeps": title_of(first),
        "goes": title_of(second),
        "refused": str(refused(kind, first, second) or ""),
        "moves": [{"what": words, "count": count} for words, count in hung if count],
        "differs": [
            {"label": f.label, "kept": _words(f.options, one[f.name]), "gone": _words(f.options, other[f.name])}
            for f in kind.fields
            if one[f.name] != other[f.name]
        ],
        "books": _books(first, second),
        "twice": isinstance(first, Circuit) and all(_openings(row.pk).exists() for row in (first, second)),
    }


def merge(person: Person, key: str, kind_name: str, kept: int, gone: int, *, once_only: bool) -> int:
    """Merge the second card into the first. `once_only` says that both opening balances were the same charge: the second is taken back."""
    shop, kind = shop_of(person), kind_of(kind_name)

    def act(_: Shop) -> dict[str, Any]:
        first, second = _pair(shop, kind, kept, gone)
        if why := refused(kind, first, second):
            raise InvalidInput("{why}", words={"why": why}, path="/other")
        moved = {f"{_label(model)}.{column}": _hand_over(model, column, second, first) for model, column, _ in kind.hangs}
        detail: dict[str, Any] = {"other": second.pk, "title": title_of(second), "moved": {name: ids for name, ids in moved.items() if ids}}
        detail["was"] = second.gone if isinstance(second, Cylinder) else (second.archived_at is not None)
        detail |= _fill(kind, first, second)
        second.merged_into = first
        hide(second, "merged")
        event = CardEvent.objects.create(shop=shop, kind=kind.id, card=first.pk, what="merged", detail=detail, by=person)
        if once_only and isinstance(first, Circuit):
            _count_once(first, moved.get("cylinders.Movement.to_circuit", []), person, f"merge/{event.pk}")
        return {"id": first.pk}

    content = {"merge": [kind.id, kept, gone], "once": once_only}
    return int(once(shop, key, content, lambda: lock_shop(shop), act)["id"])


def undo_merge(person: Person, key: str, event_id: int) -> tuple[str, int]:
    """Give back what one merge took over; what was written since stays with the card that went on. Its kind and number."""
    shop = shop_of(person)

    def act(_: Shop) -> dict[str, Any]:
        event = CardEvent.objects.filter(shop=shop, what="merged").get(pk=event_id)
        kind = kind_of(event.kind)
        first: Row = rows_of(kind, shop).get(pk=event.card)
        second: Row = rows_of(kind, shop).get(pk=event.detail["other"])
        if hasattr(event, "undone_by"):
            return {"kind": kind.id, "id": first.pk}
        if first.merged_into is not None:
            raise InvalidInput(
                "It was itself merged into {other} since. Undo that first.", words={"other": title_of(first.merged_into)}, path="/event"
            )
        for name, ids in event.detail["moved"].items():
            label, column = name.rsplit(".", 1)
            QuerySet(apps.get_model(label)).filter(pk__in=ids, **{column: first}).update(**{column: second.pk})
        _give_back(first, event)
        second.merged_into = None
        hide(second, event.detail["was"] if isinstance(second, Cylinder) else ("archived" if event.detail["was"] else ""))
        _count_again(second, person, event)
        CardEvent.objects.create(
            shop=shop, kind=kind.id, card=first.pk, what="unmerged", detail={"title": title_of(second)}, by=person, undoes=event
        )
        return {"kind": kind.id, "id": first.pk}

    said = once(shop, key, {"undo_merge": event_id}, lambda: lock_shop(shop), act)
    return str(said["kind"]), int(said["id"])


def refused(kind: CardKind, first: Row, second: Row) -> Message | None:
    """Why two cards cannot be of one thing; None where they can."""
    if first.pk == second.pk:
        return Message("These are one card already.")
    if second.merged_into is not None:
        return headline("{card} was merged already.", card=title_of(second))
    if is_archived(first):
        return headline("{card} is archived. Restore it, or merge the other way round.", card=title_of(first))
    if isinstance(first, Cylinder) and isinstance(second, Cylinder):
        if first.kind != second.kind:
            return Message("One is a one-way cylinder, the other refillable.")
        if first.refrigerant and second.refrigerant and first.refrigerant != second.refrigerant:
            return headline("One holds {one}, the other {other}.", one=first.refrigerant, other=second.refrigerant)
        if abs(first.tare_kg - second.tare_kg) > 0.05:
            text = "Their tares differ: {one} and {other}. Read the collar, and correct the one that is wrong."
            return headline(text, one=first.tare_text, other=second.tare_text)
    if isinstance(first, System) and isinstance(second, System):
        same = set(first.circuits.values_list("code", flat=True)) & set(second.circuits.values_list("code", flat=True))
        if same:
            return headline("Both have a circuit {name}. Merge the circuits first.", name=min(same))
    return None


def _pair(shop: Shop, kind: CardKind, kept: int, gone: int) -> tuple[Row, Row]:
    rows = rows_of(kind, shop)
    return rows.get(pk=kept), rows.get(pk=gone)


def _words(options: Any, value: str) -> str:
    return str((options or {}).get(value, value))


def _label(model: type[Model]) -> str:
    """What the model is found again by."""
    return f"{model.__module__.partition('.')[0]}.{model.__name__}"


def _hand_over(model: type[Model], column: str, second: Row, first: Row) -> list[int]:
    rows: QuerySet[Any] = QuerySet(model).filter(**{column: second})
    ids = list(rows.values_list("pk", flat=True))
    rows.update(**{column: first.pk})
    return ids


def _fill(kind: CardKind, first: Row, second: Row) -> dict[str, Any]:
    """Fill what is empty on the first from the second; the newer fingerprint of two is the circuit's."""
    filled: dict[str, Any] = {}
    for name in FILLS.get(kind.id, ()):
        mine, theirs = getattr(first, name), getattr(second, name)
        if mine in {"", None} and theirs not in {"", None}:
            filled[name] = [mine, theirs]
            setattr(first, name, theirs)
    if isinstance(first, Cylinder) and isinstance(second, Cylinder) and not first.refrigerant and second.refrigerant:
        filled["refrigerant"] = ["", second.refrigerant]
        first.refrigerant = second.refrigerant
    if (
        isinstance(first, Circuit)
        and isinstance(second, Circuit)
        and (second.fingerprint or {}).get("at", "") > (first.fingerprint or {}).get("at", "")
    ):
        filled["fingerprint"] = [first.fingerprint, second.fingerprint]
        first.fingerprint = second.fingerprint
    if filled:
        first.save(update_fields=list(filled))
    return {"filled": filled}


def _give_back(first: Row, event: CardEvent) -> None:
    """Take back what the merge filled in, where nobody wrote over it since."""
    mine = [(name, was) for name, (was, now) in event.detail["filled"].items() if getattr(first, name) == now]
    for name, was in mine:
        setattr(first, name, was)
    if mine:
        first.save(update_fields=[name for name, _ in mine])


def _openings(circuit: int) -> QuerySet[Movement]:
    return Movement.objects.filter(to_circuit=circuit, kind="opening", reversed_by=None)


def _books(first: Row, second: Row) -> str:
    """What the joined book says, in words; nothing where there is none."""
    if isinstance(first, Circuit):
        held = [_net(row, "to_circuit") - _net(row, "from_circuit") for row in (first, second)]
        words = "put in, less recovered"
    elif isinstance(first, Cylinder):
        held = [_net(row, "to_cylinder") - _net(row, "from_cylinder") for row in (first, second)]
        words = "in it by its book"
    else:
        return ""
    weigh = " Weigh it after: the book takes the scale's word." if isinstance(first, Cylinder) else ""
    return f"{show(held[0], 'mass')} and {show(held[1], 'mass')} make {show(sum(held), 'mass')} {words}.{weigh}"


def _net(row: Row, column: str) -> float:
    return Movement.objects.filter(**{column: row}).aggregate(total=Sum("mass_kg"))["total"] or 0.0


def _count_once(circuit: Circuit, came_over: list[int], person: Person, key: str) -> None:
    """Take back the opening balance that came over, by a reversal."""
    for line in _openings(circuit.pk).filter(pk__in=came_over):
        Movement.objects.create(
            shop=line.shop, key=f"{key}/{line.pk}", kind="reversal", at=clock.now(), by=person.shown_name, from_circuit=circuit,
            place="counted once", refrigerant=line.refrigerant, mass_kg=line.mass_kg, provenance=line.provenance,
            reason="both cards opened with the same charge", reverses=line,
        )  # fmt: skip


def _count_again(second: Row, person: Person, event: CardEvent) -> None:
    """Where an opening balance was taken back, write it again for the card that has its own book again; its reversal goes with it."""
    for back in Movement.objects.filter(key__startswith=f"merge/{event.pk}/", shop=event.shop):
        line = back.reverses
        if line is None or not isinstance(second, Circuit):
            continue
        Movement.objects.filter(pk=back.pk).update(from_circuit=second.pk)
        Movement.objects.create(
            shop=line.shop, key=f"unmerge/{event.pk}/{line.pk}", kind="opening", at=line.at, by=person.shown_name, to_circuit=second,
            place=line.place, refrigerant=line.refrigerant, mass_kg=line.mass_kg, text=line.text, provenance=line.provenance,
            reason="the merge was undone",
        )  # fmt: skip
