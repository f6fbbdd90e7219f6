"""The unit in time: what is read lags what is so, charge mixes, cut-outs act, hoses charge and recover.

Quasi-steady: where the unit is heading is the settled state for the charge that has mixed in;
readings follow it by first-order lags. A unit that cannot run heads for its cut-out and stops there.
"""

from dataclasses import replace
from math import exp
from typing import Literal

from yoshi_core.errors import InvalidInput
from yoshi_core.frozen import dataclass
from yoshi_core.rig.cylinder import Cylinder
from yoshi_core.rig.fluid import fluid
from yoshi_core.rig.solve import solve
from yoshi_core.rig.standing import standing
from yoshi_core.rig.unit import Faults, State, Unit, Weather

Port = Literal["suction", "liquid"]
Phase = Literal["liquid", "vapor"]
SUCTION_S, LIQUID_S, LINE_S, DISCHARGE_S, MIXING_S, AIR_S = 12.0, 18.0, 35.0, 150.0, 75.0, 20.0
EQUALIZE_S, FILL_S, COOL_S = 60.0, 3.0, 400.0
TRIP_MARGIN = 1.06
RESTART_S = 180.0
SETTLED_S = 600.0
SOLVE_EVERY_S = 4.0
SOLVE_AT_CHANGE = 5e-4
LEAST_SHARE = 0.15
METAL_J_K = 25_000.0
STILL_UA_W_K = 25.0
RECOVERY_LIQUID_KG_S = 0.035
RECOVERY_M3_S = 1.5e-4
RECOVERY_STOPS_PA = 34_000.0


@dataclass(frozen=True)
class Snapshot:
    """What stands on every instrument at a moment, before the instruments' own faults. Absolute Pa, K, kg, W, s.

    `hose_kg_s` is positive into the unit. `stalled` says that a hose is open and nothing moves.
    """

    time_s: float
    running: bool
    reason: str
    suction_pa: float
    liquid_pa: float
    suction_k: float
    liquid_k: float
    discharge_k: float
    return_k: float
    supply_k: float
    power_w: float
    charge_kg: float
    hose_kg_s: float
    cylinder_kg: float | None
    cylinder_k: float | None
    cylinder_pa: float | None
    stalled: bool
    settled: bool
    trips: int


@dataclass
class _Hose:
    cylinder: Cylinder
    port: Port
    phase: Phase
    opening: float
    into_cylinder: bool = False


