"""The refrigerant page: both ways at a site, and a bad entry beside the good ones."""

import pytest

from yoshi_core.document import schema
from yoshi_core.errors import InvalidInput, UnknownRefrigerant
from yoshi_core.message import Message
from yoshi_core.units.quantities import FAHRENHEIT_K, ZERO_FAHRENHEIT_K
from yoshi_core.views import lookup


def page(name: str = "R-410A", pressure: str = "", temperature: str = "", altitude: str = "0 m", gauge: str = "vented", units: str = "us"):  # type: ignore[no-untyped-def]
    return lookup.saturation_page(name, pressure, temperature, altitude, gauge, units)


def in_f(kelvin: float) -> float:
    return (kelvin - ZERO_FAHRENHEIT_K) / FAHRENHEIT_K


def test_a_pressure_reads_back_as_its_temperature() -> None:
    """118 psig of R-410A is 40 °F: common service charts (from memory)."""
    found = page(pressure="118")
    assert in_f(found["dew_k"]) == pytest.approx(40.0, abs=0.6)
    back = page(temperature=f"{in_f(found['dew_k']):.4f}")
    assert back["dew_gauge_pa"] == pytest.approx(found["gauge_pa"], rel=1e-4)


def test_an_empty_page_has_its_table_and_nothing_else() -> None:
    found = page()
    assert found["problems"] == []
    assert found["dew_k"] is None
    assert found["dew_gauge_pa"] is None
    temperatures = [row["temperature_k"] for row in found["table"]]
    assert temperatures == sorted(temperatures)
    assert all(row["bubble_gauge_pa"] >= row["dew_gauge_pa"] - 1e-6 for row in found["table"])


def test_the_table_stands_on_round_numbers_of_the_readers_own() -> None:
    us, si = page(units="us")["table"], page(units="si")["table"]
    assert all(round(in_f(row["temperature_k"]), 6) % 10 == 0 for row in us)
    assert all(round(row["temperature_k"] - 273.15, 6) % 5 == 0 for row in si)


def test_a_vented_gauge_reads_higher_up_the_mountain() -> None:
    low, high = page(temperature="40 °F"), page(temperature="40 °F", altitude="2100 m")
    rise = high["dew_gauge_pa"] - low["dew_gauge_pa"]
    assert rise == pytest.approx(low["site_pressure_pa"] - high["site_pressure_pa"], rel=1e-6)
    sealed = page(temperature="40 °F", altitude="2100 m", gauge="sealed")
    assert sealed["dew_gauge_pa"] == pytest.approx(low["dew_gauge_pa"])


@pytest.mark.parametrize(
    ("entry", "path", "says"),
    [
        ({"pressure": "many"}, "/pressure", "not a number"),
        ({"pressure": "1,5"}, "/pressure", "comma"),
        ({"pressure": "9000"}, "/pressure", "R-410A"),
        ({"temperature": "40 lb"}, "/temperature", "lb"),
        ({"temperature": "900"}, "/temperature", "R-410A"),
        ({"temperature": "nan"}, "/temperature", "not a number"),
        ({"temperature": "1e400"}, "/temperature", "too large"),
        ({"altitude": "90 km"}, "/altitude", ""),
        ({"altitude": "40000 m"}, "/altitude", ""),
    ],
)
def test_a_bad_entry_is_named_and_the_rest_still_answers(entry: dict[str, str], path: str, says: str) -> None:
    good = {"pressure": "118", "temperature": "100"} | entry
    found = page(**good)
    (problem,) = found["problems"]
    assert problem["path"] == path
    said = schema.load(Message, problem["message"]).show()
    assert says in said
    assert len(said) > 15
    other = "dew_gauge_pa" if path == "/pressure" else "dew_k"
    assert found[other] is not None
    assert found["table"]


def test_what_is_no_refrigerant_or_gauge_is_refused() -> None:
    with pytest.raises(UnknownRefrigerant):
        page("R-999X")
    with pytest.raises(InvalidInput, match="vented or sealed"):
        page(gauge="bent")


def test_the_catalogue_says_of_each_what_a_technician_asks() -> None:
    rows = {row["name"]: row for row in lookup.catalogue()}
    assert rows["R-22"]["glide_k"] == pytest.approx(0.0, abs=1e-6)
    assert rows["R-407C"]["glide_k"] > 4
    assert rows["R-32"]["safety_class"] == "A2L"
    assert rows["R-407C"]["liquid_only"] is True
    assert all(sum(p["mass_share"] for p in row["parts"]) == pytest.approx(1.0, abs=1e-6) for row in rows.values() if row["parts"])
