"""The life of an account: invited, in by one factor or two, changed, sent a new link, ended; and its sessions."""

import json
from datetime import timedelta
from typing import Any

import pytest
from django.core import mail
from django.test import Client
from django.utils import timezone
from django_otp.oath import totp
from django_otp.plugins.otp_static.models import StaticDevice
from django_otp.plugins.otp_totp.models import TOTPDevice

from accounts.models import AcceptedRequest, Person, Shop, SignedIn, Trail
from accounts.pruning import prune
from conftest import Api, make_person, signed_in_as
from tasks.models import Task
from tasks.queue import run_all

pytestmark = pytest.mark.django_db
WORDS = "four words and a number 7"
NEW = {"username": "newby", "name": "N. Newby", "role": "technician"}


def signs_in(client: Client, username: str, password: str, code: str = "") -> Any:
    return client.post(
        "/api/session", json.dumps({"username": username, "password": password, "code": code}), content_type="application/json"
    )


def sets(link: str, password: str) -> Any:
    return Api(Client()).post("/password", keyed=False, token=link.partition("#")[2], password=password)


def test_somebody_invited_chooses_a_password_and_signs_in(owner: Api) -> None:
    made = owner.post("/people", **NEW, mail="newby@shop.test").json()
    assert made["link"].startswith("/password#")
    assert next(p for p in made["people"] if p["username"] == "newby")["invited"] is True
    run_all()
    assert made["link"].partition("#")[0] in mail.outbox[0].body
    assert "newby" in mail.outbox[0].body
    assert signs_in(Client(), "newby", "").status_code == 401
    said = Api(Client()).post("/password/link", keyed=False, token=made["link"].partition("#")[2]).json()
    assert (said["username"], said["shortest"]) == ("newby", 15)
    assert sets(made["link"], "short").json()["path"] == "/password"
    assert sets(made["link"], WORDS).status_code == 200
    assert sets(made["link"], WORDS + "!").json()["path"] == "/token", "a link is good once"
    client = Client()
    assert signs_in(client, "newby", WORDS).json()["role"] == "technician"
    assert "link" not in json.dumps(list(AcceptedRequest.objects.values_list("answer", flat=True)))
    assert "password#" not in json.dumps(list(Task.objects.values_list("given", flat=True))), "nor by the mail that was sent"


def test_an_invitation_sent_twice_makes_one_account(owner: Api) -> None:
    first = owner.post("/people", **NEW, key="k" * 32).json()
    assert owner.post("/people", **NEW, key="k" * 32).json()["people"] == first["people"]
    assert owner.post("/people", **NEW).json()["path"] == "/username"
    assert owner.post("/people", **{**NEW, "username": "other", "mail": "no address"}).json()["path"] == "/mail"


@pytest.mark.parametrize(
    ("password", "taken"),
    [
        ("x" * 14, False),
        ("correct horse", False),
        ("x" * 129, False),
        ("passwordpassword", True),
        ("ab" * 64, True),
        ("ünïcödé is welcome ☃", True),
        ("               ", True),
    ],
)
def test_what_a_password_may_be(person: Person, password: str, taken: bool) -> None:
    api = Api(signed_in_as(person))
    answer = api.post("/me/password", keyed=False, old="a-long-password", new=password)
    assert answer.status_code == (200 if taken else 422), answer.content
    if not taken:
        assert answer.json()["path"] == "/new"


def test_an_owner_may_allow_shorter_ones_but_no_common_one(owner: Api, person: Person, shop: Shop) -> None:
    api = Api(signed_in_as(person))
    assert owner.send("PATCH", "/shop", name="Ours", shortest_password=7).json()["path"] == "/shortest_password"
    assert owner.send("PATCH", "/shop", name="Ours", shortest_password=8).json()["shop"] == "Ours"
    assert "people use" in api.post("/me/password", keyed=False, old="a-long-password", new="password1").json()["detail"]
    assert api.post("/me/password", keyed=False, old="wrong", new="quillon8").json()["path"] == "/old"
    assert api.post("/me/password", keyed=False, old="a-long-password", new="quillon8").status_code == 200
    assert signs_in(Client(), "orrin", "quillon8").status_code == 200


def test_the_same_password_however_it_is_composed(person: Person) -> None:
    api = Api(signed_in_as(person))
    assert api.post("/me/password", keyed=False, old="a-long-password", new="Ångström is a length").status_code == 200
    assert signs_in(Client(), "orrin", "A\u030angstro\u0308m is a length").status_code == 200


