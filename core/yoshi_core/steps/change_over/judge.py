"""Change over: oil until little enough of the old is left, seals, metering and pressure controls, and the tag until it is charged."""

from collections.abc import Callable

from yoshi_core import refrigerants
from yoshi_core.charge import oil_change
from yoshi_core.charge.oil_change import Turn
from yoshi_core.charge.total import LIMIT_TO_STANDARD
from yoshi_core.charge.tubing import bore_m
from yoshi_core.document.model import StepRecord
from yoshi_core.document.plate import Plate
from yoshi_core.document.sheets import value_of
from yoshi_core.errors import CoreError
from yoshi_core.findings.pictures import ChangeOverPicture
from yoshi_core.findings.result import StepResult
from yoshi_core.findings.verdict import Figure
from yoshi_core.message import Message, headline, joined, plural, sentence, told
from yoshi_core.profile.profile import TRADE
from yoshi_core.retrofit import candidates as retrofit
from yoshi_core.running import controls
from yoshi_core.steps import plates
from yoshi_core.steps.change_over.report import cautions, control_figure, label_lines, oil_figure
from yoshi_core.steps.change_over.sheet import CONTROLS, ChangeOverSheet, Control, OilChange
from yoshi_core.steps.contract import Judged, Notes, StepContext
from yoshi_core.steps.plan_change.handed import Change
from yoshi_core.steps.repair.sheet import RepairSheet
from yoshi_core.steps.sheet_checks import ask_about_sheet
from yoshi_core.steps.verdicts import Otherwise, verdict
from yoshi_core.units.display import Amount

LEVEL_SHARE = 0.05


def judge(context: StepContext) -> Judged:
    """What still holds of the old refrigerant in this system, and what the new one needs."""
    notes = context.notes
    sheet: ChangeOverSheet = context.run.sheet if context.run else ChangeOverSheet()
    if context.run:
        ask_about_sheet(notes, sheet, context.path(), context.run.answers)
    change = context.handed.plan_change
    if change is None:
        notes.need("/steps/plan_change/runs/0/sheet/refrigerant", "what it changes to", None)
    expected = _expected(change, context)
    figures: list[Figure] = []
    if change is not None:
        figures += _oil(sheet, change, notes, context)
        _drier(notes, context)
        _metering(sheet, change, notes, context)
        figures += _controls(sheet, change, notes, context)
    _seals_and_tag(sheet, change, notes, context)
    result = StepResult(
        step=context.step,
        state="open",
        verdict=verdict(notes, Otherwise(Message("Oil, seals, metering and controls are the new refrigerant's."))),
        summary=Message("oil, valve, controls") if change is None else headline("for {new}", new=change.new),
        figures=tuple(figures),
        missing=tuple(notes.missing),
        questions=tuple(notes.questions),
        problems=tuple(notes.problems),
        cautions=cautions(),
        picture=ChangeOverPicture(notes=() if change is None else label_lines(change, sheet, None if expected is None else expected[0])),
    )
    return Judged(result, None, becomes=_becomes(change, expected, sheet))


def _expected(change: Change | None, context: StepContext) -> tuple[float, float] | None:
    """What the new refrigerant is expected to take in kg, and its limit: of the old total as the repair left it."""
    identified = context.handed.identify
    build_up = identified.careful
    if change is None or change.charge is None or build_up is None:
        return None
    ratio = change.charge.ratio
    return build_up.total_kg * ratio, build_up.uncertainty_kg * ratio / LIMIT_TO_STANDARD


def _becomes(change: Change | None, expected: tuple[float, float] | None, sheet: ChangeOverSheet) -> Callable[[Plate], Plate] | None:
    """From here on the plate is the new refrigerant's, with the expected charge for its own."""
    if change is None or expected is None:
        return None
    return lambda plate: plates.retrofitted(plate, change.new, *expected, sheet.oil_grade, sheet.orifice)


def _oil(sheet: ChangeOverSheet, change: Change, notes: Notes, context: StepContext) -> list[Figure]:
    """Changes of oil until what is left of the old is under the profile's limit; none where the oil suits both."""
    old = (change.present.oil or "").strip()
    if not change.oil_changes:
        if old:
            notes.say("retrofit.oil", "Holds", "{new} runs with {old}: the oil may stay.", TRADE, new=change.new, old=old)
        return []
    notes.need(context.path("oil_grade"), "oil that goes in", sheet.oil_grade)
    new = refrigerants.get(change.new)
    if sheet.oil_grade and not retrofit.oil_suits(new, sheet.oil_grade):
        text = sentence("{new} does not carry {grade} back to the compressor: it needs {oils:or}.")
        notes.say("retrofit.oil_grade", "Stop", text, TRADE, new=change.new, grade=sheet.oil_grade, oils=tuple(new.oils))
    turns = _turns(sheet, notes, context)
    try:
        left = oil_change.left_share(turns)
    except CoreError as error:
        notes.refuse(context.path("oil_system"), error.code, told(error))
        return []
    limit = context.profile.value("retrofit.residual_oil")
    amounts = {"limit": Amount(limit, "fraction")}
    if left is None or not turns:
        notes.need(
            context.path("oil_changes", next(iter(sheet.oil_changes), "o1"), "drained"),
            headline("the first change of the {old} oil", old=old),
            None,
        )
        return []
    amounts["value"] = Amount(left, "fraction")
    source = context.profile.source("retrofit.residual_oil")
    if left <= limit + 1e-9:
        notes.tell(
            "retrofit.residual_oil", "Holds", "{value} of the {old} oil is left, at most {limit} may be.", source, amounts, {"old": old}
        )
    else:
        share = next((turn.drained_share for turn in reversed(turns) if turn.drained_share), None)
        more = None if share is None else _more(oil_change.changes_to(limit, left, share))
        said = joined(Message("{value} of the {old} oil is left, at most {limit} may be."), more)
        notes.tell("retrofit.residual_oil", "Wait", said, source, amounts, {"old": old})
    return [oil_figure(turns, left, limit, source)]


