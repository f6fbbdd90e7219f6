"""`yoshi retrofit`: every other refrigerant in one system, from a terminal."""

import argparse
import dataclasses
import json

from yoshi_core.errors import CoreError, InvalidInput
from yoshi_core.message import told
from yoshi_core.profile.profile import Profile
from yoshi_core.properties.atmosphere import GaugeReference
from yoshi_core.properties.cycle import Conditions
from yoshi_core.retrofit import candidates as retrofit
from yoshi_core.retrofit.candidates import Candidate, Present
from yoshi_core.units.display import System, show
from yoshi_core.units.text import parse

ADVICE = (
    "The full charge is the correct old one with its lines, never what was recovered after a leak. Nothing is topped up with "
    "another refrigerant. A simple cycle compares; the maker's instructions, the data plate and local law prevail."
)
FIGURES = (("charge", "mass", ""), ("design_high", "gauge_pressure", "psig"))


def run(options: argparse.Namespace) -> int:
    """`yoshi retrofit`: other refrigerants in the same system."""
    found = retrofit.compare(_present(options), Profile(), options.to or None)
    if options.json:
        print(json.dumps([dataclasses.asdict(row) for row in found], indent=1, ensure_ascii=False, default=str))
        return 0
    for row in found:
        _print(row, options.units)
    print(ADVICE)
    return 0


def _present(options: argparse.Namespace) -> Present:
    def figure(name: str, quantity: str, unit: str) -> float:
        try:
            return parse(quantity, getattr(options, name), default_unit=unit).value
        except CoreError as error:
            raise InvalidInput(
                "--{option}: {message}", words={"option": name.replace("_", "-"), "message": told(error)}, path=f"--{name}"
            ) from None

    given = {name: figure(name, quantity, unit) if getattr(options, name) else None for name, quantity, unit in FIGURES}
    reference: GaugeReference = "sealed" if options.sealed else "vented"
    conditions = Conditions(
        figure("evaporating", "temperature", "°F"),
        figure("condensing", "temperature", "°F"),
        figure("superheat", "temperature_delta", "°F"),
        figure("subcooling", "temperature_delta", "°F"),
        figure("efficiency", "fraction", "%"),
    )
    return Present(
        options.refrigerant,
        conditions,
        options.metering,
        options.oil,
        given["charge"],
        given["design_high"],
        figure("worst_outdoor", "temperature", "°F"),
        figure("altitude", "altitude", "m"),
        reference,
        options.listed,
    )


def _print(row: Candidate, system: System) -> None:
    parts = [f"{row.name:12}", f"{row.safety_class:4}"]
    for label, ratio in (("capacity", row.capacity_ratio), ("power", row.power_ratio)):
        parts.append("" if ratio is None else f"{label} {100.0 * (ratio - 1.0):+.0f} %")
    if row.discharge_more_k is not None:
        parts.append(f"discharge {show(row.discharge_more_k, 'temperature_delta', system)}")
    if row.worst_pa is not None:
        parts.append(f"worst day {show(row.worst_pa, 'gauge_pressure', system)}")
    if row.charge is not None:
        parts.append(f"start {show(row.charge.start_kg, 'mass', system)}, final {show(row.charge.final_kg, 'mass', system)}")
    print("  ".join(part for part in parts if part))
    for stop in row.stops:
        print(f"   Stop: {stop.message.show(system)}")
    for change in () if row.stops else row.changes:
        print(f"   - {change.show(system)}")
