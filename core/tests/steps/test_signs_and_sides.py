"""What a wrong sign, a wrong side or a lost word would change: each of these was once changed on purpose and nothing noticed."""

import dataclasses
from typing import Any

import pytest

from tests.make import NOW, PLATE, RUNNING, WEIGHED, findings, reading_with
from tests.make_closed import HELD, RECOVERED, REPAIRED, UNIT, hold, isolated, rules, said
from tests.whole_jobs.day import Day, clock, draw, out
from tests.whole_jobs.day import hold as under_nitrogen
from tests.whole_jobs.test_parts import SPLIT, emptied
from yoshi_core.document.model import Dispute
from yoshi_core.errors import OutOfRange
from yoshi_core.tight_and_dry import pressure_hold
from yoshi_core.tight_and_dry.pressure_hold import HoldSample, HoldTerms
from yoshi_core.units.quantities import OZ_KG, PSI_PA

TERMS = HoldTerms(900.0, 900.0, 0.1 * PSI_PA, 0.3, 4.0, 294.0, 0.005)


def charged() -> Day:
    day = emptied()
    day.at("12:00").type("weigh_in", system_state="empty", draws={"d1": draw("14", "30 lb", "22 lb")})
    return day


def test_a_cylinder_that_gains_took_refrigerant_out() -> None:
    day = charged()
    day.at("12:30").act("a1", kind="out", cylinder="R-2", gross_before="27 lb", gross_after="28 lb", done=True)
    assert day.inside.startswith("7 lb 0.0 oz")
    moved = {(m.source, m.destination): round(m.mass_kg / OZ_KG, 1) for m in day.found.movements if m.destination == "cylinder:R-2"}
    assert moved == {("circuit:day", "cylinder:R-2"): 16.0}


@pytest.mark.parametrize(
    ("path", "held_down"), [("/acts/a9/mass", True), ("/steps/verify/runs/0/sheet/mode", True), ("/steps/repair/runs/0/sheet/acid", False)]
)
def test_what_is_disputed_elsewhere_holds_the_charge_down_only_where_it_moves_or_sizes_it(path: str, held_down: bool) -> None:
    day = charged()
    assert day.claim("charged").standing == "shown"
    day.job = dataclasses.replace(day.job, disputes=(Dispute(path, {"text": "1 lb"}, "T. Vesk", NOW),))
    day.found = day._judge()
    assert (day.claim("charged").standing != "shown") is held_down
    assert day.claim("dry").standing != "shown"


def test_the_caution_of_short_starts_is_for_a_unit_in_short_turns() -> None:
    for running, there in (("cycling", True), ("settled", False)):
        found = findings(PLATE, kind="service", sheets={"as_found": {"running": running}}).step("as_found")
        assert ("cycling" in [c.id for c in found.cautions]) is there


def test_a_pump_down_not_over_is_said_to_be_no_recovery_cut_short() -> None:
    day = Day("08:00")
    day.type("identify", **SPLIT)
    day.type("recover", way="pump_down", compressor_runs=True, finished=True)
    assert day.claim("emptied").words.show() == "The pump-down is not shown to be over."
    day.type("recover", way="cylinder", finished=None, cylinders={"c1": out("R-2", "27 lb", "30 lb")})
    assert day.claim("emptied").words.show() == "Recovery is not shown to be over."


def test_what_limits_a_cylinder_is_asked_for_and_no_reason_stands_in() -> None:
    day = Day("08:00")
    day.type("identify", **SPLIT)
    day.type("recover", way="cylinder", cylinders={"c1": {"cylinder": "R-2", "gross_now": "30 lb"}})
    hard = {m.path.rsplit("/", 1)[1]: m.hard for m in day.found.step("recover").missing if "/cylinders/" in m.path}
    assert {"contents", "tare", "water_capacity"} <= {name for name, needed in hard.items() if needed}
    assert not hard.get("gross_start", False)


@pytest.mark.parametrize(("kind", "flow"), [("heat_pump", "bi-flow"), ("packaged", "arrow towards the metering device")])
def test_a_drier_the_wrong_way_round_names_the_right_one(kind: str, flow: str) -> None:
    plate = {**UNIT, "kind": kind, **({"pairing_proven": True, "pairing_by": "only"} if kind == "heat_pump" else {})}
    found = findings(plate, kind="service", sheets={"recover": RECOVERED, "repair": {**REPAIRED, "drier": "new", "drier_way": False}})
    assert flow in said(found.step("repair"), "repair.drier_way")


