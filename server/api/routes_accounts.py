"""Signing in, the person, the practice profile, circuits, health."""

from typing import Any

from django.contrib.auth import login, logout
from django.db import DatabaseError, connection
from django.http import HttpRequest, HttpResponse
from django.middleware.csrf import get_token
from ninja import Router, Status
from ninja.utils import check_csrf

from accounts.actions.revise_profile import revise_profile
from accounts.actions.sign_in import TooMany, remember_device, sign_in
from accounts.models import Person
from accounts.queries import profile_history, profile_of, shop_of
from api.problems import problem
from api.shapes import CircuitRow, Health, Me, Preferences, ProfileState, ReviseProfile, SignIn
from api.who import asking_shop, person_of
from systems.queries import circuits_of
from yoshi_core import __version__
from yoshi_core.job.forms import forms
from yoshi_core.units.display import lasting

router = Router()


def _me(person: Person) -> dict[str, Any]:
    shop = person.shop
    return {
        "username": person.username,
        "name": person.shown_name,
        "role": person.role,
        "shop": shop.name if shop else "",
        "units": person.units,
    }


@router.get("/health", auth=None, response={200: Health, 503: Health})
def health(request: HttpRequest) -> Status[dict[str, Any]]:
    """Whether the server and its database answer."""
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT 1")
        database = True
    except DatabaseError:
        database = False
    body = {"status": "ok" if database else "no database", "database": database, "core_version": __version__}
    return Status(200 if database else 503, body)


@router.post("/session", auth=None, response=Me)
def post_session(request: HttpRequest, response: HttpResponse, body: SignIn) -> Any:
    """Start a session."""
    if check_csrf(request, post_session) is not None:
        get_token(request)  # handed out with the refusal: a page kept by the device may have none
        return problem(403, "no_token", "Load the page again: signing in takes its token.")
    try:
        person = sign_in(request, body.username, body.password)
    except TooMany as error:
        refused = problem(429, "throttled", f"Too many tries. Wait {lasting(error.wait_s)} and try again.", params={"wait_s": error.wait_s})
        refused.headers["Retry-After"] = str(error.wait_s)
        return refused
    if person is None:
        return problem(401, "wrong_sign_in", "That name and password do not belong together.", "/password")
    login(request, person)
    remember_device(request, response, body.username)
    return _me(person)


@router.delete("/session", response={204: None})
def sign_out(request: HttpRequest) -> Status[None]:
    """End the session."""
    logout(request)
    return Status(204, None)


@router.get("/me", response=Me)
def me(request: HttpRequest) -> dict[str, Any]:
    """Who is signed in."""
    return _me(person_of(request))


@router.patch("/me", response=Me)
def set_preferences(request: HttpRequest, body: Preferences) -> dict[str, Any]:
    """The units a person reads in; nothing stored changes with them."""
    person = person_of(request)
    person.units = body.units
    person.save(update_fields=["units"])
    return _me(person)


@router.get("/forms", auth=None)
def form_facts(request: HttpRequest) -> dict[str, Any]:
    """Units, ranges and words of every field."""
    return forms()


@router.get("/circuits", response=list[CircuitRow])
def circuits(request: HttpRequest) -> list[dict[str, Any]]:
    """The shop's circuits, to start a job from."""
    return [
        {
            "id": c.pk,
            "code": c.code,
            "name": c.name,
            "system": c.system.name,
            "site": c.system.site.name,
            "revision": c.revision,
            "plate": c.plate,
        }
        for c in circuits_of(asking_shop(request))
    ]


@router.get("/profile", response=ProfileState)
def profile(request: HttpRequest) -> dict[str, Any]:
    """The practice profile and how it came to be."""
    return _profile(request)


@router.put("/profile", response=ProfileState)
def put_profile(request: HttpRequest, body: ReviseProfile) -> Any:
    """A new revision; it judges new jobs, a job begun before keeps the one it was begun with."""
    person = person_of(request)
    if person.role == "technician":
        return problem(403, "forbidden", "The practice profile is changed by the lead or the owner.")
    revise_profile(person, body.seen_revision, body.name, body.overrides, body.choices, body.reason)
    return _profile(request)


def _profile(request: HttpRequest) -> dict[str, Any]:
    shop = shop_of(person_of(request))
    now = profile_of(shop)
    lines = [{"revision": r.revision, "at": r.at.isoformat(), "by": r.by, "reason": r.reason} for r in profile_history(shop)]
    return {
        "name": now.name,
        "revision": now.revision,
        "overrides": dict(now.overrides),
        "choices": dict(now.choices),
        "history": lines,
    }
