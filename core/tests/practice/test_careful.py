"""The careful technician: knows only what the displays say, ends right, and its run is marked as anybody's is."""

import json
from dataclasses import replace
from typing import Any

import pytest

from yoshi_core.cli.main import main
from yoshi_core.practice import exercise as exercises
from yoshi_core.practice.bench import Bench
from yoshi_core.practice.careful import play
from yoshi_core.practice.entries import Desk, at, read_off
from yoshi_core.practice.exercise import Exercise
from yoshi_core.practice.hands import Played
from yoshi_core.practice.looking import causes_in, look
from yoshi_core.practice.marking import Marked, marked
from yoshi_core.rig.unit import Faults
from yoshi_core.units.quantities import OZ_KG


def loaded(name: str, seed: int | None = None) -> Exercise:
    return exercises.loads(exercises.shipped(name), seed)


def done(exercise: Exercise) -> tuple[Played, Marked]:
    played = play(exercise)
    return played, marked(exercise, played.bench, played.job)


def marks(result: Marked) -> dict[str, bool]:
    return {mark.id: mark.met for mark in result.marks}


class TestByReading:
    def test_it_adds_in_bounded_steps_and_waits_before_each_reading(self) -> None:
        exercise = replace(loaded("orifice-by-superheat", 12), faults=Faults(charge_share=0.915))
        played, result = done(exercise)
        assert played.ended == "proven"
        assert all(not reading.too_soon for reading in result.readings)
        poured = [act for act in played.bench.acts if (act.do, act.what, act.to) == ("valve", "low_side", "cracked")]
        assert poured
        assert 0.0 < played.bench.drawn_kg < 0.15 * played.exercise.unit.charge_kg

    def test_its_job_is_a_job_like_any_other(self) -> None:
        played, _ = done(loaded("orifice-by-superheat", 11))
        sheet: Any = played.job.steps["verify"].runs[0].sheet
        assert list(sheet.readings) == [f"r{n}" for n in range(1, len(sheet.readings) + 1)]
        assert all(row.suction_pressure.by == "careful" for row in sheet.readings.values())

    def test_far_off_with_nothing_to_weigh_in_it_says_so_and_leaves_it(self) -> None:
        exercise = replace(loaded("orifice-by-superheat"), faults=Faults(charge_share=0.7), refrigerant_kg=48 * OZ_KG)
        played, result = done(exercise)
        assert played.ended == "stopped"
        assert "Recover it and weigh it in" in played.why
        assert not marks(result)["charge"]
        assert played.bench.drawn_kg == 0.0


class TestByWeight:
    def test_too_much_comes_out_and_goes_in_over_the_scale(self) -> None:
        played, result = done(loaded("too-much-in-it", 12))
        assert result.met
        assert abs(result.off_kg) < 0.01 * played.exercise.unit.charge_kg
        assert [act.do for act in played.bench.acts if act.do in {"recover", "pump"}] == ["recover", "recover", "pump", "pump"]

    def test_no_cylinder_holds_enough_and_nothing_is_begun(self) -> None:
        exercise = replace(loaded("all-of-it-by-weight"), refrigerant_kg=1.0)
        played, result = done(exercise)
        assert (played.ended, played.bench.drawn_kg) == ("stopped", 0.0)
        assert not result.met


class TestACauseIsAsked:
    def test_it_is_named_and_the_charge_left_alone(self) -> None:
        played, result = done(loaded("low-air", 13))
        assert (played.ended, played.bench.answers["cause"].text) == ("named", "low_airflow")
        assert marks(result) == {"cause": True, "left_alone": True, "lost": True, "refrigerant": True, "time": True}

    def test_another_name_or_a_hand_on_the_cylinder_is_marked(self) -> None:
        exercise = loaded("low-air", 13)
        played = play(exercise)
        played.bench.live.charge_kg += 8 * OZ_KG
        played.bench.do("answer", "cause", "undercharge")
        result = marked(exercise, played.bench, played.job)
        assert (marks(result)["cause"], marks(result)["left_alone"]) == (False, False)


