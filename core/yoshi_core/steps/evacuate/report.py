"""How Evacuate shows itself: figures with their why, the charts of pull and decay, cautions."""

from yoshi_core import refrigerants
from yoshi_core.charge.volume import Volume
from yoshi_core.document.sheets import value_of
from yoshi_core.findings.pictures import Chart, ChartMark, Curve
from yoshi_core.findings.verdict import Caution, Figure, Term, Why
from yoshi_core.message import Message, headline, sentence
from yoshi_core.profile.profile import TRADE
from yoshi_core.properties.humid_air import water_vapor_pa
from yoshi_core.steps import logs
from yoshi_core.steps.contract import StepContext
from yoshi_core.steps.evacuate.phases import Phase, Watched
from yoshi_core.steps.evacuate.sheet import EvacuateSheet
from yoshi_core.tight_and_dry.decay import Fit
from yoshi_core.tight_and_dry.evacuation import DecayVerdict, Limits
from yoshi_core.units.display import Amount

AHEAD, BEGAN_S = 1.25, 60.0
MODEL_POINTS = 40


def figures(sheet: EvacuateSheet, watched: Watched, limits: Limits, volume: Volume) -> tuple[Figure, ...]:
    """Now, the limit as a leak and as micron a minute, the fit's parameters with ±, the forecast, water's ceiling."""
    found = []
    last = watched.phases[-1] if watched.phases else None
    if last is not None and last.log:
        found.append(Figure("now", "now", Amount(last.log[-1][1], "micron"), Why((), (), "the micron gauge", "vacuum.target")))
    found.append(Figure("target", "pull to", Amount(limits.target_pa, "micron"), Why((), (), TRADE, "vacuum.target")))
    found.append(Figure("watch", "watched for", Amount(limits.hold_s, "duration"), Why((), (), TRADE, "vacuum.hold")))
    slope_limit = limits.leak_pa_m3_s / (volume.m3 * volume.band)
    allowed = (
        Term("", Amount(limits.leak_pa_m3_s, "leak_flow"), "leak that counts"),
        Term("÷", Amount(volume.m3 * volume.band, "volume"), headline("volume, {how}", how=volume.how)),
        Term("=", Amount(slope_limit, "vacuum_rate"), "allowed climb"),
    )
    note = Message(
        "The limit is a leak, not a climb: the same leak climbs slower in a larger volume. A volume that is guessed counts at its upper end."
    )
    found.append(Figure("slope_limit", "may climb", Amount(slope_limit, "vacuum_rate"), Why((allowed,), (note,), TRADE, "vacuum.leak")))
    found.append(
        Figure(
            "volume",
            "volume",
            Amount(volume.m3, "volume"),
            Why((), (headline("{how:cap}.", how=volume.how),), TRADE, "vacuum.hold_volume"),
        )
    )
    if watched.decay is not None:
        found += _decay_figures(watched.decay, volume)
    if watched.forecast is not None and watched.forecast.seconds is not None:
        text = Message(
            "The fall of the logarithm over the last part of the log, fitted as pump and hose would give less the gas that keeps coming."
        )
        why = Why((), (text,), "1/S = 1/pump + 1/hose, hose as the handbook has it (from memory)", "vacuum.target")
        found.append(Figure("to_target", "to the target", Amount(watched.forecast.seconds, "duration"), why))
    cold = value_of(sheet.coldest)
    if cold is not None:
        why = Why(
            (),
            (Message("Above it a plateau is not water alone."),),
            "vapour pressure of water and ice (ASHRAE, by PsychroLib)",
            "vacuum.ceiling",
        )
        found.append(Figure("ceiling", "water holds at most", Amount(water_vapor_pa(cold), "micron"), why))
    return tuple(found)


def _decay_figures(decay: DecayVerdict, volume: Volume) -> list[Figure]:
    if decay.two_points or decay.leak_fit is None or decay.moisture_fit is None:
        return []
    found = []
    leak, moist = decay.leak_fit, decay.moisture_fit
    formula = sentence("p = p₀ + r·t against p = p∞ − A·e^(−t/τ); χ² + k·ln n, six ahead is enough to say.")
    why = Why((), (Message(formula),), "weighted least squares, σ the larger of 5 micron and 2 %", "vacuum.decay")
    leak_flow = (
        Term("", Amount(leak.rate_pa_s, "vacuum_rate", leak.rate_u), "climb"),
        Term("×", Amount(volume.m3, "volume"), "volume"),
        Term("=", Amount(max(leak.rate_pa_s, 0.0) * volume.m3, "leak_flow"), "leak"),
    )
    found.append(
        Figure(
            "climb",
            "if a leak, it climbs",
            Amount(leak.rate_pa_s, "vacuum_rate", leak.rate_u),
            Why((leak_flow,), why.notes, why.source, why.rule_id),
        )
    )
    if moist.plateau_pa is not None and moist.tau_s is not None:
        found.append(Figure("plateau", "if moisture, it levels off at", Amount(moist.plateau_pa, "micron", moist.plateau_u), why))
        found.append(Figure("tau", "with a time constant of", Amount(moist.tau_s, "duration"), why))
    found.append(Figure("lead", sentence("leads by") if decay.lead else sentence("neither leads"), Amount(abs(decay.lead), "number"), why))
    return found


