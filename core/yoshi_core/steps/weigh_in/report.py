"""How Weigh in shows itself: figures with their why, marks, cautions, movements."""

from math import fsum

from yoshi_core import refrigerants
from yoshi_core.account.account import Balance
from yoshi_core.charge import cylinders
from yoshi_core.charge.stall import Stall
from yoshi_core.charge.total import ChargeBuildUp
from yoshi_core.charge.weigh_in import WeighInPlan
from yoshi_core.document.plate import Plate
from yoshi_core.document.sheets import value_of
from yoshi_core.findings.pictures import Mark, ScaleAnchors
from yoshi_core.findings.verdict import Caution, Figure, Term, Why
from yoshi_core.message import Message, headline, sentence
from yoshi_core.profile.profile import Profile
from yoshi_core.steps.contract import StepContext
from yoshi_core.steps.weigh_in.sheet import Draw, WeighInSheet
from yoshi_core.units.display import Amount

ALONE = frozenset({"reach_in", "vehicle"})  # one unit with one circuit: nothing else its valves could belong to


def heel_of(draw: Draw, refrigerant: str | None, cylinder_k: float) -> float:
    """Vapour in kg that stays in a cylinder at that temperature; zero while its water capacity or the refrigerant's table is unknown."""
    if draw.water_capacity is None or refrigerant is None or not refrigerants.is_known(refrigerant):
        return 0.0
    return cylinders.heel_kg(refrigerant, draw.water_capacity.value, cylinder_k)


def stays_in(draw: Draw, refrigerant: str | None, sheet: WeighInSheet, profile: Profile) -> float:
    """What is not drawn out of it in kg: as entered, else its heel at its temperature.

    Where the last of a single refrigerant is drawn as vapour, only vapour at a running unit's suction stays.
    """
    if draw.residue is not None:
        return draw.residue.value
    cylinder_k = value_of(sheet.cylinder_temperature) or profile.value("cylinder.heel_k")
    if draws_vapour(draw, refrigerant, profile):
        cylinder_k = min(cylinder_k, profile.value("cylinder.last_k"))
    return heel_of(draw, refrigerant, cylinder_k)


def draws_vapour(draw: Draw, refrigerant: str | None, profile: Profile) -> bool:
    """Whether its last leaves as vapour: as said of it, else by the school; never of a blend."""
    single = bool(refrigerant and refrigerants.is_known(refrigerant) and not refrigerants.get(refrigerant).is_blend)
    if not single:
        return False
    if draw.vapour_too is not None:
        return draw.vapour_too
    return draw.contents == "recovered" and profile.choice("recovered.last") == "vapour"


def marks(plan: WeighInPlan | None, stall: Stall | None = None) -> tuple[Mark, ...]:
    """Readings of the scale at which to act, for the source drawn from next; where liquid stops by itself, as a band."""
    take = plan.shown if plan else None
    if plan is None or take is None or not take.weighed:
        return ()
    found = [Mark("start", "start", take.start_gross_kg, 0.0)]
    before = fsum(t.given_kg or 0.0 for t in plan.takes if t is not take)
    if stall is not None and not take.done and before < stall.low_kg and stall.low_kg - before < take.take_kg:
        hose = take.start_gross_kg - take.take_kg - take.stop_gross_kg
        at, low, high = (
            max(take.start_gross_kg - hose - (kg - before), take.stop_gross_kg) for kg in (stall.kg, stall.high_kg, stall.low_kg)
        )
        found.append(Mark("stall", "stops by itself", at, at - take.start_gross_kg, low, high))
    found.append(Mark("slow", "slow down", take.slow_gross_kg, take.counted_slow_kg))
    found.append(Mark("close", "close the valve", take.stop_gross_kg, take.counted_stop_kg))
    return tuple(found)


def anchors(
    plan: WeighInPlan | None, sheet: WeighInSheet, scale_marks: tuple[Mark, ...], inside_kg: float, profile: Profile
) -> ScaleAnchors | None:
    """What the live scale is followed against; None until a source stands on it, and when all is in."""
    take = plan.now if plan else None
    if plan is None or take is None or not take.weighed or not scale_marks:
        return None
    draw = sheet.draws[take.source_id]
    before = inside_kg + fsum(other.given_kg or 0.0 for other in plan.takes)
    return ScaleAnchors(
        take.source_id,
        take.start_gross_kg,
        value_of(draw.hose_loss) or 0.0,
        before,
        before + take.take_kg,
        value_of(draw.tare) or 0.0,
        profile.value("weigh_in.reaction"),
        sheet.system_state == "empty",
        scale_marks,
    )


