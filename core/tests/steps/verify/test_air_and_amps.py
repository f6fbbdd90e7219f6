"""Air split and compressor amps in the proof: where they were read they count, one alone no more than one rule of thumb does."""

from typing import Any, cast

import pytest

from tests.make import PLATE, RUNNING, WEIGHED, findings
from tests.make_closed import rules
from yoshi_core.job.evaluate import Findings

FIRST: dict[str, Any] = dict(cast("dict[str, Any]", RUNNING["readings"])["r1"])
WELL = {"return_air": "75 °F", "supply": "56 °F", "amps": "8 A", "rated_amps": "10 A"}


def ran(plate: dict[str, Any] | None = None, as_found: dict[str, Any] | None = None, **reading: Any) -> Findings:
    verify = {**RUNNING, "readings": {"r1": {**FIRST, **reading}}}
    sheets = {} if as_found is None else {"as_found": as_found}
    return findings({**PLATE, **(plate or {})}, WEIGHED, verify, kind="service", sheets=sheets)


@pytest.mark.parametrize(
    ("reading", "split", "drawn"),
    [
        (WELL, "Holds", "Holds"),
        ({**WELL, "supply": "71 °F"}, "Open", "Holds"),
        ({**WELL, "supply": "40 °F"}, "Open", "Holds"),
        ({**WELL, "amps": "4 A"}, "Holds", "Open"),
        ({**WELL, "amps": "11 A"}, "Holds", "Open"),
        ({"return_air": "75 °F", "amps": "8 A"}, None, None),
    ],
)
def test_each_against_its_band_where_it_was_read(reading: dict[str, str], split: str | None, drawn: str | None) -> None:
    said = rules(ran(**reading).step("verify"))
    assert (said.get("verify.split"), said.get("verify.drawn")) == (split, drawn)


def test_a_humid_room_splits_less_and_its_wet_bulb_says_so() -> None:
    dry = {"return_air": "75 °F", "supply": "66 °F"}  # 9 °F: inside only while nobody knows how humid it is
    assert rules(ran(**dry).step("verify"))["verify.split"] == "Holds"
    assert rules(ran(**dry, return_wet_bulb="60 °F").step("verify"))["verify.split"] == "Open"


def test_what_it_is_rated_at_may_have_been_typed_when_it_was_found() -> None:
    found = ran(as_found={"running": "settled", "amps": "4 A", "rated_amps": "10 A"}, amps="4 A")
    assert rules(found.step("verify"))["verify.drawn"] == "Open"


def test_one_out_of_its_band_is_no_fault_yet_and_two_are() -> None:
    """Right by its target, and air that hardly cools with a compressor that hardly draws: valves that leak, whatever subcooling says."""
    well = ran(**WELL)
    assert well.claim("runs").standing == "shown"
    assert ran(**{**WELL, "supply": "71 °F"}).claim("runs").standing != "contradicted"
    assert ran(**{**WELL, "supply": "71 °F", "amps": "4 A"}).claim("runs").standing == "contradicted"


def test_in_heating_no_split_of_cooling_is_asked() -> None:
    found = findings({**PLATE, "kind": "heat_pump"}, WEIGHED, {**RUNNING, "mode": "heating", "readings": {"r1": WELL}}, kind="service")
    assert "verify.split" not in rules(found.step("verify"))
