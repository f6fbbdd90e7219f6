"""A whole day of work, typed act by act as it is done; after every act the document is judged, and nothing may break or stop unasked."""

import re
from datetime import UTC, datetime, timedelta
from typing import Any

from tests.well_said import faults
from yoshi_core.day.clock import tasks_of
from yoshi_core.day.tasks import JobTasks
from yoshi_core.document import schema
from yoshi_core.document.model import Circuit, Job, Visit
from yoshi_core.document.plate import Plate
from yoshi_core.findings.claims import Claim
from yoshi_core.findings.result import StepResult
from yoshi_core.job import closing, patches, visits
from yoshi_core.job.evaluate import Findings, evaluate
from yoshi_core.job.patches import Change
from yoshi_core.profile.profile import Profile
from yoshi_core.units.display import Amount, show_amount
from yoshi_core.units.quantities import OZ_KG, YEAR_S

BLIND = re.compile(r"Slower than about ([\d.]+) to ([\d.]+) days until empty would not have shown")
DAY = datetime(2026, 6, 18, tzinfo=UTC)
SITE = {"altitude": "2100 m", "gauge_reference": "vented"}
LETTERS = {"shown": "S", "answered_for": "A", "contradicted": "C", "not_yet": "N", "not_in_question": "–"}
PAIRED = {"pairing_proven": True, "pairing_by": "switched"}
READY = {"run_in": "15 min", "filter_ok": True, "coils_ok": True, "doors_ok": True, "load_ok": True}
DRY_SET_UP = {"method": "single", "energized": True, "cores_out": True, "valves_open": True, "place": "far", "oil_fresh": True}


def clock(text: str, days: int = 0) -> datetime:
    """A time of the day, so many days on."""
    hours, _, rest = text.partition(":")
    minutes, _, seconds = rest.partition(":")
    return DAY + timedelta(days=days, hours=int(hours), minutes=int(minutes), seconds=int(seconds or 0))


