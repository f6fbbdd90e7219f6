"""A practice run from its beginning to looking back, in books of its own, by its own clock."""

from collections.abc import Callable
from datetime import datetime, timedelta
from typing import Any

import pytest
from django.test import Client
from django.utils import timezone

from accounts.models import Person, Shop, Trail
from conftest import Api, make_person, signed_in_as
from cylinders.models import Cylinder, Movement
from instruments.models import Gateway, Reading
from jobs.models import Job
from practice.models import Run
from practice.running import UNSEEN, Runner
from tasks.queue import run_all
from yoshi_core.practice.entries import at

pytestmark = pytest.mark.django_db
SHIPPED = "orifice-by-superheat"


class Bench:
    """Somebody at a bench in a test: the office's clock is moved by hand."""

    def __init__(self, api: Api, shipped: str = SHIPPED, **more: Any) -> None:
        self.api, self.now = api, timezone.now()
        answer = api.post("/practice/runs", shipped=shipped, seed=more.pop("seed", 8), **more)
        assert answer.status_code == 201, answer.content
        self.begun = answer.json()
        self.code, self.job = self.begun["code"], self.begun["job"]
        self.runner = Runner("test")

    def clock(self, speed: int) -> Any:
        return self.api.post(f"/practice/runs/{self.code}/clock", keyed=False, speed=speed)

    def wait(self, seconds: float, every: float = 1.0) -> None:
        """So long by the office's clock, round after round."""
        until = self.now + timedelta(seconds=seconds)
        Run.objects.filter(code=self.code).update(ticked_at=self.now)
        while self.now < until:
            self.now += timedelta(seconds=every)
            self.runner.round(self.now)

    def touch(self, do: str, what: str = "", to: str = "") -> Any:
        answer = self.api.post(f"/practice/runs/{self.code}/acts", do=do, what=what, to=to)
        assert answer.status_code == 202, answer.content
        self.runner.round(self.now)
        return self.state()["acts"][-1]

    def state(self) -> Any:
        return self.api.get(f"/practice/runs/{self.code}", look="true").json()


@pytest.fixture
def api(signed_in: Client) -> Api:
    return Api(signed_in)


def test_time_runs_as_fast_as_it_is_told_and_stands_when_it_is(api: Api) -> None:
    bench = Bench(api)
    bench.wait(5)
    assert bench.state()["time_s"] == 0.0
    bench.clock(10)
    bench.wait(30)
    bench.clock(0)
    bench.wait(30)
    assert bench.state()["time_s"] == 300.0
    bench.clock(60)
    bench.wait(10)
    bench.clock(0)
    assert bench.state()["time_s"] == 900.0


def test_a_run_goes_on_at_its_second_after_a_restart_and_is_the_same_bench(api: Api) -> None:
    bench = Bench(api)
    bench.clock(10)
    bench.touch("valve", "suction_port", "open")
    bench.wait(30)
    bench.touch("switch", "unit", "off")
    bench.wait(12)
    before = Run.objects.get(code=bench.code).shown
    bench.runner = Runner("another")
    Run.objects.update(taken_until=bench.now)
    bench.clock(0)
    bench.now += timedelta(seconds=1)
    bench.runner.round(bench.now)
    bench.touch("look", "filter")
    after = Run.objects.get(code=bench.code).shown
    assert after is not None
    assert before is not None
    assert after["time_s"] == before["time_s"] == 420.0
    assert after["shown"] == before["shown"]
    assert (after["valves"], after["switches"]) == (before["valves"], before["switches"])


def test_nobody_else_has_a_run_while_one_process_does(api: Api) -> None:
    bench = Bench(api)
    bench.clock(1)
    bench.wait(3)
    assert Runner("another").round(bench.now) == 0
    assert Runner("another").round(bench.now + timedelta(seconds=30)) == 1


