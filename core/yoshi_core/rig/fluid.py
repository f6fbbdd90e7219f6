"""A refrigerant as the rig needs it: many look-ups of one state, quickly, and without ends to fall off.

The same tables as `saturation` and `vapor`, arranged for a solver: one search gives the whole
saturated state at a pressure; vapour is found from enthalpy or entropy as well as from temperature.
Beyond 100 K of superheat the last two columns are continued in a straight line. Below the table
nothing is invented: `OutOfRange`.
"""

import math
from bisect import bisect_right
from dataclasses import dataclass
from functools import lru_cache

from yoshi_core.errors import OutOfRange
from yoshi_core.properties.vapor import GAS_CONSTANT
from yoshi_core.refrigerants import get
from yoshi_core.refrigerants.tables import Table, table


@dataclass(slots=True)
class Saturated:
    """Bubble and dew at one absolute pressure: temperatures in K, densities in kg/m³, enthalpies in J/kg, entropy in J/(kg K)."""

    pressure_pa: float
    bubble_k: float
    dew_k: float
    liquid_kg_m3: float
    vapor_kg_m3: float
    liquid_j_kg: float
    vapor_j_kg: float
    vapor_j_kg_k: float
    row: int
    down: float
    enthalpies: list[float] | None = None

    @property
    def latent_j_kg(self) -> float:
        """Heat from liquid to vapour, J/kg."""
        return self.vapor_j_kg - self.liquid_j_kg


