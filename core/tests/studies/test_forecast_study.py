"""The study of pull-down forecasts: its results are of this code, and a part of it, run anew, keeps the goal."""

import json
from typing import Any

import pytest

from tests.studies import load as studies

LOGS = ("from atmosphere", "from 25,000 micron")


@pytest.fixture(scope="module")
def study() -> Any:
    return studies.load("forecast_study")


def test_the_published_results_are_of_this_code_and_keep_the_goal(study: Any) -> None:
    """Nine in ten dry pulls on the rig within a fifth of the time left; the band holds the truth for both generators."""
    found = json.loads(study.RESULTS.read_text())
    assert found["code"] == study.code_stamp(study.__file__), "run bench/forecast_study.py: the code it measures has changed"
    rows = found["rows"]
    for log in LOGS:
        assert rows[f"rig | dry | {log} | all"]["left_within"] >= 0.9
        assert rows[f"curves | dry | {log} | to 40 L"]["left_within"] >= 0.9
        for generator in ("rig", "curves"):
            assert rows[f"{generator} | dry | {log} | all"]["in_band"] >= 0.97


def test_a_part_of_the_study_run_anew(study: Any) -> None:
    rows = study.study(16, study.SEED + 100)
    assert rows["rig | dry | from atmosphere | all"]["left_within"] >= 0.8
    assert rows["curves | dry | from atmosphere | to 40 L"]["left_within"] >= 0.7
    wet = rows["rig | damp surfaces | from atmosphere | all"]
    assert wet["left_within"] < 0.6, "half way down nothing tells a damp system from a dry one; if something does, say so on the screen"


def test_the_page_of_tables_is_of_these_results() -> None:
    module = studies.load("tables")
    assert module.PAGE.read_text() == module.page(), "run bench/tables.py: the results it shows have changed"
