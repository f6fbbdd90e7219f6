"""What a device takes along to work without signal."""

from typing import Any

from django.http import HttpRequest
from ninja import Router, Schema

from api.who import person_of
from jobs.take_along import taken_along

router = Router()


class JobMark(Schema):
    code: str
    seq: int


class TakenCircuit(Schema):
    """`circuit` is the copy a new job takes, with the `facts` known of it."""

    id: int
    code: str
    name: str
    system: str
    site: str
    circuit: dict[str, Any]
    facts: list[dict[str, Any]]


class TakenAlong(Schema):
    """The jobs to be kept on the device, by code and number of their last change, and what a new job is begun from."""

    core_version: str
    document_version: int
    jobs: list[JobMark]
    circuits: list[TakenCircuit]
    profile: dict[str, Any]


@router.get("", response=TakenAlong)
def take_along(request: HttpRequest) -> dict[str, Any]:
    """What a person takes along: open jobs that are theirs or of the same work order, circuits, and the practice profile."""
    return taken_along(person_of(request))
