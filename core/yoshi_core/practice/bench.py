"""The bench: a unit of the rig with what stands in front of it, second by second.

A bench is what its exercise and its acts make of it, and nothing else: the same acts at the same seconds give the same bench, so that
a run is kept as its acts and can be played again. Time is practice time, in seconds from the start.
"""

from collections.abc import Callable, Mapping
from dataclasses import replace
from math import exp
from typing import Any, Literal, get_args

from yoshi_core.errors import InvalidInput
from yoshi_core.frozen import dataclass
from yoshi_core.practice.empty import EmptyCircuit
from yoshi_core.practice.exercise import LONGEST_S, Exercise
from yoshi_core.practice.looking import look
from yoshi_core.practice.questions import Answer, answered
from yoshi_core.practice.shown import Shown, displays
from yoshi_core.rig.cylinder import Cylinder
from yoshi_core.rig.design import design
from yoshi_core.rig.live import LiveUnit, Port
from yoshi_core.rig.unit import Faults, Unit, Weather
from yoshi_core.units.text import parse

Valve = Literal["suction_port", "liquid_port", "low_side", "high_side", "cylinder"]
VALVES: tuple[str, ...] = get_args(Valve)
OPENINGS = {"shut": 0.0, "cracked": 0.15, "open": 1.0}
SWITCHES: Mapping[str, tuple[str, ...]] = {
    "disconnect": ("on", "off"),
    "unit": ("on", "off"),
    "outdoor_fan": ("on", "off"),
    "indoor_fan": ("high", "low", "off"),
    "mode": ("cooling", "heating"),
}
FAN = {"high": 0.0, "low": 0.3, "off": 0.85}  # share of the air that is missing
FAN_STILL = 0.95
CLEANED = {"filter": "low_airflow", "outdoor_coil": "dirty_condenser", "indoor_coil": "iced_coil"}
HOSE_M3 = 3.3e-5  # six feet of quarter-inch hose, common practice, no source
HOSE_LIQUID_KG_S = 0.004
PURGED_KG = 0.003
PUMP_S = 300.0
SLUG_KG_S = 0.02
MOVED_KG_S = 2e-6
AIR_SHARE, AIR_FELT = 0.6, 0.01  # an atmosphere left in the circuit is squeezed into the condenser's free room; common practice, no source
MOST_ACTS = 5_000


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


