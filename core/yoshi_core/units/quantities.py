"""Every quantity a field may hold: its SI unit, the units people write it in, and how it is shown.

Factors are exact by definition: the international pound and inch (1959), the conventional
millimetre of mercury; standard gravity 9.80665 m/s² for pounds-force.
"""

from yoshi_core.frozen import dataclass

LB_KG = 0.45359237
OZ_KG = LB_KG / 16.0
INCH_M = 0.0254
ML_M3 = 1e-6
FLUID_OUNCE_M3 = 29.5735e-6
FOOT_M = 0.3048
MICRON_PA = 0.133322
PSI_PA = LB_KG * 9.80665 / INCH_M**2
INHG_PA = 3386.389
BTU_H_W = 1055.05585262 / 3600.0
FAHRENHEIT_K = 5.0 / 9.0
YEAR_S = 365.25 * 86_400.0
ZERO_CELSIUS_K = 273.15
ZERO_FAHRENHEIT_K = ZERO_CELSIUS_K - 32.0 * FAHRENHEIT_K


@dataclass(frozen=True)
class Unit:
    """SI value = number × factor + offset; `aliases` are further spellings, lower case."""

    symbol: str
    factor: float
    decimals: int
    offset: float = 0.0
    aliases: tuple[str, ...] = ()


@dataclass(frozen=True)
class Quantity:
    """A kind of magnitude; `us` and `si` name the unit shown first in each system."""

    name: str
    si_unit: str
    us: str
    si: str
    units: tuple[Unit, ...]
    signed: bool = False

    def unit(self, symbol: str) -> Unit | None:
        """The unit of a symbol or one of its other spellings; None where there is none."""
        wanted = symbol.strip().lower().replace("μ", "µ")  # Greek mu and the micro sign look the same
        for unit in self.units:
            if wanted == unit.symbol.lower() or wanted in unit.aliases:
                return unit
        return None

    def shown(self, system: str) -> Unit:
        """The unit shown first in `us` or `si`."""
        found = self.unit(self.us if system == "us" else self.si)
        assert found is not None, self.name
        return found


_F = Unit("°F", FAHRENHEIT_K, 1, ZERO_FAHRENHEIT_K, ("f", "degf", "deg f", "° f", "fahrenheit"))
_C = Unit("°C", 1.0, 1, ZERO_CELSIUS_K, ("c", "degc", "deg c", "° c", "celsius"))
_DF = Unit("°F", FAHRENHEIT_K, 1, 0.0, ("f", "degf", "deg f", "° f"))
_DK = Unit("K", 1.0, 1, 0.0, ("k", "°c", "c", "degc"))
_GAUGE = (
    Unit("psig", PSI_PA, 1, 0.0, ("psi", "lb/in2", "#")),
    Unit("kPa", 1000.0, 0, 0.0, ("kpag", "kpa g")),
    Unit("bar", 1e5, 2, 0.0, ("barg", "bar g")),
)

