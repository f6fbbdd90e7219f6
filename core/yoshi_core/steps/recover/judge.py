"""Recover: the plan before anything is opened, the room while it runs, and what the weight says when it is over."""

from math import sqrt

from yoshi_core.account.account import Booked
from yoshi_core.charge import recovery
from yoshi_core.charge.recovery import Share
from yoshi_core.charge.total import LIMIT_TO_STANDARD
from yoshi_core.document.pairing import SOURCE, open_question
from yoshi_core.document.plate import LINELESS_KINDS
from yoshi_core.errors import CoreError
from yoshi_core.findings.pictures import RecoverPicture
from yoshi_core.findings.result import StepResult
from yoshi_core.findings.verdict import Reason, Role, Word, worst
from yoshi_core.message import Label, Message, headline, joined, sentence, told
from yoshi_core.profile.profile import TRADE
from yoshi_core.steps.contract import Judged, Notes, StepContext
from yoshi_core.steps.recover.after import judge_level, judge_pump_down, judge_use
from yoshi_core.steps.recover.by_others import judge_handed_down, nothing_in_it
from yoshi_core.steps.recover.by_others import words as words_of_others
from yoshi_core.steps.recover.cylinders import Taken, judge_cylinders, read_cylinders, rows
from yoshi_core.steps.recover.handed import Recovered
from yoshi_core.steps.recover.report import cautions, figures, speed_ups
from yoshi_core.steps.recover.sheet import RecoverSheet
from yoshi_core.steps.sections import judge_liquid
from yoshi_core.steps.sheet_checks import ask_about_sheet
from yoshi_core.steps.verdicts import Otherwise, verdict
from yoshi_core.units.display import Amount

TOTAL_FACT = "weighed_total"


def judge(context: StepContext) -> Judged:
    """What to expect, the room there is, and the verdict on the last weight."""
    notes = context.notes
    sheet: RecoverSheet = context.run.sheet if context.run else RecoverSheet()
    if context.run:
        ask_about_sheet(notes, sheet, context.path(), context.run.answers)
    found = context.handed.as_found
    again, lately = context.account.round_of(context.ids(number=context.last_run))
    full, full_source = _full(again, lately, context)
    _pairing(notes, context)
    expected = recovery.expected_kg(full, found.lead if found else None, found.left_kg if found else None) if full else None
    nothing = nothing_in_it(sheet, context)
    if not nothing:
        notes.need(context.path("way"), "how it comes out", sheet.way)
    taken: tuple[Taken, ...] = ()
    share: Share | None = None
    recovered: float | None = None
    topped = 0.0
    unsure = sqrt(2.0) * context.profile.value("scale.limit") * LIMIT_TO_STANDARD
    if sheet.way == "pump_down" and context.job.kind == "retrofit":
        text = sentence(
            "Pumped down it is still in the system: another refrigerant goes in only after all of this is out. Recover into a cylinder."
        )
        notes.say("retrofit.pump_down", "Stop", text, TRADE)
    elif sheet.way == "pump_down":
        judge_pump_down(sheet, notes, context)
    elif sheet.way == "handed":
        judge_handed_down(sheet, full, notes, context)
    elif sheet.way == "cylinder":
        taken = read_cylinders(sheet, notes, context)
        judge_cylinders(sheet, taken, expected, notes, context)
        recovered = _recovered_kg(taken, lately, context)
        topped = _topped_kg(again, lately, context)
        share = _share(sheet, recovered, full, topped, notes, context)
        _need_before(sheet, notes, context)
        if recovered is None and sheet.cylinders:
            notes.need(context.path("cylinders", next(iter(sheet.cylinders)), "gross_now"), "what the scale reads when it is over", None)
        if sheet.finished:
            judge_level(sheet, full, share, notes, context)
            if share is not None and full is not None:
                _suggest(share, full, topped, unsure, context, notes)
            judge_use(sheet, recovered, share, full, unsure, notes, context)
    if sheet.way != "handed":
        _told(sheet, recovered, notes)
    _let_off(notes, context)
    judge_liquid(notes, context)
    if sheet.way == "cylinder" and recovered is not None:
        notes.need(context.path("finished"), "whether it is finished", sheet.finished or None)
    result = StepResult(
        step=context.step,
        state="open",
        verdict=verdict(notes, _otherwise(sheet, expected, recovered, nothing=nothing)),
        summary=Message("found empty") if nothing else _summary(sheet, expected, recovered, share),
        figures=figures(None if nothing or sheet.way == "handed" else expected, recovered, share, full, full_source, unsure, context),
        missing=tuple(notes.missing),
        questions=tuple(notes.questions),
        problems=tuple(notes.problems),
        cautions=cautions(sheet, context.plate),
        movements=context.movements,
        picture=RecoverPicture(cylinders=rows(taken), notes=speed_ups(sheet, context.plate)),
    )
    ended = bool(sheet.finished) and sheet.way == "cylinder"
    emptied = (ended or (sheet.way == "handed" and sheet.others_show_it)) and worst(tuple(notes.reasons)) in {"Holds", "Open"}
    return Judged(result, _handed(sheet, recovered, share, full, emptied, notes, context, topped=topped > 0.0))


