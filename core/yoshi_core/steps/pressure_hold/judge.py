"""Pressure hold: the plan under the lowest stamp, then the drop the metal does not explain."""

from dataclasses import replace
from functools import lru_cache
from itertools import pairwise
from math import sqrt

from yoshi_core import refrigerants
from yoshi_core.charge.volume import Volume
from yoshi_core.document.sheets import value_of
from yoshi_core.errors import CoreError
from yoshi_core.findings.pictures import PressureHoldPicture
from yoshi_core.findings.result import StepResult, Waiting
from yoshi_core.findings.verdict import Verdict
from yoshi_core.message import Message, headline, joined, sentence, told
from yoshi_core.profile.fixed import fixed
from yoshi_core.profile.profile import TRADE, Profile
from yoshi_core.properties.atmosphere import absolute_pa
from yoshi_core.steps import logs, set_aside, verdicts
from yoshi_core.steps.contract import Judged, Notes, StepContext
from yoshi_core.steps.pressure_hold.handed import Held
from yoshi_core.steps.pressure_hold.leak import Seen, seen_leak, tell_leak
from yoshi_core.steps.pressure_hold.plan import Plan, judge_plan, low_pressure
from yoshi_core.steps.pressure_hold.report import cautions, chart, figures, plan_rows
from yoshi_core.steps.pressure_hold.sheet import HoldSheet
from yoshi_core.steps.sections import open_volume
from yoshi_core.steps.sheet_checks import ask_about_sheet
from yoshi_core.steps.verdicts import Otherwise
from yoshi_core.steps.waits import waiting
from yoshi_core.tight_and_dry import pressure_hold
from yoshi_core.tight_and_dry.pressure_hold import HoldSample, HoldTerms, HoldVerdict
from yoshi_core.units.display import Amount

MOST_PROBED = 0.8
DAY_S = 86_400.0
KEPT = 128


def judge(context: StepContext) -> Judged:
    """Plan, live drop and verdict."""
    notes = context.notes
    sheet: HoldSheet = context.run.sheet if context.run else HoldSheet()
    if context.run:
        ask_about_sheet(notes, sheet, context.path(), context.run.answers)
    again = set_aside.tell(sheet.readings, context.path("readings"), notes)
    again = logs.tell_aside(sheet.aside, (sheet.pressure_trace,), sheet.readings, context.path("aside"), notes) or again
    sheet = set_aside.without(sheet, "readings")
    volume = open_volume(context, sheet.volume)
    terms = _terms(sheet, volume, notes, context)
    plan = judge_plan(sheet, volume, notes, context)
    samples = _samples(sheet, notes, context)
    verdict = _judge_samples(sheet, samples, terms, notes, context)
    seen = seen_leak(verdict, samples, terms, volume, context, notes) if verdict and verdict.drop else None
    if verdict is not None:
        _tell(verdict, terms, notes, context)
        _search_pressure(sheet, verdict, notes, context)
        if seen is not None:
            tell_leak(seen, verdict, _unseen(seen, context), notes, context)
    said = verdicts.verdict(notes, _otherwise(plan, verdict, seen, _unseen(seen, context)))
    result = StepResult(
        step=context.step,
        state="open",
        verdict=said,
        summary=_summary(verdict, said, context),
        figures=figures(plan, verdict, seen, terms, volume, context),
        missing=tuple(notes.missing),
        questions=tuple(notes.questions),
        problems=tuple(notes.problems),
        cautions=cautions(context),
        waiting=_waiting(sheet, verdict),
        picture=PressureHoldPicture(
            charts=chart(sheet, samples, verdict, terms, context), plan=plan_rows(sheet, plan, verdict, terms, context)
        ),
    )
    held = _held(sheet, verdict, seen, said, context)
    return Judged(result, replace(held, holds=False, kept=False, drops=False, words=set_aside.AGAIN) if again else held)


