"""Identify: the data plate, the lines and the parts become the total charge."""

from collections.abc import Mapping
from dataclasses import dataclass

from yoshi_core import charge, line_set, refrigerants, saturation
from yoshi_core.atmosphere import SEA_LEVEL_PA
from yoshi_core.charge import ChargeBuildUp
from yoshi_core.errors import CoreError
from yoshi_core.model import Circuit, LineSet, Plate
from yoshi_core.profile import Profile
from yoshi_core.sheets import Entry, limit_of
from yoshi_core.steps.contract import Judged, Notes, StepContext, headline
from yoshi_core.steps.sheet_checks import ask_about_sheet
from yoshi_core.units.display import Amount
from yoshi_core.units.mass import ParsedMass, looks_like_slip, mass_faces
from yoshi_core.verdict import Caution, Figure, Message, Part, Picture, Question, Reason, StepResult, Term, Verdict, Why, Word, worst

ID = "identify"
LABEL = "Identify"
READS: tuple[str, ...] = ()
LINELESS_KINDS = frozenset({"packaged", "reach_in", "vehicle", "chiller"})
SAME_SHARE = 0.01


@dataclass(frozen=True)
class LineAllowance:
    """The allowance used for one line set in kg/m, its ± limit, and where it is from; `geometry` when tube sizes are known."""

    kg_per_m: float
    limit_kg_per_m: float
    from_maker: bool
    geometry: line_set.Allowance | None


@dataclass(frozen=True)
class Identified:
    """What later steps build on: the plate as it stands and the total, None while it cannot be computed.

    `careful` is the smaller total while a field is disputed.
    """

    plate: Plate
    build_up: ChargeBuildUp | None
    careful: ChargeBuildUp | None


def judge(context: StepContext) -> Judged:
    """Total charge with its parts and ±, and everything about the plate that needs a person."""
    notes = Notes()
    plate, profile = context.plate, context.profile
    answers = context.run.answers if context.run else {}
    _ask(context, notes, answers)
    known = plate.refrigerant is not None and refrigerants.is_known(plate.refrigerant)
    allowances = _allowances(context, notes, known)
    build_up = _build_up(plate, allowances, profile, notes, context)
    careful = _careful(context, build_up)
    _safety(plate, notes, known)
    figures = _figures(plate, build_up, allowances, profile) if build_up else ()
    result = StepResult(
        step=ID,
        state="open",
        verdict=_verdict(plate, build_up, notes),
        summary=_summary(plate, build_up),
        figures=figures,
        missing=tuple(notes.missing),
        questions=tuple(notes.questions),
        problems=tuple(notes.problems),
        cautions=_cautions(plate, known, profile),
        picture=Picture(parts=_parts(build_up, plate, profile)),
    )
    return Judged(result, Identified(plate, build_up, careful))


def _ask(context: StepContext, notes: Notes, answers: Mapping[str, str]) -> None:
    if context.run is None:
        return
    sheet: Plate = context.run.sheet
    ask_about_sheet(notes, sheet, context.path(), answers)
    typed = sheet.factory_charge
    circuit: Circuit = context.job.circuit
    for label, reference in (
        ("The circuit's record says", circuit.plate.factory_charge),
        ("The plate's other figure is", context.plate.factory_charge_other),
    ):
        if typed is not None and reference is not None:
            _ask_slip(notes, context.path("factory_charge"), label, typed, reference, answers)
    name = context.plate.refrigerant
    if name and not refrigerants.is_known(name) and f"unknown:{name}" not in answers:
        notes.questions.append(
            Question(
                f"unknown:{name}",
                context.path("refrigerant"),
                Message(
                    f"“{name}” is not in the catalogue, so Yoshi cannot judge its pressures or reckon its lines; "
                    "a plan by weight with the maker's allowance is possible. Is the designation right?"
                ),
            )
        )


