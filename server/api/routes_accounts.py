"""The practice profile, what every form knows, and circuits."""

from typing import Any

from django.http import HttpRequest
from ninja import Router

from accounts.actions.revise_profile import revise_profile
from accounts.queries import profile_history, profile_of, shop_of
from api.shapes import CircuitPage, Code, ProfileState, ReviseProfile, Search
from api.who import asking_shop, person_of
from systems.queries import WantedCircuits, circuit_page
from yoshi_core.job.forms import forms

router = Router()


@router.get("/forms", auth=None)
def form_facts(request: HttpRequest) -> dict[str, Any]:
    """Units, ranges and words of every field."""
    return forms()


@router.get("/circuits", response=CircuitPage)
def circuits(request: HttpRequest, search: Search = "", code: Code = "", after: int | None = None) -> dict[str, Any]:
    """A page of the shop's circuits, to start a job from; `code` is one of exactly that code."""
    page, following = circuit_page(asking_shop(request), WantedCircuits(search, code), after)
    rows = [
        {
            "id": c.pk,
            "code": c.code,
            "name": c.name,
            "system": c.system.name,
            "site": c.system.site.name,
            "revision": c.revision,
            "plate": c.plate,
        }
        for c in page
    ]
    return {"rows": rows, "next": following}


@router.get("/profile", response=ProfileState)
def profile(request: HttpRequest) -> dict[str, Any]:
    """The practice profile and how it came to be."""
    return _profile(request)


@router.put("/profile", response=ProfileState)
def put_profile(request: HttpRequest, body: ReviseProfile) -> dict[str, Any]:
    """A new revision; it judges new jobs, a job begun before keeps the one it was begun with."""
    person = person_of(request)
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
