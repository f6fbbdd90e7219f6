"""Every threshold of the trade, with its range and source."""

from yoshi_core.frozen import dataclass
from yoshi_core.units.quantities import FAHRENHEIT_K, LB_KG, MICRON_PA, OZ_KG, PSI_PA, ZERO_FAHRENHEIT_K

TRADE = "common practice, no source"
RIG = "the practice rig, a model"
CFR_LEAK = "40 CFR 82.157 and 84.106 (from memory)"
DISC = "rupture disc near 15 psig on low-pressure machines (from memory)"
ROOM = "practical limits of EN 378-1 (from memory); local code prevails"
ROOM_LFL = "IEC 60335-2-40 and 60335-2-89 (from memory); local code prevails"
PRACTICAL_LIMITS = {
    "R-410A": 0.44, "R-22": 0.30, "R-407C": 0.31, "R-134a": 0.25, "R-404A": 0.52, "R-507A": 0.53, "R-448A": 0.388, "R-449A": 0.357,
    "R-452A": 0.423, "R-513A": 0.319, "R-407A": 0.33, "R-407F": 0.32, "R-123": 0.10,
}  # fmt: skip
TITLE_24 = "California Title 24, Residential Appendix RA3.2 (from memory)"


@dataclass(frozen=True)
class Rule:
    """A threshold: SI `default`, its quantity, range and source."""

    id: str
    text: str
    quantity: str
    default: float
    low: float
    high: float
    source: str


def _f(kelvin_f: float) -> float:
    return kelvin_f * FAHRENHEIT_K


def _at_f(degrees_f: float) -> float:
    return degrees_f * FAHRENHEIT_K + ZERO_FAHRENHEIT_K