def _ask_slip(notes: Notes, path: str, label: str, typed: Entry, reference: Entry, answers: Mapping[str, str]) -> None:
    """Ask when the typed charge and a second figure for it disagree, and say so when it is the classic slip."""
    parsed = ParsedMass(typed.value, typed.unit, typed.text)
    slip = looks_like_slip(parsed, reference.value)
    if not slip and abs(typed.value - reference.value) <= SAME_SHARE * reference.value:
        return
    question_id = f"differs:{path}:{typed.value:.9g}:{reference.value:.9g}"
    if question_id in answers:
        return
    faces = mass_faces(reference.value)
    hint = f" {faces.lb} is {faces.lb_oz}: tenths of a pound are not ounces." if slip else " Read the plate once more."
    text = f"{label} {{reference}}, the entry is {{typed}}.{hint} Which is right?"
    amounts = {"reference": Amount(reference.value, "mass"), "typed": Amount(typed.value, "mass")}
    notes.questions.append(Question(question_id, path, Message(text, amounts), suggestion=reference.text or faces.lb_oz))


def _allowances(context: StepContext, notes: Notes, known: bool) -> dict[str, LineAllowance]:
    found = {}
    for key, line in context.plate.lines.items():
        allowance = _allowance(context.plate, line, context.profile, known, notes, context.path("lines", key))
        if allowance is not None:
            found[key] = allowance
    return found


def _allowance(plate: Plate, line: LineSet, profile: Profile, known: bool, notes: Notes, path: str) -> LineAllowance | None:
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
                notes.refuse(f"{path}/liquid_od", error.code, error.message)
    if line.allowance is not None:
        limit = limit_of(line.allowance, profile.value("line.allowance_limit"))
        return LineAllowance(line.allowance.value, limit, True, geometry)
    if geometry is not None:
        if line.suction_od is None:
            notes.need(f"{path}/suction_od", "vapour line OD", None)
        limit = geometry.total_kg_m * profile.value("line.geometry_limit")
        return LineAllowance(geometry.total_kg_m, limit, False, geometry)
    if line.length is not None:
        label = "liquid line OD, or the maker's allowance" if known else "maker's allowance per length"
        notes.need(f"{path}/{'liquid_od' if known else 'allowance'}", label, None)
    return None


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
    return [
        charge.Adjustment(
            key,
            part.label or "part",
            -part.charge.value if part.removes else part.charge.value,
            limit_of(part.charge, profile.value("part.limit")),
        )
        for key, part in plate.parts.items()
        if part.charge is not None
    ]


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
        scale_limit_kg=profile.value("scale.limit") if plate.tolerance is None else 0.0,
        deduct_shorter=profile.choice("line.shorter_than_included") == "deduct",
    )


def _plate_limit(plate: Plate, profile: Profile) -> float:
    return plate.tolerance.value if plate.tolerance else profile.value("plate.limit")


def _build_up(
    plate: Plate, allowances: Mapping[str, LineAllowance], profile: Profile, notes: Notes, context: StepContext
) -> ChargeBuildUp | None:
    notes.need(context.path("refrigerant"), "refrigerant", plate.refrigerant)
    notes.need(context.path("factory_charge"), "factory charge", plate.factory_charge)
    if context.job.kind != "quick":
        notes.need(context.path("metering"), "metering device", plate.metering)
    if plate.kind not in LINELESS_KINDS:
        lengths = [line.length for line in plate.lines.values() if line.length is not None]
        first = next(iter(plate.lines), "l1")
        notes.need(context.path("lines", first, "length"), "installed line length", lengths[0] if lengths else None)
        if lengths and notes.need(context.path("included_length"), "length the charge covers", plate.included_length):
            _check_included(plate, sum(length.value for length in lengths), notes, context)
    for key, part in plate.parts.items():
        notes.need(context.path("parts", key, "charge"), f"charge of {part.label or 'the part'}", part.charge)
    try:
        return _total(plate, allowances, profile)
    except CoreError as error:
        notes.refuse(context.path("factory_charge"), error.code, error.message)
        return None


def _check_included(plate: Plate, installed_m: float, notes: Notes, context: StepContext) -> None:
    """A line shorter than the plate covers is real, and also the classic swap of the two lengths: ask."""
    assert plate.included_length is not None
    included_m = plate.included_length.value
    question_id = f"shorter:{installed_m:.9g}:{included_m:.9g}"
    if included_m <= installed_m + 1e-9 or (context.run and question_id in context.run.answers):
        return
    text = (
        "The plate covers {included}, more than the {installed} installed. Are the two lengths swapped? "
        "If not, the plate charge stays as it is unless the maker says to deduct."
    )
    amounts = {"included": Amount(included_m, "length"), "installed": Amount(installed_m, "length")}
    notes.questions.append(Question(question_id, context.path("included_length"), Message(text, amounts)))


