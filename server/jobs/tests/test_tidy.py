"""Keeping the list of jobs in order: other names, discarded beginnings, quick totals apart, sorted and filtered pages."""

import pytest

from accounts.models import Shop
from conftest import PLATE, Api, make_person, signed_in_as
from jobs.models import Change, Job

pytestmark = pytest.mark.django_db


def codes(api: Api, **query: str) -> list[str]:
    return [row["code"] for row in api.get("/jobs", **query).json()["jobs"]]


def test_a_job_is_renamed_once_and_by_whom_is_kept(api: Api) -> None:
    code = api.new_job(title="Roof")["code"]
    assert api.post(f"/jobs/{code}/rename", was="Roof", title="Roof, east unit").json()["title"] == "Roof, east unit"
    late = api.post(f"/jobs/{code}/rename", was="Roof", title="Roof, west unit")
    assert (late.status_code, late.json()["code"]) == (422, "changed_meanwhile")
    assert api.post(f"/jobs/{code}/rename", was="Roof, east unit", title="  ").json()["path"] == "/title"
    assert [c.payload for c in Change.objects.filter(job__code=code, kind="renamed")] == [{"was": "Roof", "now": "Roof, east unit"}]
    assert Job.objects.get(code=code).document["title"] == "Roof, east unit"


def test_an_empty_job_is_discarded_with_its_history_and_taken_back(api: Api) -> None:
    code = api.new_job(title="By mistake")["code"]
    api.save(code, PLATE)
    assert api.post(f"/jobs/{code}/discard", discarded=True).json()["discarded"] is True
    assert (codes(api), codes(api, listed="closed"), codes(api, listed="discarded")) == ([], [], [code])
    refused = api.save(code, {"oil": "POE"})
    assert (refused.status_code, "Take it back" in refused.json()["detail"]) == (422, True)
    assert api.post(f"/jobs/{code}/discard", discarded=False).json()["closed"] is False
    assert codes(api) == [code]
    assert [row["kind"] for row in api.get(f"/jobs/{code}/history").json()][:2] == ["taken_back", "discarded"]
    assert api.save(code, {"oil": "POE"}).status_code == 200


def test_a_job_somebody_worked_in_is_kept(api: Api) -> None:
    code = api.new_job(kind="service")["code"]
    left = api.post(f"/jobs/{code}/steps/leak_search/leave-out", reason="nothing to look for")
    assert left.status_code == 200, left.content
    said = api.post(f"/jobs/{code}/discard", discarded=True)
    assert (said.status_code, "A step of it was closed" in said.json()["detail"]) == (422, True)
    assert codes(api) == [code]


def test_quick_totals_are_no_open_jobs_until_one_is_made_a_job(api: Api) -> None:
    job, quick = api.new_job()["code"], api.new_job(kind="quick")["code"]
    page = api.get("/jobs").json()
    assert ([row["code"] for row in page["jobs"]], page["open"], page["quick"]) == ([job], 1, 1)
    assert codes(api, listed="quick") == [quick]
    assert api.post(f"/jobs/{quick}/adopt", title="A real one").status_code == 200
    assert (set(codes(api)), codes(api, listed="quick")) == ({job, quick}, [])


def test_a_list_is_sorted_filtered_and_paged_by_its_own_marker(api: Api, shop: Shop) -> None:
    titles = [f"Unit {n:02}" for n in range(60)]
    for title in reversed(titles):
        api.new_job(title=title)
    first = api.get("/jobs", sort="name").json()
    second = api.get("/jobs", sort="name", after=first["next"]).json()
    assert [row["title"] for row in [*first["jobs"], *second["jobs"]]] == titles
    assert second["next"] is None
    assert api.get("/jobs", sort="name", after="no marker").status_code == 422
    lead = Api(signed_in_as(make_person(shop, "vesk", "lead")))
    own = lead.new_job(title="The lead's own")["code"]
    assert codes(lead, whose="vesk") == [own]
    assert lead.get("/jobs").json()["open"] == 61
    assert codes(lead, step="weigh_in") == []
    found = lead.get("/jobs", step="identify", word="Open", search="unit 07").json()["jobs"]
    assert "Unit 07" in {row["title"] for row in found}
    assert len(found) < 20
