"""How Verify shows itself: figures with their why, bands to draw, the table of additions."""

from collections.abc import Sequence
from dataclasses import replace

from yoshi_core.charge.total import LIMIT_TO_STANDARD
from yoshi_core.document.sheets import value_of
from yoshi_core.findings.pictures import Band, TrimRow
from yoshi_core.findings.verdict import Figure, Reason, Term, Why
from yoshi_core.frozen import dataclass
from yoshi_core.message import Message, headline, sentence
from yoshi_core.running.readings import Side
from yoshi_core.running.targets import Judge, Refusal, Target
from yoshi_core.running.trim import TrimStep
from yoshi_core.steps.contract import StepContext
from yoshi_core.steps.verify.moments import read_at
from yoshi_core.steps.verify.points import Point, most_subcooling_k
from yoshi_core.steps.verify.trim import LI_BRAUN, Judging, Worth, inside_limit_kg
from yoshi_core.units.display import Amount

NO_BAND: tuple[float | None, float | None, float | None] = (None, None, None)
FIRST_WORTH = {"subcooling": LI_BRAUN, "superheat": "the practice rig, a model; less than that on a mild or humid day"}
DEW = "superheat counts from dew, at absolute pressure = gauge + air at the site; tables made from CoolProp"
BUBBLE = "subcooling counts from bubble, at absolute pressure = gauge + air at the site; tables made from CoolProp"


@dataclass(frozen=True)
class Shown:
    """What there is to show: the readings, those that judge with their targets, the next step, and what a degree is worth."""

    method: Judge
    points: Sequence[Point]
    judged: Sequence[Judging]
    step: TrimStep | None
    worth: Worth | None
    edge: bool = False

    @property
    def last(self) -> Point | None:
        """The last reading that says superheat or subcooling."""
        return next((point for point in reversed(self.points) if point.speaks), None)

    @property
    def target(self) -> Target | None:
        """What the last reading is held against; None before one speaks."""
        return self.judged[-1].target if self.judged else None


def refusal_reason(refusal: Refusal, source: str) -> Reason:
    """A method that does not speak in these conditions, as a reason to wait."""
    amounts = {"value": Amount(refusal.value, refusal.quantity), "limit": Amount(refusal.limit, refusal.quantity)}
    return Reason(refusal.rule_id, Message(refusal.text, amounts), "Wait", amounts["value"], amounts["limit"], source)


def figures(shown: Shown, context: StepContext) -> tuple[Figure, ...]:
    """Superheat, subcooling, target, what a degree is worth, and the step, each with its why."""
    found = []
    if shown.last is not None:
        state = shown.last.state
        if state.low:
            found.append(_side_figure("superheat", state.low, DEW, "verify.superheat_tolerance", "suction line", "dew", -1))
        if state.high:
            found.append(_side_figure("subcooling", state.high, BUBBLE, "verify.subcooling_tolerance", "liquid line", "bubble", 1))
    if shown.points and shown.points[-1].inside_kg is not None:
        found.append(_inside_figure(shown.points, context))
    if shown.target is not None and shown.last is not None:
        found.append(_target_figure(shown.method, shown.target, shown.last, context))
    if shown.worth is not None and shown.target is not None:
        found += _worth_figures(shown.worth, shown.target, shown.judged[-1], shown.method)
    if shown.step is not None and not shown.step.stop:
        found.append(_step_figure(shown.step, context))
    return tuple(found)


def _worth_figures(found: Worth, target: Target, last: Judging, method: Judge) -> list[Figure]:
    """What the tolerance and the probes' own error are worth in charge today."""
    side = last.point.state.high if method == "subcooling" else last.point.state.low
    assert side is not None
    slope = Amount(abs(found.slope_k_per_kg), "charge_response")
    source = "this unit's own answer to the steps logged" if found.own else FIRST_WORTH[method]
    rows = []
    for figure_id, label, degrees, kg, rule in (
        ("tolerance_worth", "the tolerance is worth, today", target.tolerance_k, found.tolerance_kg, f"verify.{method}_tolerance"),
        ("probes_worth", "the probes' own error is worth", 2.0 * side.uncertainty_k, found.probes_kg, "probe.temperature_limit"),
    ):
        terms = (
            Term(
                "",
                Amount(degrees, "temperature_delta"),
                sentence("± of the tolerance") if figure_id == "tolerance_worth" else sentence("± of the probes"),
            ),
            Term("÷", slope, headline("{method} moves", method=method)),
            Term("=", Amount(kg, "mass"), "± of charge"),
        )
        rows.append(Figure(figure_id, label, Amount(kg, "mass"), Why((terms,), (), source, rule)))
    return rows


