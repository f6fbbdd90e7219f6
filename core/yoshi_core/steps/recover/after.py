"""After recovery: the level reached, the pressure that rises again, pumping down instead, and where the charge goes."""

from yoshi_core import refrigerants
from yoshi_core.books import ownership
from yoshi_core.charge import recovery
from yoshi_core.charge.recovery import SMALL_KG, Level, Share
from yoshi_core.document.sheets import value_of
from yoshi_core.errors import CoreError
from yoshi_core.findings.verdict import Word
from yoshi_core.message import Message, joined, sentence, told
from yoshi_core.profile.profile import TRADE
from yoshi_core.properties import saturation
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.steps.recover.sheet import RecoverSheet
from yoshi_core.units.display import Amount
from yoshi_core.units.quantities import PSI_PA

SHUT_MOST_PA = 5.0 * PSI_PA
GLIDE_AT_K = 300.0


def level_of(sheet: RecoverSheet, full: float | None, context: StepContext) -> Level | None:
    """The level that applies; None for a vehicle, which has its own rule, and where the refrigerant has no table."""
    name, kind = context.plate.refrigerant, context.plate.kind
    if full is None or name is None or not refrigerants.is_known(name) or kind == "vehicle":
        return None
    small = kind == "reach_in" and full <= SMALL_KG
    return recovery.level(
        name,
        full,
        value_of(context.plate.altitude) or 0.0,
        context.plate.gauge_reference or "vented",
        small_appliance=small,
        compressor_runs=bool(sheet.compressor_runs),
    )


def judge_level(sheet: RecoverSheet, full: float | None, share: Share | None, notes: Notes, context: StepContext) -> None:
    """Down to the level, and still there after the wait."""
    try:
        level = level_of(sheet, full, context)
    except CoreError as error:
        notes.refuse(context.path("end_pressure"), error.code, told(error))
        return
    if level is None:
        return
    if level.share is not None and share is not None and share.share >= level.share:
        notes.say(
            "recover.level",
            "Holds",
            "{value} of the charge is out; it takes {limit}.",
            level.source,
            value=Amount(share.share, "fraction"),
            limit=Amount(level.share, "fraction"),
        )
        return
    if not notes.need(context.path("end_pressure"), "pressure at the end", sheet.end_pressure) or sheet.end_pressure is None:
        return
    slack = context.profile.value("probe.pressure_limit")
    value, limit = Amount(sheet.end_pressure.value, "gauge_pressure"), Amount(level.gauge_pa, "gauge_pressure")
    if sheet.end_pressure.value > level.gauge_pa + slack:
        notes.say(
            "recover.level",
            "Wait",
            "It reads {value}; the limit on this site's gauge is {limit}. Keep pulling.",
            level.source,
            value=value,
            limit=limit,
        )
        return
    notes.say(
        "recover.level", "Holds", "Down to {value}; the limit on this site's gauge is {limit}.", level.source, value=value, limit=limit
    )
    _rise(sheet, level, slack, notes, context)


def _rise(sheet: RecoverSheet, level: Level, slack: float, notes: Notes, context: StepContext) -> None:
    wait = context.profile.value("recover.wait")
    if not notes.need(context.path("waited"), "waited", sheet.waited) or sheet.waited is None:
        return
    if sheet.waited.value < wait:
        text = sentence("Watched for {value}; {limit} is the wait. Liquid left behind shows as a rise.")
        notes.say(
            "recover.wait",
            "Wait",
            text,
            context.profile.source("recover.wait"),
            value=Amount(sheet.waited.value, "duration"),
            limit=Amount(wait, "duration"),
        )
        return
    if not notes.need(context.path("risen_to"), "pressure after the wait", sheet.risen_to) or sheet.risen_to is None:
        return
    most = max(level.gauge_pa, sheet.end_pressure.value if sheet.end_pressure else level.gauge_pa) + 2.0 * slack
    value = Amount(sheet.risen_to.value, "gauge_pressure")
    if sheet.risen_to.value > most:
        notes.say(
            "recover.rise", "Wait", "It rose to {value}: liquid is left. Warm where it is cold, wait, and pull again.", TRADE, value=value
        )
    else:
        notes.say("recover.rise", "Holds", "After the wait it reads {value}: nothing boils off any more.", TRADE, value=value)


