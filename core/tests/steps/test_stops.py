"""Every rule that can say Stop, with a case that fires it and a near miss that does not.

The list of rules is read off the code: a new one without both cases fails here.
"""

import ast
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest

import yoshi_core
from tests.make import DRAW, NOW, PLATE, READING, RUNNING, WEIGHED, findings, job, reading_with, six_pounds
from tests.make_changed import OLD, OUT, OVER, PLAN, changed
from tests.make_closed import RECOVERED, REPAIRED, UNIT, hold_sheet, isolated, vacuum_sheet
from tests.steps.recover.test_recover import BIG, PACKAGED, READY
from tests.steps.recover.test_recover import OVER as RECOVERY_OVER
from tests.steps.verify.test_trim_on_the_rig import FULL_OZ, read, verified
from yoshi_core.findings.result import StepResult
from yoshi_core.job import documents
from yoshi_core.job.evaluate import evaluate
from yoshi_core.profile.profile import Profile

CORE = Path(yoshi_core.__file__).parent
Says = Callable[[], StepResult]
TWICE = {"pressure_start": "300 psig", "pressure_end": "290 psig", "metal_start": "70 °F", "metal_end": "70 °F", "lasted": "1 h"}


def service(step: str, plate: dict[str, Any] = UNIT, **sheets: Any) -> StepResult:
    return findings(plate, kind="service", sheets=sheets).step(step)


def recover(plate: dict[str, Any] = PACKAGED, **sheet: Any) -> StepResult:
    return service("recover", plate, recover=sheet)


def one_cylinder(**row: Any) -> dict[str, Any]:
    return {**READY, "cylinders": {"c1": {**BIG, **row}}}


def pump_down(**sheet: Any) -> StepResult:
    fine = {"compressor_runs": True, "low_breach": False, "small_condenser": False, "into_vacuum": False}
    return recover(way="pump_down", **{**fine, **sheet})


def repair(plate: dict[str, Any] = UNIT, **sheet: Any) -> StepResult:
    return service("repair", plate, recover=RECOVERED, repair={**REPAIRED, **sheet})


BRAZED = {"joining": "brazed", "nitrogen_flow": True, "at_zero": True, "both_open": True, "fire_watch": True}


def hold(readings: Any = ((15, 554.0, 70.0), (35, 550.5, 67.0)), plate: dict[str, Any] = UNIT, **sheet: Any) -> StepResult:
    return service("pressure_hold", plate, recover=RECOVERED, repair=REPAIRED, pressure_hold=hold_sheet(list(readings), **sheet))


def freed(behind: bool) -> StepResult:
    """A port freed by more than the stamps, with the system behind it or not."""
    act = {"kind": "freed", "done": True, "pressure": "700 psig", "behind": behind}
    sheets = {"recover": RECOVERED, "repair": REPAIRED, "pressure_hold": hold_sheet([(15, 554.0, 70.0)])}
    return findings(UNIT, kind="service", sheets=sheets, acts={"a1": act}).step("pressure_hold")


def hold_after(drop_end: str, readings: Any) -> StepResult:
    before = {"inside": "nitrogen", "volume": "6 L", "drops": {"n1": {**TWICE, "pressure_end": drop_end}}}
    sheet = hold_sheet(list(readings))
    return service("pressure_hold", UNIT, leak_search=before, recover=RECOVERED, repair=REPAIRED, pressure_hold=sheet)


def evacuate(recovered: dict[str, Any] = RECOVERED, **sheet: Any) -> StepResult:
    pulled = vacuum_sheet([(0, "pump")], [(5, 3000.0)], **sheet)
    return service(
        "evacuate", UNIT, recover=recovered, repair=REPAIRED, pressure_hold=hold_sheet([(15, 554.0, 70), (35, 550.5, 67)]), evacuate=pulled
    )


def identify(**plate: Any) -> StepResult:
    return findings({**PLATE, **plate}).step("identify")


FLAMMABLE = {
    "refrigerant": "R-32", "listed": True, "kind": "split", "factory_charge": "6 lb", "room_area": "30 m²", "mounting": "wall",
}  # fmt: skip


def weigh(plate: dict[str, Any] | None = None, profile: Profile | None = None, **sheet: Any) -> StepResult:
    return findings({**PLATE, **(plate or {})}, {**WEIGHED, **sheet}, profile=profile).step("weigh_in")