def _held(sheet: HoldSheet, verdict: HoldVerdict | None, seen: Seen | None, said: Verdict, context: StepContext) -> Held:
    """What the two readings say, and what so short a look could not have shown."""
    read_at = max(context.typed("readings"), default=None)
    filled, down = sheet.filled_at is not None, sheet.let_down_at is not None
    if verdict is None or verdict.drop is None:
        return Held(holds=False, filled=filled, let_down=down, joints=sheet.bubbles, read_at=read_at)
    altitude = value_of(context.plate.altitude) or 0.0
    held = Amount(verdict.end.pressure_pa - absolute_pa(0.0, context.plate.gauge_reference or "vented", altitude), "gauge_pressure")
    amounts = {"held": held, "lasted": Amount(verdict.lasted_s, "duration")}
    kept = verdict.kind in {"holds", "short"}
    text = sentence("{held} held for {lasted}, nothing lost.") if kept else sentence("{lost} went in {lasted}.")
    words = Message(text, amounts if kept else {**amounts, "lost": Amount(verdict.drop.drop_pa, "gauge_pressure_delta")})
    return Held(said.word == "Holds", filled, down, kept, verdict.kind == "drops", sheet.bubbles, words, _unseen(seen, context), read_at)


def _unseen(seen: Seen | None, context: StepContext) -> Message | None:
    """In how many days the largest leak that could have gone unseen would empty the circuit; None where that is not known."""
    if low_pressure(context.plate):
        return Message("It stands near the air's own pressure: a leak shows in the vacuum, hardly here.")
    full = context.handed.identify.careful
    if seen is None or seen.leaks or full is None or seen.high.value <= 0.0:
        return None
    low, high = (full.total_kg / rate.value / DAY_S for rate in (seen.high, seen.low))
    return headline("Slower than about {low} to {high} days until empty would not have shown.", low=_about(low), high=_about(high))


def _about(days: float) -> str:
    """Two figures, written out."""
    return f"{float(f'{days:.2g}'):.12g}"


def held_for(volume: Volume, profile: Profile, kind: str | None) -> float:
    """The least a hold lasts once it has settled, in s: longer for a large volume, half a day on a chiller."""
    least = profile.value("hold.least") * max(1.0, volume.m3 / profile.value("hold.volume"))
    return max(least, profile.value("hold.chiller")) if kind == "chiller" else least


def _terms(sheet: HoldSheet, volume: Volume, notes: Notes, context: StepContext) -> HoldTerms:
    profile = context.profile
    step_pa = value_of(sheet.gauge_step) or (sheet.pressure_trace.step if sheet.pressure_trace else None) or profile.value("hold.step")
    clamp = sheet.metal_trace.limit if sheet.metal_trace else None
    probe_u_k = clamp / sqrt(3.0) if clamp else profile.value("hold.metal")
    return HoldTerms(
        settle_s=profile.value("hold.settle"),
        least_s=held_for(volume, profile, context.plate.kind),
        step_pa=logs.widening(sheet.pressure_trace, "the gauge", notes, context) * step_pa,
        probe_u_k=logs.widening(sheet.metal_trace, "the clamp", notes, context) * probe_u_k,
        no_probe_u_k=profile.value("hold.no_metal"),
        usual_metal_k=profile.value("leak.inside"),
        volume_m3=volume.m3,
    )


