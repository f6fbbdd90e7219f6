"""Pairing, taking readings in, and what a job makes of them."""

import json
from datetime import timedelta
from typing import Any

import pytest
from django.test import Client
from django.utils import timezone

from accounts.models import Person, Shop
from api import routes_instruments
from conftest import taken_in
from instruments import queries
from instruments.actions.pair import begin_pairing
from instruments.models import Gateway, Instrument, Reading, Stream
from jobs.actions.create_job import create_job
from jobs.models import Job

pytestmark = pytest.mark.django_db
VACUUM = {"key": "m1", "channel": "vacuum", "unit": "micron", "resolution": 1, "limit": 5, "calibrated_on": "2026-01-05"}
GAUGE = {"key": "g1", "channel": "liquid_pressure", "unit": "psig", "resolution": 0.1, "limit": 1}


@pytest.fixture(autouse=True)
def _quiet_bucket() -> None:
    routes_instruments.flood._left.clear()
    queries._kept.clear()


def paired(client: Client, person: Person, *instruments: dict[str, Any]) -> str:
    code = begin_pairing(person).code
    answer = Client().post(
        "/api/gateway/pair", json.dumps({"code": code, "name": "Kit", "instruments": list(instruments)}), "application/json"
    )
    assert answer.status_code == 200, answer.content
    return str(answer.json()["token"])


def post(token: str, rows: list[dict[str, Any]], **more: Any) -> Any:
    body = json.dumps({"readings": rows, **more})
    return Client().post("/api/gateway/readings", body, "application/json", HTTP_AUTHORIZATION=f"Bearer {token}")


def reading(seconds_ago: float, value: float = 500.0, instrument: str = "m1", unit: str = "micron") -> dict[str, Any]:
    return {"instrument": instrument, "value": value, "unit": unit, "at": (timezone.now() - timedelta(seconds=seconds_ago)).isoformat()}


class TestPairing:
    def test_a_code_is_good_once(self, signed_in: Client, orrin: Person) -> None:
        code = signed_in.post("/api/instruments/pairing-code", content_type="application/json").json()["code"]
        body = json.dumps({"code": code.lower(), "name": "Kit 1", "instruments": [VACUUM]})
        first = Client().post("/api/gateway/pair", body, "application/json")
        assert first.status_code == 200
        again = Client().post("/api/gateway/pair", body, "application/json")
        assert (again.status_code, again.json()["path"]) == (422, "/code")
        kit = signed_in.get("/api/instruments").json()["gateways"][0]
        [row] = kit["instruments"]
        assert (row["label"], row["calibration_due"]) == ("vacuum", False)
        assert Instrument.objects.get().limit == pytest.approx(0.66661)
        assert first.json()["token"] not in str(Gateway.objects.values())

    def test_a_code_runs_out(self, orrin: Person) -> None:
        code = begin_pairing(orrin)
        code.expires_at = timezone.now() - timedelta(seconds=1)
        code.save()
        answer = Client().post("/api/gateway/pair", json.dumps({"code": code.code, "instruments": [VACUUM]}), "application/json")
        assert "ran out" in answer.json()["detail"]

    @pytest.mark.parametrize(
        ("wrong", "path"),
        [
            ({"channel": "wind"}, "/instruments/0/channel"),
            ({"unit": "psig"}, "/instruments/0/unit"),
            ({"resolution": 0}, "/instruments/0/resolution"),
            ({"calibrated_on": "2099-01-01"}, "/instruments/0/calibrated_on"),
            ({"calibrated_on": "spring"}, "/instruments/0/calibrated_on"),
        ],
    )
    def test_an_instrument_that_cannot_be_is_refused_with_its_place(self, orrin: Person, wrong: dict[str, Any], path: str) -> None:
        code = begin_pairing(orrin).code
        body = json.dumps({"code": code, "instruments": [{**VACUUM, **wrong}]})
        answer = Client().post("/api/gateway/pair", body, "application/json")
        assert (answer.status_code, answer.json()["path"]) == (422, path)
        assert not Gateway.objects.exists()

    def test_a_gateway_sent_away_posts_no_more_and_its_readings_stay(self, signed_in: Client, orrin: Person) -> None:
        token = paired(signed_in, orrin, VACUUM)
        assert post(token, [reading(1)]).json()["accepted"] == 1
        signed_in.post(f"/api/instruments/gateways/{Gateway.objects.get().pk}/revoke", content_type="application/json")
        assert post(token, [reading(0)]).status_code == 401
        assert Reading.objects.count() == 1

    def test_another_shop_sees_and_moves_nothing(self, signed_in: Client, orrin: Person, stranger: Client) -> None:
        paired(signed_in, orrin, VACUUM)
        assert stranger.get("/api/instruments").json()["gateways"] == []
        moved = stranger.post(f"/api/instruments/gateways/{Gateway.objects.get().pk}/job", json.dumps({"job": None}), "application/json")
        assert moved.status_code == 404


