"""Judging a job again with what is kept of the last time says what judging all of it says, whatever changed meanwhile."""

import copy
import dataclasses
import json
from collections.abc import Iterator
from datetime import timedelta
from pathlib import Path
from random import Random
from typing import Any

import pytest

from tests import generate
from tests.job.test_never_raises import mutilated, whole
from tests.make import NOW
from yoshi_core.errors import CoreError
from yoshi_core.job import documents
from yoshi_core.job.evaluate import Job, Memo, evaluate
from yoshi_core.profile.profile import RULES, Profile
from yoshi_core.steps import registry
from yoshi_core.steps.registry import STEPS

EXAMPLES = Path(__file__).parents[3] / "examples"
EDITS = 8


def edited(plain: dict[str, Any], dice: Random) -> dict[str, Any]:
    """The job as somebody types on: one step's sheet made anew, or one field of it, or an answer of another kind."""
    after = copy.deepcopy(plain)
    step = dice.choice([name for name in after["steps"] if after["steps"][name]["runs"]])
    sheet = after["steps"][step]["runs"][-1]["sheet"]
    fresh = generate.sheet(STEPS[step].sheet, dice, 0.6)
    if fresh and dice.random() < 0.7:
        name = dice.choice(sorted(fresh))
        sheet[name] = fresh[name]
    elif sheet and dice.random() < 0.7:
        del sheet[dice.choice(sorted(sheet))]
    else:
        after["steps"][step]["runs"][-1]["sheet"] = fresh
    return after


def jobs(plain: dict[str, Any], seed: int) -> Iterator[Job]:
    """A job and what becomes of it, edit after edit; each as it is read from its document, so that nothing is the same object."""
    dice = Random(seed)
    for _ in range(EDITS):
        try:
            yield documents.load_job(json.loads(json.dumps(plain)))
        except CoreError:
            return
        plain = edited(plain, dice)


@pytest.mark.parametrize("seed", range(24))
def test_made_jobs_edit_after_edit(seed: int) -> None:
    memo = Memo()
    for n, job in enumerate(jobs(generate.document(seed + 40_000, 0.3 + seed % 5 * 0.15), seed)):
        now = NOW + timedelta(minutes=n % 3)
        assert evaluate(job, Profile(), now, memo=memo) == evaluate(job, Profile(), now)


@pytest.mark.parametrize("seed", range(12))
def test_whole_jobs_edit_after_edit_one_after_the_other_on_one_memo(seed: int) -> None:
    bases, memo = list(whole()), Memo()
    for plain in (bases[seed % len(bases)], mutilated(bases[(seed + 3) % len(bases)], Random(seed))):
        for job in jobs(plain, seed):
            assert evaluate(job, Profile(), NOW, memo=memo) == evaluate(job, Profile(), NOW)


def test_a_profile_another_moment_and_a_closed_step_are_changes_too() -> None:
    job = documents.load((EXAMPLES / "04-whole-job.json").read_text())
    memo = Memo()
    other = Profile(overrides={rule: RULES[rule].default * 0.4 for rule in ("hold.least", "vacuum.target")})
    said = []
    for profile, now in ((Profile(), NOW), (other, NOW), (Profile(), NOW + timedelta(hours=3)), (Profile(), NOW)):
        said.append(evaluate(job, profile, now, memo=memo))
        assert said[-1] == evaluate(job, profile, now)
    assert said[0].steps != said[1].steps
    assert said[0] == said[3]


def test_only_what_changed_is_judged_again(monkeypatch: pytest.MonkeyPatch) -> None:
    plain = json.loads((EXAMPLES / "04-whole-job.json").read_text())["job"]
    judged: list[str] = []
    for step in registry.STEPS.values():
        real = step.judge

        def counted(context: Any, real: Any = real, name: str = step.id) -> Any:
            judged.append(name)
            return real(context)

        monkeypatch.setitem(registry.STEPS.loaded, step.id, dataclasses.replace(step, judge=counted))
    memo = Memo()
    evaluate(documents.load_job(plain), Profile(), NOW, memo=memo)
    assert len(judged) >= len(registry.order("service"))
    judged.clear()
    evaluate(documents.load_job(plain), Profile(), NOW, memo=memo)
    assert judged == []
    typed = copy.deepcopy(plain)
    readings = typed["steps"]["verify"]["runs"][-1]["sheet"]["readings"]
    readings[sorted(readings)[-1]]["suction_pressure"] = "121 psig"
    evaluate(documents.load_job(typed), Profile(), NOW, memo=memo)
    assert judged == ["verify", "close_out"]
