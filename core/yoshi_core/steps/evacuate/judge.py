"""Evacuate: set-up, the pull and where it is heading, then what the isolated vacuum says."""

from dataclasses import replace
from datetime import datetime
from functools import lru_cache
from math import sqrt
from typing import Literal

from yoshi_core.charge.volume import Volume
from yoshi_core.errors import CoreError
from yoshi_core.findings.pictures import EvacuatePicture
from yoshi_core.findings.result import StepResult, Waiting
from yoshi_core.findings.verdict import Verdict
from yoshi_core.message import Message, headline, sentence, told
from yoshi_core.profile.profile import Profile
from yoshi_core.steps import logs, set_aside
from yoshi_core.steps.contract import Judged, Notes, StepContext
from yoshi_core.steps.evacuate.decay import closed_port, tell
from yoshi_core.steps.evacuate.handed import Evacuated
from yoshi_core.steps.evacuate.let_back import judge_let_back
from yoshi_core.steps.evacuate.phases import Phase, Watched, events, phases
from yoshi_core.steps.evacuate.pull import judge_pull, judge_unattended
from yoshi_core.steps.evacuate.report import cautions, charts, figures
from yoshi_core.steps.evacuate.setup import advice, judge_setup, plan_rows, setup_of
from yoshi_core.steps.evacuate.sheet import EvacuateSheet
from yoshi_core.steps.sections import moment, open_volume
from yoshi_core.steps.sheet_checks import ask_about_sheet
from yoshi_core.steps.verdicts import Otherwise, verdict
from yoshi_core.steps.waits import waiting
from yoshi_core.tight_and_dry import evacuation
from yoshi_core.tight_and_dry.decay import Noise
from yoshi_core.tight_and_dry.evacuation import DecayVerdict, Limits
from yoshi_core.tight_and_dry.pull_down import Setup
from yoshi_core.tight_and_dry.trace import Row
from yoshi_core.units.display import Amount

KEPT = 128


def judge(context: StepContext) -> Judged:
    """Set-up first, then the pull, then the decay."""
    notes = context.notes
    sheet: EvacuateSheet = context.run.sheet if context.run else EvacuateSheet()
    if context.run:
        ask_about_sheet(notes, sheet, context.path(), context.run.answers)
    again = set_aside.tell(sheet.readings, context.path("readings"), notes)
    again = logs.tell_aside(sheet.aside, (sheet.trace,), sheet.readings, context.path("aside"), notes) or again
    sheet = set_aside.without(sheet, "readings")
    volume = open_volume(context, sheet.volume)
    setup = setup_of(sheet, context.profile)
    limits = limits_of(sheet, volume, context, logs.widening(sheet.trace, "the gauge", notes, context))
    repaired = context.handed.repair
    wet = bool(sheet.wet) or bool(repaired and repaired.wet)
    judge_setup(sheet, wet, notes, context)
    watched = _watch(sheet, setup, limits, volume, wet, notes, context)
    judge_unattended(sheet, watched, notes, context)
    judge_let_back(watched.phases, notes, context)
    said = verdict(notes, _otherwise(watched, limits, notes, context))
    result = StepResult(
        step=context.step,
        state="open",
        verdict=said,
        summary=_summary(watched, said),
        figures=figures(sheet, watched, limits, volume),
        missing=tuple(notes.missing),
        questions=tuple(notes.questions),
        problems=tuple(notes.problems),
        cautions=cautions(context),
        waiting=_waiting(watched),
        picture=EvacuatePicture(
            charts=charts(watched, limits),
            plan=plan_rows(sheet, watched.phases, limits, wet, context),
            causes=watched.causes,
            notes=advice(sheet, setup, volume, limits, context) if watched.decay is None else (),
        ),
    )
    pumped = _evacuated(watched, limits, context)
    return Judged(result, replace(pumped, proven=False, against=None, words=set_aside.AGAIN) if again else pumped)


