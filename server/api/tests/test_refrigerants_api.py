"""Refrigerants over the API: the core's numbers, in both directions, at the site's altitude."""

import pytest

from conftest import Api
from yoshi_core.properties import saturation
from yoshi_core.units.quantities import PSI_PA

pytestmark = pytest.mark.django_db


def test_the_catalogue_names_class_glide_and_composition(api: Api) -> None:
    rows = {r["name"]: r for r in api.get("/refrigerants").json()}
    assert len(rows) == 27
    assert rows["R-407C"]["glide_k"] > 5
    assert rows["R-32"]["liquid_only"] is False
    assert rows["R-410A"]["parts"] == [{"name": "R-32", "mass_share": 0.5}, {"name": "R-125", "mass_share": 0.5}]


def test_both_directions_at_altitude(api: Api) -> None:
    page = api.get("/refrigerants/R-410A/saturation", pressure="128", temperature="100", altitude="2100 m").json()
    assert (page["dew_k"] - 255.3722) * 1.8 == pytest.approx(42.73, abs=0.02)
    assert (page["sealed_dew_k"] - 255.3722) * 1.8 == pytest.approx(44.12, abs=0.02)
    expected = saturation.dew_pressure_pa("R-410A", 310.9278) - page["site_pressure_pa"]
    assert page["dew_gauge_pa"] == pytest.approx(expected, rel=1e-5)
    assert page["gauge_pa"] == pytest.approx(128 * PSI_PA)
    assert not page["problems"]


@pytest.mark.parametrize(
    ("ask", "path"),
    [
        ({"pressure": "abc"}, "/pressure"),
        ({"pressure": "99999"}, "/pressure"),
        ({"pressure": "-14"}, "/pressure"),
        ({"temperature": "400 °F"}, "/temperature"),
        ({"altitude": "90000 m"}, "/altitude"),
        ({"pressure": "12,5"}, "/pressure"),
    ],
)
def test_a_bad_entry_is_a_problem_beside_the_rest(api: Api, ask: dict[str, str], path: str) -> None:
    answer = api.get("/refrigerants/R-410A/saturation", **{"altitude": "2100 m", **ask})
    assert answer.status_code == 200
    assert [p["path"] for p in answer.json()["problems"]] == [path]


def test_an_unknown_refrigerant_and_gauge_are_refused(api: Api) -> None:
    assert api.get("/refrigerants/R-999/saturation").json()["code"] == "unknown_refrigerant"
    assert api.get("/refrigerants/R-32/saturation", gauge="magic").json()["path"] == "/gauge"
