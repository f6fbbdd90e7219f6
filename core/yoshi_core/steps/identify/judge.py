"""Identify: the data plate, the lines and the parts become the total charge."""

import dataclasses
from collections.abc import Iterator, Mapping

from yoshi_core import refrigerants
from yoshi_core.charge import line_set
from yoshi_core.charge import total as charge
from yoshi_core.charge.total import ChargeBuildUp
from yoshi_core.charge.tubing import inside_area_m2
from yoshi_core.document.pairing import SOURCE, open_question
from yoshi_core.document.plate import LINELESS_KINDS, LineSet, Plate
from yoshi_core.document.sheets import limit_of
from yoshi_core.errors import CoreError
from yoshi_core.findings.pictures import IdentifyPicture
from yoshi_core.findings.result import StepResult
from yoshi_core.findings.verdict import Question, Reason, Verdict
from yoshi_core.message import Message, headline, sentence, told
from yoshi_core.profile.profile import Profile
from yoshi_core.properties import saturation
from yoshi_core.steps.contract import Judged, Notes, StepContext
from yoshi_core.steps.identify.asked import ask
from yoshi_core.steps.identify.handed import Identified
from yoshi_core.steps.identify.report import LineAllowance, cautions, figures, parts
from yoshi_core.steps.identify.rooms import judge_rooms
from yoshi_core.steps.plates import REPAIRED
from yoshi_core.steps.tolerance import tolerance_of
from yoshi_core.steps.verdicts import Otherwise, verdict
from yoshi_core.units.display import Amount


def judge(context: StepContext) -> Judged:
    """Total charge with its parts and ±, and everything about the plate that needs a person."""
    notes = context.notes
    plate, profile = context.plate, context.profile
    answers = context.run.answers if context.run else {}
    ask(context, notes, answers)
    known = plate.refrigerant is not None and refrigerants.is_known(plate.refrigerant)
    allowances = _allowances(context, notes, known)
    build_up = _build_up(plate, allowances, profile, notes, context)
    careful = _careful(context, build_up)
    _price(plate, build_up, notes)
    _left_out(build_up, allowances, notes)
    _safety(plate, notes, known)
    judge_rooms(plate, build_up.total_kg if build_up else None, notes, context)
    _pairing(context, notes)
    shown = figures(plate, build_up, allowances, profile) if build_up else ()
    result = StepResult(
        step=context.step,
        state="open",
        verdict=_verdict(build_up, notes),
        summary=_summary(plate, build_up),
        figures=shown,
        missing=tuple(notes.missing),
        questions=tuple(notes.questions),
        problems=tuple(notes.problems),
        cautions=cautions(plate, known),
        picture=IdentifyPicture(parts=parts(build_up, plate)),
    )
    return Judged(result, Identified(plate, build_up, careful))


def _allowances(context: StepContext, notes: Notes, known: bool) -> dict[str, LineAllowance]:
    found = {}
    for key, line in () if context.plate.whole_charge else context.plate.lines.items():
        allowance = _allowance(context.plate, line, context.profile, known, notes, context.path("lines", key))
        if allowance is not None:
            found[key] = allowance
    return found


def _allowance(plate: Plate, line: LineSet, profile: Profile, known: bool, notes: Notes, path: str) -> LineAllowance | None:
    if plate.kind == "vrf" and line.allowance is None:
        return _by_table(line, profile, notes, path)
    geometry = None
    if known and plate.refrigerant and line.liquid_od:
        try:
            geometry = line_set.allowance(
                plate.refrigerant,
                line.liquid_od.value,
                line.suction_od.value if line.suction_od else None,
                liquid_k=profile.value("line.liquid_k"),
                suction_dew_k=profile.value("line.suction_dew_k"),
                suction_superheat_k=profile.value("line.suction_superheat_k"),
            )
        except CoreError as error:
            if line.allowance is None:
                notes.refuse(f"{path}/liquid_od", error.code, told(error))
    if line.allowance is not None:
        limit = limit_of(line.allowance, profile.value("line.allowance_limit"))
        return LineAllowance(line.allowance.value, limit, True, geometry)
    if geometry is not None:
        limit = geometry.total_kg_m * profile.value("line.geometry_limit")
        usual_m = _usual_vapour_m(line, notes, path)
        left_out = geometry.suction_kg_m3 * inside_area_m2(usual_m) if usual_m else 0.0
        return LineAllowance(geometry.total_kg_m, limit + left_out, False, geometry, left_out, usual_m)
    if line.length is not None:
        label = "liquid line OD, or the maker's allowance" if known else "maker's allowance per length"
        notes.need(f"{path}/{'liquid_od' if known else 'allowance'}", label, None)
    return None


