"""Air pressure at a site, and what a gauge there really measures."""

from typing import Literal

from yoshi_core.errors import OutOfRange
from yoshi_core.units.display import Amount

SEA_LEVEL_PA = 101_325.0
LOWEST_M, HIGHEST_M = -450.0, 6000.0
GaugeReference = Literal["vented", "sealed"]


def site_pressure_pa(altitude_m: float) -> float:
    """Standard air pressure in Pa at an altitude of −450 to 6000 m.

    Raises `OutOfRange` outside. Source: ICAO standard atmosphere (Doc 7488), troposphere.
    """
    if not LOWEST_M <= altitude_m <= HIGHEST_M:
        raise OutOfRange(
            "The altitude is {altitude}; Yoshi knows sites from {lowest} to {highest}.",
            words={
                "altitude": Amount(altitude_m, "altitude"),
                "lowest": Amount(LOWEST_M, "altitude"),
                "highest": Amount(HIGHEST_M, "altitude"),
            },
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
