"""As found as a step of a job."""

from yoshi_core.findings.pictures import AsFoundPicture
from yoshi_core.steps.as_found.judge import judge
from yoshi_core.steps.as_found.lines import lines
from yoshi_core.steps.as_found.sheet import AsFoundSheet
from yoshi_core.steps.step import GAUGES_AND_AIR, NOT_OPENED, Capture, Step, by_hand

STEP = Step(
    id="as_found",
    label="As found",
    short="read",
    sheet=AsFoundSheet,
    picture=AsFoundPicture,
    judge=judge,
    share=by_hand(),
    reads=("identify",),
    left_after=NOT_OPENED,
    left_out=("it does not run, nothing to read", "new installation, never ran", "seen on an earlier visit"),
    early=True,
    channels=GAUGES_AND_AIR,
    capture=Capture("sheet", tuple((channel, (channel,)) for channel in GAUGES_AND_AIR)),
    lines=lines,
    begins=("standing_pressure",),
    holds="Found",
)
