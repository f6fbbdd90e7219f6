"""One's own account: signing in and out, password, second factor, sessions, and the links that set a password."""

import hashlib
from datetime import datetime
from typing import Any

from django.contrib.auth import logout, update_session_auth_hash
from django.http import HttpRequest, HttpResponse
from django.middleware.csrf import get_token
from django.utils import timezone
from ninja import Router, Schema, Status
from ninja.utils import check_csrf
from pydantic import Field

from accounts import trail
from accounts.actions import access, second_factor
from accounts.actions.sign_in import CodeNeeded, TooMany, asked_keys, begin, confirm, count, remember_device, sign_in, wait_if_many
from accounts.models import OFFLINE_DAYS, Person, SignedIn
from accounts.passwords import normal, shortest_for
from accounts.queries import shop_of
from api.permissions import owner_of
from api.problems import problem
from api.shapes import Me, Preferences, SignIn, Strict
from api.who import person_of
from yoshi_core.errors import InvalidInput
from yoshi_core.message import headline
from yoshi_core.units.display import Amount

router = Router()
TOKEN = Field(max_length=400)
PASSWORD = Field(max_length=1_000)


class Confirm(Strict):
    password: str = PASSWORD
    code: str = Field(default="", max_length=20)


class NewPassword(Strict):
    old: str = PASSWORD
    new: str = PASSWORD


class Code(Strict):
    code: str = Field(max_length=20)


class Forgotten(Strict):
    username: str = Field(max_length=150)


class Link(Strict):
    token: str = TOKEN


class SetPassword(Strict):
    token: str = TOKEN
    password: str = PASSWORD


class LinkState(Schema):
    username: str
    name: str
    shop: str
    shortest: int


class SessionRow(Schema):
    id: str
    device: str
    address: str
    started_at: datetime
    until: datetime
    here: bool


class OwnAccount(Schema):
    username: str
    mail: str
    second_factor: bool
    paper_left: int
    shortest: int
    sessions: list[SessionRow]


class DeviceKey(Schema):
    owner: str
    key: str


class Secret(Schema):
    secret: str
    address: str
    picture: str


class PaperCodes(Schema):
    codes: list[str]


def me_of(person: Person) -> dict[str, Any]:
    shop = person.shop
    return {
        "owner": owner_of(person),
        "username": person.username,
        "name": person.shown_name,
        "role": person.role,
        "shop": shop.name if shop else "",
        "units": person.units,
        "clock": person.clock,
        "offline_days": shop.offline_days if shop else OFFLINE_DAYS,
    }


def _too_many(error: TooMany) -> HttpResponse:
    said = headline("Too many tries. Wait {wait} and try again.", wait=Amount(float(error.wait_s), "duration"))
    refused = problem(429, "throttled", str(said), params={"wait_s": error.wait_s})
    refused.headers["Retry-After"] = str(error.wait_s)
    return refused


@router.post("/session", auth=None, response=Me)
def post_session(request: HttpRequest, response: HttpResponse, body: SignIn) -> Any:
    """Start a session."""
    if check_csrf(request, post_session) is not None:
        get_token(request)  # handed out with the refusal: a page kept by the device may have none
        return problem(403, "no_token", "Load the page again: signing in takes its token.")
    try:
        person = sign_in(request, body.username, body.password, body.code)
    except TooMany as error:
        return _too_many(error)
    except CodeNeeded:
        return problem(401, "code_needed", "Now the code your app shows, or one from paper.", "/code")
    if person is None:
        wrong = "That name and password do not belong together." if not body.code else "That code is not right now. Take the next one."
        return problem(401, "wrong_sign_in", wrong, "/code" if body.code else "/password")
    begin(request, person, body.username)
    remember_device(request, response, body.username)
    trail.note(shop_of(person), person, "signed in")
    return me_of(person)


@router.delete("/session", response={204: None})
def sign_out(request: HttpRequest) -> Status[None]:
    """End the session."""
    person = person_of(request)
    trail.note(shop_of(person), person, "signed out")
    logout(request)
    return Status(204, None)


@router.post("/session/confirm", response={204: None})
def post_confirm(request: HttpRequest, body: Confirm) -> Any:
    """Say once more who it is, before what only an owner may do."""
    person = person_of(request)
    try:
        same = sign_in(request, person.username, body.password, body.code)
    except TooMany as error:
        return _too_many(error)
    except CodeNeeded:
        return problem(422, "code_needed", "Now the code your app shows, or one from paper.", "/code")
    if same is None or same.pk != person.pk:
        return problem(422, "wrong_sign_in", "That is not your password." if not body.code else "That code is not right now.", "/password")
    confirm(request)
    return Status(204, None)


@router.get("/me", response=Me)
def me(request: HttpRequest) -> dict[str, Any]:
    """Who is signed in."""
    return me_of(person_of(request))


