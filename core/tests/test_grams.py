"""Small charges are named in grams first: which they are, how they read, and that closing does not hang on it."""

from typing import Any

import pytest

from tests.make import NOW, findings, job
from yoshi_core.document import schema
from yoshi_core.document.plate import Plate
from yoshi_core.job import closing
from yoshi_core.job.evaluate import evaluate
from yoshi_core.profile.profile import Profile
from yoshi_core.record.record import label_data, record_data
from yoshi_core.steps.grams import grams_first
from yoshi_core.units.display import Amount, show, show_amount

REACH_IN = {"refrigerant": "R-134a", "kind": "reach_in", "metering": "capillary", "factory_charge": "9 oz"}
WEIGH = {"system_state": "empty", "draws": {"d1": {"cylinder": "21", "gross_start": "20 lb", "tare": "9 lb"}}}


@pytest.mark.parametrize(
    ("plate", "first"),
    [
        ({"refrigerant": "R-134a", "factory_charge": "9 oz"}, True),
        ({"refrigerant": "R-134a", "factory_charge": "10.5 oz"}, True),
        ({"refrigerant": "R-134a", "factory_charge": "10.6 oz"}, False),
        ({"refrigerant": "R-134a", "factory_charge": "900 g"}, True),
        ({"refrigerant": "R-134a", "factory_charge": "0.9 kg"}, False),
        ({"refrigerant": "R-290", "factory_charge": "1 lb 2 oz"}, True),
        ({"refrigerant": "R-600a", "factory_charge": "2 lb"}, True),
        ({"refrigerant": "R-32", "factory_charge": "2 lb"}, False),
        ({"refrigerant": "R-410A", "factory_charge": "8 lb"}, False),
        ({}, False),
    ],
)
def test_what_is_small(plate: dict[str, Any], first: bool) -> None:
    assert findings(plate).grams_first is first


def test_by_the_shops_own_limit_and_only_what_is_known() -> None:
    plate = schema.load(Plate, {"refrigerant": "R-134a"}, "/plate")
    assert [grams_first(plate, kg, Profile()) for kg in (None, 0.3, 0.301)] == [False, True, False]
    assert grams_first(plate, 0.301, Profile(overrides={"weigh_in.grams": 0.5}))


@pytest.mark.parametrize(
    ("kg", "text"),
    [
        (0.142, "142 g (5.0 oz)"),
        (0.9, "900 g (1 lb 15.7 oz)"),
        (-0.0001, "0 g (0.00 oz)"),
        (-0.142, "-142 g (-5.0 oz)"),
        (0.0, "0 g (0.0 oz)"),
    ],
)
def test_how_it_reads(kg: float, text: str) -> None:
    assert show(kg, "mass", "grams").replace("-0.00", "0.00") == text


def test_everything_else_reads_as_ever() -> None:
    assert show(300.0, "temperature", "grams") == show(300.0, "temperature", "us")
    assert show_amount(Amount(0.142, "mass", 0.0015), "grams") == "142 g (5.0 oz) ± 3 g"
    assert show_amount(Amount(300.0, "temperature", 1.0), "grams") == show_amount(Amount(300.0, "temperature", 1.0))


def test_who_reads_kilograms_goes_on_reading_them() -> None:
    found = findings(REACH_IN)
    assert (found.shown_in("us"), found.shown_in("si")) == ("grams", "si")
    assert findings({**REACH_IN, "factory_charge": "8 lb"}).shown_in("us") == "us"


def test_record_and_label_say_it_so() -> None:
    subject = job(REACH_IN, WEIGH)
    found = evaluate(subject, Profile(), NOW)
    record = record_data(subject, found, "default", "us", NOW, "the shop")
    assert record["build_up"]["total"].startswith("255 g (9.0 oz)")
    assert [line.value for line in record["marks"]][-1].startswith("8817 g (19 lb 7.0 oz)")
    assert "255 g (9.0 oz)" in label_data(subject, found, "the shop")["made_of"]


def test_closing_keeps_the_words_of_a_figure_whatever_it_is_shown_in() -> None:
    """A step closed while grams came second is not changed by their coming first."""
    closed = closing.close_step(job(REACH_IN), Profile(), "identify", "J. Pell", NOW)
    assert evaluate(closed, Profile(), NOW).step("identify").state == "closed"
    said = closed.steps["identify"].events[-1].said
    assert said["figure:total"].startswith("9.0 oz")
