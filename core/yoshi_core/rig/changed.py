"""The same machine with another refrigerant in it: compressor, coils, lines and air stay, the metering device may be another."""

from dataclasses import replace

from yoshi_core.properties import cycle
from yoshi_core.properties.cycle import CONDENSER_DEW_SHARE, EVAPORATOR_DEW_SHARE, Conditions, mean_pressure_pa
from yoshi_core.properties.saturation import mean_temperature_k
from yoshi_core.rig.fluid import fluid
from yoshi_core.rig.unit import Unit


def changed(unit: Unit, refrigerant: str, charge_kg: float, valve_size: float = 1.0) -> Unit:
    """A unit of the rig with another refrigerant, `charge_kg` being what a charge share of 1 then means.

    `valve_size` is the new opening over the old. Pressure controls follow the same coil temperatures. Raises `OutOfRange`
    where the new tables do not reach the unit's design point, `UnknownRefrigerant` without tables.
    """
    old, new = fluid(unit.refrigerant).name, fluid(refrigerant).name
    evaporating = mean_temperature_k(old, unit.evaporating_pa, EVAPORATOR_DEW_SHARE)
    condensing = mean_temperature_k(old, unit.condensing_pa, CONDENSER_DEW_SHARE)
    at = Conditions(evaporating, condensing)
    flow = cycle.run(new, at).flow_kg_m3 / cycle.run(old, at).flow_kg_m3
    return replace(
        unit,
        refrigerant=new,
        charge_kg=charge_kg,
        mass_flow_kg_s=unit.mass_flow_kg_s * flow,
        valve_area_m2=unit.valve_area_m2 * valve_size,
        heating_area_m2=unit.heating_area_m2 * valve_size,
        high_cut_out_pa=_same_coil_pa(old, new, unit.high_cut_out_pa, CONDENSER_DEW_SHARE),
        low_cut_out_pa=_same_coil_pa(old, new, unit.low_cut_out_pa, EVAPORATOR_DEW_SHARE),
        evaporating_pa=mean_pressure_pa(new, evaporating, EVAPORATOR_DEW_SHARE),
        condensing_pa=mean_pressure_pa(new, condensing, CONDENSER_DEW_SHARE),
    )


def _same_coil_pa(old: str, new: str, pressure_pa: float, share: float) -> float:
    """Absolute pressure of the new refrigerant at the coil's mean; no higher than its tables reach."""
    mean_k = mean_temperature_k(old, pressure_pa, share)
    return mean_pressure_pa(new, min(mean_k, fluid(new).last_k - 8.0), share)
