"""The shop: its people and their roles, and what a changed profile would do."""

from typing import Any, Literal

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from accounts.actions.people import add_person, set_role
from accounts.models import Person
from api.problems import problem
from api.shapes import JobState, Key, LeaveOut, ProfileEffect, Strict
from api.who import asking_shop, person_of
from jobs.actions.profile_effect import profile_effect, switch_profile

router = Router()
OWNER_ONLY = "People and roles are changed by the owner."
Role = Literal["technician", "lead", "owner"]


class PersonRow(Schema):
    username: str
    name: str
    role: Role


class NewPerson(Strict):
    key: str = Key
    username: str = Field(min_length=2, max_length=60, pattern=r"^[a-z0-9._-]+$")
    name: str = Field(min_length=1, max_length=80)
    role: Role
    password: str = Field(max_length=200)


class SetRole(Strict):
    role: Role


class ProfileAsked(Strict):
    overrides: dict[str, str]
    choices: dict[str, str]


def _people(request: HttpRequest) -> list[dict[str, Any]]:
    rows = Person.objects.filter(shop=asking_shop(request)).order_by("shown_name")
    return [{"username": p.username, "name": p.shown_name, "role": p.role} for p in rows]


@router.get("/people", response=list[PersonRow])
def people(request: HttpRequest) -> list[dict[str, Any]]:
    """Everybody of the shop."""
    return _people(request)


@router.post("/people", response=list[PersonRow])
def post_person(request: HttpRequest, body: NewPerson) -> Any:
    """Somebody new."""
    person = person_of(request)
    if person.role != "owner":
        return problem(403, "forbidden", OWNER_ONLY)
    add_person(person, body.key, body.username, body.name, body.role, body.password)
    return _people(request)


@router.patch("/people/{username}", response=list[PersonRow])
def patch_person(request: HttpRequest, username: str, body: SetRole) -> Any:
    """Another role."""
    person = person_of(request)
    if person.role != "owner":
        return problem(403, "forbidden", OWNER_ONLY)
    set_role(person, username, body.role)
    return _people(request)


@router.post("/profile/effect", response=list[ProfileEffect])
def post_effect(request: HttpRequest, body: ProfileAsked) -> list[dict[str, Any]]:
    """What a change would do to open jobs; nothing is saved."""
    return profile_effect(person_of(request), body.overrides, body.choices)


@router.post("/jobs/{code}/profile", response=JobState)
def post_switch(request: HttpRequest, code: str, body: LeaveOut) -> dict[str, Any]:
    """Judge a job by the present profile from now on."""
    return switch_profile(person_of(request), code, body.key, body.reason)