class TestTakingIn:
    def test_the_same_reading_twice_is_kept_once(self, signed_in: Client, orrin: Person) -> None:
        token = paired(signed_in, orrin, VACUUM)
        rows = [reading(n) for n in range(5, 0, -1)]
        assert post(token, rows).json()["accepted"] == 5
        again = post(token, [*rows, reading(0)]).json()
        assert (again["accepted"], again["repeated"]) == (1, 5)
        assert Reading.objects.count() == 6

    def test_a_bad_row_is_named_and_the_good_ones_are_taken(self, signed_in: Client, orrin: Person) -> None:
        token = paired(signed_in, orrin, VACUUM)
        rows = [reading(3), reading(2, unit="psig"), reading(1, value=9e9), reading(0, instrument="x"), {"instrument": "m1"}]
        taken = post(token, rows).json()
        assert (taken["accepted"], taken["refused_count"]) == (1, 4)
        assert [r["row"] for r in taken["refused"]] == [1, 2, 3, 4]
        assert "not a unit of it" in taken["refused"][0]["reason"]
        kit = signed_in.get("/api/instruments").json()["gateways"][0]
        assert kit["refused"] == 4

    def test_a_clock_an_hour_ahead_is_set_right_or_refused(self, signed_in: Client, orrin: Person) -> None:
        token = paired(signed_in, orrin, VACUUM)
        ahead = reading(-3600)
        assert "ahead of the clock" in post(token, [ahead]).json()["refused"][0]["reason"]
        sent = (timezone.now() + timedelta(hours=1)).isoformat()
        taken = post(token, [ahead], sent_at=sent).json()
        assert (taken["accepted"], round(taken["clock_off_s"])) == (1, 3600)
        assert abs((Reading.objects.get().at - timezone.now()).total_seconds()) < 10

    @pytest.mark.parametrize("body", ["{", "[]", '{"readings": 3}', '{"readings": ["x"]}'])
    def test_garbage_is_refused_and_nothing_written(self, signed_in: Client, orrin: Person, body: str) -> None:
        token = paired(signed_in, orrin, VACUUM)
        answer = Client().post("/api/gateway/readings", body, "application/json", HTTP_AUTHORIZATION=f"Bearer {token}")
        assert answer.status_code == 422
        assert not Reading.objects.exists()

    def test_a_flood_is_refused_and_another_gateway_is_not_harmed(self, signed_in: Client, orrin: Person) -> None:
        flooding, quiet = paired(signed_in, orrin, VACUUM), paired(signed_in, orrin, VACUUM)
        batch = [reading(n / 100) for n in range(10_000)]
        answers = [post(flooding, batch).status_code for _ in range(3)]
        assert answers[:2] == [200, 200]
        assert answers[2] == 429
        assert post(quiet, [reading(1)]).json()["accepted"] == 1

    def test_readings_come_as_csv_too(self, signed_in: Client, orrin: Person) -> None:
        token = paired(signed_in, orrin, VACUUM)
        at = timezone.now().isoformat()
        text = f"instrument,value,unit,at\nm1,512,micron,{at}\nm1,lots,micron,{at}\n"
        answer = Client().post("/api/gateway/readings", text, "text/csv", HTTP_AUTHORIZATION=f"Bearer {token}").json()
        assert (answer["accepted"], answer["refused_count"]) == (1, 1)
        wrong = Client().post("/api/gateway/readings", "a,b\n1,2\n", "text/csv", HTTP_AUTHORIZATION=f"Bearer {token}")
        assert "must name the columns" in wrong.json()["detail"]

    def test_a_zero_is_taken_off_and_an_impossible_one_refused(self, signed_in: Client, orrin: Person) -> None:
        token = paired(signed_in, orrin, GAUGE)
        one = Instrument.objects.get()
        refused = signed_in.post(f"/api/instruments/{one.pk}/zero", json.dumps({"zero": 5e6}), "application/json")
        assert refused.status_code == 422
        signed_in.post(f"/api/instruments/{one.pk}/zero", json.dumps({"zero": 6894.757}), "application/json")
        post(token, [reading(0, 101.0, "g1", "psig")])
        assert Reading.objects.get().value == pytest.approx(100 * 6894.757, rel=1e-6)

    def test_without_a_token_nothing_is_taken(self) -> None:
        assert post("no-such-token", [reading(0)]).status_code == 401


