"""A careful technician with nothing to charge: a hold under nitrogen, a vacuum that is watched, a circuit to empty, questions to answer.

As in `careful`: displays alone are known, what is read is typed through the job's own door, and the job's verdict decides.
"""

from math import inf
from typing import Any

from yoshi_core.charge.cylinders import fill_limit_kg
from yoshi_core.findings.result import StepResult
from yoshi_core.practice.entries import at, degrees, psig
from yoshi_core.practice.hands import READ_S, STALLED_KG, Hands, Played
from yoshi_core.units.quantities import MICRON_PA, PSI_PA

FILL_TO, EVERY_S = "300 psig", 300.0
DEEP_PA, PULL_LEAST_S, PULL_MOST_S = 400.0 * MICRON_PA, 1500.0, 3600.0
WATCHED_S = 60.0
SETTLED_S, EMPTIED_S = 300.0, 90.0
SHUT_AT_PA = 4.0 * PSI_PA
LONGEST_PUMP_DOWN_S = 900
DECAY = "vacuum.decay"


class Holding(Hands):
    """An open circuit: filled and held, or pulled down and watched, until the job can say what it is asked."""

    def play(self) -> Played:
        """Answer every question by the step that answers it."""
        result = None
        for asked in self.exercise.asks:
            if asked.ask == "tight":
                result = self._hold()
                self._do("answer", asked.id, {"Holds": "tight", "Stop": "leaking"}.get(result.verdict.word, "not_yet"))
            elif asked.ask == "vacuum":
                result, said = self._watch()
                self._do("answer", asked.id, said)
        return self._ended("answered", result)

    def _hold(self) -> StepResult:
        self._gauges()
        self._do("nitrogen", "", FILL_TO)
        begun = {
            "gas": "nitrogen", "from_low": True, "regulator": True, "fed": "both", "no_stamp": False, "stamps/s1/label": "outdoor unit",
            "stamps/s1/pressure": "450 psig", "test_pressure": FILL_TO, "searched_at": FILL_TO, "metal_by": "clamp", "gauge_step": "0.1 psi",
            "bubbles": "clean", "filled_at": at(self.bench.time_s).isoformat(),
        }  # fmt: skip
        self.desk.enter("pressure_hold", begun, self.bench.time_s)
        while True:
            shown = self._held()
            self.rows += 1
            row: dict[str, Any] = {"at": at(self.bench.time_s).isoformat()}
            if shown.suction_pa is not None and shown.metal_k is not None:
                row |= {"pressure": psig(shown.suction_pa), "metal": degrees(shown.metal_k)}
            fields = {f"readings/r{self.rows}/{name}": value for name, value in row.items()}
            self.desk.enter("pressure_hold", fields, self.bench.time_s)
            result = self.desk.says(self.bench.time_s).step("pressure_hold")
            if result.verdict.word in {"Holds", "Stop"} or self.bench.time_s + EVERY_S > self.exercise.time_s - READ_S:
                return result
            self.bench.run(EVERY_S)

    def _watch(self) -> tuple[StepResult, str]:
        """Pull until it is deep, shut the pump off, and read until the job tells leak from moisture."""
        began = self.bench.time_s
        self._do("pump", "", "on")
        shown = self.bench.shown
        setup = {
            "method": "single", "place": "far", "path_proven": True, "oil_fresh": True, "valves_open": True, "energized": True,
            "refrigerant_out": True, "wet": False, "cores_out": True, "two_hoses": True, "gauge_floor": "1 micron", "gauge_battery": "90 %",
            "coldest": degrees(shown.metal_k or self.exercise.weather.outdoor_k),
            "events/e1/do": "pump", "events/e1/at": at(began).isoformat(),
        }  # fmt: skip
        self.desk.enter("evacuate", setup, self.bench.time_s)
        deep = False
        while self.bench.time_s - began < PULL_MOST_S:
            deep = self._micron() <= DEEP_PA
            if deep and self.bench.time_s - began >= PULL_LEAST_S:
                break
            self.bench.run(4.0 * WATCHED_S)
        if not deep:  # what an hour of a good pump does not bring down is no water
            return self.desk.says(self.bench.time_s).step("evacuate"), "leaking"
        self._do("pump", "", "off")
        self.desk.enter("evacuate", {"events/e2/do": "isolated", "events/e2/at": at(self.bench.time_s).isoformat()}, self.bench.time_s)
        while True:
            self.bench.run(WATCHED_S - READ_S)
            self._micron()
            result = self.desk.says(self.bench.time_s).step("evacuate")
            said = _rise(result)
            if said or self.bench.time_s + WATCHED_S > self.exercise.time_s:
                return result, said or "leaking"

    def _micron(self) -> float:
        vacuum = self._held().vacuum_pa
        if vacuum is None:
            return inf  # more than the gauge reads
        self.rows += 1
        row = {"at": at(self.bench.time_s).isoformat(), "vacuum": f"{vacuum / MICRON_PA:.0f} micron"}
        self.desk.enter("evacuate", {f"readings/r{self.rows}/{name}": value for name, value in row.items()}, self.bench.time_s)
        return vacuum


