"""Cards written by hand: what a field takes, who else wrote meanwhile, what may be archived, and that a merge joins all and gives all back."""

from typing import Any

import pytest
from django.utils import timezone

from accounts.models import Shop
from cards.models import CardEvent
from conftest import Api, make_person, signed_in_as
from cylinders.actions.post import post_ledger
from cylinders.models import Cylinder, Movement
from cylinders.queries import net_kg
from jobs.models import Job
from systems.models import Circuit, CircuitRevision, Site, System
from yoshi_core.document.model import Posting
from yoshi_core.findings.verdict import Movement as CoreMovement

pytestmark = pytest.mark.django_db


@pytest.fixture
def lead(shop: Shop) -> Api:
    return Api(signed_in_as(make_person(shop, "vesk", "lead")))


def new(api: Api, kind: str, parent: int | None = None, /, **fields: str) -> int:
    answer = api.post(f"/cards/{kind}", parent=parent, fields=fields)
    assert answer.status_code == 201, answer.content
    return int(answer.json()["id"])


def edit(api: Api, kind: str, card: int, name: str, was: str, now: str) -> Any:
    return api.post(f"/cards/{kind}/{card}/edit", edits=[{"name": name, "was": was, "now": now}])


def value(api: Api, kind: str, card: int, name: str) -> str:
    fields = {field["name"]: field["value"] for field in api.get(f"/cards/{kind}/{card}").json()["fields"]}
    return str(fields[name])


@pytest.fixture
def unit(lead: Api) -> int:
    """A circuit with all that it belongs to."""
    customer = new(lead, "customer", name="Ridge Observatory", contact="the porter")
    site = new(lead, "site", customer, name="Ridge")
    system = new(lead, "system", site, name="Dome")
    return new(lead, "circuit", system, name="Dome split", code="D-1", refrigerant="R-410A", factory_charge="9 lb 4 oz")


class TestWriting:
    def test_a_customer_with_its_sites_systems_and_circuits_is_made_by_hand(self, lead: Api, unit: int) -> None:
        circuit = Circuit.objects.get(pk=unit)
        assert circuit.plate["factory_charge"]["value"] == pytest.approx(4.19573, abs=1e-5)
        assert circuit.system.site.customer is not None
        assert circuit.system.site.customer.contact == "the porter"
        assert CircuitRevision.objects.get(circuit=circuit).reason == "added by hand"
        [row] = lead.get("/systems").json()["rows"]
        assert (row["site"], row["system"], row["code"]) == ("Ridge", "Dome", "D-1")
        assert lead.get("/cards/customer", search="porter").json()["rows"][0]["title"] == "Ridge Observatory"

    @pytest.mark.parametrize(
        ("kind", "fields", "path", "says"),
        [
            ("customer", {"name": " "}, "/name", "Name is empty"),
            ("customer", {"name": "x" * 121}, "/name", "up to 120"),
            ("customer", {"name": "New", "language": "tlh"}, "/language", "is one of English"),
            ("customer", {"name": "New", "colour": "red"}, "/colour", "has no colour"),
            ("customer", {"name": "ridge observatory"}, "/name", "already"),
            ("system", {"name": "Lab"}, "/parent", "Say at which site"),
            ("cylinder", {"code": "9", "kind": "barrel", "tare": "25 lb"}, "/kind", ""),
        ],
    )
    def test_what_cannot_be_is_said_at_its_field_and_nothing_is_kept(
        self, lead: Api, unit: int, kind: str, fields: dict[str, str], path: str, says: str
    ) -> None:
        before = CardEvent.objects.count()
        answer = lead.post(f"/cards/{kind}", fields=fields)
        assert (answer.status_code, answer.json()["path"]) == (422, path)
        assert says in answer.json()["detail"]
        assert CardEvent.objects.count() == before

    def test_a_plate_that_is_edited_gets_a_revision_and_keeps_what_was_not_touched(self, lead: Api, unit: int) -> None:
        Circuit.objects.filter(pk=unit).update(plate={**Circuit.objects.get(pk=unit).plate, "oil": "POE", "gauge_reference": "vented"})
        assert edit(lead, "circuit", unit, "factory_charge", "9 lb 4 oz", "9 lb 8 oz").status_code == 200
        circuit = Circuit.objects.get(pk=unit)
        assert circuit.plate["factory_charge"]["value"] == pytest.approx(4.30913, abs=1e-5)
        assert (circuit.plate["oil"], circuit.plate["gauge_reference"], circuit.revision) == ("POE", "vented", 2)
        assert edit(lead, "circuit", unit, "factory_charge", "9 lb 8 oz", "nine").status_code == 422
        assert Circuit.objects.get(pk=unit).revision == 2

    def test_what_somebody_wrote_meanwhile_is_not_written_over(self, lead: Api, unit: int) -> None:
        assert edit(lead, "circuit", unit, "name", "Dome split", "Dome, east").status_code == 200
        late = edit(lead, "circuit", unit, "name", "Dome split", "Dome, west")
        assert (late.status_code, late.json()["code"], late.json()["params"]["now"]) == (422, "changed_meanwhile", "Dome, east")
        assert edit(lead, "circuit", unit, "name", "Dome split", "Dome, east").status_code == 200, "the same again is no conflict"
        [said] = [e for e in lead.get(f"/cards/circuit/{unit}").json()["events"] if e["what"] == "edited"]
        assert said["changed"] == [{"name": "name", "was": "Dome split", "now": "Dome, east"}]

    def test_the_same_request_twice_makes_one_card(self, lead: Api) -> None:
        ids = {lead.post("/cards/customer", key="the-same-key", fields={"name": "Hut"}).json()["id"] for _ in range(2)}
        assert len(ids) == 1

    def test_a_number_that_books_name_stays(self, lead: Api, unit: int) -> None:
        assert edit(lead, "circuit", unit, "code", "D-1", "D-9").status_code == 200
        lead.new_job(kind="charge", circuit_id=unit)
        assert edit(lead, "circuit", unit, "code", "D-9", "D-1").json()["path"] == "/code"

    def test_another_shops_card_is_not_there(self, lead: Api, unit: int) -> None:
        other = Api(signed_in_as(make_person(Shop.objects.create(name="Other"), "else", "owner")))
        assert other.get(f"/cards/circuit/{unit}").status_code == 404
        assert edit(other, "circuit", unit, "name", "Dome split", "x").status_code == 404
        site = Circuit.objects.get(pk=unit).system.site_id
        assert other.post("/cards/system", parent=site, fields={"name": "x"}).json()["path"] == "/parent"


