"""What somebody sees who looks: the outcome of a cheap check on the bench, from what is wrong with the rig."""

from yoshi_core.diagnosis.causes import CHECKS
from yoshi_core.errors import InvalidInput
from yoshi_core.rig.unit import Faults

SEEN_FROM = 0.15  # a smaller fault is not to be seen with the eye; common practice, no source
CHARGE_FROM = 0.04
CAUSE_OF = {
    "low_airflow": "low_airflow",
    "iced_coil": "low_airflow",
    "dirty_condenser": "condenser_air",
    "condenser_fan_off": "condenser_air",
    "liquid_restriction": "liquid_restriction",
    "valve_starving": "valve_starving",
    "valve_flooding": "valve_flooding",
    "non_condensables": "non_condensables",
    "compressor_leak": "compressor_leak",
    "reversing_leak": "reversing_leak",
}


def causes_in(faults: Faults) -> dict[str, float]:
    """The diagnosis' causes that are true of the rig, each with how grave it is from 0 to 1."""
    found: dict[str, float] = {}
    for fault, cause in CAUSE_OF.items():
        grave = float(getattr(faults, fault))
        if grave >= SEEN_FROM:
            found[cause] = max(grave, found.get(cause, 0.0))
    off = faults.charge_share - 1.0
    if abs(off) >= CHARGE_FROM:
        found["undercharge" if off < 0 else "overcharge"] = abs(off)
    if faults.orifice_scale != 1.0:
        found["orifice_large" if faults.orifice_scale > 1.0 else "orifice_small"] = abs(faults.orifice_scale - 1.0)
    if faults.other_share:
        found["other_refrigerant"] = faults.other_share
    return found


def look(check: str, faults: Faults) -> str:
    """The outcome of a check of the diagnosis: what its gravest true cause makes most likely. Raises `InvalidInput` for no check."""
    if check not in CHECKS:
        raise InvalidInput("There is no check {check}. There are: {known}.", words={"check": check, "known": tuple(CHECKS)})
    true = causes_in(faults)
    factors = CHECKS[check].factors
    telling = {cause for row in factors.values() for cause in row if cause != "*" and row[cause] > 1.0}
    grave = max((cause for cause in true if cause in telling), key=lambda cause: true[cause], default=None)
    if grave is None:  # nothing of what it tells: the outcome that speaks against all of them
        return min(factors, key=lambda outcome: sum(factors[outcome].get(cause, factors[outcome].get("*", 1.0)) for cause in telling))
    return max(factors, key=lambda outcome: factors[outcome].get(grave, factors[outcome].get("*", 1.0)))
