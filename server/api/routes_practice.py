"""Practice: exercises, runs at the bench, looking back, and what is given and shared."""

from datetime import datetime, timedelta
from functools import lru_cache
from typing import Annotated, Any, Literal

from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from ninja import Router, Schema, Status
from pydantic import Field

from api.core_types import CoreCard, CoreDebrief, CoreLookInside, CoreMessage, CoreSeen
from api.shapes import Key, Strict
from api.who import person_of
from practice.actions import act as acts
from practice.actions import exercises as books
from practice.actions.begin import begin, text_of
from practice.models import Act, Given, Run
from practice.queries import ended_runs, exercises_of, moment_of, run_of, runs_of, seconds_of
from yoshi_core.document import schema
from yoshi_core.practice import exercise as exercises
from yoshi_core.practice.card import card_of

router = Router()
STALLED = timedelta(seconds=6)
Text = Annotated[str, Field(max_length=exercises.LARGEST_TEXT)]
Short = Annotated[str, Field(max_length=60)]


class LastRun(Schema):
    """How an exercise went last: `times` it was done, whether all marks were met, and how far off the charge was."""

    code: str
    times: int
    met: bool | None
    off_kg: float | None
    ended_at: datetime | None


class ExerciseRow(Schema):
    """An exercise to choose: one that comes with Yoshi, by `shipped`, or one of the shop's, by `own`."""

    shipped: str
    own: int | None
    by: str
    given_by: str
    card: CoreCard
    last: LastRun | None


class RunRow(Schema):
    code: str
    name: str
    test: bool
    state: str
    time_s: float
    met: bool | None
    off_kg: float | None
    shared: bool
    began_at: datetime
    ended_at: datetime | None


class Practice(Schema):
    exercises: list[ExerciseRow]
    going: list[RunRow]


class ActRow(Schema):
    """An act that was asked for lately: done at a second, or refused with the reason."""

    key: str
    do: str
    what: str
    to: str
    at_s: int | None
    refused: CoreMessage | None


class RunState(Schema):
    """A run as it stands. `now` is what the practice clock shows, `time_s` its seconds; a test shows no `inside`; `stalled`: its time does not run."""

    code: str
    job: str
    shipped: str
    own: int | None
    card: CoreCard
    test: bool
    state: Literal["going", "paused", "ended"]
    asleep: bool
    speed: int
    time_s: float
    now: datetime
    seen: CoreSeen | None
    inside: CoreLookInside | None
    acts: list[ActRow]
    shared: bool
    met: bool | None
    stalled: bool


class RunDebrief(Schema):
    """What a run came to; `debrief` is empty while it is worked out."""

    code: str
    job: str
    name: str
    number: int
    shipped: str
    own: int | None
    shared: bool
    debrief: CoreDebrief | None


class TeamRow(Schema):
    """A run of somebody's that ended; how close it was only where they share it."""

    person: str
    name: str
    test: bool
    ended_at: datetime | None
    shared: bool
    met: bool | None
    off_kg: float | None


class Begin(Strict):
    key: str = Key
    shipped: Short = ""
    own: int | None = None
    text: Text = ""
    seed: Annotated[int, Field(ge=0, le=999_999)] | None = None
    test: bool = False


class Touch(Strict):
    key: str = Key
    do: Annotated[str, Field(max_length=20)]
    what: Short = ""
    to: Short = ""


class SetClock(Strict):
    speed: int


class Share(Strict):
    shared: bool


class ExerciseIn(Strict):
    key: str = Key
    text: Text
    id: int | None = None


class ExerciseText(Strict):
    text: Text


class Give(Strict):
    shipped: Short = ""
    own: int | None = None
    to: Annotated[list[Annotated[str, Field(max_length=150)]], Field(max_length=100)]


class Gave(Schema):
    people: int


