"""Cards: customers, sites, systems, circuits and cylinders added, changed, archived and merged by hand."""

from datetime import datetime
from typing import Any, Literal

from django.http import HttpRequest
from ninja import Router, Schema, Status
from pydantic import Field

from api.shapes import Key, Search, Strict
from api.who import asking_shop, person_of
from cards import queries
from cards.actions.merge import merge, preview, undo_merge
from cards.actions.write import Edit, add_card, archive_card, edit_card

router = Router()
Kind = Literal["customer", "site", "system", "circuit", "cylinder"]


class CardOption(Schema):
    value: str
    label: str


class CardLine(Schema):
    id: int
    title: str
    below: str


class CardLines(Schema):
    rows: list[CardLine]
    next: int | None


class CardFieldRow(Schema):
    name: str
    label: str
    value: str
    most: int
    needed: bool
    hint: str
    options: list[CardOption]


class CardLink(Schema):
    id: int
    title: str


class CardBelow(CardLink):
    kind: Kind


class CardChanged(Schema):
    name: str
    was: str
    now: str


class CardEventRow(Schema):
    id: int
    what: Literal["added", "edited", "archived", "restored", "merged", "unmerged"]
    at: datetime
    by: str
    title: str
    changed: list[CardChanged]
    undone: bool


class BlankCard(Schema):
    parent_kind: str
    fields: list[CardFieldRow]


class CardState(BlankCard):
    kind: Kind
    id: int
    title: str
    parent: CardLink | None
    archived: bool
    merged_into: CardLink | None
    in_use: str
    below: list[CardBelow]
    events: list[CardEventRow]


class NewCard(Strict):
    key: str = Key
    parent: int | None = None
    fields: dict[str, str] = Field(max_length=30)


class EditIn(Strict):
    name: str = Field(max_length=40)
    was: str = Field(max_length=400)
    now: str = Field(max_length=400)


class ParentIn(Strict):
    was: int | None
    now: int | None


class CardEdits(Strict):
    key: str = Key
    edits: list[EditIn] = Field(max_length=30)
    parent: ParentIn | None = None


class ArchiveIn(Strict):
    key: str = Key
    archived: bool


class MergeIn(Strict):
    key: str = Key
    other: int
    once_only: bool = False


class KeyedMerge(Strict):
    key: str = Key


class Moves(Schema):
    what: str
    count: int


class Differs(Schema):
    label: str
    kept: str
    gone: str


class MergePreview(Schema):
    """`twice` where both books open with a balance, which may be one charge."""

    keeps: str
    goes: str
    refused: str
    moves: list[Moves]
    differs: list[Differs]
    books: str
    twice: bool


@router.get("/{kind}", response=CardLines)
def list_cards(request: HttpRequest, kind: Kind, search: Search = "", archived: bool = False, after: int | None = None) -> dict[str, Any]:
    """A page of the shop's cards of a kind, by name."""
    return queries.card_page(asking_shop(request), kind, search, after, archived=archived)


@router.get("/{kind}/blank", response=BlankCard)
def blank_card(request: HttpRequest, kind: Kind) -> dict[str, Any]:
    """What a new card of a kind asks for."""
    return queries.blank(kind)


@router.post("/{kind}", response={201: CardState})
def post_card(request: HttpRequest, kind: Kind, body: NewCard) -> Status[dict[str, Any]]:
    """A new card."""
    card = add_card(person_of(request), body.key, kind, body.parent, body.fields)
    return Status(201, queries.card(asking_shop(request), kind, card))


@router.post("/merges/{event}/undo", response=CardState)
def post_undo(request: HttpRequest, event: int, body: KeyedMerge) -> dict[str, Any]:
    """Undo a merge: what it took over goes back."""
    kind, card = undo_merge(person_of(request), body.key, event)
    return queries.card(asking_shop(request), kind, card)


@router.get("/{kind}/{card}", response=CardState)
def read_card(request: HttpRequest, kind: Kind, card: int) -> dict[str, Any]:
    """One card, with what was done to it."""
    return queries.card(asking_shop(request), kind, card)


@router.post("/{kind}/{card}/edit", response=CardState)
def post_edit(request: HttpRequest, kind: Kind, card: int, body: CardEdits) -> dict[str, Any]:
    """Change what is written on a card, or where it belongs."""
    parent = None if body.parent is None else (body.parent.was, body.parent.now)
    edit_card(person_of(request), body.key, kind, card, [Edit(e.name, e.was, e.now) for e in body.edits], parent)
    return queries.card(asking_shop(request), kind, card)


@router.post("/{kind}/{card}/archive", response=CardState)
def post_archive(request: HttpRequest, kind: Kind, card: int, body: ArchiveIn) -> dict[str, Any]:
    """Take a card out of the lists, or back."""
    archive_card(person_of(request), body.key, kind, card, body.archived)
    return queries.card(asking_shop(request), kind, card)


@router.get("/{kind}/{card}/merge/{other}", response=MergePreview)
def read_merge(request: HttpRequest, kind: Kind, card: int, other: int) -> dict[str, Any]:
    """What merging another card into this one would do."""
    return preview(asking_shop(request), kind, card, other)


@router.post("/{kind}/{card}/merge", response=CardState)
def post_merge(request: HttpRequest, kind: Kind, card: int, body: MergeIn) -> dict[str, Any]:
    """Merge another card into this one."""
    merge(person_of(request), body.key, kind, card, body.other, once_only=body.once_only)
    return queries.card(asking_shop(request), kind, card)
