"""How Change over shows itself: the oil account, each control's new pressure, what the label will say."""

from collections.abc import Sequence

from yoshi_core.charge.oil_change import Turn
from yoshi_core.findings.verdict import Caution, Figure, Term, Why
from yoshi_core.message import Message, headline, sentence
from yoshi_core.profile.profile import TRADE
from yoshi_core.steps.change_over.sheet import ChangeOverSheet
from yoshi_core.steps.plan_change.handed import Change
from yoshi_core.units.display import Amount


def oil_figure(turns: Sequence[Turn], left: float, limit: float, source: str) -> Figure:
    """What is left of the old oil, change by change."""
    terms = [Term("", Amount(1.0, "fraction"), "old oil to begin with")]
    for number, turn in enumerate(turns, 1):
        if turn.read is not None:
            terms.append(Term("", Amount(turn.read, "fraction"), headline("read after change {number}", number=str(number))))
        elif turn.drained_share is not None:
            terms.append(
                Term("×", Amount(1.0 - turn.drained_share, "fraction"), headline("stays after change {number}", number=str(number)))
            )
    terms.append(Term("=", Amount(left, "fraction"), "old oil left"))
    note = Message("What stays behind mixes with the new: at most {limit} may be left.", {"limit": Amount(limit, "fraction")})
    return Figure("old_oil", "old oil left", Amount(left, "fraction"), Why((tuple(terms),), (note,), source, "retrofit.residual_oil"))


def control_figure(key: str, label: str, was_pa: float, mean_k: float, wanted_pa: float, limited: bool) -> Figure:
    """A control's new pressure, by the coil temperature it stood for."""
    terms = (
        Term("", Amount(was_pa, "gauge_pressure"), "stood at"),
        Term("", Amount(mean_k, "temperature"), "mean of the coil there"),
        Term("=", Amount(wanted_pa, "gauge_pressure"), "the new refrigerant's pressure there"),
    )
    note = Message(
        sentence("The plate's design pressure decides: it cuts out earlier than before.")
        if limited
        else sentence("Proven by gauge when it runs.")
    )
    return Figure(
        f"control_{key}",
        headline("{control}, set to", control=label),
        Amount(wanted_pa, "gauge_pressure"),
        Why((terms,), (note,), TRADE, "retrofit.control"),
    )


def label_lines(change: Change, sheet: ChangeOverSheet, expected_kg: float | None) -> tuple[Message, ...]:
    """What goes on the tag now, and on the label when it is charged."""
    text = (
        sentence("Changed from {old} to {new}, oil {oil}. Never top up with {old}.")
        if sheet.oil_grade
        else sentence("Changed from {old} to {new}. Never top up with {old}.")
    )
    lines = [headline(text, old=change.old, new=change.new, oil=sheet.oil_grade or "")]
    if expected_kg is not None:
        lines.append(Message("Expected charge {final}, with its lines; not charged yet.", {"final": Amount(expected_kg, "mass")}))
    return tuple(lines)


def cautions() -> tuple[Caution, ...]:
    """Where it bites here."""
    return (
        Caution("power", Message("Power locked out, capacitors discharged, before a hand goes in.")),
        Caution("oil", Message("Drained oil boils refrigerant out and burns the skin: gloves, goggles, air; it is waste by local law.")),
        Caution("relief", Message("Relief valves and hoses must suit the new refrigerant; the plate's design pressure stays what it was.")),
    )
