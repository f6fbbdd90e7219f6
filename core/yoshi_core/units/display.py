"""Showing SI values to a person, rounded as the trade reads them: `us`, `si`, or `grams`: as `us`, and masses in grams first."""

from collections.abc import Iterable, Mapping
from math import floor, log10
from typing import Literal

from yoshi_core.frozen import dataclass
from yoshi_core.units.mass import pounds_ounces
from yoshi_core.units.quantities import FLUID_OUNCE_M3, INCH_M, ML_M3, OZ_KG, QUANTITIES, Unit

System = Literal["us", "si", "grams"]


@dataclass(frozen=True)
class Amount:
    """An SI value with its quantity; `u` is its standard uncertainty in the same unit, if known."""

    value: float
    quantity: str
    u: float | None = None

    def __str__(self) -> str:
        return show_amount(self)


Steps = tuple[tuple[str, float], ...]
_TONNES: Steps = (("t", 0.1), ("kg", 0.0))
_CLIMBS: Steps = (("micron/min", 0.1), ("micron/h", 0.1), ("micron/day", 0.0))
# Units from the fastest, each with the least it is said in: a large vessel may climb by so little that minutes say nothing, and
# nobody reckons by the year what is gone within weeks.
BY_SIZE: Mapping[tuple[str, System], Steps] = {
    ("vacuum_rate", "us"): _CLIMBS,
    ("vacuum_rate", "si"): _CLIMBS,
    ("co2e", "us"): _TONNES,
    ("co2e", "si"): _TONNES,
    ("mass_rate", "us"): (("oz/day", 10.0), ("oz/yr", 0.0)),
    ("mass_rate", "si"): (("g/day", 300.0), ("g/yr", 0.0)),
}
LIKE_THE_LARGEST = frozenset({"mass_rate"})  # two ends of a band stand in one unit
TWO_FIGURES = frozenset({"mass_rate", "yearly_loss"})  # a leak's size is known to two figures at best


def show(value: float, quantity_name: str, system: System = "us", *, beside: float | None = None) -> str:
    """The value with its unit as text; masses in us as pounds and ounces, under a pound as ounces.

    A rate too small for its unit is shown by the hour or the day; `beside` is the value whose unit it shares.
    """
    if system == "grams":
        shown = show(value, quantity_name, "us", beside=beside)
        return f"{_no_minus_zero(f'{value * 1000:.0f}')} g ({shown})" if quantity_name == "mass" else shown
    if quantity_name == "mass" and system == "us":
        if abs(value) < 16 * OZ_KG:
            ounces = value / OZ_KG
            return f"{ounces:.2f} oz" if 0 < abs(ounces) < 0.095 else f"{ounces:.1f} oz"
        sign, pounds, rest = pounds_ounces(value)
        return f"{sign}{pounds} lb {rest} oz"
    if quantity_name == "mass" and abs(value) < 1.0:
        return f"{value * 1000:.0f} g"
    if quantity_name == "tube_od" and system == "us":
        return _inches(value)
    if quantity_name == "duration":
        return lasting(value)
    if quantity_name == "oil_volume" and system == "us":
        return (
            f"{value / ML_M3:.0f} mL ({value / FLUID_OUNCE_M3:.1f} oz)"  # bottles are marked with the one, cans and plates with the other
        )
    unit = _unit(value if beside is None else beside, quantity_name, system)
    number = (value - unit.offset) / unit.factor
    decimals = unit.decimals
    if quantity_name in TWO_FIGURES and number:
        number = float(f"{number:.2g}")
        decimals = min(decimals, max(0, 1 - floor(log10(abs(number)))))
    return f"{_no_minus_zero(f'{number:.{decimals}f}')} {unit.symbol}".strip()


def _no_minus_zero(text: str) -> str:
    return text.removeprefix("-") if float(text) == 0 else text


def lasting(seconds: float) -> str:
    """How long something takes, as it is said: seconds under a minute, minutes up to two hours, hours with their minutes up to three days, then days."""
    sign, seconds = ("-" if seconds < 0.0 else ""), abs(seconds)
    if 0.5 <= seconds < 59.5:
        return f"{sign}{seconds:.0f} s"
    minutes = round(seconds / 60.0)
    if minutes < 120:
        return f"{sign if minutes else ''}{minutes} min"
    if minutes < 72 * 60:
        hours, rest = divmod(minutes, 60)
        return f"{sign}{hours} h {rest} min" if rest else f"{sign}{hours} h"
    days = seconds / 86_400.0
    return f"{sign}{days:.0f} days" if days >= 10.0 else f"{sign}{days:.1f} days".replace(".0 ", " ")


def _unit(value: float, quantity_name: str, system: System) -> Unit:
    quantity, steps = QUANTITIES[quantity_name], BY_SIZE.get((quantity_name, system))
    if steps is None:
        return quantity.shown(system)
    if value == 0.0:
        return quantity.shown(system)
    units = [(quantity.unit(symbol), least) for symbol, least in steps]
    return next(unit for unit, least in units if unit is not None and abs(value) / unit.factor >= least)


def show_in(value: float, quantity_name: str, symbol: str) -> str:
    """The value in a unit of its quantity by its symbol, to four figures: for a bound beside what was typed in that unit.

    Pounds and ounces are shown as such. Raises `KeyError` for another quantity's unit.
    """
    unit = QUANTITIES[quantity_name].unit("lb" if symbol == "lb oz" else symbol)
    if unit is None:
        raise KeyError(symbol)
    if symbol == "lb oz":
        return show(value, quantity_name)
    return f"{(value - unit.offset) / unit.factor:.4g} {unit.symbol}".strip()


def _inches(od_m: float) -> str:
    """A tube size as the fraction stamped on it, where it is one."""
    sixteenths = od_m / INCH_M * 16
    if abs(sixteenths - round(sixteenths)) > 1e-6:
        return f"{od_m / INCH_M:.3f} in"
    top, bottom = round(sixteenths), 16
    while top % 2 == 0 and bottom > 1:
        top, bottom = top // 2, bottom // 2
    whole, rest = divmod(top, bottom)
    if rest == 0:
        return f"{whole} in"
    return f"{whole}-{rest}/{bottom} in" if whole else f"{rest}/{bottom} in"


def show_amount(amount: Amount, system: System = "us", among: Iterable[Amount] = ()) -> str:
    """An amount as text, with ± at two standard uncertainties where it has one; `among` are the others of its sentence."""
    text = show(amount.value, amount.quantity, system, beside=_largest(amount, among))
    if amount.u is None:
        return text
    spread = "mass" if amount.quantity == "mass" else _difference(amount.quantity)
    if spread == "mass" and system == "grams":
        return f"{text} ± {2000 * amount.u:.0f} g"
    return f"{text} ± {show(2 * amount.u, spread, system, beside=amount.value if spread == amount.quantity else None)}"


def _largest(amount: Amount, among: Iterable[Amount]) -> float:
    if amount.quantity not in LIKE_THE_LARGEST:
        return amount.value
    return max((amount.value, *(other.value for other in among if other.quantity == amount.quantity)), key=abs)


def _difference(quantity_name: str) -> str:
    return {"temperature": "temperature_delta", "gauge_pressure": "gauge_pressure_delta"}.get(quantity_name, quantity_name)