def test_an_act_is_done_once_at_the_second_it_was_asked_for_or_refused_in_words(api: Api) -> None:
    bench = Bench(api)
    bench.clock(1)
    bench.wait(10)
    body = {"key": "act-000001", "do": "valve", "what": "suction_port", "to": "open"}
    for _ in range(2):
        assert api.post(f"/practice/runs/{bench.code}/acts", **body).status_code == 202
    bench.runner.round(bench.now)
    assert [(row["do"], row["at_s"]) for row in bench.state()["acts"]] == [("valve", 10)]
    refused = bench.touch("warm", "", "water")
    assert refused["at_s"] is None
    assert refused["refused"]["text"] == "No cylinder is on the hose."
    assert Run.objects.get(code=bench.code).acts.exclude(at_s=None).count() == 1


def test_readings_come_by_the_doors_of_any_kit_at_practice_time_and_go_into_the_job(api: Api) -> None:
    bench = Bench(api)
    bench.touch("valve", "suction_port", "open")
    bench.clock(60)
    bench.wait(20, every=0.25)
    rows = list(Reading.objects.filter(job__code=bench.job).select_related("instrument"))
    channels = {row.instrument.channel for row in rows}
    assert {"suction_pressure", "suction_line", "liquid_line", "outdoor"} <= channels
    assert "liquid_pressure" not in channels  # its port is shut
    assert at(1160.0) <= max(row.at for row in rows) <= at(1200.0)
    posts = {row.received_at for row in rows if row.instrument.channel == "suction_line"}
    assert len(posts) <= 2 * 20 + 1
    now = datetime.fromisoformat(bench.state()["now"])
    saved = api.post(
        f"/jobs/{bench.job}/changes",
        changes=[
            {"path": "/steps/verify/runs/0/sheet/readings/r1/at", "seen": None, "value": now.isoformat(), "typed_at": now.isoformat()}
        ],
    )
    assert saved.status_code == 200
    assert saved.json()["problems"] == []
    findings = api.get(f"/jobs/{bench.job}").json()["findings"]
    assert findings["now"].startswith("2026-06-18T08:2")


def test_it_stops_by_itself_when_nobody_looks(api: Api) -> None:
    bench = Bench(api)
    bench.clock(1)
    bench.wait(5)
    Run.objects.update(seen_at=bench.now - UNSEEN - timedelta(seconds=1))
    bench.wait(2)
    run = Run.objects.get()
    assert (run.state, run.asleep) == ("paused", True)
    stood = run.time_s
    bench.wait(60)
    assert Run.objects.get().time_s == stood
    assert bench.clock(1).json()["asleep"] is False


def test_nothing_of_practice_reaches_the_shop(api: Api, shop: Shop, person: Person) -> None:
    owner = Api(signed_in_as(make_person(shop, "hale", "owner")))
    lists: dict[str, Callable[[], Any]] = {
        "jobs": lambda: owner.get("/jobs").json(),
        "quick": lambda: owner.get("/jobs", listed="quick").json(),
        "closed": lambda: owner.get("/jobs", listed="closed").json(),
        "mine": lambda: api.get("/jobs").json(),
        "cylinders": lambda: owner.get("/cylinders").json(),
        "held": lambda: owner.get("/cylinders/all/held").json(),
        "systems": lambda: owner.get("/systems").json(),
        "overview": lambda: owner.get("/systems/all/overview").json(),
        "circuits": lambda: owner.get("/circuits").json(),
        "instruments": lambda: owner.get("/instruments").json(),
        "people": lambda: owner.get("/people").json(),
        "day": lambda: [owner.get("/day", whose="all").json()[key] for key in ("jobs", "open", "decisions", "kit", "from_history")],
        "trail": lambda: owner.get("/trail").json(),
        "along": lambda: {k: v for k, v in api.get("/device").json().items() if k != "now"},
        "export": lambda: b"".join(owner.get("/cylinders/export.csv").streaming_content),
        "tasks": lambda: owner.get("/tasks").json(),
    }
    before = {name: read() for name, read in lists.items()}
    bench = Bench(api)
    bench.touch("valve", "suction_port", "open")
    bench.clock(60)
    bench.wait(20)
    api.save(bench.job, {"factory_charge": "7 lb"})
    for step in ("identify", "close_out"):
        api.post(f"/jobs/{bench.job}/steps/{step}/close", reason="left open for this test")
    api.post(f"/practice/runs/{bench.code}/end", keyed=False)
    run_all()
    assert Run.objects.get().result is not None
    assert {name: read() for name, read in lists.items()} == before
    for model in (Job, Cylinder, Movement, Gateway):
        assert not model.objects.filter(shop=shop).exists()
    assert not Trail.objects.filter(shop=shop, about__contains="practice").exists()
    assert Job.objects.get().shop != shop


