"""Laws that hold whatever the numbers (hypothesis)."""

import math
from typing import Any

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from tests.make import findings
from yoshi_core import refrigerants
from yoshi_core.account import weighing
from yoshi_core.charge import cylinders, line_set, weigh_in
from yoshi_core.charge import total as charge
from yoshi_core.charge.tubing import WALLS_M
from yoshi_core.errors import InvalidInput, OutOfRange
from yoshi_core.findings.pictures import WeighInPicture
from yoshi_core.job.evaluate import Findings
from yoshi_core.profile.profile import Profile
from yoshi_core.properties import saturation, vapor
from yoshi_core.refrigerants.tables import table
from yoshi_core.running import readings, targets, trim
from yoshi_core.units.quantities import LB_KG, OZ_KG

NAMES = st.sampled_from(refrigerants.names())
KG = st.floats(0.01, 200)
METRES = st.floats(0, 100)
ALLOWANCE = st.floats(0, 0.5)
SHARE = st.floats(0.001, 0.999)
PROFILE = Profile()


def within(low: float, high: float, share: float) -> float:
    return low + share * (high - low)


@given(NAMES, SHARE, SHARE)
def test_saturation_rises_with_temperature_and_bubble_is_never_under_dew(name: str, a: float, b: float) -> None:
    low, high = saturation.temperature_range_k(name)
    first, second = sorted((within(low, high, a), within(low, high, b)))
    assume(second - first > 1e-3)
    for pressure in (saturation.bubble_pressure_pa, saturation.dew_pressure_pa):
        assert pressure(name, first) < pressure(name, second)
    assert saturation.bubble_pressure_pa(name, first) >= saturation.dew_pressure_pa(name, first) * (1 - 1e-6)
    assert saturation.liquid_density_kg_m3(name, first) > saturation.liquid_density_kg_m3(name, second)
    assert saturation.vapor_density_kg_m3(name, first) < saturation.vapor_density_kg_m3(name, second)


@given(NAMES, SHARE)
def test_temperature_and_pressure_are_each_others_inverse(name: str, share: float) -> None:
    low, high = saturation.temperature_range_k(name)
    kelvin = within(low, high, share)
    assert saturation.dew_temperature_k(name, saturation.dew_pressure_pa(name, kelvin)) == pytest.approx(kelvin, abs=1e-6)
    assert saturation.bubble_temperature_k(name, saturation.bubble_pressure_pa(name, kelvin)) == pytest.approx(kelvin, abs=1e-6)


@pytest.mark.parametrize("name", refrigerants.names())
def test_both_ends_of_every_table_answer_and_beyond_them_is_refused(name: str) -> None:
    low, high = saturation.temperature_range_k(name)
    for look_up in (saturation.dew_pressure_pa, saturation.bubble_pressure_pa, saturation.liquid_density_kg_m3):
        for kelvin in (low, high):
            assert look_up(name, kelvin) > 0
        for kelvin in (low - 1e-6, high + 1e-6, math.nan, math.inf, 0.0):
            with pytest.raises(OutOfRange):
                look_up(name, kelvin)
    for pressure in (0.0, -1.0, math.nan, 1e12):
        with pytest.raises(OutOfRange):
            saturation.dew_temperature_k(name, pressure)


@given(NAMES, SHARE, st.floats(0.01, 90))
def test_superheated_vapour_is_thinner_and_hotter_than_saturated(name: str, share: float, superheat: float) -> None:
    found = table(name)
    dew = within(found.first_k + 5, found.first_k + 0.85 * (found.last_k - found.first_k), share)
    pressure = saturation.dew_pressure_pa(name, dew)
    assert vapor.density_kg_m3(name, pressure, dew + superheat) < vapor.density_kg_m3(name, pressure, dew) * (1 + 1e-9)
    assert vapor.enthalpy_j_kg(name, pressure, dew + superheat) > vapor.enthalpy_j_kg(name, pressure, dew)
    assert vapor.entropy_j_kg_k(name, pressure, dew + superheat) > vapor.entropy_j_kg_k(name, pressure, dew)
    with pytest.raises(OutOfRange):
        vapor.density_kg_m3(name, pressure, dew - 1.0)


