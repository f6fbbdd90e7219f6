"""Standing pressure against saturation at the coldest part: whether liquid is left, and how much vapour where none is."""

from math import sqrt

from yoshi_core.charge.total import LIMIT_TO_STANDARD
from yoshi_core.charge.volume import Volume
from yoshi_core.document.plate import Plate
from yoshi_core.document.sheets import value_of
from yoshi_core.errors import CoreError
from yoshi_core.frozen import dataclass
from yoshi_core.profile.profile import Profile
from yoshi_core.properties import saturation, vapor
from yoshi_core.properties.atmosphere import absolute_pa
from yoshi_core.steps import volumes
from yoshi_core.steps.as_found.sheet import AsFoundSheet


@dataclass(frozen=True)
class Standing:
    """Absolute standing pressure with dew and bubble pressure at the coldest part, and by how much gauge and clamp may be wrong, all in Pa."""

    pressure_pa: float
    cold_k: float
    dew_pa: float
    bubble_pa: float
    margin_pa: float

    @property
    def vapour_only(self) -> bool:
        """Whether it stands below what liquid would give, by more than the instruments are wrong."""
        return self.pressure_pa < self.dew_pa - self.margin_pa

    @property
    def too_high(self) -> bool:
        """Whether it stands above saturation by more than that: air in it, or another refrigerant."""
        return self.pressure_pa > self.bubble_pa + self.margin_pa


@dataclass(frozen=True)
class Vapour:
    """What is left as vapour in kg: about, at least and at most, by how well the volume is known."""

    about_kg: float
    low_kg: float
    high_kg: float


def read_standing(name: str, sheet: AsFoundSheet, plate: Plate, profile: Profile) -> Standing | None:
    """What the standing reading says; None where it or the coldest part was not read. Raises `CoreError` outside the refrigerant's table."""
    if sheet.standing_pressure is None or sheet.standing_cold is None:
        return None
    pressure = absolute_pa(sheet.standing_pressure.value, plate.gauge_reference or "vented", value_of(plate.altitude) or 0.0)
    cold = sheet.standing_cold.value
    slope = saturation.bubble_pressure_pa(name, cold + 0.5) - saturation.bubble_pressure_pa(name, cold - 0.5)
    u_p = profile.value("probe.pressure_limit") * LIMIT_TO_STANDARD
    u_t = profile.value("probe.temperature_limit") * LIMIT_TO_STANDARD
    margin = 2.0 * sqrt(u_p**2 + (slope * u_t) ** 2)
    return Standing(pressure, cold, saturation.dew_pressure_pa(name, cold), saturation.bubble_pressure_pa(name, cold), margin)


def vapour_left(name: str, standing: Standing, sheet: AsFoundSheet, plate: Plate) -> Vapour | None:
    """Density times volume, the volume as entered or by the kind of unit; None where liquid may be left, or the vapour has no table."""
    if not standing.vapour_only:
        return None
    try:
        volume: Volume = volumes.of(plate, sheet.volume)
        about = volume.m3 * vapor.density_kg_m3(name, standing.pressure_pa, standing.cold_k)
    except CoreError:
        return None
    band = max(volume.band, volumes.GUESS_BAND)  # a volume entered for this is nearly always a guess too
    return Vapour(about, about / band, about * band)


def at_air(sheet: AsFoundSheet) -> bool:
    """Whether it stood at the air's own pressure, or under it."""
    return sheet.standing_pressure is not None and sheet.standing_pressure.value <= 0.0
