"""Change over as a step of a job."""

from yoshi_core.findings.pictures import ChangeOverPicture
from yoshi_core.steps.change_over.judge import judge
from yoshi_core.steps.change_over.sheet import ChangeOverSheet
from yoshi_core.steps.step import GAUGES_AND_METAL, MUST_CHANGE, Step, by_hand

STEP = Step(
    id="change_over",
    label="Change over",
    short="change",
    sheet=ChangeOverSheet,
    picture=ChangeOverPicture,
    judge=judge,
    share=by_hand(),
    reads=(
        "identify",
        "plan_change",
        "recover",
        "repair",
    ),
    left_after="",
    opens=True,
    must=MUST_CHANGE,
    early=True,
    channels=GAUGES_AND_METAL,
)
