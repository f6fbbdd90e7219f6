"""Each kind's own signs on the running unit, beside the proof by weight (common practice, no source)."""

from typing import Any

import pytest

from tests.make import findings, in_f
from tests.make_closed import rules, said
from yoshi_core.findings.result import StepResult
from yoshi_core.properties import saturation
from yoshi_core.properties.atmosphere import SEA_LEVEL_PA
from yoshi_core.running import targets
from yoshi_core.units.quantities import PSI_PA

BASE = {"altitude": "0 m", "gauge_reference": "vented", "pairing_proven": True, "pairing_by": "only"}
RUN = {"mode": "cooling", "run_in": "20 min", "filter_ok": True, "coils_ok": True, "doors_ok": True, "load_ok": True}
DRAW = {"gross_start": "9 lb", "tare": "5 lb", "gross_end": "7 lb 13 oz"}


def psig(refrigerant: str, at_f: float, share: float) -> str:
    """The gauge pressure at which a coil's mean stands at a temperature, by bisection on the tables."""
    low, high = 1e4, 4.5e6
    for _ in range(60):
        middle = 0.5 * (low + high)
        dew, bubble = saturation.dew_temperature_k(refrigerant, middle), saturation.bubble_temperature_k(refrigerant, middle)
        low, high = (middle, high) if in_f(share * dew + (1 - share) * bubble) < at_f else (low, middle)
    return f"{(low - SEA_LEVEL_PA) / PSI_PA:.3f} psig"


def verified(plate: dict[str, Any], reading: dict[str, str], **more: Any) -> StepResult:
    weigh = {"system_state": "empty", "scale_step": "1 g", "draws": {"d1": DRAW}}
    verify = {**RUN, "readings": {"r1": reading}, **more}
    return findings({**BASE, "factory_charge": "19 oz", **plate}, weigh, verify).step("verify")


class TestReachIn:
    PLATE = {"refrigerant": "R-134a", "kind": "reach_in", "metering": "capillary", "tolerance": "0.3 oz"}

    def reading(self, under_f: float, over_f: float) -> dict[str, str]:
        return {
            "box": "38 °F",
            "outdoor": "75 °F",
            "suction_pressure": psig("R-134a", 38 - under_f, 0.6),
            "liquid_pressure": psig("R-134a", 75 + over_f, 0.5),
        }

    def test_closed_at_nineteen_ounces_weight_proves_it_and_box_and_room_agree(self) -> None:
        """Condensing 30 over the room, evaporating 30 under the box: typical."""
        found = verified(self.PLATE, self.reading(30, 30))
        assert found.verdict.word == "Holds", found.verdict.headline.show()
        wanted = {"verify.by_weight": "Holds", "verify.under_box": "Holds", "verify.over_air": "Holds"}
        assert wanted.items() <= rules(found).items()

    def test_a_coil_far_off_asks_for_a_look_and_trims_nothing(self) -> None:
        found = verified(self.PLATE, self.reading(45, 30))
        assert rules(found)["verify.under_box"] == "Wait"
        assert "not trimmed" in said(found, "verify.under_box")
        assert found.figure("trim_step") is None


class TestReceiver:
    PLATE = {
        "refrigerant": "R-404A", "kind": "receiver", "metering": "txv", "included_length": "10 ft", "floods": False,
        "lines": {"l1": {"length": "10 ft", "allowance": "0.5 oz/ft"}},
    }  # fmt: skip

    @pytest.mark.parametrize(("glass", "word"), [("clear", "Holds"), ("bubbles", "Wait"), ("empty", "Wait")])
    def test_by_the_glass_and_the_receivers_level(self, glass: str, word: str) -> None:
        found = verified(self.PLATE, {}, sight_glass=glass, receiver_level="70 %")
        assert rules(found)["verify.glass"] == word
        assert rules(found)["verify.receiver"] == "Holds"
        full = verified(self.PLATE, {}, sight_glass="clear", receiver_level="92 %")
        assert rules(full)["verify.receiver"] == "Stop"

    def test_without_the_glass_it_is_asked_for(self) -> None:
        assert "sight_glass" in [m.path.rsplit("/", 1)[1] for m in verified(self.PLATE, {}).missing]


