"""Whatever loads is judged: no document, whole or broken, made or mutilated, makes `evaluate` raise. A hundred thousand stand in `bench/`."""

import copy
import dataclasses
import json
import re
from collections.abc import Callable, Iterator
from datetime import datetime, timedelta
from random import Random
from typing import Any

import pytest

from tests import generate
from tests.golden.make import EXAMPLES
from tests.make import NOW, PLATE, RUNNING, WEIGHED, reading_with
from tests.make_changed import OLD, SHEETS
from tests.make_closed import HELD, RECOVERED, REPAIRED, UNIT, hold_sheet, isolated, vacuum_sheet
from yoshi_core.document.acts import ACTS, MEDIA
from yoshi_core.errors import CoreError, OutOfRange
from yoshi_core.findings.pictures import RecoverPicture
from yoshi_core.job import documents
from yoshi_core.job.evaluate import evaluate
from yoshi_core.profile.profile import Profile
from yoshi_core.steps.registry import STEPS

NUMBER = re.compile(r"\d+(?:\.\d+)?")
MADE, MUTILATED = 1000, 1400


def whole() -> Iterator[dict[str, Any]]:
    """Jobs as people do them: the examples, a service from recovery to trim, a change of refrigerant."""
    for path in sorted(EXAMPLES.glob("*.json")):
        yield json.loads(path.read_text(encoding="utf-8"))["job"]
    pulls = [(0, "pump"), (20, "nitrogen"), (25, "pump"), (60, "isolated")]
    vacuum = vacuum_sheet(pulls, [(10, 2000), (19, 1500), (40, 700), (59, 300), (60, 310), (64, 320), (70, 330)])
    trims = {**RUNNING, "readings": {"r1": reading_with(20.0, 4.0), "r2": {**reading_with(15.0, 7.0), "added": "4 oz"}}}
    service = {
        "identify": {**UNIT, **PLATE}, "recover": RECOVERED, "repair": REPAIRED, "evacuate": vacuum, "weigh_in": WEIGHED, "verify": trims,
    }  # fmt: skip
    for hold in (HELD, hold_sheet([(0, 150.0, None), (50, 149.0, None)])):
        yield _job("service", {**service, "pressure_hold": hold})
    yield _job("retrofit", {"identify": OLD, **SHEETS, "weigh_in": WEIGHED, "verify": trims})


def _job(kind: str, sheets: dict[str, Any]) -> dict[str, Any]:
    plain = {"id": "broken", "kind": kind, "steps": {step: {"runs": [{"sheet": sheet}]} for step, sheet in sheets.items()}}
    return documents.dump_job(documents.load_job(plain))


def places(plain: Any) -> Iterator[tuple[Any, Any]]:
    """Every place in a document below its steps: what it hangs on, and its key there."""
    for key, value in list(plain.items()) if isinstance(plain, dict) else list(enumerate(plain)) if isinstance(plain, list) else ():
        yield plain, key
        yield from places(value)


def _drop(parent: Any, key: Any, _: Random) -> None:
    del parent[key]


def _shift(parent: Any, key: Any, dice: Random) -> None:
    """A moment earlier or later by up to a day; a number a hundred times larger or smaller."""
    value = parent[key]
    if isinstance(value, str) and value[:2] == "20" and "T" in value:
        parent[key] = (datetime.fromisoformat(value) + timedelta(minutes=dice.choice((-1440, -30, -6, 6, 30, 1440)))).isoformat()
    elif isinstance(value, float):
        parent[key] = value * dice.choice((0.0, 0.01, 0.5, 1.0 + 1e-12, 2.0, 100.0))


def _twice(parent: Any, key: Any, _: Random) -> None:
    if isinstance(parent, list):
        parent.append(copy.deepcopy(parent[key]))
    elif isinstance(parent.get(key), dict):
        parent[f"{key}x"[:40]] = copy.deepcopy(parent[key])


WAYS: tuple[Callable[[Any, Any, Random], None], ...] = (_drop, _drop, _shift, _shift, _twice)


def _act(dice: Random) -> dict[str, Any]:
    """Any act, with any of its words, whether they go together or not."""
    grams = lambda most: {"value": dice.uniform(0.0, most), "source": dice.choice(("weighed", "told", "assumed", "makers"))}  # noqa: E731
    words = {
        "at": f"2026-06-1{dice.randint(7, 9)}T{dice.randint(0, 23):02}:00:00+00:00",
        "before": dice.choice(("a0", "a1", "/steps/recover/runs/0/sheet/finished", "nowhere")),
        "section": dice.choice(("s1", "s2", "s9")),
        "medium": dice.choice(list(MEDIA)),
        "cylinder": dice.choice(("14", "R-2", "")),
        "holds": dice.choice(("R-410A", "R-22", "no such")),
        "gross_before": grams(20.0),
        "gross_after": grams(20.0),
        "mass": grams(5.0),
        "at_most": grams(5.0),
        "empties": dice.random() < 0.5,
        "circuit": "CR-2",
        "planned_for": dice.choice(("2026-07-01", "some day")),
        "done": dice.random() < 0.7,
        "reason": "as it was",
    }
    return {"kind": dice.choice(list(ACTS)), **{key: value for key, value in words.items() if dice.random() < 0.5}}


