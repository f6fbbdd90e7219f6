"""The core's judging as the server uses it: a step that fails is written to the log, and the others are answered; only what changed is judged again."""

import logging
import threading
from collections import OrderedDict
from datetime import datetime
from functools import partial

from yoshi_core.document.model import Job
from yoshi_core.job.evaluate import Findings, Memo, evaluate
from yoshi_core.profile.profile import Profile

log = logging.getLogger(__name__)
KEPT_JOBS = 64
_memos: OrderedDict[str, Memo] = OrderedDict()
_lock = threading.Lock()


def judged(job: Job, profile: Profile, now: datetime) -> Findings:
    """What `evaluate` says; a defect in one step costs that step's findings only."""
    return evaluate(job, profile, now, defect=partial(_defect, job.id), memo=_memo(job.id))


def _memo(job_id: str) -> Memo:
    """What this job's steps were last judged from, of the jobs judged last; two requests may share one."""
    with _lock:
        found = _memos.pop(job_id, None) or Memo()
        _memos[job_id] = found
        while len(_memos) > KEPT_JOBS:
            _memos.popitem(last=False)
    return found


def _defect(job_id: str, step: str, error: Exception) -> None:
    log.error("job %s: %s could not be judged", job_id, step, exc_info=error)