class TestVehicle:
    PLATE = {"refrigerant": "R-134a", "kind": "vehicle", "metering": "txv", "tolerance": "0.9 oz"}

    @pytest.mark.parametrize(
        ("outdoor", "vent", "humid", "word"),
        [
            ("90 °F", "55 °F", None, "Holds"),
            ("90 °F", "66 °F", None, "Wait"),
            ("90 °F", "64 °F", "80 %", "Holds"),
            ("65 °F", "49 °F", None, "Holds"),
        ],
    )
    def test_the_vents_against_outdoor_air_and_its_humidity(self, outdoor: str, vent: str, humid: str | None, word: str) -> None:
        reading = {"outdoor": outdoor, "supply": vent} | ({"humidity": humid} if humid else {})
        assert rules(verified(self.PLATE, reading))["verify.vent"] == word


class TestChiller:
    PLATE = {"refrigerant": "R-123", "kind": "chiller", "metering": "orifice"}

    def test_by_weight_and_both_approaches(self) -> None:
        assert targets.judged_by("chiller", "orifice", "cooling") == "weight"
        reading = {
            "chilled_out": "44 °F",
            "condenser_out": "95 °F",
            "suction_pressure": psig("R-123", 41, 0.6),
            "liquid_pressure": psig("R-123", 98, 0.5),
        }
        found = verified(self.PLATE, reading)
        assert rules(found)["verify.evaporator_approach"] == "Holds"
        assert rules(found)["verify.condenser_approach"] == "Holds"
        fouled = verified(self.PLATE, {**reading, "condenser_out": "88 °F"})
        assert rules(fouled)["verify.condenser_approach"] == "Wait"


def test_a_heat_pump_is_asked_for_its_other_mode() -> None:
    plate = {
        "refrigerant": "R-410A", "kind": "heat_pump", "metering": "txv", "included_length": "15 ft",
        "lines": {"l1": {"length": "15 ft", "allowance": "0.6 oz/ft"}},
    }  # fmt: skip
    assert rules(verified(plate, {}))["verify.both_modes"] == "Open"
    ticked = verified(plate, {}, both_modes=True)
    assert rules(ticked)["verify.both_modes"] == "Open"  # a tick shows nothing: the other mode wants readings
    assert any("nothing was read there" in reason.message.show() for reason in ticked.verdict.reasons)


class TestHeatPumpsOtherMode:
    PLATE = {
        "refrigerant": "R-410A", "kind": "heat_pump", "metering": "txv", "included_length": "15 ft",
        "lines": {"l1": {"length": "15 ft", "allowance": "0.6 oz/ft"}},
    }  # fmt: skip

    def heated(self, over_f: float, outdoor: float = 47.0) -> StepResult:
        row = {"suction_pressure": psig("R-410A", 70 + over_f, 0.5), "return_air": "70 °F", "outdoor": f"{outdoor} °F"}
        return verified(self.PLATE, {}, other_mode={"o1": row})

    def test_heating_is_held_against_return_air(self) -> None:
        assert rules(self.heated(32))["verify.other_mode"] == "Holds"
        assert "In the other mode: condensing is 32.0 °F over return air" in said(self.heated(32), "verify.other_mode")
        assert "verify.both_modes" not in rules(self.heated(32))

    def test_far_off_it_asks_for_the_cause(self) -> None:
        assert rules(self.heated(8))["verify.other_mode"] == "Wait"

    def test_a_warm_day_raises_what_is_usual(self) -> None:
        assert rules(self.heated(52))["verify.other_mode"] == "Wait"
        assert rules(self.heated(52, outdoor=70.0))["verify.other_mode"] == "Holds"

    def test_in_heating_the_vapour_port_may_stand_above_the_liquid_port(self) -> None:
        row = {"suction_pressure": psig("R-410A", 102, 0.5), "liquid_pressure": "310 psig", "return_air": "70 °F", "outdoor": "47 °F"}
        found = verified(self.PLATE, row, mode="heating")
        assert not found.problems
        assert rules(found)["verify.air"] == "Holds"


def test_a_ductless_unit_in_cooling_is_looked_at_and_never_held_up_by_its_own_speed() -> None:
    plate = {"refrigerant": "R-32", "kind": "ductless", "metering": "eev", "listed": True, "included_length": "5 m", "room_volume": "60 m3"}
    row = {"outdoor": "95 °F", "liquid_pressure": psig("R-32", 99, 0.5), "suction_pressure": psig("R-32", 55, 0.6)}
    found = rules(verified(plate, row))
    assert found["verify.air"] == found["verify.air_evaporating"] == "Open"
