"""The bench as it goes by itself, second by second: what flows through hoses and valves, what the unit does, what displays say."""

from collections.abc import Mapping
from dataclasses import replace
from math import exp
from typing import Literal, get_args

from yoshi_core.errors import InvalidInput
from yoshi_core.frozen import dataclass
from yoshi_core.practice.empty import EmptyCircuit
from yoshi_core.practice.exercise import LONGEST_S, Exercise
from yoshi_core.practice.pump_down import PumpDown
from yoshi_core.practice.questions import Answer
from yoshi_core.practice.shown import Shown, displays
from yoshi_core.rig.cylinder import Cylinder
from yoshi_core.rig.design import design
from yoshi_core.rig.live import LiveUnit, Port
from yoshi_core.rig.unit import Faults, Unit, Weather

Valve = Literal["suction_port", "liquid_port", "low_side", "high_side", "cylinder"]
VALVES: tuple[str, ...] = get_args(Valve)
OPENINGS = {"shut": 0.0, "cracked": 0.15, "open": 1.0}
FAN = {"high": 0.0, "low": 0.3, "off": 0.85}  # share of the air that is missing
FAN_STILL = 0.95
HOSE_M3 = 3.3e-5  # six feet of quarter-inch hose, common practice, no source
HOSE_LIQUID_KG_S = 0.004
PUMP_S = 300.0
SLUG_KG_S = 0.02
MOVED_KG_S = 2e-6
AIR_SHARE, AIR_FELT = 0.6, 0.01  # an atmosphere left in the circuit is squeezed into the condenser's free room; common practice, no source


@dataclass(frozen=True)
class Act:
    """One thing done at the unit: when in practice seconds, what kind of thing, to what, and what it is then."""

    at_s: float
    do: str
    what: str = ""
    to: str = ""


@dataclass(frozen=True)
class Where:
    """Where all the refrigerant is, kg: inside, in the hose, in each cylinder, and lost to the air or to the pump."""

    inside_kg: float
    hose_kg: float
    lost_kg: float
    cylinders_kg: Mapping[str, float]