class TestAPersonsRun:
    """The same marks over what somebody less careful does."""

    def test_a_reading_right_after_a_change_is_too_soon(self) -> None:
        exercise = loaded("orifice-by-superheat")
        bench, desk = Bench(exercise), Desk(exercise, "charge", "somebody")
        for port in ("suction_port", "liquid_port"):
            bench.do("valve", port, "open")
        bench.do("hook", "", "14")
        bench.do("turn", "", "upside_down")
        bench.do("valve", "cylinder", "open")
        bench.do("valve", "low_side", "open")
        bench.run(240.0)
        bench.do("valve", "low_side", "shut")
        bench.run(43.0)
        row = {"at": at(bench.time_s).isoformat(), **read_off(bench.shown)}
        desk.enter("verify", {f"readings/r1/{name}": value for name, value in row.items()}, bench.time_s)
        result = marked(exercise, bench, desk.job)
        assert [(round(reading.left_alone_s), reading.too_soon) for reading in result.readings] == [(43, True)]
        found = marks(result)
        assert (found["settled"], found["slugged"], found["charge"]) == (False, False, False)
        assert found["lost"]
        assert result.off_kg > 8 * OZ_KG

    def test_what_takes_too_long_or_too_much_is_marked(self) -> None:
        exercise = replace(loaded("orifice-by-superheat"), time_s=60.0, refrigerant_kg=0.001)
        bench, desk = Bench(exercise), Desk(exercise, "charge", "somebody")
        bench.do("hook", "", "14")
        bench.do("purge")
        bench.run(90.0)
        found = marks(marked(exercise, bench, desk.job))
        assert (found["time"], found["refrigerant"]) == (False, False)


class TestLooking:
    @pytest.mark.parametrize(
        ("faults", "check", "outcome"),
        [
            (Faults(low_airflow=0.5), "filter", "blocked"),
            (Faults(), "filter", "clear"),
            (Faults(dirty_condenser=0.5), "condenser_face", "starved"),
            (Faults(low_airflow=0.5), "condenser_face", "clear"),
            (Faults(liquid_restriction=0.5), "drier_drop", "drop"),
            (Faults(charge_share=0.6), "standing", "below"),
            (Faults(non_condensables=0.5), "standing", "above"),
            (Faults(), "standing", "at"),
            (Faults(orifice_scale=1.4), "orifice_size", "large"),
            (Faults(compressor_leak=0.5), "pump_down", "weak"),
            (Faults(valve_flooding=0.5), "bulb", "loose"),
            (Faults(), "bulb", "answers"),
        ],
    )
    def test_what_is_wrong_is_seen_where_it_shows(self, faults: Faults, check: str, outcome: str) -> None:
        assert look(check, faults) == outcome

    def test_small_things_are_not_seen(self) -> None:
        assert causes_in(Faults(low_airflow=0.1, charge_share=0.98)) == {}


class TestTheTerminal:
    def test_it_lists_and_runs(self, capsys: pytest.CaptureFixture[str]) -> None:
        assert main(["practice", "list"]) == 0
        assert "Leave the charge alone and prove why" in capsys.readouterr().out
        assert main(["practice", "run", "low-air", "--policy", "careful"]) == 0
        said = capsys.readouterr().out
        assert "What is wrong was named." in said
        assert "not a measured unit" in said

    def test_a_file_a_seed_and_json(self, capsys: pytest.CaptureFixture[str], tmp_path: Any) -> None:
        path = tmp_path / "mine.json"
        path.write_text(exercises.shipped("low-air"), encoding="utf-8")
        assert main(["practice", "run", str(path), "--seed", "5", "--json"]) == 0
        found = json.loads(capsys.readouterr().out)
        assert (found["seed"], found["met"], found["answers"]) == (5, True, {"cause": {"said": "low_airflow", "right": True}})

    def test_what_is_no_exercise_is_said(self, capsys: pytest.CaptureFixture[str]) -> None:
        assert main(["practice", "run", "no-such"]) == 2
        assert "There is no exercise no-such" in capsys.readouterr().err
