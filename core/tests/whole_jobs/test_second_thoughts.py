"""What is put right later: readings set aside, two people's figures, guessed lengths, answers to closed steps, a line remembered late."""

import dataclasses
import hashlib
import json
from typing import Any

import pytest

from tests.whole_jobs.day import READY, RECOVER, Day, clock, draw, ended, hold, out, pulled
from tests.whole_jobs.test_parts import SPLIT, emptied
from yoshi_core.document.model import Dispute, Fact
from yoshi_core.errors import InvalidInput
from yoshi_core.job import documents
from yoshi_core.job.evaluate import evaluate
from yoshi_core.job.patches import Change, save
from yoshi_core.message import worded
from yoshi_core.profile.profile import Profile
from yoshi_core.steps import registry
from yoshi_core.units.quantities import OZ_KG


def test_a_reading_set_aside_speaks_neither_for_nor_against_and_is_taken_anew() -> None:
    day = emptied()
    day.stops |= {"hold.drop", "hold.leak"}
    rows = ((clock("10:27"), 240), (clock("10:45"), 200))
    day.at("10:45").type("pressure_hold", **{**hold(clock("10:10"), *rows, volume="4 L"), "metal_by": "clamp"})
    day.type("pressure_hold", readings={"r1": {"metal": "70 °F"}, "r2": {"metal": "70 °F"}})
    assert day.claim("tight").standing == "contradicted"
    day.type("pressure_hold", readings={"r2": {"set_aside": "the hose leaked at its fitting"}})
    assert day.claim("tight").standing == "not_yet"
    assert day.told("pressure_hold", "log.set_aside") == "A reading is set aside: the hose leaked at its fitting."
    assert any(m.label == "a reading in place of the one set aside" for m in day.found.step("pressure_hold").missing)
    day.at("10:50").type("pressure_hold", readings={"r3": {"at": clock("10:50"), "pressure": "240 psig", "metal": "70 °F"}})
    assert day.claim("tight").standing == "shown"
    assert day.rules("pressure_hold")["log.set_aside"] == "Open"


def test_a_vacuum_reading_set_aside_leaves_the_decay_open() -> None:
    day = emptied()
    rows = ((clock("10:50"), 300), (clock("11:00"), 320), (clock("11:05"), 3000))
    day.at("11:05").type("evacuate", **pulled(("pump", clock("10:30")), ("isolated", clock("10:50")), readings=rows, volume="4 L"))
    assert day.claim("dry").standing != "shown"
    day.type("evacuate", readings={"r3": {"set_aside": "the gauge was wetted with oil"}})
    assert day.claim("dry").standing == "not_yet"
    day.at("11:15").type("evacuate", readings={"r4": {"at": clock("11:15"), "vacuum": "330 micron"}})
    assert day.claim("dry").standing == "shown"


def test_a_running_reading_set_aside_is_read_again_and_its_charge_step_stays() -> None:
    day = charged()
    good = {
        "suction_pressure": "118 psig",
        "suction_line": "52 °F",
        "liquid_pressure": "340 psig",
        "liquid_line": "94 °F",
        "outdoor": "85 °F",
    }
    day.stops |= {"verify.subcooling_most"}
    day.at("12:30").type("verify", mode="cooling", **READY, readings={"r1": good})
    assert day.claim("runs").standing == "shown", day.found.step("verify").verdict
    step = {"cylinder": "14", "gross_before": "22 lb", "gross_after": "21 lb 15 oz"}
    day.at("12:45").type("verify", readings={"r2": {**step, **good, "liquid_line": "60 °F"}})
    assert day.claim("runs").standing != "shown"
    before = day.inside
    day.type("verify", readings={"r2": {"set_aside": "the clamp hung in the air"}})
    assert day.inside == before
    assert day.claim("runs").standing == "not_yet"


