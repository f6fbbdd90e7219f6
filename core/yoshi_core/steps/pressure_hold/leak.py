"""A drop under nitrogen as refrigerant: the leak it means, or the one it could not have seen, and the one before the repair."""

from collections.abc import Sequence

from yoshi_core import refrigerants
from yoshi_core.charge.volume import Volume
from yoshi_core.document.sheets import value_of
from yoshi_core.errors import CoreError
from yoshi_core.findings.verdict import Word
from yoshi_core.frozen import dataclass
from yoshi_core.leaks import rate as leak_rate
from yoshi_core.leaks.rate import LeakBand
from yoshi_core.message import Message, sentence, told
from yoshi_core.profile.profile import TRADE
from yoshi_core.properties.atmosphere import absolute_pa
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.steps.tolerance import tolerance_of
from yoshi_core.tight_and_dry import pressure_hold
from yoshi_core.tight_and_dry.pressure_hold import HoldSample, HoldTerms, HoldVerdict
from yoshi_core.units.display import Amount
from yoshi_core.units.quantities import YEAR_S


@dataclass(frozen=True)
class Seen:
    """The leak of refrigerant that was seen, or the smallest that could have been; `longer_s` to see the one that is wanted."""

    refrigerant: str
    leaks: bool
    low: Amount
    high: Amount
    nitrogen_pa_m3_s: float
    longer_s: float | None


def seen_leak(
    verdict: HoldVerdict, samples: Sequence[HoldSample], terms: HoldTerms, volume: Volume, context: StepContext, notes: Notes
) -> Seen | None:
    """The leak behind a verdict, as the circuit's own refrigerant; None where that is not known."""
    name = context.plate.refrigerant
    if verdict.drop is None or not samples or name is None or not refrigerants.is_known(name):
        return None
    leaks = verdict.drop.seen
    flow = verdict.drop.leak_pa_m3_s if leaks else verdict.drop.least_pa_m3_s
    try:
        one = _as_refrigerant(name, 1.0, verdict, context)
    except CoreError as error:
        notes.refuse(context.path("test_pressure"), error.code, told(error))
        return None
    per = (one.low_kg_year * one.high_kg_year) ** 0.5 / YEAR_S
    low, high = (Amount(kg * flow / YEAR_S, "mass_rate") for kg in (one.low_kg_year / volume.band, one.high_kg_year * volume.band))
    return Seen(name, leaks, low, high, flow, _longer(verdict, terms, per, context))


def _as_refrigerant(name: str, flow: float, verdict: HoldVerdict, context: StepContext) -> LeakBand:
    site = absolute_pa(0.0, "vented", value_of(context.plate.altitude) or 0.0)
    middle = 0.5 * (verdict.start.pressure_pa + verdict.end.pressure_pa)
    return leak_rate.as_refrigerant(name, flow, middle, context.profile.value("leak.inside"), site)


def _longer(verdict: HoldVerdict, terms: HoldTerms, kg_s_per_flow: float, context: StepContext) -> float | None:
    """How much longer, in s, until the wanted leak would show; None where none is wanted."""
    wanted = value_of(context.run.sheet.see_leak) if context.run else None
    wanted = wanted or context.profile.value("hold.limit") or _yardstick(context)
    if wanted is None or kg_s_per_flow <= 0.0:
        return None
    metal = verdict.start.metal_k or terms.usual_metal_k
    whole = pressure_hold.until_seen_s(wanted / kg_s_per_flow, verdict.start.pressure_pa, metal, terms, probed=verdict.probed)
    return max(whole - verdict.lasted_s, 0.0)


def _yardstick(context: StepContext) -> float | None:
    """By the school that asks for it: the leak in kg/s that takes the charge's tolerance between two services."""
    full = context.handed.identify.careful
    if context.profile.choice("hold.yardstick") != "interval" or full is None:
        return None
    return tolerance_of(context.plate, full.total_kg, context.profile).kg / context.profile.value("hold.interval")


def tell_leak(seen: Seen, verdict: HoldVerdict, unseen: Message | None, notes: Notes, context: StepContext) -> None:
    """Say the rate, or what could not be seen, and how it compares with before the repair. `unseen` says it in days: the headline does, of a hold that holds."""
    amounts = {"low": seen.low, "high": seen.high}
    if seen.high.value <= 0.0:
        text = sentence("This refrigerant stands under the air's pressure: nothing leaks out, air leaks in. The vacuum is the proof here.")
        notes.tell("hold.leak", "Open", text, TRADE, amounts)
        return
    if seen.leaks:
        word: Word = "Stop" if verdict.kind == "drops" else "Wait"
        notes.tell("hold.leak", word, "As refrigerant that is {low} to {high}.", TRADE, amounts)
    elif unseen is None or verdict.kind != "holds":
        said = Message("A leak under {low} to {high} could not have shown yet.") if unseen is None else unseen
        notes.tell("hold.unseen", "Open", said, TRADE, amounts)
    if seen.longer_s is not None and not seen.leaks:
        _wanted(seen, notes, context)
    searched = context.handed.leak_search
    before = searched.before if searched is not None else None
    if before is not None and before.high_kg_year > 0.0:
        _compare(seen, before, notes)


def _wanted(seen: Seen, notes: Notes, context: StepContext) -> None:
    amounts = {"longer": Amount(seen.longer_s or 0.0, "duration")}
    must = context.profile.value("hold.limit") > 0.0
    if seen.longer_s:
        text = sentence("To catch the leak you want to catch takes {longer} more.")
        notes.tell("hold.limit", "Wait" if must else "Open", text, context.profile.source("hold.limit"), amounts)
    else:
        notes.tell("hold.limit", "Holds", "The leak you want to catch would have shown.", context.profile.source("hold.limit"), amounts)


def _compare(seen: Seen, before: LeakBand, notes: Notes) -> None:
    amounts = {
        "low": seen.low,
        "high": seen.high,
        "before_low": Amount(before.low_kg_year / YEAR_S, "mass_rate"),
        "before_high": Amount(before.high_kg_year / YEAR_S, "mass_rate"),
    }
    if not seen.leaks and seen.high.value * YEAR_S < before.low_kg_year:
        text = sentence("Before the repair {before_low} to {before_high} leaked; now under {high}. That leak is closed.")
        notes.tell("hold.before", "Holds", text, TRADE, amounts)
    elif not seen.leaks:
        text = sentence(
            "Before the repair {before_low} to {before_high} leaked; this hold could not have seen all of that yet. Hold longer."
        )
        notes.tell("hold.before", "Wait", text, TRADE, amounts)
    elif seen.low.value * YEAR_S > before.high_kg_year:
        notes.tell("hold.before", "Stop", "It leaks more than before the repair: {before_low} to {before_high} then.", TRADE, amounts)
    else:
        text = sentence("Before the repair {before_low} to {before_high} leaked: the same leak, or one like it, is still there.")
        notes.tell("hold.before", "Stop", text, TRADE, amounts)
