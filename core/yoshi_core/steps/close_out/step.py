"""Close out as a step of a job."""

from yoshi_core.findings.pictures import CloseOutPicture
from yoshi_core.steps.close_out.judge import judge
from yoshi_core.steps.close_out.sheet import CloseOutSheet
from yoshi_core.steps.step import RUNNING, Step, by_hand

STEP = Step(
    id="close_out",
    label="Close out",
    short="close",
    sheet=CloseOutSheet,
    picture=CloseOutPicture,
    judge=judge,
    share=by_hand(),
    reads=(
        "identify",
        "as_found",
        "plan_change",
        "leak_search",
        "recover",
        "repair",
        "change_over",
        "pressure_hold",
        "evacuate",
        "weigh_in",
        "verify",
    ),
    must="Every job is closed out: as proven, handed over, or left safe.",
    channels=RUNNING,
)