def drawn(**draw: Any) -> dict[str, Any]:
    return {"d1": {**DRAW, **draw}}


def under_way() -> dict[str, Any]:
    """A cylinder that is giving: read before, not after."""
    return {"d1": {key: value for key, value in DRAW.items() if key != "gross_end"}}


def verify(readings: dict[str, Any], metering: str = "txv", **plate: Any) -> StepResult:
    return six_pounds(metering, {"r1": readings}, **plate).step("verify")


def receiver(level: str) -> StepResult:
    plate = {**PLATE, "kind": "receiver", "floods": False, "refrigerant": "R-404A"}
    return findings(plate, WEIGHED, {**RUNNING, "sight_glass": "clear", "receiver_level": level}).step("verify")


def trims(*superheats_f: float, added: str = "4 oz") -> StepResult:
    rows = {}
    for n, superheat in enumerate(superheats_f, 1):
        rows[f"r{n}"] = {
            **reading_with(superheat, None, return_wet_bulb="67 °F", outdoor="95 °F"),
            **({"added": added} if n > 1 else {}),
        }
    return six_pounds("orifice", rows).step("verify")


def to_glass(inside: str, glass: str) -> StepResult:
    plate = {
        **OLD, "refrigerant": "R-404A", "kind": "receiver", "metering": "txv", "oil": "POE", "floods": False, "factory_charge": "20 lb",
        "design_high": "450 psig", "included_length": "25 ft",
    }  # fmt: skip
    draw = {"cylinder": "31", "gross_start": "40 lb", "tare": "9 lb", "gross_end": f"{40 - float(inside)} lb", "holds": "R-448A"}
    run = {**RUNNING, "sight_glass": glass, "readings": {"r1": {**READING, "suction_pressure": "40 psig", "liquid_pressure": "240 psig"}}}
    found = changed(plate, {"system_state": "empty", "draws": {"d1": draw}}, run, plan_change={"refrigerant": "R-448A", "approved": True})
    return found.step("verify")


def with_act(step: str, **act: Any) -> StepResult:
    plain = documents.dump_job(job(UNIT, kind="service"))
    return evaluate(documents.load_job({**plain, "acts": {"a1": act}}), Profile(), NOW).step(step)


def behind_valves(step: str, act: dict[str, Any] | None = None, **sheets: dict[str, Any]) -> StepResult:
    """A new unit with its charge shut in, lines and coil worked on; an act at its valves."""
    plate = {**UNIT, "kind": "split", "included_length": "15 ft", "lines": {"l1": {"length": "15 ft", "allowance": "0.6 oz/ft"}}}
    made = job(plate, {"system_state": "precharged", "inside": "6 lb"}, kind="service", sheets=sheets)
    plain = documents.dump_job(made)
    return evaluate(documents.load_job({**plain, "acts": {"a1": act}} if act else plain), Profile(), NOW).step(step)


OPENING, OPENED = {"kind": "let_back"}, {"kind": "let_back", "done": True}
PUMPING = vacuum_sheet([(0, "pump")], [(5, 3000.0)])
SHUT_OFF = vacuum_sheet([(0, "pump"), (30, "isolated")], [(30, 300.0), (40, 320.0)])


def close_out(outcome: str, *, held: bool, weighed: bool = True, **plate: Any) -> StepResult:
    ending = {"close_out": {"outcome": outcome, "label_fixed": True, "reason": "as agreed"}}
    run = RUNNING if held else {**RUNNING, "filter_ok": False}
    draw = WEIGHED if weighed else {**WEIGHED, "draws": {"d1": {**DRAW, "gross_end": "25 lb"}}}
    flammable = {"refrigerant": "R-32", **plate} if plate else {}
    return findings({**PLATE, **flammable}, draw, run, sheets=ending).step("close_out")


def plan_change(plate: dict[str, Any] | None = None, profile: Profile | None = None, **sheet: Any) -> StepResult:
    sheets = {"plan_change": {**PLAN, **sheet}}
    return findings({**OLD, **(plate or {})}, kind="retrofit", sheets=sheets, profile=profile).step("plan_change")


def reuse(**more: Any) -> StepResult:
    return recover(**{**RECOVERY_OVER, "cylinders": {"c1": {**BIG, "gross_now": "45 lb"}}, **more})


