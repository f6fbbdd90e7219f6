"""Recovered before we came: found empty, or taken out by another firm that hands its sheet down; and what a scale not read yet says."""

from typing import Any

import pytest

from tests.whole_jobs.day import PAIRED, RECOVER, SITE, Day, draw

SPLIT: dict[str, Any] = {**SITE, **PAIRED, "refrigerant": "R-410A", "kind": "split", "factory_charge": "8 lb", "included_length": "15 ft"}
SHEET = {"way": "handed", "firm": "another firm", "finished": True, "told": "6 lb 2 oz"}
READ = {"end_pressure": "0 psig", "waited": "10 min", "risen_to": "0.2 psig"}


def opened(**as_found: Any) -> Day:
    day = Day("08:00")
    day.type("identify", **SPLIT)
    if as_found:
        day.type("as_found", running="off", **as_found)
        day.close("as_found", "as it stood")
    else:
        day.leave("as_found", "taken apart already")
    day.leave("leak_search", "found before")
    return day


def test_nothing_is_asked_of_a_circuit_found_empty() -> None:
    day = opened(standing_pressure="0 psig", standing_cold="80 °F")
    found = day.found.step("recover")
    assert (found.verdict.word, found.missing) == ("Holds", ())
    assert found.verdict.headline.show() == "It was found empty: there is nothing to recover."
    assert (found.summary.show(), found.figures) == ("found empty", ())
    day.close("recover")
    assert day.claim("emptied").standing == "shown"


def test_one_that_held_pressure_is_recovered() -> None:
    day = opened(standing_pressure="50 psig", standing_cold="75 °F")
    assert [missing.path.rsplit("/", 1)[1] for missing in day.found.step("recover").missing] == ["way"]


def test_before_an_end_weight_nothing_was_recovered() -> None:
    day = opened()
    cylinder = {"cylinder": "R-1", "contents": "evacuated", "gross_start": "27 lb", "tare": "27 lb", "water_capacity": "47.7 lb"}
    found = day.type("recover", **RECOVER, cylinders={"c1": cylinder})
    assert found.verdict.word == "Open"
    assert "recovered" not in found.verdict.headline.show()
    assert [missing.path.rsplit("/", 1)[1] for missing in found.missing] == ["gross_now"]


def test_another_firms_sheet_shows_it_emptied_and_weighs_nothing() -> None:
    day = opened()
    day.type("recover", **SHEET, **READ)
    assert day.word("recover") == "Holds"
    assert day.claim("emptied").standing == "shown"
    assert "Recovered by another firm, by its sheet. 6 lb 2.0 oz came out, so it says." in day.claim("emptied").words.show()
    assert (day.found.step("recover").summary.show(), day.found.step("recover").figures) == ("by another firm", ())
    assert day.inside == "empty"
    assert not day.found.step("recover").movements
    day.type("weigh_in", system_state="empty", draws={"d1": draw("14", "30 lb", "22 lb")})
    assert day.inside.startswith("8 lb 0.0 oz")


@pytest.mark.parametrize("without", ["firm", "end_pressure", "waited", "risen_to", "finished"])
def test_a_sheet_that_does_not_say_it_all_is_only_told(without: str) -> None:
    day = opened()
    day.type("recover", **{key: value for key, value in {**SHEET, **READ}.items() if key != without})
    assert [missing.path.rsplit("/", 1)[1] for missing in day.found.step("recover").missing] == [without]
    assert day.claim("emptied").standing == "not_yet"
    emptied = [row for row in day.found.inside.rows if row.text.show() == "Emptied"]
    assert [row.known for row in emptied] == ([] if without == "finished" else ["told"])


def test_a_sheet_that_ends_too_high_says_so() -> None:
    day = opened()
    day.type("recover", **SHEET, **{**READ, "end_pressure": "30 psig"})
    assert day.rules("recover")["recover.level"] == "Wait"
    assert day.claim("emptied").standing == "not_yet"


@pytest.mark.parametrize(
    ("acid", "words"), [("clean", "The acid test is clean"), (None, "Not tested for acid"), ("not_tested", "Not tested for acid")]
)
def test_clean_takes_an_acid_test(acid: str | None, words: str) -> None:
    day = opened()
    cylinder = {
        "cylinder": "R-1",
        "contents": "evacuated",
        "gross_start": "27 lb",
        "tare": "27 lb",
        "water_capacity": "47.7 lb",
        "gross_now": "35 lb",
    }
    reuse = {**RECOVER, "use": "reuse", "burnout": False, "same_owner": True}
    day.type("recover", **reuse, cylinders={"c1": cylinder}, finished=True, **READ, **({"acid": acid} if acid else {}))
    assert day.told("recover", "recovered.use").startswith(words)