class Day:
    """One job from arrival on. `stops` are the rules that may say Stop in it beside those no reason lifts; any other that does fails the test."""

    def __init__(
        self, begins: str = "08:00", *, kind: str = "service", record: dict[str, Any] | None = None, stops: set[str] | None = None
    ) -> None:
        plate = schema.load(Plate, record or {}, "/plate")
        self.now = clock(begins)
        circuit = Circuit("C-1", "the circuit", "the unit", "Quillon Ridge", 1, plate) if record is not None else Circuit()
        self.job = Job("day", kind, circuit=circuit, visits=(Visit("v1", self.now, ("J. Pell",)),))
        self.stops = stops or set()
        self.said: set[str] = set()
        self.found: Findings = self._judge()

    def at(self, text: str, days: int = 0) -> "Day":
        """The time it is now."""
        self.now = clock(text, days)
        return self

    def type(self, step: str, **fields: Any) -> StepResult:
        """Entries of the last run of a step; a mapping is a row, a row within a record of rows."""
        runs = self.job.steps[step].runs if step in self.job.steps else ()
        base = f"/steps/{step}/runs/{max(len(runs) - 1, 0)}/sheet"
        changes = [Change(f"{base}/{path}", None, value, force=True) for path, value in _flat(fields)]
        saved = patches.save(self.job, changes, "J. Pell", self.now)
        assert not saved.problems, saved.problems
        self.job = saved.job
        self.found = self._judge()
        return self.found.step(step)

    def act(self, name: str, **fields: Any) -> None:
        """Refrigerant in or out beside the sheets."""
        changes = [Change(f"/acts/{name}/{path}", None, value, force=True) for path, value in _flat(fields)]
        saved = patches.save(self.job, changes, "J. Pell", self.now)
        assert not saved.problems, saved.problems
        self.job = saved.job
        self.found = self._judge()

    def close(self, step: str, reason: str = "", by: str = "T. Vesk") -> None:
        """Close a step, with a reason where it takes one; what is asked about is right as it was typed."""
        if self.found.step(step).questions:
            self.answer(step)
        self.job = closing.close_step(self.job, Profile(), step, by, self.now, reason)
        self.found = self._judge()

    def answer(self, *steps: str) -> None:
        """Say of every question of these steps that the entry is right."""
        for step in steps:
            for question in self.found.step(step).questions:
                path = (
                    f"/steps/{step}/runs/{len(self.job.steps[step].runs) - 1}/answers/{question.id.replace('~', '~0').replace('/', '~1')}"
                )
                saved = patches.save(self.job, [Change(path, None, "kept")], "J. Pell", self.now)
                assert not saved.problems, saved.problems
                self.job = saved.job
        self.found = self._judge()

    def left_on_the_clock(self, person: str = "M. Orrin") -> JobTasks:
        """What is left of the job now, as the day's plan reckons with it."""
        return tasks_of(self.job, self.found, Profile(), self.now, person)

    def leave(self, step: str, reason: str) -> None:
        """Leave a step out."""
        self.job = closing.not_applicable(self.job, step, "T. Vesk", self.now, reason)
        self.found = self._judge()

    def again(self, step: str, reason: str = "a second round") -> None:
        """Open a closed step anew, the run before kept."""
        self.job = closing.reopen_step(self.job, step, "T. Vesk", self.now, reason, new_run=True)
        self.found = self._judge()

    def end(self, outcome: str, reason: str = "", awaited: str = "parts") -> None:
        """End the visit."""
        self.job = visits.end_visit(self.job, self.found, visits.Ending(outcome, reason, awaited), "T. Vesk", self.now)
        self.found = self._judge()

    def come_back(self, text: str, days: int) -> None:
        """Another visit."""
        self.now = clock(text, days)
        self.job = visits.start_visit(self.job, "J. Pell", self.now)
        self.found = self._judge()

    def close_out(self, outcome: str, reason: str = "") -> str:
        """The job closed that way; what the label then shows."""
        self.type("close_out", outcome=outcome, label_fixed=True, **({"reason": reason} if reason else {}))
        if self.found.step("close_out").missing:
            self.type("close_out", update_circuit=True)
        self.close("close_out")
        assert self.found.step("close_out").state == "closed"
        return self.found.inside.now.show()

    def word(self, step: str) -> str:
        """What a step says."""
        return self.found.step(step).verdict.word

    def rules(self, step: str) -> dict[str, str]:
        """The rules that spoke in a step, each with its word."""
        return {r.rule_id: r.word for r in self.found.step(step).verdict.reasons}

    def told(self, step: str, rule: str) -> str:
        """What a rule said."""
        return next(r.message.show() for r in self.found.step(step).verdict.reasons if r.rule_id == rule)

    def figure_oz(self, step: str, figure: str) -> float:
        """A mass figure in ounces."""
        found = self.found.step(step).figure(figure)
        assert found is not None, [f.id for f in self.found.step(step).figures]
        return found.amount.value / OZ_KG

    def allowed(self) -> float:
        """How fast the isolated vacuum may climb in a volume as it is said, in micron a minute, whether that volume is a guess or not."""
        reason = next(r for r in self.found.step("evacuate").verdict.reasons if r.rule_id == "vacuum.decay")
        return float(reason.message.amounts["plain"].value * 60.0 / 0.133322368)

    def causes(self) -> list[str]:
        """The causes As found names, best first."""
        return [row.id for row in self.found.step("as_found").picture.causes]  # type: ignore[union-attr]

    def part(self, key: str, **fields: Any) -> None:
        """Say what a part that valves shut off is."""
        changes = [Change(f"/sections/{key}/{name}", None, value, force=True) for name, value in fields.items()]
        saved = patches.save(self.job, changes, "J. Pell", self.now)
        assert not saved.problems, saved.problems
        self.job = saved.job
        self.found = self._judge()

    def for_the_customer(self) -> str:
        """What the customer is told."""
        return self.found.standing.words.show()

    def mark(self) -> str:
        """Where the valve is closed, as the scale reads."""
        marks = self.found.step("weigh_in").picture.marks  # type: ignore[union-attr]
        return shown(marks[-1].gross_kg)

    @property
    def inside(self) -> str:
        """What is inside, in words."""
        return self.found.inside.now.show()

    @property
    def claims(self) -> str:
        """The seven standings, a letter each."""
        return " ".join(LETTERS[claim.standing] for claim in self.found.claims)

    def claim(self, name: str) -> Claim:
        """One claim."""
        return self.found.claim(name)

    def blind_for(self, days: float) -> bool:
        """Whether the sentence of Tight says so many days until empty, to a factor of 1.5: the middle of the band it prints."""
        found = BLIND.search(self.claim("tight").words.show())
        assert found is not None, self.claim("tight").words.show()
        middle = (float(found[1]) * float(found[2])) ** 0.5
        assert days / 1.5 <= middle <= days * 1.5, found[0]
        return True

    def reads(self, step: str, **fahrenheit: float) -> bool:
        """Whether figures of a step are these, to 0.3 °F."""
        for name, wanted in fahrenheit.items():
            found = self.found.step(step).figure(name)
            assert found is not None, name
            kelvin, amount = found.amount.value, found.amount
            said = kelvin * 1.8 if amount.quantity == "temperature_delta" else kelvin * 1.8 - 459.67
            assert abs(said - wanted) <= 0.3, (name, said, wanted)
        return True

    def leak_oz_year(self, rule: str) -> float:
        """The middle of the band of a leak that a rule of the hold says, in ounces a year."""
        reason = next(r for r in self.found.step("pressure_hold").verdict.reasons if r.rule_id == rule)
        low, high = (reason.message.amounts[name].value for name in ("low", "high"))
        return float((low * high) ** 0.5 * YEAR_S / OZ_KG)

    def ways(self) -> set[str]:
        """The ways it may close now."""
        return {way.id for way in visits.ways(self.found) if way.open}

    def _judge(self) -> Findings:
        found = evaluate(self.job, Profile(), self.now)
        wrong = list(faults(found, Findings))
        assert not wrong, wrong
        for result in found.steps:
            texts = [r.message.show() for r in result.verdict.reasons]
            assert len(texts) == len(set(texts)), texts
            self.said |= {r.rule_id for r in result.verdict.reasons if r.word == "Stop" and r.role != "hard"}
        assert self.said <= self.stops, self.said - self.stops
        return found