def _rise(result: StepResult) -> str:
    """What a watched vacuum says, where the job can tell: nothing while it cannot."""
    if result.verdict.word == "Holds":
        return "dry"
    if result.verdict.word == "Stop":
        return "leaking"
    decided = result.waiting is None and any(one.rule_id == DECAY and one.word == "Wait" for one in result.verdict.reasons)
    return "moist" if decided else ""  # it waits for nothing more: it levels off, and is to be pulled again


class Emptying(Hands):
    """A charge that is to come out, or to be shut in the condenser."""

    def play(self) -> Played:
        """Recover into what has room, or pump down."""
        self._gauges()
        if self.exercise.marks.leave == "pumped_down":
            return self._pump_down()
        self._do("switch", "unit", "off")
        self.bench.run(SETTLED_S)
        for one in self.exercise.asks:
            self._tell(one.id)
        full = self.exercise.unit.charge_kg
        for name in sorted(self.bench.cylinders, key=lambda one: -self._room(one)):
            if name.startswith("R") and self._room(name) > 0.1 * full and not self._emptied():
                self._into(name)
        return self._ended("answered" if self._emptied() else "stopped")

    def _room(self, name: str) -> float:
        """How much a cylinder still takes, by its stamp and what it weighs."""
        one = self.bench.cylinders[name]
        return fill_limit_kg(one.refrigerant, one.water_capacity_kg) - one.net_kg

    def _emptied(self) -> bool:
        shown = self.bench.shown
        return shown.suction_pa is not None and shown.suction_pa < -5.0 * PSI_PA

    def _into(self, name: str) -> None:
        """Through the machine until nothing comes any more, or the cylinder is as full as it may be."""
        room = self._room(name)
        self._do("hook", "", name)
        began = self._scale()
        for valve in ("high_side", "low_side", "cylinder"):
            self._do("valve", valve, "open")
        self._do("recover", "", "on")
        still = 0.0
        while still < EMPTIED_S and self.bench.time_s < self.exercise.time_s:
            before = self._scale()
            now = self._scale()
            if now - began >= 0.97 * room:
                break
            still = still + 10.0 if now - before < STALLED_KG else 0.0
        self._do("recover", "", "off")
        for valve in ("cylinder", "high_side", "low_side"):
            self._do("valve", valve, "shut")

    def _pump_down(self) -> Played:
        """Liquid valve shut, watch the low side fall, suction valve shut in time, off."""
        if not self.bench.now.running:
            self._do("switch", "unit", "on")
            self.bench.run(SETTLED_S)
        self._do("isolate", "liquid", "shut")
        for _ in range(LONGEST_PUMP_DOWN_S):
            self.bench.run(1.0)
            if self.bench.shown.suction_pa is not None and self.bench.shown.suction_pa <= SHUT_AT_PA:
                break
        self._do("isolate", "suction", "shut")
        self._do("switch", "unit", "off")
        shut_at = self.bench.shown.suction_pa
        if shut_at is not None:
            self.desk.enter("recover", {"way": "pump_down", "shut_at": psig(shut_at)}, self.bench.time_s)
        self.bench.run(SETTLED_S)
        return self._ended("answered")


class Answering(Hands):
    """Questions alone: the gauges on, the displays held, each cylinder asked about put on the scale."""

    def play(self) -> Played:
        """Every question answered from what the displays say."""
        self._gauges()
        for asked in self.exercise.asks:
            self._tell(asked.id)
        return self._ended("answered")
