"""How Verify shows itself: figures with their why, bands to draw, the table of additions."""

from collections.abc import Sequence
from typing import Protocol

from yoshi_core.model import VerifyReading
from yoshi_core.profile import Profile
from yoshi_core.readings import CoolingState, Side
from yoshi_core.sheets import value_of
from yoshi_core.steps.contract import StepContext, headline
from yoshi_core.targets import Judge, Refusal, Target
from yoshi_core.trim import TrimStep
from yoshi_core.units.display import Amount
from yoshi_core.verdict import Band, Figure, Message, Reason, Term, TrimRow, Why

DEW = "superheat counts from dew, at absolute pressure = gauge + air at the site; tables made from CoolProp"
BUBBLE = "subcooling counts from bubble, at absolute pressure = gauge + air at the site; tables made from CoolProp"


class PointLike(Protocol):
    @property
    def id(self) -> str: ...
    @property
    def reading(self) -> VerifyReading: ...
    @property
    def state(self) -> CoolingState: ...
    @property
    def added_kg(self) -> float: ...
    @property
    def inside_kg(self) -> float | None: ...


def refusal_reason(refusal: Refusal, source: str) -> Reason:
    """A method that does not speak in these conditions, as a reason to wait."""
    amounts = {"value": Amount(refusal.value, refusal.quantity), "limit": Amount(refusal.limit, refusal.quantity)}
    text = refusal.text[0].upper() + refusal.text[1:] + "."
    return Reason(refusal.rule_id, Message(text, amounts), "Wait", amounts["value"], amounts["limit"], source)


def figures(
    method: Judge, target: Target | None, points: Sequence[PointLike], step: TrimStep | None, context: StepContext
) -> tuple[Figure, ...]:
    found = []
    if points:
        state = points[-1].state
        if state.low:
            found.append(_side_figure("superheat", state.low, DEW, "verify.superheat_tolerance", "suction line", "dew", -1))
        if state.high:
            found.append(_side_figure("subcooling", state.high, BUBBLE, "verify.subcooling_tolerance", "liquid line", "bubble", 1))
        if points[-1].inside_kg is not None:
            found.append(_inside_figure(points))
    if target is not None:
        found.append(_target_figure(method, target, points, context))
    if step is not None and not step.stop:
        found.append(_step_figure(step, context))
    return tuple(found)


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
            f"{saturation.capitalize()} at {{absolute}} absolute. One psi moves it {{slope}}; the probes are worth ± {{u}}.",
            absolute=Amount(side.pressure_pa, "pressure"),
            slope=Amount(side.slope_k_per_pa * 6894.757293168361, "temperature_delta"),
            u=Amount(2 * side.uncertainty_k, "temperature_delta"),
        ),
    )
    return Figure(name, name, Amount(side.difference_k, "temperature_delta", side.uncertainty_k), Why((terms,), notes, source, rule))


def _inside_figure(points: Sequence[PointLike]) -> Figure:
    last = points[-1]
    inside = last.inside_kg or 0.0
    added = sum(p.added_kg for p in points)
    terms = (
        Term("", Amount(inside - added, "mass"), "weighed in"),
        Term("+" if added >= 0 else "−", Amount(abs(added), "mass"), "trimmed since"),
        Term("=", Amount(inside, "mass"), "in the system"),
    )
    return Figure("inside", "in the system", Amount(inside, "mass"), Why((terms,), (), "scale readings", "trim.cap_share"))


def _target_figure(method: Judge, target: Target, points: Sequence[PointLike], context: StepContext) -> Figure:
    terms: tuple[tuple[Term, ...], ...] = ()
    notes: list[Message] = []
    if method == "superheat" and points and "wet bulb" in target.source:
        reading = points[-1].reading
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
                "Reckoned in °F. True with return wet bulb {a} to {b}, outdoor {c} to {d}, airflow right; at altitude judge airflow by volume.",
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
    return Figure("target", f"target {method}", amount, Why(terms, tuple(notes), target.source, rule))


def _step_figure(step: TrimStep, context: StepContext) -> Figure:
    terms: tuple[tuple[Term, ...], ...] = ()
    if step.short_share is not None and step.slope_k_per_kg is None:
        terms = (
            (
                Term("", Amount(step.short_share, "fraction"), "estimated short"),
                Term("×", Amount(context.profile.value("trim.gap_share"), "number"), "of the gap a step closes"),
                Term("=", Amount(step.mass_kg, "mass"), "next step" + (", limited" if step.limited else "")),
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
        "add next" if step.mass_kg > 0 else "take out next",
        Amount(abs(step.mass_kg), "mass"),
        Why(terms, notes, source, "trim.step_share"),
    )


def bands(method: Judge, target: Target | None, points: Sequence[PointLike], profile: Profile) -> tuple[Band, ...]:
    """Superheat and subcooling to draw on the temperature ladder, the judging one with its target."""
    if not points:
        return ()
    state = points[-1].state
    found = []
    low: float | None
    high: float | None
    goal: float | None
    if state.low:
        if method == "superheat" and target:
            low, high, goal = target.value_k - target.tolerance_k, target.value_k + target.tolerance_k, target.value_k
        elif method == "subcooling":
            low, high, goal = profile.value("verify.superheat_low"), profile.value("verify.superheat_high"), None
        else:
            low = high = goal = None
        found.append(_band("superheat", "low", state.low, low, high, goal))
    if state.high:
        low = high = goal = None
        if method == "subcooling" and target:
            low, high, goal = target.value_k - target.tolerance_k, target.value_k + target.tolerance_k, target.value_k
        found.append(_band("subcooling", "high", state.high, low, high, goal))
    return tuple(found)


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


def trim_rows(points: Sequence[PointLike]) -> tuple[TrimRow, ...]:
    return tuple(
        TrimRow(
            p.id,
            p.added_kg,
            p.inside_kg,
            Amount(p.state.low.difference_k, "temperature_delta", p.state.low.uncertainty_k) if p.state.low else None,
            Amount(p.state.high.difference_k, "temperature_delta", p.state.high.uncertainty_k) if p.state.high else None,
        )
        for p in points
    )
