"""Closed volumes: nitrogen against CoolProp and a worked figure, vacuum by its shapes, instruments by their sheets."""

import CoolProp.CoolProp as CP
import pytest

from yoshi_core.errors import OutOfRange
from yoshi_core.properties.atmosphere import SEA_LEVEL_PA, site_pressure_pa
from yoshi_core.rig.design import Plate, design, fahrenheit
from yoshi_core.rig.instruments import MAKES, Fault, Instrument, Kit, as_readings
from yoshi_core.rig.live import LiveUnit
from yoshi_core.rig.nitrogen import NitrogenHold, moles, pressure_pa
from yoshi_core.rig.vacuum import Pump, VacuumSystem
from yoshi_core.tight_and_dry.pull_down import hose_m3_s
from yoshi_core.units.quantities import FAHRENHEIT_K, MICRON_PA, PSI_PA


class TestNitrogen:
    @pytest.mark.parametrize("psig", [20, 150, 300, 550, 600])
    @pytest.mark.parametrize(("start_f", "end_f"), [(0, 120), (60, 95), (100, 40)])
    def test_its_isochore_is_coolprops(self, psig: float, start_f: float, end_f: float) -> None:
        """CoolProp 8 (Span et al.), within 0.2 psi."""
        start = psig * PSI_PA + SEA_LEVEL_PA
        density = CP.PropsSI("D", "P", start, "T", fahrenheit(start_f), "N2")
        reference = CP.PropsSI("P", "D", density, "T", fahrenheit(end_f), "N2")
        found = pressure_pa(moles(start, 0.01, fahrenheit(start_f)), 0.01, fahrenheit(end_f))
        assert (found - reference) / PSI_PA == pytest.approx(0.0, abs=0.2)

    def test_a_worked_figure(self) -> None:
        """550 psig warmed from 60 to 95 °F: 591.7 psig, where an ideal gas would say 588.0."""
        amount = moles(550 * PSI_PA + SEA_LEVEL_PA, 0.01, fahrenheit(60))
        assert (pressure_pa(amount, 0.01, fahrenheit(95)) - SEA_LEVEL_PA) / PSI_PA == pytest.approx(591.7, abs=0.1)

    def test_tight_it_follows_the_metal_and_comes_back(self) -> None:
        hold = NitrogenHold(0.008, 300 * PSI_PA + SEA_LEVEL_PA, fahrenheit(70))
        warm = [hold.step(60.0, fahrenheit(80)) for _ in range(60)][-1]
        assert warm > hold.filled_pa + 4 * PSI_PA
        assert [hold.step(60.0, fahrenheit(70)) for _ in range(60)][-1] == pytest.approx(hold.filled_pa, rel=1e-6)

    def test_gas_warmed_by_filling_settles_though_nothing_leaks(self) -> None:
        hold = NitrogenHold(0.008, 300 * PSI_PA + SEA_LEVEL_PA, fahrenheit(70), gas_k=fahrenheit(85))
        course = [hold.step(60.0) for _ in range(20)]
        assert course[0] > course[5] > course[-1]
        assert course[-2] - course[-1] < 100.0

    def test_a_leak_loses_what_it_says(self) -> None:
        """0.2 Pa·m³/s out of 8 L for an hour is 90 kPa, a little less as the pressure falls."""
        hold = NitrogenHold(0.008, 300 * PSI_PA + SEA_LEVEL_PA, fahrenheit(70), leak_pa_m3_s=0.2)
        for _ in range(60):
            hold.step(60.0)
        assert hold.filled_pa - hold.pressure_pa == pytest.approx(0.2 * 3600 / 0.008, rel=0.08)

    def test_nothing_leaks_out_of_what_stands_at_the_air_s_pressure(self) -> None:
        hold = NitrogenHold(0.008, SEA_LEVEL_PA, fahrenheit(70), leak_pa_m3_s=0.2)
        assert hold.step(3600.0) == pytest.approx(SEA_LEVEL_PA, rel=1e-6)

    def test_what_cannot_be_is_refused(self) -> None:
        with pytest.raises(OutOfRange):
            moles(9e6, 0.01, 290.0)
        with pytest.raises(OutOfRange):
            NitrogenHold(0.0, 2e6, 290.0)