def judge_pump_down(sheet: RecoverSheet, notes: Notes, context: StepContext) -> None:
    """Pumping down instead, with its refusals."""
    if context.plate.kind == "heat_pump":
        text = sentence("A heat pump is pumped down in cooling: reversing valve held energised, and the low-pressure stop watched.")
        notes.say("pump_down.mode", "Open", text, TRADE)
    for field, label in (
        ("compressor_runs", "whether the compressor runs"),
        ("low_breach", "whether the low side has a hole"),
        ("small_condenser", "whether the condenser holds the charge"),
        ("into_vacuum", "whether a scroll would pull a vacuum"),
    ):
        notes.need(context.path(field), label, getattr(sheet, field), hard=field != "compressor_runs")
    if sheet.compressor_runs is False:
        notes.say("pump_down.runs", "Stop", "It does not run, so it cannot pump itself down. Recover into a cylinder.", TRADE)
    if sheet.low_breach:
        notes.say(
            "pump_down.breach",
            "Stop",
            "Never with a hole on the low side: air is drawn in and compressed with oil, and that explodes. Recover into a cylinder.",
            TRADE,
            role="hard",
        )
    if sheet.small_condenser:
        notes.say(
            "pump_down.room",
            "Stop",
            "A microchannel coil or long lines: the condenser cannot hold this charge. Recover into a cylinder.",
            TRADE,
            role="hard",
        )
    if sheet.into_vacuum:
        text = sentence("A scroll is never run into a vacuum. Stop above zero, or recover into a cylinder.")
        notes.say("pump_down.scroll", "Stop", text, TRADE, role="hard")
    if any(r.word == "Stop" for r in notes.reasons):
        return
    if notes.need(context.path("finished"), "whether it is done", sheet.finished or None):
        if not notes.need(context.path("shut_at"), "suction valve shut at", sheet.shut_at) or sheet.shut_at is None:
            return
        value = Amount(sheet.shut_at.value, "gauge_pressure")
        if sheet.shut_at.value < 0.0:
            notes.say(
                "pump_down.shut",
                "Open",
                "Shut at {value}, below the air: a leak would draw air in. Aim a little above zero.",
                TRADE,
                value=value,
            )
        elif sheet.shut_at.value > SHUT_MOST_PA:
            notes.say(
                "pump_down.shut",
                "Wait",
                "Shut at {value}: that much stays in the lines. Run it down to just above zero.",
                TRADE,
                value=value,
            )
        else:
            notes.say("pump_down.shut", "Holds", "Shut at {value}, slightly above zero.", TRADE, value=value)


