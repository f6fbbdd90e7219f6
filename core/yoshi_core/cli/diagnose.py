"""`yoshi diagnose`: what the readings of a running unit can mean, from a terminal."""

import argparse
import dataclasses
import json

from yoshi_core.diagnosis.observed import Family, Observed
from yoshi_core.diagnosis.rank import Diagnosis, diagnose
from yoshi_core.errors import CoreError, InvalidInput
from yoshi_core.message import told
from yoshi_core.properties.atmosphere import absolute_pa
from yoshi_core.units.display import System, show
from yoshi_core.units.text import parse

FAMILIES: dict[str, Family] = {"txv": "valve", "eev": "valve", "orifice": "fixed", "capillary": "fixed"}
MODEL = "Ranked by what a simulated unit shows for each cause; the cheap check decides, and charge is never adjusted to hide another fault."


def run(options: argparse.Namespace) -> int:
    """`yoshi diagnose`: causes that fit typed readings."""
    found = diagnose(_observed(options))
    if options.json:
        print(json.dumps(dataclasses.asdict(found), indent=1, ensure_ascii=False, default=str))
    else:
        _print(found, options.units)
    return 0


def _observed(options: argparse.Namespace) -> Observed:
    altitude = parse("altitude", options.altitude, default_unit="m").value

    def figure(name: str, quantity: str, unit: str) -> float | None:
        text = getattr(options, name)
        if text is None:
            return None
        try:
            return parse(quantity, text, default_unit=unit).value
        except CoreError as error:
            raise InvalidInput(
                "--{option}: {message}", words={"option": name.replace("_", "-"), "message": told(error)}, path=f"--{name}"
            ) from None

    def pressure(name: str) -> float | None:
        gauge = figure(name, "gauge_pressure", "psig")
        return None if gauge is None else absolute_pa(gauge, "sealed" if options.sealed else "vented", altitude)

    def kelvin(name: str) -> float | None:
        return figure(name, "temperature", "°F")

    checks = {}
    for item in options.check:
        name, equals, result = item.partition("=")
        if not equals:
            raise InvalidInput("--check {item}: write CHECK=RESULT, such as drier_drop=even.", words={"item": item}, path="--check")
        checks[name] = result
    return Observed(
        options.refrigerant,
        FAMILIES[options.metering],
        pressure("suction"),
        kelvin("suction_line"),
        pressure("liquid"),
        kelvin("liquid_line"),
        kelvin("outdoor"),
        kelvin("return_air"),
        kelvin("return_wet_bulb"),
        kelvin("supply_air"),
        figure("power_share", "fraction", "%"),
        figure("subcooling_target", "temperature_delta", "°F"),
        pressure("standing"),
        kelvin("standing_cold"),
        checks,
    )


def _print(found: Diagnosis, system: System) -> None:
    derived = found.derived
    for label, value, quantity in (
        ("superheat", derived.superheat_k, "temperature_delta"),
        ("subcooling", derived.subcooling_k, "temperature_delta"),
        ("evaporating", derived.evaporating_k, "temperature"),
        ("condensing", derived.condensing_k, "temperature"),
        ("over outdoor air", derived.over_outdoor_k, "temperature_delta"),
        ("split", derived.split_k, "temperature_delta"),
    ):
        if value is not None:
            print(f"{label:18}{show(value, quantity, system):>12}")
    for message in found.impossible:
        print(f"  ! {message.show(system)}")
    for cause in found.ranked:
        print(f"{cause.share:5.0%}  {cause.label}")
        for message in cause.speaks_for:
            print(f"         + {message.show(system)}")
        for message in cause.speaks_against:
            print(f"         - {message.show(system)}")
    if found.missing:
        print("Not read: " + ", ".join(found.missing) + ".")
    if found.next_check is not None:
        results = "; ".join(f"{name}: {text}" for name, text in found.next_check.results.items())
        print(f"Next: {found.next_check.text} ({found.next_check.minutes:.0f} min) --check {found.next_check.id}=…  {results}")
    print(MODEL)