def _more(count: int) -> Message:
    return plural(
        count,
        "One more change like the last: run it first, so that it mixes.",
        "{n} more changes like the last: run it between them.",
    )


def _turns(sheet: ChangeOverSheet, notes: Notes, context: StepContext) -> list[Turn]:
    """Changes that count: run and mixed before each, or read with a refractometer after it."""
    whole = value_of(sheet.oil_system)
    found = []
    for number, (key, row) in enumerate(sheet.oil_changes.items(), 1):
        if row.drained is None and row.refractometer is None:
            notes.need(context.path("oil_changes", key, "drained"), headline("what change {number} drained", number=str(number)), None)
            continue
        if row.refractometer is None:
            notes.need(context.path("oil_system"), "oil in the whole system", sheet.oil_system)
            notes.need(
                context.path("oil_changes", key, "mixed"),
                headline("whether it ran and mixed before change {number}", number=str(number)),
                row.mixed,
            )
        _level(number, row, notes)
        share = None if whole is None or row.drained is None or not whole else row.drained.value / whole
        if row.mixed is False and number > 1 and row.refractometer is None:
            text = sentence("Change {number} drained what had just been filled: it had not run and mixed, so it does not count.")
            notes.say("retrofit.mixed", "Open", text, TRADE, number=str(number))
            share = 0.0
        found.append(Turn(share, value_of(row.refractometer)))
    return found


def _level(number: int, row: OilChange, notes: Notes) -> None:
    drained, filled = value_of(row.drained), value_of(row.filled)
    if drained is None or filled is None or abs(filled - drained) <= LEVEL_SHARE * max(drained, filled):
        return
    amounts = {"value": Amount(filled, "oil_volume"), "limit": Amount(drained, "oil_volume")}
    text = sentence("Change {number}: {value} filled for {limit} drained. Look at the level.")
    notes.tell("retrofit.level", "Open", text, TRADE, amounts, {"number": str(number)})


def _drier(notes: Notes, context: StepContext) -> None:
    """Repair asks about the drier; left out, it leaves the old one in."""
    state = context.earlier["repair"].state
    runs = context.job.steps.get("repair", StepRecord()).runs
    sheet: RepairSheet = runs[-1].sheet if runs else RepairSheet()
    if state == "not_applicable":
        text = sentence(
            "Repair was left out, and with it the new drier: the old one holds the old oil and its acid. Fit one made for the new refrigerant."
        )
        notes.say("retrofit.drier", "Wait", text, TRADE)
    elif sheet.drier in {"new", "suction_too"}:
        notes.say("retrofit.drier", "Holds", "A new drier is in; one that the new refrigerant's maker allows.", TRADE)


def _metering(sheet: ChangeOverSheet, change: Change, notes: Notes, context: StepContext) -> None:
    size, metering = change.candidate.valve_ratio, context.plate.metering
    if size is None:
        return
    amounts = {"value": Amount(size, "fraction"), "limit": Amount(context.profile.value("retrofit.size"), "fraction")}
    if metering == "orifice":
        _orifice(sheet, size, notes, context)
        return
    if metering == "capillary":
        text = sentence(
            "The capillary is what it is: the new refrigerant asks for {value} of its opening. By weight only, and watch what it does."
        )
        notes.tell("retrofit.valve", "Holds" if abs(size - 1.0) <= amounts["limit"].value else "Open", text, TRADE, amounts)
        return
    if not notes.need(context.path("valve"), "metering device", sheet.valve):
        return
    apart = abs(size - 1.0) > amounts["limit"].value
    if sheet.valve == "kept":
        text = sentence("The valve is still set for the old refrigerant: set its superheat again at Verify, from dew.")
        notes.tell("retrofit.valve", "Wait", text, TRADE, amounts)
    elif sheet.valve == "set" and apart:
        text = sentence(
            "The new refrigerant takes {value} of this valve's size: a turn of the screw does not reach that far. Another orifice, or valve."
        )
        notes.tell("retrofit.valve", "Wait", text, context.profile.source("retrofit.size"), amounts)
    else:
        notes.tell("retrofit.valve", "Holds", "It takes {value} of the old size; superheat is proven at Verify, from dew.", TRADE, amounts)