class TestArchiving:
    def test_a_circuit_with_an_open_job_stays_until_that_is_done(self, lead: Api, unit: int) -> None:
        job = lead.new_job(kind="charge", circuit_id=unit, title="Top-up")["code"]
        system = Circuit.objects.get(pk=unit).system_id
        for kind, card in (("circuit", unit), ("system", system)):
            said = lead.post(f"/cards/{kind}/{card}/archive", archived=True)
            assert (said.status_code, "“Top-up” is still open there" in said.json()["detail"]) == (422, True)
        assert lead.post(f"/jobs/{job}/discard", discarded=True).status_code == 200
        assert lead.post(f"/cards/system/{system}/archive", archived=True).status_code == 200
        assert lead.get("/systems").json()["rows"] == []
        assert lead.post("/jobs", kind="charge", circuit_id=unit).json()["path"] == "/circuit_id"
        assert [row["id"] for row in lead.get("/cards/system", archived=True).json()["rows"]] == [system]
        assert lead.post(f"/cards/system/{system}/archive", archived=False).status_code == 200
        assert len(lead.get("/systems").json()["rows"]) == 1

    def test_a_cylinder_with_something_in_it_is_not_put_away(self, lead: Api) -> None:
        fields = {"code": "7", "kind": "recovery", "refrigerant": "R-410A", "tare": "25 lb", "water_capacity": "47 lb", "gross": "31 lb"}
        seven = new(lead, "cylinder", **fields)
        assert "6 lb 0.0 oz in it" in lead.post(f"/cards/cylinder/{seven}/archive", archived=True).json()["detail"]
        assert lead.post("/cylinders/7/weigh", gross="25 lb", reason="emptied").status_code == 200
        assert lead.post(f"/cards/cylinder/{seven}/archive", archived=True).status_code == 200
        assert lead.get("/cylinders").json()["rows"] == []
        assert edit(lead, "cylinder", seven, "tare", "25 lb", "24 lb 14 oz").status_code == 200
        assert Cylinder.objects.get(pk=seven).tare_kg == pytest.approx(11.28311, abs=1e-5)

    def test_a_technician_adds_and_corrects_but_archives_and_merges_nothing(self, api: Api, unit: int) -> None:
        assert edit(api, "circuit", unit, "name", "Dome split", "Dome").status_code == 200
        for path, body in ((f"/cards/circuit/{unit}/archive", {"archived": True}), (f"/cards/circuit/{unit}/merge", {"other": unit})):
            assert api.post(path, **body).status_code == 403


