"""One question as JSON, its answer as JSON: all that a browser's worker needs to know of the core."""

import json
from collections.abc import Callable, Mapping
from typing import Any

from yoshi_core.device import jobs, lookups
from yoshi_core.document import schema
from yoshi_core.errors import CoreError
from yoshi_core.findings.verdict import Problem
from yoshi_core.message import told

Plain = dict[str, Any]

ANSWERS: Mapping[str, Callable[[Plain], Any]] = {
    "judge": jobs.judge,
    "new": jobs.new,
    "schools": jobs.schools,
    "export": jobs.export,
    "paper": jobs.paper,
    "refrigerants": lookups.refrigerants_known,
    "saturation": lookups.saturation,
    "chart": lookups.chart,
    "compare": lookups.compare,
}


def answer(text: str) -> str:
    """The answer to `{"ask": one of ANSWERS, …what it takes}`: `{"said": …}`, or `{"refused": Problem}` with its words as `detail` where the core refuses it.

    A question that is not one raises `KeyError`: that is the asking program's mistake, never a person's.
    """
    question = json.loads(text)
    try:
        said = {"said": ANSWERS[question["ask"]](question)}
    except CoreError as error:
        words = told(error)
        problem = Problem(error.path, error.code, words)
        said = {"refused": {**schema.dump_full(problem), "detail": words.show(jobs.system_of(question))}}
    return json.dumps(said, ensure_ascii=False, allow_nan=False, separators=(",", ":"))