def _side_figure(name: str, side: Side, source: str, rule: str, line: str, saturation: str, sign: int) -> Figure:
    line_term = Amount(side.line_k, "temperature")
    saturation_term = Amount(side.saturation_k, "temperature")
    first, second = ((line_term, line), (saturation_term, saturation))
    if sign > 0:
        first, second = second, first
    terms = (
        Term("", first[0], first[1]),
        Term("−", second[0], second[1]),
        Term("=", Amount(side.difference_k, "temperature_delta"), name),
    )
    notes = (
        headline(
            "{saturation:cap} at {absolute} absolute. One psi moves it {slope}; the probes are worth ± {u}.",
            absolute=Amount(side.pressure_pa, "gauge_pressure_delta"),
            slope=Amount(side.slope_k_per_pa * 6894.757293168361, "temperature_delta"),
            u=Amount(2 * side.uncertainty_k, "temperature_delta"),
            saturation=saturation,
        ),
    )
    return Figure(name, name, Amount(side.difference_k, "temperature_delta", side.uncertainty_k), Why((terms,), notes, source, rule))


def _inside_figure(points: Sequence[Point], context: StepContext) -> Figure:
    last = points[-1]
    inside = last.inside_kg or 0.0
    added = sum(p.added_kg for p in points)
    terms = (
        Term("", Amount(inside - added, "mass"), "weighed in"),
        Term("+" if added >= 0 else "−", Amount(abs(added), "mass"), "trimmed since"),
        Term("=", Amount(inside, "mass"), "in the system"),
    )
    spread = inside_limit_kg(context) * LIMIT_TO_STANDARD
    return Figure("inside", "in the system", Amount(inside, "mass", spread), Why((terms,), (), "scale readings", "trim.cap_share"))


def _target_figure(method: Judge, target: Target, point: Point, context: StepContext) -> Figure:
    terms: tuple[tuple[Term, ...], ...] = ()
    notes: list[Message] = []
    if method == "superheat" and "wet bulb" in target.source:
        reading = point.reading
        wet, dry = value_of(reading.return_wet_bulb) or 0.0, value_of(reading.outdoor) or 0.0
        terms = (
            (
                Term("", Amount(wet, "temperature"), "return wet bulb, three times"),
                Term("−", Amount(dry, "temperature"), "outdoor air, and 80 °F"),
                Term("÷", Amount(2.0, "number"), "halved"),
                Term("=", Amount(target.value_k, "temperature_delta"), "target superheat"),
            ),
        )
        notes.append(
            headline(
                "Worked out in °F. It holds with return wet bulb {a} to {b}, outdoor {c} to {d}, airflow right; at altitude judge airflow by volume.",
                a=Amount(context.profile.value("target.wet_bulb_low"), "temperature"),
                b=Amount(context.profile.value("target.wet_bulb_high"), "temperature"),
                c=Amount(context.profile.value("target.outdoor_low"), "temperature"),
                d=Amount(context.profile.value("target.outdoor_high"), "temperature"),
            )
        )
    if target.assumed:
        notes.append(Message("The plate gives no subcooling: this value is assumed, and flagged as such."))
    rule = "verify.assumed_subcooling" if target.assumed else f"verify.{method}_tolerance"
    amount = Amount(target.value_k, "temperature_delta")
    return Figure("target", headline("target {method}", method=method), amount, Why(terms, tuple(notes), target.source, rule))


