"""`yoshi`: the core from a terminal.

Exit code 0 when nothing says Stop, 1 when something does, 2 for input that cannot be read.
"""

import argparse
import re
import sys
from collections.abc import Callable, Sequence
from functools import partial
from importlib import import_module
from typing import Any

from yoshi_core import __version__
from yoshi_core.cli.rig_options import add_arguments as add_rig
from yoshi_core.errors import CoreError
from yoshi_core.properties import saturation
from yoshi_core.properties.atmosphere import GaugeReference, absolute_pa, site_pressure_pa
from yoshi_core.units.display import System, show
from yoshi_core.units.text import parse

BELOW_ZERO = re.compile(r"-[.,]?\d")
READINGS = {
    "suction": "gauge pressure, such as 118psig",
    "suction-line": "clamp, such as 54F",
    "liquid": "gauge pressure",
    "liquid-line": "clamp",
    "outdoor": "air into the condenser",
    "return-air": "dry bulb",
    "return-wet-bulb": "wet bulb",
    "supply-air": "dry bulb",
    "power-share": "current or power over rated, such as 92%%",
    "subcooling-target": "from the plate, such as '10 °F'",
    "standing": "gauge pressure, switched off and equalized",
    "standing-cold": "the coldest part then",
}


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one command; the exit code."""
    options = _parser().parse_args(_joined(sys.argv[1:] if arguments is None else arguments))
    try:
        return int(options.run(options))
    except CoreError as error:
        print(f"{error.path + ': ' if error.path and error.path not in error.message else ''}{error.message}", file=sys.stderr)
        return 2
    except OSError as error:
        print(f"{error.filename}: {error.strerror}", file=sys.stderr)
        return 2
    except UnicodeDecodeError:
        print("This file is not UTF-8 text, so it is not a job document.", file=sys.stderr)
        return 2


def _joined(arguments: Sequence[str]) -> list[str]:
    """Arguments with a figure below zero tied to its option: `--temperature -20F` is no option called -20F."""
    found: list[str] = []
    for item in arguments:
        if BELOW_ZERO.match(item) and found and found[-1].startswith("--") and "=" not in found[-1]:
            found[-1] = f"{found[-1]}={item}"
        else:
            found.append(item)
    return found


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="yoshi", description="Refrigerant charge: plan, judge, look up.")
    parser.add_argument("--version", action="version", version=f"yoshi {__version__}")
    commands = parser.add_subparsers(required=True, metavar="COMMAND")
    plan = commands.add_parser("plan", help="total charge and scale marks of a job document")
    plan.set_defaults(run=_with_documents("plan"))
    judge = commands.add_parser("judge", help="all findings of a job document")
    judge.set_defaults(run=_with_documents("judge"))
    for command in (plan, judge):
        command.add_argument("file", help="a yoshi-job document, or - for standard input")
        command.add_argument("--json", action="store_true", help="findings as JSON")
        command.add_argument("--now", help="judge at this time instead of the document's, such as 2026-06-18T15:11:00Z")
        command.add_argument("--units", choices=("us", "si"), default="us")
    pt = commands.add_parser("pt", help="saturation at a pressure or a temperature")
    pt.add_argument("refrigerant")
    given = pt.add_mutually_exclusive_group(required=True)
    given.add_argument("--psig", help="gauge pressure in psig")
    given.add_argument("--pressure", help="gauge pressure with its unit, such as '8.1 bar'")
    given.add_argument("--temperature", help="such as '40 °F' or 4C")
    pt.add_argument("--altitude", default="0 m", help="site altitude, such as 2100m or 6900ft")
    pt.add_argument("--sealed", action="store_true", help="the gauge counts from sea level, not from the air here")
    pt.add_argument("--units", choices=("us", "si"), default="us")
    pt.set_defaults(run=_pt)
    commands.add_parser("schema", help="JSON Schema of the job document").set_defaults(run=_with_documents("print_schema"))
    words = commands.add_parser("words", help="what the trade's words mean")
    words.add_argument("word", nargs="?", default="", help="one word, or a part of it; all without it")
    words.set_defaults(run=lambda options: int(import_module("yoshi_core.cli.words").run(options)))
    add_rig(commands, partial(_with, "rig"))
    _add_diagnose(commands)
    _add_retrofit(commands)
    _add_practice(commands)
    return parser


def _add_practice(commands: Any) -> None:
    practice = commands.add_parser("practice", help="charge a unit that is not there").add_subparsers(required=True, metavar="COMMAND")
    practice.add_parser("list", help="the exercises that come with Yoshi").set_defaults(run=_with("practice", "list"))
    run = practice.add_parser("run", help="an exercise done by a policy, with its marks")
    run.add_argument("exercise", help="name or file")
    run.add_argument("--policy", choices=("careful",), default="careful")
    run.add_argument("--seed", type=int, help="another hidden fault and other instruments")
    run.add_argument("--json", action="store_true")
    run.add_argument("--units", choices=("us", "si"), default="us")
    run.set_defaults(run=_with("practice", "run"))
    what_if = practice.add_parser("what-if", help="which units would read as a job's last reading does, and what an addition would do")
    what_if.add_argument("file", help="a yoshi-job document")
    what_if.add_argument("--add", help="so much more inside, such as '6 oz'")
    what_if.add_argument("--units", choices=("us", "si"), default="us")
    what_if.set_defaults(run=_with("practice", "what_if"))


def _add_diagnose(commands: Any) -> None:
    command = commands.add_parser("diagnose", help="what the readings of a running unit can mean, cooling")
    command.add_argument("refrigerant")
    command.add_argument("--metering", choices=("txv", "eev", "orifice", "capillary"), default="txv")
    for name, text in READINGS.items():
        command.add_argument(f"--{name}", help=text)
    command.add_argument("--altitude", default="0 m", help="site altitude, such as 2100m")
    command.add_argument("--sealed", action="store_true", help="the gauges count from sea level, not from the air here")
    command.add_argument("--check", action="append", default=[], metavar="CHECK=RESULT", help="result of a cheap check; may be given again")
    command.add_argument("--json", action="store_true")
    command.add_argument("--units", choices=("us", "si"), default="us")
    command.set_defaults(run=lambda options: int(import_module("yoshi_core.cli.diagnose").run(options)))


def _add_retrofit(commands: Any) -> None:
    command = commands.add_parser("retrofit", help="another refrigerant in the same system: what stands against it, what it changes")
    command.add_argument("refrigerant", help="what is in it now")
    command.add_argument("--to", action="append", default=[], metavar="NAME", help="one candidate; may be given again")
    command.add_argument("--metering", choices=("txv", "eev", "orifice", "capillary"), default="txv")
    command.add_argument("--oil", help="what is in the compressor, such as mineral")
    command.add_argument("--charge", help="the correct full charge with its lines, such as '8 lb 12 oz'")
    command.add_argument("--design-high", help="high side's design pressure on the plate, such as '300 psig'")
    for name, usual, text in (
        ("worst-outdoor", "95 °F", "air on its worst day"),
        ("evaporating", "42 °F", "mean of the coil"),
        ("condensing", "108 °F", "mean of the coil"),
        ("superheat", "18 °F", "at the compressor"),
        ("subcooling", "9 °F", "before the valve"),
        ("efficiency", "68 %", "isentropic"),
        ("altitude", "0 m", "of the site"),
    ):
        command.add_argument(f"--{name}", default=usual, help=f"{text}, {usual}".replace("%", "%%"))
    command.add_argument("--sealed", action="store_true", help="the gauges count from sea level, not from the air here")
    command.add_argument("--listed", choices=("A2L", "A2", "A3"), help="the flammable class the equipment is listed for")
    command.add_argument("--json", action="store_true")
    command.add_argument("--units", choices=("us", "si"), default="us")
    command.set_defaults(run=lambda options: int(import_module("yoshi_core.cli.retrofit").run(options)))


def _with(module: str, command: str) -> Callable[[argparse.Namespace], int]:
    """A command of a module of the terminal by name; a simulation is loaded when it is asked for."""

    def run(options: argparse.Namespace) -> int:
        return int(import_module(f"yoshi_core.cli.{module}").COMMANDS[command](options))

    return run


def _with_documents(command: str) -> Callable[[argparse.Namespace], int]:
    """The command by name; describing documents takes a third of a second that a look-up need not wait for."""

    def run(options: argparse.Namespace) -> int:
        return int(getattr(import_module("yoshi_core.cli.documents"), command)(options))

    return run


def _pt(options: argparse.Namespace) -> int:
    system: System = options.units
    altitude = parse("altitude", options.altitude, default_unit="m").value
    reference: GaugeReference = "sealed" if options.sealed else "vented"
    zero = absolute_pa(0.0, reference, altitude)
    name = options.refrigerant
    if options.temperature:
        temperature = parse("temperature", options.temperature, default_unit="°F").value
        bubble, dew = saturation.bubble_pressure_pa(name, temperature), saturation.dew_pressure_pa(name, temperature)
        rows = [("bubble", show(bubble - zero, "gauge_pressure", system)), ("dew", show(dew - zero, "gauge_pressure", system))]
        rows += [
            ("liquid", show(saturation.liquid_density_kg_m3(name, temperature), "density", system)),
            ("vapour", show(saturation.vapor_density_kg_m3(name, temperature), "density", system)),
        ]
    else:
        gauge = parse("gauge_pressure", options.psig or options.pressure, default_unit="psig").value
        bubble_k, dew_k = saturation.bubble_temperature_k(name, gauge + zero), saturation.dew_temperature_k(name, gauge + zero)
        rows = [
            ("bubble", show(bubble_k, "temperature", system)),
            ("dew", show(dew_k, "temperature", system)),
            ("glide", show(dew_k - bubble_k, "temperature_delta", system)),
        ]
    print(f"{name}, {reference} gauge, air {site_pressure_pa(altitude) / 1000:.1f} kPa at {altitude:.0f} m")
    for label, text in rows:
        print(f"{label:8}{text:>16}")
    return 0


if __name__ == "__main__":
    sys.exit(main())
