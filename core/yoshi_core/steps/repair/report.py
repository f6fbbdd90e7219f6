"""How Repair shows itself: what the parts change, the oil account, cautions."""

from math import fsum

from yoshi_core import refrigerants
from yoshi_core.document.sheets import value_of
from yoshi_core.findings.verdict import Caution, Figure, Term, Why
from yoshi_core.message import Message
from yoshi_core.profile.profile import TRADE
from yoshi_core.steps.contract import StepContext
from yoshi_core.steps.repair.sheet import PARTS, RepairSheet
from yoshi_core.units.display import Amount


def figures(sheet: RepairSheet, oil_m3: float | None) -> tuple[Figure, ...]:
    """The change of the charge by the parts, and the oil to add."""
    found = []
    changes = [(row.label or (PARTS[row.kind] if row.kind else "a part"), row) for row in sheet.parts.values() if row.charge is not None]
    if changes:
        signed = [(name, (-1.0 if row.removes else 1.0) * (value_of(row.charge) or 0.0)) for name, row in changes]
        total = fsum(kg for _, kg in signed)
        terms = (
            *(Term("−" if kg < 0 else "+" if n else "", Amount(abs(kg), "mass"), name) for n, (name, kg) in enumerate(signed)),
            Term("=", Amount(total, "mass"), "changes the total"),
        )
        found.append(
            Figure("parts_charge", "the parts change the charge by", Amount(total, "mass"), Why((terms,), (), TRADE, "part.limit"))
        )
    if oil_m3 is not None:
        terms = (
            Term("", Amount(value_of(sheet.oil_removed) or 0.0, "oil_volume"), "came out"),
            Term("+", Amount(fsum(value_of(row.oil_needs) or 0.0 for row in sheet.parts.values()), "oil_volume"), "new parts need"),
            Term("−", Amount(fsum(value_of(row.oil_inside) or 0.0 for row in sheet.parts.values()), "oil_volume"), "is in them"),
            Term("−", Amount(value_of(sheet.oil_dye) or 0.0, "oil_volume"), "dye brings"),
            Term("=", Amount(oil_m3, "oil_volume"), "to add"),
        )
        found.append(Figure("oil", "oil to add", Amount(oil_m3, "oil_volume"), Why((terms,), (), TRADE, "repair.oil")))
    return tuple(found)


def cautions(sheet: RepairSheet, context: StepContext) -> tuple[Caution, ...]:
    """Where it bites here."""
    rows = [Caution("power", Message("Power locked out, capacitors discharged, before a hand goes in."))]
    name = context.plate.refrigerant
    if sheet.joining is None or sheet.hot:
        rows.append(
            Caution("hot_work", Message("Flame: both sides open, nitrogen flowing, extinguisher at hand. Hot-work permits are local law."))
        )
        if name and refrigerants.is_known(name) and refrigerants.get(name).is_flammable:
            rows.append(Caution("flammable", Message("Flammable: sweep with nitrogen and prove the air clear before any torch is lit.")))
    rows.append(Caution("eyes", Message("Goggles: oil after a burnout is acid, and a coil may still hold pressure.")))
    return tuple(rows)
