"""How Pressure hold shows itself: figures with their why, the chart, the stages, cautions."""

from collections.abc import Sequence

from yoshi_core.charge.volume import Volume
from yoshi_core.document.bounds import later
from yoshi_core.document.sheets import value_of
from yoshi_core.findings.pictures import Chart, ChartMark, Curve, PlanRow
from yoshi_core.findings.verdict import Caution, Figure, Term, Why
from yoshi_core.message import Message, headline, sentence
from yoshi_core.profile.profile import TRADE
from yoshi_core.properties.atmosphere import absolute_pa
from yoshi_core.steps import logs
from yoshi_core.steps.contract import StepContext
from yoshi_core.steps.pressure_hold.leak import Seen
from yoshi_core.steps.pressure_hold.plan import Plan, low_pressure
from yoshi_core.steps.pressure_hold.sheet import HoldSheet
from yoshi_core.tight_and_dry import pressure_hold
from yoshi_core.tight_and_dry.pressure_hold import HoldSample, HoldTerms, HoldVerdict
from yoshi_core.units.display import Amount

SOURCE = "real-gas isochore of nitrogen, fitted to the reference equation of state"


def _gauge(absolute: float, context: StepContext) -> float:
    altitude = value_of(context.plate.altitude) or 0.0
    return absolute - absolute_pa(0.0, context.plate.gauge_reference or "vented", altitude)


def figures(
    plan: Plan,
    verdict: HoldVerdict | None,
    seen: Seen | None,
    terms: HoldTerms,
    volume: Volume,
    context: StepContext,
) -> tuple[Figure, ...]:
    """The limit, the pressure the metal asks for now, the drop, and what it means."""
    found = []
    if plan.lowest_pa is not None:
        why = Why(
            (),
            (headline("The lowest of everything connected: {stamp}.", stamp=plan.lowest_label),),
            "stamps of the equipment",
            "hold.stamp",
        )
        found.append(Figure("lowest", "lowest stamp", Amount(plan.lowest_pa, "gauge_pressure"), why))
    found.append(
        Figure(
            "volume",
            "volume",
            Amount(volume.m3, "volume"),
            Why((), (headline("{how:cap}.", how=volume.how),), TRADE, "hold.volume"),
        )
    )
    if verdict is None or verdict.drop is None:
        return tuple(found)
    drop, start, end = verdict.drop, verdict.start, verdict.end
    from_k, to_k = start.metal_k or terms.usual_metal_k, end.metal_k or terms.usual_metal_k
    expected = (
        Term("", Amount(_gauge(start.pressure_pa, context), "gauge_pressure"), "when it had settled"),
        Term("", Amount(from_k, "temperature"), "pipe then"),
        Term("", Amount(to_k, "temperature"), "pipe now"),
        Term("=", Amount(_gauge(drop.expected_pa, context), "gauge_pressure"), "tight, it reads"),
    )
    note = Message("p₁·T₂/T₁ on absolute pressures and temperatures, with nitrogen's departure from the ideal gas.")
    found.append(
        Figure(
            "expected",
            "tight, it would read",
            Amount(_gauge(drop.expected_pa, context), "gauge_pressure"),
            Why((expected,), (note,), SOURCE, "hold.drop"),
        )
    )
    lost = (
        Term("", Amount(_gauge(drop.expected_pa, context), "gauge_pressure"), "tight, it would read"),
        Term("−", Amount(_gauge(end.pressure_pa, context), "gauge_pressure"), "it reads"),
        Term("=", Amount(drop.drop_pa, "gauge_pressure_delta"), "lost"),
    )
    spread = Message(
        "± {u}: 2·√(r²/6 + 2·(p·u_T/T)²), gauge step {step}, pipe within {metal} standard, at least one step.",
        {
            "u": Amount(drop.uncertainty_pa, "gauge_pressure_delta"),
            "step": Amount(terms.step_pa, "gauge_pressure_delta"),
            "metal": Amount(terms.probe_u_k if verdict.probed else terms.no_probe_u_k, "temperature_delta"),
        },
    )
    found.append(
        Figure(
            "drop",
            "lost",
            Amount(drop.drop_pa, "gauge_pressure_delta", 0.5 * drop.uncertainty_pa),
            Why((lost,), (spread,), SOURCE, "hold.metal"),
        )
    )
    found.append(Figure("now", "now", Amount(_gauge(end.pressure_pa, context), "gauge_pressure"), Why((), (), "the gauge", "hold.step")))
    found.append(Figure("lasted", "held for", Amount(verdict.lasted_s, "duration"), Why((), (), "times of the readings", "hold.least")))
    if seen is not None and seen.high.value > 0.0:
        found += _leak_figures(seen, verdict, terms)
    return tuple(found)