def _usual_vapour_m(line: LineSet, notes: Notes, path: str) -> float:
    """What stands in, in the ± alone, for a vapour line that was not entered; 0 where one was, or where none is usual and it is asked for."""
    if line.suction_od is not None or line.liquid_od is None:
        return 0.0
    try:
        return line_set.usual_vapour_od_m(line.liquid_od.value)
    except CoreError:
        notes.need(f"{path}/suction_od", "vapour line OD", None)
        return 0.0


def _left_out(build_up: ChargeBuildUp | None, allowances: Mapping[str, LineAllowance], notes: Notes) -> None:
    """What a vapour line that was not entered is worth: less goes in without it, since more can be added and out is harder."""
    for part in build_up.parts if build_up else ():
        used = allowances.get(part.id) if part.kind == "line" else None
        if used is None or not used.left_out_kg_m or not part.extra_m:
            continue
        amounts = {"od": Amount(used.left_out_od_m, "tube_od"), "value": Amount(used.left_out_kg_m * part.extra_m, "mass")}
        text = sentence("The vapour line is left out. At the usual {od} it would add {value}; the ± covers that.")
        notes.tell("identify.left_out", "Holds", text, "tube sizes (ASTM B280 walls, from memory) and density", amounts)


def _by_table(line: LineSet, profile: Profile, notes: Notes, path: str) -> LineAllowance | None:
    """A variable-flow system's own figure for its liquid line."""
    if line.liquid_od is None:
        if line.length is not None:
            notes.need(f"{path}/liquid_od", "liquid line OD, or the maker's allowance", None)
        return None
    try:
        found = line_set.variable_flow_kg_m(line.liquid_od.value)
    except CoreError as error:
        notes.refuse(f"{path}/liquid_od", error.code, told(error))
        return None
    return LineAllowance(found, profile.value("line.allowance_limit"), False, None)


def _line_runs(plate: Plate, allowances: Mapping[str, LineAllowance], profile: Profile) -> list[charge.LineRun]:
    return [
        charge.LineRun(
            key,
            line.length.value,
            allowances[key].kg_per_m,
            limit_of(line.length, profile.value("line.length_limit")),
            allowances[key].limit_kg_per_m,
            line.liquid_od.value if line.liquid_od else None,
        )
        for key, line in plate.lines.items()
        if line.length is not None and key in allowances
    ]


def _adjustments(plate: Plate, profile: Profile) -> list[charge.Adjustment]:
    return [*_by_kind(plate, profile)] + [
        charge.Adjustment(
            key,
            part.label or "part",
            -part.charge.value if part.removes else part.charge.value,
            limit_of(part.charge, profile.value("part.limit")),
        )
        for key, part in plate.parts.items()
        if part.charge is not None and (not plate.whole_charge or key.startswith(REPAIRED))
    ]


def _by_kind(plate: Plate, profile: Profile) -> Iterator[charge.Adjustment]:
    """What a kind adds by itself: indoor units and branch boxes by the maker's table, a receiver's flooding in winter.

    A whole charge has all of that in it.
    """
    if plate.whole_charge:
        return
    for row, count, each, label in (
        ("indoor_units", plate.indoor_units, plate.indoor_allowance, sentence("{n} indoor units")),
        ("branch_boxes", plate.branch_boxes, plate.branch_allowance, sentence("{n} branch boxes")),
    ):
        if count is not None and each is not None and count.value * each.value:
            yield charge.Adjustment(
                row, headline(label, n=Amount(count.value, "count")), count.value * each.value, count.value * limit_of(each, 0.0)
            )
    if plate.floods:
        flooding = _flooding_kg(plate, profile)
        if flooding:
            yield charge.Adjustment("flooding", "winter flooding", flooding)


def _flooding_kg(plate: Plate, profile: Profile) -> float | None:
    """By the maker's table, else the condenser's volume nearly full of liquid on a winter's day."""
    if plate.flooding_charge is not None:
        return plate.flooding_charge.value
    if plate.condenser_volume is None or not (plate.refrigerant and refrigerants.is_known(plate.refrigerant)):
        return None
    dense = saturation.liquid_density_kg_m3(plate.refrigerant, profile.value("receiver.winter"))
    return profile.value("receiver.flooded") * plate.condenser_volume.value * dense