class Bench:
    """What a person stands in front of. `shown` is what they can read, `where` and `now` what only a look inside tells."""

    def __init__(self, exercise: Exercise) -> None:
        self.exercise = exercise
        self.unit: Unit = design(exercise.unit)
        self.weather: Weather = exercise.weather
        self.hidden: Faults = exercise.faults
        inside = 0.0 if exercise.start in {"empty", "open"} else None
        self.live = LiveUnit(self.unit, self.weather, exercise.faults, charge_kg=inside)
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

    def do(self, do: str, what: str = "", to: str = "") -> None:
        """Do something now. Raises `InvalidInput` for what cannot be done, and nothing has changed then."""
        if len(self.acts) >= MOST_ACTS:
            raise InvalidInput("So many acts are no exercise any more. End it, and begin again.")
        acts: dict[str, Callable[[str, str], None]] = {
            "valve": self._valve,
            "hook": self._hook,
            "turn": self._turn,
            "warm": self._warm,
            "switch": self._switch,
            "clean": self._clean,
            "look": self._look,
            "purge": self._purge,
            "recover": self._recover,
            "pump": self._pump,
            "nitrogen": self._nitrogen,
            "answer": self._answer,
        }
        if do not in acts:
            raise InvalidInput("{do} is nothing that can be done here. There are: {known}.", words={"do": do, "known": tuple(acts)})
        acts[do](what, to)
        self.acts.append(Act(round(self.time_s, 3), do, what, to))

    def run(self, seconds: float) -> None:
        """Let practice time pass, a second at a time. Raises `InvalidInput` for more than an exercise can last at once."""
        if not seconds <= LONGEST_S:
            raise InvalidInput("So much time does not pass in an exercise: at most 8 h.")
        left = seconds
        while left > 1e-9:
            self._second(min(1.0, left))
            left -= 1.0

    def _valve(self, what: str, to: str) -> None:
        if what not in VALVES or to not in OPENINGS:
            raise InvalidInput(
                "A valve is one of {valves}, and {openings}.", words={"valves": VALVES, "openings": tuple(OPENINGS)}, path="/what"
            )
        if what == "cylinder" and not self.hooked:
            raise InvalidInput("No cylinder is on the hose.", path="/what")
        self.valves[what] = to

    def _hook(self, _what: str, to: str) -> None:
        """Another cylinder on the hose, or none: what is in the hose goes to the air."""
        if to and to not in self.cylinders:
            raise InvalidInput("There is no cylinder {name} in the van.", words={"name": to}, path="/to")
        self.lost_kg += self.hose_kg
        self.hose_kg = 0.0
        self.hooked, self.upside_down, self.recovering = to, False, False
        self.valves["cylinder"] = "shut"

    def _turn(self, _what: str, to: str) -> None:
        if to not in {"upright", "upside_down"}:
            raise InvalidInput("A cylinder stands upright or upside down.", path="/to")
        self.upside_down = to == "upside_down"

    def _warm(self, _what: str, to: str) -> None:
        if to not in {"water", "air"}:
            raise InvalidInput("A cylinder stands in warm water or in the air.", path="/to")
        self._on_hose().in_water = to == "water"

    def _switch(self, what: str, to: str) -> None:
        if what not in SWITCHES or to not in SWITCHES[what]:
            raise InvalidInput(
                "There is {what} to be switched, and it is {known:or}.",
                words={"what": what if what in SWITCHES else tuple(SWITCHES), "known": SWITCHES.get(what, ("on", "off"))},
                path="/what",
            )
        if what == "mode" and to == "heating" and not self.exercise.unit.heat_pump:
            raise InvalidInput("This unit only cools.", path="/what")
        if what == "mode" and self.live.running:
            raise InvalidInput("Switch the unit off before its mode is changed.", path="/what")
        calls = {**self.switches, what: to}
        on = calls["disconnect"] == calls["unit"] == "on"
        if on and (self.recovering or self.pumping):
            raise InvalidInput("The recovery machine or the pump is on it. Shut that off first.", path="/what")
        if on and self.empty is not None:
            raise InvalidInput("There is no refrigerant in it. A compressor that runs on air or in a vacuum is lost.", path="/what")
        self.switches = calls
        if what == "mode":
            self.weather = replace(self.weather, mode="heating" if to == "heating" else "cooling")
            self.live.change(weather=self.weather)
        if on and what in {"disconnect", "unit"}:
            self.live.start()
        elif not on:
            self.live.stop()
        self._felt()

    def _felt(self) -> None:
        """What is wrong with the unit together with how its fans stand is what it runs with."""
        fan = 1.0 - (1.0 - self.hidden.low_airflow) * (1.0 - FAN[self.switches["indoor_fan"]])
        still = FAN_STILL if self.switches["outdoor_fan"] == "off" else self.hidden.condenser_fan_off
        now = replace(self.hidden, low_airflow=min(fan, 0.9), condenser_fan_off=max(still, self.hidden.condenser_fan_off))
        if now != self.live.faults:
            self.live.change(faults=now)

    def _clean(self, what: str, _to: str) -> None:
        if what not in CLEANED:
            raise InvalidInput(
                "{what} is nothing that is cleaned here: {known}.", words={"what": what, "known": tuple(CLEANED)}, path="/what"
            )
        clean: dict[str, Any] = {CLEANED[what]: 0.0}
        self.hidden = replace(self.hidden, **clean)
        self.looked = {}  # what was seen before the cleaning is not so any more
        self._felt()

    def _look(self, what: str, _to: str) -> None:
        self.looked[what] = look(what, self.hidden)

    def _answer(self, what: str, to: str) -> None:
        asked = next((one for one in self.exercise.asks if one.id == what), None)
        if asked is None:
            raise InvalidInput("Nobody asks {what} here.", words={"what": what}, path="/what")
        self.answers[what] = answered(self, asked, to)

    def _purge(self, _what: str, _to: str) -> None:
        """A breath through the hose, so that no air goes in."""
        cylinder = self._on_hose()
        lost = min(PURGED_KG, cylinder.net_kg)
        cylinder.net_kg -= lost
        self.lost_kg += lost
        self.drawn_kg += lost

    def _recover(self, _what: str, to: str) -> None:
        if to not in {"on", "off"}:
            raise InvalidInput("The recovery machine is on or off.", path="/to")
        if to == "on":
            self._on_hose()
            if self.live.running:
                raise InvalidInput("Switch the unit off before recovering.", path="/to")
        self.recovering = to == "on"

    def _pump(self, _what: str, to: str) -> None:
        if to not in {"on", "off"}:
            raise InvalidInput("The pump is on or off.", path="/to")
        if to == "on" or self.empty is not None:
            self._emptied_or_refuse().pump(on=to == "on")

    def _nitrogen(self, _what: str, to: str) -> None:
        """Filled to a gauge pressure, or let down: "off"."""
        empty = self._emptied_or_refuse()
        if to == "off":
            empty.let_down()
        else:
            empty.fill(parse("gauge_pressure", to).value)

    def _emptied_or_refuse(self) -> EmptyCircuit:
        """The circuit with nothing in it. Raises `InvalidInput` while there is refrigerant in it."""
        if self.empty is None:
            if self.live.running or self.live.charge_kg > 0.02 * self.unit.charge_kg:
                raise InvalidInput("There is refrigerant inside, or the unit runs. Recover first.", path="/to")
            self.empty = self._emptied(evacuated=True)
            self.empty.vacuum.refrigerant_pa = self.empty.vacuum.gauge_pa = max(self.live.suction_pa, 1.0)
        return self.empty

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

    def _opening(self) -> float:
        side = self._side()
        if not side:
            return 0.0
        manifold, port = ("low_side", "suction_port") if side == "suction" else ("high_side", "liquid_port")
        return min(OPENINGS[self.valves[manifold]], OPENINGS[self.valves[port]])

    def _connect(self) -> None:
        """What the valves make of the hose for the next second."""
        through = min(self._opening(), OPENINGS[self.valves["cylinder"]])
        self._line = self.cylinders.get(self.hooked) if through > 0.0 else None
        if self._line is None:
            self.live.close()
        elif self.recovering:
            self.live.recover_into(self._line, through)
        else:
            port: Port = "suction" if self._side() == "suction" else "liquid"
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
        opening = self._opening()
        port_pa = self.live.suction_pa if self._side() == "suction" else self.live.liquid_pa
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
        true: dict[str, float | None] = {
            "suction_pa": suction - site_pa if open_ports["suction"] else None,
            "liquid_pa": liquid - site_pa if open_ports["liquid"] else None,
            "suction_line_k": now.suction_k,
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
