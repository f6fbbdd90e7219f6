"""As found: derived at once, refused where nothing may be said, ranked with the check that separates.

Cases are common practice, no source, where no other is named.
"""

from typing import Any

import pytest

from tests.make import NOW, PLATE, findings, in_f, kelvin
from yoshi_core.diagnosis.causes import CAUSES, CHECKS
from yoshi_core.diagnosis.rank import LOOK_ALIKES, WEIGHED
from yoshi_core.diagnosis.signs import HEATING, TABLE, Seen, held, rank_by_signs
from yoshi_core.findings.pictures import AsFoundPicture
from yoshi_core.findings.result import StepResult
from yoshi_core.job import documents
from yoshi_core.job.evaluate import evaluate
from yoshi_core.message import Message
from yoshi_core.profile.profile import Profile
from yoshi_core.properties import saturation
from yoshi_core.steps.verify import fingerprint
from yoshi_core.units.quantities import PSI_PA

SPLIT = {**PLATE, "altitude": "0 m"}
DUCTLESS = {**SPLIT, "kind": "ductless", "metering": "eev"}
REACH_IN = {"refrigerant": "R-134a", "factory_charge": "19 oz", "kind": "reach_in", "metering": "capillary", "altitude": "0 m"}
WALK_IN = {"refrigerant": "R-404A", "factory_charge": "9 lb", "kind": "receiver", "metering": "txv", "altitude": "0 m"}
SETTLED = {"running": "settled", "run_time": "15 min", "mode": "cooling"}
GAUGES = {"suction_pressure": "128 psig", "suction_line": "58 °F", "liquid_pressure": "372 psig", "liquid_line": "102 °F"}


def found(plate: dict[str, Any], sheet: dict[str, Any], **more: Any) -> StepResult:
    return findings(plate, kind="service", sheets={"as_found": sheet}, **more).step("as_found")


def causes(result: StepResult) -> list[str]:
    return [row.id for row in result.drawn(AsFoundPicture).causes]


def rules(result: StepResult) -> set[str]:
    return {reason.rule_id for reason in result.verdict.reasons}


def test_an_overcharge_leads_and_its_look_alikes_come_with_what_excludes_them() -> None:
    sheet = {
        **SETTLED,
        "suction_pressure": "142.6 psig",
        "liquid_pressure": "540 psig",
        "suction_line": "52.2 °F",
        "liquid_line": "81.6 °F",
    }
    result = found(SPLIT, sheet)
    assert causes(result)[0] == "overcharge"
    superheat, subcooling = result.figure("superheat"), result.figure("subcooling")
    assert superheat
    assert superheat.amount.value * 1.8 == pytest.approx(1.5, abs=1.0)
    assert subcooling
    assert subcooling.amount.value * 1.8 == pytest.approx(58.0, abs=1.0)
    assert "Outdoor air above 81.6 °F is impossible with these readings: subcooling ends there." in [
        n.show() for n in result.drawn(AsFoundPicture).notes
    ]
    excluded = {row.id: row.excluded_by for row in result.drawn(AsFoundPicture).causes}
    assert excluded["condenser_air"] == CHECKS["condenser_face"].text
    assert excluded["non_condensables"] == CHECKS["standing"].text
    assert excluded["overcharge"] == WEIGHED["overcharge"]


def test_a_ductless_unit_in_heating_shows_its_high_side_at_the_vapour_port() -> None:
    sheet = {**SETTLED, "mode": "heating", "suction_pressure": "236 psig", "suction_line": "110 °F", "return_air": "70 °F"}
    without = found(DUCTLESS, sheet)
    assert not without.missing
    assert causes(without)[0] == "healthy"  # 10 °F over the room may be usual on a cold day: without the weather it accuses nothing
    assert not found(DUCTLESS, {**sheet, "suction_pressure": "330 psig"}).missing
    assert [m.label for m in found(DUCTLESS, {k: v for k, v in sheet.items() if k != "return_air"}).missing] == [
        "outdoor air",
        "return air",
    ]
    result = found(DUCTLESS, {**sheet, "outdoor": "50 °F"})
    condensing, over = result.figure("condensing"), result.figure("over")
    assert condensing
    assert in_f(condensing.amount.value) == pytest.approx(80.0, abs=0.3)
    assert over
    assert over.amount.value * 1.8 == pytest.approx(10.0, abs=0.3)
    assert result.figure("superheat") is None
    assert causes(result)[0] == "undercharge"
    assert result.verdict.word == "Wait"
    assert "coarser" in result.drawn(AsFoundPicture).notes[0].show()
    labels = {row.id: row.label for row in result.drawn(AsFoundPicture).causes}
    assert labels["condenser_air"].startswith("outdoor coil")


