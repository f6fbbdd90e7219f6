"""Documents from elsewhere far outside what any field holds: refused when read, by the field's name, or judged; never anything else."""

import copy
import json
from collections import Counter
from collections.abc import Iterator
from datetime import timedelta
from random import Random
from typing import Any

import pytest

from tests.job.test_never_raises import places, whole
from tests.make import NOW
from yoshi_core.document import bounds, schema
from yoshi_core.errors import CoreError, DocumentError
from yoshi_core.job import documents
from yoshi_core.job.evaluate import evaluate
from yoshi_core.profile.profile import Profile

WITHIN = (0.0, -0.0, -1.0, 1e-50, -1e-50, 1e-20, 1e6, -1e6, 1e9, 3.3e11, 1e12, -1e12)
BEYOND = (5e-324, 1e-51, -1e-300, 1.1e12, -1e15, 1e300, 1.7e308, -1.7e308)
COUNTS, TOO_MANY = (0, -1, 10**9, -(10**9), 10**12), (10**12 + 1, 2**63, -(10**30), 10**400)
MOMENTS = ("1970-01-02T00:00:00+00:00", "1999-12-31T23:59:59.999999+14:00", "2100-05-05T00:00:00+00:00", "2199-12-31T23:59:59+00:00")
NO_MOMENTS = ("0001-01-01T00:00:00+14:00", "1969-12-31T23:59:59+00:00", "2200-01-01T00:00:00+00:00", "9999-12-31T23:59:59-12:00")
FAR = 700


def far_outside(base: dict[str, Any], dice: Random) -> dict[str, Any]:
    """The document with up to twelve numbers or moments taken far outside their field; in one of eight, outside what a document holds."""
    plain = copy.deepcopy(base)
    beyond = dice.random() < 0.125
    spots = [(parent, key, _kind(parent[key])) for parent, key in places(plain)]
    for kind, within, out in ((float, WITHIN, BEYOND), (int, COUNTS, TOO_MANY), ("moment", MOMENTS, NO_MOMENTS)):
        there = [(parent, key) for parent, key, found in spots if found == kind]
        for parent, key in dice.sample(there, min(len(there), dice.choice((0, 1, 1, 2, 4)))):
            parent[key] = dice.choice(out if beyond else within)
    return plain


def _kind(value: Any) -> Any:
    """`float`, `int`, or "moment"."""
    is_moment = isinstance(value, str) and value[:2] == "20" and "T" in value
    return "moment" if is_moment else type(value)


def tried(seeds: range) -> Iterator[tuple[int, str]]:
    """Each seed with what became of its document: judged, refused as it was read, or raised, with the error."""
    bases = list(whole())
    for seed in seeds:
        try:
            job = documents.load_job(far_outside(bases[seed % len(bases)], Random(seed)))
        except CoreError:
            yield seed, "refused"
            continue
        try:
            json.dumps(schema.dump_full(evaluate(job, Profile(), NOW)), allow_nan=False)
            yield seed, "judged"
        except Exception as error:  # noqa: BLE001 - it is what is looked for
            yield seed, f"raised {type(error).__name__}: {error}"


def test_a_document_far_outside_is_judged_or_refused() -> None:
    found = Counter(what for _, what in tried(range(FAR)))
    assert set(found) == {"judged", "refused"}
    assert found["judged"] > 0.75 * FAR
    assert found["refused"] > 0.05 * FAR


@pytest.mark.parametrize("value", [*BEYOND, *TOO_MANY, float("nan"), float("inf")])
def test_a_number_no_document_holds_is_refused_by_its_field(value: float) -> None:
    with pytest.raises(DocumentError, match=r"^/here: expected a finite number no larger than 1e12, found") as told:
        schema.load(float, value, "/here")
    assert told.value.path == "/here"


@pytest.mark.parametrize("value", NO_MOMENTS)
def test_a_moment_without_a_clock_is_refused_by_its_field(value: str) -> None:
    with pytest.raises(DocumentError, match=r"^/now: expected a time from 1970 to 2199"):
        documents.load_plain({"format": "yoshi-job", "version": 5, "job": {"id": "x", "kind": "service"}, "now": value})


def test_a_wait_past_every_clock_is_none() -> None:
    left = (bounds.LATEST - NOW).total_seconds()
    assert bounds.later(NOW, left) is None
    assert bounds.later(NOW, 1e300) is None
    assert bounds.later(NOW, 90.0) == NOW + timedelta(seconds=90)
