"""Oils by their names: kind and grade as people write them, and what may be said of two (kinds and grades: common practice; ISO 3448, from memory)."""

import pytest

from yoshi_core.charge.oils import DRAWS_WATER, GRADES, KIND_WORDS, Oil, differs, read_oil


@pytest.mark.parametrize(
    ("text", "oil"),
    [
        ("POE 32", Oil("POE", 32)),
        ("polyolester VG68", Oil("POE", 68)),
        ("PAG46", Oil("PAG", 46)),
        ("Mineral", Oil("MO", None)),
        ("alkylbenzene 150", Oil("AB", 150)),
        ("ISO 320 PAO", Oil("PAO", 320)),
        ("POE 7", Oil("POE", 7)),
        ("POE 170 SL, 32", Oil("POE", 32)),
        ("POE 68/32", Oil("POE", 68)),
        ("POE 32.5", Oil("POE", None)),
        ("POE 0.32", Oil("POE", None)),
        ("POE 3200", Oil("POE", None)),
        ("POE 32.", Oil("POE", 32)),
        ("32", Oil(None, 32)),
        ("poem", Oil(None, None)),
        ("", Oil(None, None)),
        (None, Oil(None, None)),
    ],
)
def test_a_name_says_kind_and_grade(text: str | None, oil: Oil) -> None:
    assert read_oil(text) == oil


def test_every_kind_is_known_by_each_of_its_words_and_every_grade_by_its_number() -> None:
    for kind, names in KIND_WORDS.items():
        for name in names:
            assert read_oil(name.upper()).kind == kind
    for grade in GRADES:
        assert read_oil(f"POE {grade}").grade == grade
    assert {"POE", "PVE", "PAG"} == DRAWS_WATER


@pytest.mark.parametrize(
    ("one", "other", "said"),
    [
        (" POE 32 ", "poe 32", None),
        ("POE 32", "polyolester VG32", None),
        ("Brand X", "brand x ", None),
        ("Brand X", "Brand Y", "not_known"),
        ("", "", "not_known"),
        ("  ", " ", "not_known"),
        (None, None, "not_known"),
        (None, "", "not_known"),
        ("", "POE 32", "not_known"),
        ("POE 32", None, "not_known"),
        ("POE", "POE 32", "not_known"),
        ("POE 32", "POE", "not_known"),
        ("POE", "polyolester", "not_known"),
        ("POE 32", "MO 32", "kind"),
        ("POE", "mineral", "kind"),
        ("POE 32", "POE 68", "grade"),
    ],
)
def test_two_names_are_the_same_oil_another_or_not_known(one: str | None, other: str | None, said: str | None) -> None:
    assert differs(one, other) == said
    assert differs(other, one) == said