def _leak_figures(seen: Seen, verdict: HoldVerdict, terms: HoldTerms) -> list[Figure]:
    assert verdict.drop is not None
    terms_row = (
        Term(
            "",
            Amount(verdict.drop.drop_pa if seen.leaks else verdict.drop.uncertainty_pa, "gauge_pressure_delta"),
            sentence("lost") if seen.leaks else sentence("± of the drop"),
        ),
        Term("×", Amount(terms.volume_m3, "volume"), "volume"),
        Term("÷", Amount(verdict.lasted_s, "duration"), "time"),
        Term("=", Amount(seen.nitrogen_pa_m3_s, "leak_flow"), "nitrogen"),
    )
    note = Message(
        "As refrigerant gas: times the ratios of molar mass, squared pressures and viscosities; a band of a factor two, wider where the volume is guessed."
    )
    why = Why((terms_row,), (note,), "laminar flow through one leak, viscosities from memory", "leak.inside")
    found = [
        Figure("leak_low", sentence("leaks, from") if seen.leaks else sentence("smallest leak it could have shown, from"), seen.low, why),
        Figure("leak_high", sentence("leaks") if seen.leaks else sentence("smallest leak it could have shown"), seen.high, why),
    ]
    if seen.longer_s is not None:
        found.append(Figure("longer", "to see the wanted leak", Amount(seen.longer_s, "duration"), why))
    return found


def chart(
    sheet: HoldSheet, samples: Sequence[HoldSample], verdict: HoldVerdict | None, terms: HoldTerms, context: StepContext
) -> tuple[Chart, ...]:
    """The gauge against the pressure the metal asks for, the ± as a band about it."""
    if sheet.filled_at is None or not samples:
        return ()
    measured = logs.drawn([(s.second, _gauge(s.pressure_pa, context)) for s in samples])
    curves = [Curve("measured", "gauge", *measured)]
    band = None
    if verdict is not None and verdict.drop is not None:
        curves.append(Curve("expected", "tight, it would read", *_expected(samples, verdict, terms, context)))
        band = Amount(verdict.drop.uncertainty_pa, "gauge_pressure_delta")
    last = samples[-1].second
    wait = verdict.wait_s if verdict is not None else None
    return (
        Chart(
            id="hold",
            title="Pressure hold",
            quantity="gauge_pressure",
            logarithmic=False,
            starts_at=sheet.filled_at,
            curves=tuple(curves),
            now_s=last,
            not_judged_s=terms.settle_s,
            decide_s=None if wait is None else last + wait,
            band=band,
            marks=(ChartMark(0.0, None, "filled"),),
        ),
    )


def _expected(
    samples: Sequence[HoldSample], verdict: HoldVerdict, terms: HoldTerms, context: StepContext
) -> tuple[tuple[float, ...], tuple[float, ...]]:
    start = verdict.start
    from_k = start.metal_k or terms.usual_metal_k
    rows = [
        (
            s.second,
            _gauge(pressure_hold.expected_pa(start.pressure_pa, from_k, s.metal_k if verdict.probed and s.metal_k else from_k), context),
        )
        for s in samples
        if s.second >= start.second - 1.0
    ]
    return logs.drawn(rows)


def plan_rows(sheet: HoldSheet, plan: Plan, verdict: HoldVerdict | None, terms: HoldTerms, context: StepContext) -> tuple[PlanRow, ...]:
    """The stages up to the test pressure, settling, and the hold itself."""
    if plan.test_pa is None:
        return ()
    profile = context.profile
    filled = sheet.filled_at is not None
    rows = []
    stages = [] if low_pressure(context.plate) else [profile.value("hold.gross"), profile.value("hold.second")]
    for n, stage in enumerate(pa for pa in stages if pa < 0.9 * plan.test_pa):
        text = (
            sentence("{stage}: listen and look. What hisses now is found for nothing.")
            if n == 0
            else sentence("{stage}: wait a minute; a large leak shows here.")
        )
        rows.append(PlanRow(f"stage{n}", Message(text, {"stage": Amount(stage, "gauge_pressure")}), "done" if filled else "later"))
    test = {"test": Amount(plan.test_pa, "gauge_pressure")}
    rows.append(
        PlanRow(
            "fill",
            Message("{test}, valve shut, hose off or gauge isolated from the bottle.", test),
            "done" if filled else "later",
            None,
            sheet.filled_at,
        )
    )
    settled = verdict is not None and verdict.kind != "settling"
    settle = PlanRow(
        "settle", Message("It settles."), "done" if settled else "now" if filled else "later", Amount(terms.settle_s, "duration")
    )
    held = verdict is not None and verdict.kind in {"holds", "drops"}
    hold = PlanRow(
        "hold",
        Message("It is held; bubbles on every joint meanwhile."),
        "done" if held else "now" if settled else "later",
        Amount(terms.least_s, "duration"),
    )
    rows += [settle, hold]
    if not filled:
        first = next(n for n, row in enumerate(rows) if row.state == "later")
        rows[first] = PlanRow(rows[first].id, rows[first].text, "now", rows[first].duration)
    if settled and sheet.filled_at is not None and verdict is not None and verdict.wait_s:
        ends = later(sheet.filled_at, verdict.end.second + verdict.wait_s)
        rows[-1] = PlanRow(hold.id, hold.text, hold.state, hold.duration, ends)
    return tuple(rows)


def cautions(context: StepContext) -> tuple[Caution, ...]:
    """Where it bites here."""
    rows = [
        Caution("nitrogen", Message("Dry nitrogen through a regulator, with a relief valve. Never oxygen, never compressed air.")),
        Caution("stand_aside", Message("Raise it in stages and stand aside: a joint can let go like a shot.")),
        Caution("air", Message("Nitrogen in a closed room takes the air away: door open, somebody outside.")),
    ]
    if context.plate.kind == "chiller":
        rows.append(Caution("disc", Message("Low-pressure machines: the rupture disc lets go soon above the test pressure.")))
    return tuple(rows)