ELSEWHERE = {"use": "other_circuit", "to_circuit": "CR-2", "to_circuit_mass": {"text": "1 lb", "source": "weighed"}}
OVERFULL = {"cylinders": {"c1": {**BIG, "gross_now": "48 lb"}}}
CASES: dict[str, tuple[Says, Says]] = {
    "close_out.danger": (lambda: close_out("left_safe", held=True, listed=False), lambda: close_out("left_safe", held=True, listed=True)),
    "close_out.way": (lambda: close_out("proven", held=False), lambda: close_out("proven", held=True)),
    "critical.scale_share": (
        lambda: weigh({"tolerance": "15 g"}, scale_step="5.1 g"),
        lambda: weigh({"tolerance": "15 g"}, scale_step="5 g"),
    ),
    "cylinder.fill": (
        lambda: recover({**PACKAGED, "factory_charge": "60 lb"}, **one_cylinder()),
        lambda: recover({**PACKAGED, "factory_charge": "18 lb"}, **one_cylinder()),
    ),
    "cylinder.one_way": (lambda: recover(**one_cylinder(contents="one_way")), lambda: recover(**one_cylinder(contents="same"))),
    "cylinder.mixed": (lambda: recover(**one_cylinder(contents="other")), lambda: recover(**one_cylinder(contents="same"))),
    "cylinder.over": (lambda: recover(**one_cylinder(gross_now="67.5 lb")), lambda: recover(**one_cylinder(gross_now="67.4 lb"))),
    "cylinder.retest": (lambda: recover(**one_cylinder(retest="2026-05")), lambda: recover(**one_cylinder(retest="2026-07"))),
    "hold.bubbles": (lambda: hold(bubbles="leaks"), lambda: hold(bubbles="no")),
    "hold.before": (
        lambda: hold_after("290 psig", ((15, 554.0, 70.0), (75, 540.0, 70.0))),
        lambda: hold_after("290 psig", ((15, 554.0, 70.0), (75, 554.0, 70.0))),
    ),
    "hold.drop": (lambda: hold(((15, 554.0, 70.0), (35, 545.0, 70.0))), lambda: hold(((15, 554.0, 70.0), (35, 553.9, 70.0)))),
    "hold.gas": (lambda: hold(gas="other"), lambda: hold(gas="nitrogen")),
    "hold.leak": (lambda: hold(((15, 554.0, 70.0), (35, 545.0, 70.0))), hold),
    "hold.port": (lambda: freed(True), lambda: freed(False)),
    "hold.low_pressure": (
        lambda: hold(plate={**UNIT, "refrigerant": "R-123", "kind": "chiller"}, test_pressure="10.1 psig"),
        lambda: hold(plate={**UNIT, "refrigerant": "R-123", "kind": "chiller"}, test_pressure="10 psig"),
    ),
    "hold.refrigerant": (
        lambda: service("pressure_hold", UNIT, recover={**RECOVERED, "finished": False}, pressure_hold=hold_sheet([(15, 554.0, 70)])),
        hold,
    ),
    "hold.regulator": (lambda: hold(regulator=False), lambda: hold(regulator=True)),
    "hold.stamp": (lambda: hold(test_pressure="575.1 psig"), lambda: hold(test_pressure="575 psig")),
    "identify.listed": (lambda: identify(refrigerant="R-32", listed=False), lambda: identify(refrigerant="R-32", listed=True)),
    "pump_down.breach": (lambda: pump_down(low_breach=True), pump_down),
    "pump_down.room": (lambda: pump_down(small_condenser=True), pump_down),
    "pump_down.runs": (lambda: pump_down(compressor_runs=False), pump_down),
    "pump_down.scroll": (lambda: pump_down(into_vacuum=True), pump_down),
    "recovered.use": (lambda: reuse(burnout=True), reuse),
    "leak.tracer": (
        lambda: with_act("leak_search", kind="tracer", mass="3 oz"),
        lambda: with_act("leak_search", kind="tracer", mass="1 oz"),
    ),
    "repair.at_zero": (
        lambda: behind_valves("repair", repair={"at_zero": False}),
        lambda: behind_valves("repair", repair={"at_zero": True}),
    ),
    "vacuum.let_back": (
        lambda: behind_valves("evacuate", OPENING, evacuate=PUMPING),
        lambda: behind_valves("evacuate", OPENING, evacuate=SHUT_OFF),
    ),
    "verify.shut_valves": (lambda: behind_valves("verify"), lambda: behind_valves("verify", OPENED)),
    "recover.let_off": (
        lambda: with_act("recover", kind="lost", mass="3 oz", planned_for="2026-07-01"),
        lambda: with_act("recover", kind="lost", mass="3 oz"),
    ),
    "recover.liquid": (
        lambda: with_act("recover", kind="shut", medium="liquid", section="s1", done=True),
        lambda: with_act("recover", kind="shut", medium="nitrogen", section="s1", done=True),
    ),
    "repair.drier_way": (lambda: repair(drier_way=False), repair),
    "repair.fire": (lambda: repair(**{**BRAZED, "fire_watch": False}), lambda: repair(**BRAZED)),
    "repair.oil_kind": (
        lambda: repair({**UNIT, "oil": "POE 32"}, oil_grade="PAG 46", oil_out="measured", oil_removed="10 mL"),
        lambda: repair({**UNIT, "oil": "POE 32"}, oil_grade="POE 32", oil_out="measured", oil_removed="10 mL"),
    ),
    "repair.trapped": (lambda: repair(**{**BRAZED, "both_open": False}), lambda: repair(**BRAZED)),
    "retrofit.approved": (lambda: plan_change(approved=False), plan_change),
    "retrofit.glass": (lambda: to_glass("24", "bubbles"), lambda: to_glass("16", "bubbles")),
    "retrofit.gwp": (
        lambda: plan_change(profile=Profile(overrides={"retrofit.gwp": 1773.0})),
        lambda: plan_change(profile=Profile(overrides={"retrofit.gwp": 1775.0})),
    ),
    "retrofit.listed": (lambda: plan_change(refrigerant="R-32"), plan_change),
    "retrofit.oil": (
        lambda: plan_change(profile=Profile(choices={"retrofit.oil": "stop"})),
        lambda: plan_change({"oil": "POE"}, profile=Profile(choices={"retrofit.oil": "stop"})),
    ),
    "retrofit.oil_grade": (
        lambda: changed(change_over={**OVER, "oil_grade": "mineral"}).step("change_over"),
        lambda: changed().step("change_over"),
    ),
    "retrofit.ozone": (
        lambda: plan_change({"refrigerant": "R-410A", "oil": "POE"}, refrigerant="R-22"),
        plan_change,
    ),
    "retrofit.pressure": (lambda: plan_change(refrigerant="R-410A"), plan_change),
    "retrofit.pump_down": (
        lambda: changed(recover={"way": "pump_down"}).step("recover"),
        lambda: changed().step("recover"),
    ),
    "retrofit.tables": (lambda: plan_change(evaporating="-60 °F"), lambda: plan_change(evaporating="40 °F")),
    "retrofit.use": (lambda: changed(recover={**OUT, "use": "reuse"}).step("recover"), lambda: changed().step("recover")),
    "room.breathing": (
        lambda: identify(kind="vrf", room_volume="10 m³", indoor_units="2", indoor_allowance="0.3 kg"),
        lambda: identify(kind="vrf", room_volume="100 m³", indoor_units="2", indoor_allowance="0.3 kg"),
    ),
    "room.ceiling": (
        lambda: identify(**{**FLAMMABLE, "room_area": "5 m²"}),
        lambda: identify(**{**FLAMMABLE, "room_area": "80 m²"}),
    ),
    "transfer.surplus": (
        lambda: reuse(**OVERFULL, **{**ELSEWHERE, "to_circuit_mass": {"text": "4 lb", "source": "weighed"}}),
        lambda: reuse(**ELSEWHERE, **OVERFULL),
    ),
    "transfer.weighed": (
        lambda: reuse(**OVERFULL, **{**ELSEWHERE, "to_circuit_mass": {"text": "1 lb", "source": "told"}}),
        lambda: reuse(**OVERFULL, **ELSEWHERE),
    ),
    "trim.cap": (lambda: trims(30, 28, 26, 24, added="4.8 oz"), lambda: trims(30, 27, added="4.8 oz")),
    "trim.no_answer": (lambda: trims(27, 30), lambda: trims(27, 22)),
    "trim.opposed": (
        lambda: verify(reading_with(27, 16, return_wet_bulb="67 °F", outdoor="80 °F"), "orifice"),
        lambda: verify(reading_with(27, 8, return_wet_bulb="67 °F", outdoor="80 °F"), "orifice"),
    ),
    "trim.other_cause": (
        lambda: verified(FULL_OZ, {"r1": read(FULL_OZ, 85.0, 67.67, low_airflow=0.5)}),
        lambda: verified(FULL_OZ, {"r1": read(FULL_OZ, 85.0, 67.67)}),
    ),
    "vacuum.decay": (
        lambda: isolated([(n, 300.0 + 120.0 * n) for n in range(12)]),
        lambda: isolated([(n, 300.0 + 1.0 * n) for n in range(12)]),
    ),
    "vacuum.power": (lambda: evacuate(energized=False), lambda: evacuate(energized=True)),
    "vacuum.refrigerant": (lambda: evacuate({**RECOVERED, "finished": False}), evacuate),
    "verify.other": (
        lambda: verify({**READING, "cylinder": "R4", "holds": "R-22", "added": "1 oz"}),
        lambda: verify({**READING, "cylinder": "R4", "holds": "r410a", "added": "1 oz"}),
    ),
    "verify.over_air": (
        lambda: verify({**reading_with(11, 10), "outdoor": "60 °F"}),
        lambda: verify({**reading_with(11, 10), "outdoor": "80 °F"}),
    ),
    "verify.receiver": (lambda: receiver("91 %"), lambda: receiver("60 %")),
    "verify.subcooling_most": (
        lambda: verify({**reading_with(11, 30), "outdoor": "95 °F"}),
        lambda: verify({**reading_with(11, 4), "outdoor": "95 °F"}),
    ),
    "verify.subcooling_negative": (lambda: verify(reading_with(11, -4)), lambda: verify(reading_with(11, -0.5))),
    "verify.superheat_high": (lambda: verify(reading_with(26, 10)), lambda: verify(reading_with(24, 10))),
    "verify.superheat_low": (lambda: verify(reading_with(3, 10)), lambda: verify(reading_with(5, 10))),
    "weigh_in.flame": (
        lambda: weigh(draws=under_way(), warmed_by="flame"),
        lambda: weigh(draws=under_way(), warmed_by="water"),
    ),
    "weigh_in.too_warm": (
        lambda: weigh(draws=under_way(), cylinder_temperature="126 °F"),
        lambda: weigh(draws=under_way(), cylinder_temperature="125 °F"),
    ),
    "weigh_in.freeze": (
        lambda: weigh({"refrigerant": "R-123", "kind": "chiller"}, water_safe=False),
        lambda: weigh({"refrigerant": "R-123", "kind": "chiller"}, water_safe=True),
    ),
    "weigh_in.other": (lambda: weigh(draws=drawn(holds="R-22")), lambda: weigh(draws=drawn(holds="r-410a"))),
    "weigh_in.tolerance": (
        lambda: weigh(draws=drawn(gross_end="20 lb 8 oz")),
        lambda: weigh(draws=drawn(gross_end="20 lb 14.4 oz")),
    ),
}


