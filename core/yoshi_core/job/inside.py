"""The account in words, for screen and record."""

from collections.abc import Sequence

from yoshi_core.account.account import Account, Balance, Booked
from yoshi_core.account.lines import MASS_WITHIN_KG, Line
from yoshi_core.findings.inside import Inside, InsidePart, InsideRow
from yoshi_core.message import Label, Message, headline
from yoshi_core.steps.act_lines import ACTS, NOT_NAMED
from yoshi_core.steps.sections import Part, open_side
from yoshi_core.units.display import Amount

KNOWN = {
    "weighed": "weighed", "measured": "measured", "stamped": "stamped", "on_record": "on record", "makers": "maker's data",
    "told": "told", "assumed": "assumed", "not_said": "not said",
}  # fmt: skip
HAPPENED = {
    "added": Message("Put in"),
    "taken": Message("Taken out"),
    "lost": Message("Let off"),
    "emptied": Message("Emptied"),
    "shut_in": Message("Shut in, valves shut on it"),
}
LET_BACK = Message("Let back, valves opened")
CYLINDER, MACHINE = "cylinder:", "machine:"


def inside_of(account: Account, belongs_kg: float | None, parts: Sequence[Part] = ()) -> Inside:
    """What is inside: every line that changes or says it, and what it is now. `belongs_kg` is the total that belongs in, where known; `parts` what was shut off."""
    balance = account.balance
    return Inside(
        tuple(_row(booked) for booked in account.booked if _says_something(booked)),
        words(balance),
        Amount(balance.low_kg, "mass", balance.u_kg or None),
        None if balance.high_kg is None else Amount(balance.high_kg, "mass", balance.u_kg or None),
        KNOWN[balance.known],
        None if belongs_kg is None else Amount(belongs_kg, "mass"),
        tuple(InsidePart(part.id, part.label, part.shut, part.says, part.holds, part.passes) for part in parts),
        open_side(parts),
    )


def words(balance: Balance) -> Message:
    """A balance in words: a mass, bounds, or that it is not known."""
    if balance.mass_kg is not None:
        if balance.mass_kg == 0.0:
            return Message("empty")
        return Message("{mass}", {"mass": Amount(balance.mass_kg, "mass", balance.u_kg or None)})
    low, high = Amount(balance.low_kg, "mass"), None if balance.high_kg is None else Amount(balance.high_kg, "mass")
    if high is None:
        return Message("not known, at least {low}", {"low": low}) if balance.low_kg > 0.0 else Message("not known")
    if balance.low_kg > 0.0:
        return Message("{low} to {high}", {"low": low, "high": high})
    return Message("not known, at most {high}", {"high": high})


def _says_something(booked: Booked) -> bool:
    if booked.line.kind == "opening":
        return booked.before != booked.after
    return booked.line.kind != "beside"


def _row(booked: Booked) -> InsideRow:
    line, after = booked.line, booked.after
    states = line.kind in {"opening", "replaced", "emptied", "shut_in", "let_back"}
    return InsideRow(
        line.id,
        _happened(line, booked.raised_kg),
        _with_what(line),
        None if (states and line.step != ACTS) or line.mass_kg is None else Amount(line.mass_kg, "mass"),
        KNOWN[line.known],
        Amount(after.low_kg, "mass"),
        None if after.high_kg is None else Amount(after.high_kg, "mass"),
        words(after),
        "" if line.step == ACTS else line.step,
        line.origin,
        line.at,
        line.kind == "added",
    )


def _happened(line: Line, raised_kg: float) -> Message:
    if line.step == ACTS and line.kind == "opening":
        return Message("Inside when we came")
    if line.kind == "opening" and line.known == "on_record" and line.step == "recover":
        return Message("Pumped down, as on record if nobody topped it up")
    if line.kind in {"opening", "replaced"}:
        return _opened_with(line)
    if raised_kg > MASS_WITHIN_KG:
        return Message("Taken out, {more} more than was thought to be in it", {"more": Amount(raised_kg, "mass")})
    return HAPPENED.get(line.kind, LET_BACK)


def _opened_with(line: Line) -> Message:
    if line.known == "measured" and line.high_kg:
        return Message("Vapour only, by its standing pressure")
    return {"measured": Message("Found empty"), "stamped": Message("As it came")}.get(line.known, Message("Inside, as said"))


def _with_what(line: Line) -> Label:
    place = line.source if line.kind == "added" else line.destination
    if place == NOT_NAMED:
        return "cylinder not named" if line.kind == "added" else "into a cylinder not named"
    if place.startswith(CYLINDER):
        name = place.removeprefix(CYLINDER)
        return headline("cylinder {name}", name=name) if line.kind == "added" else headline("into {name}", name=name)
    if place.startswith(MACHINE):
        return "left in hoses and machine"
    if line.kind == "added":
        return "from another circuit"
    if line.kind == "lost":
        return "into the air"
    return {"emptied": "recovery ended", "taken": "as told"}.get(line.kind, "")