def _evacuated(watched: Watched, limits: Limits, context: StepContext) -> Evacuated:
    """What the gauge said once it was shut off; nothing else shows it dry."""
    read_at = max(context.typed("readings"), default=None)
    decay, last = watched.decay, watched.phases[-1] if watched.phases else None
    if decay is None or last is None or not last.log:
        return Evacuated(proven=False, begun=bool(watched.phases), words=_pulled_only(watched), read_at=read_at)
    words = headline(
        "Shut off at {start}, {now} after {lasted}.",
        start=Amount(last.log[0][1], "micron"),
        now=Amount(last.log[-1][1], "micron"),
        lasted=Amount(last.log[-1][0] - last.starts_s, "duration"),
    )
    level = decay.plateau_pa if decay.kind == "moist" else None
    wet = level is not None and level > limits.stays_pa
    against: Literal["leak", "wet"] | None = "leak" if decay.kind in {"leaking", "leaking and moist"} else "wet" if wet else None
    return Evacuated(decay.passes, True, against, words, read_at)


def _pulled_only(watched: Watched) -> Message | None:
    """How far it was pulled, where nobody watched it shut off; None where it was not read."""
    last = watched.phases[-1] if watched.phases else None
    if last is not None and last.log:
        return headline("Pulled to {now}, and not watched shut off.", now=Amount(last.log[-1][1], "micron"))
    before = watched.phases[-2] if len(watched.phases) > 1 else None
    if last is not None and last.doing == "isolated" and before is not None and before.doing == "pull" and before.log:
        return headline("Pulled to {now}, and not read since it was shut off.", now=Amount(before.log[-1][1], "micron"))
    return None


def limits_of(sheet: EvacuateSheet, volume: Volume, context: StepContext, widened: float = 1.0) -> Limits:
    """What the schools of this profile ask for, for this volume; a gauge coarser than the profile's scatters by its own step and share."""
    profile = context.profile
    school = profile.choice("vacuum.proof")
    target = profile.value("vacuum.deep") if school == "deep" else profile.value("vacuum.target")
    stays = profile.value("vacuum.rise") if school == "thousand" else profile.value("vacuum.target")
    step = (sheet.trace.step if sheet.trace else None) or 0.0
    share = ((sheet.trace.relative if sheet.trace else None) or 0.0) / sqrt(3.0)
    noise = Noise(widened * max(profile.value("vacuum.floor"), step), widened * max(profile.value("vacuum.share"), share))
    return Limits(
        target,
        stays,
        profile.value("vacuum.leak"),
        watched_for(volume, profile, context.plate.kind),
        noise,
        profile.value("vacuum.discard"),
    )


def watched_for(volume: Volume, profile: Profile, kind: str | None) -> float:
    """How long an isolated vacuum is watched, in s, by the school of the profile."""
    school, ten = profile.choice("vacuum.watch"), profile.value("vacuum.hold")
    large = volume.m3 > profile.value("vacuum.hold_volume")
    if school == "five":
        return 0.5 * ten
    if school == "ten":
        return ten
    if school in {"overnight", "day"}:
        return profile.value("vacuum.chiller") * (2.0 if school == "day" else 1.0) if large else ten
    by_volume = ten * max(1.0, volume.m3 / profile.value("vacuum.hold_volume"))
    return max(by_volume, profile.value("vacuum.chiller")) if kind == "chiller" else by_volume


def _watch(sheet: EvacuateSheet, setup: Setup, limits: Limits, volume: Volume, wet: bool, notes: Notes, context: StepContext) -> Watched:
    done = events(sheet, notes, context)
    if not done:
        if sheet.readings or sheet.trace is not None:
            notes.need(context.path("events", "e1", "at"), "when the pump was started", None)
        return Watched((), None, None, ())
    origin, base = done[0][0], context.path("readings")
    log = logs.rows(origin, logs.typed_rows(base, sheet.readings, "vacuum"), sheet.trace, context, notes, "the micron gauge", sheet.aside)
    second = logs.rows(
        origin, logs.typed_rows(base, sheet.readings, "second"), sheet.second_trace, context, notes, "the other gauge", sheet.aside
    )
    log, second = (_since_freed(rows, origin, context) for rows in (log, second))
    found = phases(done, tuple(row for row in log if row[1] > 0.0))
    last = found[-1] if found else None
    if last is None or not last.log:
        if last is not None and last.doing in {"pull", "isolated"}:
            notes.need(context.path("readings", "r1", "vacuum"), "what the micron gauge reads", None)
        return Watched(found, None, None, ())
    if closed_port(log, second, notes, context):
        return Watched(found, None, None, ())
    if last.doing == "pull":
        forecast, causes = judge_pull(sheet, found, done, setup, volume, limits, wet, notes, context)
        return Watched(found, None, forecast, causes)
    if last.doing == "isolated":
        return Watched(found, _decay(sheet, last, limits, volume, notes, context), None, ())
    return Watched(found, None, None, ())


