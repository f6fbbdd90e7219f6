"""Sites, systems and circuits: whose they are, how they come from a file, and that nothing is written in part."""

from typing import Any

import pytest

from accounts.models import Shop
from conftest import Api
from systems.actions.import_csv import COLUMNS
from systems.actions.table import MOST_ROWS, read_rows
from systems.models import Circuit, CircuitRevision, Site, System
from systems.queries import circuits_of
from tasks.queue import run_all
from yoshi_core.errors import InvalidInput

pytestmark = pytest.mark.django_db
HEAD = "site,system,circuit,name,refrigerant,factory_charge,kind,altitude\n"
ROWS = "Ridge,Dome,D-1,Dome split,r410a,9 lb 4 oz,split,2100 m\nRidge,Dome,D-2,,R-22,7 lb,split,\nHut,Cooler,C-1,,R-290,150 g,reach_in,\n"


def written() -> tuple[int, int, int]:
    return Site.objects.count(), System.objects.count(), Circuit.objects.count()


def problems(report: dict[str, Any]) -> list[tuple[int, str]]:
    return [(row["row"], row["problem"]) for row in report["rows"]]


def test_a_file_makes_its_sites_systems_and_circuits_with_their_first_revision(api: Api) -> None:
    assert api.take_in("/systems", HEAD + ROWS)["written"] == 3
    assert written() == (2, 2, 3)
    first = Circuit.objects.get(code="D-1")
    assert (first.name, first.system.name, first.system.site.name) == ("Dome split", "Dome", "Ridge")
    assert first.plate["factory_charge"]["value"] == pytest.approx(4.19573, abs=1e-5)
    revision = CircuitRevision.objects.get(circuit=first)
    assert (revision.revision, revision.plate, revision.reason) == (1, first.plate, "imported from a file")
    assert Circuit.objects.get(code="D-2").name == "Dome"


@pytest.mark.parametrize(
    ("row", "says"),
    [
        ("Ridge,,D-9,,R-22,7 lb,split,", "system is empty."),
        ("Ridge,Dome,D-1,,R-22,7 lb,split,", "The circuit D-1 stands twice in the file"),
        ("Ridge,Roof,d-1,,R-22,7 lb,split,", "The circuit d-1 stands twice in the file"),
        ("Ridge,Dome,D/9,,R-22,7 lb,split,", "Circuit has none of / "),
        ("Ridge,Dome,import,,R-22,7 lb,split,", "“import” is kept for something else"),
        (f"Ridge,{'D' * 121},D-9,,R-22,7 lb,split,", "System takes up to 120 characters"),
        (f"Ridge,Dome,{'D' * 41},,R-22,7 lb,split,", "Circuit takes up to 40 characters"),
        ('Ridge,"Do\nme",D-9,,R-22,7 lb,split,', "System stands on one line"),
        ("Ridge,Dome,D-9,,R-22,seven,split,", "factory_charge: "),
        ("Ridge,Dome,D-9,,R-22,7 lb,sleigh,", "kind: "),
        ("Ridge,Dome,D-9,,R-22,9999 lb,split,", "factory_charge: "),
    ],
)
def test_one_wrong_row_and_nothing_is_written(api: Api, row: str, says: str) -> None:
    report = api.take_in("/systems", HEAD + ROWS + row + "\n")
    assert (report["written"], report["wrong"]) == (0, 1)
    [(number, said)] = problems(report)
    assert number == 4
    assert said.startswith(says)
    assert written() == (0, 0, 0)


def test_the_same_file_twice_names_each_circuit_there_is(api: Api) -> None:
    api.take_in("/systems", HEAD + ROWS)
    again = api.take_in("/systems", HEAD + ROWS)
    assert again["written"] == 0
    assert problems(again) == [(n, f"There is a circuit {code} already.") for n, code in ((1, "D-1"), (2, "D-2"), (3, "C-1"))]
    assert written() == (2, 2, 3)


def test_the_same_request_twice_is_done_once(api: Api) -> None:
    first = api.post("/systems/import", text=HEAD + ROWS, key="the-same-import-1")
    assert api.post("/systems/import", text=HEAD + ROWS, key="the-same-import-1").json() == first.json()
    run_all()
    assert written() == (2, 2, 3)


def test_a_shop_sees_its_own_circuits_by_site_and_name(api: Api, shop: Shop) -> None:
    api.take_in("/systems", HEAD + ROWS)
    other = Site.objects.create(shop=Shop.objects.create(name="Another Shop"), name="Elsewhere")
    Circuit.objects.create(system=System.objects.create(site=other, name="Theirs"), code="D-1", name="Theirs")
    assert [row.code for row in circuits_of(shop)] == ["C-1", "D-1", "D-2"]
    assert {row["name"] for row in api.get("/systems").json()["rows"]} == {"Cooler", "Dome", "Dome split"}


def test_two_shops_may_call_a_circuit_the_same(api: Api) -> None:
    other = Site.objects.create(shop=Shop.objects.create(name="Another Shop"), name="Elsewhere")
    Circuit.objects.create(system=System.objects.create(site=other, name="Theirs"), code="D-1", name="Theirs")
    assert api.take_in("/systems", HEAD + ROWS)["written"] == 3


class TestRows:
    def test_columns_come_in_any_order_and_case_with_a_byte_mark(self) -> None:
        assert read_rows("\ufeffCircuit, SITE\nD-1, Ridge \n", COLUMNS) == [{"circuit": "D-1", "site": "Ridge"}]

    @pytest.mark.parametrize(
        ("text", "says"),
        [
            ("site,colour\nRidge,red\n", "colour is not"),
            ("", "none is not"),
            ("site,system\n", "There is no row"),
            ('site,system\n"Ridge,Dome\n', "not a whole CSV file"),
            ("site\n" + "Ridge\n" * (MOST_ROWS + 1), f"At most {MOST_ROWS} rows"),
        ],
    )
    def test_a_file_that_is_none_is_refused_in_words(self, text: str, says: str) -> None:
        with pytest.raises(InvalidInput, match=says) as caught:
            read_rows(text, COLUMNS)
        assert caught.value.path == "/text"

    def test_just_so_many_rows_are_taken(self) -> None:
        assert len(read_rows("site\n" + "Ridge\n" * MOST_ROWS, COLUMNS)) == MOST_ROWS