def decay(system: VacuumSystem, pump_min: int = 30, wait_min: int = 20) -> list[float]:
    """Micron after isolation, a minute apart."""
    system.pumping = True
    for _ in range(pump_min):
        system.step(60.0)
    system.pumping = False
    return [system.step(60.0) / MICRON_PA for _ in range(wait_min)]


def bend(course: list[float]) -> float:
    """The last five minutes' rise over the first five's: near 1 for a straight line, near 0 for a plateau."""
    return (course[-1] - course[-6]) / (course[5] - course[0])


class TestVacuum:
    def test_dry_and_tight_stays_under_500_and_bends(self) -> None:
        course = decay(VacuumSystem(0.010, 295.0))
        assert course[-1] < 500.0
        assert bend(course) < 0.2

    def test_a_leak_rises_straight_at_its_rate(self) -> None:
        """Q/V: 0.002 Pa·m³/s into 10 L is 90 micron a minute."""
        course = decay(VacuumSystem(0.010, 295.0, leak_pa_m3_s=0.002))
        assert bend(course) > 0.75
        assert course[-1] - course[-2] == pytest.approx(0.002 * 60 / 0.010 / MICRON_PA, rel=0.05)

    def test_water_on_the_surfaces_bends_to_a_plateau(self) -> None:
        course = decay(VacuumSystem(0.010, 295.0, sorbed_kg=1e-3))
        assert course[-1] > 1000.0
        assert bend(course) < 0.1

    def test_water_standing_inside_holds_the_pump_at_its_vapour_pressure(self) -> None:
        """Water at 295 K: 2.64 kPa, 19,800 micron (ASHRAE); the pump draws it below but nowhere near a vacuum."""
        system = VacuumSystem(0.010, 295.0, water_kg=0.05)
        system.pumping = True
        for _ in range(10):
            system.step(60.0)
        assert 5_000 < system.gauge_pa / MICRON_PA < 19_800
        system.pumping = False
        for _ in range(10):
            system.step(60.0)
        assert system.gauge_pa / MICRON_PA == pytest.approx(19_800, rel=0.03)

    def test_a_colder_surface_traps_water_lower(self) -> None:
        warm, cold = (decay(VacuumSystem(0.010, k, water_kg=0.5))[-1] for k in (295.0, 268.0))
        assert cold < 0.25 * warm

    def test_refrigerant_in_the_oil_looks_like_moisture(self) -> None:
        course = decay(VacuumSystem(0.010, 295.0, oil_refrigerant_kg=0.02))
        assert course[-1] > 1000.0
        assert bend(course) < 0.1

    def test_a_plugged_port_lags_and_then_flatters(self) -> None:
        plugged, free = VacuumSystem(0.010, 295.0, plugged=True), VacuumSystem(0.010, 295.0)
        for system in (plugged, free):
            system.pumping = True
            system.step(600.0)
        assert plugged.gauge_pa > 50 * free.gauge_pa
        assert plugged.pressure_pa == pytest.approx(free.pressure_pa)

    def test_thin_long_hoses_and_tired_oil_cost_depth(self) -> None:
        depth = {}
        for name, system in {
            "good": VacuumSystem(0.010, 295.0),
            "thin": VacuumSystem(0.010, 295.0, bore_m=0.0045, hose_m=1.5),
            "tired": VacuumSystem(0.010, 295.0, pump=Pump(wet_oil=True)),
            "ballast": VacuumSystem(0.010, 295.0, pump=Pump(ballast=True)),
        }.items():
            system.pumping = True
            depth[name] = system.step(1200.0)
        assert min(depth, key=depth.__getitem__) == "good"
        assert depth["tired"] > 300 * MICRON_PA
        assert hose_m3_s(0.0095, 1.0, 100.0) > 15 * hose_m3_s(0.0045, 1.0, 100.0)

    def test_breaking_with_nitrogen_fills_it_and_another_pull_is_dry_sooner(self) -> None:
        system = VacuumSystem(0.010, 295.0, sorbed_kg=1e-3)
        first = decay(system)[-1]
        system.break_with_nitrogen(SEA_LEVEL_PA)
        assert system.pressure_pa == pytest.approx(SEA_LEVEL_PA)
        assert decay(system)[-1] < first

    def test_what_cannot_be_is_refused(self) -> None:
        with pytest.raises(OutOfRange):
            VacuumSystem(-1.0, 295.0)
        with pytest.raises(OutOfRange):
            hose_m3_s(0.0, 1.0, 100.0)


