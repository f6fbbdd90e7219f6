"""The study of holds and decays: its results are of this code, and a fiftieth of it, run anew, keeps the goals."""

import json
from typing import Any

import pytest

from tests.studies import load as studies


@pytest.fixture(scope="module")
def study() -> Any:
    return studies.load("tight_dry_study")


def share(rows: dict[str, dict[str, float]], kind: str, name: str) -> float:
    """Over both generators and all schools."""
    some = [rows[f"{generator} | {kind} | all"] for generator in ("curves", "rig")]
    return sum(row[name] * row["n"] for row in some) / sum(row["n"] for row in some)


def test_the_published_results_are_of_this_code_and_keep_the_goals(study: Any) -> None:
    found = json.loads(study.RESULTS.read_text())
    assert found["code"] == study.code_stamp(study.__file__), "run bench/tight_dry_study.py: the code it measures has changed"
    assert (found["seed"], found["cases"]) == (study.SEED, study.CASES)
    goals(found)


def test_a_fiftieth_of_the_study_run_anew(study: Any) -> None:
    goals(study.study(study.CASES // 50, study.SEED + 100), few=True)


def goals(found: dict[str, Any], *, few: bool = False) -> None:
    """Twice the limit passes in under 0.5 %, so does what hides behind a peak, 2.5 times the smallest seen in under 1 %, tight and dry is called leaking in under 1 %."""
    decays, holds = found["decays"], found["holds"]
    slack = 1.5 / 26 if few else 0.0
    assert share(decays, "twice the limit", "pass") <= 0.005 + slack
    assert share(decays, "twice, and moist", "pass") <= 0.005 + slack
    assert share(decays, "tight, dry", "leaking") <= 0.01 + slack
    assert share(decays, "tight, dry", "pass") >= 0.9
    rooms = [row for key, row in found["two_rooms"].items() if "| 0 ×" not in key]
    assert sum(row["pass"] for row in rooms) / len(rooms) <= 0.005 + slack  # a leak behind an early peak that comes down
    assert sum(row["moist"] for row in rooms) / len(rooms) <= 0.03 + slack
    tight_rooms = [row for key, row in found["two_rooms"].items() if "| 0 ×" in key]
    assert sum(row["pass"] for row in tight_rooms) / len(tight_rooms) >= 0.9 - slack
    typed, by_hand = found["typed_decays"], found["typed_holds"]
    for kind in ("twice the limit", "five times", "twice, and moist", "moist"):
        assert share(typed, kind, "pass") <= 0.005 + slack
    assert share(typed, "tight, dry", "leaking") <= 0.01 + slack
    assert share(typed, "tight, dry", "pass") >= 0.9 - slack
    for key, row in by_hand.items():
        assert row["pass" if "| 2.5 ×" in key or "| 5 ×" in key else "leaking"] <= (0.01 if "| 1 ×" not in key else 0.2) + (
            0.11 if few else 0.0
        )
    some = [row for key, row in holds.items() if "| 2.5 ×" in key]
    assert sum(row["pass"] for row in some) / len(some) <= 0.01 + (0.11 if few else 0.0)
    tight = [row for key, row in holds.items() if "| 0 ×" in key]
    assert sum(row["leaking"] for row in tight) / len(tight) <= 0.01 + (0.11 if few else 0.0)