def _careful(context: StepContext, build_up: ChargeBuildUp | None) -> ChargeBuildUp | None:
    """The smaller total among disputed values: more can be added, out is harder."""
    totals = [build_up] if build_up else []
    for rival in context.rivals:
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
            f"{found.name} is class {found.safety_class} and the equipment is not listed for it. "
            "It must not go in. Local code and the maker decide.",
            "product safety standards; local code prevails",
        )


def _verdict(plate: Plate, build_up: ChargeBuildUp | None, notes: Notes) -> Verdict:
    for question in notes.questions:
        notes.reasons.append(_question_reason(question))
    if notes.missing or build_up is None:
        stopped: Word = "Stop" if any(r.word == "Stop" for r in notes.reasons) else "Open"
        needed = ", ".join(m.label for m in notes.missing[:3]) or "the factory charge"
        return Verdict(stopped, Message(f"Still needed: {needed}."), tuple(notes.reasons))
    total = Amount(build_up.total_kg, "mass", build_up.uncertainty_kg)
    word = worst(tuple(notes.reasons))
    if word == "Stop":
        return Verdict(word, notes.reasons[0].message, tuple(notes.reasons))
    if word == "Wait":
        return Verdict(word, Message("One entry is asked about before the total can be trusted."), tuple(notes.reasons))
    notes.say("identify.complete", "Holds", "Plate, lines and parts give {value}.", "data plate", value=total)
    return Verdict("Holds", headline("The whole system takes {total}.", total=total), tuple(notes.reasons))


def _question_reason(question: Question) -> Reason:
    return Reason("entry.asked", question.message, "Wait", None, None, "an unlikely entry is asked about once")


def _summary(plate: Plate, build_up: ChargeBuildUp | None) -> Message:
    if build_up is None:
        return Message(plate.refrigerant or "plate not read yet")
    return headline(f"{plate.refrigerant or 'refrigerant?'} · {{total}}", total=Amount(build_up.total_kg, "mass"))


def _figures(plate: Plate, build_up: ChargeBuildUp, allowances: Mapping[str, LineAllowance], profile: Profile) -> tuple[Figure, ...]:
    total = Amount(build_up.total_kg, "mass", build_up.uncertainty_kg)
    terms = [
        Term("" if n == 0 else ("−" if part.kg < 0 else "+"), Amount(abs(part.kg), "mass"), part.label)
        for n, part in enumerate(build_up.parts)
    ]
    line_terms = tuple(row for key, found in allowances.items() for row in _line_terms(plate.lines[key], found, plate, profile))
    figures = [
        Figure(
            "total",
            "total charge",
            total,
            Why(
                ((*terms, Term("=", Amount(build_up.total_kg, "mass"), "total")), *line_terms),
                tuple(_why_notes(plate, build_up, allowances)),
                "plate; tube walls ASTM B280 (from memory); densities from the core's tables, made from CoolProp",
                "charge.set_by",
                profile.school("charge.set_by"),
            ),
        )
    ]
    for key, found in allowances.items():
        source = "maker's figure" if found.from_maker else "tube sizes (ASTM B280 walls, from memory) and density"
        figures.append(
            Figure(
                f"allowance.{key}",
                "allowance per length",
                Amount(found.kg_per_m, "linear_density", found.limit_kg_per_m * charge.LIMIT_TO_STANDARD),
                Why(_line_terms(plate.lines[key], found, plate, profile), (), source, "line.allowance_limit"),
            )
        )
    return tuple(figures)


def _line_terms(line: LineSet, found: LineAllowance, plate: Plate, profile: Profile) -> tuple[tuple[Term, ...], ...]:
    rows: list[tuple[Term, ...]] = []
    if line.length is not None:
        covered = plate.included_length.value if plate.included_length else 0.0
        rows.append(
            (
                Term("", Amount(line.length.value, "length"), "installed"),
                Term("−", Amount(covered, "length"), "covered by the plate"),
                Term(
                    "×", Amount(found.kg_per_m, "linear_density"), "maker's allowance" if found.from_maker else "allowance from tube size"
                ),
            )
        )
    if found.geometry is not None and not found.from_maker:
        geometry = found.geometry
        rows.append(
            (
                Term("", Amount(geometry.liquid_kg_m3, "density"), "liquid density"),
                Term("×", Amount(geometry.liquid_area_m2, "area"), "liquid line, inside"),
                Term("+", Amount(geometry.suction_kg_m3, "density"), "vapour density"),
                Term("×", Amount(geometry.suction_area_m2, "area"), "vapour line, inside"),
                Term("=", Amount(geometry.total_kg_m, "linear_density"), "allowance"),
            )
        )
    return tuple(rows)


