"""What is true of claims and hard Stops along every prefix of a day, whatever is tried."""

import dataclasses
from collections.abc import Iterator
from random import Random
from typing import Any

import pytest

from tests.whole_jobs.day import READY, RECOVER, REPAIR, SITE, Day, clock, draw, ended, hold, out, pulled
from yoshi_core.errors import InvalidInput
from yoshi_core.job import closing, documents, patches, visits
from yoshi_core.job.evaluate import Findings, evaluate
from yoshi_core.job.patches import Change
from yoshi_core.message import worded
from yoshi_core.profile.profile import Profile
from yoshi_core.steps import registry

PLATE = {
    **SITE, "pairing_proven": True, "pairing_by": "switched", "refrigerant": "R-410A", "kind": "split", "metering": "txv",
    "factory_charge": "6 lb", "included_length": "15 ft", "subcooling_target": "10 °F",
    "lines": {"l1": {"length": "15 ft", "allowance": "0.6 oz/ft"}},
}  # fmt: skip


def a_day() -> Iterator[Day]:
    """A whole service, yielded after every act: a leak found, mended, held, pulled, weighed, run."""
    day = Day("08:00")
    day.type("identify", **PLATE)
    day.answer("identify")
    yield day
    day.close("identify")
    day.leave("as_found", "does not run")
    yield day
    day.type("leak_search", inside="refrigerant", places={"drier": {"reach": "open", "bubbles": "hit"}})
    yield day
    day.close("leak_search", "found")
    day.at("09:00").type("recover", **RECOVER, cylinders={"c1": out("R-1", "27 lb", "32 lb")}, **ended())
    yield day
    day.close("recover", "a pound was gone")
    day.at("10:00").type("repair", **REPAIR, parts={"p1": {"label": "drier", "kind": "drier", "failed_by": "vibration"}})
    yield day
    day.close("repair")
    day.at("10:50").type("pressure_hold", **hold(clock("10:05"), (clock("10:20"), 400), (clock("10:50"), 400), bubbles=None, volume="5 L"))
    yield day
    day.type("pressure_hold", bubbles="clean")
    yield day
    day.close("pressure_hold")
    rows = ((clock("11:30"), 300), (clock("11:40"), 320))
    day.at("11:40").type("evacuate", **pulled(("pump", clock("10:55")), ("isolated", clock("11:30")), readings=rows, volume="5 L"))
    yield day
    day.close("evacuate")
    day.at("11:50").type("weigh_in", system_state="empty", draws={"d1": draw("14", "30 lb", "24 lb")})
    yield day
    day.close("weigh_in")
    reading = {
        "suction_pressure": "118 psig",
        "suction_line": "50 °F",
        "liquid_pressure": "330 psig",
        "liquid_line": "91 °F",
        "outdoor": "80 °F",
    }
    day.at("12:20").type("verify", mode="cooling", **READY, readings={"r1": reading})
    yield day
    day.close("verify")
    yield day


def standings(found: Findings) -> dict[str, str]:
    return {claim.id: claim.standing for claim in found.claims}


def test_a_shown_claim_stays_shown_until_something_speaks_against_it_or_ends_it() -> None:
    shown: set[str] = set()
    last: Findings | None = None
    for day in a_day():
        now = {name for name, standing in standings(day.found).items() if standing == "shown"}
        ended_by_nature = {"mended", "tight"}  # asked for anew once the circuit is opened
        assert shown - now <= ended_by_nature & {n for n in shown if day.found.claim(n).against or day.found.claim(n).missing}, shown - now
        shown, last = now, day.found
    assert last is not None
    assert set(standings(last).values()) == {"shown"}


@pytest.mark.parametrize(
    "field",
    [
        "/steps/pressure_hold/runs/0/sheet/readings/r2",
        "/steps/pressure_hold/runs/0/sheet/bubbles",
        "/steps/evacuate/runs/0/sheet/readings/r2",
        "/steps/verify/runs/0/sheet/readings/r1",
    ],
)
def test_clearing_an_entry_never_shows_what_was_not_shown(field: str) -> None:
    """Taking an entry away leaves less, never more, unless it stood against a claim."""
    *_, day = a_day()
    plain = day.job
    for step in registry.order("service"):
        if plain.steps.get(step) and plain.steps[step].events and plain.steps[step].events[-1].kind == "closed":
            plain = closing.reopen_step(plain, step, "T. Vesk", day.now, "to try it")
    before = standings(evaluate(plain, Profile(), day.now))
    cleared = (
        [Change(f"{field}/{key}", None, None, force=True) for key in ("at", "pressure", "vacuum", "liquid_pressure", "liquid_line")]
        if not field.endswith("bubbles")
        else [Change(field, None, None, force=True)]
    )
    for change in cleared:
        try:
            plain = patches.save(plain, [change], "J. Pell", day.now).job
        except InvalidInput:
            continue
    after = standings(evaluate(plain, Profile(), day.now))
    gained = {name for name in after if after[name] == "shown" and before[name] != "shown"}
    assert gained == set()
    assert after != before