@router.patch("/me", response=Me)
def set_preferences(request: HttpRequest, body: Preferences) -> dict[str, Any]:
    """The units and the clock a person reads in; nothing stored changes with them."""
    person = person_of(request)
    person.units, person.clock = body.units or person.units, body.clock or person.clock
    person.save(update_fields=["units", "clock"])
    return me_of(person)


@router.get("/me/key", response=DeviceKey)
def device_key(request: HttpRequest) -> dict[str, Any]:
    """The key under which this person's devices keep what is theirs, for as long as a session is open there."""
    person = person_of(request)
    return {"owner": owner_of(person), "key": access.device_key(person)}


@router.get("/me/account", response=OwnAccount)
def account(request: HttpRequest) -> dict[str, Any]:
    """One's own account, with every session that is open."""
    return _account(request, person_of(request))


def _account(request: HttpRequest, person: Person) -> dict[str, Any]:
    on = second_factor.is_on(person)
    rows = SignedIn.objects.filter(person=person, expire_date__gt=timezone.now()).order_by("-started_at")
    return {
        "username": person.username,
        "mail": person.email,
        "second_factor": on,
        "paper_left": second_factor.paper_left(person),
        "shortest": shortest_for(person, second_factor=on),
        "sessions": [
            {
                "id": _session_id(row),
                "device": row.device,
                "address": row.address,
                "started_at": row.started_at,
                "until": row.expire_date,
                "here": row.session_key == request.session.session_key,
            }
            for row in rows
        ],
    }


def _session_id(row: SignedIn) -> str:
    """A session's name on the screen; its key is nobody's to see."""
    return hashlib.sha256(row.session_key.encode()).hexdigest()[:16]


@router.post("/me/sessions/{session}/end", response=OwnAccount)
def end_session(request: HttpRequest, session: str) -> dict[str, Any]:
    """End a session on another device, or, by `others`, all of them."""
    person = person_of(request)
    others = SignedIn.objects.filter(person=person).exclude(session_key=request.session.session_key)
    ended = [row.session_key for row in others if session in {"others", _session_id(row)}]
    if SignedIn.objects.filter(session_key__in=ended).delete()[0]:
        trail.note(shop_of(person), person, "ended sessions", person.username, how_many=len(ended))
    return _account(request, person)


@router.post("/me/password", response=OwnAccount)
def post_own_password(request: HttpRequest, body: NewPassword) -> Any:
    """Another password; all sessions but this one end."""
    person = person_of(request)
    keys = asked_keys(request, f"own {person.username}")
    try:
        wait_if_many(keys)
        fresh = access.change_password(person, normal(body.old), body.new, request.session.session_key or "")
    except TooMany as error:
        return _too_many(error)
    except InvalidInput as error:
        if error.path == "/old":
            count(keys)
        raise
    update_session_auth_hash(request, fresh)
    return _account(request, fresh)


@router.post("/me/second-factor", response=Secret)
def post_second_factor(request: HttpRequest, body: Confirm) -> Any:
    """A new secret for the app; it counts once a code of it was entered."""
    refused = post_confirm(request, body)
    return refused if isinstance(refused, HttpResponse) else second_factor.prepare(person_of(request))


@router.post("/me/second-factor/on", response=PaperCodes)
def turn_on(request: HttpRequest, body: Code) -> dict[str, Any]:
    """Begin to ask for codes; answers with those for paper, this once."""
    return {"codes": second_factor.turn_on(person_of(request), body.code)}


@router.post("/me/second-factor/off", response=OwnAccount)
def turn_off(request: HttpRequest, body: Confirm) -> Any:
    """Ask for no codes any more."""
    refused = post_confirm(request, body)
    if isinstance(refused, HttpResponse):
        return refused
    person = person_of(request)
    second_factor.turn_off(person, person)
    return _account(request, person)


@router.post("/password/forgotten", auth=None, response={202: None})
def forgotten(request: HttpRequest, body: Forgotten) -> Any:
    """Mail a link, where the account has an address; the answer is the same where it has none."""
    keys = asked_keys(request, body.username)
    try:
        wait_if_many(keys)
    except TooMany as error:
        return _too_many(error)
    count(keys)
    access.mail_link(body.username)
    return Status(202, None)


@router.post("/password/link", auth=None, response=LinkState)
def look_at_link(request: HttpRequest, body: Link) -> dict[str, Any]:
    """Whose password a link sets."""
    return access.said_of_link(body.token)


@router.post("/password", auth=None, response=LinkState)
def set_password(request: HttpRequest, body: SetPassword) -> dict[str, Any]:
    """Set a password by a link."""
    person = access.set_by_link(body.token, body.password)
    return {"username": person.username, "name": person.shown_name, "shop": shop_of(person).name, "shortest": 0}
