"""Exercises as files: read whole or refused by their place, drawn by a seed, and all of them within reach of a careful technician."""

import json
from typing import Any

import pytest

from yoshi_core.errors import CoreError, InvalidInput
from yoshi_core.practice import exercise as exercises
from yoshi_core.practice.careful import play
from yoshi_core.practice.exercise import hidden
from yoshi_core.practice.marking import marked
from yoshi_core.rig.unit import Faults
from yoshi_core.units.quantities import LB_KG


def plain(name: str = "orifice-by-superheat") -> dict[str, Any]:
    found: dict[str, Any] = json.loads(exercises.shipped(name))
    return found


def with_part(name: str, **more: Any) -> str:
    found = plain()
    found[name] = {**found[name], **more}
    return json.dumps(found)


def test_it_is_read_as_it_is_written() -> None:
    found = exercises.loads(exercises.shipped("orifice-by-superheat"))
    assert (found.name, found.start, found.seed) == ("Fixed orifice, by superheat", "running", 8)
    assert found.unit.charge_kg == pytest.approx(6 * LB_KG)
    assert found.refrigerant_kg == pytest.approx(7 * LB_KG)
    assert found.marks.settle_s == 600.0
    assert set(found.cylinders()) == {"14", "R3"}


@pytest.mark.parametrize(
    ("text", "place"),
    [
        ("no json", ""),
        ("[]", ""),
        ('{"format": "other"}', "/format"),
        (json.dumps({**plain(), "version": 9}), "/version"),
        (json.dumps({**plain(), "surprise": 1}), "/surprise"),
        (json.dumps({**plain(), "start": "flying"}), "/start"),
        (json.dumps({**plain(), "name": "x" * 121}), "/name"),
        (json.dumps({**plain(), "level": 1}), "/hidden"),
        (with_part("limits", time="9 h"), "/limits/time"),
        (with_part("limits", refrigerant="much"), "/limits/refrigerant"),
        (with_part("unit", tons=900), "/unit/tons"),
        (with_part("hidden", charge_share=[1, 2, 3]), "/hidden/charge_share"),
        (with_part("hidden", charge_share=[0.9, "1"]), "/hidden/charge_share"),
        (with_part("hidden", gremlins=1.0), "/hidden/gremlins"),
        (with_part("marks", charge_within=2), "/marks/charge_within"),
        (with_part("van", cylinders={str(n): {} for n in range(13)}), "/van/cylinders"),
        (with_part("marks", cause="gremlins"), "/marks/cause"),
        (with_part("unit", refrigerant="R-9999"), ""),
        ("[" * 100_000, ""),
        (" " * 200_001, ""),
    ],
)
def test_what_is_none_is_refused_by_its_place(text: str, place: str) -> None:
    with pytest.raises(CoreError) as refused:
        exercises.loads(text)
    assert refused.value.path == place


def test_a_name_that_is_none_is_told_which_there_are() -> None:
    with pytest.raises(InvalidInput, match="low-air"):
        exercises.shipped("no-such")


def test_a_seed_draws_what_is_hidden_within_what_the_file_says() -> None:
    text = exercises.shipped("orifice-by-superheat")
    drawn = {exercises.loads(text, seed).faults.charge_share for seed in range(40)}
    assert len(drawn) == 40
    assert 0.82 <= min(drawn) < 0.83
    assert 0.92 < max(drawn) <= 0.93
    assert exercises.loads(text, 3) == exercises.loads(text, 3)


@pytest.mark.parametrize(("level", "least", "most"), [(1, 0.10, 0.25), (2, 0.05, 0.12), (3, 0.05, 0.15)])
def test_a_level_hides_what_it_says(level: int, least: float, most: float) -> None:
    found = [hidden(level, seed) for seed in range(60)]
    off = [abs(faults.charge_share - 1.0) for faults in found]
    assert least <= min(off) <= max(off) <= most
    assert any(faults.charge_share > 1.0 for faults in found)
    assert any(faults.charge_share < 1.0 for faults in found)
    beside = [faults for faults in found if Faults(charge_share=faults.charge_share) != faults]
    assert len(beside) == (60 if level == 3 else 0)


@pytest.mark.parametrize("name", exercises.SHIPPED)
def test_every_exercise_can_be_done_within_its_limits(name: str) -> None:
    found = exercises.loads(exercises.shipped(name))
    played = play(found)
    result = marked(found, played.bench, played.job)
    assert result.met, [mark.text.show() for mark in result.marks if not mark.met]
    by_the_job = found.marks.charge_counts and found.marks.leave == "full"
    assert played.ended == ("named" if found.marks.cause else "proven" if by_the_job else "answered")


def test_exercises_are_numbered_apart() -> None:
    numbers = [exercises.loads(exercises.shipped(name)).number for name in exercises.SHIPPED]
    assert len(set(numbers)) == len(numbers)
