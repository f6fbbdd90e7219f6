"""The shop: its people and their roles, what was done in it, and what a changed profile would do."""

from datetime import datetime
from typing import Any, Literal

from django.http import HttpRequest, StreamingHttpResponse
from ninja import Router, Schema
from pydantic import Field

from accounts import trail
from accounts.actions import second_factor
from accounts.actions.people import add_person, change_person, change_shop, new_link
from accounts.models import Person
from api.files import csv_file
from api.moments import page_after
from api.shapes import JobState, Key, LeaveOut, ProfileEffect, Strict
from api.who import asking_shop, person_of
from jobs.actions.profile_effect import profile_effect, switch_profile

router = Router()
Role = Literal["technician", "lead", "owner"]


class PersonRow(Schema):
    username: str
    name: str
    role: Role
    active: bool
    invited: bool
    mail: str
    second_factor: bool


class People(Schema):
    people: list[PersonRow]
    link: str = ""
    shop: str
    shortest_password: int
    offline_days: int


class NewPerson(Strict):
    key: str = Key
    username: str = Field(min_length=2, max_length=60, pattern=r"^[a-z0-9._-]+$")
    name: str = Field(min_length=1, max_length=80)
    role: Role
    mail: str = Field(default="", max_length=254)


class ChangePerson(Strict):
    role: Role | None = None
    active: bool | None = None
    name: str | None = Field(default=None, min_length=1, max_length=80)
    mail: str | None = Field(default=None, max_length=254)


class ChangeShop(Strict):
    name: str = Field(min_length=1, max_length=120)
    shortest_password: int = Field(ge=0, le=1_000)
    offline_days: int | None = Field(default=None, ge=0, le=1_000)


class TrailLine(Schema):
    number: int
    at: datetime
    who: str
    what: str
    about: str
    detail: str
    address: str
    device: str


class TrailPage(Schema):
    lines: list[TrailLine]
    next: str | None


class ProfileAsked(Strict):
    overrides: dict[str, str]
    choices: dict[str, str]


def _people(request: HttpRequest, link: str = "") -> dict[str, Any]:
    shop, owner = asking_shop(request), person_of(request).role == "owner"
    shop.refresh_from_db()
    with_second = second_factor.those_with(shop)
    rows = Person.objects.filter(shop=shop).order_by("-is_active", "shown_name")
    people = [
        {
            "username": p.username,
            "name": p.shown_name,
            "role": p.role,
            "active": p.is_active,
            "invited": not p.has_usable_password(),
            "mail": p.email if owner else "",
            "second_factor": p.pk in with_second,
        }
        for p in rows
    ]
    return {
        "people": people,
        "link": link,
        "shop": shop.name,
        "shortest_password": shop.shortest_password,
        "offline_days": shop.offline_days,
    }


@router.get("/people", response=People)
def people(request: HttpRequest) -> dict[str, Any]:
    """Everybody of the shop; mail addresses for its owner alone."""
    return _people(request)


@router.post("/people", response=People)
def post_person(request: HttpRequest, body: NewPerson) -> dict[str, Any]:
    """Invite somebody; the link by which they choose a password, mailed too where there is an address."""
    return _people(request, add_person(person_of(request), body.key, body.username, body.name, body.role, body.mail))


@router.patch("/people/{username}", response=People)
def patch_person(request: HttpRequest, username: str, body: ChangePerson) -> dict[str, Any]:
    """Another role, name or address; an account ended, or taken back."""
    change_person(person_of(request), username, body.dict(exclude_none=True))
    return _people(request)


@router.post("/people/{username}/link", response=People)
def post_link(request: HttpRequest, username: str) -> dict[str, Any]:
    """A link by which somebody sets a new password; the old one is no more good, and they are signed out."""
    return _people(request, new_link(person_of(request), username))


@router.patch("/shop", response=People)
def patch_shop(request: HttpRequest, body: ChangeShop) -> dict[str, Any]:
    """The shop's name, how short a password may be without a second factor, and how long a device works on without signal."""
    change_shop(person_of(request), body.name, body.shortest_password, body.offline_days)
    return _people(request)


@router.get("/trail", response=TrailPage)
def get_trail(request: HttpRequest, after: str = "", search: str = "") -> dict[str, Any]:
    """A page of what was done, last first; `after` is the `next` of the page before."""
    rows = trail.page(asking_shop(request), page_after(after), search[:80])
    page, more = rows[: trail.PAGE], len(rows) > trail.PAGE
    return {"lines": [trail.line(row) for row in page], "next": f"{page[-1].at.isoformat()}~{page[-1].pk}" if more else None}


@router.get("/trail.csv", response={200: Any})
def get_trail_csv(request: HttpRequest) -> StreamingHttpResponse:
    """All that was done, as a table."""
    return csv_file(trail.as_csv(asking_shop(request)), "trail")


@router.post("/profile/effect", response=list[ProfileEffect])
def post_effect(request: HttpRequest, body: ProfileAsked) -> list[dict[str, Any]]:
    """What a change would do to open jobs; nothing is saved."""
    return profile_effect(person_of(request), body.overrides, body.choices)


@router.post("/jobs/{code}/profile", response=JobState)
def post_switch(request: HttpRequest, code: str, body: LeaveOut) -> dict[str, Any]:
    """Judge a job by the present profile from now on."""
    return switch_profile(person_of(request), code, body.key, body.reason)
