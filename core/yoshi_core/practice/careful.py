"""A careful technician on the bench: reads displays, types what is read, does what the job says, and waits as long as it takes.

The policy knows nothing that a person in front of the unit does not know: not the hidden faults, not what is inside. It is what a
run is compared with when somebody looks back, and `bench/practice_study.py` says how often it ends right.
"""

from collections.abc import Mapping
from typing import Any

from yoshi_core.findings.pictures import AsFoundPicture, VerifyPicture
from yoshi_core.findings.result import StepResult
from yoshi_core.practice.entries import at, ounces
from yoshi_core.practice.exercise import Exercise
from yoshi_core.practice.hands import GAUGES_S, READ_S, STALLED_KG, Hands, Played
from yoshi_core.practice.holding import Answering, Emptying, Holding

RUN_IN_S = 1200.0
SETTLE_MORE_S = 60.0
HAND_S, DRAIN_S, SLOW_KG = 1.5, 120.0, 0.12
EMPTIED_S, PULLED_S, WARMED_S, COLD_K = 90.0, 1500.0, 900.0, 3.0
MOST_STEPS, MOST_LOOKS, MOST_AGAIN = 12, 7, 3
BY_READING = 0.05  # nearer than that no reading tells: superheat's ±5 °F is ±6 to ±8 % of the charge (the rig)


def play(exercise: Exercise) -> Played:
    """The exercise done carefully, from its start to what the job says last."""
    if exercise.start == "open":
        return Holding(exercise).play()
    if exercise.marks.leave != "full":
        return Emptying(exercise).play()
    played = _Careful(exercise)
    if not exercise.marks.charge_counts and not exercise.marks.cause:
        return Answering(exercise).play()
    return played.play()


