"""What every sheet is held to: a wet bulb never stands over its dry bulb, on any sheet and on the terminal."""

from typing import Any

import pytest

from tests.whole_jobs.day import SITE, Day
from yoshi_core.cli.main import main

SWAPPED: dict[str, Any] = {"return_air": "63 °F", "return_wet_bulb": "75 °F"}


@pytest.mark.parametrize(("step", "fields", "at"), [
    ("as_found", SWAPPED, "return_wet_bulb"),
    ("verify", {"readings": {"r1": SWAPPED}}, "readings/r1/return_wet_bulb"),
])  # fmt: skip
def test_a_wet_bulb_over_its_dry_bulb_is_refused_at_its_field(step: str, fields: dict[str, Any], at: str) -> None:
    day = Day("08:00")
    day.type("identify", **SITE, refrigerant="R-410A", kind="split", metering="txv")
    day.type(step, mode="cooling", **fields)
    problem = next(p for p in day.found.step(step).problems if p.code == "wet_over_dry")
    assert problem.path.endswith(at)
    assert (
        problem.message.show() == "A wet bulb is never over its dry bulb: 75.0 °F against 63.0 °F. Read both again; the two may be swapped."
    )


def test_two_thermometers_in_saturated_air_may_differ_by_a_degree() -> None:
    day = Day("08:00")
    day.type("identify", **SITE, refrigerant="R-410A", kind="split", metering="txv")
    day.type("as_found", mode="cooling", return_air="70 °F", return_wet_bulb="71 °F")
    assert not day.found.step("as_found").problems


def test_the_terminal_says_it_too(capsys: pytest.CaptureFixture[str]) -> None:
    read = ["--suction", "118psig", "--suction-line", "54F", "--liquid", "340psig", "--liquid-line", "94F", "--outdoor", "85F"]
    main(["diagnose", "R-410A", "--metering", "txv", *read, "--return-air", "63F", "--return-wet-bulb", "75F"])
    assert "A wet bulb is never over its dry bulb: 75.0 °F against 63.0 °F." in capsys.readouterr().out


def test_a_figure_below_zero_is_no_option(capsys: pytest.CaptureFixture[str]) -> None:
    for written in ("-20F", "-20 °F", "−20 °F"):
        assert main(["pt", "R-410A", "--temperature", written]) == 0
        assert "26.3 psig" in capsys.readouterr().out
    assert main(["pt", "R-410A", "--pressure", "-.5 psig"]) == 0
    with pytest.raises(SystemExit):
        main(["pt", "R-410A", "--temperature", "--sealed"])
