"""A first look at the rig: a 3-ton unit, a quarter of its charge gone, read, and put right in three additions.

.yoshi/venv/bin/python examples/charge_a_unit.py
"""

from yoshi_core.rig.cylinder import Cylinder
from yoshi_core.rig.design import Plate, design, fahrenheit
from yoshi_core.rig.instruments import Kit, as_readings
from yoshi_core.rig.live import LiveUnit
from yoshi_core.rig.unit import Faults
from yoshi_core.running.readings import Site, cooling_state
from yoshi_core.running.targets import formula_superheat_k
from yoshi_core.units.display import Amount, show, show_amount
from yoshi_core.units.quantities import LB_KG

ADDITIONS = 3


def read_gauges(live: LiveUnit, kit: Kit, said: str) -> None:
    """Run until it has settled, then read as a technician does."""
    for _ in range(900):
        now = live.step(1.0)
        shown = kit.read(now)
    state = cooling_state("R-410A", as_readings(shown), Site())
    assert state.low is not None
    assert state.high is not None
    superheat = Amount(state.low.difference_k, "temperature_delta", state.low.uncertainty_k)
    subcooling = Amount(state.high.difference_k, "temperature_delta", state.high.uncertainty_k)
    print(
        f"{said:24} inside {show(now.charge_kg, 'mass'):>12}   "
        f"suction {show(shown['suction'] or 0.0, 'gauge_pressure'):>10}   liquid {show(shown['liquid'] or 0.0, 'gauge_pressure'):>10}   "
        f"superheat {show_amount(superheat):>18}   subcooling {show_amount(subcooling):>18}"
    )


def main() -> None:
    plate = Plate(refrigerant="R-410A", charge_kg=6.0 * LB_KG, metering="orifice")
    unit = design(plate)
    weather = plate.weather
    target = formula_superheat_k(weather.indoor_wet_bulb_k, weather.outdoor_k)
    print(f"3 tons of R-410A, {show(unit.charge_kg, 'mass')}, fixed orifice; {show(weather.outdoor_k, 'temperature')} outdoors.")
    print(f"Target superheat {show(target, 'temperature_delta')}.\n")

    kit = Kit(seed=4)
    cylinder = Cylinder("R-410A", 20 * LB_KG, 9 * LB_KG, 26 * LB_KG, fahrenheit(75), fahrenheit(75))
    live = LiveUnit(unit, weather, Faults(charge_share=0.75))
    live.start()
    read_gauges(live, kit, "a quarter is missing")

    missing = 0.25 * unit.charge_kg
    for number in range(1, ADDITIONS + 1):
        goal = live.charge_kg + missing / ADDITIONS
        live.charge_from(cylinder, "suction", "vapor", opening=0.1)
        while live.charge_kg < goal:
            live.step(0.5)
        live.close()
        read_gauges(live, kit, f"addition {number} of {ADDITIONS}")

    print("\nA model, checked against the trade and against itself, not against a measured unit.")


if __name__ == "__main__":
    main()
