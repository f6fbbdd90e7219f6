"""While it pulls: where the log is heading, the ballast, and what may keep it from getting there."""

from collections.abc import Sequence
from datetime import datetime

from yoshi_core.charge.volume import Volume
from yoshi_core.document.sheets import value_of
from yoshi_core.errors import CoreError
from yoshi_core.findings.pictures import CauseRow
from yoshi_core.message import Message, joined, sentence, told
from yoshi_core.profile.profile import TRADE
from yoshi_core.properties.humid_air import water_vapor_pa
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.steps.evacuate.phases import Phase, Watched, ballast_open
from yoshi_core.steps.evacuate.sheet import EvacuateSheet
from yoshi_core.tight_and_dry import pull_down
from yoshi_core.tight_and_dry.evacuation import Limits
from yoshi_core.tight_and_dry.pull_down import Forecast, Setup
from yoshi_core.units.display import Amount
from yoshi_core.units.quantities import MICRON_PA

SLOW_SHARE = 0.6
OIL_LOW_PA, OIL_HIGH_PA = 300.0 * MICRON_PA, 6000.0 * MICRON_PA
PUMP_LOW_PA, PUMP_HIGH_PA = 200.0 * MICRON_PA, 2500.0 * MICRON_PA
WATER_LOW, WATER_HIGH = 0.01, 1.3
ROOM_K = 294.0
WORSE = 1.3  # a pull that ends so much higher than the one before has lost its way, not its luck; common practice, no source


def target_now(sheet: EvacuateSheet, pulls: int, limits: Limits, context: StepContext) -> float:
    """What this pull goes to: of three pulls the first two end higher."""
    if sheet.method == "triple" and pulls <= 2:
        return context.profile.value("vacuum.first" if pulls == 1 else "vacuum.second")
    if sheet.method == "sweep" and pulls == 1:
        return context.profile.value("vacuum.first")
    return limits.target_pa


def judge_pull(
    sheet: EvacuateSheet,
    so_far: Sequence[Phase],
    done: Sequence[tuple[datetime, str]],
    setup: Setup,
    volume: Volume,
    limits: Limits,
    wet: bool,
    notes: Notes,
    context: StepContext,
) -> tuple[Forecast | None, tuple[CauseRow, ...]]:
    """The forecast of the pull that goes on, the last of the phases, and the causes where it does not get there."""
    phase = so_far[-1]
    before = min((p.lowest for p in so_far[:-1] if p.doing == "pull" and p.lowest is not None), default=None)
    pulls = sum(what == "pump" for _, what in done)
    target = target_now(sheet, pulls, limits, context)
    now = phase.log[-1][1]
    ballast = ballast_open(done)
    limit = context.profile.value("vacuum.ballast")
    if ballast and now < limit:
        text = sentence("Shut the gas ballast: under {limit} it keeps the pump from going deeper.")
        notes.say("vacuum.ballast", "Wait", text, context.profile.source("vacuum.ballast"), limit=Amount(limit, "micron"))
    amounts = {"target": Amount(target, "micron"), "value": Amount(now, "micron")}
    if now <= target:
        text = (
            sentence("{value}: shut it off and watch it.")
            if target == limits.target_pa
            else sentence("{value}: break it with dry nitrogen.")
        )
        notes.tell(
            "vacuum.pull",
            "Wait",
            joined(Message(text), Message("With the pump on, a low reading proves nothing.")),
            TRADE,
            amounts,
            role="finding",
        )
        return None, ()
    if len(phase.log) < 2:
        notes.tell(
            "vacuum.pull",
            "Wait",
            "{value}, pulling to {target}. The next reading tells where it is heading.",
            TRADE,
            amounts,
            role="finding",
        )
        return None, ()
    try:
        found = pull_down.forecast(phase.log, target, setup, volume.m3)
    except CoreError as error:
        notes.refuse(context.path("readings"), error.code, told(error))
        return None, ()
    _tell(found, amounts, now > water_vapor_pa(value_of(sheet.coldest) or ROOM_K), notes)
    worse = before is not None and now > WORSE * before
    stuck = found.seconds is None or found.high_s is None
    return found, causes(found, now, before if worse else None, sheet, wet, ballast, context) if stuck else ()


def judge_unattended(sheet: EvacuateSheet, watched: Watched, notes: Notes, context: StepContext) -> None:
    """A pump that runs on for hours runs with nobody there: only with somebody's word, and power that stays on."""
    last = watched.phases[-1] if watched.phases else None
    if last is None or last.doing != "pull":
        return
    limit = context.profile.value("vacuum.unattended")
    so_far = (context.now - last.starts_at).total_seconds()
    ahead = 0.0 if watched.forecast is None else watched.forecast.low_s or 0.0
    if max(so_far, 0.0) + ahead <= limit:
        return
    if sheet.left_running:
        notes.say(
            "vacuum.unattended", "Open", "The pump may run with nobody there: {left_running}.", TRADE, left_running=sheet.left_running
        )
        return
    text = sentence(
        "The pump runs for {value} and more. To leave it running, somebody there must agree, and its power must stay on: write down who."
    )
    notes.tell("vacuum.unattended", "Open", text, TRADE, {"value": Amount(max(so_far, 0.0) + ahead, "duration")})


