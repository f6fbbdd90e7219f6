"""Beginning a run: books of its own, the van's cylinders in them, a job with the plate read off, and a kit that posts to it."""

import secrets
import uuid
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from dataclasses import replace
from datetime import datetime
from typing import Any

from django.utils import timezone

from accounts import asking
from accounts.models import Person, ProfileRevision, Shop
from accounts.once import lock_shop, once
from accounts.queries import shop_of
from cylinders.actions.book import add_cylinder
from instruments.models import Gateway, Instrument
from jobs.actions.change_job import save_changes
from jobs.actions.create_job import Begun, create_job
from jobs.models import Job
from practice.models import Exercise, Run
from yoshi_core.document.model import PRACTICE
from yoshi_core.errors import InvalidInput
from yoshi_core.instruments import channels
from yoshi_core.job.patches import Change
from yoshi_core.practice import exercise as exercises
from yoshi_core.practice.entries import at, kind_of, known_of
from yoshi_core.practice.exercise import Exercise as CoreExercise
from yoshi_core.rig.instruments import MAKES

MOST_GOING = 5
KIT = {
    "suction_pressure": "gauge",
    "liquid_pressure": "gauge",
    "suction_line": "clamp",
    "liquid_line": "clamp",
    "scale": "scale",
    "return_air": "air",
    "return_wet_bulb": "air",
    "supply": "air",
    "outdoor": "air",
    "vacuum": "micron",
    "metal": "clamp",
}


@contextmanager
def practice_time(moment: datetime) -> Iterator[None]:
    """What is done inside is done by the practice clock, and is no line of the shop's trail."""
    token = asking.now.set(replace(asking.now.get(), moment=moment, what=""))
    try:
        yield
    finally:
        asking.now.reset(token)


def begin(person: Person, key: str, text: str, source: Mapping[str, Any], seed: int | None, *, test: bool) -> Run:
    """A run of an exercise from its text. Raises `InvalidInput` for one that is none, or where too many are going."""
    shop, drawn = shop_of(person), secrets.randbelow(999_999) if seed is None else seed
    exercise = exercises.loads(text, drawn)

    def act(_: Shop) -> dict[str, Any]:
        if Run.objects.filter(person=person).exclude(state="ended").count() >= MOST_GOING:
            raise InvalidInput("{most} runs of yours are not ended. End one of them first.", words={"most": str(MOST_GOING)})
        return {"run": _made(person, shop, exercise, text, source, drawn, test=test).code}

    said = once(shop, key, {"practise": text, "seed": seed, "test": test}, lambda: lock_shop(shop), act)
    return Run.objects.get(code=said["run"])


def _made(person: Person, shop: Shop, exercise: CoreExercise, text: str, source: Mapping[str, Any], seed: int, *, test: bool) -> Run:
    code = uuid.uuid4().hex[:11]
    book = Shop.objects.create(name=f"Practice, {person.shown_name}"[:120])
    latest = ProfileRevision.objects.filter(shop=shop).first()
    if latest is not None:
        latest.pk, latest.shop = None, book
        latest.save(force_insert=True)
    player = Person(username=f"practice-{code}", shown_name=person.shown_name, role="technician", shop=book, is_active=False)
    player.set_unusable_password()
    player.save()
    now = timezone.now()
    run = Run.objects.create(
        code=code,
        name=exercise.name,
        person=person,
        book=book,
        player=player,
        text=text,
        seed=seed,
        test=test,
        ticked_at=now,
        seen_at=now,
        state="paused",
        **source,
    )
    with practice_time(at(0.0)):
        run.job = _job(player, exercise, code)
    run.save(update_fields=["job"])
    return run


def _job(player: Person, exercise: CoreExercise, code: str) -> Job:
    """The practice job: a job like any other, with what is known of the unit when one comes."""
    title = f"Practice: {exercise.name}"[:160]
    number = f"{PRACTICE}{code}"
    create_job(player, "job", kind_of(exercise), title, None, begun=Begun(number, at(0.0)))
    known = [(f"/steps/{step}/runs/0/sheet/{name}", value) for step, fields in known_of(exercise).items() for name, value in fields.items()]
    save_changes(player, number, "known", [Change(path, None, value, typed_at=at(0.0)) for path, value in known])
    for name, plain in exercise.van.cylinders.items():
        recovery = name.startswith("R")
        facts = {
            **{field: plain[field] for field in ("gross", "tare", "water_capacity")},
            "code": name,
            "kind": "recovery" if recovery else "new",
        }
        held = exercise.cylinders()[name]
        add_cylinder(player, f"cylinder-{name}", {**facts, "refrigerant": held.refrigerant})
    job = Job.objects.get(code=number)
    gateway = Gateway.objects.create(
        shop_id=job.shop_id, name="Practice bench", token_digest=uuid.uuid4().hex, paired_by="practice", paired_at=at(0.0), job=job
    )
    step = exercise.van.scale_step_kg
    for channel, kind in KIT.items():
        make = replace(MAKES["scale"], resolution=step, limit=step) if channel == "scale" and step else MAKES[kind]
        facts_of = channels.channel(channel)
        Instrument.objects.create(
            gateway=gateway, key=channel, name=f"practice {facts_of.label}", channel=channel,
            resolution=make.resolution, limit=make.limit, relative=make.relative,
        )  # fmt: skip
    return job


def text_of(person: Person, shipped: str, own_id: int | None) -> tuple[str, dict[str, Any]]:
    """An exercise's text, and where it is from. Raises `InvalidInput` for one that is not there."""
    if own_id is not None:
        own = Exercise.objects.filter(shop=shop_of(person), gone=False, pk=own_id).first()
        if own is None:
            raise InvalidInput("There is no such exercise in this shop.", path="/own")
        return own.text, {"own": own}
    return exercises.shipped(shipped), {"shipped": shipped}
