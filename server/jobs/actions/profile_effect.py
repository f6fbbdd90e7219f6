"""What a changed practice profile would do to open jobs, said before it is saved; and switching a job to the present one."""

import dataclasses
from collections.abc import Mapping
from typing import Any

from accounts import clock
from accounts.models import Person
from accounts.queries import profile_of, shop_of
from jobs.actions.change_job import on_job
from jobs.judging import judged
from jobs.models import Job
from jobs.queries import open_jobs
from jobs.store import profile_for, read, write
from yoshi_core.document.model import ProfileEvent
from yoshi_core.errors import InvalidInput
from yoshi_core.job.evaluate import Findings
from yoshi_core.profile.profile import Profile, check, read_overrides
from yoshi_core.steps import registry

MOST = 100


def profile_effect(person: Person, entries: Mapping[str, str], choices: Mapping[str, str]) -> list[dict[str, Any]]:
    """Every open job whose verdicts or figures would change, with what would change, step by step."""
    shop = shop_of(person)
    now_profile = profile_of(shop)
    kept = {rule: value for rule, value in now_profile.overrides.items() if rule not in entries}
    wanted = dataclasses.replace(
        now_profile,
        revision=now_profile.revision + 1,
        overrides={**kept, **read_overrides(entries)},
        choices={**now_profile.choices, **choices},
    )
    check(wanted)
    found = []
    for row in open_jobs(shop, MOST):
        changes = effect_on(row, wanted)
        if changes:
            found.append({"code": row.code, "title": row.title, "changes": changes})
    return found


def effect_on(row: Job, wanted: Profile) -> list[str]:
    """What one job would say differently under a profile, in words."""
    job, now = read(row), clock.now()
    before, after = judged(job, profile_for(row, job), now), judged(job, wanted, now)
    return [text for step in before.steps if (text := _said(step.step, before, after))]


def _said(step: str, before: Findings, after: Findings) -> str:
    old, new = before.step(step).verdict, after.step(step).verdict
    if old.word == new.word and old.headline.show() == new.headline.show():
        return ""
    return f"{registry.label(step)}: {old.word}, {old.headline.show()} → {new.word}, {new.headline.show()}"


def switch_profile(person: Person, code: str, key: str, reason: str) -> dict[str, Any]:
    """Judge a job by the shop's present profile from now on; closed steps keep the one they were closed under."""

    def act(row: Job) -> dict[str, Any]:
        if not reason.strip():
            raise InvalidInput("Switching the profile of a job needs a reason; the record keeps it.", path="/reason")
        job, present = read(row), profile_of(row.shop)
        if job.profile_events and job.profile_events[-1].profile.revision == present.revision:
            raise InvalidInput("This job is judged by the present profile already.", path="/profile")
        event = ProfileEvent(present, clock.now(), person.shown_name, reason.strip())
        write(row, dataclasses.replace(job, profile_events=(*job.profile_events, event)), "profile", {"revision": present.revision}, person)
        return {}

    return on_job(person, code, key, {"switch_profile": True, "reason": reason}, act)