RULES: dict[str, Rule] = {
    rule.id: rule
    for rule in (
        Rule("plate.limit", "a plate's charge is right within", "mass", 0.5 * OZ_KG, 0.0, 1.0, TRADE),
        Rule("line.length_limit", "a length paced or read is right within", "length", 0.6096, 0.0, 10.0, TRADE),
        Rule("line.allowance_limit", "a maker's allowance is right within", "linear_density", 0.05 * OZ_KG / 0.3048, 0.0, 0.1, TRADE),
        Rule("line.geometry_limit", "an allowance from tube size is right within", "fraction", 0.08, 0.0, 0.5, TRADE),
        Rule("part.limit", "a part's own charge is right within", "mass", 0.0, 0.0, 1.0, TRADE),
        Rule("scale.limit", "a weighing is right within", "mass", 0.5 * OZ_KG, 0.0, 1.0, TRADE),
        Rule("line.liquid_k", "liquid in the line, when geometry gives the allowance", "temperature", _at_f(100), 250.0, 330.0, TRADE),
        Rule("line.suction_dew_k", "suction dew point for the allowance", "temperature", _at_f(45), 230.0, 300.0, TRADE),
        Rule("line.suction_superheat_k", "suction superheat for the allowance", "temperature_delta", _f(10), 0.0, 40.0, TRADE),
        Rule("weigh_in.tolerance", "weighed in is right within this share of the plan", "fraction", 0.01, 0.001, 0.1, TRADE),
        Rule("weigh_in.least", "and never asked finer than", "mass", 0.5 * OZ_KG, 0.0, 0.2, TRADE),
        Rule("weigh_in.grams", "a charge up to this is shown in grams first", "mass", 0.3, 0.0, 5.0, TRADE),
        Rule("weigh_in.small", "a small hermetic is right within this share of the plan", "fraction", 0.03, 0.001, 0.1, TRADE),
        Rule(
            "weigh_in.safe",
            "a vessel with water is filled with liquid from a saturation of",
            "temperature",
            _at_f(36),
            273.15,
            290.0,
            TRADE,
        ),
        Rule("weigh_in.reaction", "a hand takes to shut the valve", "duration", 1.0, 0.0, 10.0, TRADE),
        Rule("weigh_in.slow_share", "throttle down for the last share of a draw", "fraction", 0.10, 0.0, 0.5, TRADE),
        Rule(
            "cylinder.fill",
            "a recovery cylinder is filled to this share of its volume",
            "fraction",
            0.80,
            0.5,
            0.8,
            "AHRI Guideline K (from memory)",
        ),
        Rule(
            "cylinder.last_k",
            "drawn as vapour to the last, a cylinder is left at a saturation of",
            "temperature",
            _at_f(40),
            230.0,
            310.0,
            TRADE,
        ),
        Rule("cylinder.heel_k", "vapour stays behind as of a cylinder at this temperature", "temperature", _at_f(77), 255.0, 325.0, TRADE),
        Rule(
            "critical.scale_share",
            "a critically charged unit needs a scale this fine, as a share of its tolerance",
            "fraction",
            1 / 3,
            0.05,
            1.0,
            TRADE,
        ),
        Rule("critical.tolerance", "a small hermetic is never asked finer than", "mass", 0.005, 0.0005, 0.05, TRADE),
        Rule("critical.below", "a capillary without a receiver is critically charged below", "mass", 3.0 * LB_KG, 0.1, 5.0, TRADE),
        Rule("verify.run_in", "the unit has run this long before it is judged", "duration", 600.0, 0.0, 7200.0, TRADE),
        Rule("verify.settle", "after a step of charge it settles for", "duration", 600.0, 0.0, 7200.0, TRADE),
        Rule(
            "verify.steady",
            "two readings without a change of charge differ by at most",
            "temperature_delta",
            _f(2),
            _f(0.2),
            _f(10),
            TRADE,
        ),
        Rule("verify.blunt", "a tolerance worth more than this share of the plan is blunt", "fraction", 0.06, 0.01, 0.5, RIG),
        Rule(
            "verify.subcooling_tolerance", "subcooling holds within ± of its target", "temperature_delta", _f(3), _f(0.5), _f(10), TITLE_24
        ),
        Rule(
            "verify.superheat_tolerance",
            "superheat holds within ± of its target (orifice)",
            "temperature_delta",
            _f(5),
            _f(0.5),
            _f(15),
            TITLE_24,
        ),
        Rule("verify.superheat_low", "expansion valve: superheat is usual from", "temperature_delta", _f(4), 0.0, _f(15), TITLE_24),
        Rule("verify.superheat_high", "expansion valve: superheat is usual up to", "temperature_delta", _f(25), _f(5), _f(60), TITLE_24),
        Rule(
            "verify.assumed_subcooling", "target subcooling where the plate gives none", "temperature_delta", _f(10), _f(2), _f(25), TRADE
        ),
        Rule(
            "verify.outdoor_low",
            "subcooling is not judged below this outdoor temperature",
            "temperature",
            _at_f(55),
            255.0,
            300.0,
            TITLE_24,
        ),
        Rule(
            "target.lowest", "below this target superheat nothing is charged by superheat", "temperature_delta", _f(5), 0.0, _f(10), TRADE
        ),
        Rule("target.wet_bulb_low", "target superheat formula: return wet bulb from", "temperature", _at_f(50), 270.0, 300.0, TITLE_24),
        Rule("target.wet_bulb_high", "target superheat formula: return wet bulb up to", "temperature", _at_f(76), 280.0, 310.0, TITLE_24),
        Rule("target.outdoor_low", "target superheat formula: outdoor air from", "temperature", _at_f(55), 270.0, 300.0, TITLE_24),
        Rule("target.outdoor_high", "target superheat formula: outdoor air up to", "temperature", _at_f(100), 290.0, 320.0, TITLE_24),
        Rule("as_found.run_in", "as found: readings count after", "duration", 600.0, 0.0, 7200.0, TRADE),
        Rule("vehicle.over_low", "vehicle: condensing over outdoor air from", "temperature_delta", _f(20), 0.0, _f(90), TRADE),
        Rule("vehicle.over_high", "vehicle: condensing over outdoor air up to", "temperature_delta", _f(60), 0.0, _f(120), TRADE),
        Rule("vehicle.evaporating_low", "vehicle: evaporating from", "temperature", _at_f(25), 250.0, 290.0, TRADE),
        Rule("vehicle.evaporating_high", "vehicle: evaporating up to", "temperature", _at_f(50), 260.0, 300.0, TRADE),
        Rule("coil.slack", "a rule of thumb for a coil is stretched by", "temperature_delta", _f(5), 0.0, _f(15), TRADE),
        Rule("coil.split_low", "cooling: the air split is from", "temperature_delta", _f(16), 0.0, _f(40), TRADE),
        Rule("coil.split_high", "cooling: the air split is up to", "temperature_delta", _f(22), 0.0, _f(40), TRADE),
        Rule("coil.split_humid", "without a wet bulb the split's band is wider by", "temperature_delta", _f(3), 0.0, _f(15), TRADE),
        Rule("coil.amps_low", "a compressor usually draws, of its rated current, from", "fraction", 0.5, 0.0, 1.0, TRADE),
        Rule("coil.amps_high", "a compressor usually draws, of its rated current, up to", "fraction", 1.0, 0.5, 2.0, TRADE),
        Rule("coil.near_cut_out", "a high-pressure control is near from condensing at", "temperature", _at_f(135), 310.0, 350.0, TRADE),
        Rule("coil.cooling_evaporating_low", "cooling air: evaporating from", "temperature", _at_f(34), 250.0, 290.0, TRADE),
        Rule("coil.cooling_evaporating_high", "cooling air: evaporating up to", "temperature", _at_f(50), 260.0, 300.0, TRADE),
        Rule("coil.cooling_over_low", "cooling: condensing over outdoor air from", "temperature_delta", _f(15), 0.0, _f(60), TRADE),
        Rule("coil.cooling_over_high", "cooling: condensing over outdoor air up to", "temperature_delta", _f(30), 0.0, _f(80), TRADE),
        Rule("coil.reach_in_under_low", "reach-in: evaporating under the box from", "temperature_delta", _f(25), 0.0, _f(60), TRADE),
        Rule("coil.reach_in_under_high", "reach-in: evaporating under the box up to", "temperature_delta", _f(30), 0.0, _f(60), TRADE),
        Rule("coil.reach_in_over_low", "reach-in: condensing over the room from", "temperature_delta", _f(25), 0.0, _f(60), TRADE),
        Rule("coil.reach_in_over_high", "reach-in: condensing over the room up to", "temperature_delta", _f(30), 0.0, _f(60), TRADE),
        Rule("coil.walk_in_under_low", "walk-in: evaporating under the box from", "temperature_delta", _f(10), 0.0, _f(60), TRADE),
        Rule("coil.walk_in_under_high", "walk-in: evaporating under the box up to", "temperature_delta", _f(15), 0.0, _f(60), TRADE),
        Rule("coil.walk_in_over_low", "walk-in: condensing over the air from", "temperature_delta", _f(20), 0.0, _f(60), TRADE),
        Rule("coil.walk_in_over_high", "walk-in: condensing over the air up to", "temperature_delta", _f(30), 0.0, _f(60), TRADE),
        Rule("coil.heating_over_low", "heating: condensing over return air from", "temperature_delta", _f(20), 0.0, _f(60), TRADE),
        Rule("coil.heating_over_high", "heating: condensing over return air up to", "temperature_delta", _f(45), 0.0, _f(80), TRADE),
        Rule("coil.heating_under_low", "heating: evaporating under outdoor air from", "temperature_delta", _f(8), 0.0, _f(60), TRADE),
        Rule("coil.heating_under_high", "heating: evaporating under outdoor air up to", "temperature_delta", _f(25), 0.0, _f(60), TRADE),
        Rule("coil.heating_at", "heating rules are meant for outdoor air of", "temperature", _at_f(47), 250.0, 300.0, TRADE),
        Rule("coil.heating_shift", "heating: a warmer day raises the pressures by this share of it", "fraction", 0.3, 0.0, 1.0, TRADE),
        Rule("leak.tracer", "a tracer under nitrogen is at most", "mass", 2.0 * OZ_KG, 0.0, 0.5, TRADE),
        Rule("leak.tracer_share", "and at most this share of the charge", "fraction", 0.02, 0.0, 0.2, TRADE),
        Rule("recover.wait", "after recovery, the pressure is watched for", "duration", 300.0, 0.0, 7200.0, TRADE),
        Rule("recover.oily_fill", "a cylinder takes this share when what comes is oily or unknown", "fraction", 0.70, 0.3, 0.8, TRADE),
        Rule("recover.nearly_full", "change the cylinder when its room is down to this share", "fraction", 0.08, 0.01, 0.5, TRADE),
        Rule("recover.blend_lost", "a blend that lost more than this share goes for reclaim", "fraction", 0.25, 0.0, 1.0, TRADE),
        Rule("recover.right_low", "recovered is right from this share of what belongs", "fraction", 0.95, 0.5, 1.0, TRADE),
        Rule("recover.right_high", "recovered is right up to this share of what belongs", "fraction", 1.05, 1.0, 1.5, TRADE),
        Rule("cylinder.hot", "a cylinder is liquid-full too early below this temperature", "temperature", _at_f(130), 300.0, 350.0, TRADE),
        Rule("hold.step", "a gauge under nitrogen reads in steps of", "gauge_pressure_delta", 0.1 * PSI_PA, 10.0, 1e5, TRADE),
        Rule("hold.metal", "a clamp on the pipe is right within, standard", "temperature_delta", 0.3, 0.05, 5.0, TRADE),
        Rule("hold.no_metal", "without a clamp the pipe temperature is known within, standard", "temperature_delta", 3.0, 0.1, 20.0, TRADE),
        Rule("hold.settle", "nitrogen settles for, before the hold counts", "duration", 900.0, 0.0, 86400.0, TRADE),
        Rule("hold.least", "a hold lasts at least", "duration", 900.0, 60.0, 604800.0, TRADE),
        Rule("hold.volume", "a hold lasts longer, in proportion, above a volume of", "volume", 0.02, 0.001, 20.0, TRADE),
        Rule("hold.chiller", "a chiller is held at least", "duration", 43200.0, 600.0, 1209600.0, TRADE),
        Rule("hold.low_pressure", "a low-pressure machine is tested at most at", "gauge_pressure", 10.0 * PSI_PA, 1e4, 5e5, DISC),
        Rule("hold.gross", "nitrogen: the first, gross check is at", "gauge_pressure", 40.0 * PSI_PA, 5e4, 1e6, TRADE),
        Rule("hold.second", "nitrogen: the second stage is at", "gauge_pressure", 150.0 * PSI_PA, 1e5, 3e6, TRADE),
        Rule("hold.interval", "a unit is serviced every", "duration", 31_557_600.0, 86_400.0, 3.2e8, TRADE),
        Rule("hold.limit", "a hold must see a leak of this size; nothing: it is only said", "mass_rate", 0.0, 0.0, 1e-3, TRADE),
        Rule("repair.open_limit", "oil stands open to the air at most", "duration", 900.0, 0.0, 86400.0, TRADE),
        Rule("repair.open_limit_mineral", "mineral oil and alkylbenzene stand open at most", "duration", 7200.0, 0.0, 172800.0, TRADE),
        *(
            Rule(f"room.{name}", f"{name} in the smallest room, at most", "concentration", limit, 0.001, 10.0, ROOM)
            for name, limit in PRACTICAL_LIMITS.items()
        ),
        Rule(
            "room.free", "a flammable charge needs no room of its own up to its lower limit times, m³", "number", 4.0, 0.0, 20.0, ROOM_LFL
        ),
        Rule("room.mild", "for class A2L that grows to", "times", 1.5, 1.0, 3.0, ROOM_LFL),
        Rule("receiver.level", "pumped down, a receiver stands at most", "fraction", 0.85, 0.3, 1.0, TRADE),
        Rule("vehicle.vent", "vehicle: vents at 70 °F outdoors blow at most", "temperature", _at_f(50), 270.0, 300.0, TRADE),
        Rule("vehicle.vent_slope", "vehicle: and warmer by this share of what is above", "fraction", 0.5, 0.0, 1.0, TRADE),
        Rule("vehicle.vent_humid", "vehicle: and for each tenth of humidity above 40 %", "temperature_delta", _f(1.0), 0.0, _f(5), TRADE),
        Rule("chiller.approach", "chiller: an approach is at most", "temperature_delta", _f(5), 0.0, _f(20), TRADE),
        Rule("receiver.flooded", "in winter this share of the condenser stands full of liquid", "fraction", 0.9, 0.1, 1.0, TRADE),
        Rule("receiver.winter", "at the temperature of", "temperature", _at_f(32), 230.0, 290.0, TRADE),
        Rule("instrument.calibrated", "a calibration is good for", "duration", 400.0 * 86_400.0, 86_400.0, 3e8, TRADE),
        Rule("instrument.overdue", "past that, an instrument's ± counts for", "times", 2.0, 1.0, 10.0, TRADE),
        Rule("nitrogen.flow", "nitrogen flows while brazing at", "flow", 4e-5, 1e-6, 1e-2, TRADE),
        Rule("nitrogen.sweep", "a nitrogen sweep flows at", "flow", 4e-4, 1e-6, 1e-1, TRADE),
        Rule("nitrogen.sweep_time", "a nitrogen sweep lasts", "duration", 300.0, 10.0, 14400.0, TRADE),
        Rule("vacuum.oil_uses", "a vacuum pump's oil is good for so many pulls", "number", 5.0, 1.0, 1000.0, TRADE),
        Rule("vacuum.battery", "a micron gauge wants a battery above", "fraction", 0.2, 0.0, 1.0, TRADE),
        Rule("vacuum.target", "a vacuum is pulled to", "micron", 500.0 * MICRON_PA, 10.0, 700.0, TRADE),
        Rule("vacuum.deep", "the deep school pulls to", "micron", 250.0 * MICRON_PA, 5.0, 200.0, TRADE),
        Rule("vacuum.rise", "the thousand school lets it rise to", "micron", 1000.0 * MICRON_PA, 20.0, 700.0, TRADE),
        Rule("vacuum.leak", "under vacuum a leak of this size is one", "leak_flow", 2e-4, 1e-6, 1e-1, TRADE),
        Rule("vacuum.hold", "an isolated vacuum is watched for", "duration", 600.0, 120.0, 86400.0, TRADE),
        Rule("vacuum.hold_volume", "it is watched longer, in proportion, above a volume of", "volume", 0.05, 0.001, 20.0, TRADE),
        Rule("vacuum.chiller", "a chiller's vacuum is watched for", "duration", 43200.0, 600.0, 604800.0, TRADE),
        Rule("vacuum.discard", "the first seconds after isolation are not judged", "duration", 90.0, 0.0, 600.0, TRADE),
        Rule("vacuum.floor", "a micron gauge scatters by at least, standard", "micron", 5.0 * MICRON_PA, 0.01, 20.0, TRADE),
        Rule("vacuum.share", "a micron gauge scatters by this share of its reading, standard", "fraction", 0.02, 0.001, 0.2, TRADE),
        Rule("vacuum.gauges", "two micron gauges may differ by this share", "fraction", 0.25, 0.02, 1.0, TRADE),
        Rule("vacuum.ballast", "the gas ballast is shut at", "micron", 3000.0 * MICRON_PA, 10.0, 3000.0, TRADE),
        Rule("vacuum.first", "three pulls: the first goes to", "micron", 1750.0 * MICRON_PA, 50.0, 2000.0, TRADE),
        Rule("vacuum.second", "three pulls: the second goes to", "micron", 1000.0 * MICRON_PA, 20.0, 1000.0, TRADE),
        Rule(
            "vacuum.unattended",
            "a pump that runs longer is left alone only with somebody's word",
            "duration",
            14400.0,
            600.0,
            86400.0,
            TRADE,
        ),
        Rule("vacuum.rest", "nitrogen rests in it between two pulls for", "duration", 600.0, 0.0, 14400.0, TRADE),
        Rule("vacuum.pump", "a vacuum pump moves, where not said", "flow", 2.4e-3, 1e-5, 1.0, TRADE),
        Rule("vacuum.bore", "a vacuum hose is this wide, where not said", "tube_od", 0.0095, 0.001, 0.1, TRADE),
        Rule("vacuum.length", "a vacuum hose is this long, where not said", "length", 1.2, 0.05, 50.0, TRADE),
        Rule("day.opens", "the shop's day begins so long after midnight", "duration", 25_200.0, 0.0, 43_200.0, TRADE),
        Rule("day.closes", "the shop's day ends so long after midnight", "duration", 61_200.0, 43_200.0, 86_400.0, TRADE),
        Rule("time.identify", "Identify takes", "duration", 600.0, 0.0, 86400.0, TRADE),
        Rule("time.as_found", "As found takes", "duration", 1500.0, 0.0, 86400.0, TRADE),
        Rule("time.plan_change", "planning a change of refrigerant takes", "duration", 900.0, 0.0, 172800.0, TRADE),
        Rule("time.change_over", "oil, metering and controls of a change take", "duration", 7200.0, 0.0, 172800.0, TRADE),
        Rule("time.leak_search", "a leak search takes", "duration", 3600.0, 0.0, 172800.0, TRADE),
        Rule("time.recover", "recovery runs for", "duration", 1800.0, 0.0, 172800.0, TRADE),
        Rule("time.repair", "a repair takes", "duration", 2700.0, 0.0, 172800.0, TRADE),
        Rule("time.fill", "filling with nitrogen in stages takes", "duration", 480.0, 0.0, 86400.0, TRADE),
        Rule("time.set_up", "hoses, cores and gauge before a pull take", "duration", 300.0, 0.0, 86400.0, TRADE),
        Rule("time.pull", "a pull takes at least", "duration", 1800.0, 0.0, 172800.0, TRADE),
        Rule("time.weigh_in", "weighing in takes", "duration", 1200.0, 0.0, 86400.0, TRADE),
        Rule("time.verify", "reading and trimming take", "duration", 900.0, 0.0, 86400.0, TRADE),
        Rule("time.close_out", "closing out takes", "duration", 600.0, 0.0, 86400.0, TRADE),
        Rule("time.history", "the shop's own times count from so many jobs of a kind", "number", 5.0, 1.0, 1000.0, TRADE),
        Rule("leak.inside", "a leak is counted as vapour at saturation of", "temperature", _at_f(70), 250.0, 320.0, TRADE),
        Rule("leak.from_charge", "leak-rate rules begin with a charge of", "mass", 15.0 * LB_KG, 0.0, 100.0, CFR_LEAK),
        Rule("leak.from_gwp", "leak-rate rules begin above a GWP of", "number", 53.0, 0.0, 20000.0, CFR_LEAK),
        Rule("leak.limit_cooling", "comfort cooling may lose in a year", "fraction", 0.10, 0.01, 1.0, CFR_LEAK),
        Rule("leak.limit_commercial", "commercial refrigeration may lose in a year", "fraction", 0.20, 0.01, 1.0, CFR_LEAK),
        Rule("leak.unsure", "a place called clean still leaks this often when the method would show it", "fraction", 0.1, 0.0, 0.9, TRADE),
        Rule("retrofit.start_share", "a retrofit starts with this share of its expected charge", "fraction", 0.90, 0.5, 1.0, TRADE),
        Rule(
            "retrofit.worst_over", "on its worst day it condenses over the air by, bubble", "temperature_delta", _f(20), 0.0, _f(60), TRADE
        ),
        Rule(
            "retrofit.residual_oil",
            "old oil left under another refrigerant is at most",
            "fraction",
            0.05,
            0.002,
            0.3,
            "makers' retrofit guides (from memory)",
        ),
        Rule("retrofit.close", "another refrigerant is trimmed to within this share of the tolerance", "fraction", 0.25, 0.05, 1.0, TRADE),
        Rule("retrofit.least_subcooling", "another refrigerant's subcooling is at least", "temperature_delta", _f(4), _f(1), _f(15), TRADE),
        Rule("retrofit.size", "a valve is set, not changed, while it takes this much more or less", "fraction", 0.15, 0.0, 0.5, TRADE),
        Rule("retrofit.orifice", "an orifice is right within this share of its bore", "fraction", 0.03, 0.005, 0.2, TRADE),
        Rule("retrofit.control", "a pressure control is set within", "gauge_pressure_delta", 3.0 * PSI_PA, 0.0, 20.0 * PSI_PA, TRADE),
        Rule("retrofit.gwp", "nothing is retrofitted above a GWP of; nothing: no limit", "number", 0.0, 0.0, 20000.0, TRADE),
        Rule("trim.step_share", "one trim step is at most this share of the total", "fraction", 0.05, 0.005, 0.1, TRADE),
        Rule("trim.cap_share", "trimming stops this share away from the plan", "fraction", 0.10, 0.01, 0.25, TRADE),
        Rule("trim.gap_share", "a step closes this share of the estimated gap", "fraction", 0.5, 0.1, 1.0, TRADE),
        Rule("trim.other_cause", "no step where other faults together are this likely", "fraction", 0.45, 0.05, 1.0, RIG),
        Rule("probe.temperature_limit", "a clamp on the pipe is right within", "temperature_delta", _f(1), 0.0, 5.0, TRADE),
        Rule("probe.pressure_limit", "a gauge is right within", "gauge_pressure_delta", PSI_PA, 0.0, 1e5, TRADE),
        Rule("glide.zeotrope", "a blend with more glide than this is charged as liquid only", "temperature_delta", _f(2), 0.0, 10.0, TRADE),
    )
}
