"""What the isolated vacuum says, in words; and two gauges that do not agree."""

from collections.abc import Sequence

from yoshi_core.charge.volume import Volume
from yoshi_core.document.sheets import value_of
from yoshi_core.findings.verdict import Word
from yoshi_core.message import Message, joined, sentence
from yoshi_core.profile.fixed import fixed
from yoshi_core.profile.profile import TRADE
from yoshi_core.properties.humid_air import water_vapor_pa
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.steps.evacuate.sheet import EvacuateSheet
from yoshi_core.tight_and_dry.decay import Sample
from yoshi_core.tight_and_dry.evacuation import DecayVerdict, Limits
from yoshi_core.tight_and_dry.trace import Row
from yoshi_core.units.display import Amount

SAME_S = 300.0
AT_FLOOR = fixed("decay.gauge_floor")
BETWEEN_TWO, SURE = int(fixed("decay.two")), fixed("decay.sure")


def closed_port(log: Sequence[Row], second: Sequence[Row], notes: Notes, context: StepContext) -> bool:
    """Whether two gauges read at the same time disagree by more than their error: then a port is closed and nothing is judged."""
    if not log or not second:
        return False
    last_s, one = second[-1][0], None
    near = min(log, key=lambda row: abs(row[0] - last_s))
    if abs(near[0] - last_s) > SAME_S:
        return False
    one, two = near[1], second[-1][1]
    share = context.profile.value("vacuum.gauges")
    floor = context.profile.value("vacuum.floor")
    if abs(one - two) <= share * min(one, two) + 4.0 * floor:
        return False
    text = sentence(
        "One gauge reads {value}, the other {limit}: a port between them is closed or plugged. Nothing is judged until both agree."
    )
    notes.say(
        "vacuum.port",
        "Wait",
        text,
        context.profile.source("vacuum.gauges"),
        value=Amount(max(one, two), "micron"),
        limit=Amount(min(one, two), "micron"),
        role="finding",
    )
    return True


def tell(
    verdict: DecayVerdict,
    samples: Sequence[Sample],
    sheet: EvacuateSheet,
    limits: Limits,
    volume: Volume,
    notes: Notes,
    context: StepContext,
) -> None:
    """The verdict as a reason, with the numbers it rests on."""
    last_s, last = samples[-1]
    amounts = {
        "now": Amount(last, "micron"),
        "lasted": Amount(last_s, "duration"),
        "value": Amount(verdict.slope_pa_s, "vacuum_rate"),
        "limit": Amount(verdict.slope_limit_pa_s, "vacuum_rate"),
        "stays": Amount(limits.stays_pa, "micron"),
        "target": Amount(limits.target_pa, "micron"),
        "start": Amount(samples[0][1], "micron"),
        "watch": Amount(limits.hold_s, "duration"),
        "leak": Amount(verdict.leak_pa_m3_s, "leak_flow"),
        "volume": Amount(volume.m3, "volume"),
        "plain": Amount(limits.leak_pa_m3_s / volume.m3, "vacuum_rate"),
    }
    if verdict.plateau_pa is not None:
        amounts["plateau"] = Amount(verdict.plateau_pa, "micron")
    if verdict.wait_s is not None:
        amounts["wait"] = Amount(verdict.wait_s, "duration")
    guessed = volume.band > 1.0 + 1e-9
    allowed = Message(
        sentence("{plain} is allowed in {volume}, {limit} while that volume is a guess.")
        if guessed
        else sentence("{limit} is allowed in {volume}.")
    )
    word, *said = _said(verdict, samples, limits, allowed)
    school = context.profile.school("vacuum.proof")
    notes.tell("vacuum.decay", word, joined(*said), context.profile.source("vacuum.leak"), amounts, school=school, role="finding")
    level = verdict.plateau_pa if verdict.kind == "moist" else last if last > limits.stays_pa and _stands(samples, limits) else None
    if level is not None:
        _moisture(level, sheet, notes)
    floor = value_of(sheet.gauge_floor)
    if floor is not None and all(value <= floor * AT_FLOOR for _, value in samples):
        text = sentence("The gauge stands at its lowest, {limit}: it cannot show what happens below. What counts begins when it leaves it.")
        notes.say("vacuum.gauge_floor", "Open", text, TRADE, limit=Amount(floor, "micron"))


