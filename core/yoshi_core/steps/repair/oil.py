"""The oil's account, and whether what goes in is the oil of this compressor."""

from math import fsum
from typing import Literal

from yoshi_core import refrigerants
from yoshi_core.charge.oils import differs, read_oil
from yoshi_core.document.sheets import value_of
from yoshi_core.message import Message, headline, joined, sentence
from yoshi_core.profile.profile import TRADE
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.steps.repair.sheet import RepairSheet
from yoshi_core.units.display import Amount

SAME_M3 = 1e-6


def judge_oil(sheet: RepairSheet, notes: Notes, context: StepContext) -> float | None:
    """Oil to add in m³: what came out, what new parts need, less what is in them and what dye brings."""
    moved = sheet.oil_out is not None or any(row.oil_needs or row.oil_inside for row in sheet.parts.values())
    compressor = any(row.kind == "compressor" for row in sheet.parts.values())
    if compressor or moved:
        notes.need(context.path("oil_out"), "oil that came out", sheet.oil_out)
    if sheet.oil_out == "blown_out":
        text = sentence(
            "Oil was blown out and not measured: how much to add cannot be worked out. Check the level by the maker's way before it runs long."
        )
        notes.say("repair.oil", "Wait" if compressor else "Open", text, TRADE)
        return None
    if sheet.oil_out == "unknown":
        text = sentence(
            "What oil was in the old one is not known: the new one's own filling stands, ± what the circuit kept. Check the level by the maker's way."
        )
        notes.say("repair.oil", "Open", text, TRADE)
        return None
    if sheet.oil_out == "measured" and not notes.need(context.path("oil_removed"), "how much oil came out", sheet.oil_removed):
        return None
    if not moved:
        return None
    if sheet.oil_out == "measured" or any(row.oil_needs or row.oil_inside for row in sheet.parts.values()):
        notes.need(context.path("oil_grade"), "the oil's grade", sheet.oil_grade)
    judge_grade(sheet, notes, context)
    plus = fsum(value_of(row.oil_needs) or 0.0 for row in sheet.parts.values())
    minus = fsum(value_of(row.oil_inside) or 0.0 for row in sheet.parts.values())
    to_add = (value_of(sheet.oil_removed) or 0.0) + plus - minus - (value_of(sheet.oil_dye) or 0.0)
    amounts = {"value": Amount(abs(to_add), "oil_volume")}
    if to_add < 0.0:
        notes.tell("repair.oil", "Wait", "{value} too much oil: the new parts bring more than came out. Drain it first.", TRADE, amounts)
    else:
        notes.tell(
            "repair.oil",
            "Holds",
            sentence("{value} of {grade} to add.") if sheet.oil_grade else sentence("{value} to add."),
            TRADE,
            amounts,
            {"grade": sheet.oil_grade or ""},
        )
    _against_added(to_add, sheet, notes)
    return to_add


def _against_added(to_add: float, sheet: RepairSheet, notes: Notes) -> None:
    """What was put in against what was to be added; a dye's carrier is oil too."""
    added = value_of(sheet.oil_added)
    if added is None or abs(added - to_add) <= SAME_M3:
        return
    dye = value_of(sheet.oil_dye) or 0.0
    amounts = {
        "value": Amount(added + dye, "oil_volume"),
        "limit": Amount(max(to_add, 0.0) + dye, "oil_volume"),
        "over": Amount(abs(added - to_add), "oil_volume"),
    }
    much = sentence("{value} of oil went in, where {limit} belong: {over} too much.")
    little = sentence("{value} of oil went in, where {limit} belong: {over} too little.")
    counted = Message("The dye is counted.") if dye else None
    notes.tell("repair.oil_added", "Open", joined(Message(much if added > to_add else little), counted), TRADE, amounts)


def judge_grade(sheet: RepairSheet, notes: Notes, context: StepContext) -> None:
    """The oil that goes in against the plate's, else against what this refrigerant carries; an electric compressor takes its own alone."""
    if not sheet.oil_grade:
        return
    fitted, wanted = sheet.oil_grade, context.plate.oil
    if context.plate.kind == "vehicle":
        notes.need("/steps/identify/runs/0/sheet/electric", "whether its compressor is electric", context.plate.electric)
    path = context.path("oil_grade")
    typed = [*dict.fromkeys((fitted, *(str(dispute.value) for dispute in context.job.disputes if dispute.path == path)))]
    if len(typed) > 1:
        text = headline("Typed as {typed}. One oil is in it: read it off the compressor, and choose.", typed=tuple(typed))
        notes.say("repair.oil_kind", "Wait", text, TRADE)
        return
    if sheet.oil_named:
        notes.say("repair.oil_kind", "Holds", "{fitted} is what the compressor names.", TRADE, fitted=fitted)
        return
    if wanted:
        _against_plate(fitted, wanted, differs(fitted, wanted), notes, context)
        return
    kind, name = read_oil(fitted).kind, context.plate.refrigerant
    if context.plate.electric:
        text = headline(
            "An electric compressor takes the oil named on it alone, for the oil insulates its windings: read it there before {fitted} goes in.",
            fitted=fitted,
        )
        notes.say("repair.oil_kind", "Wait", text, TRADE)
    elif kind is None:
        notes.say(
            "repair.oil_kind",
            "Open",
            "{fitted} does not say what kind of oil it is: POE, PVE, PAG or mineral. Read it off the compressor.",
            TRADE,
            fitted=fitted,
        )
    elif name is not None and refrigerants.is_known(name) and kind not in {read_oil(oil).kind for oil in refrigerants.get(name).oils}:
        text = headline("{kind} is not an oil {name} usually runs with. Read it off the compressor.", kind=kind, name=name)
        notes.say("repair.oil_kind", "Wait", text, TRADE)


def _against_plate(fitted: str, wanted: str, how: Literal["kind", "grade", "not_known"] | None, notes: Notes, context: StepContext) -> None:
    electric = bool(context.plate.electric)
    if how == "kind":
        text = headline("{fitted} is another kind of oil than the {wanted} on record. It does not go in.", fitted=fitted, wanted=wanted)
        notes.say("repair.oil_kind", "Stop", text, TRADE)
    elif how == "grade":
        text = headline("{fitted} is another grade than the {wanted} on record. Take the one that is named.", fitted=fitted, wanted=wanted)
        notes.say("repair.oil_kind", "Stop" if electric else "Wait", text, TRADE)
    elif how == "not_known":
        text = headline(
            "Whether {fitted} is the {wanted} on record cannot be told by their names. Read it off the compressor.",
            fitted=fitted,
            wanted=wanted,
        )
        notes.say("repair.oil_kind", "Wait" if electric else "Open", text, TRADE)
    else:
        notes.say("repair.oil_kind", "Holds", "{fitted} is the oil on record.", TRADE, fitted=fitted)
