"""Builds the saturated and superheated tables of the core from CoolProp.

Run by hand (`python core/tools/build_tables.py`), the result is committed; a test rebuilds a few
rows and compares, so that a table can never drift from the tool that made it.

Saturation is tabulated every 0.5 K from 198 K to 0.985 of the critical
temperature, or as far as the property library solves. Superheated vapour is tabulated on pressures that are the dew
pressures of every second kelvin, and on superheats that widen as the properties straighten.
"""

import json
import math
import sys
from pathlib import Path
from typing import Any

import CoolProp.CoolProp as CP

DATA = Path(__file__).resolve().parents[1] / "yoshi_core" / "refrigerants" / "data"
STEP_K = 0.5
FIRST_K = 198.0
SEED_K = 280.0
SUPERHEATS_K = [0.0, 2.5, 5.0, 7.5, 10.0, 15.0, 20.0, 25.0, 30.0, 40.0, 50.0, 60.0, 80.0, 100.0, 125.0, 150.0, 180.0]
DEW_STEP_ROWS = 4
SHARE_OF_CRITICAL = 0.985
REFERENCE_K = 273.15  # saturated liquid at 0 degC: 200 kJ/kg and 1 kJ/(kg K), as the IIR convention


def open_state(parts: Any, components: Any) -> Any:
    """A property state for the composition in mass percent."""
    fluids = [components[name]["fluid"] for name in parts]
    state = CP.AbstractState("HEOS", "&".join(fluids))
    if len(fluids) > 1:
        state.set_mass_fractions([share / 100.0 for share in parts.values()])
    return state


def guesses_from(state: Any, temperature_k: Any) -> Any:
    guess = CP.PyGuessesStructure()
    guess.T, guess.p = temperature_k, state.p()
    guess.rhomolar_liq = state.saturated_liquid_keyed_output(CP.iDmolar)
    guess.rhomolar_vap = state.saturated_vapor_keyed_output(CP.iDmolar)
    guess.x, guess.y = state.mole_fractions_liquid(), state.mole_fractions_vapor()
    return guess


class Saturation:
    """One side of the dome (quality 0 or 1), followed from a solved state by small steps.

    A blend's flash from nothing fails at scattered temperatures; started from its neighbour it does not.
    """

    def __init__(self, state: Any, quality: Any, temperature_k: Any) -> None:
        self.state, self.quality = state, quality
        self.blend = len(state.fluid_names()) > 1
        state.update(CP.QT_INPUTS, quality, temperature_k)
        self.guess = guesses_from(state, temperature_k) if self.blend else None

    def at(self, temperature_k: Any) -> Any:
        if not self.blend:
            self.state.update(CP.QT_INPUTS, self.quality, temperature_k)
        else:
            self.state.update_with_guesses(CP.QT_INPUTS, self.quality, temperature_k, self.guess)
            self.guess = guesses_from(self.state, temperature_k)
        return self.state.p(), self.state.rhomass(), self.state.hmass(), self.state.smass()


def follow(state: Any, temperatures_k: Any) -> Any:
    """Rows along the given temperatures, until one cannot be solved."""
    sides = [Saturation(state, quality, SEED_K) for quality in (0.0, 1.0)]
    rows = []
    for temperature_k in temperatures_k:
        try:
            row = sides[0].at(temperature_k) + sides[1].at(temperature_k)
        except ValueError:
            break
        if not good(row):
            break
        rows.append(row)
    return rows


def superheated_row(state: Any, pressure_pa: Any, temperature_k: Any) -> Any:
    state.specify_phase(CP.iphase_gas)
    state.update(CP.PT_INPUTS, pressure_pa, temperature_k)
    row = state.rhomass(), state.hmass(), state.smass()
    state.unspecify_phase()
    return row