class TestOnAJob:
    def _job(self, signed_in: Client, sheet: dict[str, Any], step: str) -> str:
        made = signed_in.post(
            "/api/jobs", json.dumps({"key": "a-job-key-1", "kind": "service", "title": "Hold"}), "application/json"
        ).json()
        changes = [{"path": f"/steps/{step}/runs/0/sheet/{name}", "seen": None, "value": value} for name, value in sheet.items()]
        body = json.dumps({"key": "a-job-key-2", "changes": changes})
        saved = signed_in.post(f"/api/jobs/{made['code']}/changes", body, "application/json").json()
        assert saved["problems"] == []
        return str(made["code"])

    def test_a_log_is_judged_while_it_grows_and_sealed_when_the_step_closes(self, signed_in: Client, orrin: Person) -> None:
        begun = timezone.now() - timedelta(minutes=40)
        sheet = {
            "method": "single", "energized": True, "valves_open": True, "cores_out": True, "place": "far",
            "volume": {"text": "10 L", "source": "measured"},
            "events": {"e1": {"do": "pump", "at": begun.isoformat()}, "e2": {"do": "isolated", "at": (begun + timedelta(minutes=20)).isoformat()}},
        }  # fmt: skip
        code = self._job(signed_in, sheet, "evacuate")
        token = paired(signed_in, orrin, VACUUM)
        signed_in.post(f"/api/instruments/gateways/{Gateway.objects.get().pk}/job", json.dumps({"job": code}), "application/json")
        rows = [reading(2400 - 10 * n, 20_000 / (1 + n) + 200 if n < 120 else 300 + (n - 120) * 0.05) for n in range(238)]
        assert post(token, rows).json()["job"] == code
        row = Job.objects.get(code=code)
        assert Stream.objects.get(job=row).seq == 238
        empty = {"path": "/steps/leak_search/runs/0/sheet/inside", "seen": None, "value": "empty"}
        body = json.dumps({"key": "nothing-in-it", "changes": [empty]})
        signed_in.post(f"/api/jobs/{code}/changes", body, "application/json")
        for step in ("as_found", "recover", "repair", "pressure_hold"):
            body = json.dumps({"key": f"leave-out-{step}", "reason": "seen before"})
            signed_in.post(f"/api/jobs/{code}/steps/{step}/leave-out", body, "application/json")
        row.refresh_from_db()
        state = signed_in.get(f"/api/jobs/{code}").json()
        found = next(s for s in state["findings"]["steps"] if s["step"] == "evacuate")
        assert found["verdict"]["word"] == "Holds", found["verdict"]
        assert len(found["picture"]["charts"]) == 2
        closed = signed_in.post(
            f"/api/jobs/{code}/steps/evacuate/close", json.dumps({"key": "close-evac-1", "reason": ""}), "application/json"
        )
        assert closed.status_code == 200, closed.content
        trace = closed.json()["job"]["steps"]["evacuate"]["runs"][0]["sheet"]["trace"]
        assert (trace["rows"], len(trace["sha256"])) == (238, 64)
        post(token, [reading(0, 900.0)])
        after = signed_in.get(f"/api/jobs/{code}").json()
        assert next(s for s in after["findings"]["steps"] if s["step"] == "evacuate")["state"] == "closed"
        assert after["job"]["steps"]["evacuate"]["runs"][0]["sheet"]["trace"] == trace

    def test_a_first_reading_long_after_shutting_off_is_read_like_any_other(self, signed_in: Client, orrin: Person) -> None:
        """Shut off twenty minutes ago, the kit paired ten minutes later: the job, its preview and its list still answer."""
        begun = timezone.now() - timedelta(minutes=40)
        off = (begun + timedelta(minutes=20)).isoformat()
        events = {"e1": {"do": "pump", "at": begun.isoformat()}, "e2": {"do": "isolated", "at": off}}
        code = self._job(signed_in, {"volume": {"text": "10 L", "source": "measured"}, "events": events}, "evacuate")
        token = paired(signed_in, orrin, VACUUM)
        signed_in.post(f"/api/instruments/gateways/{Gateway.objects.get().pk}/job", json.dumps({"job": code}), "application/json")
        assert post(token, [reading(600.0, 410.0), reading(300.0, 420.0)]).json()["accepted"] == 2
        state = signed_in.get(f"/api/jobs/{code}")
        assert state.status_code == 200
        asked = signed_in.post(f"/api/jobs/{code}/preview", json.dumps({"changes": []}), "application/json")
        assert asked.status_code == 200
        found = next(s for s in asked.json()["findings"]["steps"] if s["step"] == "evacuate")
        assert "defect" not in json.dumps(found)
        assert found["picture"]["charts"][-1]["id"] == "decay"

    def test_a_log_goes_out_as_csv_and_comes_back_as_a_whole_or_not_at_all(self, signed_in: Client, orrin: Person) -> None:
        code = self._job(signed_in, {}, "evacuate")
        at = (timezone.now() - timedelta(minutes=3)).isoformat()
        bad = f"instrument,value,unit,at\nvacuum,512,micron,{at}\nvacuum,3,furlong,{at}\n"
        answer = taken_in(signed_in, f"/jobs/{code}/log", text=bad)
        assert answer["written"] == 0
        assert answer["rows"][0]["label"] == "row 2"
        assert not Reading.objects.exists()
        good = f"instrument,value,unit,at\nvacuum,512,micron,{at}\nmetal,70,°F,{at}\n"
        assert taken_in(signed_in, f"/jobs/{code}/log", text=good)["written"] == 2
        file: Any = signed_in.get(f"/api/jobs/{code}/log")
        out = b"".join(file.streaming_content).decode()
        assert out.splitlines()[0] == "instrument,value,unit,at,received,name"
        assert len(out.splitlines()) == 3
        assert taken_in(signed_in, f"/jobs/{code}/log", text=out)["written"] == 2
        assert Reading.objects.count() == 2
        assert not [k for k in signed_in.get("/api/instruments").json()["gateways"] if k["name"] == "Imported logs"]

    def test_what_came_before_a_kit_was_put_anywhere_joins_the_job(self, signed_in: Client, orrin: Person) -> None:
        code = self._job(signed_in, {}, "evacuate")
        token = paired(signed_in, orrin, VACUUM)
        post(token, [reading(9), reading(8), reading(4 * 3600)])
        signed_in.post(f"/api/instruments/gateways/{Gateway.objects.get().pk}/job", json.dumps({"job": code}), "application/json")
        job_id = Job.objects.get(code=code).pk
        post(token, [reading(1)])
        assert len(queries.logs_of(job_id)[0]["vacuum"]) == 3
        assert len({r.seq for r in Reading.objects.filter(job=job_id)}) == 3

    def test_the_kept_log_reads_only_what_is_new(self, signed_in: Client, orrin: Person, django_assert_num_queries: Any) -> None:
        code = self._job(signed_in, {}, "evacuate")
        token = paired(signed_in, orrin, VACUUM)
        signed_in.post(f"/api/instruments/gateways/{Gateway.objects.get().pk}/job", json.dumps({"job": code}), "application/json")
        post(token, [reading(n) for n in range(50, 10, -1)])
        job_id = Job.objects.get(code=code).pk
        assert len(queries.logs_of(job_id)[0]["vacuum"]) == 40
        with django_assert_num_queries(1):
            queries.logs_of(job_id)
        post(token, [reading(60.5), reading(1)])
        log = queries.logs_of(job_id)[0]["vacuum"]
        assert len(log) == 42
        assert log == sorted(log)
        assert [r["seq"] for _, r in queries.since_seq([(job_id, 40)])] == [41, 42]


