"""Whether this server lives, and whether it is ready for work."""

from typing import Any

from django.db import DatabaseError, connection
from django.db.migrations.executor import MigrationExecutor
from django.http import HttpRequest
from ninja import Router, Schema, Status

from api.shapes import Health
from yoshi_core import __version__

router = Router()
_migrated: list[bool] = []  # once they are all there, they stay


class Alive(Schema):
    status: str
    core_version: str


class Ready(Schema):
    status: str
    database: bool
    migrated: bool
    core_version: str


@router.get("", auth=None, response={200: Health, 503: Health})
def health(request: HttpRequest) -> Status[dict[str, Any]]:
    """Whether the server and its database answer."""
    database = _answers()
    body = {"status": "ok" if database else "no database", "database": database, "core_version": __version__}
    return Status(200 if database else 503, body)


@router.get("/live", auth=None, response=Alive)
def live(request: HttpRequest) -> dict[str, Any]:
    """Answers as long as the process does; whoever watches it starts it again when it does not."""
    return {"status": "live", "core_version": __version__}


@router.get("/ready", auth=None, response={200: Ready, 503: Ready})
def ready(request: HttpRequest) -> Status[dict[str, Any]]:
    """Whether requests may be sent here: the database answers, and is as this version wants it."""
    database = _answers()
    migrated = database and _is_migrated()
    status = "ready" if migrated else "the database wants an upgrade" if database else "no database"
    return Status(200 if migrated else 503, {"status": status, "database": database, "migrated": migrated, "core_version": __version__})


def _answers() -> bool:
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT 1")
    except DatabaseError:
        return False
    return True


def _is_migrated() -> bool:
    """Whether every migration of this version has been made; of a later version there may be more."""
    if not _migrated:
        executor = MigrationExecutor(connection)
        if not executor.migration_plan(executor.loader.graph.leaf_nodes()):
            _migrated.append(True)
    return bool(_migrated)
