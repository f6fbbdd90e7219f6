"""Evacuate as a step of a job: its share of the clock, and the logs it lives from."""

from yoshi_core.document.model import StepRecord
from yoshi_core.document.sheets import value_of
from yoshi_core.findings.pictures import EvacuatePicture
from yoshi_core.properties.atmosphere import site_pressure_pa
from yoshi_core.steps import volumes
from yoshi_core.steps.evacuate.claim import claim
from yoshi_core.steps.evacuate.judge import judge, watched_for
from yoshi_core.steps.evacuate.sheet import EvacuateSheet
from yoshi_core.steps.step import PUMP, UNDER_VACUUM, Capture, OnTheClock, Share, Step, Task, WantedLog
from yoshi_core.tight_and_dry import pull_down
from yoshi_core.tight_and_dry.pull_down import Setup

LONG_PULL = 1.5


def share(clock: OnTheClock, _: Step) -> Share:
    """Set up, pull, watch; where the pump runs or the watch goes on, what is left of it."""
    watched_s = watched_for(volumes.of(clock.plate, None), clock.profile, clock.plate.kind)
    charts = clock.result.drawn(EvacuatePicture).charts
    last = charts[-1].id if charts else ""
    if clock.left_s is not None and last == "decay":
        return Share((_watch(clock.left_s),), running=True)
    if last == "pull" or (not last and _pump_is_on(clock)):
        left = _pull_s(clock, watched_s) if clock.left_s is None else clock.left_s
        return Share((_pull(left, _left_running(clock)), _watch(watched_s)), running=True)
    set_up = Task("set_up", "Hoses and gauge", clock.profile.value("time.set_up"), True, (PUMP,), short="hoses")
    return Share((set_up, _pull(_pull_s(clock, watched_s)), _watch(watched_s)))


def _pump_is_on(clock: OnTheClock) -> bool:
    """Whether the pump was started last, though nothing was read since."""
    runs = clock.job.steps.get("evacuate", StepRecord()).runs
    done = sorted((row.at, row.do) for row in runs[-1].sheet.events.values() if row.at and row.do) if runs else []
    return bool(done) and done[-1][1] == "pump"


def _left_running(clock: OnTheClock) -> str:
    """How the pump may be left running with nobody there; empty where nobody agreed to it."""
    who = clock.job.steps["evacuate"].runs[-1].sheet.left_running
    return f"with the pump running: {who} agreed" if who else ""


def _pull(seconds: float, left_running: str = "") -> Task:
    return Task("pull", "Pull", seconds, False, (PUMP,), safe_during=left_running, short="pull")


def _watch(seconds: float) -> Task:
    return Task("watch", "Isolated, watched", seconds, False, (), UNDER_VACUUM, UNDER_VACUUM, "watch")


def _pull_s(clock: OnTheClock, watch_s: float) -> float:
    """How long a pull takes: what pump and hose give with the usual for water and oil, or the shop's own time less set-up and watch."""
    profile = clock.profile
    setup = Setup(profile.value("vacuum.pump"), profile.value("vacuum.bore"), profile.value("vacuum.length"))
    site = site_pressure_pa(value_of(clock.plate.altitude) or 0.0)
    clean = pull_down.seconds_to(setup, volumes.of(clock.plate, None).m3, site, profile.value("vacuum.target")) or 0.0
    own = clock.own_time_s()
    if own is not None:
        return max(own - profile.value("time.set_up") - watch_s, clean)
    return max(profile.value("time.pull"), LONG_PULL * clean)


def logs(sheet: EvacuateSheet) -> tuple[WantedLog, ...]:
    """Both gauges from the first event on; each event is kept to the moment."""
    moments = tuple(sorted(event.at for event in sheet.events.values() if event.at is not None))
    if not moments:
        return ()
    return (
        WantedLog(STEP.id, "trace", ("vacuum",), moments[0], moments),
        WantedLog(STEP.id, "second_trace", ("second_vacuum",), moments[0], moments),
    )


STEP = Step(
    id="evacuate",
    label="Evacuate",
    short="",
    sheet=EvacuateSheet,
    picture=EvacuatePicture,
    judge=judge,
    share=share,
    reads=(
        "identify",
        "plan_change",
        "recover",
        "repair",
        "change_over",
        "pressure_hold",
    ),
    left_after=UNDER_VACUUM,
    left_out=("nothing was opened", "the charge stayed in"),
    holds_kit=True,
    channels=("vacuum", "second_vacuum"),
    capture=Capture("new_row", (("vacuum", ("vacuum",)), ("second", ("second_vacuum",))), record="readings"),
    logs=logs,
    claim=claim,
    keeps=("method", "volume", "pump_speed", "hose_bore", "hose_length", "two_hoses", "place", "gauge_floor"),
)