def stops(result: StepResult) -> set[str]:
    return {reason.rule_id for reason in result.verdict.reasons if reason.word == "Stop"}


def rules_that_stop() -> set[str]:
    """Ids of rules that say Stop somewhere in the code, or hand on a word that may be one."""
    found = set()
    for path in CORE.rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if not isinstance(node, ast.Call) or not node.args or not isinstance(node.args[0], ast.Constant):
                continue
            rule = str(node.args[0].value)
            if isinstance(node.func, ast.Attribute) and node.func.attr in {"say", "tell"} and len(node.args) > 1:
                words = {leaf.value for leaf in ast.walk(node.args[1]) if isinstance(leaf, ast.Constant)}
                if "Stop" in words:
                    found.add(rule)
            elif isinstance(node.func, ast.Name) and node.func.id in {"Stop", "_danger"}:
                found.add(rule)
    return found


def test_every_rule_that_can_stop_has_its_cases() -> None:
    assert rules_that_stop() - set(CASES) == set()
    by_word = {"vacuum.decay", "hold.leak", "weigh_in.tolerance"}
    assert set(CASES) - rules_that_stop() <= by_word


@pytest.mark.parametrize("rule", sorted(CASES))
def test_it_stops(rule: str) -> None:
    result = CASES[rule][0]()
    assert rule in stops(result)
    assert result.verdict.word == "Stop"


@pytest.mark.parametrize("rule", sorted(CASES))
def test_a_near_miss_does_not(rule: str) -> None:
    assert rule not in stops(CASES[rule][1]())