def test_it_says_practice_on_prints_and_exports_and_is_no_job_of_the_shop(api: Api) -> None:
    bench = Bench(api)
    for paper in ("record", "label"):
        assert "Practice:" in api.get(f"/jobs/{bench.job}/{paper}").content.decode()
    document = api.get(f"/jobs/{bench.job}/document").content.decode()
    assert '"Practice: Fixed orifice, by superheat"' in document
    refused = api.post("/jobs/import", document=document)
    assert refused.status_code == 422
    assert "practice job" in refused.json()["detail"]


@pytest.mark.parametrize(("shipped", "step"), [("hold-while-it-cools", "pressure_hold"), ("room-for-it", "recover"), (SHIPPED, "verify")])
def test_the_job_has_the_steps_its_exercise_is_about_and_knows_what_is_known(api: Api, shipped: str, step: str) -> None:
    bench = Bench(api, shipped)
    findings = api.get(f"/jobs/{bench.job}").json()["findings"]
    words = {row["step"]: row["verdict"]["word"] for row in findings["steps"]}
    assert step in words
    assert words["identify"] == "Holds"
    if shipped == "hold-while-it-cools":
        assert words["pressure_hold"] != "Stop", "what was in it is known to be out"


def test_a_paper_of_a_practice_job_is_made_and_fetched_by_its_person_alone(api: Api, shop: Shop) -> None:
    bench = Bench(api)
    task = api.post(f"/jobs/{bench.job}/papers", keyed=False, paper="label").json()["id"]
    run_all()
    assert api.get(f"/tasks/{task}").json()["state"] == "done"
    assert api.get(f"/tasks/{task}/file").status_code == 200
    assert api.get("/tasks").json() == []
    other = Api(signed_in_as(make_person(shop, "vesk", "lead")))
    assert other.get(f"/tasks/{task}").status_code == 404


def test_a_run_is_its_persons_alone(api: Api, shop: Shop) -> None:
    bench = Bench(api)
    other = Api(signed_in_as(make_person(shop, "vesk", "lead")))
    for path in (f"/practice/runs/{bench.code}", f"/practice/runs/{bench.code}/debrief", f"/jobs/{bench.job}", f"/jobs/{bench.job}/record"):
        assert other.get(path).status_code == 404, path
    assert other.post(f"/practice/runs/{bench.code}/acts", do="look", what="filter", to="").status_code == 404
    head = {"HTTP_X_YOSHI_PRACTICE": bench.code}
    assert other.client.get("/api/cylinders", **head).json()["rows"] == []
    assert len(api.client.get("/api/cylinders", **head).json()["rows"]) == 2
    assert api.get("/cylinders").json()["rows"] == []
    assert api.client.post(f"/api/jobs/{bench.job}/hand-on", "{}", content_type="application/json").status_code == 403


def test_a_test_is_taken_without_looking_inside(api: Api) -> None:
    bench = Bench(api, test=True)
    bench.touch("look", "filter")
    assert bench.state()["inside"] is None
    open_one = Bench(api)
    open_one.touch("look", "filter")
    assert open_one.state()["inside"]["running"] is True


