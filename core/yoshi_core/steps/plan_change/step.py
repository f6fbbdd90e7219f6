"""Plan the change as a step of a job."""

from yoshi_core.findings.pictures import PlanChangePicture
from yoshi_core.steps.plan_change.judge import judge
from yoshi_core.steps.plan_change.sheet import PlanChangeSheet
from yoshi_core.steps.step import GAUGES_AND_AIR, MUST_CHANGE, NOT_OPENED, Step, by_hand

STEP = Step(
    id="plan_change",
    label="Plan the change",
    short="plan",
    sheet=PlanChangeSheet,
    picture=PlanChangePicture,
    judge=judge,
    share=by_hand(),
    reads=("identify",),
    left_after=NOT_OPENED,
    must=MUST_CHANGE,
    early=True,
    channels=GAUGES_AND_AIR,
)