QUANTITIES: dict[str, Quantity] = {
    q.name: q
    for q in (
        Quantity(
            "mass",
            "kg",
            "lb",
            "kg",
            (
                Unit("lb", LB_KG, 2, 0.0, ("lbs", "pound", "pounds", "#")),
                Unit("oz", OZ_KG, 1, 0.0, ("ounce", "ounces")),
                Unit("kg", 1.0, 3, 0.0, ("kilogram", "kilograms", "kgs")),
                Unit("g", 0.001, 0, 0.0, ("gram", "grams", "gr")),
            ),
        ),
        Quantity("gauge_pressure", "Pa", "psig", "bar", _GAUGE, signed=True),
        Quantity("gauge_pressure_delta", "Pa", "psi", "kPa", (Unit("psi", PSI_PA, 1), Unit("kPa", 1000.0, 1))),
        Quantity("pressure", "Pa", "psia", "kPa", (Unit("psia", PSI_PA, 1), Unit("kPa", 1000.0, 1))),
        Quantity("vacuum", "Pa", "inHg", "kPa", (Unit("inHg", INHG_PA, 1, 0.0, ("in hg", "inhg")), Unit("kPa", 1000.0, 1))),
        Quantity("temperature", "K", "°F", "°C", (_F, _C), signed=True),
        Quantity("temperature_delta", "K", "°F", "K", (_DF, _DK), signed=True),
        Quantity(
            "length",
            "m",
            "ft",
            "m",
            (
                Unit("ft", FOOT_M, 1, 0.0, ("feet", "foot", "'")),
                Unit("m", 1.0, 2, 0.0, ("metre", "metres", "meter", "meters")),
            ),
        ),
        Quantity(
            "altitude",
            "m",
            "ft",
            "m",
            (Unit("ft", FOOT_M, 0, 0.0, ("feet", "'")), Unit("m", 1.0, 0, 0.0, ("metres", "meters"))),
            signed=True,
        ),
        Quantity(
            "tube_od",
            "m",
            "in",
            "mm",
            (Unit("in", INCH_M, 3, 0.0, ('"', "inch", "inches")), Unit("mm", 0.001, 1, 0.0, ("millimetre",))),
        ),
        Quantity(
            "linear_density",
            "kg/m",
            "oz/ft",
            "g/m",
            (Unit("oz/ft", OZ_KG / FOOT_M, 3), Unit("g/m", 0.001, 1), Unit("kg/m", 1.0, 4)),
        ),
        Quantity(
            "charge_response",
            "K/kg",
            "°F/oz",
            "K/kg",
            (Unit("°F/oz", FAHRENHEIT_K / OZ_KG, 2), Unit("K/kg", 1.0, 1)),
            signed=True,
        ),
        Quantity(
            "duration",
            "s",
            "min",
            "min",
            (
                Unit("min", 60.0, 0, 0.0, ("minute", "minutes", "mins")),
                Unit("h", 3600.0, 1, 0.0, ("hour", "hours", "hr")),
                Unit("s", 1.0, 0, 0.0, ("sec", "seconds")),
                Unit("d", 86_400.0, 0, 0.0, ("day", "days")),
            ),
        ),
        Quantity("density", "kg/m3", "lb/ft³", "kg/m³", (Unit("lb/ft³", LB_KG / FOOT_M**3, 2), Unit("kg/m³", 1.0, 1))),
        Quantity("area", "m2", "mm²", "mm²", (Unit("mm²", 1e-6, 1),)),
        Quantity("fraction", "1", "%", "%", (Unit("%", 0.01, 1, 0.0, ("percent",)),), signed=True),
        Quantity("yearly_loss", "1", "%", "%", (Unit("%", 0.01, 1, 0.0, ("percent",)),)),
        # What a rule of thumb or a practice rig knows is known to the degree.
        Quantity(
            "about_temperature",
            "K",
            "°F",
            "°C",
            (Unit("°F", FAHRENHEIT_K, 0, ZERO_FAHRENHEIT_K), Unit("°C", 1.0, 0, ZERO_CELSIUS_K)),
            signed=True,
        ),
        Quantity("about_delta", "K", "°F", "K", (Unit("°F", FAHRENHEIT_K, 0), Unit("K", 1.0, 0)), signed=True),
        Quantity("co2e", "kg", "t", "t", (Unit("t", 1000.0, 2), Unit("kg", 1.0, 1))),
        Quantity("count", "1", "", "", (Unit("", 1.0, 0),)),
        Quantity("number", "1", "", "", (Unit("", 1.0, 2),), signed=True),
        Quantity("times", "1", "×", "×", (Unit("×", 1.0, 1),)),
        Quantity(
            "power",
            "W",
            "BTU/h",
            "kW",
            (
                Unit("BTU/h", BTU_H_W, 0, 0.0, ("btuh", "btu")),
                Unit("kW", 1000.0, 2),
                Unit("W", 1.0, 0),
                Unit("ton", 12000.0 * BTU_H_W, 2, 0.0, ("tons",)),
            ),
        ),
        Quantity("current", "A", "A", "A", (Unit("A", 1.0, 1, 0.0, ("amp", "amps", "ampere")),)),
        Quantity(
            "floor_area",
            "m2",
            "ft²",
            "m²",
            (Unit("ft²", FOOT_M**2, 0, 0.0, ("ft2", "sq ft", "sqft")), Unit("m²", 1.0, 1, 0.0, ("m2", "sqm"))),
        ),
        Quantity(
            "room_volume",
            "m3",
            "ft³",
            "m³",
            (Unit("ft³", FOOT_M**3, 0, 0.0, ("ft3", "cu ft", "cf")), Unit("m³", 1.0, 1, 0.0, ("m3",))),
        ),
        Quantity(
            "concentration",
            "kg/m3",
            "lb/1000 ft³",
            "kg/m³",
            (Unit("lb/1000 ft³", LB_KG / FOOT_M**3 / 1000.0, 1), Unit("kg/m³", 1.0, 3, 0.0, ("kg/m3",))),
        ),
        Quantity(
            "volume",
            "m3",
            "L",
            "L",
            (
                Unit("L", 0.001, 1, 0.0, ("litre", "litres", "liter", "liters")),
                Unit("ft³", FOOT_M**3, 2, 0.0, ("ft3", "cu ft", "cf")),
                Unit("m³", 1.0, 2, 0.0, ("m3",)),
            ),
        ),
        Quantity(
            "mass_rate",
            "kg/s",
            "oz/yr",
            "g/yr",
            (
                Unit("oz/yr", OZ_KG / YEAR_S, 0),
                Unit("g/yr", 0.001 / YEAR_S, 0),
                Unit("oz/day", OZ_KG / 86_400.0, 0),
                Unit("g/day", 0.001 / 86_400.0, 0),
            ),
        ),
        Quantity(
            "flow",
            "m3/s",
            "cfm",
            "L/s",
            (
                Unit("cfm", FOOT_M**3 / 60.0, 1, 0.0, ("ft3/min",)),
                Unit("L/s", 0.001, 1, 0.0, ("l/s",)),
                Unit("L/min", 0.001 / 60.0, 0, 0.0, ("l/min", "lpm")),
                Unit("m³/h", 1.0 / 3600.0, 1, 0.0, ("m3/h",)),
            ),
        ),
        Quantity(
            "oil_volume",
            "m3",
            "mL",
            "mL",
            (Unit("mL", ML_M3, 0, 0.0, ("ml", "cc", "cm3")), Unit("fl oz", FLUID_OUNCE_M3, 1, 0.0, ("floz",)), Unit("L", 0.001, 2)),
        ),
        Quantity("leak_flow", "Pa·m³/s", "Pa·m³/s", "Pa·m³/s", (Unit("Pa·m³/s", 1.0, 5, 0.0, ("pa m3/s",)),)),
        Quantity(
            "vacuum_rate",
            "Pa/s",
            "micron/min",
            "micron/min",
            (
                Unit("micron/min", MICRON_PA / 60.0, 2, 0.0, ("µm/min",)),
                Unit("micron/h", MICRON_PA / 3600.0, 2, 0.0, ("µm/h",)),
                Unit("micron/day", MICRON_PA / 86_400.0, 2, 0.0, ("µm/day",)),
                Unit("Pa/min", 1.0 / 60.0, 3),
            ),
            signed=True,
        ),
        Quantity("micron", "Pa", "micron", "Pa", (Unit("micron", MICRON_PA, 0, 0.0, ("µm", "microns")), Unit("Pa", 1.0, 1))),
    )
}