def critical_temperature_k(state: Any, parts: Any, components: Any) -> Any:
    if len(parts) == 1:
        return state.T_critical()
    try:
        return max(point.T for point in state.all_critical_points() if point.stable)
    except (ValueError, AttributeError):
        fluids = [components[name]["fluid"] for name in parts]
        return math.fsum(share * CP.PropsSI("Tcrit", fluid) for share, fluid in zip(state.get_mole_fractions(), fluids, strict=True))


def good(row: Any) -> Any:
    return all(math.isfinite(v) for v in row) and row[1] > row[5] > 0 and row[0] > 0.9999 * row[4] > 0


def saturated_table(state: Any, critical_k: Any) -> Any:
    """Rows on a uniform grid around the seed; ends are the last temperatures that solve."""
    below = [SEED_K - STEP_K * i for i in range(1, int((SEED_K - FIRST_K) / STEP_K) + 1)]
    above = [SEED_K + STEP_K * i for i in range(int((SHARE_OF_CRITICAL * critical_k - SEED_K) / STEP_K) + 1)]
    cold, warm = follow(state, below), follow(state, above)
    return SEED_K - STEP_K * len(cold), cold[::-1] + warm


def digits(value: Any, count: int = 9) -> Any:
    return float(f"{value:.{count}g}")


def build(entry: Any, components: Any) -> Any:
    parts = entry["parts"]
    state = open_state(parts, components)
    critical_k = critical_temperature_k(state, parts, components)
    first_k, rows = saturated_table(state, critical_k)
    zero = Saturation(state, 0.0, SEED_K).at(REFERENCE_K)
    shift_h, shift_s = 200_000.0 - zero[2], 1000.0 - zero[3]
    table = {
        "name": entry["name"],
        "made_by": f"CoolProp {CP.get_global_param_string('version')}",
        "molar_mass_kg_mol": digits(state.molar_mass()),
        "critical_temperature_k": digits(critical_k, 6),
        "first_k": first_k,
        "step_k": STEP_K,
        "bubble_pa": [digits(r[0]) for r in rows],
        "dew_pa": [digits(r[4]) for r in rows],
        "liquid_kg_m3": [digits(r[1]) for r in rows],
        "vapor_kg_m3": [digits(r[5]) for r in rows],
        "liquid_j_kg": [digits(r[2] + shift_h) for r in rows],
        "vapor_j_kg": [digits(r[6] + shift_h) for r in rows],
        "liquid_j_kg_k": [digits(r[3] + shift_s) for r in rows],
        "vapor_j_kg_k": [digits(r[7] + shift_s) for r in rows],
        "superheats_k": SUPERHEATS_K,
        "superheated_every": DEW_STEP_ROWS,
        "superheated": [],
    }
    for index in range(0, len(rows), DEW_STEP_ROWS):
        dew_k = first_k + index * STEP_K
        row = rows[index]
        line = [[digits(row[5]), digits(row[6] + shift_h), digits(row[7] + shift_s)]]
        for superheat in SUPERHEATS_K[1:]:
            rho, h, s = superheated_row(state, row[4], dew_k + superheat)
            line.append([digits(rho, 8), digits(h + shift_h, 8), digits(s + shift_s, 8)])
        table["superheated"].append(line)
    return table


def main(names: Any) -> None:
    catalogue = json.loads((DATA / "catalogue.json").read_text())
    for entry in catalogue["refrigerants"]:
        if names and entry["name"] not in names:
            continue
        table = build(entry, catalogue["components"])
        path = DATA / f"{entry['name']}.json"
        path.write_text(json.dumps(table, separators=(",", ":")) + "\n")
        last_k = table["first_k"] + (len(table["bubble_pa"]) - 1) * STEP_K
        print(
            f"{entry['name']:12} {table['first_k'] - 273.15:7.1f} to {last_k - 273.15:6.1f} degC, critical "
            f"{table['critical_temperature_k'] - 273.15:6.1f}, {len(table['superheated'])} pressures superheated, "
            f"{path.stat().st_size // 1000} kB",
            flush=True,
        )


if __name__ == "__main__":
    main(sys.argv[1:])