def test_a_line_nobody_measured_adds_from_where_no_length_is_covered() -> None:
    """0 to 10 ft at 0.6 oz/ft and nothing covered: 3 oz on top, not 3.3 from a first foot that is free."""
    line = {"allowance": "0.6 oz/ft", "unmeasured": True, "length_least": "0 ft", "length_most": "10 ft"}
    plate = {key: value for key, value in SPLIT.items() if key != "included_length"}
    day = Day("08:00")
    day.type("identify", **{**plate, "included_length": "0 ft", "lines": {"l1": line}})
    covered = day.figure_oz("identify", "total")
    two = Day("08:00")
    two.type("identify", **{**plate, "included_length": "0 ft", "lines": {"l1": line, "l2": {"length": "0 ft", "allowance": "0.6 oz/ft"}}})
    assert two.figure_oz("identify", "total") == pytest.approx(covered, abs=0.05)
    assert covered == pytest.approx(128.0 + 3.0, abs=0.05)


def test_a_place_that_could_not_be_reached_stays_so_in_the_next_search() -> None:
    day = Day("08:00")
    day.type("identify", **SPLIT)
    day.type("leak_search", inside="refrigerant", places={"wall": {"label": "in the wall", "reach": "closed"}})
    day.close("leak_search", "no access today")
    day.again("leak_search", "with a detector")
    day.type("leak_search", inside="refrigerant", places={"wall": {"note": "asked again"}})
    rows = {row.id: row.state for row in day.found.step("leak_search").picture.places}  # type: ignore[union-attr]
    assert rows["wall"] == "closed"


def test_a_hold_too_short_without_a_clamp_says_what_a_clamp_would_make_of_it() -> None:
    short = hold([(15, 300.0, None), (20, 300.0, None)], metal_by="none")
    assert rules(short)["hold.no_metal"] == "Open"
    assert "hold.no_metal" not in rules(hold([(15, 300.0, 70), (20, 300.0, 70)]))


def test_metal_typed_where_no_clamp_was_on_it_counts_for_nothing() -> None:
    rows = [(15, 300.0, 70.0), (35, 296.0, 60.0)]
    assert rules(hold(rows, metal_by="none"))["hold.unprobed"] == "Wait"
    assert "hold.unprobed" not in rules(hold(rows, metal_by="clamp"))


def test_a_hold_filled_and_not_read_is_said_to_be_filled() -> None:
    day = emptied()
    day.at("10:30").type("pressure_hold", **under_nitrogen(clock("10:10"), volume="4 L"))
    held = day.claim("tight")
    assert (held.standing, held.words.show()) == ("not_yet", "It was filled, and the pressure not read twice.")


@pytest.mark.parametrize(("reading", "more"), [(8.0, "Take out"), (3.0, "Add")])
def test_a_step_of_ounces_says_which_way(reading: float, more: str) -> None:
    wanted = {"r1": reading_with(11.0, 10.0 + (8.0 if more == "Take out" else -8.0))}
    found = findings({**PLATE, "kind": "packaged"}, WEIGHED, {**RUNNING, "readings": wanted}).step("verify")
    step = [r.message.show() for r in found.verdict.reasons if r.rule_id == "trim.step"]
    assert all(text.startswith(more) for text in step)
    assert reading


def test_the_last_reading_is_the_one_compared() -> None:
    samples = [HoldSample(s, p, 294.0) for s, p in ((1000.0, 2.0e6), (1400.0, 1.99e6), (2400.0, 1.9e6))]
    assert pressure_hold.judge(samples, TERMS).end.pressure_pa == 1.9e6
    with pytest.raises(OutOfRange, match="above zero"):
        pressure_hold.until_seen_s(0.0, 2e6, 294.0, TERMS, probed=True)


def test_a_short_look_waits_by_what_its_gauge_can_see() -> None:
    """Two readings ten minutes apart on 3,000 L: as long again as its scatter makes it, less what was watched already."""
    found = isolated([(0, 300), (12, 301)], volume={"text": "3000 L", "source": "measured"})
    assert found.waiting is not None
    minutes = (found.waiting.until - NOW).total_seconds() / 60.0
    assert minutes > 30.0


def test_each_reason_carries_the_amounts_its_sentence_names() -> None:
    level = [(0, 400), (2, 900), (4, 1300), (8, 1700), (12, 1850), (16, 1900), (20, 1915), (30, 1920), (40, 1921)]
    found: Any = isolated(level, coldest="40 °F")
    ceiling = next(r for r in found.verdict.reasons if r.rule_id == "vacuum.ceiling")
    assert set(ceiling.message.amounts) >= {"value", "limit", "cold"}
    assert HELD


@pytest.mark.parametrize(("added", "over_step", "over_cap"), [("3 oz", False, False), ("12 oz", True, False), ("20 oz", True, True)])
def test_a_step_and_a_cap_that_were_exceeded_are_said_to_have_been(added: str, over_step: bool, over_cap: bool) -> None:
    """9 lb 4 oz: a step is at most 7.4 oz, all of them 14.8; up to the plan neither counts."""
    rows = {"r1": reading_with(11.0, 10.0), "r2": {"added": added, **reading_with(11.0, 10.0)}}
    found = rules(findings(PLATE, WEIGHED, {**RUNNING, "readings": rows}).step("verify"))
    assert ("trim.over_step" in found) is over_step
    assert ("trim.over_cap" in found or "trim.cap" in found) is over_cap
