"""Balances of whole days of work, act by act, to a tenth of an ounce; and what the cylinder book keeps of them."""

from collections.abc import Mapping
from datetime import timedelta
from itertools import pairwise, permutations
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.make import NOW, oz
from yoshi_core.account.account import Account
from yoshi_core.document import ledger
from yoshi_core.document.model import Job
from yoshi_core.job import documents
from yoshi_core.job.evaluate import evaluate
from yoshi_core.job.inside import words
from yoshi_core.profile.profile import Profile
from yoshi_core.steps.account_of import account_of_job
from yoshi_core.steps.plates import current_plate
from yoshi_core.units.quantities import LB_KG

START = NOW - timedelta(hours=10)


def at(minutes: float) -> str:
    return (START + timedelta(minutes=minutes)).isoformat()


def read(text: str, minutes: float) -> dict[str, str]:
    return {"text": text, "source": "weighed", "at": at(minutes)}


def draw(cylinder: str, start: str, end: str, minutes: float, **more: Any) -> dict[str, Any]:
    return {"cylinder": cylinder, "gross_start": read(start, minutes), "gross_end": read(end, minutes + 5), **more}


def taken(cylinder: str, start: str, now: str, minutes: float) -> dict[str, Any]:
    return {"cylinder": cylinder, "contents": "evacuated", "gross_start": read(start, minutes), "gross_now": read(now, minutes + 5)}


def day(kind: str = "service", visits: int = 1, **sheets: Any) -> Job:
    """A job of these sheets; a list of sheets is a run each."""
    steps = {step: {"runs": [{"sheet": run} for run in (sheet if isinstance(sheet, list) else [sheet])]} for step, sheet in sheets.items()}
    known = [{"id": f"v{n}", "started_at": at(600 * n)} for n in range(visits)]
    return documents.load_job({"id": "day", "kind": kind, "visits": known, "steps": steps})


def account(job: Job) -> Account:
    return account_of_job(job, current_plate(job), Profile())


def told(job: Job) -> list[str]:
    """What is inside after each line that changes or says it."""
    return [words(row.after).show() for row in account(job).booked if row.line.kind != "beside" and row.before != row.after]


def gone(start: str, now: str, cylinder: str = "R-2", minutes: float = 10, **more: Any) -> dict[str, Any]:
    return {"way": "cylinder", "finished": True, "cylinders": {"c1": taken(cylinder, start, now, minutes)}, **more}


def test_back_out_of_the_recovery_cylinder_and_the_rest_new() -> None:
    """18 lb with its lines: 14 lb came out of it, 12 lb go back, 6 lb are new; what stays in the cylinder is not inside."""
    draws = {"d1": draw("R-2", "41 lb", "29 lb", 200, contents="recovered"), "d2": draw("22", "30 lb", "24 lb", 230)}
    job = day(recover=gone("27 lb", "41 lb"), weigh_in={"system_state": "empty", "draws": draws})
    assert told(job) == ["not known", "empty", "12 lb 0.0 oz ± 0.8 oz", "18 lb 0.0 oz ± 1.2 oz"]
    assert account(job).balance.known == "weighed"


def test_four_readings_are_worth_an_ounce_and_a_fifth() -> None:
    """86 oz back from its own cylinder and a new one: 5 lb 6.0 oz ± 1.2."""
    draws = {"d1": draw("R-5", "17 lb 11.2 oz", "14 lb 8.6 oz", 200), "d2": draw("23", "25 lb", "22 lb 12.6 oz", 220)}
    job = day(recover=gone("13 lb", "17.7 lb", "R-5"), weigh_in={"system_state": "empty", "draws": draws})
    assert told(job)[-1] == "5 lb 6.0 oz ± 1.2 oz"


def test_a_charge_back_in_four_goes_from_one_cylinder_is_one_weighing() -> None:
    marks = ["28 lb", "27 lb", "23 lb 8 oz", "21 lb", "20 lb", "18 lb 12 oz"]
    draws = {f"d{n}": draw("R-6", start, end, 200 + 10 * n) for n, (start, end) in enumerate(pairwise(marks))}
    job = day(recover=gone("18 lb", "28 lb", "R-6"), weigh_in={"system_state": "empty", "draws": draws})
    assert told(job)[-1] == "9 lb 4.0 oz ± 0.8 oz"


def test_three_cans_and_another_on_the_second_visit() -> None:
    """36.0 oz are in when the van leaves, 43.2 after the fourth can."""
    cans = {f"d{n}": draw(f"can {n}", "16.0 oz", "4.0 oz", 10 * n) for n in (1, 2, 3)}
    first = day(weigh_in={"system_state": "empty", "scale_step": "0.1 oz", "draws": cans})
    assert [round(oz(row.after.low_kg), 1) for row in account(first).booked] == [0.0, 12.0, 24.0, 36.0]
    fourth = {"system_state": "empty", "scale_step": "0.1 oz", "draws": {"d1": draw("can 4", "16.0 oz", "8.8 oz", 900)}}
    second = day(visits=2, weigh_in=[{"system_state": "empty", "scale_step": "0.1 oz", "draws": cans}, fourth])
    assert oz(account(second).balance.low_kg) == pytest.approx(43.2)