def shown(kg: float) -> str:
    """A mass as it is shown in pounds and ounces."""
    return show_amount(Amount(kg, "mass"))


def _flat(fields: dict[str, Any], under: str = "") -> list[tuple[str, Any]]:
    found: list[tuple[str, Any]] = []
    for name, value in fields.items():
        if isinstance(value, dict) and not {"text", "value"} & set(value):
            found += _flat(value, f"{under}{name}/")
        else:
            found.append((f"{under}{name}", value.isoformat() if isinstance(value, datetime) else value))
    return found


def told(text: str) -> dict[str, str]:
    """A figure somebody said."""
    return {"text": text, "source": "told"}


def hold(filled: datetime, *readings: tuple[datetime, float], bubbles: str | None = "clean", **more: Any) -> dict[str, Any]:
    """A hold under nitrogen: when it was filled, what was read when."""
    rows = {f"r{n}": {"at": moment, "pressure": f"{psig} psig"} for n, (moment, psig) in enumerate(readings, 1)}
    most = max((psig for _, psig in readings), default=100.0)
    plan = {"gas": "nitrogen", "regulator": True, "fed": "both", "metal_by": "none", "test_pressure": f"{most} psig"}
    stamp = {} if "stamps" in more else {"stamps": {"s1": {"label": "plate", "pressure": "600 psig"}}}
    done = {} if bubbles is None else {"bubbles": bubbles}
    return {**plan, **stamp, "filled_at": filled, "readings": rows, **done, **more}


def pulled(*done: tuple[str, datetime], readings: tuple[tuple[datetime, float], ...] = (), **more: Any) -> dict[str, Any]:
    """A vacuum: what was done when, and what the gauge read."""
    events = {f"e{n}": {"do": what, "at": moment} for n, (what, moment) in enumerate(done, 1)}
    rows = {f"r{n}": {"at": moment, "vacuum": f"{micron} micron"} for n, (moment, micron) in enumerate(readings, 1)}
    return {**DRY_SET_UP, "events": events, "readings": rows, **more}


def out(cylinder: str, before: str, after: str, tare: str = "", water: str = "47.7 lb") -> dict[str, Any]:
    """A recovery cylinder on the scale."""
    return {
        "cylinder": cylinder,
        "contents": "evacuated",
        "tare": tare or before,
        "water_capacity": water,
        "gross_start": before,
        "gross_now": after,
    }


RECOVER = {"way": "cylinder", "fan_on": True, "valves_open": True, "use": "new"}


def ended(pressure: str = "0 psig", waited: str = "6 min", risen: str = "0.2 psig") -> dict[str, Any]:
    """Recovery over: down to that, and there after the wait."""
    return {"finished": True, "end_pressure": pressure, "waited": waited, "risen_to": risen}


REPAIR = {
    "opened_for": "30 min", "joining": "brazed", "at_zero": True, "both_open": True, "nitrogen_flow": True, "fire_watch": True, "drier": "new", "drier_way": True,
    "drier_size": True, "cores": True, "bulb": "placed",
}  # fmt: skip


def draw(cylinder: str, before: str, after: str | None = None, tare: str = "9 lb", **more: Any) -> dict[str, Any]:
    """A cylinder on the scale for weighing in."""
    end = {} if after is None else {"gross_end": after}
    return {"cylinder": cylinder, "gross_start": before, "tare": tare, **end, **more}
