"""Where a unit settles: damped Newton on three equations, several starts, then bisection.

Nothing here raises for a unit that cannot run: past the high cut-out, under the low one, or with too
little inside, the answer is a named state.
"""

from dataclasses import replace
from math import exp, isfinite, log

from yoshi_core.errors import CoreError
from yoshi_core.rig.air import leaving
from yoshi_core.rig.balance import ENTHALPY_SCALE, Balance
from yoshi_core.rig.fluid import fluid
from yoshi_core.rig.standing import standing
from yoshi_core.rig.unit import Faults, State, StateName, Unit, Weather

Vector = tuple[float, float, float]
TOLERANCE = 1e-9
GOOD_ENOUGH = 1e-7
WORTH_KEEPING = 0.4
NEWTON_STEPS = 60
HALVINGS = 10
BISECTIONS = 14  # rough is enough: Newton polishes
FALLS_OFF = (CoreError, ValueError, ZeroDivisionError, OverflowError)
NUDGE = 1e-6
LARGEST_STEP = (0.25, 0.12, 0.35)
LEAST_SHARE = 0.15
STARTS = ((0.0, 0.0, 0.0), (-0.35, -0.10, 0.15), (0.15, 0.12, -0.25), (-0.8, -0.15, 0.2), (-1.3, -0.2, 0.25))


WELL = Faults()
REASONS: dict[str, str] = {
    "tripped_high": "head pressure passes the high cut-out",
    "tripped_low": "suction pressure falls under the low cut-out",
    "not_solved": "the equations found no steady state here",
}


def solve(unit: Unit, weather: Weather, faults: Faults = WELL, start: Vector | None = None) -> State:
    """The settled state. `start` is a solved neighbour's `unknowns`, to begin from. Never raises for a unit that cannot run."""
    if faults.charge_share < LEAST_SHARE:
        return _stopped("too_little", "less than 15 % of the charge is inside", unit, weather, faults)
    balance = Balance(unit, weather, faults)
    found: Vector | StateName | None = None
    for guess in _guesses(balance, start):
        found = newton(balance, guess)
        if found is not None:
            break
    if found is None:
        found = _by_bisection(balance)
    if isinstance(found, str):
        return _stopped(found, REASONS[found], unit, weather, faults)
    return _judged(balance, found)


def _guesses(balance: Balance, start: Vector | None) -> list[Vector]:
    unit, weather = balance.unit, balance.weather
    known = balance.fluid
    warm = balance.condenser_air.dry_bulb_k
    lift = 9.0 + 6.0 * (balance.faults.charge_share - 1.0) + balance.faults.dirty_condenser * 8.0
    high = log(min(known.bubble_pressure_pa(min(warm + lift, known.last_k - 3.0)), 0.93 * known.highest_pa))
    low = log(unit.evaporating_pa) + 0.25 * (high - log(unit.condensing_pa))
    if weather.mode == "heating":
        low = min(low, log(known.dew_pressure_pa(balance.evaporator_air.dry_bulb_k - 8.0)))
    low -= 0.5 * max(0.0, 1.0 - balance.faults.charge_share)
    state = known.saturated(exp(low))
    enthalpy = (state.vapor_j_kg + 6000.0) / ENTHALPY_SCALE
    found = [] if start is None else [start]
    for a, b, c in STARTS:
        found.append((low + a, min(high + b, log(0.97 * known.highest_pa)), enthalpy + 0.2 * c))
    return found


def newton(balance: Balance, x: Vector) -> Vector | None:
    """The solution near a guess, or None: Newton's step, its matrix carried on by Broyden's update while that serves."""
    try:
        at = balance.point(x).residuals
        size = _size(at)
        inverse = None
        for _ in range(NEWTON_STEPS):
            if size < TOLERANCE:
                return x
            fresh = inverse is None
            if inverse is None:
                inverse = _inverse(balance, x, at)
            if inverse is None:
                return None
            step = _times(inverse, at)
            moved = _advance(balance, x, step, size)
            if moved is None:
                if fresh:
                    return x if size < GOOD_ENOUGH else None
                inverse = None
                continue
            taken, x, new = moved
            reduced = _size(new)
            inverse = _broyden(inverse, taken, new, at) if reduced < WORTH_KEEPING * size else None
            at, size = new, reduced
    except FALLS_OFF:
        return None
    return x if size < GOOD_ENOUGH else None