class Fluid:
    """One refrigerant's tables with inverse look-ups."""

    def __init__(self, source: Table) -> None:
        self.name = source.name
        self.source = source
        self.first_k, self.step_k = source.first_k, source.step_k
        self.last_k = source.last_k
        self.ln_bubble, self.ln_dew = source.ln_bubble, source.ln_dew
        self.lowest_pa = math.exp(max(source.ln_bubble[0], source.ln_dew[0]))
        self.highest_pa = math.exp(min(source.ln_bubble[-1], source.ln_dew[-1]))
        self.superheats_k = source.superheats_k
        self.row_span_k = source.superheated_every * source.step_k
        self.vapor_j_kg = [[cell[1] for cell in line] for line in source.superheated]
        self.vapor_j_kg_k = [[cell[2] for cell in line] for line in source.superheated]
        self.compressibility = [self._compressibility(n, line) for n, line in enumerate(source.superheated)]
        self.gas_constant = GAS_CONSTANT / source.molar_mass_kg_mol

    def _compressibility(self, row: int, line: list[list[float]]) -> list[float]:
        dew_k = self.first_k + row * self.row_span_k
        pressure = math.exp(self.ln_dew[round(row * self.row_span_k / self.step_k)])
        constant = GAS_CONSTANT / self.source.molar_mass_kg_mol
        return [pressure / (cell[0] * constant * (dew_k + superheat)) for cell, superheat in zip(line, self.superheats_k, strict=True)]

    def saturated(self, pressure_pa: float) -> Saturated:
        """The saturated state at an absolute pressure in Pa. Raises `OutOfRange` outside the table."""
        if not self.lowest_pa <= pressure_pa <= self.highest_pa:
            raise OutOfRange(
                "{pressure} kPa absolute is outside the {name} table, {lowest} to {highest} kPa.",
                words={
                    "pressure": f"{pressure_pa / 1000:.0f}",
                    "name": self.name,
                    "lowest": f"{self.lowest_pa / 1000:.1f}",
                    "highest": f"{self.highest_pa / 1000:.0f}",
                },
                value=pressure_pa,
                low=self.lowest_pa,
                high=self.highest_pa,
            )
        wanted = math.log(pressure_pa)
        bubble = self._place(self.ln_bubble, wanted)
        dew = self._place(self.ln_dew, wanted)
        source = self.source
        b, d = min(int(bubble), len(self.ln_dew) - 2), min(int(dew), len(self.ln_dew) - 2)
        bs, ds = bubble - b, dew - d
        place = dew * self.step_k / self.row_span_k
        row = min(int(place), len(self.vapor_j_kg) - 2)
        return Saturated(
            pressure_pa,
            self.first_k + self.step_k * bubble,
            self.first_k + self.step_k * dew,
            source.liquid_kg_m3[b] + bs * (source.liquid_kg_m3[b + 1] - source.liquid_kg_m3[b]),
            source.vapor_kg_m3[d] + ds * (source.vapor_kg_m3[d + 1] - source.vapor_kg_m3[d]),
            source.liquid_j_kg[b] + bs * (source.liquid_j_kg[b + 1] - source.liquid_j_kg[b]),
            source.vapor_j_kg[d] + ds * (source.vapor_j_kg[d + 1] - source.vapor_j_kg[d]),
            source.vapor_j_kg_k[d] + ds * (source.vapor_j_kg_k[d + 1] - source.vapor_j_kg_k[d]),
            row,
            place - row,
        )

    @staticmethod
    def _place(column: list[float], wanted: float) -> float:
        upper = min(max(bisect_right(column, wanted), 1), len(column) - 1)
        below = column[upper - 1]
        return upper - 1 + (wanted - below) / (column[upper] - below)

    def _column(self, source: list[float], temperature_k: float) -> float:
        place = (temperature_k - self.first_k) / self.step_k
        if not 0.0 <= place <= len(source) - 1:
            raise OutOfRange(
                "{temperature} °C is outside the {name} table.",
                words={"temperature": f"{temperature_k - 273.15:.1f}", "name": self.name},
                value=temperature_k,
                low=self.first_k,
                high=self.last_k,
            )
        index = min(int(place), len(source) - 2)
        return source[index] + (place - index) * (source[index + 1] - source[index])

    def bubble_pressure_pa(self, temperature_k: float) -> float:
        """Absolute bubble pressure in Pa at a temperature in K."""
        return math.exp(self._column(self.ln_bubble, temperature_k))

    def dew_pressure_pa(self, temperature_k: float) -> float:
        """Absolute dew pressure in Pa at a temperature in K."""
        return math.exp(self._column(self.ln_dew, temperature_k))

    def liquid_kg_m3(self, temperature_k: float) -> float:
        """Density in kg/m³ of liquid, taken as that of saturated liquid at a temperature in K."""
        return self._column(self.source.liquid_kg_m3, temperature_k)

    def liquid_j_kg(self, temperature_k: float) -> float:
        """Enthalpy in J/kg of liquid, taken as that of saturated liquid at a temperature in K."""
        return self._column(self.source.liquid_j_kg, temperature_k)

    def liquid_k(self, enthalpy_j_kg: float) -> float:
        """Temperature in K of liquid of an enthalpy in J/kg."""
        place = self._place(self.source.liquid_j_kg, enthalpy_j_kg)
        return self.first_k + self.step_k * place

    def _enthalpies(self, state: Saturated) -> list[float]:
        """Vapour enthalpy over the superheats at the state's dew temperature, its first cell the saturated value itself."""
        if state.enthalpies is None:
            down = state.down
            low, high = self.vapor_j_kg[state.row], self.vapor_j_kg[state.row + 1]
            line = [a + down * (b - a) for a, b in zip(low, high, strict=True)]
            line[0] = state.vapor_j_kg
            state.enthalpies = line
        return state.enthalpies

    def _along(self, line: list[float], superheat_k: float) -> float:
        column = max(bisect_right(self.superheats_k, superheat_k, 0, len(line) - 1) - 1, 0)
        left, right = self.superheats_k[column], self.superheats_k[column + 1]
        return line[column] + (superheat_k - left) / (right - left) * (line[column + 1] - line[column])

    def _back(self, line: list[float], value: float) -> float:
        column = max(bisect_right(line, value, 0, len(line) - 1) - 1, 0)
        left, right = self.superheats_k[column], self.superheats_k[column + 1]
        return left + (value - line[column]) / (line[column + 1] - line[column]) * (right - left)

    def _between(self, grid: list[list[float]], state: Saturated, superheat_k: float, first: float) -> float:
        """One value of a grid; `first` stands for its saturated cell."""
        column = max(bisect_right(self.superheats_k, superheat_k, 0, len(self.superheats_k) - 1) - 1, 0)
        low, high, down = grid[state.row], grid[state.row + 1], state.down
        left = low[column] + down * (high[column] - low[column]) if column else first
        right = low[column + 1] + down * (high[column + 1] - low[column + 1])
        start, end = self.superheats_k[column], self.superheats_k[column + 1]
        return left + (superheat_k - start) / (end - start) * (right - left)

    def vapor_enthalpy(self, state: Saturated, superheat_k: float) -> float:
        """Enthalpy in J/kg of vapour at a superheat in K above the state's dew."""
        return self._along(self._enthalpies(state), superheat_k)

    def superheat_of(self, state: Saturated, enthalpy_j_kg: float) -> float:
        """Superheat in K of vapour of an enthalpy in J/kg; below the dew line negative, at the slope of vapour."""
        return self._back(self._enthalpies(state), enthalpy_j_kg)

    def vapor_entropy(self, state: Saturated, superheat_k: float) -> float:
        """Entropy in J/(kg K) of vapour at a superheat in K."""
        return self._between(self.vapor_j_kg_k, state, superheat_k, state.vapor_j_kg_k)

    def isentropic_j_kg(self, state: Saturated, entropy_j_kg_k: float) -> float:
        """Enthalpy in J/kg of vapour at the state's pressure with an entropy in J/(kg K)."""
        down = state.down
        low, high = self.vapor_j_kg_k[state.row], self.vapor_j_kg_k[state.row + 1]
        line = [a + down * (b - a) for a, b in zip(low, high, strict=True)]
        line[0] = state.vapor_j_kg_k
        return self.vapor_enthalpy(state, self._back(line, entropy_j_kg_k))

    def vapor_density(self, state: Saturated, superheat_k: float) -> float:
        """Density in kg/m³ of vapour at a superheat in K, through its compressibility."""
        first = state.pressure_pa / (state.vapor_kg_m3 * self.gas_constant * state.dew_k)
        z = self._between(self.compressibility, state, superheat_k, first)
        return state.pressure_pa / (z * self.gas_constant * (state.dew_k + superheat_k))

    def density(self, state: Saturated, enthalpy_j_kg: float) -> float:
        """Density in kg/m³ at an enthalpy in J/kg: liquid, evenly mixed two-phase, or vapour."""
        if enthalpy_j_kg >= state.vapor_j_kg:
            return self.vapor_density(state, self.superheat_of(state, enthalpy_j_kg))
        quality = (enthalpy_j_kg - state.liquid_j_kg) / state.latent_j_kg
        if quality <= 0.0:
            return self.liquid_kg_m3(self.liquid_k(enthalpy_j_kg))
        return 1.0 / (quality / state.vapor_kg_m3 + (1.0 - quality) / state.liquid_kg_m3)

    def temperature_k(self, state: Saturated, enthalpy_j_kg: float) -> float:
        """Temperature in K at an enthalpy in J/kg; across the two-phase region it follows the glide."""
        if enthalpy_j_kg >= state.vapor_j_kg:
            return state.dew_k + self.superheat_of(state, enthalpy_j_kg)
        quality = (enthalpy_j_kg - state.liquid_j_kg) / state.latent_j_kg
        if quality <= 0.0:
            return self.liquid_k(enthalpy_j_kg)
        return state.bubble_k + quality * (state.dew_k - state.bubble_k)