def test_the_same_port_in_cooling_at_50_psig_is_far_short() -> None:
    result = found(DUCTLESS, {**SETTLED, "suction_pressure": "50 psig"})
    evaporating = result.figure("evaporating")
    assert evaporating
    assert in_f(evaporating.amount.value) == pytest.approx(1.0, abs=1.0)
    assert causes(result)[0] == "undercharge"


def test_an_iced_coil_is_thawed_before_anything_is_said() -> None:
    result = found(REACH_IN, {**SETTLED, "liquid_pressure": "205 psig", "outdoor": "80 °F", "iced": True})
    assert (result.verdict.word, result.drawn(AsFoundPicture).causes) == ("Wait", ())
    assert "as_found.iced" in rules(result)


def test_a_head_far_over_usual_is_not_a_charge_fault_by_itself() -> None:
    result = found(REACH_IN, {**SETTLED, "liquid_pressure": "205 psig", "outdoor": "80 °F"})
    condensing = result.figure("condensing")
    assert condensing
    assert in_f(condensing.amount.value) == pytest.approx(132.0, abs=0.5)
    assert "as_found.head_high" in rules(result)
    assert causes(result)[0] == "condenser_air"


def test_a_reach_in_thirty_over_the_room_and_thirty_under_the_box_is_typical() -> None:
    # common practice, no source: 75 °F room, condensing about 105 °F, evaporating about 30 °F under a 38 °F box
    sea = 14.696
    high = saturation.bubble_pressure_pa("R-134a", kelvin(105.0)) / PSI_PA - sea
    low = saturation.dew_pressure_pa("R-134a", kelvin(8.0)) / PSI_PA - sea
    readings = {"liquid_pressure": f"{high:.2f} psig", "suction_pressure": f"{low:.2f} psig", "outdoor": "75 °F", "box": "38 °F"}
    result = found(REACH_IN, {**SETTLED, **readings})
    over, under = result.figure("over"), result.figure("under")
    assert over
    assert over.amount.value * 1.8 == pytest.approx(30.0, abs=0.2)
    assert under
    assert under.amount.value * 1.8 == pytest.approx(30.0, abs=0.2)
    assert causes(result)[0] == "healthy"


def test_a_cooler_that_cycles_is_stopped_and_the_cheap_check_comes_first() -> None:
    head = saturation.bubble_pressure_pa("R-404A", kelvin(83.0)) / PSI_PA - 14.696
    sheet = {
        "running": "cycling",
        "mode": "cooling",
        "suction_pressure": "5 psig",
        "suction_swing": "25 psig",
        "liquid_pressure": f"{head:.1f} psig",
        "outdoor": "75 °F",
        "checks": {"load_flow": {"result": "right", "note": "0.9 A, 0.5 or more is right"}},
    }
    result = found(WALK_IN, {**sheet, "history": "controller replaced twice"})
    assert "undercharge" in causes(result)[:3]
    first = result.drawn(AsFoundPicture).next_check
    assert first is not None
    assert first.id == "standing"
    assert "as_found.cycling" in rules(result)
    plain = found(WALK_IN, sheet)
    assert [(r.id, r.fit) for r in plain.drawn(AsFoundPicture).causes] == [(r.id, r.fit) for r in result.drawn(AsFoundPicture).causes]
    assert "controller replaced twice" in result.drawn(AsFoundPicture).notes[-1].show()


@pytest.mark.parametrize(
    ("more", "rule"),
    [
        ({"run_time": "4 min"}, "as_found.run_in"),
        ({"running": "just_started"}, "as_found.run_in"),
        ({"inverter": True}, "as_found.inverter"),
    ],
)
def test_it_refuses_to_speak_and_names_why(more: dict[str, Any], rule: str) -> None:
    result = found(SPLIT, {**SETTLED, **GAUGES, **more})
    assert result.verdict.word == "Wait"
    assert rule in rules(result)
    assert not result.drawn(AsFoundPicture).causes