def _advance(balance: Balance, x: Vector, step: Vector, size: float) -> tuple[Vector, Vector, Vector] | None:
    """A step that makes the residuals smaller: the part taken, where it led, and the residuals there."""
    damp = min(1.0, *(limit / max(abs(s), 1e-30) for limit, s in zip(LARGEST_STEP, step, strict=True)))
    for _ in range(HALVINGS):
        taken = (-damp * step[0], -damp * step[1], -damp * step[2])
        trial = (x[0] + taken[0], x[1] + taken[1], x[2] + taken[2])
        try:
            tried = balance.point(trial).residuals
        except FALLS_OFF:
            damp *= 0.5
            continue
        new = _size(tried)
        if new < size * (1.0 - 0.1 * damp) or new < TOLERANCE:
            return taken, trial, tried
        damp *= 0.5
    return None


def _size(residuals: Vector) -> float:
    return max(abs(residuals[0]), abs(residuals[1]), abs(residuals[2]))


def _times(matrix: list[Vector], v: Vector) -> Vector:
    (a, b, c), (d, e, f), (g, h, i) = matrix
    return (a * v[0] + b * v[1] + c * v[2], d * v[0] + e * v[1] + f * v[2], g * v[0] + h * v[1] + i * v[2])


def _inverse(balance: Balance, x: Vector, at: Vector) -> list[Vector] | None:
    """The inverse of the Jacobian by finite differences; None where it is singular."""
    columns = []
    for n in range(3):
        moved = list(x)
        moved[n] += NUDGE
        shifted = balance.point((moved[0], moved[1], moved[2])).residuals
        columns.append([(b - a) / NUDGE for a, b in zip(at, shifted, strict=True)])
    (a, d, g), (b, e, h), (c, f, i) = columns
    determinant = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g)
    if abs(determinant) < 1e-14 or not isfinite(determinant):
        return None
    k = 1.0 / determinant
    return [
        ((e * i - f * h) * k, (c * h - b * i) * k, (b * f - c * e) * k),
        ((f * g - d * i) * k, (a * i - c * g) * k, (c * d - a * f) * k),
        ((d * h - e * g) * k, (b * g - a * h) * k, (a * e - b * d) * k),
    ]


def _broyden(inverse: list[Vector], taken: Vector, new: Vector, old: Vector) -> list[Vector] | None:
    """Broyden's good update of the inverse (Sherman and Morrison)."""
    change = (new[0] - old[0], new[1] - old[1], new[2] - old[2])
    there = _times(inverse, change)
    row = tuple(sum(taken[n] * inverse[n][m] for n in range(3)) for m in range(3))
    scale = sum(t * w for t, w in zip(taken, there, strict=True))
    if abs(scale) < 1e-30:
        return None
    gap = [(t - w) / scale for t, w in zip(taken, there, strict=True)]
    return [(inverse[n][0] + gap[n] * row[0], inverse[n][1] + gap[n] * row[1], inverse[n][2] + gap[n] * row[2]) for n in range(3)]


def _by_bisection(balance: Balance) -> Vector | StateName:
    """Slow and sure: for a head pressure, the suction pressure at which the valve passes what the compressor takes.

    The mass held rises with head pressure; where even the cut-out's pressure does not hold the charge,
    the unit trips.
    """
    unit, known = balance.unit, balance.fluid
    top = log(min(unit.high_cut_out_pa, 0.995 * known.highest_pa))
    bottom = log(known.bubble_pressure_pa(min(balance.condenser_air.dry_bulb_k + 0.2, known.last_k - 2.0)))
    if bottom >= top:
        return "tripped_high"
    held: dict[float, tuple[Vector, float]] = {}

    def surplus(high: float) -> float | None:
        inner = _suction_at(balance, high)
        if inner is None:
            return None
        held[high] = (inner, balance.point(inner).residuals[2])
        return held[high][1]

    at_top = surplus(top)
    if at_top is not None and at_top < 0.0:
        return "tripped_high"
    low, high = bottom, top
    for _ in range(BISECTIONS):
        middle = 0.5 * (low + high)
        value = surplus(middle)
        if value is not None and value > 0.0:
            high = middle
        else:
            low = middle
    for place in (high, low):
        if place in held:
            polished = newton(balance, held[place][0])
            if polished is not None:
                return polished
    if high in held and exp(held[high][0][0]) < 1.15 * unit.low_cut_out_pa:
        return "tripped_low"
    return "tripped_low" if exp(low) < 1.02 * exp(bottom) else "not_solved"


def _suction_at(balance: Balance, high: float) -> Vector | None:
    """Suction pressure and evaporator outlet that agree with the valve and the coil at a head pressure."""
    known = balance.fluid
    low, top = log(1.05 * known.lowest_pa), high - 0.05
    found = None
    for _ in range(BISECTIONS):
        middle = 0.5 * (low + top)
        inner = _outlet_at(balance, middle, high)
        if inner is None:
            low = middle
            continue
        found = inner
        if balance.point(inner).residuals[0] > 0.0:
            low = middle
        else:
            top = middle
    return found


