"""A job before anybody has typed anything, and a quick total that becomes one."""

import dataclasses
from datetime import datetime

from yoshi_core.document.model import Circuit, Job, JobKind, ProfileEvent, Run, StepRecord, Visit
from yoshi_core.errors import InvalidInput
from yoshi_core.profile.profile import Profile
from yoshi_core.steps import registry
from yoshi_core.steps.plan_change.sheet import PlanChangeSheet
from yoshi_core.steps.registry import STEPS
from yoshi_core.steps.weigh_in.sheet import WeighInSheet

FIRST_VISIT = "v1"


def new_job(
    job_id: str,
    kind: JobKind,
    title: str,
    circuit: Circuit,
    profile: Profile,
    by: str,
    at: datetime,
    change: PlanChangeSheet | None = None,
) -> Job:
    """An empty job with its first visit and one run of every step, pinned to the profile.

    A quick total is asked before anything is weighed in, so its system counts as empty until said otherwise; a retrofit's is
    emptied on the way. `change` is what a comparison chose for a retrofit.
    """
    records = {
        step: StepRecord((Run(sheet=STEPS[step].sheet(), visit=FIRST_VISIT, started_at=at),))
        for step in registry.order("charge" if kind == "quick" else kind)
    }
    if change is not None and "plan_change" in records:
        records["plan_change"] = StepRecord((Run(change, visit=FIRST_VISIT, started_at=at),))
    if kind in {"quick", "retrofit"}:
        records["weigh_in"] = StepRecord((Run(WeighInSheet(system_state="empty"), visit=FIRST_VISIT, started_at=at),))
    return Job(
        id=job_id,
        kind=kind,
        title=title,
        circuit=circuit,
        visits=(Visit(FIRST_VISIT, at, (by,)),),
        steps=records,
        profile_events=(ProfileEvent(profile, at, by, "job created"),),
    )


def adopted(job: Job, title: str, circuit: Circuit | None) -> Job:
    """A quick total as a job, on a circuit where one is named. Raises `InvalidInput` for what is a job already."""
    if job.kind != "quick":
        raise InvalidInput("This is a job already.", path="/kind")
    return dataclasses.replace(job, kind="charge", title=title.strip() or job.title, circuit=circuit or job.circuit)