def _handed(
    sheet: RecoverSheet,
    recovered: float | None,
    share: Share | None,
    full: float | None,
    emptied: bool,
    notes: Notes,
    context: StepContext,
    *,
    topped: bool,
) -> Recovered:
    """What came out, in words: how much, of what, and down to where."""
    profile = context.profile
    clean = worst(tuple(notes.reasons)) in {"Holds", "Open"}
    down = sheet.way == "pump_down" and bool(sheet.finished) and clean and not notes.missing
    words = short = over = down_to = None
    if recovered is not None and sheet.finished:
        amounts = {"out": Amount(recovered, "mass")}
        text = sentence("{out} came out.")
        if share is not None and full is not None:
            amounts |= {"share": Amount(share.share, "fraction"), "full": Amount(full, "mass")}
            text = sentence("{out} came out.") if topped else sentence("{out} came out, {share} of {full}.")
            amounts_of = {"missing": Amount(abs(share.missing_kg), "mass"), "full": Amount(full, "mass")}
            if share.share < profile.value("recover.right_low"):
                short = Message(
                    sentence("At most {missing} of {full} were not there.") if topped else sentence("{missing} of {full} were not there."),
                    amounts_of,
                )
            elif share.share > profile.value("recover.right_high"):
                over = Message("{missing} more than {full} came out.", amounts_of)
        if sheet.end_pressure is not None and sheet.risen_to is not None:
            end, risen = (Amount(entry.value, "gauge_pressure") for entry in (sheet.end_pressure, sheet.risen_to))
            down_to = headline("Down to {end}, {risen} after the wait.", end=end, risen=risen)
        words = joined(Message(text, amounts), down_to)
    elif sheet.way == "handed":
        words = words_of_others(sheet)
    elif down and sheet.shut_at is not None:
        words = Message("Pumped down, shut at {shut}; the rest let to zero.", {"shut": Amount(sheet.shut_at.value, "gauge_pressure")})
    begun = recovered is not None or sheet.told is not None or bool(sheet.finished)
    told = sheet.told is not None and recovered is None
    return Recovered(recovered, bool(sheet.finished), emptied, begun, down, told, words, short, over, sheet.way)


def _full(again: bool, lately: tuple[Booked, ...], context: StepContext) -> tuple[float | None, Label]:
    """What belongs in the system: the last weighed total, else plate and lines. Emptied before in this job, what went in since."""
    if _came_later(context):
        return None, ""  # what came out was the old unit's, and this plate is the new one's
    if again:
        before = next((row.before for row in lately if row.line.kind == "taken"), context.account.balance)
        return before.mass_kg or None, "went in since it was empty"
    facts = [fact for fact in context.job.facts if fact.kind == TOTAL_FACT]
    if facts:
        return float(facts[-1].values["mass_kg"]), headline("weighed {on:day}", on=f"{facts[-1].as_of:%Y-%m-%d}")
    careful = context.handed.identify.careful
    return (None, "") if careful is None else (careful.total_kg, "plate and lines")