def _samples(sheet: HoldSheet, notes: Notes, context: StepContext) -> tuple[HoldSample, ...]:
    """Readings after filling, pressures absolute; the metal only where a clamp is said to be on it."""
    if sheet.filled_at is None:
        return ()
    base = context.path("readings")
    filled, aside = sheet.filled_at, sheet.aside
    log = logs.rows(filled, logs.typed_rows(base, sheet.readings, "pressure"), sheet.pressure_trace, context, notes, "the gauge", aside)
    metal = logs.rows(filled, logs.typed_rows(base, sheet.readings, "metal"), sheet.metal_trace, context, notes, "pipe temperature", aside)
    log = tuple(row for row in log if row[0] >= 0.0)
    logs.note_gap(log, notes, "the gauge")
    reference, altitude = context.plate.gauge_reference or "vented", value_of(context.plate.altitude) or 0.0
    probed = sheet.metal_by != "none"
    metals: list[float | None] = logs.at_times(metal, [second for second, _ in log]) if probed else [None for _ in log]
    _lost_probe(metals, notes)
    known = sum(kelvin is not None for kelvin in metals)
    if MOST_PROBED * len(log) <= known < len(log):
        log, metals = tuple(r for r, k in zip(log, metals, strict=True) if k is not None), [k for k in metals if k is not None]
    return tuple(
        HoldSample(second, absolute_pa(value, reference, altitude), kelvin) for (second, value), kelvin in zip(log, metals, strict=True)
    )


def _lost_probe(metals: list[float | None], notes: Notes) -> None:
    """A metal temperature that is there at first and not at the end, or jumps as if the clamp fell off."""
    known = [k for k in metals if k is not None]
    if known and len(known) < len(metals):
        text = sentence("The pipe temperature is missing for some readings: with it the ± would be a tenth. Is the clamp still on?")
        notes.say("hold.metal_missing", "Open", text, TRADE)
    jumps = [abs(b - a) for a, b in pairwise(known)]
    if len(known) >= 10 and max(jumps) > 4.0:
        text = sentence("The pipe temperature jumped by {value} from one reading to the next: the clamp fell off, or was moved.")
        notes.say("hold.metal_jump", "Wait", text, TRADE, value=Amount(max(jumps), "temperature_delta"))


def _judge_samples(
    sheet: HoldSheet, samples: tuple[HoldSample, ...], terms: HoldTerms, notes: Notes, context: StepContext
) -> HoldVerdict | None:
    if sheet.filled_at is None:
        return None
    if not samples:
        notes.need(context.path("readings", "r1", "pressure"), "what the gauge reads", None)
        return None
    try:
        return _judged_once(samples, terms)
    except CoreError as error:
        notes.refuse(context.path("readings"), error.code, told(error))
        return None


@lru_cache(maxsize=KEPT)
def _judged_once(samples: tuple[HoldSample, ...], terms: HoldTerms) -> HoldVerdict:
    """A hold is judged again and again while its clock goes on."""
    return pressure_hold.judge(samples, terms)


def _tell(verdict: HoldVerdict, terms: HoldTerms, notes: Notes, context: StepContext) -> None:
    """What the readings say, in the words of the kind."""
    source = context.profile.source("hold.least")
    if verdict.kind == "settling":
        text = sentence(
            "The nitrogen is still settling: it cools after filling, and that drop looks like a leak. Wait {limit}, then the hold counts."
        )
        notes.say("hold.settle", "Wait", text, context.profile.source("hold.settle"), limit=Amount(terms.settle_s, "duration"))
        return
    assert verdict.drop is not None
    amounts = {
        "value": Amount(verdict.drop.drop_pa, "gauge_pressure_delta"),
        "limit": Amount(verdict.drop.uncertainty_pa, "gauge_pressure_delta"),
        "lasted": Amount(verdict.lasted_s, "duration"),
        "least": Amount(terms.least_s, "duration"),
    }
    rise = {**amounts, "value": Amount(-verdict.drop.drop_pa, "gauge_pressure_delta")}
    if verdict.kind == "drops":
        text = sentence("{value} were lost, more than the pipe temperature explains, ± {limit}. It leaks.")
        notes.tell("hold.drop", "Stop", text, source, amounts)
    elif verdict.kind == "unsure":
        text = sentence("{value} seem lost, and ± is {limit}: not enough to call it a leak, too much to pass. Keep holding.")
        if not verdict.probed:
            text = sentence(
                "{value} went in {lasted}, and without a clamp on the pipe ± is {limit}: a leak is likely. Put a clamp on and hold again."
            )
        notes.tell("hold.drop", "Wait", text, source, amounts)
    elif verdict.kind == "rises":
        text = sentence("It rose by {value}, ± {limit}: still warming, or not settled. A rise does not pass.")
        notes.tell("hold.rise", "Wait", text, source, rise)
    elif verdict.kind == "unprobed":
        text = sentence(
            "{value} went, and without a clamp on the pipe ± is {limit}: it may have cooled, or leak. Put one on and hold again."
        )
        notes.tell("hold.unprobed", "Wait", text, source, amounts)
    elif verdict.kind == "short":
        text = sentence("Held for {lasted}; {least} are the least for this volume.")
        notes.tell("hold.least", "Wait", text, source, amounts)
    else:
        notes.tell("hold.drop", "Holds", "Nothing was lost beyond ± {limit} in {lasted}.", source, amounts)
    if not verdict.probed and verdict.kind in {"holds", "short"}:
        text = sentence("No clamp was on the pipe, so ± is {limit}. With one it would be a tenth of it.")
        notes.tell("hold.no_metal", "Open", text, context.profile.source("hold.no_metal"), amounts)


