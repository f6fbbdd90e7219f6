"""The day on the clock: what is left of a person's open jobs, planned by the core."""

import statistics
from collections import defaultdict
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from datetime import datetime, timedelta, tzinfo
from typing import Any

from django.utils import timezone

from accounts.models import Person
from accounts.queries import profile_of, shop_of
from jobs.decisions import decisions
from jobs.judging import judged
from jobs.models import Change, Job
from jobs.queries import jobs_of, seen_by
from jobs.store import profile_for, read
from yoshi_core.day import clock, schedule
from yoshi_core.day.hours import stretch
from yoshi_core.day.schedule import MOST_JOBS, Day
from yoshi_core.day.tasks import JobTasks, Slot
from yoshi_core.document import schema
from yoshi_core.document.model import Job as CoreJob
from yoshi_core.job.evaluate import Findings
from yoshi_core.job.standing import standing_sentence
from yoshi_core.profile.profile import Profile
from yoshi_core.steps import registry
from yoshi_core.steps.step import Known

HOLD_KIT = [step.id for step in registry.STEPS.values() if step.holds_kit]
LONGEST_OWN_S = 6 * 3600.0
HISTORY = 2000


def known_durations(person: Person, profile: Profile) -> dict[tuple[str, str], float]:
    """The shop's own median times by kind of system and step: from one closing to the next, where there are enough of them."""
    closings = Change.objects.filter(job__shop=shop_of(person), kind="closed").order_by("-pk")
    rows = closings.values_list("job_id", "job__created_at", "job__circuit__kind", "payload__step", "at")[:HISTORY]
    by_job: dict[int, list[tuple[datetime, datetime, str, str]]] = defaultdict(list)
    for job_id, created, kind, step, at in rows:
        by_job[job_id].append((at, created, kind or "", step))
    times: dict[tuple[str, str], list[float]] = defaultdict(list)
    for done in by_job.values():
        before = done[0][1]
        for at, _, kind, step in sorted(done):
            took = (at - before).total_seconds()
            before = at
            if 60.0 <= took <= LONGEST_OWN_S:
                times[(kind, step)].append(took)
    enough = profile.value("time.history")
    return {key: statistics.median(some) for key, some in times.items() if len(some) >= enough}


@dataclass(frozen=True)
class Wishes:
    """What a person moved by hand: jobs not today, jobs not before a moment, whose day is asked for, and whether the shop's hours hold."""

    skip: frozenset[str] = frozenset()
    not_before: Mapping[str, datetime] = field(default_factory=dict)
    everybody: bool = False
    outside: bool = False


def day_of(person: Person, here: tzinfo, leave: datetime | None, wishes: Wishes) -> dict[str, Any]:
    """The plan of a person's own open jobs, or of the whole shop's, within the shop's hours or until the time to leave a person chose."""
    now = timezone.now()
    shop = shop_of(person)
    profile = profile_of(shop)
    planned = stretch(now.astimezone(here), profile, leave, outside=wishes.outside)
    opens_s = (planned.begins - now).total_seconds()
    known = known_durations(person, profile)
    rows = seen_by(person).filter(listed="open").select_related("shop", "circuit__system__site").order_by("-updated_at")
    if not wishes.everybody:
        rows = rows.filter(people=person)
    how_many = rows.count()
    asked = [row for row in rows[: MOST_JOBS + len(wishes.skip)] if row.visit in {"", "going_on"}]
    taken = [row for row in asked if row.code not in wishes.skip][:MOST_JOBS]
    plans, found = [], {}
    for row in taken:
        seen = _seen(row, now)
        found[row.code] = seen.findings
        later = wishes.not_before.get(row.code)
        ready_s = min(max((later - now).total_seconds(), 0.0), schedule.LONGEST_S) if later is not None else 0.0
        plans.append(replace(_plan_of(row, seen, now, row.technician or row.code, known, ready_s), opens_s=opens_s))
    leave_s = max((planned.leaves - now).total_seconds(), 0.0)
    busy = {} if wishes.everybody else _busy(person, [row.code for row in asked], now)
    day = schedule.plan(plans, min(leave_s, schedule.LONGEST_S), busy)
    titles = {row.code: row.title for row in taken}
    return {
        "now": now,
        "begins": planned.begins,
        "leave": planned.leaves,
        "jobs": [_row(row, found[row.code], plan, day, now, titles) for row, plan in zip(taken, plans, strict=True)],
        "open": how_many,
        "decisions": decisions(rows),
        "people": len({row.technician for row in taken}),
        "skipped": [{"code": row.code, "title": row.title} for row in asked if row.code in wishes.skip],
        "kit": _kit(day, now, titles, busy),
        "finish": now + timedelta(seconds=day.finish_s) if day.proven else None,
        "idle_s": day.idle_s,
        "saved_s": _saved(plans, day, busy),
        "exact": day.exact,
        "from_history": sorted(f"{kind} {step}" for kind, step in known),
    }