def _beside(plain: dict[str, Any], dice: Random) -> None:
    """Acts, parts and second values beside the steps."""
    plain["acts"] = {**plain.get("acts", {}), **{f"a{n}": _act(dice) for n in range(dice.randint(0, 4))}}
    plain["sections"] = {"s1": {"label": "receiver", "volume": {"value": dice.uniform(0.0, 0.02)}}, "s2": {"stamp": {"value": 2e6}}}
    entries = [path for path, value in pointers(plain["steps"], "/steps") if isinstance(value, dict) and "value" in value]
    if entries and dice.random() < 0.5:
        second = {"path": dice.choice(entries), "value": {"value": dice.uniform(0.0, 1e6)}, "by": "T. Vesk", "at": NOW.isoformat()}
        plain["disputes"] = [*plain.get("disputes", []), second]


def pointers(plain: Any, path: str) -> Iterator[tuple[str, Any]]:
    """Every value below a place with its JSON pointer."""
    rows = plain.items() if isinstance(plain, dict) else enumerate(plain) if isinstance(plain, list) else ()
    for key, value in rows:
        yield f"{path}/{key}", value
        yield from pointers(value, f"{path}/{key}")


def mutilated(base: dict[str, Any], dice: Random) -> dict[str, Any]:
    """The document with up to eight of its places dropped, shifted or doubled, and in every second one acts beside its steps."""
    plain = copy.deepcopy(base)
    if dice.random() < 0.5:
        _beside(plain, dice)
    for _ in range(dice.randint(1, 8)):
        parent, key = dice.choice([*places(plain["steps"]), *places(plain.get("acts", {}))])
        dice.choice(WAYS)(parent, key, dice)
        if not plain["steps"]:
            break
    return plain


def test_made_documents() -> None:
    for seed in range(MADE):
        evaluate(documents.load_job(generate.document(5000 + seed, 0.15 + seed % 8 * 0.12)), Profile(), NOW)


def test_mutilated_documents() -> None:
    bases = list(whole())
    assert len(bases) == 8
    judged = 0
    for seed in range(MUTILATED):
        dice = Random(seed)
        try:
            job = documents.load_job(mutilated(bases[seed % len(bases)], dice))
        except CoreError:
            continue
        evaluate(job, Profile(), NOW)
        judged += 1
    assert judged >= MUTILATED * 0.7


@pytest.mark.parametrize("readings", [[(10, 240.0)], [(6, 400.0)], [(15, 240.0), (16, 241.0)], [(5.1, 240.0), (10, 250.0), (20, 260.0)]])
def test_a_first_reading_long_after_it_was_shut_off(readings: list[tuple[float, float]]) -> None:
    assert isolated(readings).verdict.word in {"Wait", "Holds"}


def test_two_points_ten_minutes_apart_and_the_first_of_them_late_are_judged() -> None:
    """170 micron as it was shut off, the next look ten minutes later, 240: 7 micron a minute in lines and coil, by the school of ten minutes."""
    found = isolated([(0, 170.0), (10, 240.0)], volume="6 L")
    assert found.verdict.word == "Holds"


class TestAStepThatFails:
    """Nine other steps do not vanish with one."""

    JOB = documents.load_job(_job("service", {"identify": UNIT, "recover": RECOVERED}))

    def broken(self, error: Exception, monkeypatch: pytest.MonkeyPatch) -> None:
        def judge(_: Any) -> Any:
            raise error

        monkeypatch.setitem(STEPS.loaded, "recover", dataclasses.replace(STEPS["recover"], judge=judge))

    def test_a_figure_out_of_where_a_method_is_true_is_said(self, monkeypatch: pytest.MonkeyPatch) -> None:
        before = evaluate(self.JOB, Profile(), NOW)
        self.broken(OutOfRange("The altitude is 210000 m; Yoshi knows sites from -450 to 6000 m."), monkeypatch)
        found = evaluate(self.JOB, Profile(), NOW)
        step = found.step("recover")
        assert (step.verdict.word, step.summary.show()) == ("Stop", "cannot be judged")
        assert "The altitude is 210000 m" in step.verdict.headline.show()
        assert step.movements == before.step("recover").movements != ()
        assert found.step("identify") == before.step("identify")
        assert isinstance(step.picture, RecoverPicture)

    def test_what_stood_against_it_until_then_is_still_said(self, monkeypatch: pytest.MonkeyPatch) -> None:
        def judge(context: Any) -> Any:
            context.notes.say("pump_down.breach", "Stop", "Never with a hole on the low side.", "a test")
            raise OutOfRange("Too hot.")

        monkeypatch.setitem(STEPS.loaded, "recover", dataclasses.replace(STEPS["recover"], judge=judge))
        found = evaluate(self.JOB, Profile(), NOW).step("recover").verdict
        assert (found.word, found.headline.show()) == ("Stop", "Never with a hole on the low side.")
        assert [reason.rule_id for reason in found.reasons] == ["pump_down.breach", "job.unjudged"]

    def test_a_defect_is_told_and_the_rest_goes_on(self, monkeypatch: pytest.MonkeyPatch) -> None:
        self.broken(ZeroDivisionError("float division"), monkeypatch)
        told: list[tuple[str, str]] = []
        found = evaluate(self.JOB, Profile(), NOW, defect=lambda step, error: told.append((step, str(error))))
        assert told == [("recover", "float division")]
        assert "defect" in found.step("recover").verdict.headline.show()
        with pytest.raises(ZeroDivisionError):
            evaluate(self.JOB, Profile(), NOW)