def _came_later(context: StepContext) -> bool:
    """Whether a unit with a charge of its own came after what was recovered: it is another unit's plate then."""
    mine = set(context.ids())
    booked = context.account.booked
    last = max((n for n, row in enumerate(booked) if row.line.id in mine), default=len(booked))
    return any(row.line.kind == "replaced" for row in booked[last + 1 :])


def _topped_kg(again: bool, lately: tuple[Booked, ...], context: StepContext) -> float:
    """What went on top of a charge nobody knew before it came out, in kg: so much of what came out was not there at first."""
    mine = set(context.ids())
    first = next((n for n, row in enumerate(lately) if row.line.id in mine), len(lately))
    known = any(row.line.kind in {"opening", "replaced"} for row in lately[:first])
    if again or known:
        return 0.0
    return sum(row.line.low_kg for row in lately[:first] if row.line.kind == "added" and not row.line.tracer)


def _pairing(notes: Notes, context: StepContext) -> None:
    if notes.need("/steps/identify/runs/0/sheet/pairing_proven", "proof that these units are a pair", _paired(context), hard=True):
        question = open_question(context.plate)
        if question is not None:
            word: Word = "Stop" if question.before_opening else "Open"
            role: Role = "hard" if word == "Stop" else "remark"
            notes.reasons.append(Reason(question.rule_id, question.message, word, None, None, SOURCE, role=role))


def _paired(context: StepContext) -> bool | None:
    """Whether anything was said of it; where there is nothing to pair nothing is asked."""
    return True if context.plate.kind in LINELESS_KINDS and context.plate.pairing_proven is None else context.plate.pairing_proven


def _need_before(sheet: RecoverSheet, notes: Notes, context: StepContext) -> None:
    notes.need(context.path("fan_on"), "indoor fan on, or water flowing", sheet.fan_on)
    notes.need(context.path("valves_open"), "all valves open, service mode set", sheet.valves_open)
    if sheet.fan_on is False:
        notes.say("recover.fan", "Wait", "Fan or water first: liquid that boils off in a still coil freezes it and stays behind.", TRADE)
    if sheet.valves_open is False:
        notes.say(
            "recover.valves", "Wait", "Open every valve on the way, by magnet or service mode: what is shut in does not come out.", TRADE
        )
    if sheet.frost:
        notes.say("recover.frost", "Wait", "Frost means liquid is still there. Warm it, wait, and pull again.", TRADE)


def _recovered_kg(taken: tuple[Taken, ...], lately: tuple[Booked, ...], context: StepContext) -> float | None:
    """What came out since it was last empty, by the account; None before anything was weighed."""
    if all(item.mass_kg is None for item in taken):
        return None
    mine = set(context.ids())
    return -context.account.moved_kg(row.line.id for row in lately if row.line.id in mine)


def _share(
    sheet: RecoverSheet, recovered: float | None, full: float | None, topped: float, notes: Notes, context: StepContext
) -> Share | None:
    """Share of what belongs there, of a finished recovery: a running total says nothing of what is missing. What was topped up is no part of it."""
    if recovered is None or full is None or not sheet.finished:
        return None
    try:
        return recovery.recovered_share(max(recovered - topped, 0.0), full)
    except CoreError as error:
        notes.refuse(context.path("cylinders"), error.code, told(error))
        return None


