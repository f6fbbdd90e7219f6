"""What would read so: the fits know readings and a plate, name the fault that is there, and move as the rig moves."""

import json
from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import pytest

from yoshi_core.cli.main import main
from yoshi_core.diagnosis.observed import Observed
from yoshi_core.errors import InvalidInput
from yoshi_core.job import documents
from yoshi_core.practice.asked import asked_of
from yoshi_core.practice.fits import Asked, after, fits
from yoshi_core.profile.profile import Profile
from yoshi_core.rig.design import Plate, design
from yoshi_core.rig.solve import solve
from yoshi_core.rig.unit import Faults, State
from yoshi_core.units.quantities import FAHRENHEIT_K, OZ_KG

EXAMPLES = Path(__file__).resolve().parents[3] / "examples"
NOW = datetime(2026, 6, 18, 15, 11, tzinfo=UTC)


def settled(plate: Plate, faults: Faults) -> State:
    return solve(design(plate), plate.weather, faults)


def read(plate: Plate, faults: Faults, **more: Any) -> Asked:
    state, weather = settled(plate, faults), plate.weather
    family: Any = "valve" if plate.metering == "txv" else "fixed"
    pressures = (state.suction_pa, state.suction_k, state.liquid_pa, state.liquid_k)
    air = (weather.outdoor_k, state.return_k, weather.indoor_wet_bulb_k, state.supply_k)
    target = plate.subcooling_k if family == "valve" else None
    observed = Observed(plate.refrigerant, family, *pressures, *air, None, target)
    return Asked(replace(observed, **more), plate.charge_kg)


ORIFICE, VALVE = Plate(metering="orifice"), Plate(metering="txv")


@pytest.mark.parametrize(
    ("plate", "faults", "cause"),
    [
        (ORIFICE, Faults(charge_share=0.75), "undercharge"),
        (VALVE, Faults(charge_share=1.3), "overcharge"),
        (VALVE, Faults(charge_share=0.7), "undercharge"),
        (ORIFICE, Faults(low_airflow=0.55), "low_airflow"),
        (ORIFICE, Faults(dirty_condenser=0.6), "condenser_air"),
        (VALVE, Faults(valve_flooding=0.7), "valve_flooding"),
        (ORIFICE, Faults(orifice_scale=0.7), "orifice_small"),
    ],
)
def test_the_fault_that_is_there_is_among_three_and_what_is_inside_is_near(plate: Plate, faults: Faults, cause: str) -> None:
    found = fits(read(plate, faults))
    assert 1 <= len(found) <= 3
    by_cause = {fit.cause: fit for fit in found}
    assert cause in by_cause
    assert by_cause[cause].charge_kg == pytest.approx(faults.charge_share * plate.charge_kg, rel=0.08)
    shares = [fit.share for fit in found]
    assert shares == sorted(shares, reverse=True)
    assert 0.5 < sum(shares) <= 1.0 + 1e-9


@pytest.mark.parametrize("added_oz", [-4.0, 4.0])
def test_an_addition_moves_superheat_as_the_rig_does(added_oz: float) -> None:
    short = Faults(charge_share=0.85)
    asked = read(ORIFICE, short)
    then = after(fits(asked)[0], asked.observed, added_oz * OZ_KG)
    share = short.charge_share + added_oz * OZ_KG / ORIFICE.charge_kg
    truth = settled(ORIFICE, Faults(charge_share=share))
    assert then.superheat_k == pytest.approx(truth.superheat_k, abs=3.0 * FAHRENHEIT_K)
    assert then.subcooling_k == pytest.approx(truth.subcooling_k, abs=3.0 * FAHRENHEIT_K)
    assert (then.superheat_k < settled(ORIFICE, short).superheat_k) is (added_oz > 0)  # type: ignore[operator]


def test_so_much_out_that_it_would_not_run_has_no_reading() -> None:
    asked = read(ORIFICE, Faults(charge_share=0.85))
    then = after(fits(asked)[0], asked.observed, -ORIFICE.charge_kg)
    assert (then.superheat_k, then.subcooling_k) == (None, None)


def test_too_little_was_read() -> None:
    with pytest.raises(InvalidInput, match="Both pressures"):
        fits(read(ORIFICE, Faults(), liquid_pa=None))
    with pytest.raises(InvalidInput, match="outdoor air"):
        fits(read(ORIFICE, Faults(), outdoor_k=None))


class TestOfAJob:
    def job(self, name: str) -> Any:
        return documents.loads((EXAMPLES / name).read_text()).job

    def test_its_last_reading_and_its_own_total_are_asked(self) -> None:
        asked = asked_of(self.job("01-control-room.json"), Profile(), NOW)
        assert asked.charge_kg == pytest.approx(167.5 * OZ_KG, abs=0.01)
        assert (asked.observed.refrigerant, asked.observed.family) == ("R-410A", "valve")
        assert asked.site_pa < 80_000.0

    def test_before_anything_was_read_it_says_so(self) -> None:
        plain = documents.dump_job(self.job("01-control-room.json"))
        plain["steps"]["verify"]["runs"][0]["sheet"].pop("readings")
        with pytest.raises(InvalidInput, match="Nothing was read"):
            asked_of(documents.load_job(plain), Profile(), NOW)
        plain["steps"]["identify"]["runs"][0]["sheet"].pop("factory_charge")
        with pytest.raises(InvalidInput, match="See Identify"):
            asked_of(documents.load_job(plain), Profile(), NOW)

    def test_of_a_unit_of_another_kind_the_rig_has_no_opinion(self) -> None:
        plain = documents.dump_job(self.job("01-control-room.json"))
        plain["steps"]["identify"]["runs"][0]["sheet"]["kind"] = "reach_in"
        with pytest.raises(InvalidInput, match="other kinds"):
            asked_of(documents.load_job(plain), Profile(), NOW)

    def test_what_is_read_heating_is_not_put_on_it(self) -> None:
        plain = documents.dump_job(self.job("01-control-room.json"))
        plain["steps"]["verify"]["runs"][0]["sheet"]["mode"] = "heating"
        with pytest.raises(InvalidInput, match="cooling"):
            asked_of(documents.load_job(plain), Profile(), NOW)

    def test_the_terminal_says_three_and_whose_opinion_it_is(self, capsys: pytest.CaptureFixture[str]) -> None:
        assert main(["practice", "what-if", str(EXAMPLES / "01-control-room.json"), "--add", "6 oz"]) == 0
        said = capsys.readouterr().out
        assert said.count("% ") == 3
        assert said.count("then superheat") == 3
        assert "no verdict" in said

    def test_a_document_without_liquid_pressure_is_refused_in_words(self, capsys: pytest.CaptureFixture[str], tmp_path: Any) -> None:
        plain = json.loads((EXAMPLES / "01-control-room.json").read_text())
        for row in plain["job"]["steps"]["verify"]["runs"][0]["sheet"]["readings"].values():
            row.pop("liquid_pressure", None)
        path = tmp_path / "job.json"
        path.write_text(json.dumps(plain), encoding="utf-8")
        assert main(["practice", "what-if", str(path)]) == 2
        assert "Both pressures" in capsys.readouterr().err
