"""What is left of a job on the clock: its tasks with durations, who or what they need, and where it may be left.

Durations come from the profile until the shop's own history of that kind is long enough (`known`).
"""

from collections.abc import Mapping
from dataclasses import replace
from datetime import datetime

from yoshi_core.day.schedule import JobTasks, Task
from yoshi_core.document.model import Job
from yoshi_core.document.sheets import value_of
from yoshi_core.findings.result import StepResult
from yoshi_core.job.evaluate import Findings
from yoshi_core.profile.profile import Profile
from yoshi_core.properties.atmosphere import site_pressure_pa
from yoshi_core.steps import registry, volumes
from yoshi_core.steps.evacuate.judge import watched_for
from yoshi_core.steps.plates import repaired_plate
from yoshi_core.steps.pressure_hold.judge import held_for
from yoshi_core.tight_and_dry import pull_down
from yoshi_core.tight_and_dry.pull_down import Setup

PUMP, NITROGEN, RECOVERY, SCALE = "vacuum pump", "nitrogen", "recovery machine", "scale"
UNDER_NITROGEN = "under nitrogen pressure: becomes a long hold"
UNDER_VACUUM = "isolated under vacuum: becomes a standing test"
NOT_OPENED = "not opened"
CLOSED = "closed, with what was in it"
CAPPED = "empty, capped"
CHARGED = "charged, not proven"
PROVEN = "running, proven"
LEFT_AFTER = {
    "identify": NOT_OPENED,
    "as_found": NOT_OPENED,
    "plan_change": NOT_OPENED,
    "leak_search": CLOSED,
    "recover": CAPPED,
    "repair": "",
    "change_over": "",
    "pressure_hold": UNDER_NITROGEN,
    "evacuate": UNDER_VACUUM,
    "weigh_in": CHARGED,
    "verify": PROVEN,
}
SHORT = {
    "identify": "identify",
    "as_found": "read",
    "plan_change": "plan",
    "leak_search": "search",
    "recover": "recover",
    "repair": "repair",
    "change_over": "change",
    "fill": "fill",
    "pressure_hold": "hold",
    "set_up": "hoses",
    "pull": "pull",
    "watch": "watch",
    "weigh_in": "weigh",
    "run_in": "run",
    "verify": "verify",
    "close_out": "close",
}
OPENED = frozenset({"repair", "change_over"})
SETTLED = frozenset({"closed", "not_applicable"})
LONG_PULL = 1.5

Known = Mapping[tuple[str, str], float]


def tasks_of(job: Job, findings: Findings, profile: Profile, now: datetime, person: str, known: Known | None = None) -> JobTasks:
    """What is left of the job from its first open step on, in order; a wait that runs comes first with what is left of it."""
    found: list[Task] = []
    running = begun = False
    stands = NOT_OPENED
    for step in registry.order(job.kind):
        result = findings.step(step)
        if result.state in SETTLED:
            if result.state == "closed" and not found:
                begun, stands = True, LEFT_AFTER.get(step, stands)
            continue
        if not found and step in OPENED and _under_way(job, step):
            begun, stands = True, LEFT_AFTER[step]
        more, runs = _step_tasks(step, result, job, profile, now, known or {})
        running = running or (runs and not found)
        found += more
    if running:
        stands = found[0].safe_during
    tasks = tuple(replace(task, short=SHORT.get(task.id, "")) for task in found)
    return JobTasks(job.id, person, tasks, 0.0, running, begun or running, stands)


def _under_way(job: Job, step: str) -> bool:
    """Whether anything was written down of a step: then what it opens is open."""
    record = job.steps.get(step)
    return record is not None and bool(record.runs)


def _time(step: str, job: Job, profile: Profile, known: Known) -> float:
    own = known.get((repaired_plate(job).kind or "", step))
    return own if own is not None else profile.value(f"time.{step}")


def _hands(step: str, label: str, seconds: float, kit: tuple[str, ...] = (), safe: str = "") -> Task:
    return Task(step, label, seconds, True, kit, safe)


