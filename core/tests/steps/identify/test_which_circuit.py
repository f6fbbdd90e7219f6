"""Two circuits of 8 lb and 7 lb 8 oz not told apart: the smaller weighed in, the rig says which it is (common practice, no source)."""

from dataclasses import replace
from typing import Any

import pytest

from tests.make import findings, in_f
from tests.make_closed import rules, said
from yoshi_core.findings.result import StepResult
from yoshi_core.properties.atmosphere import SEA_LEVEL_PA
from yoshi_core.rig.design import Plate, design
from yoshi_core.rig.solve import solve
from yoshi_core.rig.unit import Faults
from yoshi_core.units.quantities import LB_KG, PSI_PA

PLATE = {
    "refrigerant": "R-410A", "kind": "packaged", "metering": "txv", "factory_charge": "7 lb 8 oz", "other_charge": "8 lb 0 oz", "circuit_known": False,
    "altitude": "0 m", "gauge_reference": "vented", "pairing_proven": True, "pairing_by": "only",
}  # fmt: skip
WEIGH = {"system_state": "empty", "draws": {"d1": {"gross_start": "30 lb", "tare": "9 lb", "gross_end": "22 lb 8 oz"}}}
RUN = {"mode": "cooling", "run_in": "20 min", "filter_ok": True, "coils_ok": True}


def verified(true_lb: float, inside_lb: float, other: str = "8 lb 0 oz", **more: Any) -> StepResult:
    """Readings of a rig unit whose own full charge is `true_lb`, with so much in it; the plate's target is the rig's own when full."""
    plate = Plate(refrigerant="R-410A", metering="txv", charge_kg=true_lb * LB_KG)
    unit = design(plate)
    full = solve(unit, plate.weather, Faults())
    now = solve(unit, plate.weather, replace(Faults(), charge_share=inside_lb / true_lb))
    reading = {
        "suction_pressure": f"{(now.suction_pa - SEA_LEVEL_PA) / PSI_PA:.2f} psig",
        "suction_line": f"{in_f(now.suction_k):.2f} °F",
        "liquid_pressure": f"{(now.liquid_pa - SEA_LEVEL_PA) / PSI_PA:.2f} psig",
        "liquid_line": f"{in_f(now.liquid_k):.2f} °F",
    }
    target = {"subcooling_target": f"{full.subcooling_k * 1.8:.2f} °F"}
    return findings({**PLATE, **target, "other_charge": other}, WEIGH, {**RUN, "readings": {"r1": reading, **more}}).step("verify")


def test_it_is_the_smaller_and_holds() -> None:
    found = verified(7.5, 7.5)
    assert rules(found)["verify.which_circuit"] == "Holds"
    assert "7 lb 8.0 oz: this is the smaller" in said(found, "verify.which_circuit")


def test_it_is_the_larger_and_is_short_by_what_lies_between() -> None:
    found = verified(8.0, 7.5)
    assert rules(found)["verify.which_circuit"] == "Wait", found.verdict.headline.show()
    assert "8 lb 0.0 oz is its plate. Add 8.0 oz" in said(found, "verify.which_circuit")


def test_one_amount_is_named_and_not_two() -> None:
    found = verified(8.0, 7.5)
    assert "trim.step" not in rules(found)
    step = found.figure("trim_step")
    assert step is not None
    assert step.amount.value / LB_KG == pytest.approx(0.5, abs=0.01)


def test_plates_nearer_than_the_reading_can_tell_are_left_open() -> None:
    found = verified(7.5, 7.5, other="7 lb 10 oz")
    assert rules(found)["verify.which_circuit"] == "Open"
    assert "the plates differ by 2.0 oz" in said(found, "verify.which_circuit")


@pytest.mark.parametrize("known", [True, None])
def test_where_the_circuit_is_known_nothing_is_decided(known: bool | None) -> None:
    sheet = {**PLATE, "circuit_known": known}
    verify = {
        **RUN,
        "readings": {
            "r1": {"suction_pressure": "118 psig", "suction_line": "52 °F", "liquid_pressure": "330 psig", "liquid_line": "93 °F"}
        },
    }
    assert "verify.which_circuit" not in rules(findings(sheet, WEIGH, verify).step("verify"))
