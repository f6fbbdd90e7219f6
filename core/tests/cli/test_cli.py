"""The command line, as a process."""

import json
import subprocess
import sys
from pathlib import Path

import pytest

from tests.make import NOW, PLATE, RUNNING, WEIGHED, job
from yoshi_core.cli.main import main
from yoshi_core.job import documents
from yoshi_core.profile.profile import Profile

ROOT = Path(__file__).resolve().parents[3]


def write(tmp_path: Path, text: str) -> str:
    path = tmp_path / "job.json"
    path.write_text(text, encoding="utf-8")
    return str(path)


def test_judge_gives_the_findings_of_the_export_again(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    text = documents.export(job(PLATE, WEIGHED, RUNNING), Profile(), NOW)
    assert main(["judge", write(tmp_path, text), "--json"]) == 0
    assert json.loads(capsys.readouterr().out) == json.loads(text)["findings"]


def test_plan_prints_total_and_marks(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["plan", write(tmp_path, documents.dump(job(PLATE, WEIGHED)))]) == 0
    out = capsys.readouterr().out
    assert "10 lb 7.5 oz ± 2.4 oz" in out
    assert "20 lb 14.4 oz" in out
    assert "Verify" not in out


def test_units_can_be_si(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    main(["plan", write(tmp_path, documents.dump(job(PLATE, WEIGHED))), "--units", "si"])
    assert "4.749 kg" in capsys.readouterr().out


def test_exit_code_1_when_something_says_stop(tmp_path: Path) -> None:
    over = {**WEIGHED, "draws": {"d1": {**WEIGHED["draws"]["d1"], "gross_end": "20 lb"}}}  # type: ignore[index]
    assert main(["judge", write(tmp_path, documents.dump(job(PLATE, over)))]) == 1


@pytest.mark.parametrize("text", ["", "{", "[]", "\x00", '{"format":"yoshi-job","version":2,"job":{"id":"x","oil":1}}'])
def test_exit_code_2_for_what_is_no_document(tmp_path: Path, text: str, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["judge", write(tmp_path, text)]) == 2
    assert capsys.readouterr().err.strip()


def test_exit_code_2_names_the_path(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    plain = {"format": "yoshi-job", "version": 2, "job": {"id": "x", "steps": {"identify": {"runs": [{"sheet": {"oil": 3}}]}}}}
    assert main(["judge", write(tmp_path, json.dumps(plain))]) == 2
    assert "/job/steps/identify/runs/0/sheet/oil" in capsys.readouterr().err


def test_a_file_that_is_not_there_is_said(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["judge", "/nowhere/job.json"]) == 2
    assert "No such file" in capsys.readouterr().err


def test_pressure_to_temperature_at_altitude(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["pt", "R-410A", "--psig", "128", "--altitude", "2100m"]) == 0
    assert "42.7 °F" in capsys.readouterr().out
    assert main(["pt", "r410a", "--psig", "128", "--sealed", "--altitude", "2100m"]) == 0
    assert "44.1 °F" in capsys.readouterr().out
    assert main(["pt", "R-410A", "--temperature", "40F"]) == 0
    assert "psig" in capsys.readouterr().out
    assert main(["pt", "R-999", "--psig", "128"]) == 2
    assert "not in the catalogue" in capsys.readouterr().err
    assert main(["pt", "R-410A", "--psig", "9000"]) == 2


def test_schema_is_printed(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["schema"]) == 0
    assert json.loads(capsys.readouterr().out)["title"] == "Yoshi job document"


@pytest.mark.parametrize(
    "example",
    ["01-control-room.json", "02-staff-quarters-trim.json", "03-reach-in-scale.json", "04-whole-job.json", "05-change-of-refrigerant.json"],
)
def test_examples_run_as_the_readme_shows(example: str) -> None:
    done = subprocess.run(
        [sys.executable, "-m", "yoshi_core.cli", "judge", str(ROOT / "examples" / example)],
        capture_output=True, text=True, check=False, cwd=ROOT / "core",
    )  # fmt: skip
    assert done.returncode == (1 if "03" in example else 0), done.stderr
    assert "Weigh in" in done.stdout


def test_the_core_imports_nothing_heavy() -> None:
    code = "import sys, yoshi_core.cli; print([m for m in ('numpy', 'scipy', 'pydantic', 'django', 'CoolProp') if m in sys.modules])"
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True, cwd=ROOT / "core")
    assert done.stdout.strip() == "[]"
