"""From the first version that landed to this one, by a dump of its database: nothing of it is lost, and what was closed stays byte for byte."""

import gzip
import json
import subprocess
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from ops.backup import Server
from ops.installation import Installation
from ops.serving import MANAGE

DUMP = Path(__file__).parent / "first-version.sql.gz"
NAME = "test_yoshi_first"
LOOK = """
import json
from accounts.models import Person
from cylinders.models import Cylinder
from cylinders.queries import accounts as books
from django.contrib.auth import authenticate
from jobs.models import Job
from jobs.queries import one_job, seen_by
from jobs.store import answer_of
from records.render import label_html, record_html
out = dict(signs_in=authenticate(username="orrin", password="quillon-ridge") is not None, jobs={})
person = Person.objects.get(username="orrin")
for row in Job.objects.select_related("shop", "circuit__system__site"):
    said = answer_of(row)
    out["jobs"][row.code] = dict(closed=row.closed, steps=[[s["step"], s["state"], s["verdict"]] for s in said["findings"]["steps"]],
                                 people=said["people"], pages=len(record_html(row, person)) + len(label_html(row, person)))
out["mine"] = sorted(seen_by(person).values_list("code", flat=True))
print("LOOKED" + json.dumps(out))
"""


@pytest.fixture(scope="module")
def first(installed: Installation) -> Iterator[Server]:
    """The dump in a database of its own, beside the installation's."""
    instance = installed.instance
    instance.sql(f"DROP DATABASE IF EXISTS {NAME}; CREATE DATABASE {NAME} CHARACTER SET utf8mb4;")
    client = ["mariadb", "--no-defaults", f"--socket={instance.socket}", "--user=root", NAME]
    subprocess.run(client, input=gzip.decompress(DUMP.read_bytes()), check=True)
    yield Server(("--no-defaults", f"--socket={instance.socket}", "--user=root"), {"PATH": "/usr/bin:/bin"}, NAME)
    instance.sql(f"DROP DATABASE {NAME};")


def documents(server: Server) -> dict[str, str]:
    return {row[0]: row[1] for row in server.ask("SELECT code, SHA2(document, 256) FROM jobs_job ORDER BY code")}


def rows(server: Server, *tables: str) -> dict[str, int]:
    return {table: int(server.ask(f"SELECT COUNT(*) FROM `{table}`")[0][0]) for table in tables}


def test_the_first_version_that_landed_comes_up_with_everything(installed: Installation, first: Server) -> None:
    kept = ("accounts_person", "accounts_shop", "systems_circuit", "jobs_job", "jobs_change")
    before, content = rows(first, *kept), documents(first)
    shown = {row[0]: row[1] for row in first.ask("SELECT code, JSON_EXTRACT(document, '$.steps') FROM jobs_job ORDER BY code")}
    assert before["jobs_job"] >= 4
    env = {**installed.environment(), "YOSHI_DB_NAME": NAME}
    subprocess.run([*MANAGE, "migrate", "--no-input", "-v", "0"], env=env, check=True, capture_output=True)
    assert rows(first, *kept) == before
    assert documents(first) == content, "what was entered and what was shown at closing stays byte for byte"
    done = subprocess.run([*MANAGE, "shell", "-v", "0", "-c", LOOK], env=env, capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stderr
    looked: dict[str, Any] = json.loads(done.stdout.partition("LOOKED")[2])
    assert looked["signs_in"], "the password of then is good now"
    assert set(looked["jobs"]) == set(content)
    assert looked["mine"], "whose job it is was found from who worked on it"
    assert all(job["people"] and job["pages"] > 2_000 for job in looked["jobs"].values())
    closings = 0
    for code, text in shown.items():
        for step, state, verdict in looked["jobs"][code]["steps"]:
            events = json.loads(text.replace("\\\\", "\\")).get(step, {}).get("events", [])
            if state == "closed" and events and events[-1]["kind"] == "closed":
                closings += 1
                then = events[-1]["shown"]["verdict"]
                told = {"words": {}, **then["headline"]}  # sentences had no words beside their amounts then
                assert (verdict["word"], {"words": {}, **verdict["headline"]}) == (then["word"], told), (code, step)
    assert closings >= 3
