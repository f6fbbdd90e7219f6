"""The names the core promises, the page that describes them, and that importing them costs nothing until they are used."""

import doctest
import json
import re
import subprocess
import sys
import tomllib
from pathlib import Path

import pytest

import yoshi_core

ROOT = Path(__file__).resolve().parents[2]
PAGE = ROOT / "docs" / "core.md"


def test_every_example_of_the_page_runs(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.chdir(ROOT)
    flags = doctest.ELLIPSIS | doctest.NORMALIZE_WHITESPACE | doctest.IGNORE_EXCEPTION_DETAIL
    result = doctest.testfile(str(PAGE), module_relative=False, optionflags=flags)
    assert result.attempted > 25
    assert result.failed == 0


def test_the_page_uses_every_public_name() -> None:
    text = PAGE.read_text(encoding="utf-8")
    named = {name for name in yoshi_core.__all__ if re.search(rf"\b{name}\b", text)}
    assert named == set(yoshi_core.__all__)


def test_every_public_name_is_there_and_no_other() -> None:
    for name in yoshi_core.__all__:
        assert getattr(yoshi_core, name) is not None
        assert name in dir(yoshi_core)
    with pytest.raises(AttributeError, match="no public 'nonsense'"):
        _ = yoshi_core.nonsense


def test_importing_the_core_loads_nothing_of_it() -> None:
    code = "import sys, yoshi_core; print([m for m in sys.modules if m.startswith('yoshi_core.')])"
    done = subprocess.run([sys.executable, "-c", code], cwd=ROOT / "core", capture_output=True, text=True, check=True)
    assert done.stdout.strip() == "[]"


def test_one_version_number_for_all() -> None:
    project = tomllib.loads((ROOT / "pyproject.toml").read_text(encoding="utf-8"))["project"]["version"]
    web = json.loads((ROOT / "web" / "package.json").read_text(encoding="utf-8"))["version"]
    lock = json.loads((ROOT / "web" / "package-lock.json").read_text(encoding="utf-8"))
    assert {project, web, lock["version"], lock["packages"][""]["version"]} == {yoshi_core.__version__}
