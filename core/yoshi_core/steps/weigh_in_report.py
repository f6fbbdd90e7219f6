"""How Weigh in shows itself: figures with their why, marks, cautions, movements."""

from collections.abc import Mapping

from yoshi_core import cylinders, refrigerants, weigh_in
from yoshi_core.charge import ChargeBuildUp
from yoshi_core.errors import CoreError
from yoshi_core.model import Draw, Plate, WeighInSheet
from yoshi_core.profile import Profile
from yoshi_core.sheets import value_of
from yoshi_core.steps.contract import StepContext, headline
from yoshi_core.units.display import Amount
from yoshi_core.verdict import Caution, Figure, Mark, Message, Movement, Term, Why


def draw_kg(draw: Draw) -> float | None:
    """What reached the system from one finished draw; None while it is not finished. Raises `InvalidInput`."""
    if draw.gross_start is None or draw.gross_end is None:
        return None
    return weigh_in.weighed_in_kg(draw.gross_start.value, draw.gross_end.value, value_of(draw.hose_loss) or 0.0)


def heel_of(draw: Draw, refrigerant: str | None, profile: Profile) -> float:
    """Vapour in kg that stays in the cylinder; zero while its water capacity or the refrigerant's table is unknown."""
    if draw.water_capacity is None or refrigerant is None or not refrigerants.is_known(refrigerant):
        return 0.0
    return cylinders.heel_kg(refrigerant, draw.water_capacity.value, profile.value("cylinder.heel_k"))


def marks(plan: weigh_in.WeighInPlan | None) -> tuple[Mark, ...]:
    if plan is None or not plan.takes or plan.takes[0].take_kg <= 0:
        return ()
    take = plan.takes[0]
    return (
        Mark("start", "start", take.start_gross_kg, 0.0),
        Mark("slow", "slow down", take.slow_gross_kg, take.counted_slow_kg),
        Mark("close", "close the valve", take.stop_gross_kg, take.counted_stop_kg),
    )


def figures(
    build_up: ChargeBuildUp | None,
    inside: float | None,
    plan: weigh_in.WeighInPlan | None,
    sheet: WeighInSheet,
    total_inside: float | None,
    profile: Profile,
    refrigerant: str | None,
) -> tuple[Figure, ...]:
    if build_up is None or inside is None or plan is None:
        return ()
    rule, school = "charge.set_by", profile.school("charge.set_by")
    weigh_terms = (
        Term("", Amount(build_up.total_kg, "mass"), "total charge"),
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
    if plan.takes and plan.takes[0].take_kg > 0:
        take = plan.takes[0]
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
        heel = heel_of(draw, refrigerant, profile)
        spare = (
            headline(
                "The cylinder gives {spare} more before it is out of liquid; {heel} stay in it as vapour.",
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
            Term("+", Amount(total_inside - inside, "mass"), "weighed in, less the hose"),
            Term("=", Amount(total_inside, "mass"), "in the system"),
        )
        found.append(
            Figure(
                "inside",
                "in the system",
                Amount(total_inside, "mass"),
                Why((inside_terms,), (), "scale readings before and after", "weigh_in.tolerance"),
            )
        )
    return tuple(found)


def cautions(context: StepContext, plate: Plate) -> tuple[Caution, ...]:
    unproven = not plate.pairing_proven or plate.pairing_by == "told"
    proof = "Prove which units belong together before opening a valve: switch one off and see which stops."
    found = [
        *([Caution("pairing", Message(proof))] if unproven else []),
        Caution("cylinder.heat", Message("Warm a cylinder in warm water only, never above 125 °F (52 °C), never with a flame.")),
    ]
    name = plate.refrigerant
    if name and refrigerants.is_known(name) and refrigerants.get(name).is_blend:
        found.insert(0, Caution("blend.liquid", Message("Charge this blend as liquid; on the suction side throttle it and let it flash.")))
    if context.rivals:
        found.insert(
            0,
            Caution(
                "disputed",
                Message(
                    "Two values stand for one field of Identify. Until one is chosen the smaller total is the mark: more can be added."
                ),
            ),
        )
    return tuple(found)


def movements(context: StepContext) -> tuple[Movement, ...]:
    """What left each cylinder: into the circuit, and lost with the hose; one pair a draw, over all runs."""
    refrigerant = context.plate.refrigerant or ""
    found = []
    for number, run in enumerate(context.record.runs):
        draws: Mapping[str, Draw] = run.sheet.draws
        for key, draw in draws.items():
            try:
                mass = draw_kg(draw)
            except CoreError:
                continue
            if not mass:
                continue
            source = f"cylinder:{draw.cylinder or key}"
            stem = f"{context.job.id}/weigh_in/{number}/{key}"
            found.append(
                Movement(f"{stem}/1", "charge", source, f"circuit:{context.job.circuit.id or context.job.id}", refrigerant, mass, "weighed")
            )
            hose = value_of(draw.hose_loss)
            if hose:
                found.append(
                    Movement(f"{stem}/2", "lost", source, "hose", refrigerant, hose, draw.hose_loss.source if draw.hose_loss else "assumed")
                )
    return tuple(found)