def test_a_top_up_before_everything_came_out() -> None:
    """10.0 oz on top of nobody knows what; 1 lb 1.0 oz come out, so at least 7.0 oz were in; then 1 lb 12.0 oz, not 2 lb 6."""
    top_up = {"draws": {"d1": draw("14", "20 lb", "19 lb 6 oz", 0)}}
    whole = {"system_state": "empty", "draws": {"d1": draw("14", "19 lb 6 oz", "17 lb 10 oz", 800)}}
    job = day(visits=2, recover=gone("25 lb", "26 lb 1 oz", "R-7", 700), weigh_in=[top_up, whole])
    assert told(job) == ["not known, at least 10.0 oz", "not known", "empty", "1 lb 12.0 oz ± 0.8 oz"]


def test_a_charge_trimmed_from_the_same_cylinder() -> None:
    """24 lb 3 oz to 23 lb 11 oz, 23 lb 3 oz, 22 lb 11.5 oz onto 5 lb 8 oz as it came: 6 lb 0.0, 6 lb 8.0, 6 lb 15.5 oz."""
    marks = ["24 lb 3 oz", "23 lb 11 oz", "23 lb 3 oz", "22 lb 11.5 oz"]
    rows = {
        f"r{n}": {"cylinder": "14", "gross_before": read(start, 100 + 10 * n), "gross_after": read(end, 105 + 10 * n)}
        for n, (start, end) in enumerate(pairwise(marks))
    }
    job = day(weigh_in={"system_state": "precharged", "inside": "5 lb 8 oz"}, verify={"readings": rows})
    assert [round(oz(row.after.low_kg), 1) for row in account(job).booked if row.line.kind != "shut_in"] == [88.0, 96.0, 104.0, 111.5]
    assert account(job).balance.known == "stamped"


def test_a_surplus_from_another_circuit_stands_once() -> None:
    """276 lb back and 39 lb from the other circuit: 315 lb; the other circuit's own account has nothing of the 39."""
    given = {"kind": "transfer_in", "key": "DC-1", "as_of": at(0), "source": "book", "values": {"mass_kg": 39 * LB_KG}}
    weigh = {"system_state": "empty", "draws": {"d1": draw("R-9", "400 lb", "124 lb", 300)}}
    plain = documents.dump_job(day(weigh_in=weigh))
    assert oz(account(documents.load_job({**plain, "facts": [given]})).balance.low_kg) / 16 == pytest.approx(315.0)
    out = {**gone("100 lb", "457 lb", "R-8"), "use": "other_circuit", "to_circuit": "DC-2", "to_circuit_mass": "39 lb"}
    giver = day(recover=out, weigh_in={"system_state": "empty", "draws": {"d1": draw("R-8", "418 lb", "100 lb", 300)}})
    assert oz(account(giver).balance.low_kg) / 16 == pytest.approx(318.0)
    moves = [m for result in evaluate(giver, Profile(), NOW).steps for m in result.movements]
    assert [(m.kind, m.destination, round(m.mass_kg / LB_KG)) for m in moves if m.kind == "transfer"] == [("transfer", "circuit:DC-2", 39)]


GROSS = st.lists(st.floats(0.05, 2.0), min_size=1, max_size=5)


@given(GROSS)
def test_a_cylinders_lines_add_up_to_its_first_less_its_last_reading(steps: list[float]) -> None:
    gross, draws = 30.0, {}
    for n, kg in enumerate(steps):
        draws[f"d{n}"] = draw("14", f"{gross:.6f} kg", f"{gross - kg:.6f} kg", 10.0 * n)
        gross = round(gross - kg, 6)
    found = account(day(weigh_in={"system_state": "empty", "draws": draws}))
    assert found.balance.low_kg == pytest.approx(30.0 - gross, abs=1e-5)
    assert found.balance.u_kg == pytest.approx(account(day(weigh_in={"draws": {"d": draw("14", "30 kg", "29 kg", 0)}})).balance.u_kg)


def test_the_sum_over_book_and_circuit_is_the_same_in_whatever_order_steps_are_closed() -> None:
    rows = {"r1": {"cylinder": "14", "added": "4 oz"}, "r2": {"cylinder": "R-2", "removed": "2 oz"}}
    weigh = {"system_state": "empty", "draws": {"d1": draw("14", "30 lb", "25 lb", 200, hose_loss="0.5 oz")}}
    job = day(recover=gone("27 lb", "32 lb", residue="1 oz"), weigh_in=weigh, verify={"readings": rows})
    found = {result.step: result.movements for result in evaluate(job, Profile(), NOW).steps}
    sums: set[tuple[tuple[str, float], ...]] = set()
    for order in permutations(("recover", "weigh_in", "verify")):
        book: tuple[Any, ...] = ()
        for step in order:
            book = (*book, *ledger.settle(book, found[step], f"day/{step}/", NOW, "Orrin"))
        sums.add(tuple(sorted(_balances(book).items())))
    assert len(sums) == 1
    places = dict(next(iter(sums)))
    assert places["circuit:day"] / LB_KG == pytest.approx(5 - 0.5 / 16 + 4 / 16 - 2 / 16 - 5 - 1 / 16)
    assert sum(places.values()) == pytest.approx(0.0, abs=1e-9)


def _balances(book: tuple[Any, ...]) -> Mapping[str, float]:
    places = {place for posting in book for place in (posting.movement.source, posting.movement.destination)}
    return {place: round(ledger.balance_kg(book, place), 9) for place in places}
