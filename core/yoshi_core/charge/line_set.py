"""What a metre of line set holds, by geometry or by the maker's figure."""

from yoshi_core.charge.tubing import inside_area_m2
from yoshi_core.errors import OutOfRange
from yoshi_core.frozen import dataclass
from yoshi_core.properties import saturation, vapor
from yoshi_core.properties.saturation import AnyRefrigerant
from yoshi_core.units.display import Amount
from yoshi_core.units.quantities import FAHRENHEIT_K, INCH_M, ZERO_FAHRENHEIT_K

DEFAULT_LIQUID_K = 100 * FAHRENHEIT_K + ZERO_FAHRENHEIT_K
DEFAULT_SUCTION_DEW_K = 45 * FAHRENHEIT_K + ZERO_FAHRENHEIT_K
DEFAULT_SUCTION_SUPERHEAT_K = 10 * FAHRENHEIT_K
HOT_GAS_DEW_K = 105 * FAHRENHEIT_K + ZERO_FAHRENHEIT_K
HOT_GAS_SUPERHEAT_K = 45 * FAHRENHEIT_K

VRF_KG_M = {0.00635: 0.022, 0.00952: 0.054, 0.0127: 0.110, 0.01588: 0.170, 0.01905: 0.25}
SAME_SIZE_M = 2e-5


def variable_flow_kg_m(liquid_od_m: float) -> float:
    """Charge in kg for a metre of a variable-flow system's liquid line, its vapour line counted in, by outside diameter in m.

    Common practice, no source; the maker's table wins. Raises `OutOfRange` for a size without a figure.
    """
    nearest = min(VRF_KG_M, key=lambda size: abs(size - liquid_od_m))
    if abs(nearest - liquid_od_m) > SAME_SIZE_M:
        raise OutOfRange(
            "There is no usual allowance for a liquid line of {liquid_od}; take it from the maker's table.",
            words={"liquid_od": Amount(liquid_od_m, "tube_od")},
            value=liquid_od_m,
        )
    return VRF_KG_M[nearest]


@dataclass(frozen=True)
class Allowance:
    """Refrigerant per metre of line set in kg/m, with the densities (kg/m³) and areas (m²) it came from."""

    liquid_kg_m: float
    suction_kg_m: float
    liquid_kg_m3: float
    suction_kg_m3: float
    liquid_area_m2: float
    suction_area_m2: float

    @property
    def total_kg_m(self) -> float:
        """What a metre of both lines holds, kg/m."""
        return self.liquid_kg_m + self.suction_kg_m


def allowance(
    refrigerant: AnyRefrigerant,
    liquid_od_m: float,
    suction_od_m: float | None,
    *,
    liquid_k: float = DEFAULT_LIQUID_K,
    suction_dew_k: float = DEFAULT_SUCTION_DEW_K,
    suction_superheat_k: float = DEFAULT_SUCTION_SUPERHEAT_K,
) -> Allowance:
    """Contents of the lines in cooling: saturated liquid, and suction vapour superheated above its dew point.

    Outside diameters in m, temperatures in K. Raises `OutOfRange` for an unknown size or a state
    outside the tables. Heating fills the vapour line with hot gas instead: see `hot_gas_more_kg_m`.
    """
    rho_liquid = saturation.liquid_density_kg_m3(refrigerant, liquid_k)
    area_liquid = inside_area_m2(liquid_od_m)
    pressure = saturation.dew_pressure_pa(refrigerant, suction_dew_k)
    rho_suction = vapor.density_kg_m3(refrigerant, pressure, suction_dew_k + suction_superheat_k)
    area_suction = inside_area_m2(suction_od_m) if suction_od_m is not None else 0.0
    return Allowance(rho_liquid * area_liquid, rho_suction * area_suction, rho_liquid, rho_suction, area_liquid, area_suction)


USUAL_VAPOUR_OD_IN = {1 / 4: 1 / 2, 5 / 16: 5 / 8, 3 / 8: 3 / 4, 1 / 2: 7 / 8, 5 / 8: 9 / 8, 3 / 4: 11 / 8, 7 / 8: 13 / 8}
SAME_SIZE = 0.1  # a metric tube stands for the inch size beside it


def usual_vapour_od_m(liquid_od_m: float) -> float:
    """The vapour line that usually goes with a liquid line, both by outside diameter in m.

    Common practice, no source: 1/4 with 1/2, 5/16 with 5/8, 3/8 with 3/4, 1/2 with 7/8, 5/8 with 1-1/8, 3/4 with 1-3/8,
    7/8 with 1-5/8 in. Raises `OutOfRange` for a liquid line that is none of these.
    """
    near = min(USUAL_VAPOUR_OD_IN, key=lambda inches: abs(inches * INCH_M - liquid_od_m))
    if abs(liquid_od_m / (near * INCH_M) - 1.0) > SAME_SIZE:
        raise OutOfRange(
            "No vapour line is usual beside a liquid line of {liquid_od}.",
            words={"liquid_od": Amount(liquid_od_m, "tube_od")},
            value=liquid_od_m,
        )
    return USUAL_VAPOUR_OD_IN[near] * INCH_M


def hot_gas_more_kg_m(refrigerant: AnyRefrigerant, suction_od_m: float) -> float:
    """What a metre of vapour line, outside diameter in m, holds more in heating than in cooling, in kg/m.

    Hot gas condensing at 105 °F and 45 °F above that, against suction vapour (common practice, no source; R-410A about
    80 against 37 kg/m³). Raises `OutOfRange` for an unknown size or a state outside the tables.
    """
    hot = vapor.density_kg_m3(refrigerant, saturation.dew_pressure_pa(refrigerant, HOT_GAS_DEW_K), HOT_GAS_DEW_K + HOT_GAS_SUPERHEAT_K)
    cold = allowance(refrigerant, suction_od_m, suction_od_m).suction_kg_m3
    return (hot - cold) * inside_area_m2(suction_od_m)


def allowance_kg_per_m(refrigerant: AnyRefrigerant, liquid_od_m: float, suction_od_m: float | None = None, **conditions: float) -> float:
    """Total of `allowance` in kg/m; `conditions` are its keyword arguments."""
    return allowance(refrigerant, liquid_od_m, suction_od_m, **conditions).total_kg_m
