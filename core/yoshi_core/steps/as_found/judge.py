"""As found: what the unit says before anyone touches it, and what that can mean."""

from dataclasses import replace

from yoshi_core import refrigerants
from yoshi_core.document.plate import ONLY_COOL
from yoshi_core.document.sheets import value_of
from yoshi_core.findings.pictures import AsFoundPicture, Compared
from yoshi_core.findings.result import StepResult
from yoshi_core.message import Message, headline, sentence
from yoshi_core.profile.profile import TRADE
from yoshi_core.steps.as_found.handed import Found, Read
from yoshi_core.steps.as_found.ranking import NEEDED, Ranking, lacking, ranking
from yoshi_core.steps.as_found.readings import read
from yoshi_core.steps.as_found.report import bands, cautions, figures, rungs
from yoshi_core.steps.as_found.sheet import AsFoundSheet
from yoshi_core.steps.as_found.standing import at_air
from yoshi_core.steps.contract import Judged, Notes, StepContext
from yoshi_core.steps.sheet_checks import ask_about_sheet
from yoshi_core.steps.verdicts import Otherwise, verdict
from yoshi_core.steps.verify import fingerprint
from yoshi_core.units.display import Amount

CYCLING = {
    "low": sentence(
        "Its low-pressure control stops it: switch it off; do not let it keep trying. Readings taken while it short-cycles do not count. Checks that need no running unit come first."
    ),
    "high": sentence(
        "Its high-pressure control stops it: switch it off before it trips again. Readings taken while it short-cycles do not count. Condenser, fan and air first."
    ),
    "thermostat": sentence(
        "Its thermostat or a timer stops it: no fault of the circuit by itself. Look at the control, where it feels, and its difference."
    ),
    "unknown": sentence(
        "It short-cycles: switch it off; do not let it keep trying. Readings taken in between do not count. Checks that need no running unit come first."
    ),
}
COARSE = sentence("Ranked by the trade's table of signs, which is coarser than what is known of a cooling unit with both ports read.")


def judge(context: StepContext) -> Judged:
    """Derived figures at once; causes only when the unit may be judged."""
    notes = context.notes
    sheet: AsFoundSheet = context.run.sheet if context.run else AsFoundSheet()
    if context.run:
        ask_about_sheet(notes, sheet, context.path(), context.run.answers)
    plate = context.plate
    if plate.kind in ONLY_COOL and sheet.mode is None:
        sheet = replace(sheet, mode="cooling")
    known = plate.refrigerant is not None and refrigerants.is_known(plate.refrigerant)
    found = read(sheet, notes, context)
    refused = _refusals(sheet, notes, context)
    speaks = known and sheet.running in {"settled", "cycling"} and not refused
    if notes.need(context.path("running"), "is it running", sheet.running) and speaks:
        _need_readings(sheet, found, notes, context)
    if not known:
        notes.need("/steps/identify/runs/0/sheet/refrigerant", "a refrigerant Yoshi has tables for", None)
    ranked = None
    if speaks and not notes.problems and not notes.missing:
        ranked = ranking(sheet, found, notes, context)
    if ranked is not None:
        _say_head(found, notes, context)
        _say_lead(ranked, notes)
    _say_bulb(sheet, found, notes, context)
    _say_cut_out(sheet, found, notes, context)
    coarse = (Message(COARSE),) if ranked and not ranked.learned else ()
    remarks = (*coarse, *(ranked.remarks if ranked else ()), *_history(sheet, context))
    result = StepResult(
        step=context.step,
        state="open",
        verdict=verdict(notes, _otherwise(sheet, found, ranked)),
        summary=_summary(found, ranked),
        figures=figures(sheet, found),
        missing=tuple(notes.missing),
        questions=tuple(notes.questions),
        problems=tuple(notes.problems),
        cautions=cautions(sheet, plate, known),
        picture=AsFoundPicture(
            bands=bands(found, context),
            rungs=rungs(sheet, found),
            causes=ranked.rows() if ranked else (),
            next_check=ranked.check_row() if ranked else None,
            compared=_compared(sheet, found, context),
            notes=remarks,
        ),
    )
    lead = ranked.ranked[0].cause if ranked else None
    return Judged(result, Found(lead, bool(ranked and ranked.settled), found.standing, found.left_kg, found, at_air(sheet)))