def _said(verdict: DecayVerdict, samples: Sequence[Sample], limits: Limits, allowed: Message) -> tuple[Word, *tuple[Message, ...]]:
    last_s, last = samples[-1]
    served = last_s >= limits.hold_s
    if verdict.kind == "tight":
        if verdict.two_points:
            passes = Message("Passes: {now} after {lasted}, climbing {value}.")
            return "Holds", passes, allowed, Message("Two readings pass a number; they do not tell moisture from leak.")
        tight = Message(
            sentence("Tight and dry: {now} after {lasted}, climbing {value} on average since it was shut off.")
            if verdict.by_ends
            else sentence("Tight and dry: {now} after {lasted}, climbing {value}.")
        )
        return "Holds", tight, allowed
    if verdict.kind == "leaking":
        return "Stop", Message("It leaks: it climbs {value} and keeps climbing."), allowed, Message("That is {leak}.")
    if verdict.kind == "leaking and moist":
        return "Stop", Message("It leaks and is wet: it climbs {value} on top of moisture. Find the leak under nitrogen first.")
    if verdict.kind == "moist":
        return "Wait", Message(
            "It levels off near {plateau}: moisture, or refrigerant leaving the oil. Break with dry nitrogen and pull again."
        )
    if verdict.kind == "equalizing":
        return "Wait", Message("It peaked and comes back: pressure evens out inside. A peak is never judged: {wait} more.")
    if verdict.kind == "still pulling":
        return (
            "Wait",
            Message(
                "It has only fallen since it was called isolated: something still pulls. Shut the valve at the system, not at the pump."
            ),
        )
    if verdict.kind == "above target":
        return "Wait", Message("Isolated at {start}, above {target}: keep pulling. Holding there proves nothing.")
    if last > limits.stays_pa:
        if _stands(samples, limits):
            return (
                "Wait",
                Message(
                    "{now}, above {stays}, and it stands: water or refrigerant leaving the oil. {wait} more to see that no leak is under it."
                ),
            )
        return "Wait", Message("{now}, above {stays}: {wait} more to tell moisture from leak.")
    if not served:
        return "Wait", Message("{now} after {lasted}: {wait} more of the {watch} it is watched.")
    if verdict.two_points and verdict.slope_pa_s > verdict.slope_limit_pa_s:
        return (
            "Wait",
            Message("{now} after {lasted}, climbing {value}."),
            allowed,
            Message("Two readings do not tell moisture from leak: {wait} more."),
        )
    return "Wait", Message("{now}, and the climb is not known well enough for {volume}: {wait} more.")


def _stands(samples: Sequence[Sample], limits: Limits) -> bool:
    """Whether it rose, and its last two readings are alike."""
    if len(samples) <= BETWEEN_TWO:
        return False
    scatter = limits.noise.of(samples[-1][1])
    return abs(samples[-1][1] - samples[-2][1]) <= scatter and samples[-1][1] - samples[0][1] > SURE * scatter


def _moisture(level_pa: float, sheet: EvacuateSheet, notes: Notes) -> None:
    """What water can hold at the coldest surface: above that it is not water alone."""
    cold = value_of(sheet.coldest)
    if cold is None:
        return
    ceiling = water_vapor_pa(cold)
    amounts = {"value": Amount(level_pa, "micron"), "limit": Amount(ceiling, "micron"), "cold": Amount(cold, "temperature")}
    if level_pa > ceiling:
        text = sentence(
            "Water at {cold} holds {limit} at most, and this levels off at {value}: refrigerant from the oil, or a warmer wet place."
        )
        notes.tell("vacuum.ceiling", "Open", text, "vapour pressure of water and ice (ASHRAE, by PsychroLib)", amounts)
    else:
        text = sentence("Water at {cold} can hold up to {limit}: wet, or refrigerant from the oil. Warm the coldest place.")
        notes.tell("vacuum.ceiling", "Open", text, "vapour pressure of water and ice (ASHRAE, by PsychroLib)", amounts)