def charged() -> Day:
    """Emptied, held, pulled and weighed in: 8 lb of 8 lb."""
    day = emptied()
    day.at("10:45").type("pressure_hold", **hold(clock("10:10"), (clock("10:20"), 240), (clock("10:45"), 240), volume="4 L"))
    day.close("pressure_hold")
    rows = ((clock("11:20"), 300), (clock("11:30"), 320))
    day.at("11:30").type("evacuate", **pulled(("pump", clock("10:50")), ("isolated", clock("11:20")), readings=rows, volume="4 L"))
    day.close("evacuate")
    day.at("12:00").type("weigh_in", system_state="empty", draws={"d1": draw("14", "30 lb", "22 lb")})
    return day


def test_while_two_people_differ_the_balance_spans_both_and_nothing_is_shown() -> None:
    day = charged()
    assert (day.inside.split(" ±")[0], day.claim("charged").standing) == ("8 lb 0.0 oz", "shown")
    other = Dispute("/steps/weigh_in/runs/0/sheet/draws/d1/gross_end", {"text": "21 lb 8 oz", "source": "weighed"}, "T. Vesk", day.now)
    day.job = dataclasses.replace(day.job, disputes=(other,))
    day.found = day._judge()
    assert day.inside == "8 lb 0.0 oz to 8 lb 8.0 oz"
    assert day.claim("charged").standing == "not_yet"
    assert not day.found.step("weigh_in").movements
    day.type("weigh_in", draws={"d1": {"gross_end": "22 lb"}})
    assert day.claim("charged").standing == "shown"


@pytest.mark.parametrize(
    ("step", "path", "value"), [("pressure_hold", "readings/r2/pressure", "230 psig"), ("evacuate", "readings/r2/vacuum", "900 micron")]
)
def test_a_dispute_about_its_own_figure_holds_a_claim_down(step: str, path: str, value: str) -> None:
    day = charged()
    claim = {"pressure_hold": "tight", "evacuate": "dry"}[step]
    assert day.claim(claim).standing == "shown"
    day.job = dataclasses.replace(day.job, disputes=(Dispute(f"/steps/{step}/runs/0/sheet/{path}", {"text": value}, "T. Vesk", day.now),))
    day.found = day._judge()
    assert day.claim(claim).standing in {"not_yet", "answered_for"}
    assert day.claim(claim).words.show().startswith("Two people entered different figures: choose one.")


def test_a_line_nobody_measured_is_planned_with_and_proves_nothing() -> None:
    """25 to 55 ft at 0.6 oz/ft beyond 15 ft: 6 to 24 oz, so 15 oz ± 9, as anyone reckons on paper."""
    day = Day("08:00")
    day.type("identify", **{**SPLIT, "lines": {"l1": {"allowance": "0.6 oz/ft", "unmeasured": True}}})
    assert {m.label for m in day.found.step("identify").missing} >= {"the least the line can be; a guess will do"}
    day.type("identify", lines={"l1": {"length_least": "25 ft", "length_most": "55 ft"}})
    assert abs(day.figure_oz("identify", "total") - (128.0 + 15.0)) < 0.05
    said = day.told("identify", "identify.unmeasured")
    assert said.startswith("Nobody measured this line: ± 9.0 oz from that alone, ± 10.")
    day.type("identify", lines={"l1": {"length_most": "20 ft", "length_least": "25 ft"}})
    assert [p.path.rpartition("/")[2] for p in day.found.step("identify").problems] == ["length_most"]
    day.type("identify", lines={"l1": {"length_least": "10 ft", "length_most": "25 ft"}})
    assert abs(day.figure_oz("identify", "total") - (128.0 + 3.0)) < 0.05


def weighed_with(**line: Any) -> str:
    """How the claim of the charge stands with such a line, weighed to its total."""
    day = charged()
    day.job = dataclasses.replace(day.job, steps={**day.job.steps, "identify": dataclasses.replace(day.job.steps["identify"], events=())})
    day.type("identify", lines={"l1": {"length": "35 ft", **line}})
    day.type("weigh_in", draws={"d1": {"gross_end": "21 lb 4 oz"}})
    return day.claim("charged").standing