def _refusals(sheet: AsFoundSheet, notes: Notes, context: StepContext) -> bool:
    """Why the charge must not be judged yet; each named, with what to do."""
    before = len(notes.reasons)
    if sheet.iced:
        notes.say(
            "as_found.iced",
            "Wait",
            "A coil is iced: nothing is judged before it is thawed, about an hour with the fan running. Clean a dirty condenser meanwhile.",
            TRADE,
        )
    if sheet.inverter:
        notes.say(
            "as_found.inverter",
            "Wait",
            "It changes its own speed, so the table of causes does not apply. Set its test mode, or recover and weigh.",
            TRADE,
        )
    limit = context.profile.value("as_found.run_in")
    run_time = value_of(sheet.run_time)
    if sheet.running == "just_started":
        notes.say(
            "as_found.run_in",
            "Wait",
            "It has just started: a warm room loads it. Readings count after {limit}.",
            context.profile.source("as_found.run_in"),
            limit=Amount(limit, "duration"),
        )
    elif sheet.running == "settled" and notes.need(context.path("run_time"), "running for", sheet.run_time):
        assert run_time is not None
        if run_time < limit:
            notes.say(
                "as_found.run_in",
                "Wait",
                "It has run {value}; readings count after {limit}.",
                context.profile.source("as_found.run_in"),
                value=Amount(run_time, "duration"),
                limit=Amount(limit, "duration"),
            )
    if sheet.running == "cycling":
        notes.say("as_found.cycling", "Open", CYCLING.get(sheet.cycles_on or "", CYCLING["unknown"]), TRADE)
    if sheet.running == "off":
        if notes.need(context.path("standing_pressure"), "standing pressure", sheet.standing_pressure):
            notes.need(context.path("standing_cold"), "coldest part of the system", sheet.standing_cold)
        return True
    return any(reason.word == "Wait" for reason in notes.reasons[before:])


def _need_readings(sheet: AsFoundSheet, found: Read, notes: Notes, context: StepContext) -> None:
    """What would let it speak, named; nothing more is asked once one figure speaks."""
    if sheet.running == "cycling" or notes.need(context.path("mode"), "mode", sheet.mode):
        for field in lacking(sheet, found, context):
            label = "outdoor air" if field == "outdoor" and sheet.mode == "heating" else NEEDED[field]
            notes.need(context.path(field), label, None)


def _say_head(found: Read, notes: Notes, context: StepContext) -> None:
    """A head pressure far over usual is not a charge fault by itself."""
    if context.plate.kind not in {"reach_in", "receiver"} or found.over_k is None or found.condensing_k is None:
        return
    rule = "coil.reach_in_over_high" if context.plate.kind == "reach_in" else "coil.walk_in_over_high"
    most = context.profile.value(rule) + context.profile.value("coil.slack")
    if found.over_k > most:
        notes.say(
            "as_found.head_high",
            "Open",
            "Condensing at {condensing} is {value} over the air, far over the {limit} that is usual. "
            "By itself that is no fault of the charge: coil, fan and air first.",
            context.profile.source(rule),
            value=Amount(found.over_k, "temperature_delta"),
            limit=Amount(most, "temperature_delta"),
            condensing=Amount(found.condensing_k, "temperature"),
        )