@given(KG, st.lists(st.tuples(METRES, ALLOWANCE), max_size=4), st.lists(st.floats(0, 2), max_size=4), METRES)
def test_the_total_is_the_sum_of_its_parts_and_never_under_the_plate(
    plate: float, lines: list[tuple[float, float]], parts: list[float], included: float
) -> None:
    runs = [charge.LineRun(f"l{n}", length, allowance) for n, (length, allowance) in enumerate(lines)]
    adjustments = [charge.Adjustment(f"p{n}", "part", mass) for n, mass in enumerate(parts)]
    total = charge.total_charge(charge.Nameplate(plate, included_m=included), runs, adjustments)
    assert total.total_kg == pytest.approx(math.fsum(part.kg for part in total.parts))
    assert total.total_kg >= plate - 1e-9
    assert total.uncertainty_kg == 0
    extra = max(0.0, sum(length for length, _ in lines) - included)
    used = sum(
        part.kg / allowance
        for part, (_, allowance) in zip((p for p in total.parts if p.kind == "line"), lines, strict=True)
        if allowance > 1e-6
    )
    if all(allowance > 1e-6 for _, allowance in lines):
        assert used == pytest.approx(extra, abs=1e-6)


@given(KG, st.floats(0, 1), st.floats(0, 1), st.floats(0, 1))
def test_limits_add_as_squares(plate: float, a: float, b: float, c: float) -> None:
    total = charge.total_charge(
        charge.Nameplate(plate, a), [charge.LineRun("l", 10, 0.05, b / 0.05)], [charge.Adjustment("p", "p", 0.1, c)]
    )
    assert total.uncertainty_kg == pytest.approx(math.sqrt((a * a + b * b + c * c) / 3))


@pytest.mark.parametrize("plate", [0.0, -1.0, math.nan])
def test_a_plate_without_charge_is_refused(plate: float) -> None:
    with pytest.raises(InvalidInput):
        charge.total_charge(charge.Nameplate(plate))


def test_parts_that_take_everything_away_are_refused() -> None:
    with pytest.raises(OutOfRange):
        charge.total_charge(charge.Nameplate(1.0), (), [charge.Adjustment("p", "smaller coil", -1.0)])


def build_up(total: float) -> charge.ChargeBuildUp:
    return charge.ChargeBuildUp(total, 0.0, (), 0.0)


@given(st.floats(0.05, 80), st.lists(st.tuples(st.floats(0, 60), st.floats(1, 20), st.floats(0, 0.1)), min_size=1, max_size=4))
def test_what_the_sources_give_and_what_is_short_make_the_total(total: float, drawn: list[tuple[float, float, float]]) -> None:
    sources = [weigh_in.Source(f"c{n}", tare + net, tare, hose) for n, (net, tare, hose) in enumerate(drawn)]
    plan = weigh_in.plan(build_up(total), 0.0, sources)
    assert math.fsum(take.take_kg for take in plan.takes) + plan.short_kg == pytest.approx(total, abs=1e-8)
    for take, source in zip(plan.takes, sources, strict=True):
        assert take.stop_gross_kg >= source.tare_kg - 1e-9
        assert take.start_gross_kg >= take.slow_gross_kg >= take.stop_gross_kg - 1e-12
        assert take.counted_stop_kg <= 0
        if take.take_kg > 0:
            reached = weighing.weighed_in_kg(take.start_gross_kg, take.stop_gross_kg, source.hose_loss_kg)
            assert reached == pytest.approx(take.take_kg, abs=1e-6)


@given(st.floats(0.1, 50), st.floats(0, 60))
def test_more_inside_than_belongs_is_never_clamped_to_zero(total: float, inside: float) -> None:
    plan = weigh_in.plan(build_up(total), inside)
    assert plan.weigh_kg == pytest.approx(total - inside)
    assert plan.short_kg == pytest.approx(max(0.0, total - inside))


GAP = st.floats(-20, 20)


@given(GAP, GAP, st.floats(1, 15), st.floats(1, 30), st.floats(-0.2, 0.2))
def test_a_trim_step_is_bounded_and_stays_inside_the_cap(sc: float, sh: float, rated: float, plan: float, off: float) -> None:
    inside = plan * (1 + off)
    step = trim.next_step(trim.Gaps(sc, sh, rated), [], 0.0, True, plan, inside, PROFILE)
    assert abs(step.mass_kg) <= 0.05 * plan + 1e-9
    if step.stop:
        assert step.mass_kg == 0
        assert abs(off) >= 0.1 - 1e-6
    elif abs(off) <= 0.1:
        assert abs(inside + step.mass_kg - plan) <= 0.1 * plan + 1e-9
    else:
        assert step.mass_kg * off <= 0


