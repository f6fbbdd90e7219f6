"""As found and Recover against the simulated unit, and laws of the leak map, the cylinder's account and the history.

The rig is not what the ranking of signs was made from; its readings are typed in as a person would.
"""

from math import fsum
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.make import NOW, findings
from yoshi_core.books import circuit as charge_history
from yoshi_core.books import cylinder as cylinder_book
from yoshi_core.books.circuit import Event
from yoshi_core.books.cylinder import Card
from yoshi_core.charge import recovery
from yoshi_core.document.plate import KINDS
from yoshi_core.errors import CoreError
from yoshi_core.findings.pictures import AsFoundPicture
from yoshi_core.findings.result import StepResult
from yoshi_core.leaks import search as leak_search
from yoshi_core.leaks.places import places_of
from yoshi_core.leaks.search import METHODS, Tried
from yoshi_core.profile.profile import Profile
from yoshi_core.rig.design import Plate, design, fahrenheit
from yoshi_core.rig.solve import solve
from yoshi_core.rig.standing import standing
from yoshi_core.rig.unit import Faults, Weather
from yoshi_core.tight_and_dry import pressure_hold
from yoshi_core.units.quantities import FAHRENHEIT_K, PSI_PA, ZERO_FAHRENHEIT_K

SEA_PA = 101_325.0
HOT = Weather(fahrenheit(95), fahrenheit(80), fahrenheit(67))


def psig(pa: float) -> str:
    return f"{(pa - SEA_PA) / PSI_PA:.1f} psig"


def degrees(kelvin: float) -> str:
    return f"{(kelvin - ZERO_FAHRENHEIT_K) / FAHRENHEIT_K:.1f} °F"


def typed(faults: Faults, metering: str = "txv", kind: str = "split") -> StepResult:
    """A unit of the rig with these faults, its readings typed into As found."""
    made = Plate(metering="txv" if metering == "txv" else "orifice")
    unit = design(made)
    state = solve(unit, HOT, faults)
    assert state.running
    sheet = {
        "standing_pressure": psig(standing(unit, HOT, faults).suction_pa),
        "standing_cold": degrees(min(HOT.outdoor_k, HOT.indoor_k)),
        "running": "settled",
        "run_time": "20 min",
        "mode": "cooling",
        "suction_pressure": psig(state.suction_pa),
        "suction_line": degrees(state.suction_k),
        "liquid_pressure": psig(state.liquid_pa),
        "liquid_line": degrees(state.liquid_k),
        "outdoor": degrees(HOT.outdoor_k),
        "return_air": degrees(state.return_k),
        "return_wet_bulb": degrees(HOT.indoor_wet_bulb_k),
        "supply": degrees(state.supply_k),
    }
    plate = {
        "refrigerant": made.refrigerant,
        "factory_charge": "6 lb",
        "kind": kind,
        "metering": metering,
        "altitude": "0 m",
        "subcooling_target": f"{made.subcooling_k / FAHRENHEIT_K:.1f} °F",
    }
    return findings(plate, kind="service", sheets={"as_found": sheet}).step("as_found")


@pytest.mark.parametrize("metering", ["txv", "orifice"])
@pytest.mark.parametrize(
    ("faults", "cause"),
    [
        (Faults(), "healthy"),
        (Faults(charge_share=0.65), "undercharge"),
        (Faults(charge_share=1.35), "overcharge"),
        (Faults(low_airflow=0.55), "low_airflow"),
        (Faults(dirty_condenser=0.6), "condenser_air"),
        (Faults(non_condensables=0.6), "non_condensables"),
    ],
    ids=["well", "short", "over", "airflow", "condenser", "air-in-it"],
)
def test_what_is_wrong_with_the_rig_is_among_the_first_three(faults: Faults, cause: str, metering: str) -> None:
    result = typed(faults, metering)
    assert not result.problems
    assert cause in [row.id for row in result.drawn(AsFoundPicture).causes[:3]]


def test_a_well_rig_is_not_called_short_and_a_warm_room_neither() -> None:
    for faults in (Faults(), Faults(high_load_k=7.0)):
        assert typed(faults).drawn(AsFoundPicture).causes[0].id != "undercharge"


def test_signs_alone_find_the_plain_faults_of_the_rig() -> None:
    # a ductless unit is ranked by the signature table; the same readings, no learned signature
    for faults, cause in ((Faults(charge_share=0.6), "undercharge"), (Faults(dirty_condenser=0.7), "condenser_air")):
        assert cause in [row.id for row in typed(faults, kind="ductless").drawn(AsFoundPicture).causes[:3]]