def test_a_total_that_rests_on_a_told_length_is_not_shown() -> None:
    assert weighed_with() == "shown"
    assert weighed_with(length={"text": "35 ft", "source": "told"}) == "not_yet"
    assert weighed_with(allowance={"text": "0.6 oz/ft", "source": "assumed"}) == "not_yet"
    assert weighed_with(length={"text": "35 ft", "source": "note"}) == "shown"


def test_a_makers_figure_is_told_apart_from_a_stamped_one() -> None:
    day = charged()
    day.job = dataclasses.replace(day.job, steps={**day.job.steps, "identify": dataclasses.replace(day.job.steps["identify"], events=())})
    day.type("identify", tolerance={"text": "1 oz", "source": "makers"})
    reason = next(r for r in day.found.step("weigh_in").verdict.reasons if r.rule_id == "weigh_in.stated")
    assert reason.source == "maker's data"


def test_no_stamp_found_is_an_answer_and_wants_a_name() -> None:
    day = emptied(without=("design_low",))
    held = hold(clock("10:10"), (clock("10:10"), 240), (clock("10:26"), 240), volume="4 L", stamps={})
    day.at("10:26").type("pressure_hold", **held)
    assert any("stamped" in worded(m.label) for m in day.found.step("pressure_hold").missing)
    day.type("pressure_hold", no_stamp=True)
    assert day.rules("pressure_hold")["hold.no_stamp"] == "Wait"
    with pytest.raises(InvalidInput):
        day.close("pressure_hold")
    day.close("pressure_hold", "the plate is painted over")
    assert day.claim("tight").standing == "shown"


def test_a_closed_step_takes_a_first_answer_that_is_asked_and_nothing_else() -> None:
    day = Day("08:00")
    day.type("identify", **{key: value for key, value in SPLIT.items() if key not in {"pairing_proven", "pairing_by"}})
    day.answer("identify")
    day.close("identify", "which line is whose comes later")
    path = "/steps/identify/runs/0/sheet/pairing_proven"
    assert path in day.found.asked
    assert save(day.job, [Change(path, None, True)], "J. Pell", day.now).problems
    saved = save(day.job, [Change(path, None, True)], "J. Pell", day.now, day.found.asked)
    assert not saved.problems
    again = save(saved.job, [Change(path, True, False, force=True)], "J. Pell", day.now, day.found.asked)
    assert [p.code for p in again.problems] == ["step_closed"]
    other = save(day.job, [Change("/steps/identify/runs/0/sheet/oil", None, "POE")], "J. Pell", day.now, day.found.asked)
    assert [p.code for p in other.problems] == ["step_closed"]


def test_a_line_remembered_late_stands_before_the_one_it_came_before() -> None:
    day = emptied()
    day.at("11:00").act("a1", kind="in", cylinder="14", gross_before="20 lb", gross_after="19 lb", done=True)
    day.at("11:30").act("a2", kind="lost", mass={"text": "2 oz", "source": "measured"}, empties=True, done=True)
    assert [row.origin for row in day.found.inside.rows][-3:] == ["/acts/a1", "/acts/a2", "/acts/a2"]
    assert day.inside == "empty"
    day.act("a2", before="a1")
    assert day.inside.startswith("1 lb 0.0 oz")
    day.act("a2", before="a2")
    assert day.inside == "empty"


def test_what_another_job_sets_aside_is_seen_and_counts_for_nothing() -> None:
    day = emptied()
    values = {"on": "2026-06-19", "from": "circuit 1", "mass_kg": 32.0 * OZ_KG}
    day.job = dataclasses.replace(day.job, facts=(Fact("coming", "x", day.now, "job a", values),))
    day.type("weigh_in", system_state="empty")
    assert day.told("weigh_in", "weigh_in.coming") == "2 lb 0.0 oz may come from circuit 1 on 2026-06-19. It counts once it is weighed."
    assert day.inside == "empty"


