"""The core in a browser says what the core on the server says: a share of what `bench/same_answer.py` asks whole."""

import json
import os
import subprocess
import sys
from pathlib import Path
from random import Random
from typing import Any

import pytest
from playwright.sync_api import Browser

from e2e.same_answer import differences, question, start, unlike
from yoshi_core.job import documents

ROOT = Path(__file__).resolve().parents[1]
NOW = "2026-06-18T15:11:00+00:00"
MADE, FROM_SEED = 40, 7_000
DAY = "tests/whole_jobs/test_claims_hold.py"  # whole days, judged again and again as they go on


def made(seed: int) -> dict[str, Any]:
    from tests import generate  # noqa: PLC0415 - the core's tests are on the path once this runs

    found: dict[str, Any] = generate.document(seed, 0.15 + seed % 8 * 0.12)
    return found


def questions(tmp_path: Path) -> list[str]:
    examples = [json.loads(path.read_text()) for path in sorted((ROOT / "examples").glob("*.json"))]
    found = [question(row["job"], row["version"], row.get("now", NOW)) for row in examples]
    found += [question(made(seed), documents.VERSION, NOW) for seed in range(FROM_SEED, FROM_SEED + MADE)]
    recorded = tmp_path / "days.jsonl"
    command = [sys.executable, "-m", "pytest", "-q", "-p", "no:playwright", "-p", "tests.recorded", DAY]
    subprocess.run(command, cwd=ROOT / "core", env={**os.environ, "YOSHI_RECORDED": str(recorded)}, check=True, capture_output=True)
    rows = [json.loads(line) for line in recorded.read_text().splitlines()]
    chosen = Random(FROM_SEED).sample(rows, min(40, len(rows)))
    found += [question(row["job"], documents.VERSION, row["now"], row["profile"]) for row in chosen]
    for typed in ("118", "-5", "no pressure"):
        ask = {
            "ask": "saturation",
            "name": "R-454B",
            "pressure": typed,
            "temperature": "40",
            "altitude": "2100 m",
            "gauge": "vented",
            "units": "si",
        }
        found.append(json.dumps(ask))
    found += [json.dumps({"ask": "chart", "name": "R-32", "units": "us"}), json.dumps({"ask": "refrigerants"})]
    return found


def test_the_browser_says_what_the_server_says(chromium: Browser, address: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.syspath_prepend(str(ROOT / "core"))
    page = chromium.new_page(base_url=address)
    page.goto("/")
    said = start(page)
    assert said["python"].startswith("3")
    asked = questions(tmp_path)
    assert len(asked) > 80
    assert list(differences(page, asked)) == []
    page.close()


def test_a_difference_is_seen() -> None:
    here = {"word": "Holds", "figures": [1.0, 2.0], "seen": True, "none": None}
    assert list(unlike(here, {**here, "figures": [1.0, 2.0 + 1e-12]})) == []
    assert [place for place, *_ in unlike(here, {**here, "figures": [1.0, 2.001]})] == ["/figures/1"]
    assert [place for place, *_ in unlike(here, {**here, "figures": [1.0]})] == ["/figures"]
    assert [place for place, *_ in unlike(here, {**here, "seen": 1.0, "word": "Stop"})] == ["/seen", "/word"]
    assert [place for place, *_ in unlike(here, {"word": "Holds", "figures": [1.0, 2.0], "seen": True, "more": 0})] == ["/more"]