@router.get("", response=Practice)
def get_practice(request: HttpRequest) -> dict[str, Any]:
    """Every exercise in the order of the work, how it went last, and the runs that are not ended."""
    person = person_of(request)
    runs = runs_of(person)
    given = {(row.shipped, row.own_id): row.by for row in Given.objects.filter(person=person)}
    rows = [
        {"shipped": name, "own": None, "by": "", "card": _card(exercises.shipped(name)), **_around(name, None, runs, given)}
        for name in exercises.SHIPPED
    ]
    rows += [
        {"shipped": "", "own": row.pk, "by": row.by, "card": _card(row.text), **_around("", row.pk, runs, given)}
        for row in exercises_of(person)
    ]
    rows.sort(key=lambda row: row["card"]["number"] or 999)
    return {"exercises": rows, "going": [_run_row(run) for run in runs if run.state != "ended"]}


@lru_cache(maxsize=256)
def _card(text: str, seed: int | None = None) -> dict[str, Any]:
    """The card of a text; making the unit takes longer than all else a bench that is asked for takes."""
    found: dict[str, Any] = schema.dump_full(card_of(exercises.loads(text, seed)))
    return found


def _around(shipped: str, own: int | None, runs: list[Run], given: dict[tuple[str, int | None], str]) -> dict[str, Any]:
    mine = [run for run in runs if run.shipped == shipped and run.own_id == own and run.state == "ended" and (shipped or own)]
    last = mine[0] if mine else None
    return {
        "given_by": given.get((shipped, own), ""),
        "last": last and {"code": last.code, "times": len(mine), "met": last.met, "off_kg": last.off_kg, "ended_at": last.ended_at},
    }


def _run_row(run: Run) -> dict[str, Any]:
    return {
        "code": run.code,
        "name": run.name,
        "test": run.test,
        "state": run.state,
        "time_s": seconds_of(run, timezone.now()),
        "met": run.met,
        "off_kg": run.off_kg,
        "shared": run.shared,
        "began_at": run.began_at,
        "ended_at": run.ended_at,
    }


@router.get("/file", response={200: Any})
def get_exercise_file(request: HttpRequest, shipped: Short = "", own: int | None = None) -> HttpResponse:
    """An exercise as its open file."""
    text, source = text_of(person_of(request), shipped, own)
    name = shipped or f"exercise-{source['own'].pk}"
    headers = {"Content-Disposition": f'attachment; filename="{name}.yoshi-exercise.json"'}
    return HttpResponse(text, content_type="application/json", headers=headers)


@router.get("/schema", response={200: Any})
def get_exercise_schema(request: HttpRequest) -> HttpResponse:
    """What an exercise's file may hold, as JSON Schema."""
    return HttpResponse(exercises.json_schema(), content_type="application/schema+json")


@router.post("/exercises", response={201: ExerciseRow})
def post_exercise(request: HttpRequest, body: ExerciseIn) -> Status[dict[str, Any]]:
    """Take in an exercise from its file, or keep another text of one."""
    row = books.keep(person_of(request), body.key, body.text, body.id)
    return Status(201, {"shipped": "", "own": row.pk, "by": row.by, "given_by": "", "card": _card(row.text), "last": None})


@router.post("/exercises/check", response=CoreCard)
def post_check(request: HttpRequest, body: ExerciseText) -> dict[str, Any]:
    """The card of an exercise's text; nothing is kept."""
    return _card(body.text)


@router.post("/exercises/{exercise_id}/put-away", response={204: None})
def post_put_away(request: HttpRequest, exercise_id: int) -> Status[None]:
    """Take one of the shop's exercises out of the list."""
    books.put_away(person_of(request), exercise_id)
    return Status(204, None)


@router.post("/give", response=Gave)
def post_give(request: HttpRequest, body: Give) -> dict[str, Any]:
    """Give an exercise to people of the shop."""
    return {"people": books.give(person_of(request), body.shipped, body.own, body.to)}


@router.get("/team", response=list[TeamRow])
def get_team(request: HttpRequest) -> list[dict[str, Any]]:
    """What people of the shop have done, and how close where they share it."""
    rows = ended_runs(person_of(request))[:200]
    return [
        {
            "person": run.person.shown_name,
            "name": run.name,
            "test": run.test,
            "ended_at": run.ended_at,
            "shared": run.shared,
            "met": run.met if run.shared else None,
            "off_kg": run.off_kg if run.shared else None,
        }
        for run in rows
    ]


