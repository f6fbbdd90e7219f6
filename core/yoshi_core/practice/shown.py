"""What a technician can read at the bench, and the instruments it is read from."""

from dataclasses import replace

from yoshi_core.frozen import dataclass
from yoshi_core.practice.exercise import Exercise
from yoshi_core.rig.instruments import MAKES, Instrument


@dataclass(frozen=True)
class Shown:
    """What every display says at a moment: gauge pressures in Pa, temperatures in K, gross mass in kg; None where nothing is read.

    A gauge whose port is shut reads nothing.
    """

    time_s: float
    suction_pa: float | None
    liquid_pa: float | None
    suction_line_k: float | None
    liquid_line_k: float | None
    scale_kg: float | None
    return_k: float | None
    supply_k: float | None
    outdoor_k: float | None
    wet_bulb_k: float | None
    vacuum_pa: float | None = None
    metal_k: float | None = None


def displays(exercise: Exercise) -> dict[str, Instrument]:
    """The instruments of the van, each somewhere inside its sheet's limits by the exercise's seed; gauges are vented here."""
    step = exercise.van.scale_step_kg
    scale = replace(MAKES["scale"], resolution=step, limit=step) if step else MAKES["scale"]
    kinds = {
        "suction_pa": ("suction", MAKES["gauge"]),
        "liquid_pa": ("liquid", MAKES["gauge"]),
        "suction_line_k": ("suction_line", MAKES["clamp"]),
        "liquid_line_k": ("liquid_line", MAKES["clamp"]),
        "scale_kg": ("scale", scale),
        "return_k": ("return_air", MAKES["air"]),
        "supply_k": ("supply_air", MAKES["air"]),
        "outdoor_k": ("", MAKES["air"]),
        "wet_bulb_k": ("", MAKES["air"]),
        "vacuum_pa": ("", MAKES["micron"]),
        "metal_k": ("", MAKES["clamp"]),
    }
    wrong = exercise.van.instruments
    return {name: Instrument(make, exercise.seed * 1000 + n, wrong.get(known)) for n, (name, (known, make)) in enumerate(kinds.items())}