class BenchTime:
    """A bench that nobody touches. `shown` is what can be read, `where` and `now` what only a look inside tells."""

    def __init__(self, exercise: Exercise) -> None:
        self.exercise = exercise
        self.unit: Unit = design(exercise.unit)
        self.weather: Weather = exercise.weather
        self.hidden: Faults = exercise.faults
        inside = 0.0 if exercise.start in {"empty", "open"} else None
        self.live = LiveUnit(self.unit, self.weather, exercise.faults, charge_kg=inside)
        self.pumped: PumpDown | None = None
        self.empty = self._emptied(evacuated=exercise.start == "empty") if inside is not None else None
        self.switches = {"disconnect": "on", "unit": "off", "outdoor_fan": "on", "indoor_fan": "high", "mode": self.weather.mode}
        self.answers: dict[str, Answer] = {}
        self.looked: dict[str, str] = {}  # check by check, what was seen last
        self.cylinders = exercise.cylinders()
        self.valves = dict.fromkeys(VALVES, "shut")
        self.hooked = ""  # the cylinder on the hose and on the scale
        self.upside_down = False
        self.recovering = False
        self.hose_kg = self.lost_kg = 0.0
        self.drawn_kg = 0.0  # from the cylinders, in all
        self.slugged_s = 0.0
        self.moved: list[tuple[float, float]] = []  # from when to when the charge inside changed
        self.acts: list[Act] = []
        self._line: Cylinder | None = None  # what the unit draws from or fills: it steps with the unit
        self._displays = displays(exercise)
        if exercise.start == "running":
            self.switches["unit"] = "on"
            self.live.start()
            for _ in range(1200):  # it has run for twenty minutes when somebody comes
                self.live.step(1.0)
            self.live.time_s = 0.0
            self.live.started_s -= 1200.0
        self.now = replace(self.live.step(1e-3), time_s=0.0)
        self.live.time_s = 0.0
        self.shown = self._read()

    @property
    def time_s(self) -> float:
        """Practice seconds since the start."""
        return self.live.time_s

    @property
    def where(self) -> Where:
        """Where all the refrigerant is."""
        return Where(self.live.charge_kg, self.hose_kg, self.lost_kg, {name: one.net_kg for name, one in self.cylinders.items()})

    def run(self, seconds: float) -> None:
        """Let practice time pass, a second at a time. Raises `InvalidInput` for more than an exercise can last at once."""
        if not seconds <= LONGEST_S:
            raise InvalidInput("So much time does not pass in an exercise: at most 8 h.")
        left = seconds
        while left > 1e-9:
            self._second(min(1.0, left))
            left -= 1.0

    def _felt(self) -> None:
        """What is wrong with the unit together with how its fans stand is what it runs with."""
        fan = 1.0 - (1.0 - self.hidden.low_airflow) * (1.0 - FAN[self.switches["indoor_fan"]])
        still = FAN_STILL if self.switches["outdoor_fan"] == "off" else self.hidden.condenser_fan_off
        now = replace(self.hidden, low_airflow=min(fan, 0.9), condenser_fan_off=max(still, self.hidden.condenser_fan_off))
        if now != self.live.faults:
            self.live.change(faults=now)

    def _emptied(self, *, evacuated: bool) -> EmptyCircuit:
        return EmptyCircuit(self.unit.gas_side_m3, self.exercise.tight, self.weather.outdoor_k, self.weather.site_pa, evacuated=evacuated)

    @property
    def pumping(self) -> bool:
        """Whether the vacuum pump is on the circuit."""
        return self.empty is not None and self.empty.pumping

    def _on_hose(self) -> Cylinder:
        if not self.hooked:
            raise InvalidInput("No cylinder is on the hose.", path="/what")
        return self.cylinders[self.hooked]

    def _second(self, seconds: float) -> None:
        before = {name: one.net_kg for name, one in self.cylinders.items()}
        self._connect()
        inside, before_s = self.live.charge_kg, self.live.time_s
        if self.pumped is not None:
            self._pumping_down(self.pumped, seconds)
        else:
            self.now = self.live.step(seconds)
        self._hose(seconds)
        if self.empty is not None:
            self.empty.step(seconds)
            if self.live.charge_kg > inside + 1e-9:
                self._filled(self.empty)
        if self.pumping:
            gone = self.live.charge_kg * (1.0 - exp(-3.0 * seconds / PUMP_S))
            self.live.charge_kg -= gone
            self.live.mixed_kg = self.live.charge_kg
            self.lost_kg += gone
        if abs(self.live.charge_kg - inside) > MOVED_KG_S * seconds:
            follows = self.moved and self.moved[-1][1] >= before_s - 0.5
            self.moved[-1 if follows else len(self.moved) :] = [(self.moved[-1][0] if follows else before_s, self.time_s)]
        into_suction = (self.live.charge_kg - inside) / seconds
        if self.now.running and self._side() == "suction" and self.upside_down and into_suction > SLUG_KG_S:
            self.slugged_s += seconds
        for name, cylinder in self.cylinders.items():
            if cylinder is not self._line:
                cylinder.step(seconds)
            self.drawn_kg += max(before[name] - cylinder.net_kg, 0.0)
        self.shown = self._read()

    def _pumping_down(self, pumped: PumpDown, seconds: float) -> None:
        """The liquid valve is shut: the unit is no whole any more, and goes by what is on either side."""
        live = self.live
        live.time_s += seconds
        pumped.step(seconds, running=live.running)
        if live.running and pumped.passes_cut_out:
            live.trips += 1
            live.stop("high cut-out")
        live.suction_pa, live.liquid_pa = pumped.suction_pa, pumped.liquid_pa
        self.now = replace(
            self.now,
            time_s=live.time_s,
            running=live.running,
            reason=live.reason,
            suction_pa=pumped.suction_pa,
            liquid_pa=pumped.liquid_pa,
            hose_kg_s=0.0,
            trips=live.trips,
        )

    def _filled(self, empty: EmptyCircuit) -> None:
        """Refrigerant goes in: what air or nitrogen was in the circuit stays in it, and does not condense."""
        share = min(empty.air_pa / self.weather.site_pa * AIR_SHARE, 1.0)
        if share > AIR_FELT:
            self.hidden = replace(self.hidden, non_condensables=min(self.hidden.non_condensables + share, 1.0))
        self.empty = None
        self._felt()

    def _side(self) -> str:
        """Which port the hose feeds: the low side where both are open, for it draws."""
        if OPENINGS[self.valves["low_side"]] and OPENINGS[self.valves["suction_port"]]:
            return "suction"
        if OPENINGS[self.valves["high_side"]] and OPENINGS[self.valves["liquid_port"]]:
            return "liquid"
        return ""

    @property
    def _heats(self) -> bool:
        """Whether it runs and heats: both lines are hot then, and no port draws."""
        return self.live.running and self.weather.mode == "heating"

    def _opening(self) -> float:
        side = self._side()
        if not side:
            return 0.0
        manifold, port = ("low_side", "suction_port") if side == "suction" else ("high_side", "liquid_port")
        return min(OPENINGS[self.valves[manifold]], OPENINGS[self.valves[port]])

    def _connect(self) -> None:
        """What the valves make of the hose for the next second."""
        through = 0.0 if self.pumped is not None else min(self._opening(), OPENINGS[self.valves["cylinder"]])
        self._line = self.cylinders.get(self.hooked) if through > 0.0 else None
        if self._line is None:
            self.live.close()
        elif self.recovering:
            self.live.recover_into(self._line, through)
        else:
            low = self._side() == "suction" and not self._heats
            port: Port = "suction" if low else "liquid"
            self.live.charge_from(self._line, port, "liquid" if self.upside_down else "vapor", through)

    def _hose(self, seconds: float) -> None:
        """The hose fills as soon as the cylinder is open, and empties into the side that is open and lower."""
        if self.recovering or not self.hooked:
            return
        cylinder = self._on_hose()
        known, warm = cylinder.known, cylinder.temperature_k
        if OPENINGS[self.valves["cylinder"]] and cylinder.net_kg > 0.0:
            liquid = self.upside_down and cylinder.has_liquid
            dense = known.liquid_kg_m3(warm) if liquid else known.saturated(max(cylinder.pressure_pa, known.lowest_pa)).vapor_kg_m3
            wanted = min(max(HOSE_M3 * dense - self.hose_kg, 0.0), cylinder.net_kg)
            cylinder.net_kg -= wanted
            self.hose_kg += wanted
            return
        opening = 0.0 if self.pumped is not None else self._opening()
        port_pa = self.live.suction_pa if self._side() == "suction" and not self._heats else self.live.liquid_pa
        if opening <= 0.0 or port_pa >= known.dew_pressure_pa(self.weather.outdoor_k):
            return
        left = HOSE_M3 * known.saturated(max(port_pa, known.lowest_pa)).vapor_kg_m3
        moved = min(HOSE_LIQUID_KG_S * opening * seconds, max(self.hose_kg - left, 0.0))
        self.hose_kg -= moved
        self.live.charge_kg += moved

    def _read(self) -> Shown:
        now = self.now
        site_pa = self.weather.site_pa
        open_ports = {port: OPENINGS[self.valves[f"{port}_port"]] > 0.0 for port in ("suction", "liquid")}
        empty = self.empty
        suction, liquid = (now.suction_pa, now.liquid_pa) if empty is None else (empty.pressure_pa, empty.pressure_pa)
        heats = self._heats
        if heats:
            suction = liquid  # the vapour line carries hot gas then, and its port shows it
        true: dict[str, float | None] = {
            "suction_pa": suction - site_pa if open_ports["suction"] else None,
            "liquid_pa": liquid - site_pa if open_ports["liquid"] else None,
            "suction_line_k": now.discharge_k if heats else now.suction_k,
            "liquid_line_k": now.liquid_k,
            "scale_kg": self.cylinders[self.hooked].gross_kg if self.hooked else None,
            "return_k": now.return_k,
            "supply_k": now.supply_k,
            "outdoor_k": self.weather.outdoor_k,
            "wet_bulb_k": self.weather.indoor_wet_bulb_k,
            "vacuum_pa": None if empty is None else empty.vacuum_pa,
            "metal_k": None if empty is None else empty.metal_k,
        }
        said = {name: None if value is None else self._displays[name].read(value, now.time_s) for name, value in true.items()}
        return Shown(now.time_s, **said)