PLACED = st.sampled_from(sorted(KINDS))
RESULTS = st.sampled_from(["clean", "hit", "unsure"])
INSIDE: Any = st.sampled_from(["refrigerant", "little", "empty", "nitrogen"])


@given(PLACED, INSIDE, st.data())
@settings(max_examples=60)
def test_shares_of_the_leak_map_are_shares_whatever_was_tried(kind: str, inside: Any, data: st.DataObject) -> None:
    places = places_of(kind)
    ids = data.draw(st.lists(st.sampled_from([p.id for p in places]), unique=True))
    tried = {i: Tried(data.draw(st.dictionaries(st.sampled_from(sorted(METHODS)), RESULTS, max_size=3))) for i in ids}
    rows = leak_search.search(places, tried, inside)
    assert fsum(row.share for row in rows) == pytest.approx(1.0)
    assert {row.place.id for row in rows} == {p.id for p in places}
    for row in rows:
        assert 0.0 <= row.chance <= row.share + 1e-12
        assert row.minutes > 0.0


@given(PLACED, st.data())
@settings(max_examples=40)
def test_one_more_negative_never_raises_its_place(kind: str, data: st.DataObject) -> None:
    places = places_of(kind)
    place = data.draw(st.sampled_from(places)).id
    first, second = data.draw(st.lists(st.sampled_from(sorted(METHODS)), min_size=2, max_size=2, unique=True))
    once = {place: Tried({first: "clean"})}
    twice = {place: Tried({first: "clean", second: "clean"})}
    before, after = (next(r.share for r in leak_search.search(places, t, "refrigerant") if r.place.id == place) for t in (once, twice))
    assert after <= before + 1e-12


@given(st.floats(0.0, 60.0), st.floats(5.0, 60.0), st.sampled_from(["R-410A", "R-134a", "R-407C", "R-22", "R-404A"]))
def test_a_cylinders_parts_are_its_contents_and_room_ends_at_the_limit(net: float, water: float, name: str) -> None:
    told = cylinder_book.account(Card("R1", "recovery", name, "", 10.0, water, "2090-01"), net, Profile(), NOW)
    assert told.heel_kg is not None
    assert told.usable_kg is not None
    assert told.limit_kg is not None
    assert told.room_kg is not None
    assert told.heel_kg + told.usable_kg == pytest.approx(net)
    assert told.room_kg == pytest.approx(max(told.limit_kg - net, 0.0))
    assert (told.word == "Stop") == (net > told.limit_kg + cylinder_book.BOOK_KG)
    card = Card("R1", "recovery", name, "", 10.0, water, "2090-01")
    if told.room_kg > 1e-3:
        cylinder_book.may_take(card, net, told.room_kg, name, "", Profile(), NOW)
    with pytest.raises(CoreError):
        cylinder_book.may_take(card, net, told.room_kg + 1e-3, name, "", Profile(), NOW)


MOVES = st.lists(st.tuples(st.integers(0, 900), st.sampled_from(["added", "recovered"]), st.floats(0.01, 50.0)), max_size=12)


@given(MOVES)
def test_a_history_never_counts_more_than_went_in(moves: list[tuple[int, Any, float]]) -> None:
    events = [Event(NOW.replace(year=2023 + day // 365, month=1 + day % 12, day=1 + day % 28), kind, kg) for day, kind, kg in moves]
    counted = charge_history.additions(events)
    added = fsum(e.kg for e in events if e.kind == "added")
    out = fsum(e.kg for e in events if e.kind == "recovered")
    assert fsum(a.kg for a in counted) <= added + 1e-9
    assert fsum(a.kg for a in counted) >= added - out - 0.02 * len(events)


@given(st.floats(2e5, 40e5), st.floats(255, 325), st.floats(255, 325))
def test_warm_nitrogen_reads_higher_and_comes_back(start: float, cold: float, warm: float) -> None:
    there = pressure_hold.expected_pa(start, cold, warm)
    assert (there > start) == (warm > cold) or there == pytest.approx(start)
    if there <= pressure_hold.HIGHEST_PA:
        assert pressure_hold.expected_pa(there, warm, cold) == pytest.approx(start, rel=2e-3)


@given(st.floats(0.1, 400.0), st.sampled_from([None, "undercharge", "overcharge", "healthy", "condenser_air"]))
def test_what_is_expected_is_a_range_above_nothing(full: float, lead: str | None) -> None:
    low, high = recovery.expected_kg(full, lead)
    assert 0.0 < low < high < 1.4 * full
