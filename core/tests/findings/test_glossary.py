"""The trade's words: each once, in plain words, and those of the screens are among them."""

import argparse
import re
from typing import Any

import pytest

from yoshi_core.cli import words
from yoshi_core.findings.glossary import GLOSSARY, Term
from yoshi_core.job.forms import forms

NAMES = [name for term in GLOSSARY for name in (term.word, *term.also)]
LOOKED_UP = (  # what the design calls the words of the trade
    "line-set allowance", "included length", "total charge", "weigh-in", "scale mark", "heel", "dew", "bubble", "glide", "superheat",
    "subcooling", "target", "metering device", "fixed orifice", "TXV", "EEV", "capillary", "pressure hold", "evacuation", "decay test",
    "micron", "trim", "recovered", "tare", "water capacity", "gross", "net", "circuit", "practice profile", "critically charged",
)  # fmt: skip
OF_THE_TRADE = re.compile(
    r"\b(superheat|subcooling|dew|bubble|glide|micron|TXV|EEV|orifice|capillary|tare|heel|drier|receiver|regulator|retest|saturation"
    r"|suction|liquid line|design|nitrogen|wet bulb|sight glass|overcharge|undercharge)\b"
)


def test_every_word_stands_once_and_in_order() -> None:
    lowered = [name.lower() for name in NAMES]
    assert len(set(lowered)) == len(lowered)
    order = [term.word.lower() for term in GLOSSARY]
    assert order == sorted(order)
    assert set(LOOKED_UP) <= {term.word for term in GLOSSARY}


@pytest.mark.parametrize("term", GLOSSARY, ids=lambda term: term.word)
def test_a_meaning_is_one_or_two_short_sentences(term: Term) -> None:
    assert term.meaning.endswith(".")
    sentences = re.split(r"(?<=[.:]) ", term.meaning)
    assert len(sentences) <= 3
    assert max(len(sentence.split()) for sentence in sentences) <= 18


def test_the_labels_of_the_fields_use_words_that_can_be_looked_up() -> None:
    labels = {label for sheet in forms()["sheets"].values() for label in _labels(sheet)}
    assert len(labels) > 100
    used = {word for label in labels for word in OF_THE_TRADE.findall(label)}
    assert len(used) > 8
    assert {word for word in used if not any(word.lower() in name.lower() for name in NAMES)} == set()


def _labels(fields: dict[str, Any]) -> list[str]:
    found = []
    for facts in fields.values():
        found.append(str(facts["label"]))
        if isinstance(facts.get("row"), dict):
            found += _labels(facts["row"])
    return found


def test_the_terminal_says_them_by_a_part_of_the_word(capsys: pytest.CaptureFixture[str]) -> None:
    assert words.run(argparse.Namespace(word="expansion")) == 0
    assert capsys.readouterr().out.splitlines()[0].startswith("TXV: ")
    assert words.run(argparse.Namespace(word="")) == 0
    assert len(capsys.readouterr().out.splitlines()) == len(GLOSSARY)
    assert words.run(argparse.Namespace(word="sofa")) == words.NOT_FOUND
    assert "sofa" in capsys.readouterr().err