def _outlet_at(balance: Balance, low: float, high: float) -> Vector | None:
    """The evaporator's outlet enthalpy that its coil also makes, at two pressures."""
    try:
        state = balance.fluid.saturated(exp(low))
        least = (state.liquid_j_kg + 0.3 * state.latent_j_kg) / ENTHALPY_SCALE
        most = (state.vapor_j_kg + 60_000.0) / ENTHALPY_SCALE
        for _ in range(BISECTIONS):
            middle = 0.5 * (least + most)
            if balance.point((low, high, middle)).residuals[1] > 0.0:
                least = middle
            else:
                most = middle
    except FALLS_OFF:
        return None
    return (low, high, 0.5 * (least + most))


def _judged(balance: Balance, x: Vector) -> State:
    """The solved point as a state: running, or tripped where it lies past a cut-out."""
    unit, weather, known = balance.unit, balance.weather, balance.fluid
    point = balance.point(x)
    if point.liquid_pa > unit.high_cut_out_pa:
        return _stopped("tripped_high", REASONS["tripped_high"], unit, weather, balance.faults)
    if point.suction.pressure_pa < unit.low_cut_out_pa:
        return _stopped("tripped_low", REASONS["tripped_low"], unit, weather, balance.faults)
    suction_k = known.temperature_k(point.suction, point.suction_in)
    liquid_k = known.temperature_k(point.high, point.liquid)
    discharge = known.saturated(min(point.liquid_pa, known.highest_pa))
    evaporator_w = point.valve_flow * (point.evaporator_made - point.liquid)
    condenser_w = point.flow * (point.discharge - point.liquid)
    gained = evaporator_w + point.suction_gain_w + point.power_w - point.shell_loss_w
    coil = balance.evaporator if weather.mode == "cooling" else balance.condenser
    if weather.mode == "cooling":
        back_k = balance.evaporator_air.dry_bulb_k
        supply_k, sensible = leaving(balance.evaporator_air, evaporator_w, coil.flow_kg_s, coil.air_ua_w_k)
    else:
        back_k = balance.condenser_air.dry_bulb_k
        supply_k, sensible = back_k + condenser_w / coil.capacity_w_k, 1.0
    after = known.saturated(min(point.valve_in_pa, known.highest_pa))
    superheat, subcooling = as_read(unit.refrigerant, point.suction.pressure_pa, suction_k, point.liquid_pa, liquid_k)
    return State(
        name="running",
        reason="",
        suction_pa=point.suction.pressure_pa,
        suction_k=suction_k,
        liquid_pa=point.liquid_pa,
        liquid_k=liquid_k,
        superheat_k=superheat,
        subcooling_k=subcooling,
        evaporating_pa=point.low.pressure_pa,
        condensing_pa=point.high.pressure_pa,
        evaporator_out_k=known.temperature_k(point.low, point.evaporator_out),
        discharge_k=known.temperature_k(discharge, point.discharge),
        mass_flow_kg_s=point.flow,
        evaporator_w=evaporator_w,
        condenser_w=condenser_w,
        suction_gain_w=point.suction_gain_w,
        shell_loss_w=point.shell_loss_w,
        power_w=point.power_w,
        return_k=back_k,
        supply_k=supply_k,
        sensible_share=sensible,
        valve_opening=point.opening,
        after_restriction_k=known.temperature_k(after, point.liquid),
        inventory=point.inventory,
        mass_error=point.inventory.total_kg / balance.charge_kg - 1.0,
        energy_error=(gained - condenser_w) / condenser_w,
        evaluations=balance.evaluations,
        unknowns=x,
    )


def as_read(refrigerant: str, suction_pa: float, suction_k: float, liquid_pa: float, liquid_k: float) -> tuple[float, float]:
    """Superheat and subcooling in K as a technician reads them, by the tables of the refrigerant on the plate."""
    known = fluid(refrigerant)
    dew_k = known.saturated(suction_pa).dew_k
    bubble_k = known.saturated(min(liquid_pa, known.highest_pa)).bubble_k
    return suction_k - dew_k, bubble_k - liquid_k


def _stopped(name: StateName, reason: str, unit: Unit, weather: Weather, faults: Faults) -> State:
    """A unit that does not run: what it stands at."""
    return replace(standing(unit, weather, faults), name=name, reason=reason)
