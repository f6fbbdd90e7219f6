"""The account as it is shown: each line in words, what is inside after it, what belongs in."""

from typing import Any

import pytest

from tests.make import PLATE, WEIGHED, findings, oz
from tests.make_closed import RECOVERED, UNIT
from yoshi_core.account.account import Balance
from yoshi_core.findings.inside import Inside
from yoshi_core.job.inside import words
from yoshi_core.message import worded
from yoshi_core.units.quantities import LB_KG, OZ_KG


def shown(inside: Inside) -> list[tuple[str, str, float | None, str, str]]:
    return [
        (row.text.show(), worded(row.note), None if row.change is None else round(oz(row.change.value), 1), row.known, row.after.show())
        for row in inside.rows
    ]


def test_a_service_job_from_recovery_to_trim() -> None:
    draws = {"d1": {"cylinder": "21", "gross_start": "20 lb", "tare": "9 lb", "gross_end": "14 lb", "hose_loss": "0.5 oz"}}
    verify = {"readings": {"r1": {"removed": "2 oz", "cylinder": "R4"}}}
    recover = {**RECOVERED, "residue": "1 oz"}
    found = findings(UNIT, {"system_state": "empty", "draws": draws}, verify, kind="service", sheets={"recover": recover})
    assert shown(found.inside) == [
        ("Taken out", "into R4", 96.0, "weighed", "not known"),
        ("Taken out", "left in hoses and machine", 1.0, "assumed", "not known"),
        ("Emptied", "recovery ended", None, "measured", "empty"),
        ("Put in", "cylinder 21", 95.5, "weighed", "5 lb 15.5 oz ± 0.8 oz"),
        ("Taken out", "into R4", 2.0, "weighed", "5 lb 13.5 oz ± 1.2 oz"),
    ]
    assert [row.step for row in found.inside.rows] == ["recover", "recover", "recover", "weigh_in", "verify"]
    assert found.inside.belongs is not None
    assert found.inside.belongs.value == pytest.approx(6 * LB_KG)
    assert found.inside.now.show() == "5 lb 13.5 oz ± 1.2 oz"
    assert found.inside.known == "weighed"


@pytest.mark.parametrize(
    ("sheet", "told"),
    [
        ({"system_state": "empty"}, ("Found empty", "", None, "measured", "empty")),
        ({"system_state": "precharged", "inside": "5 lb"}, ("As it came", "", None, "stamped", "5 lb 0.0 oz")),
        ({"system_state": "holding", "inside": {"text": "3 lb", "source": "told"}}, ("Inside, as said", "", None, "told", "3 lb 0.0 oz")),
    ],
)
def test_what_a_person_says_is_inside(sheet: dict[str, Any], told: tuple[Any, ...]) -> None:
    assert shown(findings(PLATE, sheet).inside)[0] == told
    shut = [row.text.show() for row in findings(PLATE, sheet).inside.rows[1:]]
    assert shut == (["Shut in, valves shut on it"] if sheet["system_state"] == "precharged" else [])


def test_other_circuits_told_figures_and_shut_valves() -> None:
    gift = {"kind": "transfer_in", "key": "AX-2", "as_of": "2026-06-17T10:00:00+00:00", "source": "book", "values": {"mass_kg": LB_KG}}
    found = findings(PLATE, {"system_state": "empty"}, facts=[gift])
    assert shown(found.inside)[-1] == ("Put in", "from another circuit", 16.0, "weighed", "1 lb 0.0 oz")
    out = findings(UNIT, kind="service", sheets={"recover": {"way": "cylinder", "told": "2 lb"}})
    assert shown(out.inside) == [("Taken out", "as told", 32.0, "told", "not known")]
    shut = findings(UNIT, kind="service", sheets={"recover": {"way": "pump_down", "finished": True}})
    most = "not known, at most 6 lb 0.0 oz"
    assert shown(shut.inside) == [
        ("Pumped down, as on record if nobody topped it up", "", None, "on record", most),
        ("Shut in, valves shut on it", "", None, "measured", most),
    ]


def test_a_word_for_what_is_known_and_a_hose_are_not_shown() -> None:
    found = findings(UNIT, {**WEIGHED, "system_state": "empty"}, kind="service", sheets={"recover": RECOVERED})
    assert [row.text.show() for row in found.inside.rows] == ["Taken out", "Emptied", "Put in"]


@pytest.mark.parametrize(
    ("balance", "text"),
    [
        (Balance(), "not known"),
        (Balance(10 * OZ_KG), "not known, at least 10.0 oz"),
        (Balance(0.0, 3 * LB_KG), "not known, at most 3 lb 0.0 oz"),
        (Balance(LB_KG, 3 * LB_KG), "1 lb 0.0 oz to 3 lb 0.0 oz"),
        (Balance(0.0, 0.0), "empty"),
        (Balance(LB_KG, LB_KG, 0.5 * OZ_KG), "1 lb 0.0 oz ± 1.0 oz"),
    ],
)
def test_a_balance_in_words(balance: Balance, text: str) -> None:
    assert words(balance).show() == text