def test_whatever_was_read_is_ranked_and_what_would_lift_a_refusal_is_named() -> None:
    three = found(SPLIT, {k: v for k, v in {**SETTLED, **GAUGES}.items() if k != "liquid_line"})
    assert not three.missing
    assert three.drawn(AsFoundPicture).causes
    bare = found(SPLIT, SETTLED)
    assert bare.missing[0].label == "suction or vapour port pressure"
    assert not bare.drawn(AsFoundPicture).causes
    alone = found(REACH_IN, {**{k: v for k, v in SETTLED.items() if k != "mode"}, "suction_pressure": "2 psig", "box": "41 °F"})
    assert not alone.missing
    assert "undercharge" in causes(alone)
    assert "low_airflow" in causes(alone)
    starved = found(SPLIT, {**SETTLED, "amps": "4 A", "rated_amps": "12 A", "return_air": "75 °F", "supply": "70 °F"})
    assert {"undercharge", "liquid_restriction"} <= set(causes(starved))
    assert "coarser" in starved.drawn(AsFoundPicture).notes[0].show()


def test_a_unit_in_short_turns_is_ranked_by_what_stops_it_and_not_by_its_gauges() -> None:
    low = found(REACH_IN, {"running": "cycling", "suction_pressure": "5 psig", "suction_swing": "25 psig", "liquid_pressure": "150 psig"})
    assert low.figure("condensing") is None
    assert {"undercharge", "liquid_restriction", "low_airflow"} <= set(causes(low))
    assert any("solenoid without power" in note.show() for note in low.drawn(AsFoundPicture).notes)
    check = low.drawn(AsFoundPicture).next_check
    assert check is None or not CHECKS[check.id].needs_running
    high = found(SPLIT, {"running": "cycling", "cycles_on": "high"})
    assert set(causes(high)[:2]) <= {"condenser_air", "overcharge"}
    assert "high-pressure control" in next(r.message.show() for r in high.verdict.reasons if r.rule_id == "as_found.cycling")
    unknown = found(SPLIT, {"running": "cycling"})
    assert [m.label for m in unknown.missing] == ["what stops it"]
    assert not causes(unknown)
    clock = found(SPLIT, {"running": "cycling", "cycles_on": "thermostat"})
    assert "no fault of the circuit by itself" in clock.verdict.reasons[0].message.show()


def said_of(result: StepResult, cause: str) -> tuple[list[str], list[str]]:
    row = next(row for row in result.drawn(AsFoundPicture).causes if row.id == cause)
    return [m.show() for m in row.speaks_for], [m.show() for m in row.speaks_against]


def test_what_was_checked_is_among_the_reasons_before_what_was_read() -> None:
    """The leader never stands there with nothing for it where a check put it first."""
    nearly_empty = {"running": "cycling", "cycles_on": "high", "standing_pressure": "60 psig", "standing_cold": "70 °F"}
    both = found(SPLIT, nearly_empty)
    assert causes(both)[0] == "undercharge"
    assert said_of(both, "undercharge")[0] == ["Standing pressure: below saturation."]
    assert said_of(both, "condenser_air")[1][0] == "Standing pressure: below saturation."
    assert any("cannot reach its high-pressure control" in note.show() for note in both.drawn(AsFoundPicture).notes)
    full = found(SPLIT, {**nearly_empty, "standing_pressure": "203 psig"})
    assert not any("cannot reach" in note.show() for note in full.drawn(AsFoundPicture).notes)
    read = {**SETTLED, **GAUGES}
    drop = found(SPLIT, {**read, "checks": {"drier_drop": {"result": "drop"}, "filter": {"result": "cannot"}}})
    assert said_of(drop, "liquid_restriction")[0][0] == "Along the liquid line: 3 °F or more colder after it."
    assert not any("Filter" in text for row in drop.drawn(AsFoundPicture).causes for side in said_of(drop, row.id) for text in side)
    even = found(SPLIT, {**read, "checks": {"filter": {"result": "clear"}}})
    assert not [
        row for row in causes(even) if row == "low_airflow" and "Filter and indoor coil: clean, air moves." not in said_of(even, row)[1]
    ]


def test_air_in_it_never_leads_unless_a_standing_pressure_says_so() -> None:
    far_over = {**SETTLED, "suction_pressure": "142.6 psig", "suction_line": "50.2 °F", "liquid_pressure": "540 psig", "liquid_line": "81.1 °F", "outdoor": "75 °F"}  # fmt: skip
    order = causes(found(SPLIT, far_over))
    assert order[0] == "overcharge"
    assert set(order[1:3]) == {"non_condensables", "condenser_air"}
    told = found(SPLIT, {**far_over, "checks": {"standing": {"result": "above"}}})
    assert causes(told)[0] == "non_condensables"


