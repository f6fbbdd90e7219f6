"""What the rig is made of: a unit, the weather it runs in, what is wrong with it, and how it then stands."""

from collections.abc import Mapping
from dataclasses import field, fields, replace
from math import fsum
from typing import Literal

from yoshi_core.errors import OutOfRange
from yoshi_core.frozen import dataclass
from yoshi_core.properties.atmosphere import SEA_LEVEL_PA
from yoshi_core.units.display import Amount

Metering = Literal["orifice", "capillary", "txv"]
Mode = Literal["cooling", "heating"]
AIR_K = (223.15, 333.15)
StateName = Literal["running", "tripped_high", "tripped_low", "too_little", "not_solved"]


@dataclass(frozen=True)
class Coil:
    """One coil: UA of its air side in W/K and volume flow in m³/s at the design point, and the volume inside in m³.

    The ratios are the refrigerant side's UA over the air side's at the design mass flow.
    """

    air_ua_w_k: float
    flow_m3_s: float
    volume_m3: float
    vapor_ratio: float
    two_phase_ratio: float
    liquid_ratio: float


@dataclass(frozen=True)
class Unit:
    """A unit as designed; made by `design.design`, never by hand.

    Masses in kg, volumes in m³, pressures absolute in Pa, temperatures in K, flows in kg/s or m³/s.
    """

    refrigerant: str
    metering: Metering
    charge_kg: float
    capacity_w: float
    mass_flow_kg_s: float
    displacement_m3_s: float
    indoor: Coil
    outdoor: Coil
    valve_area_m2: float
    heating_area_m2: float
    superheat_setting_k: float
    liquid_line_m3: float
    suction_line_m3: float
    shell_m3: float
    oil_kg: float
    accumulator_m3: float
    receiver_m3: float
    high_cut_out_pa: float
    low_cut_out_pa: float
    evaporating_pa: float
    condensing_pa: float

    @property
    def gas_side_m3(self) -> float:
        """Volume inside the whole unit."""
        coils = self.indoor.volume_m3 + self.outdoor.volume_m3
        return coils + self.liquid_line_m3 + self.suction_line_m3 + self.shell_m3 + self.accumulator_m3 + self.receiver_m3


@dataclass(frozen=True)
class Weather:
    """Outdoor and return air, dry and wet bulb in K from −50 to 60 °C (`OutOfRange`), and the air pressure of the site in Pa."""

    outdoor_k: float
    indoor_k: float
    indoor_wet_bulb_k: float
    outdoor_wet_bulb_k: float | None = None
    site_pa: float = SEA_LEVEL_PA
    mode: Mode = "cooling"

    def __post_init__(self) -> None:
        low, high = AIR_K
        for name in ("outdoor_k", "indoor_k", "indoor_wet_bulb_k", "outdoor_wet_bulb_k"):
            value = getattr(self, name)
            if value is not None and not low <= value <= high:
                label = name.removesuffix("_k").replace("_", " ")
                raise OutOfRange(
                    "The rig knows air from {low} to {high}; {label} is {value}.",
                    words={
                        "low": Amount(low, "temperature"),
                        "high": Amount(high, "temperature"),
                        "label": label,
                        "value": Amount(value, "temperature"),
                    },
                    path=f"/{name.removesuffix('_k')}",
                    value=value,
                )


@dataclass(frozen=True)
class Faults:
    """What is wrong; every severity is from 0 (nothing) to 1 unless said otherwise.

    `charge_share` is what is inside over what belongs there. `orifice_scale` is the bore's area over
    the right one. Temperatures are added in K. `just_started` is a room still warm from standing; how the
    readings then move is `live`'s.
    """

    charge_share: float = 1.0
    liquid_restriction: float = 0.0
    valve_starving: float = 0.0
    valve_flooding: float = 0.0
    orifice_scale: float = 1.0
    low_airflow: float = 0.0
    iced_coil: float = 0.0
    dirty_condenser: float = 0.0
    recirculation_k: float = 0.0
    condenser_fan_off: float = 0.0
    non_condensables: float = 0.0
    other_refrigerant: str = ""
    other_share: float = 0.0
    compressor_leak: float = 0.0
    reversing_leak: float = 0.0
    high_load_k: float = 0.0
    just_started: bool = False

    def __post_init__(self) -> None:
        for item in fields(self):
            value = getattr(self, item.name)
            low, high = RANGES.get(item.name, (0.0, 1.0))
            if isinstance(value, int | float) and not low <= value <= high:
                raise OutOfRange(
                    "{name} must be from {low} to {high}; {value} is not.",
                    words={"name": item.name, "low": f"{low:g}", "high": f"{high:g}", "value": f"{value:g}"},
                    path=f"/{item.name}",
                    value=value,
                )
        if bool(self.other_refrigerant) != bool(self.other_share):
            raise OutOfRange("Another refrigerant needs its name and its share: other_refrigerant and other_share.", path="/other_share")


