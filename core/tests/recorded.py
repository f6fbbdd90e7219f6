"""A pytest plugin that writes down every document the tests judge, so that another Python can be asked the same.

    pytest -p tests.recorded core/tests/whole_jobs      with YOSHI_RECORDED naming the file; a line of JSON each

A document is written once, with the profile and the moment it was judged with and the test that did.
"""

import json
import os
import sys
from datetime import datetime
from pathlib import Path
from typing import Any

import pytest

from yoshi_core.document import schema
from yoshi_core.document.model import Job
from yoshi_core.job import documents
from yoshi_core.job.evaluate import Findings, evaluate
from yoshi_core.profile.profile import Profile

_seen: set[str] = set()
_lines: list[str] = []
_test = [""]


def _recording(job: Job, profile: Profile, now: datetime, **options: Any) -> Findings:
    found = evaluate(job, profile, now, **options)
    question = {"job": documents.dump_job(job), "profile": schema.dump(profile), "now": now.isoformat()}
    text = json.dumps(question, sort_keys=True)
    if text not in _seen:
        _seen.add(text)
        _lines.append(json.dumps({"test": _test[0], **question}))
    return found


def pytest_collection_finish() -> None:
    """Every test module that judges, judges through this from here on."""
    for name, module in list(sys.modules.items()):
        if name.startswith("tests.") and getattr(module, "evaluate", None) is evaluate and name != __name__:
            vars(module)["evaluate"] = _recording


def pytest_runtest_setup(item: pytest.Item) -> None:
    """Whose documents these are."""
    _test[0] = item.nodeid


def pytest_unconfigure() -> None:
    """All that was judged, into the file."""
    Path(os.environ["YOSHI_RECORDED"]).write_text("".join(f"{line}\n" for line in _lines), encoding="utf-8")