@given(GAP, st.floats(1, 15))
def test_less_subcooling_than_rated_means_short(gap: float, rated: float) -> None:
    short = trim.short_share(trim.Gaps(gap, 0.0, rated))
    assert math.copysign(1, short) == math.copysign(1, -gap) or gap == 0


@pytest.mark.parametrize("rated", [0.0, -3.0, math.nan])
def test_no_rated_subcooling_no_formula(rated: float) -> None:
    with pytest.raises(OutOfRange):
        trim.short_share(trim.Gaps(0.0, 0.0, rated))


@given(st.floats(270, 310), st.floats(260, 325))
def test_the_target_is_given_exactly_where_nothing_refuses_it(wet: float, dry: float) -> None:
    refused = targets.refusals(wet, dry, PROFILE)
    if refused:
        with pytest.raises(OutOfRange) as caught:
            targets.superheat_target_k(wet, dry)
        assert caught.value.params["rules"] == [r.rule_id for r in refused]
    else:
        assert targets.superheat_target_k(wet, dry) >= PROFILE.value("target.lowest") - 1e-9


@given(st.floats(0, 6000), st.floats(2e5, 3e6), st.floats(240, 330), st.floats(0, 2e4), st.floats(0, 2))
def test_superheat_and_its_uncertainty(altitude: float, gauge: float, line: float, u_p: float, u_t: float) -> None:
    given_readings = readings.Readings(gauge, line, None, None, u_p, u_t)
    state = readings.cooling_state("R-134a", given_readings, readings.Site(altitude, "vented"))
    assert state.low is not None
    assert state.superheat_k == pytest.approx(line - state.low.saturation_k)
    assert state.low.uncertainty_k >= u_t / math.sqrt(3) - 1e-12
    assert state.subcooling_k is None


@pytest.mark.parametrize("od", sorted(WALLS_M))
def test_every_tube_size_holds_something_and_more_than_a_thinner_one(od: float) -> None:
    held = line_set.allowance_kg_per_m("R-410A", od)
    assert 0 < held < 10
    assert line_set.allowance_kg_per_m("R-410A", od, 0.022225) > held


@given(NAMES, st.floats(0.5, 100))
def test_a_cylinder_is_never_filled_past_four_fifths_of_its_volume(name: str, capacity: float) -> None:
    limit = cylinders.fill_limit_kg(name, capacity)
    volume = cylinders.volume_m3(capacity)
    assert limit <= 0.8 * volume * saturation.liquid_density_kg_m3(name, 298.15) + 1e-9
    assert 0 < cylinders.heel_kg(name, capacity, 294.0) < limit
    assert cylinders.fill_limit_kg(name, capacity, 0.7) <= limit


@pytest.mark.parametrize("capacity", [0.0, -5.0, math.nan])
def test_a_cylinder_without_capacity_is_refused(capacity: float) -> None:
    with pytest.raises(OutOfRange):
        cylinders.fill_limit_kg("R-32", capacity)


KINDS: dict[str, dict[str, Any]] = {
    "split": {"included_length": "10 m", "lines": {"l1": {"length": "20 m", "allowance": "0.05 kg/m"}}, "metering": "txv"},
    "heat_pump": {"included_length": "5 m", "lines": {"l1": {"length": "9 m", "liquid_od": "3/8 in", "suction_od": "3/4 in"}}, "metering": "orifice"},
    "packaged": {"metering": "txv"},
    "ductless": {"included_length": "7.5 m", "lines": {"l1": {"length": "12 m", "allowance": "0.02 kg/m"}}, "metering": "eev"},
    "vrf": {"lines": {"l1": {"length": "34 m", "liquid_od": "15.88 mm"}}, "indoor_units": "5", "indoor_allowance": "0.4 kg", "metering": "eev"},
    "receiver": {"included_length": "3 m", "lines": {"l1": {"length": "8 m", "allowance": "0.1 kg/m"}}, "floods": True, "condenser_volume": "6 L",
                 "metering": "txv"},
    "reach_in": {"metering": "capillary", "tolerance": "3 g"},
    "vehicle": {"metering": "txv", "tolerance": "25 g"},
    "chiller": {"metering": "eev"},
}  # fmt: skip


def kind_job(kind: str, charge_kg: float, draws: dict[str, dict[str, str]], unit: str = "kg", length_times: float = 1.0) -> Findings:
    """A job of a kind, its figures written in one unit of mass or another."""
    plate: dict[str, Any] = {
        "refrigerant": "R-410A",
        "kind": kind,
        "factory_charge": written(charge_kg, unit),
        "altitude": "0 m",
        **KINDS[kind],
    }
    if length_times != 1.0 and "lines" in plate:
        lines = plate["lines"]
        plate["lines"] = {k: {**row, "length": f"{float(row['length'].split()[0]) * length_times:.4f} m"} for k, row in lines.items()}
    weigh = {"system_state": "empty", "draws": draws}
    return findings(plate, weigh)


