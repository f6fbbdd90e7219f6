"""What people say beside the readings: an oil typed three ways, a port freed by force, a pump left running, part of a log set aside, odd names."""

from dataclasses import replace
from datetime import timedelta

import pytest

from tests.whole_jobs.day import Day, clock, hold, pulled
from tests.whole_jobs.test_parts import emptied
from yoshi_core.day.clock import tasks_of
from yoshi_core.document import schema
from yoshi_core.document.model import Job
from yoshi_core.job import documents
from yoshi_core.job.patches import Change, save
from yoshi_core.message import headline
from yoshi_core.profile.profile import Profile
from yoshi_core.steps.log_aside import LogAside, dropped
from yoshi_core.tight_and_dry.trace import Trace
from yoshi_core.units.display import Amount
from yoshi_core.units.quantities import MICRON_PA, PSI_PA

GRADE = "/steps/repair/runs/0/sheet/oil_grade"


def typed(day: Day, path: str, value: object, *, choose: bool = False) -> None:
    """One field as a person types over what is seen there, or chooses among what was kept."""
    seen = schema.dump(day.job)
    for key in path.split("/")[1:]:
        seen = seen[int(key)] if isinstance(seen, list) else (seen or {}).get(key)
    saved = save(day.job, [Change(path, seen, value, force=choose)], "J. Pell", day.now)
    assert not saved.problems, saved.problems
    day.job = saved.job
    day.at(f"{day.now:%H:%M}").found = day._judge()


class TestOil:
    """A grade is read off a thing: typed as another one, both stay until a person chooses."""

    def begun(self) -> Day:
        day = Day()
        day.type("repair", parts={"p1": {"label": "seals", "kind": "line"}}, oil_out="measured", oil_removed="5 mL")
        return day

    def test_three_grades_are_three_values_of_one_field_and_asked(self) -> None:
        day = self.begun()
        for text in ("PAG 46", "POE 68", "PVE 68"):
            typed(day, GRADE, text)
        assert day.job.steps["repair"].runs[0].sheet.oil_grade == "PVE 68"
        assert [d.value for d in day.job.disputes] == ["PAG 46", "POE 68"]
        assert day.told("repair", "repair.oil_kind").startswith("Typed as PVE 68, PAG 46 and POE 68.")
        assert day.rules("repair")["repair.oil_kind"] == "Wait"
        day.type("repair", oil_named=True)
        assert day.rules("repair")["repair.oil_kind"] == "Wait"  # which of them the compressor names is the question
        typed(day, GRADE, "POE 68", choose=True)
        assert (day.job.disputes, day.rules("repair")["repair.oil_kind"]) == ((), "Holds")

    def test_typing_on_is_no_second_value(self) -> None:
        day = self.begun()
        for text in ("POE", "POE 3", "POE 32"):
            typed(day, GRADE, text)
        assert day.job.disputes == ()

    def test_what_is_typed_again_is_no_longer_the_other_one(self) -> None:
        day = self.begun()
        for text in ("PAG 46", "POE 68", "PAG 46"):
            typed(day, GRADE, text)
        assert [d.value for d in day.job.disputes] == ["POE 68"]
        typed(day, GRADE, None)
        assert day.job.disputes == ()

    def test_a_label_is_changed_without_being_asked(self) -> None:
        day = self.begun()
        typed(day, "/steps/repair/runs/0/sheet/parts/p1/label", "two seals")
        assert day.job.disputes == ()


