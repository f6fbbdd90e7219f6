"""A cylinder that is warmed so that it gives more: never with a flame, never too warm."""

from dataclasses import replace

from yoshi_core.document.sheets import value_of
from yoshi_core.message import sentence
from yoshi_core.profile.fixed import FIXED, fixed
from yoshi_core.profile.profile import TRADE
from yoshi_core.steps.contract import Notes
from yoshi_core.steps.weigh_in.sheet import WeighInSheet
from yoshi_core.units.display import Amount


def warmed(sheet: WeighInSheet, notes: Notes) -> WeighInSheet:
    """Judge how warm the cylinder is and by what; the sheet without a temperature nothing is planned with.

    The Stop goes when what it is warmed by, or its temperature, is another. What was done while a draw went in stays as a remark once
    every draw is over.
    """
    over = bool(sheet.draws) and all(draw.gross_end is not None for draw in sheet.draws.values())
    if sheet.warmed_by == "flame":
        if over:
            notes.say("weigh_in.flame", "Open", "A flame was on the cylinder while it gave: it is kept in the record.", TRADE)
        else:
            text = sentence("Take the flame off the cylinder: its plug melts, or it bursts. Warm water, or a blanket made for it.")
            notes.say("weigh_in.flame", "Stop", text, TRADE, role="hard")
    temperature, most = value_of(sheet.cylinder_temperature), fixed("cylinder.warmest")
    if temperature is None or temperature <= most:
        return sheet
    amounts = {"value": Amount(temperature, "temperature"), "limit": Amount(most, "temperature")}
    text = sentence("The cylinder is at {value}; {limit} is the most. Full of liquid it bursts. Let it cool before it is moved or opened.")
    notes.tell("weigh_in.too_warm", "Stop", text, FIXED["cylinder.warmest"].source, amounts, role="hard")
    return replace(sheet, cylinder_temperature=None)