def figures(
    build_up: ChargeBuildUp | None,
    inside: float | None,
    plan: WeighInPlan | None,
    sheet: WeighInSheet,
    total_inside: Balance | None,
    profile: Profile,
    refrigerant: str | None,
    what: str = "total charge",
) -> tuple[Figure, ...]:
    """What goes in, where to close the valve, and what is inside, each with its why."""
    if build_up is None or inside is None or plan is None:
        return ()
    rule, school = "charge.set_by", profile.school("charge.set_by")
    weigh_terms = (
        Term("", Amount(build_up.total_kg, "mass"), what),
        Term("−", Amount(inside, "mass"), "already inside"),
        Term("=", Amount(plan.weigh_kg, "mass"), "to weigh in"),
    )
    found = [
        Figure(
            "to_weigh",
            "to weigh in",
            Amount(plan.weigh_kg, "mass", build_up.uncertainty_kg),
            Why((weigh_terms,), (), "total from Identify", rule, school),
        )
    ]
    take = plan.shown
    if take is not None and take.weighed:
        hose = value_of(sheet.draws[take.source_id].hose_loss) or 0.0
        terms = (
            Term("", Amount(take.start_gross_kg, "mass"), "scale reads now"),
            Term("−", Amount(take.take_kg, "mass"), "into the system"),
            Term("−", Amount(hose, "mass"), "stays in the hose, lost"),
            Term("=", Amount(take.stop_gross_kg, "mass"), "close the valve"),
        )
        note = headline(
            "On a scale zeroed at the start the same mark is {counted}. The hose counts only if it is empty at the first reading and lost at the end.",
            counted=Amount(take.counted_stop_kg, "mass"),
        )
        draw = sheet.draws[take.source_id]
        heel = stays_in(draw, refrigerant, sheet, profile)
        spare = (
            headline(
                "The cylinder gives {spare} more before it is out of liquid; {heel} stay in it.",
                spare=Amount(max(0.0, take.stop_gross_kg - (value_of(draw.tare) or 0.0) - heel), "mass"),
                heel=Amount(heel, "mass"),
            )
            if heel
            else headline("With its water capacity Yoshi can say how much of it never leaves as liquid.")
        )
        slow_note = headline("The last {last} are throttled.", last=Amount(take.slow_gross_kg - take.stop_gross_kg, "mass"))
        found.append(
            Figure(
                "close_at",
                "close the valve at",
                Amount(take.stop_gross_kg, "mass"),
                Why((terms,), (note, slow_note, spare), "scale and tare as entered", "weigh_in.slow_share", school),
            )
        )
        found.append(
            Figure(
                "close_counted",
                "counted down from zero",
                Amount(take.counted_stop_kg, "mass"),
                Why((terms,), (note,), "scale and tare as entered", "weigh_in.slow_share"),
            )
        )
    if total_inside is not None:
        inside_terms = (
            Term("", Amount(inside, "mass"), "was inside"),
            Term("+", Amount(total_inside.low_kg - inside, "mass"), "weighed in, less the hose"),
            Term("=", Amount(total_inside.low_kg, "mass"), "in the system"),
        )
        found.append(
            Figure(
                "inside",
                "in the system",
                Amount(total_inside.low_kg, "mass", total_inside.u_kg),
                Why((inside_terms,), (), "scale readings before and after", "weigh_in.tolerance"),
            )
        )
    return tuple(found)


def cautions(context: StepContext, plate: Plate) -> tuple[Caution, ...]:
    """What to mind before a valve is opened onto an empty system."""
    unproven = plate.kind not in ALONE and (not plate.pairing_proven or plate.pairing_by == "told")
    proof = sentence("Prove which units belong together before opening a valve: switch one off and see which stops.")
    found = [
        *([Caution("pairing", Message(proof))] if unproven else []),
        Caution("cylinder.heat", Message("Warm a cylinder in warm water only, never above 125 °F (52 °C), never with a flame.")),
    ]
    name = plate.refrigerant
    if name and refrigerants.is_known(name) and refrigerants.get(name).is_blend:
        found.insert(0, Caution("blend.liquid", Message("Charge this blend as liquid; on the suction side throttle it and let it flash.")))
    found.append(Caution("skin", Message("Gloves and goggles: liquid that flashes freezes skin and eyes.")))
    found.append(Caution("air", Message("What escapes is heavier than air: open the door of a low or closed room.")))
    if name and refrigerants.is_known(name) and refrigerants.get(name).is_flammable:
        text = sentence("Flammable: never into equipment not listed for it; rated hoses and scale, no flame or spark, air moving.")
        found.insert(0, Caution("flammable", Message(text)))
    if context.rivals:
        found.insert(
            0,
            Caution(
                "disputed",
                Message(
                    "Two values were entered for one field of Identify. Until one is chosen the smaller total is the mark: more can be added."
                ),
            ),
        )
    return tuple(found)
