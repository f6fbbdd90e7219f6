"""How Identify shows itself: figures with their why, the parts of the charge, cautions."""

from collections.abc import Mapping
from math import fsum

from yoshi_core import refrigerants
from yoshi_core.charge import line_set
from yoshi_core.charge import total as charge
from yoshi_core.charge.total import BuildUpPart, ChargeBuildUp, Limit
from yoshi_core.document.plate import LineSet, Plate
from yoshi_core.errors import CoreError
from yoshi_core.findings.pictures import Part
from yoshi_core.findings.verdict import Caution, Figure, Term, Why
from yoshi_core.frozen import dataclass
from yoshi_core.message import Label, Message, headline, joined, sentence
from yoshi_core.profile.profile import Profile
from yoshi_core.properties import saturation
from yoshi_core.properties.atmosphere import SEA_LEVEL_PA
from yoshi_core.units.display import Amount


@dataclass(frozen=True)
class LineAllowance:
    """The allowance used for one line set in kg/m, its ± limit, and where it is from; `geometry` when tube sizes are known.

    `left_out_kg_m` is what the vapour line holds that was not entered, of its usual size `left_out_od_m`: in the ±, not in the figure.
    """

    kg_per_m: float
    limit_kg_per_m: float
    from_maker: bool
    geometry: line_set.Allowance | None
    left_out_kg_m: float = 0.0
    left_out_od_m: float = 0.0

    @property
    def by(self) -> str:
        """Whose figure it is: the maker's, the tube size's, or the usual one for variable flow."""
        return "maker" if self.from_maker else "table" if self.geometry is None else "size"


def figures(plate: Plate, build_up: ChargeBuildUp, allowances: Mapping[str, LineAllowance], profile: Profile) -> tuple[Figure, ...]:
    """The total and what each line adds, with their why."""
    total = Amount(build_up.total_kg, "mass", build_up.uncertainty_kg)
    terms = [
        Term("" if n == 0 else ("−" if part.kg < 0 else "+"), Amount(abs(part.kg), "mass"), part.label)
        for n, part in enumerate(build_up.parts)
    ]
    line_rows = tuple(row for key, used in allowances.items() for row in _line_terms(plate.lines[key], used, plate))
    found = [
        Figure(
            "total",
            "total charge",
            total,
            Why(
                ((*terms, Term("=", Amount(build_up.total_kg, "mass"), "total")), *line_rows),
                tuple(_why_notes(plate, build_up, allowances)),
                "plate; tube walls ASTM B280 (from memory); densities from the core's tables, made from CoolProp",
                "charge.set_by",
                profile.school("charge.set_by"),
            ),
        )
    ]
    for key, used in allowances.items():
        source, _ = SOURCES[used.by]
        found.append(
            Figure(
                f"allowance.{key}",
                "allowance per length",
                Amount(used.kg_per_m, "linear_density", used.limit_kg_per_m * charge.LIMIT_TO_STANDARD),
                Why(_line_terms(plate.lines[key], used, plate), (), source, "line.allowance_limit"),
            )
        )
    return tuple(found)