def test_a_changed_password_ends_every_other_session(person: Person) -> None:
    here, there = Client(), Client()
    for client in (here, there):
        assert signs_in(client, "orrin", "a-long-password").status_code == 200
    assert len(here.get("/api/me/account").json()["sessions"]) == 2
    answer = Api(here).post("/me/password", keyed=False, old="a-long-password", new=WORDS)
    assert [row["here"] for row in answer.json()["sessions"]] == [True]
    assert here.get("/api/me").status_code == 200
    assert there.get("/api/me").status_code == 401


def test_sessions_are_listed_with_their_device_and_ended(person: Person) -> None:
    here, there = Client(headers={"user-agent": "Mozilla/5.0 (X11; Linux) Firefox/140.0"}), Client()
    for client in (here, there):
        signs_in(client, "orrin", "a-long-password")
    rows = here.get("/api/me/account").json()["sessions"]
    assert {row["device"] for row in rows} == {"Firefox on Linux", "not said"}
    assert not any(row.session_key in json.dumps(rows) for row in SignedIn.objects.all()), "a session's key is nobody's to see"
    other = next(row["id"] for row in rows if not row["here"])
    assert len(Api(here).post(f"/me/sessions/{other}/end", keyed=False).json()["sessions"]) == 1
    assert there.get("/api/me").status_code == 401
    own = here.get("/api/me/account").json()["sessions"][0]["id"]
    assert len(Api(here).post(f"/me/sessions/{own}/end", keyed=False).json()["sessions"]) == 1, "this one ends by signing out"


def test_a_known_device_stays_signed_in_for_a_week_and_another_for_a_day(person: Person) -> None:
    client = Client()
    for days in (1, 7):
        signs_in(client, "orrin", "a-long-password")
        left = SignedIn.objects.get(session_key=client.session.session_key).expire_date - timezone.now()
        assert timedelta(days=days) - timedelta(minutes=1) < left <= timedelta(days=days)


def test_an_account_that_is_ended_is_out_at_once_and_may_come_back(owner: Api, person: Person) -> None:
    client = Client()
    signs_in(client, "orrin", "a-long-password")
    rows = owner.send("PATCH", "/people/orrin", active=False).json()["people"]
    assert next(row for row in rows if row["username"] == "orrin")["active"] is False
    assert client.get("/api/me").status_code == 401
    assert not SignedIn.objects.filter(person=person).exists()
    assert signs_in(client, "orrin", "a-long-password").status_code == 401
    owner.send("PATCH", "/people/orrin", active=True)
    assert signs_in(client, "orrin", "a-long-password").status_code == 200


def test_a_shop_keeps_an_owner(owner: Api, person: Person) -> None:
    assert owner.send("PATCH", "/people/hale", role="lead").json()["path"] == "/role"
    assert owner.send("PATCH", "/people/hale", active=False).json()["path"] == "/active"
    assert owner.send("PATCH", "/people/orrin", role="owner").status_code == 200
    assert owner.send("PATCH", "/people/orrin", active=False).status_code == 200
    assert owner.send("PATCH", "/people/hale", role="lead").json()["path"] == "/role", "an owner who may not sign in is none"


def test_a_forgotten_password_is_set_by_mail_and_nobody_learns_who_has_an_account(owner: Api, person: Person) -> None:
    owner.send("PATCH", "/people/orrin", mail="orrin@shop.test")
    api = Api(Client())
    assert [api.post("/password/forgotten", keyed=False, username=name).status_code for name in ("orrin", "nobody")] == [202, 202]
    run_all()
    assert [message.to for message in mail.outbox] == [["orrin@shop.test"]]
    link = next(line for line in mail.outbox[0].body.splitlines() if "/password#" in line)
    signed = signed_in_as(person)
    assert sets(link, WORDS).status_code == 200
    assert signed.get("/api/me").status_code == 401, "all sessions end"
    assert signs_in(Client(), "orrin", WORDS).status_code == 200
    codes = [api.post("/password/forgotten", keyed=False, username="orrin").status_code for _ in range(6)]
    assert codes[-1] == 429


def test_an_owners_new_link_ends_the_old_password_and_the_second_factor(owner: Api, person: Person) -> None:
    api = Api(signed_in_as(person))
    turn_on(api, person)
    link = owner.post("/people/orrin/link", keyed=False).json()["link"]
    assert signs_in(Client(), "orrin", "a-long-password").status_code == 401
    assert sets(link, WORDS).status_code == 200
    assert signs_in(Client(), "orrin", WORDS).status_code == 200


def turn_on(api: Api, person: Person) -> list[str]:
    api.post("/me/second-factor", keyed=False, password="a-long-password")
    answer = api.post("/me/second-factor/on", keyed=False, code=code_of(person))
    assert answer.status_code == 200, answer.content
    codes: list[str] = answer.json()["codes"]
    return codes


def no_wait() -> None:
    for device in (TOTPDevice, StaticDevice):
        device.objects.update(throttling_failure_count=0, throttling_failure_timestamp=None)


