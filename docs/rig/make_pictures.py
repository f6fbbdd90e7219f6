"""Draws docs/rig/*.svg from the rig:  .yoshi/venv/bin/python docs/rig/make_pictures.py"""

from pathlib import Path

import matplotlib as mpl

mpl.use("svg")
import matplotlib.pyplot as plt
from matplotlib.axes import Axes

from yoshi_core.properties import saturation
from yoshi_core.rig.design import Plate, design
from yoshi_core.rig.solve import solve
from yoshi_core.rig.unit import TYPICAL, Faults, Metering, State, fault
from yoshi_core.units.quantities import FAHRENHEIT_K, PSI_PA

HERE = Path(__file__).parent
LOW, HIGH, COPPER, INK = "#2c5f86", "#8a4a2a", "#a3461a", "#1b232b"
DEVICES: tuple[Metering, ...] = ("orifice", "txv")
NAMES = {"orifice": "fixed orifice", "txv": "expansion valve"}
ATMOSPHERE_PSI = 101_325.0 / PSI_PA

plt.rcParams.update(
    {
        "font.family": "sans-serif",
        "font.size": 11,
        "axes.edgecolor": INK,
        "axes.spines.top": False,
        "axes.spines.right": False,
        "svg.hashsalt": "yoshi",
        "svg.fonttype": "path",
    }
)


def save(figure: plt.Figure, name: str) -> None:
    figure.tight_layout()
    figure.savefig(HERE / f"{name}.svg", metadata={"Date": None})
    plt.close(figure)


def against_charge() -> None:
    """Superheat, subcooling and both pressures from 40 to 150 % of the charge."""
    figure, axes = plt.subplots(2, 2, figsize=(9.6, 6.6), sharex=True, sharey="row")
    shares = [n / 100 for n in range(40, 151)]
    for column, device in enumerate(DEVICES):
        plate = Plate(metering=device)
        unit = design(plate)
        states = [solve(unit, plate.weather, Faults(charge_share=s)) for s in shares]
        percent = [100 * s for s in shares]
        top: Axes = axes[0][column]
        top.plot(percent, [s.superheat_k / FAHRENHEIT_K for s in states], color=LOW, lw=2)
        top.plot(percent, [s.subcooling_k / FAHRENHEIT_K for s in states], color=HIGH, lw=2)
        top.set_title(NAMES[device], loc="left", fontweight="bold")
        bottom: Axes = axes[1][column]
        bottom.plot(percent, [s.liquid_pa / PSI_PA - ATMOSPHERE_PSI for s in states], color=HIGH, lw=2)
        bottom.plot(percent, [s.suction_pa / PSI_PA - ATMOSPHERE_PSI for s in states], color=LOW, lw=2)
        bottom.set_xlabel("charge, % of what belongs there")
        for ax in (top, bottom):
            ax.axvline(100, color=INK, lw=0.8, ls=":")
            ax.grid(axis="y", color="#d3ccbd", lw=0.6)
    axes[0][0].set_ylabel("°F")
    axes[1][0].set_ylabel("psig")
    axes[0][0].text(58, 56, "superheat", color=LOW)
    axes[0][0].text(102, 27, "subcooling", color=HIGH)
    axes[1][0].text(44, 350, "liquid", color=HIGH)
    axes[1][0].text(44, 108, "suction", color=LOW)
    save(figure, "against-charge")


def moved(device: Metering, name: str) -> list[float]:
    """Change in °F of suction and head saturation, superheat and subcooling from the well unit."""
    plate = Plate(metering=device)
    unit = design(plate)

    def seen(state: State) -> list[float]:
        low = saturation.dew_temperature_k("R-410A", state.suction_pa)
        high = saturation.bubble_temperature_k("R-410A", state.liquid_pa)
        return [low, high, state.superheat_k, state.subcooling_k]

    ill = solve(unit, plate.weather, fault(name))
    if not ill.running:
        return [0.0] * 4
    return [(b - a) / FAHRENHEIT_K for a, b in zip(seen(solve(unit, plate.weather)), seen(ill), strict=True)]


def each_fault() -> None:
    """What one typical case of each fault does to the four numbers a technician reads."""
    names = list(TYPICAL)
    figure, axes = plt.subplots(1, 4, figsize=(11.2, 7.6), sharey=True)
    places = range(len(names))
    for offset, device, shade in ((-0.18, "orifice", 1.0), (0.18, "txv", 0.45)):
        changes = [moved(device, name) for name in names]  # type: ignore[arg-type]
        for n, ax in enumerate(axes):
            color = LOW if n in (0, 2) else HIGH
            ax.barh([p + offset for p in places], [c[n] for c in changes], height=0.34, color=color, alpha=shade, label=NAMES[device])
    for ax, title in zip(axes, ("suction saturation", "head saturation", "superheat", "subcooling"), strict=True):
        ax.set_title(title, loc="left", fontweight="bold", fontsize=11)
        ax.axvline(0, color=INK, lw=0.9)
        ax.set_xlabel("change, °F")
        ax.grid(axis="x", color="#d3ccbd", lw=0.6)
        ax.set_yticks(list(places), [name.replace("_", " ") for name in names])
    axes[0].invert_yaxis()
    axes[1].legend(loc="lower right", fontsize=9, frameon=False)
    save(figure, "each-fault")


def restriction_course() -> None:
    """How far each severity of three faults moves superheat and subcooling."""
    figure, axes = plt.subplots(1, 3, figsize=(10.6, 3.8), sharey=True)
    cases = (("liquid_restriction", 0.9), ("low_airflow", 0.7), ("dirty_condenser", 0.7))
    for ax, (name, most) in zip(axes, cases, strict=True):
        severities = [most * n / 40 for n in range(41)]
        for device, style in (("orifice", "-"), ("txv", "--")):
            plate = Plate(metering=device)  # type: ignore[arg-type]
            unit = design(plate)
            states = [solve(unit, plate.weather, Faults(**{name: s})) for s in severities]  # type: ignore[arg-type]
            known = [(s, state) for s, state in zip(severities, states, strict=True) if state.running]
            ax.plot([s for s, _ in known], [t.superheat_k / FAHRENHEIT_K for _, t in known], color=LOW, ls=style, lw=2)
            ax.plot([s for s, _ in known], [t.subcooling_k / FAHRENHEIT_K for _, t in known], color=HIGH, ls=style, lw=2)
        ax.set_title(name.replace("_", " "), loc="left", fontweight="bold", fontsize=11)
        ax.set_xlabel("severity")
        ax.grid(axis="y", color="#d3ccbd", lw=0.6)
    axes[0].set_ylabel("°F")
    axes[0].text(0.02, 33, "superheat", color=LOW)
    axes[0].text(0.02, 5, "subcooling", color=HIGH)
    axes[2].text(0.02, 40, "solid: orifice, dashed: valve", fontsize=9)
    save(figure, "by-severity")


if __name__ == "__main__":
    against_charge()
    each_fault()
    restriction_course()
