"""Closed steps of an open job say what they said when they were closed, under any later version."""

from typing import Any

import pytest

from conftest import PLATE, Api
from jobs.models import Job
from yoshi_core import __version__

pytestmark = pytest.mark.django_db


def closed(api: Api) -> str:
    code: str = api.new_job()["code"]
    api.save(code, PLATE)
    answer = api.post(f"/jobs/{code}/steps/identify/close", reason="plate read twice")
    assert answer.status_code == 200, answer.content
    return code


def as_if_closed_before(code: str, change: Any, version: str = "0.4.0") -> None:
    """Put into the stored document what an earlier version would have kept at closing."""
    row = Job.objects.get(code=code)
    event = row.document["steps"]["identify"]["events"][-1]
    event["core_version"] = version
    change(event["shown"])
    row.save()


def identify(answer: dict[str, Any]) -> dict[str, Any]:
    found: dict[str, Any] = next(step for step in answer["findings"]["steps"] if step["step"] == "identify")
    return found


def test_a_step_shows_what_it_was_closed_with_and_beside_it_what_today_would_say(api: Api) -> None:
    code = closed(api)
    today = identify(api.get(f"/jobs/{code}").json())

    def other_words(shown: dict[str, Any]) -> None:
        shown["verdict"]["headline"] = {"text": "The total was {mass}.", "amounts": {"mass": {"value": 4.1, "quantity": "mass", "u": None}}}
        shown["figures"][0]["amount"]["value"] = 4.1

    as_if_closed_before(code, other_words)
    answer = api.get(f"/jobs/{code}").json()
    step = identify(answer)
    assert step["verdict"]["headline"]["text"] == "The total was {mass}."
    assert step["figures"][0]["amount"]["value"] == 4.1
    assert (step["state"], step["picture"]) == ("closed", today["picture"])
    [otherwise] = answer["otherwise"]
    assert (otherwise["step"], otherwise["core_version"], otherwise["word"]) == ("identify", "0.4.0", today["verdict"]["word"])
    assert otherwise["headline"] == today["verdict"]["headline"]
    previewed = api.post(f"/jobs/{code}/preview", keyed=False, changes=[]).json()
    assert identify(previewed)["verdict"] == step["verdict"]


def test_what_is_the_same_today_has_nothing_beside_it(api: Api) -> None:
    code = closed(api)
    assert api.get(f"/jobs/{code}").json()["otherwise"] == []
    as_if_closed_before(code, lambda shown: None)
    assert api.get(f"/jobs/{code}").json()["otherwise"] == []
    as_if_closed_before(code, lambda shown: shown["verdict"].update(word="Stop"), version=__version__)
    assert identify(api.get(f"/jobs/{code}").json())["verdict"]["word"] != "Stop", "under this version its own rules hold"


def test_of_another_shape_the_words_stay_and_the_screen_is_todays(api: Api) -> None:
    code = closed(api)

    def old_shape(shown: dict[str, Any]) -> None:
        shown["figures"] = {"total": "9 lb"}
        shown["verdict"] = {"word": "Wait", "headline": {"text": "An older sentence.", "amounts": {}}, "because": []}

    as_if_closed_before(code, old_shape)
    step = identify(api.get(f"/jobs/{code}").json())
    assert (step["verdict"]["word"], step["verdict"]["headline"]["text"]) == ("Wait", "An older sentence.")
    assert isinstance(step["figures"], list)
    assert step["verdict"]["reasons"] is not None


def test_opened_again_it_is_judged_by_today(api: Api) -> None:
    code = closed(api)
    as_if_closed_before(code, lambda shown: shown["verdict"].update(word="Stop"))
    answer = api.post(f"/jobs/{code}/steps/identify/reopen", reason="look again").json()
    assert identify(answer)["verdict"]["word"] != "Stop"
    assert answer["otherwise"] == []


def test_a_closed_job_of_before_records_were_kept_says_what_its_steps_said(api: Api) -> None:
    code = closed(api)

    def other_words(shown: dict[str, Any]) -> None:
        shown["verdict"]["headline"] = {"text": "Subcooling proves the charge.", "amounts": {}}

    as_if_closed_before(code, other_words)
    Job.objects.filter(code=code).update(closed=True)
    assert identify(api.get(f"/jobs/{code}").json())["verdict"]["headline"]["text"] == "Subcooling proves the charge."
