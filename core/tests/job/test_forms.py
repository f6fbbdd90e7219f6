"""What forms are told: every key, held by hand, since the interface reads them by name."""

from typing import Any

import pytest

from yoshi_core.job.forms import forms
from yoshi_core.profile.profile import CHOICES, RULES
from yoshi_core.steps import registry
from yoshi_core.units.quantities import QUANTITIES


@pytest.fixture
def told() -> dict[str, Any]:
    return forms()


def test_quantities_with_the_units_people_write(told: dict[str, Any]) -> None:
    assert set(told["quantities"]) == set(QUANTITIES)
    pressure = told["quantities"]["gauge_pressure"]
    assert (pressure["us"], pressure["si"]) == ("psig", "bar")
    psig = next(unit for unit in pressure["units"] if unit["symbol"] == "psig")
    assert psig["factor"] == 6894.757293168361  # the pound-force a square inch, by definition
    temperature = {unit["symbol"]: unit for unit in told["quantities"]["temperature"]["units"]}
    assert round(temperature["°F"]["factor"] * 9, 9) == 5
    assert round(temperature["°F"]["offset"], 3) == 255.372
    for quantity in told["quantities"].values():
        assert set(quantity) == {"us", "si", "units"}
        for unit in quantity["units"]:
            assert set(unit) == {"symbol", "factor", "offset", "decimals"}


def test_the_run_of_steps_by_kind_of_job(told: dict[str, Any]) -> None:
    assert set(told["steps"]) == set(registry.KINDS)
    for kind, steps in told["steps"].items():
        assert [step["id"] for step in steps] == list(registry.order(kind))
        assert [step["label"] for step in steps] == [registry.label(step) for step in registry.order(kind)]


def test_what_the_interface_must_know_of_a_step(told: dict[str, Any]) -> None:
    assert set(told["step"]) == set(told["sheets"]) == set(registry.STEPS)
    for name, plain in told["step"].items():
        step = registry.STEPS[name]
        assert plain == {
            "label": step.label, "holds": step.holds, "must": step.must, "left_out": list(step.left_out), "early": step.early, "channels": list(step.channels),
            "capture": plain["capture"],
        }  # fmt: skip
        assert (plain["capture"] is None) == (step.capture is None)
        if step.capture is not None:
            fields = plain["capture"].pop("fields")
            assert fields == [{"field": field, "channels": list(channels)} for field, channels in step.capture.fields]
            assert plain["capture"] == {
                "way": step.capture.way, "record": step.capture.record, "row": step.capture.row, "begun": list(step.capture.begun),
                "first_open": step.capture.first_open,
            }  # fmt: skip


def test_fields_with_unit_range_options_and_length(told: dict[str, Any]) -> None:
    charge = told["sheets"]["identify"]["factory_charge"]
    assert set(charge) == {"quantity", "label", "unit", "hard"}
    assert charge["quantity"] == "mass"
    assert charge["unit"] == {"us": "lb", "si": "kg"}
    assert len(charge["hard"]) == 2
    kind = told["sheets"]["identify"]["kind"]
    assert kind["options"]["vehicle"]
    assert "unit" not in kind
    assert "maxLength" not in kind
    serial = told["sheets"]["identify"]["serial"]
    assert serial["quantity"] == "text"
    assert serial["maxLength"] == 80
    assert "options" not in serial
    line = told["sheets"]["identify"]["lines"]
    assert set(line["row"]["length"]) == {"quantity", "label", "unit", "hard"}
    free = [f for sheet in told["sheets"].values() for f in sheet.values() if f["quantity"] in QUANTITIES and f["hard"] is None]
    assert all(isinstance(f["label"], str) for f in free)


def test_channels_rules_and_choices(told: dict[str, Any]) -> None:
    assert told["channels"]["scale"]["quantity"] == "mass"
    assert all(set(channel) == {"label", "quantity"} for channel in told["channels"].values())
    assert set(told["rules"]) == set(RULES)
    for name, rule in told["rules"].items():
        known = RULES[name]
        assert rule == {
            "text": known.text, "quantity": known.quantity, "default": known.default, "low": known.low, "high": known.high,
            "source": known.source,
        }  # fmt: skip
    groups = told["rule_groups"]
    assert sorted(name for group in groups for name in group["rules"]) == sorted(RULES)
    assert all(group["title"] for group in groups)
    assert set(told["choices"]) == set(CHOICES)
    for name, plain in told["choices"].items():
        choice = CHOICES[name]
        assert plain == {
            "text": choice.text, "options": dict(choice.options), "default": choice.default, "reason": choice.reason,
        }  # fmt: skip
