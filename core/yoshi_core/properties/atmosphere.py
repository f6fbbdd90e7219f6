"""Air pressure at a site, and what a gauge there really measures."""

from typing import Literal

from yoshi_core.errors import OutOfRange

SEA_LEVEL_PA = 101_325.0
LOWEST_M, HIGHEST_M = -450.0, 6000.0
GaugeReference = Literal["vented", "sealed"]


def site_pressure_pa(altitude_m: float) -> float:
    """Standard air pressure in Pa at an altitude of −450 to 6000 m.

    Raises `OutOfRange` outside. Source: ICAO standard atmosphere (Doc 7488), troposphere.
    """
    if not LOWEST_M <= altitude_m <= HIGHEST_M:
        raise OutOfRange(
            "The altitude is {altitude} m; Yoshi knows sites from {lowest} to {highest} m.",
            words={"altitude": f"{altitude_m:.0f}", "lowest": f"{LOWEST_M:.0f}", "highest": f"{HIGHEST_M:.0f}"},
            value=altitude_m,
            low=LOWEST_M,
            high=HIGHEST_M,
        )
    exponent = 5.25588
    return SEA_LEVEL_PA * float((1.0 - 2.25577e-5 * altitude_m) ** exponent)


def absolute_pa(gauge_pa: float, reference: GaugeReference, altitude_m: float) -> float:
    """Absolute pressure in Pa of a gauge reading in Pa.

    A vented gauge counts from the air at the site; a sealed-reference gauge from 101.325 kPa wherever it is.
    """
    zero = SEA_LEVEL_PA if reference == "sealed" else site_pressure_pa(altitude_m)
    return gauge_pa + zero