def _why_notes(plate: Plate, build_up: ChargeBuildUp, allowances: Mapping[str, LineAllowance]) -> list[Message]:
    found = []
    for key, used in allowances.items():
        line = plate.lines[key]
        if used.from_maker and used.geometry is not None and line.length is not None and build_up.extra_length_m > 0:
            difference = (used.geometry.total_kg_m - used.kg_per_m) * build_up.extra_length_m
            word = "more" if difference >= 0 else "less"
            found.append(
                headline(
                    f"The tube sizes alone would give {{geometry}}: {{difference}} {word} on this line. The maker's figure is used.",
                    geometry=Amount(used.geometry.total_kg_m, "linear_density"),
                    difference=Amount(abs(difference), "mass"),
                )
            )
    pieces = [
        (f"{part.label} {'length' if part.kind == 'line' and n == 0 else 'allowance' if part.kind == 'line' else ''}".strip(), limit)
        for part in build_up.parts
        for n, limit in enumerate(part.limits_kg)
        if limit > 0
    ]
    if pieces:
        amounts = {f"p{n}": Amount(limit, "mass") for n, (_, limit) in enumerate(pieces)}
        listed = ", ".join(f"{label} {{p{n}}}" for n, (label, _) in enumerate(pieces))
        found.append(Message(f"The ± adds these limits as squares: {listed}, and the scale's own.", amounts))
    return found


def _parts(build_up: ChargeBuildUp | None, plate: Plate, profile: Profile) -> tuple[Part, ...]:
    if build_up is None:
        return ()
    return tuple(
        Part(
            part.id,
            part.kind,
            _part_label(part.id, part.kind, part.label, build_up, plate),
            part.kg,
            max(part.limits_kg),
            _provenance(part.id, part.kind, plate),
        )
        for part in build_up.parts
    )


def _part_label(part_id: str, kind: str, label: str, build_up: ChargeBuildUp, plate: Plate) -> Message:
    if kind == "plate" and plate.included_length is not None:
        return headline("plate, covers {covers}", covers=Amount(plate.included_length.value, "length"))
    if kind == "line":
        line = plate.lines[part_id]
        if build_up.extra_length_m <= 0:
            return Message("line, covered by the plate")
        size = {"od": Amount(line.liquid_od.value, "tube_od")} if line.liquid_od else {}
        of = " of {od}" if size else " of line"
        return Message(f"{{extra}} more{of}", {"extra": Amount(build_up.extra_length_m, "length"), **size})
    return Message(label)


def _provenance(part_id: str, kind: str, plate: Plate) -> str:
    if kind == "plate" and plate.factory_charge:
        return plate.factory_charge.source
    if kind == "line":
        allowance = plate.lines[part_id].allowance
        return allowance.source if allowance else "tube size"
    part = plate.parts.get(part_id)
    return part.charge.source if part and part.charge else ""


def _cautions(plate: Plate, known: bool, profile: Profile) -> tuple[Caution, ...]:
    found = []
    if known and plate.refrigerant:
        refrigerant = refrigerants.get(plate.refrigerant)
        glide = saturation.glide_k(refrigerant, 4 * SEA_LEVEL_PA)
        if refrigerant.is_blend:
            found.append(
                Caution(
                    "blend.liquid",
                    headline("A blend: it leaves the cylinder as liquid. Glide about {glide}.", glide=Amount(glide, "temperature_delta")),
                )
            )
        if refrigerant.is_flammable:
            found.append(
                Caution(
                    "flammable",
                    Message(
                        f"Class {refrigerant.safety_class}, flammable: rated tools, no ignition source, ventilation, "
                        "only in equipment listed for it. Local code and licensed practice prevail."
                    ),
                )
            )
        if refrigerant.safety_class.startswith("B"):
            found.append(Caution("toxic", Message(f"Class {refrigerant.safety_class}, toxic: ventilate, follow the maker and local code.")))
    return tuple(found)