def _search_pressure(sheet: HoldSheet, verdict: HoldVerdict, notes: Notes, context: StepContext) -> None:
    searched = value_of(sheet.searched_at)
    if searched is None:
        return
    altitude = value_of(context.plate.altitude) or 0.0
    held = verdict.start.pressure_pa - absolute_pa(0.0, context.plate.gauge_reference or "vented", altitude)
    amounts = {"value": Amount(held, "gauge_pressure"), "limit": Amount(searched, "gauge_pressure")}
    if held < searched * fixed("hold.below_search"):
        text = sentence("Held at {value}, and the leak was searched at {limit}: the last hold is not below the search.")
        notes.tell("hold.searched", "Open", text, TRADE, amounts)


def _waiting(sheet: HoldSheet, verdict: HoldVerdict | None) -> Waiting | None:
    if sheet.filled_at is None or verdict is None or verdict.wait_s is None:
        return None
    decides = "whether it settled" if verdict.kind == "settling" else "whether it holds"
    return waiting(sheet.filled_at, verdict.end.second + verdict.wait_s, decides)


def _otherwise(plan: Plan, verdict: HoldVerdict | None, seen: Seen | None, unseen: Message | None) -> Otherwise:
    missing = None
    if plan.test_pa is not None and verdict is None:
        missing = headline("To {test} in stages. Still needed: {needed}.", test=Amount(plan.test_pa, "gauge_pressure"))
    if verdict is None or seen is None:
        return Otherwise(Message("It holds."), missing=missing)
    if unseen is not None:
        return Otherwise(joined(headline("It holds, {lasted} long.", lasted=Amount(verdict.lasted_s, "duration")), unseen))
    amounts = {"lasted": Amount(verdict.lasted_s, "duration"), "low": seen.low, "high": seen.high}
    if refrigerants.is_known(seen.refrigerant):
        return Otherwise(headline("It holds. A leak under {low} to {high} could not have shown in {lasted}.", **amounts))
    return Otherwise(headline("It holds, {lasted} long.", **amounts))


def _summary(verdict: HoldVerdict | None, word: Verdict, context: StepContext) -> Message:
    if verdict is None or verdict.drop is None:
        return Message(sentence("settling") if verdict is not None else sentence("plan first"))
    altitude = value_of(context.plate.altitude) or 0.0
    held = Amount(verdict.end.pressure_pa - absolute_pa(0.0, context.plate.gauge_reference or "vented", altitude), "gauge_pressure")
    lasted = Amount(verdict.lasted_s, "duration")
    if word.word == "Holds":
        return headline("{lasted} at {held}", lasted=lasted, held=held)
    return headline("{lost} in {lasted}", lost=Amount(verdict.drop.drop_pa, "gauge_pressure_delta"), lasted=lasted)