def _unmeasured(plate: Plate, notes: Notes, context: StepContext) -> bool:
    """Whether nobody knows how long a line is: then the least and the most it can be are asked for instead."""
    rows = {key: line for key, line in plate.lines.items() if line.unmeasured}
    for key, line in rows.items():
        least, most = line.length_least, line.length_most
        notes.need(context.path("lines", key, "length_least"), "the least the line can be; a guess will do", least)
        notes.need(context.path("lines", key, "length_most"), "the most the line can be; a guess will do", most)
        if least is not None and most is not None and most.value < least.value:
            notes.refuse(context.path("lines", key, "length_most"), "out_of_range", "The most is less than the least.")
    return bool(rows)


SHOWN = 2.0  # a ± is shown as two standard uncertainties


def _price(plate: Plate, build_up: ChargeBuildUp | None, notes: Notes) -> None:
    """What not knowing a length costs in the whole ±, and what would be left of it with a tape."""
    for limit in build_up.limits() if build_up else ():
        line = plate.lines.get(limit.part)
        if build_up is None or limit.kind != "length" or line is None or not line.unmeasured:
            continue
        amounts = {
            "value": Amount(limit.kg, "mass"),
            "limit": Amount(SHOWN * build_up.uncertainty_kg, "mass"),
            "left": Amount(SHOWN * build_up.without(limit), "mass"),
        }
        text = sentence(
            "Nobody measured this line: ± {value} from that alone, ± {limit} in all. With a tape on it ± {left} is left; until then it is good for planning, not for proof."
        )
        notes.tell("identify.unmeasured", "Open", text, "lengths as entered", amounts)


def _need_by_kind(plate: Plate, notes: Notes, context: StepContext) -> None:
    if plate.kind == "vrf":
        notes.need(context.path("indoor_units"), "indoor units", plate.indoor_units)
        notes.need(context.path("indoor_allowance"), "charge for each, by the maker", plate.indoor_allowance)
        if plate.branch_boxes is not None and plate.branch_boxes.value:
            notes.need(context.path("branch_allowance"), "charge for each box, by the maker", plate.branch_allowance)
    if plate.kind == "receiver":
        notes.need(context.path("floods"), "the condenser floods in winter", plate.floods)
        if plate.floods and plate.flooding_charge is None:
            notes.need(context.path("flooding_charge"), "winter flooding charge, or the condenser's volume", plate.condenser_volume)


def _total(plate: Plate, allowances: Mapping[str, LineAllowance], profile: Profile) -> ChargeBuildUp | None:
    if plate.factory_charge is None:
        return None
    return charge.total_charge(
        charge.Nameplate(
            plate.factory_charge.value,
            limit_of(plate.factory_charge, _plate_limit(plate, profile)),
            plate.included_length.value if plate.included_length else 0.0,
        ),
        _line_runs(plate, allowances, profile),
        _adjustments(plate, profile),
        scale_limit_kg=_fine(plate, profile.value("scale.limit"), profile) if plate.tolerance is None else 0.0,
        deduct_shorter=profile.choice("line.shorter_than_included") == "deduct",
    )


def _plate_limit(plate: Plate, profile: Profile) -> float:
    return plate.tolerance.value if plate.tolerance else _fine(plate, profile.value("plate.limit"), profile)


def _fine(plate: Plate, limit_kg: float, profile: Profile) -> float:
    """A ± meant for ounces, where the charge of a small hermetic is itself right within grams."""
    if plate.kind != "reach_in" or plate.factory_charge is None:
        return limit_kg
    return min(limit_kg, tolerance_of(plate, plate.factory_charge.value, profile).kg)