class TestInstruments:
    def test_a_display_stays_inside_its_sheet(self) -> None:
        for kind, make in MAKES.items():
            for seed in range(40):
                shown = Instrument(make, seed).read(300.0 if make.quantity == "temperature" else 50.0, 0.0)
                assert shown is not None
                true = 300.0 if make.quantity == "temperature" else 50.0
                assert abs(shown - true) <= max(make.limit, make.relative * true) + make.resolution, kind

    def test_it_shows_whole_steps_and_is_the_same_for_the_same_seed(self) -> None:
        first, second = (Instrument(MAKES["scale"], 5) for _ in range(2))
        for n in range(20):
            shown = first.read(9.0 + 0.01 * n, float(n))
            assert shown == second.read(9.0 + 0.01 * n, float(n))
            assert (shown or 0) / MAKES["scale"].resolution == pytest.approx(round((shown or 0) / MAKES["scale"].resolution), abs=1e-6)

    def test_a_clamp_follows_slowly(self) -> None:
        clamp = Instrument(MAKES["clamp"], 1)
        clamp.read(300.0, 0.0)
        early, late = clamp.read(280.0, 4.0), clamp.read(280.0, 120.0)
        assert early is not None
        assert late is not None
        assert early > 285.0
        assert late == pytest.approx(280.0, abs=FAHRENHEIT_K)

    def test_zero_drift_and_silence(self) -> None:
        off = Instrument(MAKES["gauge"], 1, Fault(zero_error=5 * PSI_PA)).read(0.0, 0.0)
        assert off is not None
        assert off > 3.9 * PSI_PA
        drifting = Instrument(MAKES["gauge"], 1, Fault(drift_per_h=10 * PSI_PA))
        start, end = drifting.read(0.0, 0.0), drifting.read(0.0, 3600.0)
        assert start is not None
        assert end is not None
        assert end - start == pytest.approx(10 * PSI_PA, abs=0.3 * PSI_PA)
        silent = Instrument(MAKES["gauge"], 1, Fault(drop_share=0.5))
        came = [silent.read(0.0, float(n)) is not None for n in range(400)]
        assert 140 < sum(came) < 260
        with pytest.raises(OutOfRange):
            Fault(drop_share=2.0)

    def test_the_kit_reads_as_the_core_judges(self) -> None:
        plate = Plate()
        live = LiveUnit(design(plate), plate.weather)
        live.start()
        kit = Kit(3)
        for _ in range(900):
            now = live.step(1.0)
            shown = kit.read(now)
        readings = as_readings(shown)
        assert readings.suction_gauge_pa == pytest.approx(now.suction_pa - SEA_LEVEL_PA, abs=1.1 * PSI_PA)
        assert readings.liquid_line_k == pytest.approx(now.liquid_k, abs=1.1 * FAHRENHEIT_K)
        assert readings.pressure_limit_pa == MAKES["gauge"].limit
        assert shown["scale"] is None

    def test_a_sealed_gauge_reads_lower_on_a_mountain(self) -> None:
        plate, site = Plate(), site_pressure_pa(2100.0)
        now = LiveUnit(design(plate), plate.weather).step(1.0)
        vented, sealed = (Kit(3, site_pa=site, reference=r).read(now)["suction"] for r in ("vented", "sealed"))
        assert vented is not None
        assert sealed is not None
        assert vented - sealed == pytest.approx(SEA_LEVEL_PA - site, abs=0.2 * PSI_PA)
        with pytest.raises(OutOfRange, match="no instrument called nose"):
            Kit(1, {"nose": Fault()})