class _Careful(Hands):
    def play(self) -> Played:
        if self.exercise.marks.cause:
            return self._find()
        if self.exercise.start == "empty":
            return self._by_weight()
        return self._by_reading()

    def _conditions(self) -> dict[str, Any]:
        """What is looked at before a reading is believed; what is dirty is cleaned, and the unit runs in again."""
        if self._look("filter") == "blocked":
            self._do("clean", "filter")
            self.bench.run(RUN_IN_S)
        if self._look("condenser_face") == "starved":
            self._do("clean", "outdoor_coil")
            self.bench.run(RUN_IN_S)
        well = {"filter_ok": True, "coils_ok": True, "doors_ok": True, "load_ok": True}
        return {"mode": self.exercise.weather.mode, "run_in": f"{RUN_IN_S / 60:.0f} min", **well}

    def _enter_row(self, more: Mapping[str, Any]) -> StepResult:
        """A reading, with what was changed before it, and what the job says then."""
        self.rows += 1
        row = {**more, **self._read(), "at": at(self.bench.time_s).isoformat()}
        self.desk.enter("verify", {f"readings/r{self.rows}/{name}": value for name, value in row.items()}, self.bench.time_s)
        return self.desk.says(self.bench.time_s).step("verify")

    def _by_reading(self) -> Played:
        """The charge is not known: read, step, settle, read; where that leads nowhere it comes out and goes in by weight."""
        self._gauges()
        if not self.bench.now.running:
            self._do("switch", "unit", "on")
            self.bench.run(RUN_IN_S)
        self.desk.enter("weigh_in", {"system_state": "holding"}, self.bench.time_s)
        self.desk.enter("verify", self._conditions(), self.bench.time_s)
        result = self._steady(self._enter_row({}))
        if self.exercise.marks.charge_within < BY_READING:
            return self._again_by_weight(result)
        for _ in range(MOST_STEPS):
            step = result.figure("trim_step")
            if result.verdict.word == "Holds":
                return self._ended("proven", result)
            if step is None:
                return self._again_by_weight(result)
            out = result.drawn(VerifyPicture).takes_out
            changed = self._take(step.amount.value) if out else self._add(step.amount.value)
            if changed is None:
                return self._ended("given up", result)
            self.bench.run(max(self.exercise.marks.settle_s, RUN_IN_S if out else 0.0) + SETTLE_MORE_S)
            result = self._steady(self._enter_row(changed))
        return self._ended("given up", result)

    def _again_by_weight(self, result: StepResult) -> Played:
        """All of it out and weighed in, where there is room for what comes out and enough to go in; else it is said why not."""
        room = self._recovery_cylinder()
        if room is None or self._charge_cylinder(self.exercise.unit.charge_kg * 1.02) is None:
            return self._ended("stopped", result)
        aside = {f"readings/r{row}/set_aside": "before all of it was weighed in" for row in range(1, self.rows + 1)}
        self.desk.enter("verify", aside, self.bench.time_s)
        self._do("switch", "unit", "off")
        self.bench.run(120.0)
        self._recover_all(room)
        self._do("hook", "", "")
        self._do("pump", "", "on")
        self.bench.run(PULLED_S)
        self._do("pump", "", "off")
        return self._by_weight()

    def _recover_all(self, room: str) -> None:
        self._do("hook", "", room)
        for valve in ("high_side", "low_side", "cylinder"):
            self._do("valve", valve, "open")
        self._do("recover", "", "on")
        still = 0.0
        while still < EMPTIED_S and self.bench.time_s < self.exercise.time_s:
            before = self._scale()  # holds it for ten seconds
            still = still + 10.0 if self._scale() - before < STALLED_KG else 0.0
        self._do("recover", "", "off")
        for valve in ("cylinder", "high_side", "low_side"):
            self._do("valve", valve, "shut")

    def _by_weight(self) -> Played:
        """The whole charge over the scale: liquid into the vacuum until it stalls, the rest throttled with the unit running."""
        self._gauges()
        for asked in self.exercise.asks:
            if asked.cylinder:
                self._on_scale(asked.cylinder)
                self._tell(asked.id)
        names = self._charge_cylinders(self.exercise.unit.charge_kg)
        if not names:
            return self._ended("stopped")
        self.desk.enter("weigh_in", {"system_state": "empty"}, self.bench.time_s)
        for n, name in enumerate(names, 1):
            result = self._one_draw(f"draws/d{n}", name, last=n == len(names))
            if result is not None:
                return self._ended("stopped", result)
        if not self.bench.live.running:
            self._do("switch", "unit", "on")
        self.bench.run(RUN_IN_S)
        self.desk.enter("verify", self._conditions(), self.bench.time_s)
        result = self._steady(self._enter_row({}))
        for asked in self.exercise.asks:
            if not asked.cylinder:
                self._tell(asked.id)
        return self._ended("proven" if result.verdict.word == "Holds" else "stopped", result)

    def _one_draw(self, row: str, name: str, *, last: bool) -> StepResult | None:
        """What one cylinder gives, to its mark or to its end; the step's result where there is no mark to draw to."""
        self._on_scale(name)
        draw = {
            "cylinder": name,
            "gross_start": ounces(self._scale()),
            "tare": ounces(self.bench.cylinders[name].tare_kg),
            "hose_loss": "0 oz",
        }
        self.desk.enter("weigh_in", {f"{row}/{field}": value for field, value in draw.items()}, self.bench.time_s)
        says = self.desk.says(self.bench.time_s).step("weigh_in")
        mark = says.figure("close_at")
        if mark is None:
            return says
        close_at = mark.amount.value
        heats = self.exercise.weather.mode == "heating"
        there = self._pour("high_side", "open", close_at)
        for _ in range(MOST_AGAIN if heats else 1):
            if there or not (heats or self._is_cold(name)):
                break
            self._do("warm", "", "water")
            self.bench.run(WARMED_S)
            self._do("warm", "", "air")
            there = self._pour("high_side", "open", close_at)
        if not heats and last:
            if not self.bench.live.running:
                self._do("switch", "unit", "on")
                self.bench.run(GAUGES_S)
            if not there:
                self._pour("low_side", "cracked", close_at)
            self._drain_hose()
        elif not last:  # what is in the hose goes into the vacuum, and not to the air when the hose is moved
            self._do("valve", "high_side", "open")
            self.bench.run(DRAIN_S)
            self._do("valve", "high_side", "shut")
        self.desk.enter("weigh_in", {f"{row}/gross_end": ounces(self._scale())}, self.bench.time_s)
        return None

    def _steady(self, result: StepResult) -> StepResult:
        """Read again where the job waits for the unit and not for charge."""
        for _ in range(MOST_AGAIN):
            if result.verdict.word != "Wait" or result.figure("trim_step") is not None:
                break
            self.bench.run(self.exercise.marks.settle_s)
            result = self._enter_row({})
        return result

    def _is_cold(self, name: str) -> bool:
        """Colder than the air about it, as a hand feels it: warm water brings its pressure back, a flame never."""
        return self.bench.cylinders[name].temperature_k < self.exercise.weather.outdoor_k - COLD_K

    def _on_scale(self, name: str) -> None:
        """On the scale upside down, the hose purged; its valve is still shut."""
        if self.bench.hooked != name:
            self._do("hook", "", name)
            self._do("turn", "", "upside_down")
            self._do("purge")
        self.bench.run(READ_S)

    def _drain_hose(self) -> None:
        """The cylinder shut, the running unit draws what is in the hose: nothing is lost when it comes off."""
        self._do("valve", "low_side", "cracked")
        self.bench.run(DRAIN_S)
        self._do("valve", "low_side", "shut")

    def _pour(self, valve: str, opening: str, until_kg: float) -> bool:
        """Open until the scale is at a mark, throttled for the last of it, the cylinder shut a hand's time ahead; False where it stalls before."""
        self._do("valve", "cylinder", "open")
        self._do("valve", valve, opening)
        there = opening == "cracked" or self._follow(lambda reading, rate: reading - max(rate, 0.0) * HAND_S <= until_kg + SLOW_KG)
        if there:
            self._do("valve", valve, "cracked")
            there = self._follow(lambda reading, rate: reading - max(rate, 0.0) * HAND_S <= until_kg)
        self._do("valve", "cylinder", "shut")
        self._do("valve", valve, "shut")
        return there

    def _add(self, mass_kg: float) -> dict[str, Any] | None:
        """Liquid, throttled, into the running unit's low side, by the scale; None where no cylinder holds it."""
        name = self._charge_cylinder(mass_kg)
        if name is None:
            return None
        self._on_scale(name)
        before = self._scale()
        self._pour("low_side", "cracked", before - mass_kg)
        self._drain_hose()
        after = self._scale()
        return {"cylinder": name, "gross_before": ounces(before), "gross_after": ounces(after)}

    def _take(self, mass_kg: float) -> dict[str, Any] | None:
        """Off, so much out by the machine into a recovery cylinder on the scale, and on again."""
        name = self._recovery_cylinder()
        if name is None:
            return None
        self._do("switch", "unit", "off")
        if self.bench.hooked != name:
            self._do("hook", "", name)
        self.bench.run(120.0)
        before = self._scale()
        self._do("valve", "cylinder", "open")
        self._do("valve", "high_side", "cracked")
        self._do("recover", "", "on")
        self._follow(lambda reading, rate: reading - min(rate, 0.0) * HAND_S >= before + mass_kg)
        self._do("recover", "", "off")
        self._do("valve", "high_side", "shut")
        self._do("valve", "cylinder", "shut")
        after = self._scale()
        self._do("switch", "unit", "on")
        return {"cylinder": name, "removed": ounces(max(after - before, 0.0))}

    def _charge_cylinder(self, mass_kg: float) -> str | None:
        """The first that holds the unit's refrigerant and so much of it: charging cylinders are those not named for recovery."""
        if self.bench.drawn_kg + mass_kg > self.exercise.refrigerant_kg:
            return None
        found = (name for name, one in self.bench.cylinders.items() if not name.startswith("R") and one.net_kg >= mass_kg)
        return next(found, None)

    def _charge_cylinders(self, mass_kg: float) -> list[str]:
        """One that holds it all, else a heel to be used up and one that holds the rest; none where that is not enough."""
        whole = self._charge_cylinder(mass_kg)
        if whole is not None and not any(one.cylinder and one.ask == "net" for one in self.exercise.asks):
            return [whole]
        held = {name: one.net_kg for name, one in self.bench.cylinders.items() if not name.startswith("R")}
        names, left = [], mass_kg
        for name, net_kg in held.items():
            names.append(name)
            left -= net_kg
            if left <= 0.0:
                return names if self.bench.drawn_kg + mass_kg <= self.exercise.refrigerant_kg else []
        return []

    def _recovery_cylinder(self) -> str | None:
        return next((name for name in self.bench.cylinders if name.startswith("R")), None)

    def _find(self) -> Played:
        """Read as found, look where the job says, and name what is wrong; the charge is left alone."""
        self._gauges()
        fields: dict[str, Any] = {"running": "settled", "run_time": "25 min", "mode": self.exercise.weather.mode}
        self.desk.enter("as_found", {**fields, **self._read()}, self.bench.time_s)
        for _ in range(MOST_LOOKS):
            result = self.desk.says(self.bench.time_s).step("as_found")
            picture = result.drawn(AsFoundPicture)
            if picture.next_check is None:
                break
            outcome = self._look(picture.next_check.id)
            self.bench.run(picture.next_check.minutes * 60.0)
            self.desk.enter("as_found", {f"checks/{picture.next_check.id}/result": outcome}, self.bench.time_s)
        result = self.desk.says(self.bench.time_s).step("as_found")
        causes = result.drawn(AsFoundPicture).causes
        if not causes:
            return self._ended("given up", result)
        self._do("answer", "cause", causes[0].id)
        return self._ended("named", result)
