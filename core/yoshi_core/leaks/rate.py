"""How fast a circuit loses refrigerant: by what was added, and by a leak seen under nitrogen."""

from collections.abc import Sequence
from datetime import date, timedelta
from math import fsum

from yoshi_core import refrigerants
from yoshi_core.errors import OutOfRange
from yoshi_core.frozen import dataclass
from yoshi_core.properties import saturation
from yoshi_core.properties.atmosphere import SEA_LEVEL_PA
from yoshi_core.properties.vapor import GAS_CONSTANT
from yoshi_core.refrigerants.tables import table
from yoshi_core.units.quantities import YEAR_S

YEAR_DAYS = 365
NITROGEN_PA_S, REFRIGERANT_PA_S = 17.6e-6, 12.5e-6
BAND = 2.0


@dataclass(frozen=True)
class Addition:
    """Refrigerant added on a day, in kg. `counts` is false right after a retrofit, an installation or accepted seasonal variance."""

    on: date
    kg: float
    counts: bool = True


@dataclass(frozen=True)
class LeakBand:
    """A leak of refrigerant in kg a year, lowest and highest of its band."""

    low_kg_year: float
    high_kg_year: float


def annualized_share(additions: Sequence[Addition], full_kg: float) -> float:
    """The last day's additions over a full charge, as if every year went like the time since the day before them.

    Days are at least one and at most 365, which is taken where there was none before. Same-day additions are one.
    Source: 40 CFR 82.152 (from memory). Raises `OutOfRange` for no full charge or none added.
    """
    counted = _counted(additions, full_kg)
    last = max(a.on for a in counted)
    earlier = [a.on for a in counted if a.on < last]
    days = min(max((last - max(earlier)).days, 1), YEAR_DAYS) if earlier else YEAR_DAYS
    return fsum(a.kg for a in counted if a.on == last) / full_kg * YEAR_DAYS / days


def rolling_share(additions: Sequence[Addition], full_kg: float, at: date, since: date | None = None) -> float:
    """What was added in the year before a day, or since the last verified repair where that is shorter, over a full charge."""
    counted = _counted(additions, full_kg)
    start = at - timedelta(days=YEAR_DAYS)
    if since is not None and since > start:
        start = since
    return fsum(a.kg for a in counted if start < a.on <= at) / full_kg


def _counted(additions: Sequence[Addition], full_kg: float) -> list[Addition]:
    if not full_kg > 0.0:
        raise OutOfRange("There is no full charge to compare with.", value=full_kg)
    if any(a.kg < 0.0 for a in additions):
        raise OutOfRange("An addition cannot be below zero; what was taken out is recovered.", value=min(a.kg for a in additions))
    counted = [a for a in additions if a.counts]
    if not counted:
        raise OutOfRange("Nothing was added that counts, so there is no rate.")
    return counted


def as_refrigerant(refrigerant: str, leak_pa_m3_s: float, nitrogen_pa: float, inside_k: float, site_pa: float = SEA_LEVEL_PA) -> LeakBand:
    """A leak in Pa·m³/s seen at an absolute nitrogen pressure, as refrigerant vapour at saturation of `inside_k` in K.

    Laminar: `Q·M/(R·T)·(p_ref² − p_air²)/(p_N2² − p_air²)·μ_N2/μ_ref`, a band of a factor two; viscosities from
    memory. Nothing leaks out where the refrigerant's pressure is not above the air's. Raises `OutOfRange` for a
    hold at or under the air's pressure.
    """
    if leak_pa_m3_s < 0.0 or nitrogen_pa <= site_pa:
        raise OutOfRange("A leak is seen under nitrogen above the air's pressure.", value=nitrogen_pa, low=site_pa)
    pressure = saturation.dew_pressure_pa(refrigerants.get(refrigerant), inside_k)
    if pressure <= site_pa:
        return LeakBand(0.0, 0.0)
    molar = table(refrigerant).molar_mass_kg_mol
    squares = (pressure**2 - site_pa**2) / (nitrogen_pa**2 - site_pa**2)
    kg_s = leak_pa_m3_s * molar / (GAS_CONSTANT * inside_k) * squares * NITROGEN_PA_S / REFRIGERANT_PA_S
    middle = kg_s * YEAR_S
    return LeakBand(middle / BAND**0.5, middle * BAND**0.5)