def _say_bulb(sheet: AsFoundSheet, found: Read, notes: Notes, context: StepContext) -> None:
    """Hardly any superheat with a valve: its bulb first, whatever else fits."""
    least = context.profile.value("verify.superheat_low")
    if (
        sheet.running != "settled"
        or context.plate.metering not in {"txv", "eev"}
        or found.superheat_k is None
        or found.superheat_k >= least
    ):
        return
    text = (
        sentence("Superheat {value} with a valve, under {limit}: look at its bulb and strap first. Liquid may reach the compressor.")
        if context.plate.metering == "txv"
        else sentence(
            "Superheat {value} with a valve, under {limit}: look at its sensors first, where they sit and how. Liquid may reach the compressor."
        )
    )
    amounts = {"value": Amount(found.superheat_k, "temperature_delta"), "limit": Amount(least, "temperature_delta")}
    notes.tell("as_found.bulb", "Open", text, context.profile.source("verify.superheat_low"), amounts)


def _say_cut_out(sheet: AsFoundSheet, found: Read, notes: Notes, context: StepContext) -> None:
    """A head so high that its control is about to trip is said, whatever the causes are."""
    limit = context.profile.value("coil.near_cut_out")
    if sheet.running != "settled" or found.condensing_k is None or found.condensing_k < limit:
        return
    text = sentence("Condensing at {value}: from about {limit} on its high-pressure control is near. Switch it off before it trips.")
    amounts = {"value": Amount(found.condensing_k, "temperature"), "limit": Amount(limit, "temperature")}
    notes.tell("as_found.near_cut_out", "Open", text, context.profile.source("coil.near_cut_out"), amounts)


def _history(sheet: AsFoundSheet, context: StepContext) -> tuple[Message, ...]:
    """What is known of earlier visits: shown, never scored."""
    said = (
        [headline("Told about earlier visits: {told}. It is shown here and changes nothing.", told=sheet.history.rstrip("."))]
        if sheet.history
        else []
    )
    earlier = (
        headline("{on:day}: {told}", on=f"{fact.as_of:%Y-%m-%d}", told=str(fact.values.get("text", "")))
        for fact in context.job.facts
        if fact.kind == "visit"
    )
    return (*said, *earlier)


def _compared(sheet: AsFoundSheet, found: Read, context: StepContext) -> tuple[Compared, ...]:
    fact = fingerprint.of(context.job)
    if fact is None or not fingerprint.alike(fact.values, value_of(sheet.outdoor)):
        return ()
    now = {
        "suction_gauge_pa": value_of(sheet.suction_pressure),
        "liquid_gauge_pa": value_of(sheet.liquid_pressure),
        "superheat_k": found.superheat_k,
        "subcooling_k": found.subcooling_k,
        "split_k": found.split_k,
        "amps_share": found.amps_share,
        "outdoor_k": value_of(sheet.outdoor),
    }
    return fingerprint.compare(fact.values, now)


def _otherwise(sheet: AsFoundSheet, found: Read, ranked: Ranking | None) -> Otherwise:
    if ranked is None:
        if sheet.running == "off" and found.standing is not None:
            return Otherwise(Message("It does not run. Only the standing pressure tells anything."))
        return Otherwise(Message("Not enough was read to say anything."), "Open")
    return Otherwise(headline("What fits best: {label}.", label=ranked.ranked[0].label))


def _say_lead(ranked: Ranking, notes: Notes) -> None:
    """A leader that does not stand clear waits for the check that separates it."""
    if ranked.unlike:
        text = sentence("These readings look like no fault Yoshi knows: read them again, clamps first. Take what follows as a hint.")
        notes.say("as_found.unlike", "Wait", text, "practice rig, a model")
    if ranked.settled or ranked.next_check is None:
        return
    text = sentence("{cause:cap} fits best, not alone. A check of {minutes} separates it from the next.")
    minutes = Amount(ranked.next_check.minutes * 60.0, "duration")
    notes.say("as_found.next_check", "Wait", text, TRADE, minutes=minutes, cause=ranked.ranked[0].label)


STANDS = {"below": Message("nearly empty"), "at": Message("liquid is there"), "above": Message("air, or another refrigerant")}


def _summary(found: Read, ranked: Ranking | None) -> Message:
    if ranked is not None:
        return headline("{cause}", cause=ranked.ranked[0].label)
    if found.standing is not None:
        return STANDS[found.standing]
    return Message("gauges on")