def test_opening_it_again_ends_tight_and_dry() -> None:
    *_, day = a_day()
    day.at("13:00").again("repair", "another joint")
    assert (day.claim("tight").standing, day.claim("dry").standing) == ("shown", "shown")
    day.type("repair", parts={"p9": {"label": "another joint", "kind": "line"}})
    assert (day.claim("tight").standing, day.claim("dry").standing) == ("not_yet", "not_yet")
    assert all("opened again" in day.claim(name).words.show() for name in ("tight", "dry"))


def test_charge_in_or_out_after_the_reading_ends_what_the_running_unit_showed() -> None:
    *_, day = a_day()
    day.at("13:00").act("a1", kind="in", cylinder="14", gross_before="24 lb", gross_after="23 lb")
    assert (day.claim("charged").standing, day.claim("runs").standing) == ("contradicted", "not_yet")


HARD = {
    "oxygen": ("pressure_hold", {"gas": "other", "regulator": True, "test_pressure": "100 psig"}, "hold.gas"),
    "no regulator": ("pressure_hold", {"gas": "nitrogen", "regulator": False, "test_pressure": "100 psig"}, "hold.regulator"),
    "above the stamp": ("pressure_hold", {"gas": "nitrogen", "regulator": True, "stamps": {"s1": {"pressure": "200 psig"}}, "test_pressure": "300 psig"}, "hold.stamp"),
    "nitrogen on refrigerant": ("pressure_hold", {"gas": "nitrogen", "regulator": True, "filled_at": clock("10:00")}, "hold.refrigerant"),
    "pump on refrigerant": ("evacuate", {"events": {"e1": {"do": "pump", "at": clock("10:00")}}}, "vacuum.refrigerant"),
    "power on under vacuum": ("evacuate", {"energized": False}, "vacuum.power"),
    "a flame on a closed pipe": ("repair", {"joining": "brazed", "at_zero": True, "both_open": False}, "repair.trapped"),
    "no extinguisher": ("repair", {"joining": "brazed", "fire_watch": False}, "repair.fire"),
    "a one-way cylinder": ("recover", {"way": "cylinder", "cylinders": {"c1": {"cylinder": "N-1", "contents": "one_way"}}}, "cylinder.one_way"),
    "a mixed cylinder": ("recover", {"way": "cylinder", "cylinders": {"c1": {"cylinder": "R-1", "contents": "other"}}}, "cylinder.mixed"),
    "a cylinder past its retest": ("recover", {"way": "cylinder", "cylinders": {"c1": {"cylinder": "R-1", "contents": "evacuated", "retest": "2020-01"}}}, "cylinder.retest"),
    "another owner": ("recover", {"way": "cylinder", "use": "other_circuit", "same_owner": False, "finished": True}, "recovered.use"),
    "a breach on the low side": ("recover", {"way": "pump_down", "low_breach": True, "compressor_runs": True}, "pump_down.breach"),
    "another refrigerant": ("weigh_in", {"system_state": "empty", "draws": {"d1": {"cylinder": "9", "holds": "R-22", "gross_start": "20 lb"}}}, "weigh_in.other"),
    "flammable in what is not listed": ("identify", {"refrigerant": "R-290", "listed": False, "kind": "reach_in", "factory_charge": "1 lb"}, "identify.listed"),
    "over a low-pressure machine's limit": ("pressure_hold", {"gas": "nitrogen", "regulator": True, "stamps": {"s1": {"pressure": "200 psig"}}, "test_pressure": "30 psig"}, "hold.low_pressure"),
    "a condenser that cannot hold it": ("recover", {"way": "pump_down", "small_condenser": True, "compressor_runs": True}, "pump_down.room"),
    "a scroll into a vacuum": ("recover", {"way": "pump_down", "into_vacuum": True, "compressor_runs": True}, "pump_down.scroll"),
    "a cylinder over its limit": ("recover", {"way": "cylinder", "cylinders": {"c1": {**out("R-1", "20 lb", "70 lb", water="26.2 lb"), "contents": "same"}}}, "cylinder.over"),
    "water standing in its tubes": ("weigh_in", {"system_state": "empty", "water_safe": False, "draws": {"d1": {"gross_start": "130 lb", "tare": "20 lb"}}}, "weigh_in.freeze"),
    "against shut valves": ("verify", {"mode": "cooling", "run_in": "10 min"}, "verify.shut_valves"),
    "opened under a running pump": ("evacuate", {"events": {"e1": {"do": "pump", "at": clock("10:00")}}}, "vacuum.let_back"),
    "let off on purpose": ("recover", {"way": "cylinder", "fan_on": True}, "recover.let_off"),
    "more than a tracer": ("leak_search", {"inside": "nitrogen"}, "leak.tracer"),
    "more than a room may have": ("identify", {"refrigerant": "R-32", "listed": True, "kind": "ductless", "factory_charge": "9 lb", "whole_charge": True, "room_area": "10 m²", "mounting": "floor"}, "room.ceiling"),
    "more than may be breathed": ("identify", {"refrigerant": "R-410A", "kind": "vrf", "factory_charge": "40 lb", "whole_charge": True, "room_volume": "20 m³"}, "room.breathing"),
    "units that may not belong together": ("recover", {"way": "cylinder", "fan_on": True}, "pairing.told"),
    "a torch on another unit's pipe": ("repair", {"joining": "brazed", "at_zero": False, "both_open": True, "fire_watch": True}, "repair.at_zero"),
    "liquid between two valves": ("recover", {"way": "cylinder", "fan_on": True}, "recover.liquid"),
    "a flame on the cylinder": ("weigh_in", {"warmed_by": "flame", "draws": {"d1": {"gross_start": "20 lb"}}}, "weigh_in.flame"),
    "a cylinder too warm": ("weigh_in", {"cylinder_temperature": "140 °F"}, "weigh_in.too_warm"),
}  # fmt: skip
DONE_BESIDE = {
    "liquid between two valves": {"kind": "shut", "section": "s1", "medium": "liquid", "done": True},
    "against shut valves": {"kind": "shut", "section": "s1", "medium": "charge", "done": True},
    "opened under a running pump": {"kind": "let_back", "section": "s1"},
    "let off on purpose": {"kind": "lost", "mass": "3 oz", "planned_for": "2026-07-01"},
    "more than a tracer": {"kind": "tracer", "mass": "9 oz"},
}
WITH_PLATE = {
    "over a low-pressure machine's limit": {"refrigerant": "R-123", "kind": "chiller", "metering": "orifice", "factory_charge": "950 lb"},
    "water standing in its tubes": {"refrigerant": "R-123", "kind": "chiller", "metering": "orifice", "factory_charge": "950 lb"},
    "a cylinder over its limit": PLATE,
    "more than a tracer": PLATE,
    "units that may not belong together": {**PLATE, "pairing_by": "told"},
}


