"""Nothing the core says changes unseen. After an intended change: `python -m tests.golden.make` in core/, and read the difference."""

import json

import pytest

from tests.golden.make import HERE, fingerprints, pages

AGAIN = "The core says something else. If it is meant: cd core && python -m tests.golden.make, and read the difference."


@pytest.mark.parametrize("name", sorted(path.stem for path in HERE.glob("*.txt")))
def test_the_examples_print_the_same_page(name: str) -> None:
    assert pages()[name] == (HERE / f"{name}.txt").read_text(encoding="utf-8"), AGAIN


def test_documents_and_findings_are_the_same_to_the_digit() -> None:
    kept = json.loads((HERE / "fingerprints.json").read_text(encoding="utf-8"))
    assert [name for name, print_ in fingerprints().items() if kept.get(name) != print_] == [], AGAIN
