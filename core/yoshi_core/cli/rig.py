"""`yoshi rig`: design a unit, solve it, run a scenario; loaded only when one is asked for."""

import argparse
import csv
import dataclasses
import json
import sys
from collections.abc import Iterable
from pathlib import Path
from typing import Any

from yoshi_core.cli.rig_options import PLATE_OPTIONS, WEATHER_OPTIONS
from yoshi_core.errors import InvalidInput
from yoshi_core.rig import scenario as scenarios
from yoshi_core.rig.design import design
from yoshi_core.rig.scenario_reader import Reader, read_faults, read_plate, read_weather
from yoshi_core.rig.solve import solve
from yoshi_core.rig.unit import Faults, State, Unit, Weather
from yoshi_core.units.display import System, show
from yoshi_core.units.text import parse

NUMBERS = {"tons", "accumulator_l", "receiver_l"}
MODEL = "A model, checked against the trade and against itself, not against a measured unit."

# suffix of a column, and the quantity it is
QUANTITIES = {
    "_gauge_pa": "gauge_pressure",
    "_k": "temperature",
    "_kg": "mass",
    "micron_pa": "micron",
    "gauge_pa": "gauge_pressure",
}


def design_command(options: argparse.Namespace) -> int:
    """`yoshi rig design`: a unit from its plate."""
    unit = design(read_plate(_plate(options)))
    if options.json:
        print(json.dumps(dataclasses.asdict(unit), indent=1, ensure_ascii=False))
        return 0
    for label, text in _unit_lines(unit, options.units):
        print(f"{label:26}{text:>18}")
    print(MODEL)
    return 0


def solve_command(options: argparse.Namespace) -> int:
    """`yoshi rig solve`: where a unit settles."""
    unit = design(read_plate(_plate(options)))
    weather = _weather(options)
    faults = _faults(options, unit)
    state = solve(unit, weather, faults)
    if options.json:
        plain = dataclasses.asdict(state)
        print(json.dumps({k: v for k, v in plain.items() if k != "unknowns"}, indent=1, ensure_ascii=False))
    else:
        for label, text in _state_lines(state, weather, options.units):
            print(f"{label:26}{text:>18}")
        print(MODEL)
    return 0 if state.running else 1


def run_command(options: argparse.Namespace) -> int:
    """`yoshi rig run`: a scenario, row by row."""
    if options.scenario is None:
        for name in scenarios.SHIPPED:
            print(f"{name:26}{scenarios.loads(scenarios.shipped(name)).about}")
        return 0
    if options.scenario in scenarios.SHIPPED:
        text = scenarios.shipped(options.scenario)
    elif Path(options.scenario).exists():
        text = Path(options.scenario).read_text(encoding="utf-8")
    else:
        text = scenarios.shipped(options.scenario)
    found = scenarios.loads(text)
    rows = scenarios.run(found)
    if options.format == "json":
        print(json.dumps({"name": found.name, "about": found.about, "rows": list(rows)}, indent=1, ensure_ascii=False))
    elif options.format == "csv":
        _csv(rows)
    else:
        print(f"{found.name}: {found.about}")
        _text(rows, options.units)
        print(MODEL)
    return 0


def _csv(rows: Iterable[scenarios.Row]) -> None:
    """SI values, the unit in each column's name."""
    writer = None
    for row in rows:
        if writer is None:
            writer = csv.DictWriter(sys.stdout, list(row), lineterminator="\n")
            writer.writeheader()
        writer.writerow({k: f"{v:.6g}" if isinstance(v, float) else v for k, v in row.items()})


def _text(rows: Iterable[scenarios.Row], system: System) -> None:
    heads: list[str] | None = None
    for row in rows:
        shown = {_head(name): _cell(name, value, system) for name, value in row.items() if name not in ("power_w", "hose_kg_s", "stalled")}
        if heads is None:
            heads = list(shown)
            print("  ".join(f"{head:>14}" for head in heads))
        print("  ".join(f"{shown[head]:>14}" for head in heads))


def _head(name: str) -> str:
    for suffix in ("_gauge_pa", "_kg", "_pa", "_k", "_s"):
        name = name.removesuffix(suffix)
    return name.replace("_", " ")


def _cell(name: str, value: Any, system: System) -> str:
    if value is None:
        return "—"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if name == "time_s":
        return f"{value / 60:.1f} min"
    quantity = next((q for suffix, q in QUANTITIES.items() if name.endswith(suffix)), None)
    return show(value, quantity, system) if quantity and isinstance(value, float) else str(value)


