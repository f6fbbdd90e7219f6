"""Which way each fault moves the gauges: the trade's signature table against the rig.

Source of the signs: common practice, no source. Three refrigerants, two metering devices. A sign
needs more than half a degree Fahrenheit (pressures as their saturation), superheat more than two, for a
valve's own band is three; "any" where practice says
that it varies.
"""

from functools import lru_cache

from yoshi_core.properties import saturation
from yoshi_core.rig.design import Plate, design
from yoshi_core.rig.solve import solve
from yoshi_core.rig.unit import Faults, Metering, State, Unit, fault
from yoshi_core.units.quantities import FAHRENHEIT_K

REFRIGERANTS = ("R-410A", "R-22", "R-407C")
DEVICES: tuple[Metering, ...] = ("orifice", "txv")
QUANTITIES = ("suction", "head", "superheat", "subcooling")
DEAD_BAND_F = {"suction": 0.5, "head": 0.5, "superheat": 2.0, "subcooling": 0.5}
UP, DOWN, SAME, UP_OR_SAME, DOWN_OR_SAME, ANY = "↑", "↓", "=", "=↑", "=↓", "any"

# fault: suction, head, superheat, subcooling; a pair where orifice and valve differ
TABLE: dict[str, tuple[str | tuple[str, str], ...]] = {
    "undercharge": ((DOWN, DOWN_OR_SAME), DOWN, (UP, UP_OR_SAME), DOWN),
    "overcharge": ((UP, UP_OR_SAME), UP, (DOWN, SAME), UP),
    "liquid_restriction": (DOWN, DOWN_OR_SAME, UP, UP_OR_SAME),
    "valve_starving": (DOWN, DOWN_OR_SAME, UP, UP),
    "valve_flooding": (UP, ANY, DOWN, DOWN),
    "orifice_large": (UP, ANY, DOWN, DOWN),
    "orifice_small": (DOWN, ANY, UP, UP),
    "reversing_leak": (UP, DOWN, UP, DOWN_OR_SAME),
    "condenser_fan_off": (UP, UP, (DOWN, SAME), ANY),
    "high_load": (UP, UP, UP, ANY),
    "low_airflow": (DOWN, DOWN, (DOWN, SAME), UP_OR_SAME),
    "iced_coil": (DOWN, DOWN, (DOWN, SAME), UP_OR_SAME),
    "dirty_condenser": (UP, UP, DOWN_OR_SAME, ANY),
    "recirculation": (UP, UP, DOWN_OR_SAME, ANY),
    "non_condensables": (UP_OR_SAME, UP, ANY, UP),
    "compressor_leak": (UP, DOWN, ANY, DOWN_OR_SAME),
}
ONLY = {"valve_starving": "txv", "valve_flooding": "txv", "orifice_large": "orifice", "orifice_small": "orifice"}


@lru_cache(maxsize=16)
def unit(refrigerant: str, device: Metering) -> Unit:
    return design(Plate(refrigerant=refrigerant, metering=device))


def seen(refrigerant: str, state: State) -> dict[str, float]:
    return {
        "suction": saturation.dew_temperature_k(refrigerant, state.suction_pa) / FAHRENHEIT_K,
        "head": saturation.bubble_temperature_k(refrigerant, state.liquid_pa) / FAHRENHEIT_K,
        "superheat": state.superheat_k / FAHRENHEIT_K,
        "subcooling": state.subcooling_k / FAHRENHEIT_K,
    }


def moved(refrigerant: str, device: Metering, faults: Faults) -> dict[str, str]:
    made = unit(refrigerant, device)
    well, ill = (seen(refrigerant, solve(made, Plate().weather, f)) for f in (Faults(), faults))
    found = {}
    for quantity in QUANTITIES:
        change = ill[quantity] - well[quantity]
        found[quantity] = UP if change > DEAD_BAND_F[quantity] else DOWN if change < -DEAD_BAND_F[quantity] else SAME
    return found


def cells() -> list[tuple[str, str, Metering, str, str, str]]:
    """Every cell that has a sign: fault, refrigerant, device, quantity, sign wanted, sign found."""
    found = []
    for name, row in TABLE.items():
        for device in DEVICES:
            if ONLY.get(name, device) != device:
                continue
            for refrigerant in REFRIGERANTS:
                signs = moved(refrigerant, device, fault(name))
                for quantity, wanted in zip(QUANTITIES, row, strict=True):
                    sign = wanted if isinstance(wanted, str) else wanted[DEVICES.index(device)]
                    if sign != ANY:
                        found.append((name, refrigerant, device, quantity, sign, signs[quantity]))
    return found


# Cells where the rig disagrees, and why it may: each is a known limit of the model, told in docs/rig.md.
EXPLAINED: dict[tuple[str, str, str], str] = {
    (
        "low_airflow",
        "orifice",
        "subcooling",
    ): "the flooded evaporator takes charge from the condenser; practice sees a little more subcooling",
    ("iced_coil", "orifice", "subcooling"): "the same, further",
    ("reversing_leak", "orifice", "superheat"): "the bore floods the coil faster than the leaking gas warms the suction line",
}


def test_at_least_95_percent_of_the_signs_are_right_and_the_rest_is_explained() -> None:
    found = cells()
    wrong = [cell for cell in found if cell[5] not in cell[4]]
    share = 1 - len(wrong) / len(found)
    print(f"{len(found) - len(wrong)} of {len(found)} signs, {share:.1%}")
    for cell in wrong:
        print(cell)
    assert share >= 0.95
    assert {(cell[0], cell[2], cell[3]) for cell in wrong} <= set(EXPLAINED)
