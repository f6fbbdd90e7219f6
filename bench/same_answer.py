"""The core in a browser beside the core on the server, whole: every document the core's tests judge, and two thousand made ones.

    python bench/same_answer.py [MADE] [FROM_SEED]      needs the built front end and the database with its environment

Prints how many documents were asked, every difference (words, rule ids, missing fields exactly; figures beyond a billionth), and
how long a judgement took there, beside the same here in the same run. The tests' documents are also judged here in the order they
were made, with what is kept of the time before, against judging all of each: prints how many differed. Exits with 1 where any did.
"""

import json
import os
import statistics
import subprocess
import sys
import tempfile
import time
from datetime import datetime
from pathlib import Path
from typing import Any

import django

django.setup()

from django.db import connection
from django.test.utils import setup_databases, teardown_databases
from playwright.sync_api import sync_playwright
from serving import serving

from e2e.same_answer import asked, question, start, unlike
from yoshi_core.device.door import answer
from yoshi_core.document import schema
from yoshi_core.job import documents
from yoshi_core.job.evaluate import Memo, evaluate
from yoshi_core.profile.profile import Profile

ROOT = Path(__file__).resolve().parents[1]
sys.path.append(str(ROOT / "core"))
from tests import generate

PORT = 8527
NOW = "2026-06-18T15:11:00+00:00"
MADE, FROM = 2_000, 500_000
LEFT_OUT = ("tests/studies", "tests/rig", "tests/refrigerants", "tests/job/test_never_raises.py", "tests/job/test_far_outside.py")


def of_the_tests() -> list[dict[str, Any]]:
    """Every document the core's tests judge, in their order."""
    with tempfile.TemporaryDirectory() as place:
        file = Path(place) / "recorded.jsonl"
        left = [f"--ignore={path}" for path in LEFT_OUT]
        command = [sys.executable, "-m", "pytest", "-q", "-p", "no:playwright", "-p", "tests.recorded", "tests", *left]
        subprocess.run(command, cwd=ROOT / "core", env={**os.environ, "YOSHI_RECORDED": str(file)}, check=True, capture_output=True)
        return [json.loads(line) for line in file.read_text().splitlines()]


def again(rows: list[dict[str, Any]]) -> int:
    """How many of the tests' documents say otherwise when only what changed since the one before is judged."""
    differ, test, memo = 0, "", Memo()
    for row in rows:
        if row["test"] != test:
            test, memo = row["test"], Memo()
        job, profile = documents.load_job(row["job"]), schema.load(Profile, row["profile"])
        now = datetime.fromisoformat(row["now"])
        differ += evaluate(job, profile, now, memo=memo) != evaluate(job, profile, now)
    return differ


def main() -> int:
    """Run it and say what came out."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else MADE
    first = int(sys.argv[2]) if len(sys.argv) > 2 else FROM
    rows = of_the_tests()
    kept = again(rows)
    print(f"{len(rows)} documents of the tests judged again on what was kept: {kept} differ", flush=True)
    questions = [question(row["job"], documents.VERSION, row["now"], row["profile"]) for row in rows]
    made = [generate.document(seed, 0.15 + seed % 8 * 0.12) for seed in range(first, first + count)]
    questions += [question(plain, documents.VERSION, NOW) for plain in made]
    old = setup_databases(verbosity=0, interactive=False)
    server = serving(PORT, connection.settings_dict["NAME"])
    differ, there_ms, here_ms = 0, [], []
    try:
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path="/usr/bin/chromium-headless-shell", args=["--no-sandbox"])
            page = browser.new_page(base_url=f"http://127.0.0.1:{PORT}")
            page.goto("/")
            print(f"Python {start(page)['python']} in the browser, {sys.version.split()[0]} here", flush=True)
            for number, (text, reply) in enumerate(zip(questions, asked(page, questions), strict=True)):
                began = time.perf_counter()
                here = answer(text)
                here_ms.append((time.perf_counter() - began) * 1e3)
                there_ms.append(reply.get("ms", 0.0))
                places = (
                    [("broke", "", reply["broke"])] if "broke" in reply else list(unlike(json.loads(here), json.loads(reply["answer"])))
                )
                differ += bool(places)
                for place, one, other in places[:3]:
                    print(f"document {number} {place}: {one!r} here, {other!r} there", flush=True)
    finally:
        server.kill()
        teardown_databases(old, verbosity=0)
    print(f"{len(questions)} documents: {differ} differ")
    ratio = statistics.median(there_ms) / statistics.median(here_ms)
    print(f"text to text, median: {statistics.median(there_ms):.1f} ms there, {statistics.median(here_ms):.1f} ms here, {ratio:.1f}×")
    return 1 if differ or kept else 0


if __name__ == "__main__":
    raise SystemExit(main())