class LiveUnit:
    """A unit that is switched on and off, charged and recovered from, second by second."""

    def __init__(self, unit: Unit, weather: Weather, faults: Faults | None = None, *, charge_kg: float | None = None) -> None:
        self.unit, self.weather = unit, weather
        self.faults = faults or Faults()
        self.charge_kg = self.faults.charge_share * unit.charge_kg if charge_kg is None else charge_kg
        self.mixed_kg = self.charge_kg
        self.time_s = 0.0
        self.running = self.wanted = False
        self.reason = "switched off"
        self.started_s = self.stopped_s = -1e9
        self.trips = 0
        self.metal_k: float | None = None
        self._hose: _Hose | None = None
        self._stood: tuple[tuple[float, float, Weather, Faults], State] | None = None
        self._target: State | None = None
        self._asked: tuple[float, float] | None = None
        at = self._standing()
        self.suction_pa = self.liquid_pa = at.suction_pa
        self.suction_k, self.liquid_k = weather.indoor_k, weather.outdoor_k
        self.discharge_k, self.supply_k, self.power_w = weather.outdoor_k, weather.indoor_k, 0.0

    @property
    def heading(self) -> State | None:
        """The settled state a running unit goes towards; None where it does not run."""
        return self._target if self.running else None

    @property
    def faults_now(self) -> Faults:
        """What is wrong, with the charge share that is truly inside, or mixed in while it runs."""
        return self._faults_with(self.mixed_kg if self.running else self.charge_kg)

    def start(self) -> None:
        """Switch on; it starts now, or when its cut-outs let it."""
        self.wanted = True
        if not self.running:
            self._start()

    def _start(self) -> None:
        self.running, self.reason = True, ""
        self.started_s = self.time_s
        self.mixed_kg = self.charge_kg
        self.metal_k = None
        self._asked = None

    def stop(self, reason: str = "switched off") -> None:
        """Switch off."""
        self.wanted = False
        self._stop(reason)

    def _stop(self, reason: str) -> None:
        self.running, self.reason = False, reason
        self.stopped_s = self.time_s
        self.power_w = 0.0

    def change(self, weather: Weather | None = None, faults: Faults | None = None) -> None:
        """Other weather or other faults from now on; what is inside stays."""
        self.weather, self.faults = weather or self.weather, faults or self.faults
        self._asked = None

    def charge_from(self, cylinder: Cylinder, port: Port, phase: Phase, opening: float = 1.0) -> None:
        """Open a hose from a cylinder. Raises `InvalidInput` for another refrigerant: nothing is ever topped up with it."""
        if fluid(cylinder.refrigerant).name != fluid(self.unit.refrigerant).name:
            raise InvalidInput(
                "The cylinder holds {refrigerant}, the unit {other}.",
                words={"refrigerant": cylinder.refrigerant, "other": self.unit.refrigerant},
            )
        self._hose = _Hose(cylinder, port, phase, opening)

    def recover_into(self, cylinder: Cylinder, opening: float = 1.0) -> None:
        """Connect a recovery machine to both ports. Raises `InvalidInput` while the unit runs."""
        if self.running:
            raise InvalidInput("Switch the unit off before recovering.")
        self._hose = _Hose(cylinder, "liquid", "liquid", opening, into_cylinder=True)

    def close(self) -> None:
        """Shut the hose."""
        self._hose = None

    def step(self, seconds: float = 1.0) -> Snapshot:
        """Let time pass, in steps of a second or so; `InvalidInput` for none or more than a minute."""
        if not 0.0 < seconds <= 60.0:
            raise InvalidInput("A step is above zero and at most a minute.")
        self.time_s += seconds
        hose_kg_s = self._pass_hose(seconds)
        self.mixed_kg += (self.charge_kg - self.mixed_kg) * (1.0 - exp(-seconds / MIXING_S))
        if self.running:
            self._run(seconds)
        else:
            self._rest(seconds)
            if self.wanted and self.reason != "switched off" and self.time_s - self.stopped_s >= RESTART_S:
                self._start()
        return self._snapshot(hose_kg_s)

    def _pass_hose(self, seconds: float) -> float:
        hose = self._hose
        if hose is None:
            return 0.0
        cylinder = hose.cylinder
        if hose.into_cylinder:
            flow = self._recovery_kg_s(hose)
            moved = min(flow * seconds, self.charge_kg)
            self.charge_kg -= moved
            cylinder.step(seconds, in_kg_s=moved / seconds, in_k=self.weather.outdoor_k + 8.0)
            self._chill(seconds, moved / seconds)
            return -moved / seconds
        port_pa = self.suction_pa if hose.port == "suction" else self.liquid_pa
        flow = cylinder.flow_kg_s(port_pa, hose.phase, hose.opening)
        moved = min(flow * seconds, cylinder.net_kg)
        cylinder.step(seconds, out_kg_s=moved / seconds, phase=hose.phase)
        self.charge_kg += moved
        return moved / seconds

    def _recovery_kg_s(self, hose: _Hose) -> float:
        """Liquid while there is some, then vapour by the machine's displacement, down to where it stops."""
        at = self._standing()
        if at.suction_pa <= RECOVERY_STOPS_PA or self.charge_kg <= 0.0:
            return 0.0
        if at.reason == "standing with liquid" and self.charge_kg > 0.5 * self.unit.charge_kg:
            return hose.opening * RECOVERY_LIQUID_KG_S
        known = fluid(self.unit.refrigerant)
        dense = known.saturated(max(at.suction_pa, known.lowest_pa)).vapor_kg_m3
        return hose.opening * RECOVERY_M3_S * dense * min(1.0, at.suction_pa / known.lowest_pa)

    def _chill(self, seconds: float, out_kg_s: float) -> None:
        """What boils out cools the metal it leaves; the indoor fan, where it runs, brings heat back."""
        ambient = min(self.weather.outdoor_k, self.weather.indoor_k)
        if self.metal_k is None:
            self.metal_k = ambient
        latent = 190_000.0 if self.charge_kg < 0.5 * self.unit.charge_kg else 20_000.0
        heat = STILL_UA_W_K * (ambient - self.metal_k) - out_kg_s * latent
        self.metal_k = max(self.metal_k + heat / METAL_J_K * seconds, 215.0)

    def _standing(self) -> State:
        """The equalized state, asked again when what it depends on moved by more than a reading shows."""
        now = (self.charge_kg, self.metal_k or 0.0, self.weather, self.faults)
        before = self._stood
        if before is not None:
            (charge_kg, metal_k, weather, faults), state = before
            near = abs(charge_kg - now[0]) < 2e-4 * self.unit.charge_kg and abs(metal_k - now[1]) < 0.02
            if near and weather == now[2] and faults == now[3]:
                return state
        state = self._stand()
        self._stood = (now, state)
        return state

    def _stand(self) -> State:
        weather = self.weather
        if self.metal_k is not None:
            weather = replace(weather, outdoor_k=min(self.metal_k, weather.outdoor_k))
        return standing(self.unit, weather, self._faults_with(self.charge_kg))

    def _faults_with(self, charge_kg: float) -> Faults:
        return replace(self.faults, charge_share=min(max(charge_kg, 0.0) / self.unit.charge_kg, 2.0))

    def _heading(self) -> State:
        """The settled state for what has mixed in; asked again when that changed, with the last one as a start."""
        asked = self._asked
        due = asked is None or (
            self.time_s - asked[0] >= SOLVE_EVERY_S and abs(self.mixed_kg - asked[1]) > SOLVE_AT_CHANGE * self.unit.charge_kg
        )
        if due or self._target is None:
            before = self._target.unknowns if self._target is not None and asked is not None else None
            self._target = solve(self.unit, self.weather, self._faults_with(self.mixed_kg), before)
            self._asked = (self.time_s, self.mixed_kg)
        return self._target

    def _run(self, seconds: float) -> None:
        if self.mixed_kg < LEAST_SHARE * self.unit.charge_kg:
            self._trip("low cut-out: too little is inside")
            return
        aim = self._heading()
        if aim.running:
            targets: tuple[float, ...] = (aim.suction_pa, aim.liquid_pa, aim.suction_k, aim.liquid_k, aim.discharge_k, aim.supply_k)
            self.power_w = aim.power_w
        else:
            targets = self._beyond(aim)
        self._follow(seconds, targets)
        if self.liquid_pa >= self.unit.high_cut_out_pa:
            self._trip("high cut-out")
        elif self.suction_pa <= self.unit.low_cut_out_pa and self.time_s - self.started_s > 30.0:
            self._trip("low cut-out")

    def _beyond(self, aim: State) -> tuple[float, ...]:
        """Where a unit that cannot run is heading: past the cut-out that will stop it."""
        high, low = self.unit.high_cut_out_pa * TRIP_MARGIN, self.unit.low_cut_out_pa / TRIP_MARGIN
        toward_low = aim.name == "tripped_low"
        suction = low if toward_low else 0.9 * self.unit.evaporating_pa
        liquid = min(0.8 * self.unit.condensing_pa, self.liquid_pa) if toward_low else high
        return suction, liquid, self.weather.indoor_k - 2.0, self.weather.outdoor_k + 4.0, self.discharge_k, self.weather.indoor_k

    def _trip(self, reason: str) -> None:
        self.trips += 1
        self._stop(reason)

    def _follow(self, seconds: float, targets: tuple[float, ...]) -> None:
        names = ("suction_pa", "liquid_pa", "suction_k", "liquid_k", "discharge_k", "supply_k")
        for name, target, lag in zip(names, targets, (SUCTION_S, LIQUID_S, LINE_S, LINE_S, DISCHARGE_S, AIR_S), strict=True):
            now = getattr(self, name)
            setattr(self, name, now + (target - now) * (1.0 - exp(-seconds / lag)))

    def _rest(self, seconds: float) -> None:
        at = self._standing()
        even = EQUALIZE_S if self._hose is None else FILL_S  # what a hose brings or takes is felt at once
        for name, target, lag in (
            ("suction_pa", at.suction_pa, even),
            ("liquid_pa", at.liquid_pa, even),
            ("suction_k", self.weather.indoor_k, COOL_S),
            ("liquid_k", self.weather.outdoor_k, COOL_S),
            ("discharge_k", self.weather.outdoor_k, COOL_S),
            ("supply_k", self.weather.indoor_k, AIR_S),
        ):
            now = getattr(self, name)
            setattr(self, name, now + (target - now) * (1.0 - exp(-seconds / lag)))
        if self._hose is None and self.metal_k is not None:
            ambient = min(self.weather.outdoor_k, self.weather.indoor_k)
            self.metal_k += (ambient - self.metal_k) * (1.0 - exp(-seconds * STILL_UA_W_K / METAL_J_K))

    def _snapshot(self, hose_kg_s: float) -> Snapshot:
        cylinder = self._hose.cylinder if self._hose else None
        settled = (
            self.running and self.time_s - self.started_s >= SETTLED_S and abs(self.charge_kg - self.mixed_kg) < 2e-3 * self.unit.charge_kg
        )
        return Snapshot(
            self.time_s,
            self.running,
            self.reason,
            self.suction_pa,
            self.liquid_pa,
            self.suction_k,
            self.liquid_k,
            self.discharge_k,
            self._target.return_k if self.running and self._target and self._target.running else self.weather.indoor_k,
            self.supply_k,
            self.power_w,
            self.charge_kg,
            hose_kg_s,
            cylinder.gross_kg if cylinder else None,
            cylinder.temperature_k if cylinder else None,
            cylinder.pressure_pa if cylinder else None,
            cylinder is not None and abs(hose_kg_s) < 1e-7,
            settled,
            self.trips,
        )