def test_a_cylinder_nobody_named_has_no_key_for_a_name() -> None:
    day = emptied()
    day.act("amx1", kind="in", gross_before="20 lb", gross_after="19 lb", done=True)
    assert day.found.inside.rows[-1].note == "cylinder not named"
    assert [m.source for m in day.found.movements] == ["cylinder not named:"]
    assert "amx1" not in day.found.movements[0].source


def test_a_flame_on_the_cylinder_is_a_remark_once_the_draw_is_over() -> None:
    day = emptied()
    day.at("12:00").type("weigh_in", system_state="empty", warmed_by="flame", draws={"d1": draw("14", "30 lb")})
    assert day.rules("weigh_in")["weigh_in.flame"] == "Stop"
    day.type("weigh_in", draws={"d1": {"gross_end": "22 lb"}})
    assert day.rules("weigh_in")["weigh_in.flame"] == "Open"


@pytest.mark.parametrize(("then", "now"), [(True, "unsaid"), (False, "no")])
def test_a_hold_closed_in_version_4_is_not_changed_by_the_words_of_version_5(then: bool, now: str) -> None:
    """Sealed as version 4 sealed it: SHA-256 over circuit and runs, bubbles done or not."""
    day = emptied()
    day.at("10:45").type("pressure_hold", **hold(clock("10:10"), (clock("10:20"), 240), (clock("10:45"), 240), volume="4 L", bubbles=now))
    day.close("pressure_hold", "as it was then")
    plain = documents.dump_job(day.job)
    reads = [step for step in registry.STEPS["pressure_hold"].reads if step in registry.order("service")]
    runs = {step: plain["steps"].get(step, {}).get("runs", []) for step in (*reads, "pressure_hold")}
    runs["pressure_hold"][0]["sheet"]["bubbles"] = then
    text = json.dumps({"circuit": plain.get("circuit", {}), "runs": runs}, sort_keys=True, separators=(",", ":"), ensure_ascii=False)
    plain["steps"]["pressure_hold"]["events"][0] |= {"inputs_hash": hashlib.sha256(text.encode()).hexdigest()}
    del plain["steps"]["pressure_hold"]["events"][0]["said"]
    old = documents.load_plain({"format": "yoshi-job", "version": 4, "job": plain}).job
    assert old.steps["pressure_hold"].runs[0].sheet.bubbles == now
    assert evaluate(old, Profile(), day.now).step("pressure_hold").state == "closed"
    changed = plain["steps"]["repair"]["runs"][0]["sheet"]
    changed["opened_for"] = {"value": 7200.0, "text": "2 h", "unit": "h"}
    other = documents.load_plain({"format": "yoshi-job", "version": 4, "job": plain}).job
    assert evaluate(other, Profile(), day.now).step("pressure_hold").state == "changed"


def test_a_burnout_nobody_knows_of_is_never_called_clean() -> None:
    """Reuse then goes by an acid test, or by the owner's word with a name; it is no Stop either."""
    day = Day("08:00")
    day.type("identify", **SPLIT)
    own = {**RECOVER, "use": "reuse", "burnout_unknown": True, "same_owner": True}
    day.type("recover", **own, **ended(), cylinders={"c1": out("R-2", "27 lb", "35 lb")})
    assert day.rules("recover")["recovered.burnout"] == "Wait"
    assert "recovered.use" not in day.rules("recover")
    day.type("recover", acid="clean")
    assert "recovered.burnout" not in day.rules("recover")
    assert day.rules("recover")["recovered.use"] == "Holds"
    day.type("recover", acid="not_tested", decisions={"d1": {"question": "his own back?", "chosen": "yes", "by": "the owner"}})
    assert day.rules("recover")["recovered.burnout"] == "Open"