RANGES: Mapping[str, tuple[float, float]] = {
    "charge_share": (0.0, 2.0),
    "orifice_scale": (0.3, 3.0),
    "recirculation_k": (0.0, 30.0),
    "other_share": (0.0, 0.5),
    "high_load_k": (0.0, 15.0),
    "liquid_restriction": (0.0, 0.99),
    "valve_starving": (0.0, 0.95),
    "low_airflow": (0.0, 0.9),
    "iced_coil": (0.0, 0.9),
    "dirty_condenser": (0.0, 0.9),
    "compressor_leak": (0.0, 0.9),
    "reversing_leak": (0.0, 0.5),
}

# One middling severity of every fault, for pictures and studies: what a technician would call plain to see.
TYPICAL: Mapping[str, Mapping[str, float | str]] = {
    "undercharge": {"charge_share": 0.75},
    "overcharge": {"charge_share": 1.25},
    "liquid_restriction": {"liquid_restriction": 0.7},
    "valve_starving": {"valve_starving": 0.3},
    "valve_flooding": {"valve_flooding": 0.6},
    "orifice_large": {"orifice_scale": 1.25},
    "orifice_small": {"orifice_scale": 0.85},
    "low_airflow": {"low_airflow": 0.4},
    "iced_coil": {"iced_coil": 0.35},
    "dirty_condenser": {"dirty_condenser": 0.4},
    "recirculation": {"recirculation_k": 7.0},
    "condenser_fan_off": {"condenser_fan_off": 0.7},
    "non_condensables": {"non_condensables": 0.5},
    "other_refrigerant": {"other_share": 0.2, "other_refrigerant": "R-22"},
    "compressor_leak": {"compressor_leak": 0.35},
    "reversing_leak": {"reversing_leak": 0.15},
    "high_load": {"high_load_k": 9.0},
}


def fault(name: str, base: Faults | None = None, **change: float | str | bool) -> Faults:
    """A typical case of one fault by its name, over `base`; `change` sets severities outright. Raises `OutOfRange`."""
    if name and name not in TYPICAL:
        raise OutOfRange("The rig has no fault called {name}. It has: {known}.", words={"name": name, "known": tuple(TYPICAL)}, value=name)
    return replace(base or Faults(), **{**TYPICAL.get(name, {}), **change})  # type: ignore[arg-type]


@dataclass(frozen=True)
class Inventory:
    """Where the refrigerant is, in kg."""

    condenser: float
    evaporator: float
    liquid_line: float
    suction_line: float
    shell: float
    oil: float
    accumulator: float
    receiver: float

    @property
    def total_kg(self) -> float:
        """All of it, kg."""
        return fsum(getattr(self, item.name) for item in fields(self))


@dataclass(frozen=True)
class State:
    """How the unit stands. Pressures absolute in Pa, temperatures in K, heats and power in W, flow in kg/s.

    What a technician reads: `suction_pa` and `suction_k` at the low port, `liquid_pa` and `liquid_k` at
    the high port. Superheat and subcooling are what the nominal refrigerant's tables make of them.
    `name` says whether it runs; in every other state pressures are the ones it stopped or stands at.
    """

    name: StateName
    reason: str
    suction_pa: float
    suction_k: float
    liquid_pa: float
    liquid_k: float
    superheat_k: float = 0.0
    subcooling_k: float = 0.0
    evaporating_pa: float = 0.0
    condensing_pa: float = 0.0
    evaporator_out_k: float = 0.0
    discharge_k: float = 0.0
    mass_flow_kg_s: float = 0.0
    evaporator_w: float = 0.0
    condenser_w: float = 0.0
    suction_gain_w: float = 0.0
    shell_loss_w: float = 0.0
    power_w: float = 0.0
    return_k: float = 0.0
    supply_k: float = 0.0
    sensible_share: float = 1.0
    valve_opening: float = 1.0
    after_restriction_k: float = 0.0
    inventory: Inventory = field(default_factory=lambda: Inventory(0, 0, 0, 0, 0, 0, 0, 0))
    mass_error: float = 0.0
    energy_error: float = 0.0
    evaluations: int = 0
    unknowns: tuple[float, float, float] | None = None

    @property
    def running(self) -> bool:
        """Whether it runs."""
        return self.name == "running"
