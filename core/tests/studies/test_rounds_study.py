"""The study of rounds: what is known by weight comes out right, and what nobody can know is said to be so."""

import json
from typing import Any

import pytest

from tests.studies import load as studies


@pytest.fixture(scope="module")
def study() -> Any:
    return studies.load("rounds_study")


def goals(rows: dict[str, Any], study: Any, least: float) -> None:
    for kind in study.KNOWN:
        row = rows[kind.__name__]
        assert row["mass"] == row["n"] > 0
        assert row["within"] >= least * row["n"], (kind.__name__, row)
    for kind in study.UNKNOWN:
        row = rows[kind.__name__]
        assert row["mass"] == 0, (kind.__name__, row)
        assert row["bounds hold"] == row["n"] > 0


def test_the_published_results_are_of_this_code_and_keep_the_goals(study: Any) -> None:
    found = json.loads(study.RESULTS.read_text())
    assert found["code"] == study.code_stamp(study.__file__), "run bench/rounds_study.py: the code it measures has changed"
    goals(found["rows"], study, 0.99)


def test_a_part_of_the_study_run_anew(study: Any) -> None:
    goals(study.play(150, study.SEED + 100), study, 0.95)
