"""Weigh in as a step of a job."""

from yoshi_core.findings.pictures import WeighInPicture
from yoshi_core.steps.step import CHARGED, SCALE, Capture, Step, by_hand
from yoshi_core.steps.weigh_in.claim import claim
from yoshi_core.steps.weigh_in.judge import judge
from yoshi_core.steps.weigh_in.lines import lines
from yoshi_core.steps.weigh_in.sheet import WeighInSheet

STEP = Step(
    id="weigh_in",
    label="Weigh in",
    short="weigh",
    sheet=WeighInSheet,
    picture=WeighInPicture,
    judge=judge,
    share=by_hand((SCALE,)),
    reads=(
        "identify",
        "plan_change",
        "recover",
        "repair",
        "change_over",
        "pressure_hold",
        "evacuate",
    ),
    left_after=CHARGED,
    channels=("scale",),
    capture=Capture("scale", (("gross_start", ("scale",)), ("gross_end", ("scale",))), record="draws", row="d", first_open=True),
    lines=lines,
    begins=("system_state",),
    claim=claim,
)