def written(kg: float, unit: str) -> str:
    if unit == "lb oz":
        pounds = int(kg / LB_KG)
        return f"{pounds} lb {(kg / LB_KG - pounds) * 16:.9f} oz"
    return f"{kg / {'kg': 1.0, 'g': 1e-3, 'lb': LB_KG, 'oz': OZ_KG}[unit]:.9f} {unit}"


SOME = st.tuples(st.floats(0.2, 30), st.floats(1, 10), st.floats(0.0, 0.05), st.floats(0.0, 1.0))


@settings(max_examples=60, deadline=None)
@given(st.sampled_from(sorted(KINDS)), st.floats(0.3, 40), st.lists(SOME, min_size=1, max_size=4))
def test_of_every_kind_mass_is_conserved_from_sources_to_ledger(
    kind: str, charge_kg: float, sources: list[tuple[float, float, float, float]]
) -> None:
    draws = {}
    for n, (net, tare, hose, share) in enumerate(sources, 1):
        end = tare + net - max(share * net, 2 * hose)
        draws[f"d{n}"] = {
            "gross_start": written(tare + net, "kg"), "tare": written(tare, "kg"), "hose_loss": written(hose, "kg"),
            "gross_end": written(max(end, tare), "kg"),
        }  # fmt: skip
    result = kind_job(kind, charge_kg, draws).step("weigh_in")
    left = math.fsum(tare + net - float(draws[f"d{n}"]["gross_end"].split()[0]) for n, (net, tare, _, _) in enumerate(sources, 1))
    moved = math.fsum(m.mass_kg for m in result.movements)
    inside = result.figure("inside")
    if not result.problems and inside is not None:
        assert moved == pytest.approx(left, abs=1e-6)
        assert inside.amount.value == pytest.approx(math.fsum(m.mass_kg for m in result.movements if m.kind == "charge"), abs=1e-6)


@settings(max_examples=60, deadline=None)
@given(st.sampled_from(sorted(KINDS)), st.floats(0.3, 40), st.sampled_from(["g", "lb", "oz", "lb oz"]), SOME)
def test_of_every_kind_the_plan_is_the_same_in_any_unit(
    kind: str, charge_kg: float, unit: str, source: tuple[float, float, float, float]
) -> None:
    net, tare, hose, _ = source

    def figures(symbol: str) -> dict[str, float]:
        draw = {"gross_start": written(tare + net, symbol), "tare": written(tare, symbol), "hose_loss": written(hose, symbol)}
        found = kind_job(kind, charge_kg, {"d1": draw}, symbol)
        steps = (found.step("identify"), found.step("weigh_in"))
        return {f.id: f.amount.value for step in steps for f in step.figures} | {
            m.id: m.gross_kg for m in steps[1].drawn(WeighInPicture).marks
        }

    one, other = figures("kg"), figures(unit)
    assert one.keys() == other.keys()
    for key, value in one.items():
        assert other[key] == pytest.approx(value, rel=1e-6, abs=1e-7), key


@settings(max_examples=60, deadline=None)
@given(st.sampled_from(sorted(KINDS)), st.floats(0.3, 40), st.floats(1.0, 3.0), SOME)
def test_of_every_kind_more_line_is_never_less_charge_and_no_mark_is_under_tare_and_heel(
    kind: str, charge_kg: float, times: float, source: tuple[float, float, float, float]
) -> None:
    net, tare, hose, share = source
    residue = share * net
    draw = {
        "gross_start": written(tare + net, "kg"),
        "tare": written(tare, "kg"),
        "hose_loss": written(hose, "kg"),
        "residue": written(residue, "kg"),
    }
    one, longer = kind_job(kind, charge_kg, {"d1": draw}), kind_job(kind, charge_kg, {"d1": draw}, length_times=times)
    totals = [found.step("identify").figure("total") for found in (one, longer)]
    assert totals[0] is not None
    assert totals[1] is not None
    assert totals[1].amount.value >= totals[0].amount.value - 1e-9
    for mark in longer.step("weigh_in").drawn(WeighInPicture).marks:
        assert mark.gross_kg >= tare + min(residue, net) - 1e-6