def charts(watched: Watched, limits: Limits) -> tuple[Chart, ...]:
    """The whole log on a logarithmic chart, and the last isolation enlarged."""
    whole = [row for phase in watched.phases for row in phase.log]
    if len(whole) < 2:
        return ()
    marks = [ChartMark(phase.starts_s, _value_there(phase), _NAMES[phase.doing]) for phase in watched.phases]
    exact = [phase.starts_s for phase in watched.phases]
    tidy = sorted(dict(whole).items())
    found = [
        Chart(
            id="pull",
            title="Pump-down",
            quantity="micron",
            logarithmic=True,
            starts_at=watched.phases[0].starts_at,
            curves=(Curve("measured", "gauge", *logs.drawn(tidy, exact)),),
            limit=Amount(limits.target_pa, "micron"),
            now_s=tidy[-1][0],
            marks=tuple(marks),
        )
    ]
    last = watched.phases[-1]
    if last.doing == "isolated" and len(last.log) >= 2:
        found.append(_decay_chart(last, watched.decay, limits))
    return tuple(found)


def _value_there(phase: Phase) -> float | None:
    """What the gauge read when the phase began, where it was read then."""
    return phase.log[0][1] if phase.log and phase.log[0][0] - phase.starts_s <= BEGAN_S else None


_NAMES = {"pull": "pump on", "isolated": "isolated", "nitrogen": "nitrogen", "sweep": "sweep"}


def _decay_chart(phase: Phase, decay: DecayVerdict | None, limits: Limits) -> Chart:
    samples = [(max(second - phase.starts_s, 0.0), value) for second, value in phase.log]
    samples = sorted(dict(samples).items())
    now = samples[-1][0]
    decide = now + decay.wait_s if decay is not None and decay.wait_s is not None else None
    until = max(now, decide or 0.0) * AHEAD
    curves = [Curve("measured", "gauge", *logs.drawn(samples))]
    if decay is not None:
        for fit, label in ((decay.leak_fit, "leak"), (decay.moisture_fit, "moisture"), (decay.both_fit, "both")):
            if fit is not None and (fit.model != "both" or decay.kind == "leaking and moist"):
                curves.append(_model(fit, label, decay.from_s, until))
    return Chart(
        id="decay",
        title="Shut off",
        quantity="micron",
        logarithmic=True,
        starts_at=phase.starts_at,
        curves=tuple(curves),
        limit=Amount(limits.stays_pa, "micron"),
        now_s=now,
        not_judged_s=limits.discard_s,
        decide_s=decide,
        marks=(ChartMark(0.0, samples[0][1], "isolated"),),
    )


def _model(fit: Fit, label: str, from_s: float, until_s: float) -> Curve:
    seconds = tuple(from_s + (until_s - from_s) * n / (MODEL_POINTS - 1) for n in range(MODEL_POINTS))
    return Curve(fit.model, label, seconds, tuple(fit.at(s) for s in seconds))


def cautions(context: StepContext) -> tuple[Caution, ...]:
    """Where it bites here."""
    rows = [
        Caution(
            "power",
            Message(
                "Never energise a compressor under vacuum: lock it out. Solenoids energised, or held open by magnet: nothing is pulled behind a shut one."
            ),
        ),
        Caution("zero", Message("Zero the gauges open to the air before the pump starts, never under vacuum.")),
        Caution("air_in", Message("Shut the valve at the system before the pump stops, or its oil and air are drawn in.")),
    ]
    if context.plate.kind == "chiller":
        rows.append(Caution("tubes", Message("Water flows, or the tubes are drained: water left in them freezes and bursts them.")))
    name = context.plate.refrigerant
    if name and refrigerants.is_known(name) and refrigerants.get(name).is_flammable:
        rows.append(Caution("flammable", Message("Flammable: a pump rated for it, its outlet in the open, no spark.")))
    return tuple(rows)
