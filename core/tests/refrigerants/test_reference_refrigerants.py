"""The catalogue and its tables against published figures and against the property library.

Published figures are from memory of the named source (see the `source` column of each file).
"""

import csv
import json
import math
import random
from collections import Counter
from pathlib import Path

import pytest
from CoolProp import CoolProp

from tests.make import delta_f, kelvin
from tools import build_tables
from yoshi_core import refrigerants
from yoshi_core.charge import line_set
from yoshi_core.properties import saturation, vapor
from yoshi_core.refrigerants.tables import table
from yoshi_core.running import targets
from yoshi_core.units.quantities import INCH_M, PSI_PA, ZERO_CELSIUS_K
from yoshi_core.views.lookup import catalogue

REFERENCE = Path(__file__).parents[1] / "reference"
COMPONENTS = json.loads((build_tables.DATA / "catalogue.json").read_text())["components"]


def rows(name: str) -> list[dict[str, str]]:
    with (REFERENCE / name).open(newline="") as file:
        return list(csv.DictReader(file))


BOILING = rows("normal_boiling_points.csv")


@pytest.mark.parametrize("row", BOILING, ids=[r["designation"] for r in BOILING])
def test_boiling_point_composition_class_and_gwp(row: dict[str, str]) -> None:
    found = refrigerants.get(row["designation"])
    tolerance = float(row["tolerance_k"])
    assert saturation.bubble_temperature_k(found, 101_325) - ZERO_CELSIUS_K == pytest.approx(float(row["bubble_c"]), abs=tolerance)
    assert saturation.dew_temperature_k(found, 101_325) - ZERO_CELSIUS_K == pytest.approx(float(row["dew_c"]), abs=tolerance)
    composition = " / ".join(f"{p.name} {p.mass_share * 100:g}" for p in found.parts)
    assert composition == row["composition_mass_percent"]
    assert found.safety_class == row["safety_class"]
    assert found.gwp_ar4 == pytest.approx(float(row["gwp_ar4"]), abs=2)


def test_every_refrigerant_of_the_list_is_in_the_catalogue_and_no_other() -> None:
    assert set(refrigerants.names()) == {r["designation"] for r in BOILING}


def test_each_says_how_many_published_service_pressures_stand_behind_it() -> None:
    charted = Counter(row["designation"] for row in rows("saturation_psig.csv"))
    for name in refrigerants.names():
        assert refrigerants.get(name).charted == charted[name], name
    said = {row["name"]: row["stands_on"] for row in catalogue()}
    assert said["R-410A"].startswith(f"published pressure charts, {charted['R-410A']} values")
    assert said["R-448A"].startswith("no published service pressure")


@pytest.mark.parametrize("row", rows("saturation_psig.csv"), ids=lambda r: f"{r['designation']}-{r['temperature_f']}")
def test_pressures_of_published_charts(row: dict[str, str]) -> None:
    name, temperature = row["designation"], kelvin(float(row["temperature_f"]))
    for side, column in ((saturation.bubble_pressure_pa, "bubble_psig"), (saturation.dew_pressure_pa, "dew_psig")):
        published = float(row[column])
        gauge = (side(name, temperature) - 101_325) / PSI_PA
        assert gauge == pytest.approx(published, abs=max(1.0, 0.01 * published))


@pytest.mark.parametrize("row", rows("target_superheat_row.csv"), ids=lambda r: r["return_wet_bulb_f"])
def test_target_formula_follows_the_published_row_at_55_f(row: dict[str, str]) -> None:
    formula = targets.formula_superheat_k(kelvin(float(row["return_wet_bulb_f"])), kelvin(float(row["outdoor_dry_bulb_f"])))
    assert delta_f(formula) == pytest.approx(float(row["target_superheat_f"]), abs=1.6)


def library_state(name: str) -> CoolProp.AbstractState:
    parts = {p.name: p.mass_share * 100 for p in refrigerants.get(name).parts}
    return build_tables.open_state(parts, COMPONENTS)