@pytest.mark.parametrize("danger", sorted(HARD))
def test_no_way_round_a_hard_stop(danger: str) -> None:
    """A reason, leaving out, reopening, wrong and missing entries, another device: only the fact behind it ends it."""
    step, sheet, rule = HARD[danger]
    day = Day("08:00", stops={rule for _, _, rule in HARD.values()} | {"hold.stamp"})
    if danger in WITH_PLATE:
        day.type("identify", **WITH_PLATE[danger])
    elif step == "weigh_in":
        day.type("identify", refrigerant="R-410A")
    day.type(step, **sheet)
    if danger in DONE_BESIDE:
        day.act("v1", **DONE_BESIDE[danger])
    assert day.rules(step)[rule] == "Stop"
    dice = Random(danger)
    tried = [
        lambda: closing.close_step(day.job, Profile(), step, "T. Vesk", day.now, "it was always done so"),
        lambda: closing.not_applicable(day.job, step, "T. Vesk", day.now, "not this time"),
        lambda: closing.close_step(day.job, Profile(), "close_out", "T. Vesk", day.now, "done"),
    ]
    for way in ("proven", "proven_by_weight", "left_safe", "handed_over", "running_not_proven"):
        day.type("close_out", outcome=way, reason="as agreed", label_fixed=True)
        dice.shuffle(tried)
        for act in tried:
            with pytest.raises(InvalidInput):
                act()
        with pytest.raises(InvalidInput):
            visits.end_visit(day.job, day.found, visits.Ending(way, "tired", "parts"), "T. Vesk", day.now)
        assert not any(one.open for one in visits.ways(day.found))
    for other in ("as_found", "leak_search", "repair", "evacuate", "verify"):
        if other != step:
            day.leave(other, "not needed")
    day.act("a9", kind="out", mass="1 oz", done=True)
    assert day.rules(step)[rule] == "Stop"
    assert day.found.step("close_out").verdict.word == "Stop"


