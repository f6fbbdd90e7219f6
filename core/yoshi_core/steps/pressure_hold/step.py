"""Pressure hold as a step of a job: its share of the clock, and the logs it lives from."""

from yoshi_core.findings.pictures import PressureHoldPicture
from yoshi_core.steps import volumes
from yoshi_core.steps.pressure_hold.claim import claim
from yoshi_core.steps.pressure_hold.judge import held_for, judge
from yoshi_core.steps.pressure_hold.sheet import HoldSheet
from yoshi_core.steps.step import GAUGES_AND_METAL, NITROGEN, UNDER_NITROGEN, Capture, OnTheClock, Share, Step, Task, WantedLog

PRESSURE, METAL = ("liquid_pressure", "suction_pressure"), ("metal", "liquid_line", "suction_line")


def share(clock: OnTheClock, step: Step) -> Share:
    """Filling, then the hold; where it holds already, what is left of it."""
    if clock.left_s is not None:
        return Share((_hold(step, clock.left_s),), running=True)
    least = held_for(volumes.of(clock.plate, None), clock.profile, clock.plate.kind)
    fill = Task("fill", "Fill with nitrogen", clock.profile.value("time.fill"), True, (NITROGEN,), UNDER_NITROGEN, short="fill")
    return Share((fill, _hold(step, clock.profile.value("hold.settle") + least)))


def _hold(step: Step, seconds: float) -> Task:
    return Task(step.id, step.label, seconds, False, (), UNDER_NITROGEN, UNDER_NITROGEN, step.short)


def logs(sheet: HoldSheet) -> tuple[WantedLog, ...]:
    """Pressure and metal from the filling on."""
    if sheet.filled_at is None:
        return ()
    return (
        WantedLog(STEP.id, "pressure_trace", PRESSURE, sheet.filled_at),
        WantedLog(STEP.id, "metal_trace", METAL, sheet.filled_at),
    )


STEP = Step(
    id="pressure_hold",
    label="Pressure hold",
    short="hold",
    sheet=HoldSheet,
    picture=PressureHoldPicture,
    judge=judge,
    share=share,
    reads=(
        "identify",
        "plan_change",
        "leak_search",
        "recover",
        "repair",
        "change_over",
    ),
    left_after=UNDER_NITROGEN,
    left_out=("nothing was opened", "held on an earlier visit"),
    channels=GAUGES_AND_METAL,
    capture=Capture("new_row", (("pressure", PRESSURE), ("metal", METAL)), record="readings"),
    logs=logs,
    claim=claim,
    keeps=(
        "gas",
        "stamps",
        "no_stamp",
        "test_pressure",
        "fed",
        "metal_by",
        "gauge_step",
        "volume",
        "see_leak",
        "bottle_volume",
        "bottle_size",
    ),
)
