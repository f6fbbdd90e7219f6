"""How Recover shows itself: figures with their why, speed-ups, cautions."""

from yoshi_core import refrigerants
from yoshi_core.charge.recovery import Share
from yoshi_core.document.plate import Plate
from yoshi_core.document.sheets import value_of
from yoshi_core.findings.verdict import Caution, Figure, Term, Why
from yoshi_core.message import Label, Message, headline, sentence
from yoshi_core.profile.profile import TRADE
from yoshi_core.steps.contract import StepContext
from yoshi_core.steps.recover.sheet import RecoverSheet
from yoshi_core.units.display import Amount


def figures(
    expected: tuple[float, float] | None,
    recovered: float | None,
    share: Share | None,
    full: float | None,
    full_source: Label,
    unsure: float,
    context: StepContext,
) -> tuple[Figure, ...]:
    """What to expect, what came out, and its share of what belongs there and of the plate."""
    found = []
    if full is not None and expected is not None:
        belongs = Term("", Amount(full, "mass"), headline("belongs there, {source}", source=full_source))
        for which, value in zip(("low", "high"), expected, strict=True):
            terms = (
                belongs,
                Term("×", Amount(value / full, "fraction"), "by what as-found says"),
                Term("=", Amount(value, "mass"), "expected"),
            )
            found.append(
                Figure(
                    f"expected_{which}",
                    sentence("expect from") if which == "low" else sentence("expect up to"),
                    Amount(value, "mass"),
                    Why((terms,), (), TRADE, "cylinder.fill"),
                )
            )
    if recovered is not None:
        note = Message("Scale after less scale before, over every cylinder and run; what stays in hoses and machine counts.")
        found.append(
            Figure(
                "recovered", "recovered", Amount(recovered, "mass", unsure), Why((), (note,), "scale readings of this job", "scale.limit")
            )
        )
    if share is not None and full is not None and recovered is not None:
        terms = (
            Term("", Amount(recovered, "mass"), "recovered"),
            Term("÷", Amount(full, "mass"), headline("belongs there, {source}", source=full_source)),
            Term("=", Amount(share.share, "fraction"), "share"),
        )
        found.append(
            Figure(
                "share",
                "of what belongs there",
                Amount(share.share, "fraction"),
                Why((terms,), (), "scale readings of this job", "recover.right_low"),
            )
        )
        found.append(
            Figure(
                "missing",
                sentence("missing") if share.missing_kg >= 0 else sentence("surplus"),
                Amount(abs(share.missing_kg), "mass", unsure),
                Why((terms,), (), "scale readings of this job", "recover.right_low"),
            )
        )
        plate = value_of(context.plate.factory_charge)
        if plate:
            of_plate = (
                Term("", Amount(recovered, "mass"), "recovered"),
                Term("÷", Amount(plate, "mass"), "plate alone"),
                Term("=", Amount(recovered / plate, "fraction"), "share"),
            )
            found.append(
                Figure(
                    "plate_share",
                    "of the plate alone",
                    Amount(recovered / plate, "fraction"),
                    Why((of_plate,), (), "data plate", "recover.right_low"),
                )
            )
    return tuple(found)


def speed_ups(sheet: RecoverSheet, plate: Plate) -> tuple[Message, ...]:
    """The order of pulls and what makes them faster."""
    if sheet.way != "cylinder" or sheet.finished:
        return ()
    first = sentence(
        "Liquid first, from the liquid side, straight into the cylinder; then vapour from both sides. Cores out, short wide hoses."
    )
    cold = sentence(
        "Keep the receiving cylinder cold, in ice or wet rags, and the source warm: fan on, crankcase heater on. Never a flame."
    )
    rows = [Message(first), Message(cold)]
    if plate.kind == "vrf":
        rows.append(Message("Set the maker's recovery mode first, or every closed valve keeps a room's worth."))
    if plate.kind == "chiller":
        rows.append(Message("Water flows, or the tubes are drained, until the last liquid is out."))
    return tuple(rows)


def cautions(sheet: RecoverSheet, plate: Plate) -> tuple[Caution, ...]:
    """Where it bites here."""
    rows = [Caution("venting", Message("Certified hands only; venting is unlawful for nearly every refrigerant. Local law prevails."))]
    rows.append(Caution("skin", Message("Gloves and goggles: liquid that flashes freezes skin and eyes.")))
    if plate.kind == "chiller":
        rows.append(Caution("tubes", Message("Still water in a tube freezes below 36 °F of saturation and bursts it: flow, or drain.")))
    if plate.refrigerant and refrigerants.is_known(plate.refrigerant) and refrigerants.get(plate.refrigerant).is_flammable:
        rows.append(Caution("flammable", Message("Flammable: a recovery machine rated for it, a left-hand thread, no spark, air moving.")))
    if sheet.way == "pump_down":
        rows.append(Caution("pump_down", Message("Watch the high side while it fills; stop at the plate's design pressure.")))
    rows.append(Caution("full", Message("Never above the cylinder's limit, never warmed above 125 °F.")))
    return tuple(rows)
