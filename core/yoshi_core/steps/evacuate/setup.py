"""Before and between the pulls: what must be right, how much faster it could go, and the plan of pulls."""

import dataclasses
from collections.abc import Sequence
from typing import Literal

from yoshi_core.charge.volume import Volume
from yoshi_core.document.bounds import later
from yoshi_core.document.sheets import value_of
from yoshi_core.findings.pictures import PlanRow
from yoshi_core.message import Message, sentence
from yoshi_core.profile.profile import TRADE, Profile
from yoshi_core.properties.atmosphere import site_pressure_pa
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.steps.evacuate.phases import Phase
from yoshi_core.steps.evacuate.sheet import EvacuateSheet
from yoshi_core.steps.inside import may_hold_refrigerant
from yoshi_core.steps.sections import rest_alone, shut_parts, was_shut_in
from yoshi_core.tight_and_dry import pull_down
from yoshi_core.tight_and_dry.evacuation import Limits
from yoshi_core.tight_and_dry.pull_down import Setup
from yoshi_core.units.display import Amount
from yoshi_core.units.quantities import INCH_M, INHG_PA

BETTER_BORE_M, BETTER_LENGTH_M = 0.5 * INCH_M, 0.9
WORTH = 1.3
COMPOUND_INHG = 28.0


def setup_of(sheet: EvacuateSheet, profile: Profile) -> Setup:
    """Pump and hoses as entered, else as the profile usually has them."""
    return Setup(
        pump_m3_s=value_of(sheet.pump_speed) or profile.value("vacuum.pump"),
        bore_m=value_of(sheet.hose_bore) or profile.value("vacuum.bore"),
        length_m=value_of(sheet.hose_length) or profile.value("vacuum.length"),
        hoses=2 if sheet.two_hoses else 1,
        cores_in=sheet.cores_out is False,
    )


def judge_setup(sheet: EvacuateSheet, wet: bool, notes: Notes, context: StepContext) -> None:
    """What must be right before the pump starts."""
    _before(notes, context)
    notes.need(context.path("energized"), "compressor locked out", sheet.energized)
    if sheet.energized is False:
        notes.say("vacuum.power", "Stop", "A compressor started under vacuum arcs inside and dies: lock it out first.", TRADE, role="hard")
    notes.need(context.path("method"), "method", sheet.method)
    always = context.profile.choice("vacuum.pulls") == "triple"
    if sheet.method == "single" and (wet or always):
        text = (
            sentence(
                "It was wet or stood open long: three pulls with dry nitrogen between carry the water out; one deep pull takes hours over it."
            )
            if wet
            else sentence(
                "This shop always pulls three times: three pulls with dry nitrogen between carry the water out; one deep pull takes hours over it."
            )
        )
        notes.say("vacuum.pulls", "Open", text, TRADE, school=context.profile.school("vacuum.pulls"))
    some_shut = was_shut_in(context) or bool(shut_parts(context))
    rest = rest_alone(context, "pull")
    if rest:
        notes.say("vacuum.rest", "Open", rest, TRADE)
    for field, label in (
        *(() if some_shut else (("valves_open", "valves and solenoids open, energised or by magnet"),)),
        ("cores_out", "valve cores out"),
        ("place", "where the micron gauge sits"),
    ):
        notes.need(context.path(field), label, getattr(sheet, field))
    if sheet.valves_open is False and not some_shut:
        notes.say(
            "vacuum.valves",
            "Wait",
            "Behind a shut valve nothing is pulled: open every valve and solenoid, by magnet or service mode.",
            TRADE,
        )
    if sheet.compound_only:
        _compound(notes, context)
    _tools(sheet, notes, context)
    _gauge_place(sheet, notes, context)