def _line_terms(line: LineSet, found: LineAllowance, plate: Plate) -> tuple[tuple[Term, ...], ...]:
    rows: list[tuple[Term, ...]] = []
    if line.length is not None:
        covered = plate.included_length.value if plate.included_length else 0.0
        rows.append(
            (
                Term("", Amount(line.length.value, "length"), "installed"),
                Term("−", Amount(covered, "length"), "covered by the plate"),
                Term("×", Amount(found.kg_per_m, "linear_density"), SOURCES[found.by][1]),
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


SOURCES = {
    "maker": ("maker's figure", "maker's allowance"),
    "size": ("tube sizes (ASTM B280 walls, from memory) and density", "allowance from tube size"),
    "table": ("usual for variable flow by liquid line, common practice, no source", "usual allowance for this size"),
}
SHRINKS = {
    "plate": Message("That is how it was stamped; a figure in grams, or the maker's sheet, may be finer."),
    "length": Message("Measure the line with a tape instead of pacing it."),
    "allowance": Message("The maker's own table for this line is closer."),
    "maker": Message("A figure of the maker's with one more digit shrinks it."),
    "part": Message("The maker's figure for this part is closer."),
    "scale": Message("A finer scale shrinks it."),
}


def _limit_label(limit: Limit) -> Label:
    if limit.kind == "length":
        return headline("{line} length", line=limit.label)
    return headline("{line} allowance", line=limit.label) if limit.kind == "allowance" else limit.label


def _why_notes(plate: Plate, build_up: ChargeBuildUp, allowances: Mapping[str, LineAllowance]) -> list[Message]:
    found = []
    for key, used in allowances.items():
        line = plate.lines[key]
        if used.from_maker and used.geometry is not None and line.length is not None and build_up.extra_length_m > 0:
            difference = (used.geometry.total_kg_m - used.kg_per_m) * build_up.extra_length_m
            found.append(
                headline(
                    sentence("The tube sizes alone would give {geometry}: {difference} more on this line. The maker's figure is used.")
                    if difference >= 0
                    else sentence(
                        "The tube sizes alone would give {geometry}: {difference} less on this line. The maker's figure is used."
                    ),
                    geometry=Amount(used.geometry.total_kg_m, "linear_density"),
                    difference=Amount(abs(difference), "mass"),
                )
            )
    found += _heating_note(plate)
    limits = build_up.limits()
    if limits:
        first = limits[0]
        by_maker = first.kind == "allowance" and first.part in allowances and allowances[first.part].from_maker
        shrinks = SHRINKS["maker" if by_maker else first.kind]
        rows = tuple(headline("{what} {limit}", what=_limit_label(limit), limit=Amount(limit.kg, "mass")) for limit in limits)
        found.append(headline("The ± adds these limits as squares: {rows}.", rows=rows))
        left = Amount(2.0 * build_up.without(first), "mass")
        found.append(
            joined(
                headline("Most of it is the {what}.", what=_limit_label(first)),
                shrinks,
                headline("Without it ± {left} would be left.", left=left),
            )
        )
    return found


def _heating_note(plate: Plate) -> list[Message]:
    """A heat pump's vapour line is full of hot gas in heating: what that takes from the rest of the unit."""
    if plate.kind != "heat_pump" or not plate.refrigerant:
        return []
    try:
        more = fsum(
            line_set.hot_gas_more_kg_m(plate.refrigerant, line.suction_od.value) * line.length.value
            for line in plate.lines.values()
            if line.suction_od is not None and line.length is not None
        )
    except CoreError:
        return []
    text = sentence(
        "In heating the vapour line holds {more} more, as hot gas. The total is the same in both modes: set it in cooling, or by the maker's heating chart."
    )
    return [headline(text, more=Amount(more, "mass"))] if more > 0.0 else []


def parts(build_up: ChargeBuildUp | None, plate: Plate) -> tuple[Part, ...]:
    """The build-up as it is drawn."""
    if build_up is None:
        return ()
    return tuple(
        Part(
            part.id,
            part.kind,
            _part_label(part, plate),
            part.kg,
            max(part.limits_kg),
            _provenance(part.id, part.kind, plate),
        )
        for part in build_up.parts
    )


def _part_label(part: BuildUpPart, plate: Plate) -> Message:
    if part.kind == "plate" and plate.included_length is not None:
        return headline("plate, covers {covers}", covers=Amount(plate.included_length.value, "length"))
    if part.kind == "line":
        line = plate.lines[part.id]
        if part.extra_m == 0.0:
            return Message("line, covered by the plate")
        extra = Amount(part.extra_m, "length")
        if line.liquid_od is None:
            return headline("{extra} more of line", extra=extra)
        return headline("{extra} more of {od}", extra=extra, od=Amount(line.liquid_od.value, "tube_od"))
    return part.label if isinstance(part.label, Message) else headline("{part}", part=part.label)


def _provenance(part_id: str, kind: str, plate: Plate) -> str:
    if kind == "plate" and plate.factory_charge:
        return plate.factory_charge.source
    if kind == "line":
        allowance = plate.lines[part_id].allowance
        return allowance.source if allowance else "usual for variable flow" if plate.kind == "vrf" else "tube size"
    part = plate.parts.get(part_id)
    return part.charge.source if part and part.charge else ""


def cautions(plate: Plate, known: bool) -> tuple[Caution, ...]:
    """What to mind with this refrigerant before anything is done."""
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
                    headline(
                        "Class {safety_class}, flammable: rated tools, no ignition source, ventilation, only in equipment listed for it. Local code and licensed practice prevail.",
                        safety_class=refrigerant.safety_class,
                    ),
                )
            )
        if refrigerant.safety_class.startswith("B"):
            found.append(
                Caution(
                    "toxic",
                    headline(
                        "Class {safety_class}, toxic: ventilate, follow the maker and local code.", safety_class=refrigerant.safety_class
                    ),
                )
            )
    return tuple(found)
