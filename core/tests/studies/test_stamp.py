"""A study's stamp holds all the code its results can depend on."""

import subprocess
import sys
from pathlib import Path

from tests.studies import load as studies

ROOT = Path(__file__).resolve().parents[3]
JUDGED = """
import sys
from datetime import UTC, datetime
from yoshi_core.job import documents
from yoshi_core.job.evaluate import evaluate
from yoshi_core.profile.profile import Profile
evaluate(documents.load(open(sys.argv[1]).read()), Profile(), datetime(2026, 6, 18, 15, 11, tzinfo=UTC))
print(*(one.__file__ for name, one in sys.modules.items() if name.startswith("yoshi_core")), sep="\\n")
"""


def test_whatever_judging_a_whole_job_and_a_change_loads_is_stamped() -> None:
    """Also what no import in the text names: steps are loaded when they are asked for."""
    stamped = studies.load("stamp").closure(ROOT / "bench" / "rounds_study.py")
    for example in ("04-whole-job.json", "05-change-of-refrigerant.json"):
        command = [sys.executable, "-c", JUDGED, str(ROOT / "examples" / example)]
        loaded = {Path(line) for line in subprocess.check_output(command, text=True, cwd=ROOT / "core").splitlines()}
        assert len(loaded) > 150
        assert not loaded - stamped, sorted(str(path) for path in loaded - stamped)