def _step_figure(step: TrimStep, context: StepContext) -> Figure:
    terms: tuple[tuple[Term, ...], ...] = ()
    if step.short_share is not None and step.slope_k_per_kg is None:
        terms = (
            (
                Term("", Amount(step.short_share, "fraction"), "estimated short"),
                Term("×", Amount(context.profile.value("trim.gap_share"), "number"), "of the gap a step closes"),
                Term("=", Amount(step.mass_kg, "mass"), sentence("next step, limited") if step.limited else sentence("next step")),
            ),
        )
    notes = (
        headline(
            "At most {step} of the plan in one step and {cap} away from it in all.",
            step=Amount(context.profile.value("trim.step_share"), "fraction"),
            cap=Amount(context.profile.value("trim.cap_share"), "fraction"),
        ),
    )
    source = (
        "virtual-charge relation, Li & Braun, Purdue (from memory)"
        if step.slope_k_per_kg is None
        else "this unit's own answer to the additions logged"
    )
    return Figure(
        "trim_step",
        sentence("add next") if step.mass_kg > 0 else sentence("take out next"),
        Amount(abs(step.mass_kg), "mass"),
        Why(terms, notes, source, "trim.step_share"),
    )


def bands(shown: Shown, context: StepContext) -> tuple[Band, ...]:
    """Superheat and subcooling to draw on the temperature ladder, the judging one with its target and what the step should give."""
    if shown.last is None:
        return ()
    profile, state = context.profile, shown.last.state
    goal = _goal(shown.target)
    expected = None
    if shown.step is not None and not shown.step.stop and shown.worth is not None and shown.judged:
        expected = shown.judged[-1].value_k + shown.worth.slope_k_per_kg * shown.step.mass_kg
    found: list[Band] = []
    if state.low:
        sane = (profile.value("verify.superheat_low"), profile.value("verify.superheat_high"), None)
        wanted = goal if shown.method == "superheat" else sane if shown.method == "subcooling" else NO_BAND
        band = _band("superheat", "low", state.low, *wanted)
        found.append(replace(band, expected=expected) if shown.method == "superheat" else band)
    if state.high:
        band = _band("subcooling", "high", state.high, *(goal if shown.method == "subcooling" else NO_BAND))
        band = replace(band, most=most_subcooling_k(shown.last))
        found.append(replace(band, expected=expected) if shown.method == "subcooling" else band)
    return tuple(replace(band, word="Open") if shown.edge and band.target is not None else band for band in found)


def _goal(target: Target | None) -> tuple[float | None, float | None, float | None]:
    return NO_BAND if target is None else (target.value_k - target.tolerance_k, target.value_k + target.tolerance_k, target.value_k)


def _band(name: str, side: str, measured: Side, low: float | None, high: float | None, goal: float | None) -> Band:
    inside = low is None or high is None or low - 1e-9 <= measured.difference_k <= high + 1e-9
    return Band(
        name,
        name,
        "low" if side == "low" else "high",
        Amount(measured.difference_k, "temperature_delta", measured.uncertainty_k),
        low,
        high,
        goal,
        Amount(measured.saturation_k, "temperature"),
        Amount(measured.line_k, "temperature"),
        "Holds" if inside else "Wait",
        Amount(measured.across_k, "temperature"),
    )


def trim_rows(shown: Shown) -> tuple[TrimRow, ...]:
    """Each reading with the change before it, and what the unit answered to that change."""
    judged = {row.point.id: row for row in shown.judged}
    before: Judging | None = None
    found = []
    for point in shown.points:
        row = judged.get(point.id)
        answered = None
        if row is not None and before is not None and row.charge_kg != before.charge_kg:
            answered = Amount((row.off_k - before.off_k) / (row.charge_kg - before.charge_kg), "charge_response")
        before = row or before
        low, high = point.state.low, point.state.high
        found.append(
            TrimRow(
                point.id,
                point.added_kg,
                point.inside_kg,
                Amount(low.difference_k, "temperature_delta", low.uncertainty_k) if low else None,
                Amount(high.difference_k, "temperature_delta", high.uncertainty_k) if high else None,
                answered,
                Amount(row.target.value_k, "temperature_delta") if row else None,
                point.reading.changed_at,
                read_at(point.reading),
            )
        )
    return tuple(found)