@dataclass(frozen=True)
class _Seen:
    """A job as it stands now: its document, its profile, what both say."""

    job: CoreJob
    profile: Profile
    findings: Findings


def _seen(row: Job, now: datetime) -> _Seen:
    job = read(row)
    profile = profile_for(row, job)
    return _Seen(job, profile, judged(job, profile, now))


def _plan_of(row: Job, seen: _Seen, now: datetime, person: str, known: Known, ready_s: float = 0.0) -> JobTasks:
    made = clock.tasks_of(seen.job, seen.findings, seen.profile, now, person, known)
    return replace(made, id=row.code, ready_s=max(made.ready_s, ready_s))


def _busy(person: Person, own: list[str], now: datetime) -> dict[str, float]:
    """Kit that other people's jobs hold now, and for how long, seconds from now."""
    busy: dict[str, float] = {}
    others = jobs_of(shop_of(person)).filter(listed="open", step__in=HOLD_KIT).exclude(code__in=own).select_related("shop")
    for row in others.exclude(people=person)[:20]:
        plan = _plan_of(row, _seen(row, now), now, row.technician, {})
        if plan.running and plan.tasks:
            for name in plan.tasks[0].kit:
                busy[name] = max(busy.get(name, 0.0), plan.tasks[0].duration_s)
    return busy


def _saved(plans: list[JobTasks], day: Day, busy: dict[str, float]) -> float:
    """How much sooner the proven jobs are done than one after the other."""
    proven = [plan for plan in plans if plan.id in day.proven]
    return max(schedule.one_after_the_other(proven, busy) - day.finish_s, 0.0) if len(proven) > 1 else 0.0


def _slot(slot: Slot, now: datetime, titles: Mapping[str, str]) -> dict[str, Any]:
    return {
        "label": slot.task.label,
        "short": slot.task.short,
        "waits_from": now + timedelta(seconds=slot.start_s - slot.waited_s) if slot.waits_for else None,
        "waits_for": slot.waits_for,
        "fills": titles.get(slot.fills, ""),
        "start": now + timedelta(seconds=slot.start_s),
        "end": now + timedelta(seconds=slot.end_s),
        "hands": slot.task.hands,
        "kit": list(slot.task.kit),
    }


def _row(row: Job, findings: Findings, plan: JobTasks, day: Day, now: datetime, titles: Mapping[str, str]) -> dict[str, Any]:
    left = next(item for item in day.left if item.job == row.code)
    current = findings.step(row.step)
    waiting, carried = current.waiting, standing_sentence(findings.claims)
    return {
        "code": row.code,
        "title": row.title,
        "kind": row.kind,
        "step": row.step,
        "headline": schema.dump_full(current.verdict.headline),
        "word": current.verdict.word,
        "carried": None if carried is None else schema.dump_full(carried),
        "waits_until": waiting.until if waiting is not None and waiting.until > now else None,
        "waits_for": waiting.decides if waiting is not None else "",
        "running": plan.running,
        "slots": [_slot(slot, now, titles) for slot in day.slots if slot.job == row.code],
        "proven": now + timedelta(seconds=left.proven_s) if left.proven_s is not None else None,
        "technician": row.technician,
        "not_before": now + timedelta(seconds=plan.ready_s) if plan.ready_s else None,
        "state": left.state,
        "left": left.how,
        "stops": [{"at": now + timedelta(seconds=second), "how": how} for second, how in left.stops],
        "rest_s": left.rest_s,
        "not_done": list(left.not_done),
    }


def _kit(day: Day, now: datetime, titles: dict[str, str], busy: dict[str, float]) -> list[dict[str, Any]]:
    """Shared kit, each with who has it when."""
    names = sorted({name for slot in day.slots for name in slot.task.kit} | {name for name in busy if not name.startswith("person:")})
    return [
        {
            "name": name,
            "busy_until": now + timedelta(seconds=busy[name]) if name in busy else None,
            "slots": [{**_slot(s, now, titles), "label": titles[s.job], "short": ""} for s in day.slots if name in s.task.kit],
        }
        for name in names
    ]
