"""The core's judging as the server uses it: a step that fails is written to the log, and the others are answered."""

import logging
from datetime import datetime
from functools import partial

from yoshi_core.document.model import Job
from yoshi_core.job.evaluate import Findings, evaluate
from yoshi_core.profile.profile import Profile

log = logging.getLogger(__name__)


def judged(job: Job, profile: Profile, now: datetime) -> Findings:
    """What `evaluate` says; a defect in one step costs that step's findings only."""
    return evaluate(job, profile, now, defect=partial(_defect, job.id))


def _defect(job_id: str, step: str, error: Exception) -> None:
    log.error("job %s: %s could not be judged", job_id, step, exc_info=error)