def test_two_devices_in_either_order_give_one_account() -> None:
    """Each device keeps its own time; whichever comes first, the account is the same."""
    base = Day("08:00")
    base.type("identify", **PLATE)
    one = [Change("/acts/a1/kind", None, "in", typed_at=clock("09:00")), Change("/acts/a1/mass", None, "1 lb", typed_at=clock("09:00"))]
    two = [Change("/acts/b1/kind", None, "out", typed_at=clock("09:30")), Change("/acts/b1/mass", None, "4 oz", typed_at=clock("09:30"))]
    at = clock("11:00")
    found = []
    for first, second in ((one, two), (two, one)):
        job = patches.save(patches.save(base.job, first, "J. Pell", at).job, second, "M. Orrin", at).job
        judged = evaluate(job, Profile(), at)
        found.append([(row.origin, row.text.text, row.after.show()) for row in judged.inside.rows])
    assert found[0] == found[1]
    assert [origin for origin, *_ in found[0]] == ["/acts/a1", "/acts/b1"]


def test_the_account_is_a_document_of_its_own() -> None:
    """Acts are kept, loaded and dumped like everything else."""
    day: Any = Day("08:00")
    day.act("a1", kind="tracer", cylinder="14", gross_before="25 lb 13 oz", gross_after="25 lb 12 oz")
    again = documents.load_job(documents.dump_job(day.job))
    assert again == day.job
    assert dataclasses.asdict(again)["acts"]["a1"]["cylinder"] == "14"


def test_a_hold_nobody_read_shows_nothing() -> None:
    """Filled, shut, and no pressure ever read: the step stays open, and nothing closes it as proven."""
    day = Day("08:00")
    day.type("identify", **PLATE)
    day.type("pressure_hold", **hold(clock("08:10")))
    assert day.word("pressure_hold") != "Holds"
    assert any("gauge" in worded(m.label) for m in day.found.step("pressure_hold").missing)
    once = hold(clock("08:10"), (clock("08:10"), 400))
    day.at("09:30").type("pressure_hold", **once)
    assert day.word("pressure_hold") != "Holds"
    assert day.claim("tight").standing != "shown"


def test_a_reason_answers_for_what_is_not_shown_and_lifts_no_contradiction() -> None:
    *_, day = a_day()
    day.again("pressure_hold", "to hold it once more")
    day.stops.add("hold.bubbles")
    day.at("14:00").type(
        "pressure_hold", **hold(clock("13:05"), (clock("13:20"), 400), (clock("14:00"), 400), bubbles="leaks", volume="5 L")
    )
    assert day.claim("tight").standing == "contradicted"
    day.close("pressure_hold", "it will do")
    tight = day.claim("tight")
    assert (tight.standing, tight.by, tight.reason) == ("contradicted", "T. Vesk", "it will do")
    assert not {"proven", "proven_by_weight", "proven_running"} & day.ways()
    assert {"running_not_proven", "left_safe", "handed_over"} <= day.ways()
    assert "Tight: A joint made here leaks." in day.found.standing.words.show()


def test_leaving_out_and_closing_with_a_reason_lead_to_the_same_place() -> None:
    *_, day = a_day()
    day.at("13:00").again("evacuate", "to try it")
    one = closing.close_step(day.job, Profile(), "evacuate", "T. Vesk", day.now, "no gauge")
    two = closing.not_applicable(day.job, "evacuate", "T. Vesk", day.now, "no gauge")
    found = [evaluate(job, Profile(), day.now).claim("dry") for job in (one, two)]
    assert found[0] == found[1]
    assert (found[0].standing, found[0].by, found[0].reason) == ("answered_for", "T. Vesk", "no gauge")