@router.post("/runs", response={201: RunState})
def post_run(request: HttpRequest, body: Begin) -> Status[dict[str, Any]]:
    """Begin a run of an exercise; its clock stands until it is started."""
    person = person_of(request)
    text, source = (body.text, {}) if body.text else text_of(person, body.shipped, body.own)
    return Status(201, _state(begin(person, body.key, text, source, body.seed, test=body.test)))


@router.get("/runs/{run}", response=RunState)
def get_run(request: HttpRequest, run: str, look: bool = False) -> dict[str, Any]:
    """A run as it stands, with a look inside where that is asked for and allowed; asking says that somebody looks."""
    found = run_of(person_of(request), run, look=look)
    now = timezone.now()
    if found.state != "ended" and (now - found.seen_at).total_seconds() > 5.0:
        Run.objects.filter(pk=found.pk).update(seen_at=now)
    return _state(found, look=look)


def _state(run: Run, *, look: bool = False) -> dict[str, Any]:
    now = timezone.now()
    recent = list(run.acts.order_by("-pk")[:12])[::-1]
    ended = run.state == "ended"
    return {
        "code": run.code,
        "job": run.job.code if run.job is not None else "",
        "shipped": run.shipped,
        "own": run.own_id,
        "card": _card(run.text, run.seed),
        "test": run.test,
        "state": run.state,
        "asleep": run.asleep,
        "speed": run.speed,
        "time_s": seconds_of(run, now),
        "now": moment_of(run, now),
        "seen": run.shown,
        "inside": run.inside if look and (ended or not run.test) else None,
        "acts": [_act_row(act) for act in recent],
        "shared": run.shared,
        "met": run.met,
        "stalled": not ended and now - run.ticked_at > STALLED,
    }


def _act_row(act: Act) -> dict[str, Any]:
    return {
        "key": act.key,
        "do": act.do,
        "what": act.what,
        "to": act.to,
        "at_s": act.at_s,
        "refused": act.refused and act.refused["message"],
    }


@router.post("/runs/{run}/acts", response={202: ActRow})
def post_act(request: HttpRequest, run: str, body: Touch) -> Status[dict[str, Any]]:
    """Touch something at the bench. It is done at the second it was asked for."""
    return Status(202, _act_row(acts.touch(person_of(request), run, body.key, body.do, body.what, body.to)))


@router.post("/runs/{run}/clock", response=RunState)
def post_clock(request: HttpRequest, run: str, body: SetClock) -> dict[str, Any]:
    """Let time run at 1×, 10× or 60×, or stand at 0."""
    person = person_of(request)
    acts.set_clock(person, run, body.speed)
    return _state(run_of(person, run))


@router.post("/runs/{run}/end", response=RunState)
def post_end(request: HttpRequest, run: str) -> dict[str, Any]:
    """End it; what it came to is worked out beside."""
    person = person_of(request)
    acts.end(person, run)
    return _state(run_of(person, run))


@router.post("/runs/{run}/share", response=RunState)
def post_share(request: HttpRequest, run: str, body: Share) -> dict[str, Any]:
    """Let the lead see how close it was, or take that back."""
    person = person_of(request)
    acts.share(person, run, shared=body.shared)
    return _state(run_of(person, run))


@router.get("/runs/{run}/debrief", response=RunDebrief)
def get_debrief(request: HttpRequest, run: str) -> dict[str, Any]:
    """A run looked back at, beside the careful one."""
    found = run_of(person_of(request), run)
    card = _card(found.text, found.seed)
    return {
        "code": found.code,
        "job": found.job.code if found.job is not None else "",
        "name": found.name,
        "number": card["number"],
        "shipped": found.shipped,
        "own": found.own_id,
        "shared": found.shared,
        "debrief": found.result,
    }