@lru_cache(maxsize=64)
def _fluid(name: str) -> Fluid:
    return Fluid(table(name))


def fluid(refrigerant: str) -> Fluid:
    """The fluid of a catalogued refrigerant. Raises `UnknownRefrigerant`."""
    return _fluid(get(refrigerant).name)


@lru_cache(maxsize=64)
def mixed(first: str, second: str, share: float) -> Fluid:
    """`share` by mass of a second refrigerant in a first, as an ideal mixture.

    Raoult's law for the pressures, everything else weighted by mass: right in kind for what a
    contaminated system shows, not a property calculation. `share` is from 0 to 0.5; `OutOfRange`.
    """
    if not 0.0 <= share <= 0.5:
        raise OutOfRange("The second refrigerant must be from 0 to 50 % by mass.", value=share, low=0.0, high=0.5)
    one, two = table(get(first).name), table(get(second).name)
    if share == 0.0:
        return _fluid(one.name)
    start = max(one.first_k, two.first_k)
    every = one.superheated_every
    count = int((min(one.last_k, two.last_k) - start) / one.step_k) // every * every
    skip = [round((start - t.first_k) / t.step_k) for t in (one, two)]
    moles = [(1.0 - share) / one.molar_mass_kg_mol, share / two.molar_mass_kg_mol]
    part = [m / sum(moles) for m in moles]

    def column(name: str, harmonic: bool = False) -> list[float]:
        a, b = (getattr(t, name)[s : s + count + 1] for t, s in zip((one, two), skip, strict=True))
        if harmonic:
            return [1.0 / ((1.0 - share) / x + share / y) for x, y in zip(a, b, strict=True)]
        return [(1.0 - share) * x + share * y for x, y in zip(a, b, strict=True)]

    def pressures(name: str) -> list[list[float]]:
        return [[math.exp(v) for v in getattr(t, name)[s : s + count + 1]] for t, s in zip((one, two), skip, strict=True)]

    bubbles, dews = pressures("ln_bubble"), pressures("ln_dew")
    rows = [
        [
            [
                1.0 / ((1.0 - share) / _cell(one, skip[0], n, every)[c][0] + share / _cell(two, skip[1], n, every)[c][0]),
                (1.0 - share) * _cell(one, skip[0], n, every)[c][1] + share * _cell(two, skip[1], n, every)[c][1],
                (1.0 - share) * _cell(one, skip[0], n, every)[c][2] + share * _cell(two, skip[1], n, every)[c][2],
            ]
            for c in range(len(one.superheats_k))
        ]
        for n in range(count // every + 1)
    ]
    return Fluid(
        Table(
            name=f"{one.name} with {share:.0%} {two.name}",
            molar_mass_kg_mol=1.0 / sum(moles),
            critical_temperature_k=part[0] * one.critical_temperature_k + part[1] * two.critical_temperature_k,
            first_k=start,
            step_k=one.step_k,
            ln_bubble=[math.log(part[0] * a + part[1] * b) for a, b in zip(*bubbles, strict=True)],
            ln_dew=[-math.log(part[0] / a + part[1] / b) for a, b in zip(*dews, strict=True)],
            liquid_kg_m3=column("liquid_kg_m3", harmonic=True),
            vapor_kg_m3=column("vapor_kg_m3", harmonic=True),
            liquid_j_kg=column("liquid_j_kg"),
            vapor_j_kg=column("vapor_j_kg"),
            liquid_j_kg_k=column("liquid_j_kg_k"),
            vapor_j_kg_k=column("vapor_j_kg_k"),
            superheats_k=one.superheats_k,
            superheated_every=every,
            superheated=rows,
        )
    )


def _cell(source: Table, skip: int, row: int, every: int) -> list[list[float]]:
    """The superheated line of a table at a row of the common grid; the nearest line where grids are out of step."""
    return source.superheated[min(round((skip + row * every) / every), len(source.superheated) - 1)]
