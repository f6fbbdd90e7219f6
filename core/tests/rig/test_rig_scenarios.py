"""Scenarios and `yoshi rig`: every shipped one runs, every mistake is named with its place."""

import csv
import io
import json
from pathlib import Path

import pytest

from yoshi_core.cli.main import main
from yoshi_core.errors import InvalidInput
from yoshi_core.rig import scenario

BASE = {"format": "yoshi-rig-scenario", "version": 1, "kind": "unit", "lasts": "2 min", "every": "30 s"}


def rows(**change: object) -> list[scenario.Row]:
    return list(scenario.run(scenario.loads(json.dumps({**BASE, **change}))))


@pytest.mark.parametrize("name", scenario.SHIPPED)
def test_every_shipped_scenario_runs_to_its_end(name: str) -> None:
    found = scenario.loads(scenario.shipped(name))
    course = list(scenario.run(found))
    assert len(course) == round(found.lasts_s / found.every_s)
    assert course[-1]["time_s"] == found.lasts_s
    assert found.about
    for row in course:
        assert all(value == value for value in row.values())


def test_the_shipped_ones_show_what_they_say() -> None:
    def course(name: str) -> list[scenario.Row]:
        return list(scenario.run(scenario.loads(scenario.shipped(name))))

    assert "high cut-out" in {row["state"] for row in course("dirty-condenser-trips")}
    assert "low cut-out" in {row["state"] for row in course("short-cycling")}
    assert any(row["stalled"] for row in course("cold-cylinder-stalls"))
    warming, leaking = course("nitrogen-tight-warming"), course("nitrogen-leak")
    assert float(warming[-1]["gauge_pa"] or 0) > float(warming[0]["gauge_pa"] or 0)
    assert float(leaking[-1]["gauge_pa"] or 0) < float(leaking[0]["gauge_pa"] or 0)
    trimmed = course("trim-three-additions")
    assert float(trimmed[-1]["suction_line_k"] or 0) < float(trimmed[15]["suction_line_k"] or 0) - 5.0


def test_the_same_scenario_twice_is_the_same() -> None:
    text = scenario.shipped("undercharged-orifice")
    assert list(scenario.run(scenario.loads(text))) == list(scenario.run(scenario.loads(text)))


def test_instruments_can_be_wrong_and_silent() -> None:
    wrong = {"suction": {"zero_error": "10 psi"}, "liquid": {"drop_share": 1.0}}
    good, bad = rows(), rows(instruments=wrong)
    assert float(bad[-1]["suction_gauge_pa"] or 0) - float(good[-1]["suction_gauge_pa"] or 0) == pytest.approx(68_948, rel=0.02)
    assert bad[-1]["liquid_gauge_pa"] is None


@pytest.mark.parametrize(
    ("change", "path", "says"),
    [
        ({"format": "other"}, "/format", "not a yoshi-rig-scenario"),
        ({"version": 9}, "/version", "version 9"),
        ({"kind": "kettle"}, "/kind", "unit, nitrogen and vacuum"),
        ({"lasts": "-5 min"}, "/lasts", ""),
        ({"lasts": "900 h"}, "/lasts", "48 h"),
        ({"colour": "red"}, "/colour", "not known here"),
        ({"unit": {"charge": "6 stone"}}, "/unit/charge", "stone"),
        ({"unit": {"tons": "three"}}, "/unit/tons", "from 0.05 to 50"),
        ({"unit": {"metering": "magic"}}, "/unit/metering", "orifice"),
        ({"unit": []}, "/unit", "object"),
        ({"faults": {"gremlins": 1}}, "/faults/gremlins", "no fault"),
        ({"faults": {"dirty_condenser": "very"}}, "/faults/dirty_condenser", "float"),
        ({"weather": {"outdoor": "warm"}}, "/weather/outdoor", "not a number"),
        ({"events": [{"do": "start"}]}, "/events/0/at", "missing"),
        ({"events": [{"at": "1 min", "do": "dance"}]}, "/events/0/do", "start, stop"),
        ({"events": [{"at": "1 min", "do": "charge", "cylinder": "x"}]}, "/events/0/cylinder", "no cylinder"),
        ({"events": {}}, "/events", "list"),
        ({"cylinders": {"a": {"tare": "9 lb", "gross": "20 lb"}}}, "/cylinders/a/water_capacity", "missing"),
        ({"instruments": {"suction": {"drop_share": 3}}}, "/instruments/suction/drop_share", "from 0 to 1"),
    ],
)
def test_a_mistake_is_named_with_its_place(change: dict[str, object], path: str, says: str) -> None:
    with pytest.raises(InvalidInput) as caught:
        rows(**change)
    assert caught.value.path == path
    assert says in caught.value.message


