"""Rules that few jobs meet: each with a case in which it speaks, and one beside it in which it does not.

And a gate: a rule that stands in the code has its line in `rules.csv`, so none is said that no test has looked at.
"""

import re
from collections.abc import Callable
from datetime import timedelta
from pathlib import Path
from typing import Any

import pytest

import yoshi_core
from tests.make import NOW, PLATE, RUNNING, WEIGHED, findings, reading_with
from tests.make_closed import HOLD, RECOVERED, REPAIRED, UNIT, hold, hold_sheet, rules
from tests.steps.leak_search.test_leak_search import searched
from tests.steps.test_edges import FOUND
from tests.well_said import carried
from yoshi_core.findings.result import StepResult
from yoshi_core.leaks.places import places_of

SAID_BY = re.compile(r'notes\.(?:tell|say)\(\s*"([a-z_]+\.[a-z_]+)"')


def found_running(suction_line: str) -> StepResult:
    return findings(PLATE, kind="service", sheets={"as_found": {**FOUND, "suction_line": suction_line}}).step("as_found")


def with_bottle(*, wet: bool) -> StepResult:
    """A low-pressure machine, held at 10 psig: what is left in the bottle would not break its vacuum twice."""
    machine = {**UNIT, "refrigerant": "R-123", "kind": "chiller"}
    bottle = {"bottle_pressure": "400 psig", "bottle_volume": "40 L", "test_pressure": "10 psig", "volume": "500 L"}
    sheet = {**hold_sheet([(15, 10.0, 70), (35, 10.0, 70)]), **bottle}
    sheets = {"recover": RECOVERED, "repair": {**REPAIRED, "water_seen": wet}, "pressure_hold": sheet}
    return findings(machine, kind="service", sheets=sheets).step("pressure_hold")


def log_of(seconds: list[float], starts_s_ago: float = 2400.0) -> StepResult:
    start = NOW - timedelta(seconds=starts_s_ago)
    trace = {"starts_at": start.isoformat(), "seconds": seconds, "rows": len(seconds), "sha256": "ab", "values": [2.0e6] * len(seconds)}
    sheet = {**HOLD, "filled_at": start.isoformat(), "pressure_trace": {**trace, "step": 700.0, "limit": 7000.0}}
    return findings(UNIT, kind="service", sheets={"recover": RECOVERED, "repair": REPAIRED, "pressure_hold": sheet}).step("pressure_hold")


EVERY_MINUTE = [60.0 * n for n in range(41)]
ALL_CLEAN = {
    p.id: dict.fromkeys(("eyes", "electronic", "bubbles", "ultrasonic", "tracer", "isolation"), "clean") for p in places_of("split")
}
SHUT_IN = {**ALL_CLEAN, "line_wall": {"reach": "closed"}}


def trimmed(plate: dict[str, Any], subcooling_f: float = 3.0) -> StepResult:
    return findings(plate, WEIGHED, {**RUNNING, "readings": {"r1": reading_with(11.0, subcooling_f)}}).step("verify")


Case = Callable[[], StepResult]
CASES: dict[str, tuple[Case, Case]] = {
    "as_found.negative_superheat": (lambda: found_running("20 °F"), lambda: found_running("45 °F")),
    "hold.bubbles": (lambda: hold([(15, 554, 70), (35, 550.5, 67)], bubbles="no"), lambda: hold([(15, 554, 70), (35, 550.5, 67)])),
    "hold.metal_missing": (
        lambda: hold([(15, 554, 70), (25, 552, 68.5), (35, 550.5, None)]),
        lambda: hold([(15, 554, 70), (25, 552, 68.5), (35, 550.5, 67)]),
    ),
    "hold.bottle_later": (lambda: with_bottle(wet=True), lambda: with_bottle(wet=False)),
    "leak.closed": (lambda: searched({"inside": "nitrogen", "places": SHUT_IN}), lambda: searched({"inside": "nitrogen", "places": ALL_CLEAN})),
    "leak.none": (lambda: searched({"inside": "nitrogen", "places": ALL_CLEAN}), lambda: searched({"inside": "nitrogen", "places": SHUT_IN})),
    "log.future": (lambda: log_of([*EVERY_MINUTE, 2400.0 + 121.0]), lambda: log_of([*EVERY_MINUTE, 2400.0 + 119.0])),
    "log.gap": (
        lambda: log_of([s for s in EVERY_MINUTE if not 600.0 < s < 960.0]),
        lambda: log_of([s for s in EVERY_MINUTE if not 600.0 < s < 900.0]),
    ),
    "trim.no_plan": (
        lambda: trimmed({k: v for k, v in PLATE.items() if k != "factory_charge"}),
        lambda: trimmed(PLATE),
    ),
    "trim.no_formula": (
        lambda: trimmed({**PLATE, "subcooling_target": "0 °F"}, 12.0),
        lambda: trimmed({**PLATE, "subcooling_target": "0.5 °F"}, 12.0),
    ),
}  # fmt: skip


@pytest.mark.parametrize("rule", sorted(CASES))
def test_it_speaks_and_beside_it_does_not(rule: str) -> None:
    speaks, silent = CASES[rule]
    assert rule in rules(speaks())
    assert rule not in rules(silent())


def test_every_rule_in_the_code_has_its_line() -> None:
    root = Path(yoshi_core.__file__).parent
    written = {rule for path in root.rglob("*.py") for rule in SAID_BY.findall(path.read_text(encoding="utf-8"))}
    assert len(written) > 150
    assert written - set(carried()) == set()