def test_hardly_any_superheat_with_a_valve_sends_to_its_bulb_first() -> None:
    flooding = {**SETTLED, **GAUGES, "suction_line": "42 °F"}
    assert "as_found.bulb" in rules(found({**SPLIT, "metering": "txv"}, flooding))
    assert "as_found.bulb" not in rules(found({**SPLIT, "metering": "orifice"}, flooding))
    assert "as_found.bulb" not in rules(found({**SPLIT, "metering": "txv"}, {**SETTLED, **GAUGES}))


def test_heating_with_both_ports_named_a_low_true_suction_is_low() -> None:
    """At 47 °F outdoors: evaporating far under the air with too little head is short; with liquid backed up it is a restriction."""
    plate = {**SPLIT, "kind": "heat_pump", "metering": "txv"}
    heating = {
        **SETTLED,
        "mode": "heating",
        "outdoor": "47 °F",
        "return_air": "70 °F",
        "suction_pressure": "250 psig",
        "true_suction": "40 psig",
    }
    short = found(plate, {**heating, "liquid_pressure": "245 psig", "liquid_line": "82 °F"})
    assert short.figure("evaporating") is not None
    assert causes(short)[0] == "undercharge"
    backed_up = found(plate, {**heating, "liquid_pressure": "300 psig", "liquid_line": "65 °F", "suction_pressure": "305 psig"})
    assert causes(backed_up)[0] in {"liquid_restriction", "valve_starving"}
    assert "undercharge" not in causes(backed_up)[:2]


@pytest.mark.parametrize("air", [{"return_air": "70 °F"}, {"supply": "68 °F"}, {"outdoor": "50 °F"}])
def test_pressures_of_heating_under_the_word_cooling_are_asked_about_with_whatever_air_is_known(air: dict[str, str]) -> None:
    result = found(
        SPLIT,
        {
            **SETTLED,
            **{k: v for k, v in GAUGES.items() if k not in {"outdoor", "return_air", "supply"}},
            "suction_pressure": "340 psig",
            **air,
        },
    )
    assert "heating_as_cooling" in [p.code for p in result.problems]


@pytest.mark.parametrize(
    ("more", "code"),
    [
        ({"suction_pressure": "380 psig"}, "suction_above_liquid"),
        ({"suction_line": "102 °F", "liquid_line": "58 °F"}, "clamps_swapped"),
        ({"liquid_pressure": "800 psig"}, "refrigerant_cannot"),
        ({"suction_pressure": "236 psig", "suction_line": "110 °F", "return_air": "70 °F"}, "heating_as_cooling"),
        ({"checks": {"standing": {"result": "blue"}}}, "invalid_input"),
        ({"checks": {"sniff": {"result": "blue"}}}, "invalid_input"),
    ],
)
def test_readings_that_cannot_be_used_are_refused_by_name(more: dict[str, Any], code: str) -> None:
    result = found(SPLIT, {**SETTLED, **GAUGES, **more})
    assert code in [p.code for p in result.problems]
    assert result.verdict.word == "Open"
    assert not result.drawn(AsFoundPicture).causes


def test_subcooling_beyond_the_air_is_said_in_words() -> None:
    result = found(SPLIT, {**SETTLED, **GAUGES, "outdoor": "108 °F"})
    assert "as_found.subcooling_over_air" in rules(result)
    assert "as_found.condensing_under_air" in rules(found(SPLIT, {**SETTLED, **GAUGES, "outdoor": "125 °F"}))


def test_a_check_result_ranks_again_and_what_cannot_be_done_is_passed_over() -> None:
    sheet = {
        **SETTLED,
        "suction_pressure": "142.6 psig",
        "liquid_pressure": "540 psig",
        "suction_line": "52.2 °F",
        "liquid_line": "81.6 °F",
    }
    first = found(SPLIT, sheet)
    check = first.drawn(AsFoundPicture).next_check
    assert check is not None
    passed = found(SPLIT, {**sheet, "checks": {check.id: {"result": "cannot"}}})
    following = passed.drawn(AsFoundPicture).next_check
    assert following is None or following.id != check.id
    assert [r.id for r in passed.drawn(AsFoundPicture).causes] == [r.id for r in first.drawn(AsFoundPicture).causes]
    for outcome in check.outcomes:
        told = found(SPLIT, {**sheet, "checks": {check.id: {"result": outcome.id}}})
        assert told.drawn(AsFoundPicture).causes[0].label == outcome.meaning