class TestMerging:
    def test_two_cards_of_one_circuit_share_their_history_and_a_merge_undone_gives_each_its_own(self, lead: Api, unit: int) -> None:
        system = Circuit.objects.get(pk=unit).system_id
        again = new(lead, "circuit", system, name="Dome, the same", code="D-1b", refrigerant="R-410A")
        for circuit, kg in ((unit, "9 lb"), (again, "9 lb")):
            past = {"kind": "opening", "mass": kg, "at": "2025-03-01T10:00:00Z", "reason": "logbook"}
            assert lead.post(f"/systems/{circuit}/past", **past).status_code == 200
        past = {"kind": "added", "mass": "2 lb", "at": "2026-03-01T10:00:00Z", "reason": "logbook"}
        assert lead.post(f"/systems/{again}/past", **past).status_code == 200
        job = lead.new_job(kind="charge", circuit_id=again)["code"]
        books = list(Movement.objects.order_by("pk").values_list("pk", "mass_kg", "to_circuit"))

        plan = lead.get(f"/cards/circuit/{unit}/merge/{again}").json()
        assert (plan["refused"], plan["twice"]) == ("", True)
        assert {move["what"]: move["count"] for move in plan["moves"]} == {"jobs": 1, "charges put in": 2}
        assert "make 20 lb 0.0 oz" in plan["books"]

        merged = lead.post(f"/cards/circuit/{unit}/merge", other=again, once_only=True)
        assert merged.status_code == 200, merged.content
        page = lead.get(f"/systems/{unit}").json()
        assert page["history"]["balance"]["value"] == pytest.approx(11 * 0.45359237)
        assert [each["code"] for each in page["jobs"]] == [job]
        assert lead.get(f"/systems/{again}").json()["id"] == unit, "an old link leads to the one that goes on"
        assert Movement.objects.count() == len(books) + 1, "every movement is kept, the doubled one is reversed"

        gone = edit(lead, "circuit", again, "name", "Dome, the same", "Dome")
        assert (gone.status_code, gone.json()["detail"]) == (422, "It was merged into Dome split. Correct that one.")
        event = merged.json()["events"][0]["id"]
        for _ in range(2):
            assert lead.post(f"/cards/merges/{event}/undo").status_code == 200
        balances = [lead.get(f"/systems/{circuit}").json()["history"]["balance"]["value"] for circuit in (unit, again)]
        assert balances == pytest.approx([9 * 0.45359237, 11 * 0.45359237])
        assert [row["code"] for row in lead.get(f"/systems/{again}").json()["jobs"]] == [job]
        assert [e["what"] for e in lead.get(f"/cards/circuit/{unit}").json()["events"]] == ["unmerged", "merged", "added"]

    def test_what_a_job_of_the_merged_circuit_books_comes_to_the_one_that_goes_on(self, lead: Api, unit: int) -> None:
        again = new(lead, "circuit", Circuit.objects.get(pk=unit).system_id, name="Dome", code="D-1b", refrigerant="R-410A")
        job = lead.new_job(kind="charge", circuit_id=again)["code"]
        assert lead.post(f"/cards/circuit/{unit}/merge", other=again).status_code == 200
        row = Job.objects.get(code=job)
        assert row.circuit_id == unit
        moved = CoreMovement(f"{job}/1", "add", "cylinder:none", "circuit:D-1b", "R-410A", 1.5, "weighed")
        [booked] = post_ledger(row.shop, job, row.circuit, [Posting("movement", moved, timezone.now(), "v")])
        assert booked.to_circuit_id == unit

    def test_sites_systems_and_customers_join(self, lead: Api, unit: int) -> None:
        circuit = Circuit.objects.get(pk=unit)
        twice = new(lead, "site", name="Ridge top")
        dome = new(lead, "system", twice, name="Dome again")
        new(lead, "circuit", dome, name="C", code="D-1x")
        assert lead.post(f"/cards/site/{circuit.system.site_id}/merge", other=twice).status_code == 200
        assert {row["site"] for row in lead.get("/systems").json()["rows"]} == {"Ridge"}
        assert lead.post(f"/cards/system/{circuit.system_id}/merge", other=dome).status_code == 200
        assert {row["system"] for row in lead.get("/systems").json()["rows"]} == {"Dome"}
        report = lead.take_in("/systems", "site,system,circuit,refrigerant\nRidge top,Shed,S-1,R-22\n")
        assert report["written"] == 1
        assert Circuit.objects.get(code="S-1").system.site_id == circuit.system.site_id, (
            "a file that uses the old name finds the site that goes on"
        )
        other = new(lead, "customer", name="Ridge Obs.", address="Top road")
        customer = circuit.system.site.customer_id
        assert lead.post(f"/cards/customer/{customer}/merge", other=other).status_code == 200
        assert value(lead, "customer", int(customer or 0), "address") == "Top road", "what was empty is filled"
        event = lead.get(f"/cards/customer/{customer}").json()["events"][0]["id"]
        assert lead.post(f"/cards/merges/{event}/undo").status_code == 200
        assert value(lead, "customer", int(customer or 0), "address") == ""

    def test_cylinders_join_their_books_and_part_again(self, lead: Api) -> None:
        common = {"kind": "recovery", "refrigerant": "R-410A", "tare": "25 lb", "water_capacity": "47 lb"}
        one, two = (new(lead, "cylinder", code=code, gross=gross, **common) for code, gross in (("7", "31 lb"), ("7b", "27 lb")))
        merged = lead.post(f"/cards/cylinder/{one}/merge", other=two)
        assert merged.status_code == 200
        assert net_kg(Cylinder.objects.get(pk=one)) == pytest.approx(8 * 0.45359237)
        assert [row["code"] for row in lead.get("/cylinders").json()["rows"]] == ["7"]
        assert lead.post("/cylinders/7/weigh", gross="31 lb", reason="it was one cylinder").status_code == 200
        assert lead.post(f"/cards/merges/{merged.json()['events'][0]['id']}/undo").status_code == 200
        assert net_kg(Cylinder.objects.get(pk=two)) == pytest.approx(2 * 0.45359237)
        assert [row["code"] for row in lead.get("/cylinders").json()["rows"]] == ["7", "7b"]

    @pytest.mark.parametrize(
        ("change", "says"),
        [({"refrigerant": "R-22"}, "One holds R-410A, the other R-22"), ({"tare": "26 lb"}, "tares differ"), ({"kind": "new"}, "one-way")],
    )
    def test_two_cylinders_that_cannot_be_one_are_not_merged(self, lead: Api, change: dict[str, str], says: str) -> None:
        common = {"kind": "recovery", "refrigerant": "R-410A", "tare": "25 lb", "water_capacity": "47 lb", "gross": "31 lb"}
        one, two = new(lead, "cylinder", code="7", **common), new(lead, "cylinder", code="8", **{**common, **change})
        assert says in lead.get(f"/cards/cylinder/{one}/merge/{two}").json()["refused"]
        assert says in lead.post(f"/cards/cylinder/{one}/merge", other=two).json()["detail"]

    def test_a_chain_of_merges_is_undone_from_its_end(self, lead: Api) -> None:
        a, b, c = (new(lead, "customer", name=name) for name in "ABC")
        site = new(lead, "site", c, name="S")
        first = lead.post(f"/cards/customer/{b}/merge", other=c).json()["events"][0]["id"]
        second = lead.post(f"/cards/customer/{a}/merge", other=b).json()["events"][0]["id"]
        assert Site.objects.get(pk=site).customer_id == a
        assert "Undo that first" in lead.post(f"/cards/merges/{first}/undo").json()["detail"]
        for event, holds in ((second, b), (first, c)):
            assert lead.post(f"/cards/merges/{event}/undo").status_code == 200
            assert Site.objects.get(pk=site).customer_id == holds

    def test_two_systems_with_one_number_wait_for_their_circuits(self, lead: Api, unit: int) -> None:
        circuit = Circuit.objects.get(pk=unit)
        other = System.objects.create(site=circuit.system.site, name="Twin")
        Circuit.objects.create(system=other, code="D-1", name="Twin")
        assert "Both have a circuit D-1" in lead.post(f"/cards/system/{circuit.system_id}/merge", other=other.pk).json()["detail"]
