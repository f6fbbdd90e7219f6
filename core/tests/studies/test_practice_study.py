"""The studies of practice: what is published is of this code and held its goals, and a small share comes out the same here."""

import json
from typing import Any

import pytest

from tests.studies import load as studies


@pytest.fixture(scope="module")
def careful() -> Any:
    return studies.load("practice_study")


@pytest.fixture(scope="module")
def what_fits() -> Any:
    return studies.load("what_fits_study")


def test_published_runs_are_of_this_code_and_end_right(careful: Any) -> None:
    found = json.loads(careful.RESULTS.read_text())
    assert found["code"] == careful.code_stamp(careful.__file__), "run bench/practice_study.py: the code it measures has changed"
    assert found["seed"] == careful.SEED
    rows = found["exercises"]
    assert sum(row["runs"] for row in rows.values()) == careful.RUNS
    shares = careful.shares(rows)
    assert shares["weight"] >= careful.BY_WEIGHT_GOAL
    assert shares["reading"] >= careful.BY_READING_GOAL
    assert min(shares[way] for way in ("named", "answered", "emptied")) >= careful.BY_READING_GOAL


def test_a_few_runs_end_right(careful: Any) -> None:
    runs = [careful.one(task) for task in careful.tasks(25, seed=500)]
    assert {run["name"] for run in runs} == set(careful.exercises.SHIPPED)
    assert sum(run["right"] for run in runs) >= 24, [run for run in runs if not run["right"]]


def test_published_fits_are_of_this_code_and_name_the_fault(what_fits: Any) -> None:
    found = json.loads(what_fits.RESULTS.read_text())
    assert found["code"] == what_fits.code_stamp(what_fits.__file__), "run bench/what_fits_study.py: the code it measures has changed"
    assert found["found"]["all"]["among_three"] >= what_fits.GOAL
    assert found["found"]["all"]["superheat_near"] >= what_fits.GOAL


def test_a_few_fits_name_the_fault(what_fits: Any) -> None:
    rows = [row for task in what_fits.causes() for row in what_fits.of_a_cause((*task, 2, 7)) if row["readings"] == "all"]
    assert len(rows) == 2 * len(what_fits.causes())
    assert what_fits.summed(rows)["all"]["among_three"] >= 0.85