class TestPort:
    """A blocked port freed by more pressure than the system takes: asked what stood behind it."""

    def begun(self, **act: object) -> Day:
        day = emptied()
        day.type("pressure_hold", **hold(clock("10:10"), (clock("10:27"), 240), (clock("10:45"), 240), volume="4 L"))
        day.act("a1", kind="freed", done=True, **act)
        return day

    def test_asked_whether_the_system_stood_behind_it(self) -> None:
        day = self.begun(pressure="700 psig")
        assert day.rules("pressure_hold")["hold.port"] == "Wait"
        assert any(m.path == "/acts/a1/behind" for m in day.found.step("pressure_hold").missing)
        day.act("a1", behind=False)
        assert day.rules("pressure_hold")["hold.port"] == "Open"
        assert day.told("pressure_hold", "hold.port") == "700.0 psig were on the port alone, the system shut off from it."

    def test_behind_it_is_a_stop_until_let_down(self) -> None:
        day = self.begun(pressure="700 psig")
        day.stops |= {"hold.port"}
        day.act("a1", behind=True)
        assert day.rules("pressure_hold")["hold.port"] == "Stop"
        day.type("pressure_hold", let_down_at=clock("10:50"))
        assert day.rules("pressure_hold")["hold.port"] == "Open"

    def test_no_more_than_the_stamp_is_not_asked(self) -> None:
        assert "hold.port" not in self.begun(pressure="200 psig").rules("pressure_hold")

    def test_a_low_pressure_machine_by_its_disc(self) -> None:
        day = Day(record={"refrigerant": "R-123", "kind": "chiller", "metering": "orifice", "factory_charge": "950 lb"})
        day.type("pressure_hold", gas="nitrogen")
        day.act("a1", kind="freed", done=True, pressure="400 psig")
        assert day.told("pressure_hold", "hold.port").startswith("400.0 psig were put on a blocked port, and the system takes 10.0 psig.")


class TestPumpOvernight:
    """A pump that runs for hours runs alone: somebody agrees, or the job cannot be left so."""

    def pulling(self, hours: float) -> Day:
        day = emptied()
        rows = ((clock("11:00"), 3000), (clock("12:00"), 1900))
        day.type("evacuate", **pulled(("pump", clock("10:30")), readings=rows, volume="900 L"))
        day.now = clock("10:30") + timedelta(hours=hours)
        day.type("evacuate", volume="900 L")
        return day

    def test_asked_after_hours_and_not_before(self) -> None:
        soon = emptied()
        rows = ((clock("10:35"), 3000), (clock("10:40"), 900))
        soon.at("10:40").type("evacuate", **pulled(("pump", clock("10:30")), readings=rows, volume="4 L"))
        assert "vacuum.unattended" not in soon.rules("evacuate")
        day = self.pulling(6.0)
        assert day.told("evacuate", "vacuum.unattended").startswith("The pump runs for ")
        left = tasks_of(day.job, day.found, Profile(), day.now, "J. Pell").tasks[0]
        assert left.safe_during == ""
        day.type("evacuate", left_running="the owner, by telephone")
        assert day.told("evacuate", "vacuum.unattended") == "The pump may run with nobody there: the owner, by telephone."
        left = tasks_of(day.job, day.found, Profile(), day.now, "J. Pell").tasks[0]
        assert left.safe_during == "with the pump running: the owner, by telephone agreed"

    def test_shut_off_it_is_not_asked(self) -> None:
        day = self.pulling(6.0)
        day.type("evacuate", events={"e2": {"do": "isolated", "at": clock("16:00")}})
        assert "vacuum.unattended" not in day.rules("evacuate")


