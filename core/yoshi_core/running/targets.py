"""Targets of superheat and subcooling by metering device."""

from typing import Literal

from yoshi_core.errors import OutOfRange
from yoshi_core.frozen import dataclass
from yoshi_core.message import sentence
from yoshi_core.profile.profile import Profile
from yoshi_core.units.quantities import FAHRENHEIT_K, ZERO_FAHRENHEIT_K

Metering = Literal["orifice", "txv", "eev", "capillary"]
Judge = Literal["superheat", "subcooling", "weight"]


@dataclass(frozen=True)
class Target:
    """A target in K with its tolerance in K, where it comes from, and whether it is only assumed."""

    value_k: float
    tolerance_k: float
    source: str
    assumed: bool


@dataclass(frozen=True)
class Refusal:
    """Why a method does not speak: rule id, words, the value and the bound it broke."""

    rule_id: str
    text: str
    value: float
    limit: float
    quantity: str


def formula_superheat_k(return_wet_bulb_k: float, outdoor_dry_bulb_k: float) -> float:
    """Target superheat in K, `(3·WB − 80 − DB)/2` in °F; common practice, no source. No range is checked."""
    wet = (return_wet_bulb_k - ZERO_FAHRENHEIT_K) / FAHRENHEIT_K
    dry = (outdoor_dry_bulb_k - ZERO_FAHRENHEIT_K) / FAHRENHEIT_K
    return (3.0 * wet - 80.0 - dry) / 2.0 * FAHRENHEIT_K


def refusals(return_wet_bulb_k: float, outdoor_dry_bulb_k: float, profile: Profile) -> list[Refusal]:
    """Every reason why the formula must not be used in these conditions; empty when it may."""
    checks = (
        ("target.wet_bulb_low", return_wet_bulb_k, -1, sentence("Return wet bulb {value} is under {limit}, where the formula starts.")),
        ("target.wet_bulb_high", return_wet_bulb_k, 1, sentence("Return wet bulb {value} is over {limit}, where the formula ends.")),
        ("target.outdoor_low", outdoor_dry_bulb_k, -1, sentence("Outdoor air {value} is under {limit}, where the formula starts.")),
        ("target.outdoor_high", outdoor_dry_bulb_k, 1, sentence("Outdoor air {value} is over {limit}, where the formula ends.")),
    )
    found = [
        Refusal(rule_id, text, value, profile.value(rule_id), "temperature")
        for rule_id, value, sign, text in checks
        if sign * (value - profile.value(rule_id)) > 1e-9
    ]
    target = formula_superheat_k(return_wet_bulb_k, outdoor_dry_bulb_k)
    lowest = profile.value("target.lowest")
    if target < lowest - 1e-9:
        text = sentence("The formula gives {value}, under {limit}: too little to tell from liquid coming back.")
        found.append(Refusal("target.lowest", text, target, lowest, "temperature_delta"))
    return found


def superheat_target_k(return_wet_bulb_k: float, outdoor_dry_bulb_k: float, profile: Profile | None = None) -> float:
    """Target superheat in K of an orifice unit in cooling with its airflow right.

    Source: common practice; range after California RA3.2 (from memory), return wet bulb 50–76 °F and
    outdoor air 55–100 °F. Raises `OutOfRange` naming every bound broken; nothing is extrapolated.
    """
    broken = refusals(return_wet_bulb_k, outdoor_dry_bulb_k, profile or Profile())
    if broken:
        raise OutOfRange(
            "Target superheat does not apply: {rules}.",
            words={"rules": tuple(r.rule_id for r in broken)},
            rules=[r.rule_id for r in broken],
        )
    return formula_superheat_k(return_wet_bulb_k, outdoor_dry_bulb_k)


def subcooling_target(plate_k: float | None, profile: Profile) -> Target:
    """The plate's subcooling in K, else the profile's assumption, flagged."""
    tolerance = profile.value("verify.subcooling_tolerance")
    if plate_k is not None:
        return Target(plate_k, tolerance, "data plate", False)
    assumed = profile.value("verify.assumed_subcooling")
    return Target(assumed, tolerance, profile.source("verify.assumed_subcooling"), True)


WEIGHT_ONLY_KINDS = frozenset({"ductless", "reach_in", "vehicle", "vrf", "receiver"})


def judged_by(kind: str, metering: Metering, mode: str) -> Judge:
    """What proves the charge of this kind of system in this mode."""
    flooded = kind == "chiller" and metering == "orifice"
    if kind in WEIGHT_ONLY_KINDS or flooded or metering == "capillary" or mode == "heating":
        return "weight"
    return "superheat" if metering == "orifice" else "subcooling"
