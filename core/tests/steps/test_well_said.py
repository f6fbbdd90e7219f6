"""Whatever a job says is fit to be shown: sentences whole, amounts of known quantities, paths to fields that are there."""

import dataclasses
from collections.abc import Iterator

import pytest

from tests import generate
from tests.make import NOW
from tests.steps.test_stops import CASES
from tests.well_said import carried, faults
from yoshi_core.findings.result import StepResult
from yoshi_core.job import documents
from yoshi_core.job.evaluate import Findings, evaluate
from yoshi_core.profile.profile import Profile


def told(result: StepResult) -> list[str]:
    return list(faults(result, StepResult))


@pytest.mark.parametrize("rule", sorted(CASES))
def test_stops_and_near_misses(rule: str) -> None:
    assert [told(says()) for says in CASES[rule]] == [[], []]


@pytest.mark.parametrize("seed", range(40))
def test_documents_nobody_typed(seed: int) -> None:
    found = evaluate(documents.load_job(generate.document(seed, 0.3 + seed % 3 * 0.3)), Profile(), NOW)
    assert list(faults(found, Findings)) == []


def test_what_is_not_fit_is_found() -> None:
    result = next(iter(CASES.values()))[0]()
    assert told(result) == []
    wrong: Iterator[str] = faults({"a": 1}, dict[str, str])
    assert list(wrong) == ["[a]: 1 is no str"]


def test_every_rule_that_stops_has_its_line_and_the_lines_are_in_order() -> None:
    assert list(carried()) == sorted(carried())
    assert set(CASES) <= set(carried())


def test_a_reason_that_carries_something_else_than_its_line_is_found() -> None:
    result = CASES["hold.drop"][0]() if "hold.drop" in CASES else next(iter(CASES.values()))[0]()
    reason = result.verdict.reasons[0]
    for wrong in ({"source": "hearsay"}, {"value": None, "limit": None, "role": "glass"}, {"rule_id": "hold.unheard_of"}):
        assert list(faults(dataclasses.replace(reason, **wrong), type(reason)))