class TestLogAside:
    """Part of a log set aside counts for nothing; at its end another reading is asked for."""

    def logged(self) -> Day:
        day = emptied()
        day.stops |= {"hold.drop", "hold.leak"}
        day.at("11:00").type("pressure_hold", **hold(clock("10:10"), volume="4 L"))
        start = clock("10:10")
        seconds = tuple(60.0 * n for n in range(50))
        kept = tuple((240.0 if n < 40 else 200.0) * PSI_PA for n in range(50))
        record = day.job.steps["pressure_hold"]
        sheet = replace(record.runs[-1].sheet, pressure_trace=Trace(start, seconds, kept, 50, "", "gauge 1", 689.0))
        runs = (*record.runs[:-1], replace(record.runs[-1], sheet=sheet))
        day.job = replace(day.job, steps={**day.job.steps, "pressure_hold": replace(record, runs=runs)})
        return day

    def test_a_stretch_with_its_reason(self) -> None:
        day = self.logged()
        day.type("pressure_hold", aside={"a1": {"since": clock("10:49"), "until": clock("11:00")}})
        assert day.claim("tight").standing == "contradicted"  # without a reason nothing is set aside
        day.type("pressure_hold", aside={"a1": {"set_aside": "the hose came off"}})
        assert day.told("pressure_hold", "log.part_aside") == "Part of the log is set aside: the hose came off."
        assert day.claim("tight").standing == "not_yet"
        assert any(m.label == "a reading after what is set aside" for m in day.found.step("pressure_hold").missing)
        day.at("11:05").type("pressure_hold", readings={"r1": {"at": clock("11:05"), "pressure": "240 psig"}})
        assert not any(m.label == "a reading after what is set aside" for m in day.found.step("pressure_hold").missing)
        assert "hold.drop" not in {rule for rule, word in day.rules("pressure_hold").items() if word == "Stop"}

    def test_one_row_is_the_one_nearest(self) -> None:
        day = self.logged()
        stamps = {f"a{n}": {"since": clock("10:50") + timedelta(minutes=n, seconds=20), "set_aside": "hose"} for n in range(10)}
        day.type("pressure_hold", aside=stamps)
        assert day.claim("tight").standing == "not_yet"
        moments = [clock("10:10") + timedelta(minutes=n) for n in range(50)]
        spans = day.job.steps["pressure_hold"].runs[-1].sheet.aside
        assert dropped(moments, spans) == set(range(40, 50))
        far = {"a1": LogAside(clock("11:05"), None, "hose"), "a2": LogAside(clock("10:20")), "a3": LogAside(None, clock("11:00"), "hose")}
        assert dropped(moments, far) == frozenset()
        assert dropped([], spans) == frozenset()

    def test_an_end_before_its_beginning_is_refused(self) -> None:
        day = self.logged()
        day.type("pressure_hold", aside={"a1": {"since": clock("10:49"), "until": clock("10:40"), "set_aside": "hose"}})
        (problem,) = day.found.step("pressure_hold").problems
        assert problem.path.endswith("/aside/a1/until")

    def test_of_a_vacuum_too(self) -> None:
        day = emptied()
        day.at("11:20").type("evacuate", **pulled(("pump", clock("10:30")), ("isolated", clock("10:50")), volume="4 L"))
        rise = (300.0, 305.0, 310.0, 312.0, 314.0, 316.0, 318.0, 320.0, 322.0, 324.0, 4000.0, 9000.0)
        log = Trace(clock("10:50"), tuple(120.0 * n for n in range(12)), tuple(v * MICRON_PA for v in rise), 12)
        record = day.job.steps["evacuate"]
        runs = (replace(record.runs[-1], sheet=replace(record.runs[-1].sheet, trace=log)),)
        day.job = replace(day.job, steps={**day.job.steps, "evacuate": replace(record, runs=runs)})
        day.type("evacuate", volume="4 L")
        assert day.claim("dry").standing != "shown"
        day.type("evacuate", aside={"a1": {"since": clock("11:10"), "until": clock("11:12"), "set_aside": "oil on the sensor"}})
        assert day.claim("dry").standing == "not_yet"
        day.type("evacuate", readings={"r1": {"at": clock("11:16"), "vacuum": "326 micron"}})
        assert day.claim("dry").standing == "shown"


class TestNames:
    """A name in braces is a name: no amount of a sentence is filled into it."""

    @pytest.mark.parametrize("name", ["unit {value}", "{limit}", "{value} and {limit}", "a {b"])
    def test_a_name_in_braces_stands_as_typed(self, name: str) -> None:
        job = documents.load_job({"id": "J-1", "title": name})
        shown = headline("{title} at {value}", title=job.title, value=Amount(300.0, "temperature"), limit=Amount(1.0, "mass")).show()
        assert shown == f"{name} at 80.3 °F"

    def test_it_is_read_the_same_again(self) -> None:
        once = documents.load_job({"id": "J-1", "title": "{value}"})
        again: Job = documents.load_job(documents.dump_job(once))
        assert again == once
