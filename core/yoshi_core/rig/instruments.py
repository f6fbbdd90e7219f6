"""Instruments as they are: resolution, accuracy, lag, a zero that is off, drift, readings that fail to come."""

import random
from math import exp, floor

from yoshi_core.errors import OutOfRange
from yoshi_core.frozen import dataclass
from yoshi_core.properties.atmosphere import SEA_LEVEL_PA, GaugeReference
from yoshi_core.rig.live import Snapshot
from yoshi_core.running.readings import Readings
from yoshi_core.units.quantities import FAHRENHEIT_K, MICRON_PA, OZ_KG, PSI_PA


@dataclass(frozen=True)
class Make:
    """What an instrument's sheet says, in SI: step of its display, ± limit, lag in s; `relative` limits count of the reading."""

    quantity: str
    resolution: float
    limit: float
    lag_s: float
    relative: float = 0.0


MAKES: dict[str, Make] = {
    "gauge": Make("gauge_pressure", 0.1 * PSI_PA, PSI_PA, 0.5),
    "clamp": Make("temperature", 0.1 * FAHRENHEIT_K, FAHRENHEIT_K, 8.0),
    "scale": Make("mass", 0.5 * OZ_KG, 0.5 * OZ_KG, 1.0),
    "micron": Make("micron", MICRON_PA, 5.0 * MICRON_PA, 1.0, 0.02),
    "air": Make("temperature", 0.1 * FAHRENHEIT_K, 0.9 * FAHRENHEIT_K, 20.0),
}


@dataclass(frozen=True)
class Fault:
    """What is wrong with one instrument: zero error and drift an hour in its SI unit, share of readings that do not come."""

    zero_error: float = 0.0
    drift_per_h: float = 0.0
    drop_share: float = 0.0

    def __post_init__(self) -> None:
        if not 0.0 <= self.drop_share <= 1.0:
            raise OutOfRange("The share of dropped readings is from 0 to 1.", value=self.drop_share)


class Instrument:
    """One instrument. Where in its limits it stands is drawn once; the last digit jitters from reading to reading."""

    def __init__(self, make: Make, seed: int, fault: Fault | None = None) -> None:
        self.make, self.fault = make, fault or Fault()
        self._dice = random.Random(seed)
        self._bias = self._dice.uniform(-0.5, 0.5)
        self._inside: float | None = None
        self._last_s = 0.0

    def read(self, true: float, at_s: float) -> float | None:
        """The display at a time for a true value; None where this reading does not come."""
        make, fault = self.make, self.fault
        if self._inside is None:
            self._inside = true
        else:
            self._inside += (true - self._inside) * (1.0 - exp(-max(at_s - self._last_s, 0.0) / make.lag_s))
        self._last_s = at_s
        if self._dice.random() < fault.drop_share:
            return None
        reach = max(make.limit, make.relative * abs(self._inside))
        noise = self._dice.uniform(-0.5, 0.5) * make.resolution
        shown = self._inside + self._bias * reach + fault.zero_error + fault.drift_per_h * at_s / 3600.0 + noise
        return floor(shown / make.resolution + 0.5) * make.resolution


class Kit:
    """A technician's instruments on a unit: two gauges, two clamps, a scale, air in and out."""

    NAMES = ("suction", "liquid", "suction_line", "liquid_line", "scale", "return_air", "supply_air")
    KINDS = ("gauge", "gauge", "clamp", "clamp", "scale", "air", "air")

    def __init__(
        self,
        seed: int = 1,
        faults: dict[str, Fault] | None = None,
        *,
        site_pa: float = SEA_LEVEL_PA,
        reference: GaugeReference = "vented",
    ) -> None:
        wrong = set(faults or {}) - set(self.NAMES)
        if wrong:
            raise OutOfRange(
                "The kit has no instrument called {wrong}. It has: {names}.", words={"wrong": wrong.pop(), "names": tuple(self.NAMES)}
            )
        self.zero_pa = SEA_LEVEL_PA if reference == "sealed" else site_pa
        self._all = {
            name: Instrument(MAKES[kind], seed * 1000 + n, (faults or {}).get(name))
            for n, (name, kind) in enumerate(zip(self.NAMES, self.KINDS, strict=True))
        }

    def read(self, now: Snapshot) -> dict[str, float | None]:
        """Every display at a moment: gauge pressures in Pa, temperatures in K, gross weight in kg; None where nothing came."""
        true = {
            "suction": now.suction_pa - self.zero_pa,
            "liquid": now.liquid_pa - self.zero_pa,
            "suction_line": now.suction_k,
            "liquid_line": now.liquid_k,
            "scale": now.cylinder_kg,
            "return_air": now.return_k,
            "supply_air": now.supply_k,
        }
        return {name: None if value is None else self._all[name].read(value, now.time_s) for name, value in true.items()}


def as_readings(shown: dict[str, float | None]) -> Readings:
    """The kit's displays in the shape the core judges."""
    return Readings(
        shown["suction"],
        shown["suction_line"],
        shown["liquid"],
        shown["liquid_line"],
        MAKES["gauge"].limit,
        MAKES["clamp"].limit,
    )
