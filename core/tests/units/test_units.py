"""Quantities as people write them, and back."""

import contextlib
import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from yoshi_core.charge.tubing import inside_area_m2, wall_m
from yoshi_core.errors import CoreError, OutOfRange, UnitError
from yoshi_core.message import Message
from yoshi_core.properties.atmosphere import absolute_pa, site_pressure_pa
from yoshi_core.units import echo, mass_faces, parse, parse_mass, show
from yoshi_core.units.display import Amount, show_amount
from yoshi_core.units.quantities import INCH_M, LB_KG, OZ_KG, QUANTITIES, YEAR_S


@given(st.integers(0, 500), st.integers(0, 159))
def test_pounds_and_ounces_come_back_as_written(pounds: int, tenths: int) -> None:
    text = f"{pounds} lb {tenths / 10:.1f} oz"
    assert mass_faces(parse_mass(text).kg).lb_oz == text


@given(st.floats(0, 1000, allow_nan=False))
def test_ounces_never_read_sixteen(kg: float) -> None:
    assert "16.0 oz" not in mass_faces(kg).lb_oz


@given(st.text(max_size=30))
def test_any_text_is_read_or_refused_in_words(text: str) -> None:
    for quantity in QUANTITIES:
        with contextlib.suppress(CoreError):
            assert math.isfinite(parse(quantity, text).value)


@given(st.sampled_from(sorted(QUANTITIES)), st.floats(0.001, 900))
def test_every_unit_is_read_back(name: str, number: float) -> None:
    for unit in QUANTITIES[name].units:
        if not unit.symbol:
            continue
        parsed = parse(name, f"{number:.6g} {unit.symbol}")
        assert (parsed.value - unit.offset) / unit.factor == pytest.approx(float(f"{number:.6g}"), rel=1e-9)


@pytest.mark.parametrize(
    ("text", "reason"),
    [
        ("", "empty"), ("abc", "not_a_number"), ("-3 lb", "negative"), ("4 lb 17 oz", "ounces_over_15"), ("3 kg 4 oz", "mixed_units"),
        ("9,5 lb", "comma"), ("9.5 lb 3 oz", "fraction_beside_ounces"), ("12", "needs_unit"), ("12 stone", "unknown_unit"), ("1e999 kg", "too_large"),
    ],
)  # fmt: skip
def test_each_refusal_has_its_reason(text: str, reason: str) -> None:
    with pytest.raises(UnitError) as caught:
        parse_mass(text)
    assert caught.value.reason == reason


def test_an_echo_names_the_other_faces_and_what_it_is_not() -> None:
    read = echo(parse_mass("7 lb 11 oz"))
    assert read.also == ("7.69 lb", "123.0 oz", "3.487 kg")
    assert read.is_not == "not 7.11 lb, which is 7 lb 1.8 oz"
    assert echo(parse_mass("9.5 lb")).is_not == "not 9 lb 5 oz, which is 9.31 lb"
    assert echo(parse_mass("123 oz")).is_not == ""


@pytest.mark.parametrize(("text", "metres"), [("3/8 in", 0.375 * INCH_M), ("7/8", 0.875 * INCH_M), ("1-1/8 in", 1.125 * INCH_M), ("9.52 mm", 0.00952), ("0.5 in", 0.0127)])  # fmt: skip
def test_tube_sizes(text: str, metres: float) -> None:
    assert parse("tube_od", text, default_unit="in").value == pytest.approx(metres)


def test_temperatures_have_an_offset_and_differences_do_not() -> None:
    assert parse("temperature", "54 °F").value == pytest.approx(285.372, abs=1e-3)
    assert parse("temperature_delta", "9 °F").value == pytest.approx(5.0)
    assert parse("temperature", "−5 °C").value == pytest.approx(268.15)


@pytest.mark.parametrize(
    ("value", "quantity", "us", "si"),
    [
        (4.74855, "mass", "10 lb 7.5 oz", "4.749 kg"), (0.6 * OZ_KG, "mass", "0.6 oz", "17 g"), (0.001, "mass", "0.04 oz", "1 g"),
        (0.875 * INCH_M, "tube_od", "7/8 in", "22.2 mm"), (1.125 * INCH_M, "tube_od", "1-1/8 in", "28.6 mm"), (0.01, "tube_od", "0.394 in", "10.0 mm"),
        (900.0, "duration", "15 min", "15 min"), (0.0912, "fraction", "9.1 %", "9.1 %"), (-LB_KG, "mass", "-1 lb 0.0 oz", "-454 g"),
    ],
)  # fmt: skip
def test_values_are_shown_as_the_trade_reads_them(value: float, quantity: str, us: str, si: str) -> None:
    assert show(value, quantity, "us") == us
    assert show(value, quantity, "si") == si


def test_gauges_count_from_the_air_or_from_sea_level() -> None:
    assert absolute_pa(0, "vented", 2100) == site_pressure_pa(2100)
    assert absolute_pa(0, "sealed", 2100) == 101_325
    for altitude in (-451, 6001, math.nan):
        with pytest.raises(OutOfRange):
            site_pressure_pa(altitude)