def _build_up(
    plate: Plate, allowances: Mapping[str, LineAllowance], profile: Profile, notes: Notes, context: StepContext
) -> ChargeBuildUp | None:
    notes.need(context.path("refrigerant"), "refrigerant", plate.refrigerant)
    notes.need(context.path("factory_charge"), "factory charge", plate.factory_charge)
    if context.job.kind != "quick":
        notes.need(context.path("metering"), "metering device", plate.metering)
    if plate.kind not in LINELESS_KINDS and not plate.whole_charge:
        lengths = [line.length for line in plate.lines.values() if line.length is not None]
        first = next(iter(plate.lines), "l1")
        if not _unmeasured(plate, notes, context):
            notes.need(context.path("lines", first, "length"), "installed line length", lengths[0] if lengths else None)
        if lengths and plate.kind != "vrf" and notes.need(context.path("included_length"), "line length it covers", plate.included_length):
            _check_included(plate, sum(length.value for length in lengths), notes, context)
    if not plate.whole_charge:
        _need_by_kind(plate, notes, context)
    for key, part in plate.parts.items():
        notes.need(context.path("parts", key, "charge"), headline("charge of {part}", part=part.label or "the part"), part.charge)
    try:
        return _total(plate, allowances, profile)
    except CoreError as error:
        notes.refuse(context.path("factory_charge"), error.code, told(error))
        return None


def _check_included(plate: Plate, installed_m: float, notes: Notes, context: StepContext) -> None:
    """A line shorter than the plate covers is real, and also the classic swap of the two lengths: ask."""
    assert plate.included_length is not None
    included_m = plate.included_length.value
    question_id = f"shorter:{installed_m:.9g}:{included_m:.9g}"
    if included_m <= installed_m + 1e-9 or (context.run and question_id in context.run.answers):
        return
    text = sentence(
        "The plate covers {included}, more than the {installed} installed. Are the two lengths swapped? "
        "If not, the plate charge stays as it is unless the maker says to deduct."
    )
    amounts = {"included": Amount(included_m, "length"), "installed": Amount(installed_m, "length")}
    notes.questions.append(Question(question_id, context.path("included_length"), Message(text, amounts)))


def _careful(context: StepContext, build_up: ChargeBuildUp | None) -> ChargeBuildUp | None:
    """The smaller total among disputed values, and among two circuits not told apart: more can be added, out is harder."""
    totals = [build_up] if build_up else []
    other = context.plate.other_charge
    unsure = (dataclasses.replace(context.plate, factory_charge=other),) if other and context.plate.circuit_known is False else ()
    for rival in (*context.rivals, *unsure):
        known = rival.refrigerant is not None and refrigerants.is_known(rival.refrigerant)
        quiet = Notes()
        allowances = {
            key: found
            for key, line in rival.lines.items()
            if (found := _allowance(rival, line, context.profile, known, quiet, "")) is not None
        }
        try:
            total = _total(rival, allowances, context.profile)
        except CoreError:
            continue
        if total:
            totals.append(total)
    return min(totals, key=lambda total: total.total_kg, default=None)


def _safety(plate: Plate, notes: Notes, known: bool) -> None:
    if not (known and plate.refrigerant):
        return
    found = refrigerants.get(plate.refrigerant)
    if found.is_flammable and plate.listed is False:
        notes.say(
            "identify.listed",
            "Stop",
            "{name} is class {safety_class} and the equipment is not listed for it. It must not go in. Local code and the maker decide.",
            "product safety standards; local code prevails",
            role="hard",
            name=found.name,
            safety_class=found.safety_class,
        )


def _pairing(context: StepContext, notes: Notes) -> None:
    """Pairing stays an open question here; the steps that open the system respect it."""
    if context.job.kind == "service" and context.plate.pairing_proven:
        notes.need(context.path("pairing_by"), "how you know it is the right unit", context.plate.pairing_by)
    question = open_question(context.plate)
    if question is not None:
        notes.reasons.append(Reason(question.rule_id, question.message, "Open", None, None, SOURCE))


def _verdict(build_up: ChargeBuildUp | None, notes: Notes) -> Verdict:
    if build_up is None:
        return verdict(notes, Otherwise(Message("Still needed: the factory charge."), "Open"))
    total = Amount(build_up.total_kg, "mass", build_up.uncertainty_kg)
    said = verdict(notes, Otherwise(headline("The whole system takes {total}.", total=total)))
    if said.word != "Holds":
        return said
    notes.say("identify.complete", "Holds", "Plate, lines and parts give {value}.", "data plate", value=total)
    return dataclasses.replace(said, reasons=tuple(notes.reasons))


def _summary(plate: Plate, build_up: ChargeBuildUp | None) -> Message:
    if build_up is None:
        return headline("{refrigerant}", refrigerant=plate.refrigerant) if plate.refrigerant else Message("plate not read yet")
    return headline("{refrigerant} · {total}", total=Amount(build_up.total_kg, "mass"), refrigerant=plate.refrigerant or "refrigerant?")