class TestWhatTheyTellOfThemselves:
    def test_a_battery_is_kept_and_shown_and_what_is_no_share_is_not(self, signed_in: Client, orrin: Person) -> None:
        token = paired(signed_in, orrin, VACUUM)
        post(token, [{**reading(2), "battery": 0.4}, {**reading(1), "battery": 0.18}])
        assert Instrument.objects.get().battery == pytest.approx(0.18)
        for wrong in (40, -1, True, "full", None):
            assert post(token, [{**reading(0), "battery": wrong}]).json()["accepted"] == 1
        [row] = signed_in.get("/api/instruments").json()["gateways"][0]["instruments"]
        assert row["battery"] == pytest.approx(0.18)

    def test_an_overdue_calibration_doubles_the_limit_a_browser_gets(self, signed_in: Client, orrin: Person) -> None:
        code = create_job(orrin, "overdue-kit-1", "charge", "vacuum", None)["code"]
        day = (timezone.now() - timedelta(days=500)).date().isoformat()
        token = paired(signed_in, orrin, {**VACUUM, "calibrated_on": day, "limit": 5, "relative": 0.0})
        signed_in.post(f"/api/instruments/gateways/{Gateway.objects.get().pk}/job", json.dumps({"job": code}), "application/json")
        post(token, [reading(1)])
        [(_, shown)] = queries.since_seq([(Job.objects.get(code=code).pk, 0)])
        assert shown["limit"] == pytest.approx(2 * 5 * 0.133322, rel=1e-4)
        assert signed_in.get("/api/instruments").json()["gateways"][0]["instruments"][0]["calibration_due"]

    def test_the_whole_log_in_columns(self, signed_in: Client, orrin: Person, stranger: Client) -> None:
        code = create_job(orrin, "columns-kit-1", "charge", "vacuum", None)["code"]
        empty = signed_in.get(f"/api/jobs/{code}/log/columns").json()
        assert (empty["starts_at"], empty["channels"]) == (None, [])
        token = paired(signed_in, orrin, VACUUM)
        signed_in.post(f"/api/instruments/gateways/{Gateway.objects.get().pk}/job", json.dumps({"job": code}), "application/json")
        post(token, [reading(20, 900.0), reading(10, 700.0), reading(15, 800.0)])
        [channel] = signed_in.get(f"/api/jobs/{code}/log/columns").json()["channels"]
        assert channel["seconds"] == pytest.approx([0.0, 5.0, 10.0], abs=0.2)
        assert [round(v / 0.133322) for v in channel["values"]] == [900, 800, 700]
        assert stranger.get(f"/api/jobs/{code}/log/columns").status_code == 404


@pytest.fixture
def orrin() -> Person:
    shop, _ = Shop.objects.get_or_create(name="Brindlewick")
    person, made = Person.objects.get_or_create(username="orrin", defaults={"shown_name": "M. Orrin", "shop": shop})
    if made:
        person.set_password("quillon-ridge")
        person.save()
    return person


@pytest.fixture
def signed_in(orrin: Person) -> Client:
    client = Client()
    client.force_login(orrin)
    return client


@pytest.fixture
def stranger() -> Client:
    other = Person.objects.create(username="other", shown_name="Other", shop=Shop.objects.create(name="Elsewhere"))
    client = Client()
    client.force_login(other)
    return client
