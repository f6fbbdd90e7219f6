"""Property tables, read once from package data; plain lists, looked up by index and bisection."""

import json
import math
import pkgutil
from dataclasses import dataclass
from functools import lru_cache

from yoshi_core.refrigerants import Refrigerant, get


@dataclass(frozen=True, slots=True)
class Table:
    """Saturation on a uniform temperature grid, superheat on dew pressures of every few rows.

    `ln_bubble` and `ln_dew` hold natural logarithms of Pa, for interpolation.
    """

    name: str
    molar_mass_kg_mol: float
    critical_temperature_k: float
    first_k: float
    step_k: float
    ln_bubble: list[float]
    ln_dew: list[float]
    liquid_kg_m3: list[float]
    vapor_kg_m3: list[float]
    liquid_j_kg: list[float]
    vapor_j_kg: list[float]
    liquid_j_kg_k: list[float]
    vapor_j_kg_k: list[float]
    superheats_k: list[float]
    superheated_every: int
    superheated: list[list[list[float]]]

    @property
    def last_k(self) -> float:
        """The last temperature of the table, K."""
        return self.first_k + (len(self.ln_dew) - 1) * self.step_k


@lru_cache(maxsize=64)
def _load(name: str) -> Table:
    raw = json.loads(pkgutil.get_data("yoshi_core.refrigerants", f"data/{name}.json") or b"")
    return Table(
        name=name,
        molar_mass_kg_mol=raw["molar_mass_kg_mol"],
        critical_temperature_k=raw["critical_temperature_k"],
        first_k=raw["first_k"],
        step_k=raw["step_k"],
        ln_bubble=[math.log(p) for p in raw["bubble_pa"]],
        ln_dew=[math.log(p) for p in raw["dew_pa"]],
        liquid_kg_m3=raw["liquid_kg_m3"],
        vapor_kg_m3=raw["vapor_kg_m3"],
        liquid_j_kg=raw["liquid_j_kg"],
        vapor_j_kg=raw["vapor_j_kg"],
        liquid_j_kg_k=raw["liquid_j_kg_k"],
        vapor_j_kg_k=raw["vapor_j_kg_k"],
        superheats_k=raw["superheats_k"],
        superheated_every=raw["superheated_every"],
        superheated=raw["superheated"],
    )


class Tables(dict[str, Table]):
    """The tables by what a refrigerant is called, each read when it is first asked for; `UnknownRefrigerant` for a name without one."""

    def __missing__(self, called: str) -> Table:
        found = self[called] = _load(get(called).name)
        return found


TABLES = Tables()


def table(refrigerant: Refrigerant | str) -> Table:
    """The tables of a refrigerant. Raises `UnknownRefrigerant`."""
    return TABLES[refrigerant if isinstance(refrigerant, str) else refrigerant.name]