def _step_tasks(step: str, result: StepResult, job: Job, profile: Profile, now: datetime, known: Known) -> tuple[list[Task], bool]:
    """Tasks of one step, and whether the first of them runs already."""
    label = registry.label(step)
    seconds = _time(step, job, profile, known) if f"time.{step}" in PROFILE_TIMES else 0.0
    if step in {"identify", "as_found", "plan_change"}:
        return [_hands(step, label, seconds, (), LEFT_AFTER[step])], False
    if step == "leak_search":
        return [_hands(step, label, seconds, (NITROGEN,), LEFT_AFTER[step])], False
    if step == "recover":
        return [Task(step, label, seconds, False, (RECOVERY, SCALE), LEFT_AFTER[step])], False
    if step in {"repair", "change_over"}:
        return [_hands(step, label, seconds)], False
    if step == "pressure_hold":
        return _hold(result, job, profile, now)
    if step == "evacuate":
        return _evacuation(result, job, profile, now, known)
    if step == "weigh_in":
        return [_hands(step, label, seconds, (SCALE,), LEFT_AFTER[step])], False
    if step == "verify":
        hands = _hands(step, label, seconds, (), PROVEN)
        if any(reason.role == "run_in_served" for reason in result.verdict.reasons) and result.waiting is None:
            return [hands], False
        left = _left(result, now)
        run_in = Task("run_in", "Run in", profile.value("verify.run_in") if left is None else left, False, (), CHARGED, CHARGED)
        return [run_in, hands], False
    return [_hands(step, label, seconds)], False


PROFILE_TIMES = frozenset(
    f"time.{step}"
    for step in (
        "identify",
        "as_found",
        "plan_change",
        "leak_search",
        "recover",
        "repair",
        "change_over",
        "weigh_in",
        "verify",
        "close_out",
    )
)


def _left(result: StepResult, now: datetime) -> float | None:
    """Seconds of a wait that goes on, None where nothing waits."""
    return None if result.waiting is None else max((result.waiting.until - now).total_seconds(), 0.0)


def _hold(result: StepResult, job: Job, profile: Profile, now: datetime) -> tuple[list[Task], bool]:
    left = _left(result, now)
    if left is not None:
        return [Task("pressure_hold", "Pressure hold", left, False, (), UNDER_NITROGEN, UNDER_NITROGEN)], True
    plate = repaired_plate(job)
    least = held_for(volumes.of(plate, None), profile, plate.kind)
    fill = Task("fill", "Fill with nitrogen", profile.value("time.fill"), True, (NITROGEN,), UNDER_NITROGEN)
    held = Task("pressure_hold", "Pressure hold", profile.value("hold.settle") + least, False, (), UNDER_NITROGEN, UNDER_NITROGEN)
    return [fill, held], False


def _evacuation(result: StepResult, job: Job, profile: Profile, now: datetime, known: Known) -> tuple[list[Task], bool]:
    """Set up, pull, watch; where the pump runs or the watch goes on, what is left of it."""
    plate = repaired_plate(job)
    watch = Task(
        "watch", "Isolated, watched", watched_for(volumes.of(plate, None), profile, plate.kind), False, (), UNDER_VACUUM, UNDER_VACUUM
    )
    last = result.picture.charts[-1].id if result.picture.charts else ""
    left = _left(result, now)
    if left is not None and last == "decay":
        return [Task("watch", "Isolated, watched", left, False, (), UNDER_VACUUM, UNDER_VACUUM)], True
    if last == "pull":
        return [Task("pull", "Pull", _pull_s(job, profile, known, watch.duration_s) if left is None else left, False, (PUMP,)), watch], True
    set_up = Task("set_up", "Hoses and gauge", profile.value("time.set_up"), True, (PUMP,))
    return [set_up, Task("pull", "Pull", _pull_s(job, profile, known, watch.duration_s), False, (PUMP,)), watch], False


def _pull_s(job: Job, profile: Profile, known: Known, watch_s: float) -> float:
    """How long a pull takes: what pump and hose give with the usual for water and oil, or the shop's own time less set-up and watch."""
    plate = repaired_plate(job)
    setup = Setup(profile.value("vacuum.pump"), profile.value("vacuum.bore"), profile.value("vacuum.length"))
    site = site_pressure_pa(value_of(plate.altitude) or 0.0)
    clean = pull_down.seconds_to(setup, volumes.of(plate, None).m3, site, profile.value("vacuum.target")) or 0.0
    own = known.get((plate.kind or "", "evacuate"))
    if own is not None:
        return max(own - profile.value("time.set_up") - watch_s, clean)
    return max(profile.value("time.pull"), LONG_PULL * clean)
