"""Verify as a step of a job, with its share of the clock."""

from yoshi_core.findings.pictures import VerifyPicture
from yoshi_core.steps.step import CHARGED, PROVEN, RUNNING, Capture, OnTheClock, Share, Step, Task
from yoshi_core.steps.verify.claim import claim
from yoshi_core.steps.verify.judge import judge
from yoshi_core.steps.verify.lines import lines
from yoshi_core.steps.verify.sheet import VerifySheet


def share(clock: OnTheClock, step: Step) -> Share:
    """The run-in, or what is left of it, then the readings."""
    hands = Task(step.id, step.label, clock.time_s(), True, (), PROVEN, short=step.short)
    served = any(reason.role == "run_in_served" for reason in clock.result.verdict.reasons)
    if served and clock.left_s is None:
        return Share((hands,))
    left = clock.profile.value("verify.run_in") if clock.left_s is None else clock.left_s
    return Share((Task("run_in", "Run in", left, False, (), CHARGED, CHARGED, "run"), hands))


STEP = Step(
    id="verify",
    label="Verify",
    short="verify",
    sheet=VerifySheet,
    picture=VerifyPicture,
    judge=judge,
    share=share,
    reads=(
        "identify",
        "plan_change",
        "change_over",
        "weigh_in",
    ),
    left_after=PROVEN,
    channels=RUNNING,
    capture=Capture(
        "unread_row",
        tuple((channel, (channel,)) for channel in RUNNING),
        record="readings",
        begun=("suction_pressure", "liquid_pressure"),
    ),
    lines=lines,
    claim=claim,
)
