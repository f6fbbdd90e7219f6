"""The bench: a unit of the rig with what stands in front of it, second by second.

A bench is what its exercise and its acts make of it, and nothing else: the same acts at the same seconds give the same bench, so that
a run is kept as its acts and can be played again. Time is practice time, in seconds from the start.
"""

from collections.abc import Callable, Mapping
from dataclasses import replace
from typing import Any

from yoshi_core.errors import InvalidInput
from yoshi_core.practice.bench_time import OPENINGS, VALVES, Act, BenchTime
from yoshi_core.practice.empty import EmptyCircuit
from yoshi_core.practice.looking import look
from yoshi_core.practice.pump_down import PumpDown
from yoshi_core.practice.questions import answered
from yoshi_core.units.text import parse

SWITCHES: Mapping[str, tuple[str, ...]] = {
    "disconnect": ("on", "off"),
    "unit": ("on", "off"),
    "outdoor_fan": ("on", "off"),
    "indoor_fan": ("high", "low", "off"),
    "mode": ("cooling", "heating"),
}
CLEANED = {"filter": "low_airflow", "outdoor_coil": "dirty_condenser", "indoor_coil": "iced_coil"}
PURGED_KG = 0.003
MOST_ACTS = 5_000


class Bench(BenchTime):
    """What a person stands in front of. `shown` is what they can read, `where` and `now` what only a look inside tells."""

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
            "isolate": self._isolate,
            "answer": self._answer,
        }
        if do not in acts:
            raise InvalidInput("{do} is nothing that can be done here. There are: {known}.", words={"do": do, "known": tuple(acts)})
        acts[do](what, to)
        self.acts.append(Act(round(self.time_s, 3), do, what, to))

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
        if on and not self.live.running and self.pumped is not None:
            raise InvalidInput("The liquid valve is shut. Open it before it is started again.", path="/what")
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

    def _isolate(self, what: str, to: str) -> None:
        """The unit's own service valves: liquid shut while it runs pumps it down; suction shut keeps it there."""
        if what == "liquid" and to == "shut" and self.pumped is None:
            heading = self.live.heading
            if heading is None or not heading.running:
                raise InvalidInput("It has to run to be pumped down.", path="/what")
            self.pumped = PumpDown(
                self.unit, self.weather, heading.inventory, self.live.charge_kg, self.live.suction_pa, self.live.liquid_pa
            )
        elif what == "liquid" and to == "open":
            self.pumped = None
        elif self.pumped is not None:
            self.pumped.turn(what, to)
        else:
            raise InvalidInput("Shut the liquid valve first; then there is something to shut in.", path="/what")
