"""What a run of mutants says and when it fails; the mutants themselves are mutmut's."""

from pathlib import Path

import pytest

from ops import mutants


def some(room: str, noticed: int, survived: int) -> dict[str, int]:
    codes = [1] * noticed + [0] * survived
    return {f"yoshi_core.{room}.module.x_f__mutmut_{n}": code for n, code in enumerate(codes)}


@pytest.mark.parametrize(
    ("results", "whole", "sample"),
    [
        (some("steps", 85, 15), True, True),
        (some("steps", 84, 16), False, False),
        (some("charge", 95, 5), True, True),
        (some("charge", 94, 6), False, False),
        ({**some("steps", 10, 10), **some("charge", 100, 0)}, False, True),
        ({}, True, True),
    ],
)
def test_goals_over_all_and_by_room(results: dict[str, int], whole: bool, sample: bool) -> None:
    assert mutants.report(results, by_room=True) is whole
    assert mutants.report(results, by_room=False) is sample


def test_what_is_listed_as_changing_nothing_does_not_count_and_is_told_when_it_does(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    listed = tmp_path / "equivalent.txt"
    listed.write_text("# why\nyoshi_core.books.module.x_f__mutmut_1  no number lands on it\n\n")
    monkeypatch.setattr(mutants, "EQUIVALENT", listed)
    assert mutants.report(some("books", 1, 1), by_room=True)
    said = capsys.readouterr().out
    assert "survived" not in said
    assert "books              1 of     1 noticed" in said
    mutants.report(some("books", 2, 0), by_room=True)
    assert "names one that a test noticed: yoshi_core.books.module.x_f__mutmut_1" in capsys.readouterr().out
    listed.unlink()
    assert not mutants.report(some("books", 1, 1), by_room=True)
    assert "survived: yoshi_core.books.module.x_f__mutmut_1" in capsys.readouterr().out


def test_every_way_a_test_notices_counts() -> None:
    results = {f"yoshi_core.job.m.x_f__mutmut_{code}": code for code in (1, 3, 24, 36, 152, 255, -24)}
    assert mutants.report(results, by_room=True)
    assert not mutants.report({"yoshi_core.job.m.x_f__mutmut_1": 33}, by_room=True)