def test_looking_back_and_what_the_lead_sees(api: Api, shop: Shop) -> None:
    lead = Api(signed_in_as(make_person(shop, "vesk", "lead")))
    bench = Bench(api, "low-air")
    bench.clock(60)
    bench.wait(4)
    bench.touch("answer", "cause", "low_airflow")
    api.post(f"/practice/runs/{bench.code}/end", keyed=False)
    assert api.get(f"/practice/runs/{bench.code}/debrief").json()["debrief"] is None
    run_all()
    found = api.get(f"/practice/runs/{bench.code}/debrief").json()["debrief"]
    assert found["person"]["met"] is True
    assert [row["right"] for row in found["person"]["answers"]] == [True]
    assert found["hidden"][0]["words"]["cause"] == "too little indoor air"
    row = lead.get("/practice/team").json()[0]
    assert (row["name"], row["shared"], row["met"], row["off_kg"]) == ("Low air taken for low charge", False, None, None)
    api.post(f"/practice/runs/{bench.code}/share", keyed=False, shared=True)
    assert lead.get("/practice/team").json()[0]["met"] is True
    api.post(f"/practice/runs/{bench.code}/share", keyed=False, shared=False)
    assert lead.get("/practice/team").json()[0]["met"] is None
    assert api.get("/practice/team").status_code == 403
    last = next(row for row in api.get("/practice").json()["exercises"] if row["shipped"] == "low-air")["last"]
    assert (last["times"], last["met"]) == (1, True)


def test_lists_and_a_bench_that_is_asked_for_read_no_documents(api: Api, django_assert_max_num_queries: Any) -> None:
    for _ in range(3):
        bench = Bench(api, "low-air")
        api.post(f"/practice/runs/{bench.code}/end", keyed=False)
    bench = Bench(api, "low-air")
    with django_assert_max_num_queries(8) as lists:
        api.get("/practice")
    with django_assert_max_num_queries(8) as asked:
        bench.state()
    said = " ".join(query["sql"] for query in (*lists.captured_queries, *asked.captured_queries))
    assert "`jobs_job`.`document`" not in said
    assert "`jobs_job`.`findings`" not in said


def test_a_run_whose_time_nobody_lets_run_says_so(api: Api) -> None:
    bench = Bench(api)
    bench.clock(1)
    Run.objects.update(ticked_at=timezone.now() - timedelta(seconds=30))
    assert bench.state()["stalled"] is True
    bench.runner.round()
    assert bench.state()["stalled"] is False


class TestExercises:
    def test_a_file_goes_out_and_comes_in_and_is_checked(self, api: Api) -> None:
        text = api.get("/practice/file", shipped="low-air").content.decode()
        assert api.post("/practice/exercises", text=text.replace("Low air", "Our low air")).status_code == 201
        mine = [row for row in api.get("/practice").json()["exercises"] if row["own"]]
        assert [row["card"]["name"] for row in mine] == ["Our low air taken for low charge"]
        assert Bench(api, "", own=mine[0]["own"]).begun["card"]["name"].startswith("Our")
        for wrong, path in ((text.replace("95 °F", "295 °F"), ""), (text.replace('"tons"', '"tuns"'), "/unit/tuns"), (text[:200], "")):
            answer = api.post("/practice/exercises", text=wrong)
            assert answer.status_code == 422
            assert answer.json()["path"].startswith(path)
        assert len([row for row in api.get("/practice").json()["exercises"] if row["own"]]) == 1

    def test_a_lead_gives_them_and_puts_them_away(self, api: Api, shop: Shop) -> None:
        lead = Api(signed_in_as(make_person(shop, "vesk", "lead")))
        assert lead.post("/practice/give", keyed=False, shipped="low-air", to=["orrin"]).json() == {"people": 1}
        given = {row["shipped"]: row["given_by"] for row in api.get("/practice").json()["exercises"]}
        assert (given["low-air"], given[SHIPPED]) == ("Vesk", "")
        assert lead.post("/practice/give", keyed=False, shipped="low-air", to=["nobody"]).status_code == 422
        assert api.post("/practice/give", keyed=False, shipped="low-air", to=["orrin"]).status_code == 403
        made = api.post("/practice/exercises", text=api.get("/practice/file", shipped="low-air").content.decode()).json()
        assert lead.post(f"/practice/exercises/{made['own']}/put-away", keyed=False).status_code == 204
        assert all(row["own"] is None for row in api.get("/practice").json()["exercises"])
