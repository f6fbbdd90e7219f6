"""Two coils in closed form: how much of each is vapour, boiling or condensing, and liquid.

Every slice of a coil meets fresh air, so a zone of the coil's share x takes
`x·K·(mean temperature difference)` with `K = C_air·(1 − e^(−UA/C_air))`. Shares add up to one; the
last zone takes what is left, and its outlet follows. Where the shares before it already need more
than the coil, the outlet is two-phase.
"""

from dataclasses import dataclass
from math import exp, log

from yoshi_core.rig.air import HEAT_J_KG_K, Air, saturated_enthalpy
from yoshi_core.rig.fluid import Fluid, Saturated

LEAST_K = 0.05
VAPOR_SPAN_K = 15.0
LIQUID_SPAN_K = 5.0


@dataclass(slots=True)
class CoilNow:
    """A coil at the moment: air side UA in W/K and air flow in kg/s as they are, refrigerant side UA at design flow, volume in m³."""

    air_ua_w_k: float
    flow_kg_s: float
    vapor_ua_w_k: float
    two_phase_ua_w_k: float
    liquid_ua_w_k: float
    volume_m3: float

    @property
    def capacity_w_k(self) -> float:
        """What the air takes for each kelvin, W/K."""
        return self.flow_kg_s * HEAT_J_KG_K

    def conductance(self, refrigerant_ua_w_k: float) -> float:
        """K of a zone in W/K, for the whole coil in that zone."""
        air = self.air_ua_w_k
        ua = air * refrigerant_ua_w_k / (air + refrigerant_ua_w_k)
        capacity = self.flow_kg_s * HEAT_J_KG_K
        return capacity * (1.0 - exp(-ua / capacity))


@dataclass(slots=True)
class Passed:
    """What leaves a coil and what stays in it: outlet enthalpy in J/kg and charge in kg.

    `gas`, `two_phase` and `liquid` are the shares of the coil that are so, in the order refrigerant passes them in a condenser (in an
    evaporator two-phase comes first); `first` and `last` are the qualities at both ends of the two-phase zone.
    """

    out_j_kg: float
    charge_kg: float
    gas: float
    two_phase: float
    liquid: float
    first: float
    last: float


def mean_difference(first: float, last: float) -> float:
    """Logarithmic mean of two differences, each at least `LEAST_K`."""
    first, last = max(first, LEAST_K), max(last, LEAST_K)
    ratio = first / last
    if 0.999 < ratio < 1.001:
        return 0.5 * (first + last)
    return (first - last) / log(ratio)


def mean_void(gamma: float, low: float, high: float) -> float:
    """Zivi void fraction averaged over quality from `low` to `high`; `gamma` is (vapour/liquid density)^(2/3).

    `x/(x + γ(1 − x))` integrated; from 0 to 1 it is `1/(1 − γ) + γ·ln γ/(1 − γ)²`. Source: Zivi 1964 (from memory).
    """
    rest = 1.0 - gamma
    if high - low < 1e-9:
        return low / (low + gamma * (1.0 - low)) if low > 0.0 else 0.0
    straight = (high - low) / rest
    bent = gamma / (rest * rest) * log((gamma + rest * high) / (gamma + rest * low))
    return (straight - bent) / (high - low)


def two_phase_kg_m3(state: Saturated, low: float, high: float) -> float:
    """Mean density in kg/m³ of a two-phase zone between two qualities."""
    gamma = (state.vapor_kg_m3 / state.liquid_kg_m3) ** (2.0 / 3.0)
    void = mean_void(gamma, max(low, 0.0), min(high, 1.0))
    return void * state.vapor_kg_m3 + (1.0 - void) * state.liquid_kg_m3