def _tools(sheet: EvacuateSheet, notes: Notes, context: StepContext) -> None:
    """Oil that was used too often, and a battery that may not outlast the watch."""
    uses, most = value_of(sheet.oil_uses), context.profile.value("vacuum.oil_uses")
    if uses is not None and uses >= most and not sheet.oil_fresh:
        text = sentence("{uses} pulls on this oil, and {most} are its life: change it warm before the pump starts.")
        source = context.profile.source("vacuum.oil_uses")
        notes.say("vacuum.oil_uses", "Open", text, source, uses=Amount(uses, "number"), most=Amount(most, "number"))
    battery, least = value_of(sheet.gauge_battery), context.profile.value("vacuum.battery")
    if battery is not None and battery < least:
        text = sentence(
            "The gauge's battery stands at {battery}: a gauge that dies in the watch loses the proof. Change it before the pump is shut off."
        )
        notes.say("vacuum.battery", "Open", text, context.profile.source("vacuum.battery"), battery=Amount(battery, "fraction"))


def _before(notes: Notes, context: StepContext) -> None:
    if may_hold_refrigerant(context):
        text = sentence("Recover does not say that it is empty. Refrigerant is never pumped into the air.")
        notes.say("vacuum.refrigerant", "Stop", text, TRADE, role="hard")
    tight = context.claims.get("tight")
    if tight is None or tight.settled:
        return
    school = context.profile.school("vacuum.replaces_hold")
    if tight.standing == "contradicted":
        text = sentence("It leaks, so a vacuum pulls in air and water and gets nowhere. Mend it first.")
        notes.say("vacuum.leaks", "Wait", text, TRADE)
    elif context.profile.choice("vacuum.replaces_hold") == "no":
        text = sentence("Tight is not shown yet. A vacuum is only one atmosphere; it does not replace the pressure hold.")
        notes.say("vacuum.hold_first", "Open", text, TRADE, school=school)
    else:
        notes.say("vacuum.hold_first", "Open", "By this shop's practice the vacuum replaces the pressure hold.", TRADE, school=school)


def _compound(notes: Notes, context: StepContext) -> None:
    site = site_pressure_pa(value_of(context.plate.altitude) or 0.0)
    left = max(site - COMPOUND_INHG * INHG_PA, 0.0)
    text = sentence("A compound gauge never proves dry: at 28 inHg of vacuum {value} are still in it here. Put a micron gauge on.")
    if left <= 0.0:
        text = sentence("A compound gauge never proves dry: so high up it cannot even reach 28 inHg. Put a micron gauge on.")
    notes.say("vacuum.compound", "Wait", text, TRADE, value=Amount(left, "micron"))


def _gauge_place(sheet: EvacuateSheet, notes: Notes, context: StepContext) -> None:
    school = context.profile.school("vacuum.gauge")
    if sheet.place == "pump":
        text = sentence("At the pump it reads lower than the system is. Put it far from the pump, on its own tee.")
        notes.say("vacuum.place", "Wait", text, TRADE, school=school)
    elif sheet.place == "manifold":
        notes.need(context.path("path_proven"), "path to the gauge proven open", sheet.path_proven)
        if sheet.path_proven is False or context.profile.choice("vacuum.gauge") == "far":
            text = sentence(
                "Through a manifold with the other side shut it counts only with its way proven open: see it move with the pump."
            )
            if sheet.path_proven:
                text = sentence("Read through a manifold, its way proven open. On its own tee far from the pump it reads nearer the truth.")
            notes.say("vacuum.place", "Open" if sheet.path_proven else "Wait", text, TRADE, school=school)