def _plate(options: argparse.Namespace) -> Reader:
    given = {name: getattr(options, name) for name in PLATE_OPTIONS if getattr(options, name) is not None}
    for name in NUMBERS & set(given):
        given[name] = _number(given[name], f"--{name}")
    if options.heat_pump:
        given["heat_pump"] = True
    return Reader(given, "")


def _number(text: str, path: str) -> float:
    try:
        return float(text)
    except ValueError:
        raise InvalidInput("{place} must be a number; {text} is not.", words={"place": path, "text": f"{text!r}"}, path=path) from None


def _weather(options: argparse.Namespace) -> Weather:
    given = {name: getattr(options, name) for name in WEATHER_OPTIONS if getattr(options, name) is not None}
    defaults = {"outdoor": "47 °F", "outdoor_wet_bulb": "43 °F", "indoor": "70 °F", "indoor_wet_bulb": "58 °F"} if options.heating else {}
    return read_weather(Reader({**defaults, **given, "mode": "heating" if options.heating else "cooling"}, ""))


def _faults(options: argparse.Namespace, unit: Unit) -> Faults:
    plain: dict[str, Any] = {}
    for item in options.fault:
        name, equals, severity = item.partition("=")
        if not equals:
            raise InvalidInput("--fault {item}: write NAME=SEVERITY, such as dirty_condenser=0.4.", words={"item": item}, path="--fault")
        plain[name] = severity if name == "other_refrigerant" else _number(severity, f"--fault {name}")
    if options.inside:
        if options.inside.strip().endswith("%"):
            plain["charge_share"] = parse("fraction", options.inside).value
        else:
            plain["charge_share"] = parse("mass", options.inside, default_unit="lb").value / unit.charge_kg
    return read_faults(Reader(plain, "--fault"))


def _unit_lines(unit: Unit, system: System) -> list[tuple[str, str]]:
    return [
        ("refrigerant", unit.refrigerant),
        ("metering", unit.metering),
        ("charge", show(unit.charge_kg, "mass", system)),
        ("capacity", f"{unit.capacity_w / 1000:.2f} kW"),
        ("mass flow", f"{unit.mass_flow_kg_s * 1000:.1f} g/s"),
        ("displacement", f"{unit.displacement_m3_s * 1e6:.0f} cm³/s"),
        ("evaporator, air side", f"{unit.indoor.air_ua_w_k:.0f} W/K"),
        ("condenser, air side", f"{unit.outdoor.air_ua_w_k:.0f} W/K"),
        ("evaporator, inside", f"{unit.indoor.volume_m3 * 1e3:.2f} L"),
        ("condenser, inside", f"{unit.outdoor.volume_m3 * 1e3:.2f} L"),
        ("metering bore", f"{unit.valve_area_m2 * 1e6:.3f} mm²"),
        ("whole gas side", f"{unit.gas_side_m3 * 1e3:.1f} L"),
    ]


def _state_lines(state: State, weather: Weather, system: System) -> list[tuple[str, str]]:
    zero = weather.site_pa

    def gauge(pressure: float) -> str:
        return show(pressure - zero, "gauge_pressure", system)

    lines = [("state", state.name.replace("_", " "))]
    if state.reason:
        lines.append(("", state.reason))
    lines += [("suction", gauge(state.suction_pa)), ("liquid", gauge(state.liquid_pa))]
    if not state.running:
        return lines
    return [
        *lines,
        ("suction line", show(state.suction_k, "temperature", system)),
        ("liquid line", show(state.liquid_k, "temperature", system)),
        ("superheat", show(state.superheat_k, "temperature_delta", system)),
        ("subcooling", show(state.subcooling_k, "temperature_delta", system)),
        ("discharge", show(state.discharge_k, "temperature", system)),
        ("return air", show(state.return_k, "temperature", system)),
        ("supply air", show(state.supply_k, "temperature", system)),
        ("cooling" if weather.mode == "cooling" else "taken from outdoors", f"{state.evaporator_w / 1000:.2f} kW"),
        ("power", f"{state.power_w / 1000:.2f} kW"),
        ("in the condenser", show(state.inventory.condenser, "mass", system)),
        ("in the evaporator", show(state.inventory.evaporator, "mass", system)),
    ]


COMMANDS = {"design": design_command, "solve": solve_command, "run": run_command}