def judge_use(
    sheet: RecoverSheet,
    recovered: float | None,
    share: Share | None,
    full: float | None,
    unsure: float,
    notes: Notes,
    context: StepContext,
) -> None:
    """Back in, for reclaim, or part of it to another circuit: by the school, with its reason."""
    if not notes.need(context.path("use"), "what happens to it", sheet.use):
        return
    if context.job.kind == "retrofit" and sheet.use == "reuse":
        text = sentence(
            "This system gets another refrigerant: what came out never goes back in. For reclaim, or to a circuit that runs on it."
        )
        notes.say("retrofit.use", "Stop", text, TRADE, role="hard")
        return
    against = _against_reuse(sheet, share, context)
    school = context.profile.school("recovered.use")
    if sheet.use in {"reuse", "other_circuit"}:
        if not sheet.burnout_unknown:
            notes.need(context.path("burnout"), "the compressor burnt out", sheet.burnout)
        notes.need(context.path("same_owner"), "stays with its owner", sheet.same_owner, hard=True)
        elsewhere = ownership.refused(sheet.same_owner)
        if elsewhere is not None:
            said = joined(elsewhere, Message("It goes for reclaim, new refrigerant goes in."))
            notes.say("recovered.use", "Stop", said, TRADE, school=school, role="hard")
        elif against is not None:
            decided = any(d.chosen and d.by for d in sheet.decisions.values())
            word: Word = "Open" if decided else "Stop"
            otherwise = Message("The customer chose otherwise; it is kept in the record.") if decided else None
            notes.say(
                "recovered.use",
                word,
                joined(against, Message("It goes for reclaim, new refrigerant goes in."), otherwise),
                TRADE,
                school=school,
            )
        elif _nobody_knows(sheet):
            decided = any(d.chosen and d.by for d in sheet.decisions.values())
            text = sentence(
                "Nobody knows whether it burnt out: an acid test tells, and takes a minute. Without one the owner's word decides, with a name."
            )
            notes.say("recovered.burnout", "Open" if decided else "Wait", text, TRADE, school=school)
        else:
            text = sentence("The acid test is clean, and it stays with its owner: it may go back in.")
            if sheet.acid != "clean":
                text = sentence("Not tested for acid: a test, or new refrigerant, is surer. It stays with its owner: it may go back in.")
            notes.say("recovered.use", "Holds", text, TRADE, school=school)
    else:
        notes.say("recovered.use", "Holds", "It goes for reclaim; new refrigerant goes in.", TRADE, school=school)
    if sheet.use == "other_circuit":
        _transfer(sheet, recovered, full, unsure, notes, context)


def _nobody_knows(sheet: RecoverSheet) -> bool:
    """Whether a burnout is not known, and no acid test says."""
    return sheet.burnout is None and bool(sheet.burnout_unknown) and sheet.acid in {None, "not_tested"}


def _against_reuse(sheet: RecoverSheet, share: Share | None, context: StepContext) -> Message | None:
    if sheet.burnout:
        return Message("After a burnout it carries acid and soot.")
    if sheet.acid == "acid":
        return Message("The acid test says acid.")
    if sheet.oily:
        return Message("It is oily, or not known what is in it.")
    if context.profile.choice("recovered.use") == "new":
        return Message("This shop always charges new.")
    name = context.plate.refrigerant
    if share is not None and name is not None and refrigerants.is_known(name):
        pressure = saturation.bubble_pressure_pa(name, GLIDE_AT_K)
        glide = saturation.dew_temperature_k(name, pressure) - GLIDE_AT_K
        if glide > context.profile.value("glide.zeotrope") and 1.0 - share.share > context.profile.value("recover.blend_lost"):
            return Message("A blend that lost that much has changed its make-up.")
    return None


def _transfer(sheet: RecoverSheet, recovered: float | None, full: float | None, unsure: float, notes: Notes, context: StepContext) -> None:
    """Surplus to another circuit of the same owner and refrigerant, from weighed figures only."""
    notes.need(context.path("to_circuit"), "to which circuit", sheet.to_circuit)
    if not notes.need(context.path("to_circuit_mass"), "how much, weighed", sheet.to_circuit_mass):
        return
    mass = sheet.to_circuit_mass
    assert mass is not None
    if mass.source in {"told", "assumed"}:
        notes.say(
            "transfer.weighed",
            "Stop",
            "Only {value} told or assumed: a transfer takes a weighed figure.",
            TRADE,
            value=Amount(mass.value, "mass"),
        )
        return
    if recovered is None or full is None:
        return
    surplus = recovered if context.job.kind == "retrofit" else recovered - full
    amounts = {"value": Amount(mass.value, "mass"), "limit": Amount(max(surplus, 0.0), "mass", unsure)}
    if mass.value > surplus + 2.0 * unsure:
        notes.say(
            "transfer.surplus",
            "Stop",
            "{value} to another circuit, and only {limit} are over what belongs here.",
            TRADE,
            value=amounts["value"],
            limit=amounts["limit"],
        )
    else:
        notes.say(
            "transfer.surplus",
            "Holds",
            "{value} of a surplus of {limit} go to the other circuit; both books say so.",
            TRADE,
            value=amounts["value"],
            limit=amounts["limit"],
        )
