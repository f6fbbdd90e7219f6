"""The day's plan over the API: own jobs, what waits, shared kit, and the shop's own times."""

from datetime import UTC, datetime, timedelta
from itertools import pairwise
from typing import Any
from urllib.parse import quote

import pytest
from django.test import Client
from django.utils import timezone

from accounts.models import Person
from jobs.day import known_durations
from jobs.models import Change, Job
from yoshi_core.profile.profile import Profile

pytestmark = pytest.mark.django_db


@pytest.fixture
def orrin(demo_world: None) -> Client:
    client = Client()
    client.force_login(Person.objects.get(username="orrin"))
    return client


@pytest.fixture
def vesk(demo_world: None) -> Client:
    client = Client()
    client.force_login(Person.objects.get(username="vesk"))
    return client


def day(client: Client, hours: float = 3.0, skip: str = "", more: str = "") -> Any:
    leave = quote((timezone.now() + timedelta(hours=hours)).isoformat())
    answer = client.get(f"/api/day?leave={leave}&skip={skip}&outside=true{more}")
    assert answer.status_code == 200, answer.content
    return answer.json()


def test_own_jobs_each_with_its_slots_and_how_it_is_left(orrin: Client) -> None:
    found = day(orrin)
    titles = {job["title"] for job in found["jobs"]}
    assert "Control room, bend brazed" in titles
    assert "Gatehouse ductless, cools badly" not in titles
    for job in found["jobs"]:
        assert job["state"] == "proven" if job["proven"] else job["not_done"]
        assert job["left"] or job["state"] != "safe"
        starts = [slot["start"] for slot in job["slots"]]
        assert starts == sorted(starts)
    held = next(job for job in found["jobs"] if job["title"] == "Control room, bend brazed")
    assert held["running"]
    assert held["waits_for"] == "whether it holds"
    pump = next(kit for kit in found["kit"] if kit["name"] == "vacuum pump")
    assert pump["busy_until"], "T. Vesk's walk-in has the pump"


def test_a_job_left_out_of_today_is_not_planned(orrin: Client) -> None:
    before = day(orrin)
    code = before["jobs"][0]["code"]
    after = day(orrin, skip=code)
    assert code not in {job["code"] for job in after["jobs"]}
    assert code in {job["code"] for job in after["skipped"]}


def test_nothing_is_proven_when_the_van_leaves_now_and_the_time_must_be_one(orrin: Client) -> None:
    found = day(orrin, hours=0.0)
    assert [job for job in found["jobs"] if job["proven"] and job["slots"]] == []
    assert found["finish"] is None
    for wrong in ("soon", "2026-06-18T17:00:00"):
        assert orrin.get(f"/api/day?leave={wrong}").status_code == 422


def test_everybodys_day_shares_the_kit_among_all(vesk: Client) -> None:
    found = day(vesk, hours=20.0, more="&whose=all")
    assert found["people"] >= 3
    assert {job["technician"] for job in found["jobs"]} >= {"M. Orrin", "J. Pell", "T. Vesk"}
    assert not any(kit["busy_until"] for kit in found["kit"]), "nobody outside this plan holds anything"
    for kit in found["kit"]:
        spans = sorted((slot["start"], slot["end"]) for slot in kit["slots"])
        assert all(one[1] <= two[0] for one, two in pairwise(spans)), kit["name"]
    waits = [slot for job in found["jobs"] for slot in job["slots"] if slot["waits_for"]]
    assert waits
    assert all(slot["waits_from"] < slot["start"] for slot in waits)


def test_a_job_moved_by_hand_is_not_begun_before(orrin: Client) -> None:
    job = next(job for job in day(orrin, hours=20.0)["jobs"] if job["slots"] and not job["running"])
    later = (timezone.now() + timedelta(hours=2)).isoformat()
    after = next(j for j in day(orrin, hours=20.0, more="&later=" + quote(f"{job['code']}={later}"))["jobs"] if j["code"] == job["code"])
    assert after["not_before"]
    assert datetime.fromisoformat(after["slots"][0]["start"]) >= datetime.fromisoformat(later) - timedelta(seconds=1)
    assert orrin.get(f"/api/day?leave={quote(later)}&later={job['code']}=soon").status_code == 422


def test_own_times_count_from_enough_jobs_of_a_kind(orrin: Client) -> None:
    person = Person.objects.get(username="orrin")
    template = Job.objects.filter(circuit__code="CR-1").first()
    assert template is not None
    Change.objects.filter(job__circuit__code="CR-1").delete()
    for n in range(6):
        job = Job.objects.get(pk=template.pk)
        job.pk, job.code = None, f"own-{n}"
        job.created_at = timezone.now() - timedelta(hours=10)
        job.save()
        for seq, (step, minutes) in enumerate((("identify", 20), ("weigh_in", 32 + n)), 1):
            at = job.created_at + timedelta(minutes=20 if step == "identify" else 20 + minutes)
            Change.objects.create(job=job, seq=seq, kind="closed", payload={"step": step}, at=at, by=person)
    found = known_durations(person, Profile())
    assert found[("split", "identify")] == pytest.approx(1200.0)
    assert found[("split", "weigh_in")] == pytest.approx(34.5 * 60.0)
    assert known_durations(person, Profile(overrides={"time.history": 7.0})) == {}


NIGHT = datetime(2026, 11, 26, 5, 30, tzinfo=UTC)  # 23:30 the evening before where the shop is


def test_at_night_the_next_working_day_is_planned_unless_a_person_says_so(orrin: Client, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(timezone, "now", lambda: NIGHT)
    found = orrin.get("/api/day?offset=-360").json()
    assert (found["begins"], found["leave"]) == ("2026-11-26T07:00:00-06:00", "2026-11-26T17:00:00-06:00")
    opens = datetime.fromisoformat(found["begins"])
    starts = [
        datetime.fromisoformat(slot["start"])
        for job in found["jobs"]
        for slot in job["slots"]
        if not (job["running"] and slot is job["slots"][0])
    ]
    assert starts
    assert min(starts) >= opens
    now = orrin.get("/api/day?offset=-360&outside=true").json()
    assert datetime.fromisoformat(now["begins"]) == NIGHT
    assert min(datetime.fromisoformat(slot["start"]) for job in now["jobs"] for slot in job["slots"]) == NIGHT
    assert orrin.get("/api/day?offset=5000").status_code == 422