@pytest.mark.parametrize("text", ["", "{", "[]", '"x"', "null"])
def test_what_is_no_scenario_is_refused(text: str) -> None:
    with pytest.raises(InvalidInput):
        scenario.loads(text)


def test_design_prints_and_gives_json(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["rig", "design", "--tons", "3", "--charge", "6 lb"]) == 0
    printed = capsys.readouterr().out
    assert "10.55 kW" in printed
    assert "not against a measured unit" in printed
    assert main(["rig", "design", "--refrigerant", "R-22", "--metering", "txv", "--json"]) == 0
    assert json.loads(capsys.readouterr().out)["refrigerant"] == "R-22"


def test_solve_reads_gauges_and_says_when_it_cannot_run(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["rig", "solve"]) == 0
    printed = capsys.readouterr().out
    assert "13.0 °F" in printed
    assert main(["rig", "solve", "--inside", "75%", "--units", "si"]) == 0
    assert "bar" in capsys.readouterr().out
    assert main(["rig", "solve", "--inside", "4 lb 8 oz", "--json"]) == 0
    assert json.loads(capsys.readouterr().out)["name"] == "running"
    assert main(["rig", "solve", "--fault", "condenser_fan_off=1"]) == 1
    assert "tripped high" in capsys.readouterr().out
    assert main(["rig", "solve", "--heating", "--heat-pump", "--accumulator-l", "3"]) == 0
    assert "taken from outdoors" in capsys.readouterr().out


@pytest.mark.parametrize(
    "arguments",
    [
        ["design", "--tons", "many"],
        ["design", "--refrigerant", "R-999X"],
        ["design", "--charge", "6 lb 17 oz"],
        ["solve", "--fault", "dirty_condenser"],
        ["solve", "--fault", "dirty_condenser=lots"],
        ["solve", "--fault", "dirty_condenser=7"],
        ["solve", "--inside", "half"],
        ["solve", "--outdoor", "900F"],
        ["solve", "--fault", "other_share=0.3"],
        ["solve", "--fault", "other_share=0.3", "--fault", "other_refrigerant=R-999X"],
        ["run", "no-such-scenario"],
    ],
)
def test_what_cannot_be_read_is_exit_code_2_and_a_sentence(arguments: list[str], capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["rig", *arguments]) == 2
    said = capsys.readouterr().err.strip()
    assert len(said) > 15
    assert "Traceback" not in said


def test_run_lists_and_writes_text_json_and_csv(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["rig", "run"]) == 0
    assert len(capsys.readouterr().out.splitlines()) == len(scenario.SHIPPED) >= 12
    assert main(["rig", "run", "vacuum-leak"]) == 0
    assert "micron" in capsys.readouterr().out
    assert main(["rig", "run", "undercharged-valve", "--format", "csv"]) == 0
    table = list(csv.DictReader(io.StringIO(capsys.readouterr().out)))
    assert float(table[-1]["suction_gauge_pa"]) > 500e3
    file = tmp_path / "mine.json"
    file.write_text(json.dumps({**BASE, "name": "mine", "events": [{"at": "0 s", "do": "start"}]}))
    assert main(["rig", "run", str(file), "--format", "json"]) == 0
    assert len(json.loads(capsys.readouterr().out)["rows"]) == 4
