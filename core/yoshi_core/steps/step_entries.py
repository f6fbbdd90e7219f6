"""Whether anything was entered in a step."""

from yoshi_core.document.model import Job, StepRecord
from yoshi_core.document.schema import dump


def touched(job: Job, step: str) -> bool:
    """Whether any run of the step holds an entry."""
    return any(dump(run.sheet) for run in job.steps.get(step, StepRecord()).runs)