def _orifice(sheet: ChangeOverSheet, size: float, notes: Notes, context: StepContext) -> None:
    """A bore whose area follows what the new refrigerant takes."""
    old, fitted = bore_m(context.plate.orifice), bore_m(sheet.orifice)
    wanted = None if old is None else old * size**0.5
    amounts = {"value": Amount(size, "fraction")}
    if wanted is not None:
        amounts["bore"] = Amount(wanted, "tube_od")
    right = None if wanted is None else Message("{bore} would be right.")
    if not notes.need(context.path("orifice"), "orifice fitted", sheet.orifice):
        notes.tell("retrofit.orifice", "Open", joined(Message("It takes {value} of the old orifice's area."), right), TRADE, amounts)
        return
    limit = context.profile.value("retrofit.orifice")
    if wanted is None or fitted is None:
        text = sentence("It takes {value} of the old orifice's area; by their sizes as written, whether this one has it cannot be told.")
        notes.tell("retrofit.orifice", "Open", text, TRADE, amounts)
    elif abs(fitted / wanted - 1.0) > limit + 1e-9:
        said = joined(Message("It takes {value} of the old orifice's area; {orifice} is not that."), right)
        notes.tell("retrofit.orifice", "Wait", said, context.profile.source("retrofit.orifice"), amounts, {"orifice": sheet.orifice or ""})
    else:
        notes.tell(
            "retrofit.orifice", "Holds", "Orifice {orifice} has the area it takes.", TRADE, amounts, {"orifice": sheet.orifice or ""}
        )


def _controls(sheet: ChangeOverSheet, change: Change, notes: Notes, context: StepContext) -> list[Figure]:
    """Every pressure control at the same coil temperature, under the new refrigerant's pressure."""
    if not sheet.controls:
        if (
            notes.need(context.path("no_controls"), "pressure controls, or that there are none", sheet.no_controls)
            and sheet.no_controls is False
        ):
            notes.need(context.path("controls", "k1", "kind"), "which control", None)
        return []
    found = []
    for key, row in sheet.controls.items():
        figure = _control(key, row, change, notes, context)
        if figure is not None:
            found.append(figure)
    return found


def _control(key: str, row: Control, change: Change, notes: Notes, context: StepContext) -> Figure | None:
    if not notes.need(context.path("controls", key, "kind"), "which control", row.kind) or row.kind is None:
        return None
    label = CONTROLS[row.kind]
    if (
        not notes.need(context.path("controls", key, "was"), headline("where the {control} stood", control=label), row.was)
        or row.was is None
    ):
        return None
    present = change.present
    low_side = row.kind in controls.LOW_SIDE
    try:
        wanted, mean_k = controls.changed_pa(change.old, change.new, row.was.value, low_side, present.altitude_m, present.gauge_reference)
    except CoreError as error:
        notes.refuse(context.path("controls", key, "was"), error.code, told(error))
        return None
    most = present.design_high_pa if row.kind == "high_cut_out" else None
    limited = most is not None and wanted > most
    if most is not None:
        wanted = min(wanted, most)
    slack = context.profile.value("retrofit.control")
    amounts = {"limit": Amount(wanted, "gauge_pressure")}
    if (
        notes.need(context.path("controls", key, "set_to"), headline("what the {control} is set to", control=label), row.set_to)
        and row.set_to is not None
    ):
        amounts["value"] = Amount(row.set_to.value, "gauge_pressure")
        over = most is not None and row.set_to.value > most + 1e-9
        right = abs(row.set_to.value - wanted) <= slack + 1e-9 and not over
        if limited:
            text = sentence("{control:cap} at {value}: {limit} is the most the plate allows.")
        else:
            text = sentence("{control:cap} at {value}: {limit} is the same coil temperature as before.")
        said = joined(Message(text), None if right else Message("Set it."))
        notes.tell(
            "retrofit.control", "Holds" if right else "Wait", said, context.profile.source("retrofit.control"), amounts, {"control": label}
        )
    return control_figure(key, label, row.was.value, mean_k, wanted, limited)


def _seals_and_tag(sheet: ChangeOverSheet, change: Change | None, notes: Notes, context: StepContext) -> None:
    if notes.need(context.path("seals"), "new seals at valves, flanges and glass", sheet.seals) and sheet.seals is False:
        text = sentence("Seals the old oil has swollen shrink under the new one, and leak: new ones while it is empty.")
        notes.say("retrofit.seals", "Wait", text, TRADE)
    if notes.need(context.path("tagged"), "old plate crossed out and tagged", sheet.tagged) and sheet.tagged is False:
        notes.say(
            "retrofit.tagged",
            "Wait",
            "Cross out the old plate and hang a tag on it: {old} still stands on it, and the next one would fill that.",
            TRADE,
            old=change.old if change else "the old refrigerant",
        )