def advice(sheet: EvacuateSheet, setup: Setup, volume: Volume, limits: Limits, context: StepContext) -> tuple[Message, ...]:
    """How long the pull should take as set up, and what would make it faster; nothing once it is isolated."""
    site = site_pressure_pa(value_of(context.plate.altitude) or 0.0)
    now = pull_down.seconds_to(setup, volume.m3, site, limits.target_pa)
    if now is None:
        return (Message("With this pump and hose the target is out of reach."),)
    rows = [
        Message(
            "Clean and dry, this pump and hose take about {now} to {target} for {volume}; water and oil take longer.",
            {"now": Amount(now, "duration"), "target": Amount(limits.target_pa, "micron"), "volume": Amount(volume.m3, "volume")},
        )
    ]
    better = (
        (sentence("With the valve cores out it is {times} as fast."), dataclasses.replace(setup, cores_in=False), setup.cores_in),
        (
            sentence("A hose of {bore} inside, {length} long, is {times} as fast."),
            dataclasses.replace(setup, bore_m=BETTER_BORE_M, length_m=BETTER_LENGTH_M),
            True,
        ),
        (sentence("A second hose to the other side is {times} as fast."), dataclasses.replace(setup, hoses=2), setup.hoses == 1),
        (sentence("A pump twice the size is {times} as fast."), dataclasses.replace(setup, pump_m3_s=2.0 * setup.pump_m3_s), True),
    )
    for text, other, offered in better:
        faster = pull_down.seconds_to(other, volume.m3, site, limits.target_pa)
        if offered and faster and now / faster >= WORTH:
            amounts = {
                "times": Amount(now / faster, "times"),
                "bore": Amount(BETTER_BORE_M, "tube_od"),
                "length": Amount(BETTER_LENGTH_M, "length"),
            }
            rows.append(Message(text, amounts))
    if sheet.oil_fresh is False:
        rows.append(Message("Change the pump's oil first, warm: wet oil gives its water back and the pump ends high."))
    rows.append(
        Message(
            "Meanwhile, with the power out, you can wash the coil or work on its water side: that does not harm the pull. It would spoil a hold."
        )
    )
    rows.append(
        Message(
            "Gas ballast open until about {ballast}, then shut.", {"ballast": Amount(context.profile.value("vacuum.ballast"), "micron")}
        )
    )
    return tuple(rows)


def plan_rows(sheet: EvacuateSheet, done: Sequence[Phase], limits: Limits, wet: bool, context: StepContext) -> tuple[PlanRow, ...]:
    """The pulls, breaks and the last watch of the chosen way, as far as they are done."""
    method = sheet.method or ("triple" if wet else "single")
    profile = context.profile
    target = {"target": Amount(limits.target_pa, "micron")}
    rest, watch = Amount(profile.value("vacuum.rest"), "duration"), Amount(limits.hold_s, "duration")
    last = (Message("Pull to {target}.", target), "pull", None), (Message("Shut off and watch."), "isolated", watch)
    if method == "triple":
        first, second = ({"to": Amount(profile.value(f"vacuum.{n}"), "micron")} for n in ("first", "second"))
        nitrogen = Message("Break with dry nitrogen to just above zero, and let it rest.")
        wanted = [(Message("Pull to {to}.", first), "pull", None), (nitrogen, "nitrogen", rest)]
        wanted += [(Message("Pull to {to}.", second), "pull", None), (nitrogen, "nitrogen", rest), *last]
    elif method == "sweep":
        sweep = Message("Sweep dry nitrogen through, high side to low, for some minutes; blow down to just above zero.")
        first = {"to": Amount(profile.value("vacuum.first"), "micron")}
        wanted = [(Message("Pull to {to}.", first), "pull", None), (sweep, "sweep", rest), *last]
    else:
        wanted = list(last)
    return tuple(_states(wanted, done))


def _states(wanted: Sequence[tuple[Message, str, Amount | None]], done: Sequence[Phase]) -> list[PlanRow]:
    """Walk the plan along the phases done: each phase takes the next row of its kind."""
    rows: list[PlanRow] = []
    place = -1
    starts: dict[int, Phase] = {}
    for phase in done:
        following = [n for n in range(place + 1, len(wanted)) if wanted[n][1] == phase.doing]
        again = [n for n in range(place + 1) if wanted[n][1] == phase.doing]
        place = following[0] if following and following[0] - place <= 2 else (again[-1] if again else place)
        starts[place] = phase
    for n, (text, _, duration) in enumerate(wanted):
        state: Literal["done", "now", "later"] = "done" if n < place else "now" if n == max(place, 0) else "later"
        begun = starts.get(n)
        ends = None
        if begun is not None and state == "now" and duration is not None:
            ends = later(begun.starts_at, duration.value)
        rows.append(PlanRow(f"p{n}", text, state, duration, ends))
    return rows
