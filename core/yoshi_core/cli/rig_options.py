"""What `yoshi rig` takes; apart from what it does, so that a look-up need not load a simulation."""

import argparse
from collections.abc import Callable
from typing import Any

PLATE_OPTIONS = {
    "refrigerant": "designation",
    "tons": "capacity in tons of refrigeration",
    "charge": "nameplate charge, such as '6 lb'",
    "metering": "orifice, capillary or txv",
    "superheat": "at the design point, such as '13 °F'",
    "subcooling": "at the design point",
    "condensing": "at the design point, such as '112 °F'",
    "suction_saturation": "at the design point",
    "line": "length of the line set",
    "liquid_od": "such as 3/8",
    "suction_od": "such as 3/4",
    "accumulator_l": "volume in litres",
    "receiver_l": "volume in litres",
}
WEATHER_OPTIONS = ("outdoor", "indoor", "indoor_wet_bulb", "outdoor_wet_bulb", "altitude")


def add_arguments(commands: Any, lazily: Callable[[str], Callable[[argparse.Namespace], int]]) -> None:
    """The three commands of the rig on a parser's subcommands; `lazily` gives the function of a name."""
    rig = commands.add_parser("rig", help="a simulated unit: design, solve, run").add_subparsers(required=True, metavar="COMMAND")
    for name, text in (("design", "a unit from a few nameplate facts"), ("solve", "where the unit settles, well or ill")):
        command = rig.add_parser(name, help=text)
        for option, help_text in PLATE_OPTIONS.items():
            command.add_argument(f"--{option.replace('_', '-')}", help=help_text)
        command.add_argument("--heat-pump", action="store_true")
        command.add_argument("--json", action="store_true")
        command.add_argument("--units", choices=("us", "si"), default="us")
        command.set_defaults(run=lazily(name))
        if name == "solve":
            for option in WEATHER_OPTIONS:
                command.add_argument(f"--{option.replace('_', '-')}")
            command.add_argument("--heating", action="store_true")
            command.add_argument("--inside", help="what is inside, as a weight or a share such as 75%%")
            command.add_argument("--fault", action="append", default=[], metavar="NAME=SEVERITY", help="may be given again")
    run_command = rig.add_parser("run", help="a scenario, shipped by its name or from a file")
    run_command.add_argument("scenario", nargs="?", help="name or file; without one, the shipped are listed")
    run_command.add_argument("--format", choices=("text", "json", "csv"), default="text")
    run_command.add_argument("--units", choices=("us", "si"), default="us")
    run_command.set_defaults(run=lazily("run"))