def _tell(found: Forecast, amounts: dict[str, Amount], high_up: bool, notes: Notes) -> None:
    if found.seconds is None:
        rest = {**amounts, "ends": Amount(found.ends_pa or 0.0, "micron")}
        text = sentence("It will not get to {target} like this: it will stop near {ends}.")
        notes.tell("vacuum.pull", "Wait", text, TRADE, rest, role="finding")
        return
    times = {**amounts, "low": Amount(found.low_s or 0.0, "duration"), "about": Amount(found.seconds, "duration")}
    if found.high_s is None:
        notes.tell(
            "vacuum.pull",
            "Wait",
            "At least {low} more to {target}, or never: look for what is holding it up.",
            TRADE,
            times,
            role="finding",
        )
        return
    times["high"] = Amount(found.high_s, "duration")
    unseen = Message("If it is dry: so high up, water has not shown itself yet.") if high_up else None
    notes.tell(
        "vacuum.pull",
        "Wait",
        joined(Message("About {about} more to {target}, from {low} to {high}."), unseen),
        TRADE,
        times,
        role="finding",
    )


def causes(
    found: Forecast, now_pa: float, better: float | None, sheet: EvacuateSheet, wet: bool, ballast: bool | None, context: StepContext
) -> tuple[CauseRow, ...]:
    """What keeps it up, best fit first; shutting it off for ten minutes tells most of them apart. `better`: how low an earlier pull got, where this one does not."""
    at = Amount(now_pa, "micron")
    rows = [
        *([] if better is None else [_port(at, better)]),
        _water(now_pa, at, sheet, wet),
        _oil(now_pa, at, context),
        _way(found, sheet),
        _pump(now_pa, at, sheet, ballast),
        _leak(context),
    ]
    return tuple(sorted(rows, key=lambda row: -row.fit))


def _row(cause: str, label: str, points: int, speaks_for: list[Message], against: list[Message], excluded_by: str) -> CauseRow:
    return CauseRow(cause, label, max(1, min(4, points)), tuple(speaks_for), tuple(against), excluded_by)


def _water(now: float, at: Amount, sheet: EvacuateSheet, wet: bool) -> CauseRow:
    cold = value_of(sheet.coldest) or ROOM_K
    ceiling = water_vapor_pa(cold)
    amounts = {"at": at, "ceiling": Amount(ceiling, "micron"), "cold": Amount(cold, "temperature")}
    near = WATER_LOW * ceiling <= now <= WATER_HIGH * ceiling
    speaks_for, against, points = [], [], 1
    if wet:
        speaks_for.append(Message("It stood open long, or water got in."))
        points += 2
    if near:
        speaks_for.append(Message("{at} is under the {ceiling} that water holds at {cold}.", amounts))
        points += 1
    else:
        against.append(Message("{at} is more than water holds at {cold}: {ceiling}.", amounts))
        points -= 1
    return _row("water", "water inside", points, speaks_for, against, "shut off, it does not climb and level off")


def _oil(now: float, at: Amount, context: StepContext) -> CauseRow:
    speaks_for, against, points = [], [], 1
    if OIL_LOW_PA <= now <= OIL_HIGH_PA:
        speaks_for.append(Message("Around {at} refrigerant boils out of the compressor's oil.", {"at": at}))
        points += 1
    if context.plate.kind in {"reach_in", "chiller", "vrf"}:
        speaks_for.append(Message("There is much oil in this kind of system."))
        points += 1
    if "recover" in context.earlier and context.earlier["recover"].verdict.word == "Holds":
        against.append(Message("Recovery ended without a rise."))
    return _row("oil", "refrigerant leaving the oil", points, speaks_for, against, "a crankcase heater on for half an hour changes nothing")


def _way(found: Forecast, sheet: EvacuateSheet) -> CauseRow:
    speaks_for, against, points = [], [], 1
    if found.speed_share is not None:
        share = {"share": Amount(found.speed_share, "fraction")}
        if found.speed_share < SLOW_SHARE:
            speaks_for.append(Message("From the start it fell at {share} of what hose and pump should give.", share))
            points += 2
        else:
            against.append(Message("At the start it fell at {share} of what hose and pump should give.", share))
            points -= 1
    if sheet.cores_out is False:
        speaks_for.append(Message("The cores are still in."))
        points += 1
    if sheet.valves_open is False:
        speaks_for.append(Message("A valve on the way is shut."))
        points += 2
    return _row("way", "a narrow or shut way to the pump", points, speaks_for, against, "a gauge at the pump reads the same as the far one")


def _port(at: Amount, better: float) -> CauseRow:
    """A pull that ends higher than the one before, on the same system: its way was shut meanwhile."""
    amounts = {"at": at, "before": Amount(better, "micron")}
    worse = Message("The pull before got to {before}, this one stands at {at}.", amounts)
    return _row("port", "a port or valve that closed since the pull before", 4, [worse], [], "a second gauge elsewhere reads the same")


def _pump(now: float, at: Amount, sheet: EvacuateSheet, ballast: bool | None) -> CauseRow:
    speaks_for, against, points = [], [], 1
    if sheet.oil_fresh is False:
        speaks_for.append(Message("The pump's oil is not fresh."))
        points += 2
    elif sheet.oil_fresh:
        against.append(Message("The pump's oil is fresh."))
        points -= 1
    if ballast:
        speaks_for.append(Message("The gas ballast is open."))
        points += 2
    if PUMP_LOW_PA <= now <= PUMP_HIGH_PA:
        speaks_for.append(Message("A tired pump ends around {at}.", {"at": at}))
        points += 1
    return _row("pump", "a tired pump or its oil", points, speaks_for, against, "blanked off, the pump alone goes under 100 micron")


def _leak(context: StepContext) -> CauseRow:
    speaks_for, against, points = [], [], 2
    hold = context.earlier.get("pressure_hold")
    if hold is not None and hold.verdict.word == "Holds" and hold.state != "not_applicable":
        against.append(Message("The pressure hold passed; a hose or its gasket may still leak."))
        points -= 1
    else:
        speaks_for.append(Message("Tight is not proven under nitrogen."))
        points += 1
    return _row(
        "leak", "a leak, at a hose or in the system", points, speaks_for, against, "shut off at the system, it does not keep climbing"
    )