@pytest.mark.parametrize(("psig", "said"), [("40 psig", "below"), ("201 psig", "at"), ("230 psig", "above")])
def test_standing_pressure_against_the_coldest_part(psig: str, said: str) -> None:
    sheet = {"running": "off", "standing_pressure": psig, "standing_cold": "70 °F", "volume": "6 L"}
    result = found(SPLIT, sheet)
    assert f"standing.{said}" in rules(result)
    assert result.verdict.word == ("Wait" if said == "above" else "Holds")
    reason = next(r for r in result.verdict.reasons if r.rule_id == f"standing.{said}")
    if said == "below":
        # 40 psig of R-410A vapour at 70 °F is about 12.4 kg/m³ (ideal gas 11.8 at 72.6 g/mol): 6 L hold 2.6 oz
        assert reason.message.amounts["left"].value == pytest.approx(0.0733, abs=0.004)


def test_a_proven_unit_is_compared_with_itself_in_like_weather() -> None:
    proven = documents.load_job(
        {
            "id": "then",
            "steps": {
                "identify": {"runs": [{"sheet": SPLIT}]},
                "verify": {"runs": [{"sheet": {"readings": {"r1": {**GAUGES, "outdoor": "88 °F"}}}}]},
            },
        }
    )
    figures = fingerprint.take(proven)
    assert figures is not None
    assert set(figures) == {"suction_gauge_pa", "liquid_gauge_pa", "outdoor_k", "superheat_k", "subcooling_k"}
    fact = {"kind": "fingerprint", "key": "then", "as_of": NOW.isoformat(), "source": "job then", "values": figures}
    like = found(SPLIT, {**SETTLED, **GAUGES, "suction_line": "70 °F", "outdoor": "92 °F"}, facts=[fact])
    rows = {row.label: row for row in like.drawn(AsFoundPicture).compared}
    assert (rows["superheat"].now.value - rows["superheat"].then.value) * 1.8 == pytest.approx(12.0)
    other = found(SPLIT, {**SETTLED, **GAUGES, "outdoor": "70 °F"}, facts=[fact])
    assert other.drawn(AsFoundPicture).compared == ()


def test_every_sign_row_names_known_causes_and_marks() -> None:
    for table in (TABLE, HEATING):
        assert set(table) == set(CAUSES)
        assert all(mark in "-=+~" for row in table.values() for cell in row.values() for mark in cell)
    assert {twin for twins in LOOK_ALIKES.values() for twin in twins} <= set(CAUSES)


@pytest.mark.parametrize(
    ("signs", "family", "lead"),
    [
        ({"suction": "-", "head": "-", "superheat": "+", "subcooling": "-"}, "valve", "undercharge"),
        ({"suction": "=", "head": "+", "superheat": "=", "subcooling": "+"}, "valve", "overcharge"),
        ({"suction": "+", "head": "-", "superheat": "=", "subcooling": "-"}, "fixed", "compressor_leak"),
        ({"suction": "-", "head": "=", "superheat": "-", "split": "+"}, "fixed", "low_airflow"),
        ({"suction": "=", "head": "=", "superheat": "=", "subcooling": "="}, "valve", "healthy"),
    ],
)
def test_the_signature_table_leads_to_its_fault(signs: dict[str, Any], family: Any, lead: str) -> None:
    seen = [Seen(name, sign, Message(name)) for name, sign in signs.items()]
    assert rank_by_signs(seen, family, {}).ranked[0].cause == lead


def test_a_figure_on_the_edge_of_its_band_is_usual() -> None:
    assert [held("head", v, 10.0, 20.0, "x {value}").sign for v in (9.9, 10.0, 20.0, 20.1)] == ["-", "=", "=", "+"]


def test_a_refrigerant_without_tables_is_named() -> None:
    result = found({**SPLIT, "refrigerant": "R-999"}, {**SETTLED, **GAUGES})
    assert "a refrigerant Yoshi has tables for" in [m.label for m in result.missing]


def test_documents_of_before_keep_what_was_written_in_these_steps() -> None:
    old = {
        "format": "yoshi-job",
        "version": 2,
        "job": {"id": "old", "steps": {"recover": {"runs": [{"sheet": {"entries": {}, "note": "8 lb came out"}}]}}},
    }
    job = documents.load_plain(old).job
    assert job.steps["recover"].runs == ()
    assert job.facts[0].values["note"] == "8 lb came out"
    assert evaluate(job, Profile(), NOW)