def condense(fluid: Fluid, coil: CoilNow, state: Saturated, in_j_kg: float, air_k: float, flow: float, share: float) -> Passed:
    """The condenser at a saturated state: gas in at `in_j_kg`, air at `air_k` K; `share` is flow over design flow."""
    fast, slow = share**0.8, share**0.5
    k_vapor = coil.conductance(coil.vapor_ua_w_k * fast)
    k_two = coil.conductance(coil.two_phase_ua_w_k * slow)
    dew_k, bubble_k = state.dew_k, state.bubble_k
    superheat = fluid.superheat_of(state, in_j_kg)
    desuperheating = 0.0
    if superheat > 0.0:
        across = mean_difference(dew_k + superheat - air_k, dew_k - air_k)
        given = flow * (in_j_kg - state.vapor_j_kg)
        desuperheating = given / (k_vapor * across)
        start_j_kg = state.vapor_j_kg
    else:
        start_j_kg = in_j_kg
    latent = start_j_kg - state.liquid_j_kg
    across_two = mean_difference(dew_k - air_k, bubble_k - air_k)
    condensing = flow * latent / (k_two * across_two)
    first_quality = latent / state.latent_j_kg
    left = 1.0 - desuperheating - condensing
    if left > 0.0:
        k_liquid = coil.conductance(coil.liquid_ua_w_k * fast)
        below_j_kg = fluid.liquid_j_kg(bubble_k - LIQUID_SPAN_K)
        rate = flow * (state.liquid_j_kg - below_j_kg) / LIQUID_SPAN_K
        over = max(bubble_k - air_k, LEAST_K)
        out_k = bubble_k - over * (1.0 - exp(-left * k_liquid / rate))
        out_j_kg = fluid.liquid_j_kg(out_k)
        last_quality, zone = 0.0, condensing
        liquid_kg = left * fluid.liquid_kg_m3(0.5 * (bubble_k + out_k))
    else:
        zone = max(1.0 - desuperheating, 0.0)
        out_j_kg = start_j_kg - latent * zone / condensing
        last_quality = (out_j_kg - state.liquid_j_kg) / state.latent_j_kg
        liquid_kg = 0.0
    vapor_kg = 0.0
    if desuperheating > 0.0:
        vapor_kg = min(desuperheating, 1.0) * fluid.vapor_density(state, 0.5 * superheat)
    two_kg = zone * two_phase_kg_m3(state, last_quality, first_quality)
    kept_kg = coil.volume_m3 * (vapor_kg + two_kg + liquid_kg)
    return Passed(out_j_kg, kept_kg, min(desuperheating, 1.0), zone, max(left, 0.0), first_quality, last_quality)


def evaporate(fluid: Fluid, coil: CoilNow, state: Saturated, in_j_kg: float, inlet: Air, flow: float, share: float, *, wet: bool) -> Passed:
    """The evaporator at a saturated state: liquid and flash gas in at `in_j_kg`, air as `inlet`.

    A boiling zone takes the larger of the dry and the enthalpy-driven (wet) heat.
    """
    fast, slow = share**0.8, share**0.5
    two_ua = coil.two_phase_ua_w_k * slow
    k_two = coil.conductance(two_ua)
    quality = max((in_j_kg - state.liquid_j_kg) / state.latent_j_kg, 0.0)
    dew_k = state.dew_k
    start_k = state.bubble_k + quality * (dew_k - state.bubble_k)
    rate = k_two * mean_difference(inlet.dry_bulb_k - start_k, inlet.dry_bulb_k - dew_k)
    if wet:
        rate = max(rate, _wet_rate(coil, inlet, start_k, dew_k, two_ua))
    needed = flow * (state.vapor_j_kg - in_j_kg)
    boiling = needed / rate
    if boiling >= 1.0:
        out_j_kg = in_j_kg + rate / flow
        last = (out_j_kg - state.liquid_j_kg) / state.latent_j_kg
        charge = coil.volume_m3 * two_phase_kg_m3(state, quality, last)
        return Passed(out_j_kg, charge, 0.0, 1.0, 0.0, quality, last)
    left = 1.0 - boiling
    k_vapor = coil.conductance(coil.vapor_ua_w_k * fast)
    vapor_c = flow * (fluid.vapor_enthalpy(state, VAPOR_SPAN_K) - state.vapor_j_kg) / VAPOR_SPAN_K
    over = max(inlet.dry_bulb_k - dew_k, LEAST_K)
    superheat = over * (1.0 - exp(-left * k_vapor / vapor_c))
    out_j_kg = fluid.vapor_enthalpy(state, superheat)
    vapor = fluid.vapor_density(state, 0.5 * superheat)
    charge = coil.volume_m3 * (boiling * two_phase_kg_m3(state, quality, 1.0) + left * vapor)
    return Passed(out_j_kg, charge, left, boiling, 0.0, quality, 1.0)


def _wet_rate(coil: CoilNow, inlet: Air, start_k: float, dew_k: float, refrigerant_ua: float) -> float:
    """Heat in W of the whole coil boiling, driven by the enthalpy of the air over that of saturated air at the refrigerant."""
    pressure = inlet.pressure_pa
    first, last = saturated_enthalpy(start_k, pressure), saturated_enthalpy(dew_k, pressure)
    slope = (saturated_enthalpy(dew_k + 3.0, pressure) - last) / (3.0 * HEAT_J_KG_K)
    air = coil.air_ua_w_k
    ua = air / (1.0 + slope * air / refrigerant_ua)
    flow = coil.flow_kg_s * (1.0 - exp(-ua / (coil.flow_kg_s * HEAT_J_KG_K)))
    least = LEAST_K * HEAT_J_KG_K
    a, b = max(inlet.enthalpy_j_kg - first, least), max(inlet.enthalpy_j_kg - last, least)
    ratio = a / b
    mean = 0.5 * (a + b) if 0.999 < ratio < 1.001 else (a - b) / log(ratio)
    return flow * mean