def code_of(person: Person, offset: int = 0) -> str:
    device = TOTPDevice.objects.filter(user=person).latest("pk")
    return f"{totp(device.bin_key, drift=offset):06d}"


def test_a_second_factor_is_asked_for_and_each_code_is_good_once(person: Person) -> None:
    api = Api(signed_in_as(person))
    made = api.post("/me/second-factor", keyed=False, password="a-long-password").json()
    assert made["picture"].startswith("data:image/svg+xml")
    assert made["address"].startswith("otpauth://totp/Yoshi")
    assert api.post("/me/second-factor/on", keyed=False, code="12").json()["path"] == "/code"
    assert signs_in(Client(), "orrin", "a-long-password").status_code == 200, "not asked for before it is proven"
    no_wait()
    paper = turn_on(api, person)
    assert len(set(paper)) == 10
    assert signs_in(Client(), "orrin", "a-long-password").json()["code"] == "code_needed"
    assert signs_in(Client(), "orrin", "a-long-password", code_of(person)).status_code == 401, "it proved the app already"
    no_wait()
    assert signs_in(Client(), "orrin", "a-long-password", paper[0].upper()).status_code == 200
    assert signs_in(Client(), "orrin", "a-long-password", paper[0]).status_code == 401
    assert signs_in(Client(), "orrin", "a-long-password", paper[1]).status_code == 401, "a wrong code makes the next one wait"
    no_wait()
    assert signs_in(Client(), "orrin", "wrong", paper[1]).status_code == 401
    assert api.get("/me/account").json()["paper_left"] == 9
    assert api.post("/me/second-factor/off", keyed=False, password="a-long-password").json()["code"] == "code_needed"
    off = api.post("/me/second-factor/off", keyed=False, password="a-long-password", code=paper[1])
    assert off.json()["second_factor"] is False
    assert signs_in(Client(), "orrin", "a-long-password").status_code == 200


def test_with_a_second_factor_eight_characters_are_enough(person: Person) -> None:
    api = Api(signed_in_as(person))
    turn_on(api, person)
    assert api.get("/me/account").json()["shortest"] == 8
    assert api.post("/me/password", keyed=False, old="a-long-password", new="qu1ll0n-").status_code == 200


def test_the_trail_says_who_did_what_from_where_and_goes_out_as_a_table(owner: Api, person: Person, shop: Shop) -> None:
    phone = Client(headers={"user-agent": "Mozilla/5.0 (Linux; Android 15) Chrome/140.0"}, REMOTE_ADDR="10.0.0.7")
    signs_in(phone, "orrin", "a-long-password")
    code = Api(phone).new_job(title="=cmd()")["code"]
    owner.send("PATCH", "/people/orrin", role="lead")
    lines = owner.get("/trail").json()["lines"]
    assert [(line["who"], line["what"], line["about"]) for line in lines][:3] == [
        ("Hale", "changed an account", "orrin"),
        ("Orrin", "made a job", code),
        ("Orrin", "signed in", ""),
    ]
    assert lines[0]["detail"] == "role: technician → lead"
    assert (lines[1]["address"], lines[1]["device"]) == ("10.0.0.7", "Chromium on Android")
    Api(phone).save(code, {"oil": "POE"})
    assert owner.get("/trail", search="entered").json()["lines"][0]["about"] == code
    table = b"".join(owner.get("/trail.csv").streaming_content).decode()
    assert table.splitlines()[0] == "number,at,who,what,about,detail,address,device"
    assert len(table.splitlines()) == Trail.objects.count() + 1
    other = signed_in_as(make_person(Shop.objects.create(name="Elsewhere"), "far", "owner"))
    assert Api(other).get("/trail").json()["lines"] == []


def test_the_trail_comes_in_pages(owner: Api, person: Person, shop: Shop) -> None:
    Trail.objects.bulk_create(Trail(shop=shop, person=person, what="entered", about=str(n)) for n in range(230))
    seen, after = [], ""
    while True:
        page = owner.get("/trail", after=after).json()
        seen += [line["number"] for line in page["lines"]]
        after = page["next"]
        if not after:
            break
    assert len(seen) == len(set(seen)) == 230
    assert owner.get("/trail", after="yesterday").status_code == 422


def test_what_has_served_its_time_is_pruned_and_the_rest_stays(api: Api, shop: Shop) -> None:
    api.new_job()
    api.new_job()
    AcceptedRequest.objects.filter(pk=AcceptedRequest.objects.earliest("pk").pk).update(at=timezone.now() - timedelta(days=181))
    SignedIn.objects.update(expire_date=timezone.now() - timedelta(seconds=1))
    assert prune() == {"requests": 1, "sessions": 1, "tries": 0, "tasks": 0}
    assert AcceptedRequest.objects.count() == 1
