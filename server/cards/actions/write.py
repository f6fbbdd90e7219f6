"""Writing a card: add one, change what is written on it, archive it, take it back."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from accounts import clock
from accounts.models import Person, Shop
from accounts.once import lock_shop, once
from accounts.queries import shop_of
from accounts.texts import alike, code_of, one_line
from cards.kinds import PLATE, CardKind, Row, is_archived, kind_of, rows_of, title_of, values_of
from cards.models import CardEvent
from cylinders.actions.book import add_cylinder, cylinder_of
from cylinders.models import Cylinder, Movement
from cylinders.queries import net_kg
from jobs.actions.tidy import ChangedMeanwhile
from jobs.models import AT_WORK, Job
from systems.models import Circuit, CircuitRevision
from yoshi_core.books.cylinder import BOOK_KG
from yoshi_core.document import schema
from yoshi_core.document.plate import Plate
from yoshi_core.errors import InvalidInput
from yoshi_core.units.display import show

STAMPED = ("kind", "refrigerant", "tare_kg", "tare_text", "water_capacity_kg", "retest", "owner", "oily")


@dataclass(frozen=True)
class Edit:
    """One field as it was read and as it is to be."""

    name: str
    was: str
    now: str


def add_card(person: Person, key: str, kind_name: str, parent: int | None, given: Mapping[str, str]) -> int:
    """A new card; its number. Raises `InvalidInput` at the field."""
    shop, kind = shop_of(person), kind_of(kind_name)
    _known(kind, given)
    if kind.id == "cylinder":
        facts = {**given, "oily": given.get("oily") == "yes"}
        code = str(add_cylinder(person, key, facts)["code"])
        return int(Cylinder.objects.get(shop=shop, code=code).pk)

    def act(_: Shop) -> dict[str, Any]:
        row: Row = kind.model(**({"shop": shop} if kind.of_shop == "shop" else {}))  # type: ignore[assignment]
        if kind.id == "site":
            row.created_at = clock.now()  # type: ignore[union-attr]
        _set_parent(shop, kind, row, parent)
        values = {field.name: str(given.get(field.name, field.usual)) for field in kind.fields}
        _write(shop, kind, row, values, set(values))
        row.save(force_insert=True)
        if isinstance(row, Circuit):
            _revise(row, person, "added by hand")
        _note(shop, person, kind, row.pk, "added")
        return {"id": row.pk}

    return int(once(shop, key, {"card": kind.id, "parent": parent, **given}, lambda: lock_shop(shop), act)["id"])


def edit_card(
    person: Person, key: str, kind_name: str, card: int, edits: Sequence[Edit], parent: tuple[int | None, int | None] | None
) -> int:
    """Change fields of a card; `parent` is what it belonged to and is to belong to. What somebody else changed meanwhile is refused, not overwritten."""
    shop, kind = shop_of(person), kind_of(kind_name)
    _known(kind, {edit.name: edit.now for edit in edits})

    def act(_: Shop) -> dict[str, Any]:
        row: Row = rows_of(kind, shop).get(pk=card)
        if row.merged_into is not None:
            raise InvalidInput("It was merged into {other}. Correct that one.", words={"other": title_of(row.merged_into)}, path="/")
        now = values_of(row)
        for edit in edits:
            if now[edit.name] not in {edit.was, edit.now.strip()}:
                says = now[edit.name] or "nothing"
                raise ChangedMeanwhile(
                    "Somebody wrote “{says}” here meanwhile. Look, then say which.",
                    words={"says": says},
                    path=f"/{edit.name}",
                    now=now[edit.name],
                )
        changed = {edit.name: [now[edit.name], edit.now.strip()] for edit in edits if now[edit.name] != edit.now.strip()}
        if parent is not None:
            changed |= _move(shop, kind, row, *parent)
        if changed:
            _write(shop, kind, row, {**now, **{edit.name: edit.now.strip() for edit in edits}}, set(changed))
            if isinstance(row, Circuit) and changed.keys() & set(PLATE):
                row.revision += 1
                _revise(row, person, "edited by hand")
            row.save()
            _note(shop, person, kind, row.pk, "edited", changed)
        return {"id": row.pk}

    content = {"edit": [kind.id, card], "edits": [[e.name, e.was, e.now] for e in edits], "parent": parent}
    return int(once(shop, key, content, lambda: lock_shop(shop), act)["id"])


def archive_card(person: Person, key: str, kind_name: str, card: int, archived: bool) -> int:
    """Take a card out of the lists, or back into them; nothing of it is lost. Raises `InvalidInput` with what still hangs on it."""
    shop, kind = shop_of(person), kind_of(kind_name)

    def act(_: Shop) -> dict[str, Any]:
        row: Row = rows_of(kind, shop).get(pk=card)
        if row.merged_into is not None:
            raise InvalidInput("It was merged into {other}. Undo that there.", words={"other": title_of(row.merged_into)}, path="/archived")
        if is_archived(row) == archived:
            return {"id": row.pk}
        if archived and (why := in_use(row)):
            raise InvalidInput(why, path="/archived")
        hide(row, "archived" if archived else "")
        _note(shop, person, kind, row.pk, "archived" if archived else "restored")
        return {"id": row.pk}

    return int(once(shop, key, {"archive": [kind.id, card, archived]}, lambda: lock_shop(shop), act)["id"])


def hide(row: Row, why: str) -> None:
    """Take a row out of the lists for a reason, or back without one."""
    if isinstance(row, Cylinder):
        row.gone = why
        row.save(update_fields=["gone", "merged_into"])
        return
    row.archived_at = clock.now() if why else None
    row.save(update_fields=["archived_at", "merged_into"])


def in_use(row: Row) -> str:
    """Why a card cannot be archived; nothing where it can."""
    if isinstance(row, Cylinder):
        held = net_kg(row)
        return f"By its book there is {show(held, 'mass')} in it. Weigh it empty, or move what is in it, first." if held > BOOK_KG else ""
    at = {"customer": "circuit__system__site__customer", "site": "circuit__system__site", "system": "circuit__system", "circuit": "circuit"}
    job = Job.objects.filter(**{at[type(row).__name__.lower()]: row}, listed__in=AT_WORK).first()
    return f"“{job.title}” is still open there. Close it, or discard it, first." if job is not None else ""


def _known(kind: CardKind, given: Mapping[str, str]) -> None:
    for name in given.keys() - {field.name for field in kind.fields} - {"gross"}:
        raise InvalidInput("A {label} has no {name}.", words={"label": kind.label, "name": name[:40]}, path=f"/{name[:40]}")


def _set_parent(shop: Shop, kind: CardKind, row: Row, parent: int | None) -> None:
    if not kind.parent:
        return
    above = kind_of(kind.parent)
    found = None if parent is None else rows_of(above, shop).filter(pk=parent).first()
    if parent is not None and found is None:
        raise InvalidInput("There is no such {label} in this shop.", words={"label": above.label}, path="/parent")
    if found is not None and is_archived(found):
        raise InvalidInput("{other} is archived.", words={"other": title_of(found)}, path="/parent")
    if found is None and kind.parent_needed:
        raise InvalidInput("Say at which {label}.", words={"label": above.label}, path="/parent")
    setattr(row, kind.parent, found)


def _move(shop: Shop, kind: CardKind, row: Row, was: int | None, parent: int | None) -> dict[str, Any]:
    before = getattr(row, f"{kind.parent}_id") if kind.parent else None
    if before not in {was, parent}:
        raise ChangedMeanwhile("Somebody moved it meanwhile. Look, then say where it belongs.", path="/parent")
    if before == parent:
        return {}
    _set_parent(shop, kind, row, parent)
    return {kind.parent: [before, parent]}


def _write(shop: Shop, kind: CardKind, row: Row, values: Mapping[str, str], changed: set[str]) -> None:
    """Put checked values on a row that is not saved yet."""
    for field in kind.fields:
        text = one_line(values[field.name], field.most, f"/{field.name}", field.label.capitalize())
        if field.needed and not text:
            raise InvalidInput("{label:cap} is empty.", words={"label": field.label}, path=f"/{field.name}")
        if field.options and text not in field.options:
            raise InvalidInput(
                "{label:cap} is one of {known}.",
                words={"label": field.label, "known": tuple(w for w in field.options.values() if w != "?")},
                path=f"/{field.name}",
            )
    if isinstance(row, Cylinder):
        _write_cylinder(shop, row, values, changed)
        return
    if changed & {"name", kind.parent} and kind.id in {"customer", "site"}:
        _own_name(shop, kind, row, values["name"].strip())
    if isinstance(row, Circuit):
        _write_circuit(shop, row, values, changed)
        return
    for name in changed & {field.name for field in kind.fields}:
        setattr(row, name, values[name].strip())


def _own_name(shop: Shop, kind: CardKind, row: Row, name: str) -> None:
    for other in rows_of(kind, shop).filter(name=name, merged_into=None).exclude(pk=row.pk):
        if alike(other.name) == alike(name):
            raise InvalidInput(
                "There is a {label} {name} already. It is archived: restore it instead."
                if is_archived(other)
                else "There is a {label} {name} already.",
                words={"label": kind.label, "name": other.name},
                path="/name",
            )


def _write_circuit(shop: Shop, row: Circuit, values: Mapping[str, str], changed: set[str]) -> None:
    row.name = values["name"].strip()
    if "code" in changed:
        code = code_of(values["code"], 40, "/code", "A circuit's number")
        if row.pk and (Job.objects.filter(circuit=row).exists() or Movement.objects.filter(to_circuit=row).exists()):
            raise InvalidInput("Jobs and books name it by this number, so it stays.", path="/code")
        if Circuit.objects.filter(system__site__shop=shop, code=code).exclude(pk=row.pk).exists():
            raise InvalidInput("There is a circuit {code} already.", words={"code": code}, path="/code")
        row.code = code
    typed = {name: values[name].strip() for name in PLATE if name in changed}
    if typed:
        kept = {name: plain for name, plain in row.plate.items() if name not in typed}
        row.plate = schema.dump(schema.load(Plate, {**kept, **{n: text for n, text in typed.items() if text}}, ""))


def _write_cylinder(shop: Shop, row: Cylinder, values: Mapping[str, str], changed: set[str]) -> None:
    if "code" in changed:
        raise InvalidInput("Jobs and books name it by this number, so it stays. Was it entered twice, merge the two.", path="/code")
    if changed & {"refrigerant", "kind"} and net_kg(row) > BOOK_KG:
        name = "refrigerant" if "refrigerant" in changed else "kind"
        raise InvalidInput("By its book there is something in it, and that stays what it is.", path=f"/{name}")
    new = cylinder_of(shop, {**values, "oily": values["oily"] == "yes"})
    touched = (
        changed
        | ({"tare_kg", "tare_text"} if "tare" in changed else set())
        | ({"water_capacity_kg"} if "water_capacity" in changed else set())
    )
    for name in touched & set(STAMPED):
        setattr(row, name, getattr(new, name))


def _revise(row: Circuit, person: Person, reason: str) -> None:
    CircuitRevision.objects.create(circuit=row, revision=row.revision, plate=row.plate, at=clock.now(), by=person.shown_name, reason=reason)


def _note(shop: Shop, person: Person, kind: CardKind, card: int, what: str, detail: dict[str, Any] | None = None) -> None:
    CardEvent.objects.create(shop=shop, kind=kind.id, card=card, what=what, detail=detail or {}, by=person)