def test_tube_walls_are_looked_up_and_odd_sizes_refused() -> None:
    """ASTM B280 annealed walls (from memory)."""
    assert wall_m(0.375 * INCH_M) == pytest.approx(0.032 * INCH_M)
    assert wall_m(0.00952) == pytest.approx(0.00081, abs=5e-5)
    assert inside_area_m2(0.375 * INCH_M) * 1e6 == pytest.approx(49.0, abs=0.05)
    with pytest.raises(OutOfRange, match="not a tube size"):
        wall_m(0.0111)
    with pytest.raises(OutOfRange, match="no bore"):
        inside_area_m2(0.01, 0.005)


@pytest.mark.parametrize(
    ("text", "grams"), [("1.225,5 g", 1225.5), ("1,225.5 g", 1225.5), ("12.345.678,9 g", 12_345_678.9), ("1.225 g", 1.225)]
)
def test_a_point_and_a_comma_together_say_which_is_which(text: str, grams: float) -> None:
    assert parse("mass", text).value == pytest.approx(grams / 1000)


@pytest.mark.parametrize(
    ("text", "reason"), [("1,225 g", "comma"), ("1.2,5 g", "not_a_number"), ("1,225,5 g", "not_a_number"), ("1.22,500 g", "not_a_number")]
)
def test_what_leaves_a_doubt_is_asked_about(text: str, reason: str) -> None:
    with pytest.raises(UnitError) as caught:
        parse("mass", text)
    assert caught.value.reason == reason


def test_the_micro_sign_and_the_greek_letter_are_the_same() -> None:
    assert parse("micron", "500 \u00b5m").value == parse("micron", "500 \u03bcm").value == pytest.approx(66.661)


@pytest.mark.parametrize(("text", "length_ft"), [("12 ft 14 in", 13 + 2 / 12), ("12 ft 4 in", 12 + 4 / 12)])
def test_feet_and_inches(text: str, length_ft: float) -> None:
    assert parse("length", text).value == pytest.approx(length_ft * 12 * INCH_M)


@pytest.mark.parametrize("text", ["12lb.8oz", "12 lb 8 oz", "12lb8oz"])
def test_pounds_and_ounces_run_together(text: str) -> None:
    assert parse("mass", text).value == pytest.approx(12.5 * LB_KG)


@pytest.mark.parametrize(
    ("per_minute", "shown"),
    [
        (7.5, "7.50 micron/min"),
        (0.1, "0.10 micron/min"),
        (0.026, "1.56 micron/h"),
        (0.001, "1.44 micron/day"),
        (0.0, "0.00 micron/min"),
        (-0.026, "-1.56 micron/h"),
    ],
)
def test_a_rate_too_small_for_minutes_is_shown_by_the_hour_or_the_day(per_minute: float, shown: str) -> None:
    assert show(per_minute * 133.322 / 1000 / 60, "vacuum_rate") == shown


def test_what_is_unsure_of_a_rate_stands_in_its_unit() -> None:
    small = 0.026 * 133.322 / 1000 / 60
    assert show_amount(Amount(small, "vacuum_rate", 0.1 * small)) == "1.56 micron/h ± 0.31 micron/h"


@pytest.mark.parametrize(
    ("seconds", "said"),
    [
        (0.0, "0 min"), (45.0, "45 s"), (90.0, "2 min"), (7140.0, "119 min"), (7200.0, "2 h"), (9000.0, "2 h 30 min"), (43_200.0, "12 h"),
        (864_000.0, "10 days"), (604_800.0, "7 days"), (302_400.0, "3.5 days"), (-9000.0, "-2 h 30 min"),
    ],
)  # fmt: skip
def test_how_long_something_takes_is_said_as_it_is_said_aloud(seconds: float, said: str) -> None:
    assert show(seconds, "duration") == said


def test_a_leak_is_said_to_two_figures() -> None:
    assert show(1_138.4 * OZ_KG / YEAR_S, "mass_rate") == "1100 oz/yr"
    assert show(0.0, "mass_rate") == "0 oz/yr"


def test_a_leak_that_empties_a_unit_within_weeks_is_said_by_the_day_and_a_band_in_one_unit() -> None:
    """Fourteen psi in twenty minutes is nothing anybody reckons by the year."""
    per_day = OZ_KG / 86_400.0
    assert [show(ounces * per_day, "mass_rate") for ounces in (9.9, 10.0, 76.4)] == ["3600 oz/yr", "10 oz/day", "76 oz/day"]
    assert [show(grams * 1e-3 / 86_400.0, "mass_rate", "si") for grams in (299.0, 301.0)] == ["110000 g/yr", "300 g/day"]
    band = {"low": Amount(4.2 * per_day, "mass_rate"), "high": Amount(76.4 * per_day, "mass_rate"), "lost": Amount(4.0, "mass")}
    assert Message("{low} to {high}, {lost}", band).show() == "4 oz/day to 76 oz/day, 8 lb 13.1 oz"
    assert Message("{low}", {"low": band["low"]}).show() == "1500 oz/yr"