def _since_freed(log: tuple[Row, ...], origin: datetime, context: StepContext) -> tuple[Row, ...]:
    """A log without what was read before a blocked port was opened: that was of a closed pipe."""
    job = context.job
    freed = [moment(job, key) for key, act in job.acts.items() if act.kind == "freed" and act.was_done]
    return tuple(row for row in log if not freed or row[0] >= (max(freed) - origin).total_seconds())


def _decay(sheet: EvacuateSheet, phase: Phase, limits: Limits, volume: Volume, notes: Notes, context: StepContext) -> DecayVerdict | None:
    samples = tuple((max(second - phase.starts_s, 0.0), value) for second, value in phase.log)
    logs.note_gap(samples, notes, "the micron gauge")
    try:
        found = _judged_once(samples, volume.m3, limits, volume.band)
    except CoreError as error:
        notes.refuse(context.path("readings"), error.code, told(error))
        return None
    tell(found, samples, sheet, limits, volume, notes, context)
    return found


@lru_cache(maxsize=KEPT)
def _judged_once(samples: tuple[Row, ...], volume_m3: float, limits: Limits, band: float) -> DecayVerdict:
    """A rise is judged again and again while a clock goes on or another field is typed; its fits are the dearest there are."""
    return evacuation.judge(samples, volume_m3, limits, volume_band=band)


def _waiting(watched: Watched) -> Waiting | None:
    if not watched.phases or not watched.phases[-1].log:
        return None
    last = watched.phases[-1]
    seen_s = last.log[-1][0] - last.starts_s
    if watched.decay is not None and watched.decay.wait_s is not None:
        return waiting(last.starts_at, seen_s + watched.decay.wait_s, "leak, moisture or tight")
    if watched.forecast is not None and watched.forecast.seconds:
        return waiting(last.starts_at, seen_s + watched.forecast.seconds, "at the target")
    return None


def _otherwise(watched: Watched, limits: Limits, notes: Notes, context: StepContext) -> Otherwise:
    last = watched.phases[-1] if watched.phases else None
    if last is not None and last.doing in {"nitrogen", "sweep"}:
        rest = Amount(context.profile.value("vacuum.rest"), "duration")
        rests = headline("Nitrogen rests in it for {rest}, then down to just above zero, and pull again.", rest=rest)
        return Otherwise(rests, "Open", missing=rests)
    if watched.decay is not None and watched.decay.passes:
        return Otherwise(next(r for r in notes.reasons if r.role == "finding").message)
    if watched.forecast is not None:
        at_target = last is not None and (last.log[-1][1] if last.log else 1e9) <= limits.target_pa
        text = sentence("Down to {target}: shut it off and watch it.") if at_target else sentence("Pulling; the target is {target}.")
        return Otherwise(headline(text, target=Amount(limits.target_pa, "micron")), "Open")
    return Otherwise(Message("Start the pump."), "Open")


def _summary(watched: Watched, verdict: Verdict) -> Message:
    last = watched.phases[-1] if watched.phases else None
    if last is None or not last.log:
        return Message(sentence("set-up first") if last is None else sentence("pump on") if last.doing == "pull" else sentence("isolated"))
    now = Amount(last.log[-1][1], "micron")
    if last.doing == "isolated":
        start = Amount(last.log[0][1], "micron")
        if verdict.word == "Holds":
            return headline("tight and dry at {now}", now=now)
        return headline("{start} → {now}", start=start, now=now)
    return headline("{now}, pulling", now=now) if last.doing == "pull" else Message("under nitrogen")