@pytest.mark.parametrize("name", refrigerants.names())
def test_interpolation_between_nodes_is_within_a_hundredth_of_a_kelvin(name: str) -> None:
    """Saturation midway between table rows against the library solved there (CoolProp 8.0.0)."""
    found, generator = table(name), random.Random(name)
    top = min(found.last_k, 0.93 * found.critical_temperature_k)
    temperatures = sorted(
        found.first_k + found.step_k * (generator.randrange(int((top - found.first_k) / found.step_k)) + 0.5) for _ in range(6)
    )
    for quality, look_up in ((0.0, saturation.bubble_temperature_k), (1.0, saturation.dew_temperature_k)):
        side = build_tables.Saturation(library_state(name), quality, build_tables.SEED_K)
        at = build_tables.SEED_K
        for wanted in temperatures:
            while abs(wanted - at) > 4:  # a blend is followed in small steps
                at += math.copysign(4, wanted - at)
                side.at(at)
            at = wanted
            pressure, density, *_ = side.at(wanted)
            assert look_up(name, pressure) == pytest.approx(wanted, abs=0.01)
            looked_up = (saturation.vapor_density_kg_m3 if quality else saturation.liquid_density_kg_m3)(name, wanted)
            assert looked_up == pytest.approx(density, rel=1e-3)


@pytest.mark.parametrize("name", refrigerants.names())
def test_superheated_vapour_between_nodes(name: str) -> None:
    """Density within 0.5 %, enthalpy within 0.3 kJ/kg, entropy within 1.5 J/(kg K) of the library (CoolProp 8.0.0)."""
    found, generator = table(name), random.Random(name + "vapour")
    state = library_state(name)
    reference = build_tables.Saturation(library_state(name), 0.0, build_tables.SEED_K).at(build_tables.REFERENCE_K)
    for _ in range(12):
        dew = generator.uniform(found.first_k + 20, min(found.last_k, 0.9 * found.critical_temperature_k))
        temperature = dew + generator.uniform(0.5, 60)
        pressure = saturation.dew_pressure_pa(name, dew)
        density, enthalpy, entropy = build_tables.superheated_row(state, pressure, temperature)
        assert vapor.density_kg_m3(name, pressure, temperature) == pytest.approx(density, rel=5e-3)
        assert vapor.enthalpy_j_kg(name, pressure, temperature) == pytest.approx(enthalpy + 200_000 - reference[2], abs=300)
        assert vapor.entropy_j_kg_k(name, pressure, temperature) == pytest.approx(entropy + 1000 - reference[3], abs=1.5)


@pytest.mark.parametrize("name", ["R-22", "R-410A", "R-454C"])
def test_committed_tables_are_what_the_tool_makes_today(name: str) -> None:
    committed = json.loads((build_tables.DATA / f"{name}.json").read_text())
    entry = next(e for e in json.loads((build_tables.DATA / "catalogue.json").read_text())["refrigerants"] if e["name"] == name)
    fresh = build_tables.build(entry, COMPONENTS)
    assert fresh["made_by"] == committed["made_by"]
    assert (fresh["first_k"], len(fresh["dew_pa"])) == (committed["first_k"], len(committed["dew_pa"]))
    for column in ("bubble_pa", "dew_pa", "liquid_kg_m3", "vapor_kg_m3", "vapor_j_kg"):
        assert fresh[column] == pytest.approx(committed[column], rel=1e-6)


@pytest.mark.parametrize("name", refrigerants.names())
def test_tables_reach_from_minus_60_c_to_near_critical(name: str) -> None:
    found = table(name)
    assert found.first_k <= ZERO_CELSIUS_K - 60
    assert found.last_k >= 0.98 * found.critical_temperature_k


def test_line_contents_of_common_practice() -> None:
    """R-410A in 3/8 in liquid line with 3/4 in vapour line is about the trade's 0.6 oz/ft (common practice, no source)."""
    found = line_set.allowance_kg_per_m("R-410A", 0.375 * INCH_M, 0.75 * INCH_M)
    assert found / 0.028349523 * 0.3048 == pytest.approx(0.614, abs=0.002)
