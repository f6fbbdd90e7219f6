"""Sentences are whole where they are written, so that they can be collected and translated; what a person is shown is held against it in `well_said`."""

from tests import sentences


def test_no_sentence_is_put_together_where_it_is_said() -> None:
    assert list(sentences.glued()) == []


def test_they_are_found() -> None:
    found = sentences.collected()
    assert "Still needed: {needed}." in found
    assert len(found) > 1000