def _suggest(share: Share, full: float, topped: float, unsure: float, context: StepContext, notes: Notes) -> None:
    profile = context.profile
    low, high = profile.value("recover.right_low"), profile.value("recover.right_high")
    amounts = {
        "missing": Amount(abs(share.missing_kg), "mass", unsure),
        "full": Amount(full, "mass"),
        "share": Amount(abs(1.0 - share.share), "fraction"),
        "of": Amount(share.share, "fraction"),
    }
    source = profile.source("recover.right_low")
    if topped > 0.0:
        amounts |= {"before": Amount(share.share * full, "mass", unsure), "topped": Amount(topped, "mass")}
        text = sentence("At least {before}, {of} of {full}, were in it before {topped} went on top; what leaked out since comes to that.")
        notes.tell("recover.share", "Open", text, source, amounts)
    elif share.share < low:
        text = sentence("{share} short: {missing} of {full} were not there. It leaked, or was never full.")
        notes.tell("recover.share", "Open", text, source, amounts)
    elif share.share > high:
        text = sentence(
            "{of} came out, {missing} more than belongs there: overcharged by somebody, or a wrong plate. Check the plate before it is charged by it."
        )
        notes.tell("recover.share", "Open", text, source, amounts)
    else:
        notes.tell("recover.share", "Holds", "{of} of {full} came out: the charge was right, look elsewhere.", source, amounts)


def _told(sheet: RecoverSheet, recovered: float | None, notes: Notes) -> None:
    if sheet.told is None:
        return
    if recovered is None:
        text = sentence("{value} came out, somebody says. That proves nothing: weigh the cylinder.")
        notes.say("recover.told", "Wait", text, TRADE, value=Amount(sheet.told.value, "mass"))
    else:
        text = sentence("Told {value}, weighed {weighed}: the scale counts.")
        notes.say("recover.told", "Holds", text, TRADE, value=Amount(sheet.told.value, "mass"), weighed=Amount(recovered, "mass"))


def _let_off(notes: Notes, context: StepContext) -> None:
    """Refrigerant is never let off on purpose; what went off stands in the record, and in the year's losses."""
    for act in context.job.acts.values():
        if act.kind == "lost" and act.reserved:
            text = sentence("Refrigerant is never let off into the air. Recover it.")
            notes.say("recover.let_off", "Stop", text, "environmental law nearly everywhere; local law prevails", role="hard")
        elif act.kind == "lost":
            text = sentence("Let off into the air: it is kept in the record and among the year's losses.")
            notes.say("recover.let_off", "Open", text, "environmental law nearly everywhere; local law prevails")


def _otherwise(sheet: RecoverSheet, expected: tuple[float, float] | None, recovered: float | None, *, nothing: bool) -> Otherwise:
    if nothing:
        return Otherwise(Message("It was found empty: there is nothing to recover."))
    if sheet.way == "handed":
        return Otherwise(words_of_others(sheet) or Message("Recovered by another firm."))
    if sheet.way == "pump_down":
        return Otherwise(Message("Pumped down. It counts as still in the system."))
    missing = None
    if expected is not None and recovered is None:
        low, high = (Amount(value, "mass") for value in expected)
        missing = headline("Expect {low} to {high}. Still needed: {needed}.", low=low, high=high)
    elif recovered is not None and not sheet.finished:
        missing = headline("{so_far} so far; how much is missing is said at the end.", so_far=Amount(recovered, "mass"))
    return Otherwise(headline("{recovered} recovered.", recovered=Amount(recovered or 0.0, "mass")), missing=missing)


def _summary(sheet: RecoverSheet, expected: tuple[float, float] | None, recovered: float | None, share: Share | None) -> Message:
    if sheet.way == "pump_down" and sheet.finished:
        return Message("pumped down, still in the system")
    if sheet.way == "handed":
        return Message("by another firm")
    if recovered is not None and share is not None:
        return headline("{recovered}, {share} of full", recovered=Amount(recovered, "mass"), share=Amount(share.share, "fraction"))
    if recovered is not None:
        return headline("{recovered} so far", recovered=Amount(recovered, "mass"))
    if expected is not None:
        return headline("about {high} at most", high=Amount(expected[1], "mass"))
    return Message("into which cylinder")
