"""The causes that gauges can point to, and the cheap checks that tell them apart.

What each cause does to the readings is learned from the rig (`core/tools/learn_signatures.py`) and tested
against the trade's signature table; priors, checks and minutes are common practice, no source.
"""

from collections.abc import Mapping

from yoshi_core.frozen import dataclass
from yoshi_core.message import Message, headline


@dataclass(frozen=True)
class Cause:
    """A cause: its words, how often it is met (relative), and whether charge is at fault."""

    id: str
    label: str
    prior: float


@dataclass(frozen=True)
class Check:
    """A cheap check: what to do, what it looked at, minutes, its results in words, and what each result does to a cause's weight.

    `factors[result][cause]` multiplies; `"*"` is every other cause.
    """

    id: str
    text: str
    about: str
    minutes: float
    results: Mapping[str, str]
    factors: Mapping[str, Mapping[str, float]]
    needs_running: bool = True


CANNOT = "cannot"
CAUSES: dict[str, Cause] = {
    cause.id: cause
    for cause in (
        Cause("healthy", "nothing wrong with the circuit, or only a warm room", 1.5),
        Cause("undercharge", "charge is short", 1.6),
        Cause("overcharge", "too much charge", 1.0),
        Cause("liquid_restriction", "liquid line restricted: drier, kink, strainer", 0.7),
        Cause("valve_starving", "expansion valve starving", 0.7),
        Cause("valve_flooding", "expansion valve flooding: stuck open or bulb loose", 0.6),
        Cause("orifice_large", "orifice too large, or not seated", 0.4),
        Cause("orifice_small", "orifice too small or partly plugged", 0.4),
        Cause("low_airflow", "too little indoor air", 1.3),
        Cause("condenser_air", "condenser starved of cool air: dirty, recirculating, fan", 1.3),
        Cause("non_condensables", "air or nitrogen in the system", 0.6),
        Cause("other_refrigerant", "another refrigerant, or a mixture", 0.3),
        Cause("compressor_leak", "compressor valves leaking", 0.5),
        Cause("reversing_leak", "reversing valve leaking", 0.3),
    )
}

ONLY_FOR: Mapping[str, str] = {
    "valve_starving": "valve",
    "valve_flooding": "valve",
    "orifice_large": "fixed",
    "orifice_small": "fixed",
}

CHECKS: dict[str, Check] = {
    check.id: check
    for check in (
        Check(
            "filter",
            "Look at the air filter, the indoor coil's face and the blower.",
            "Filter and indoor coil",
            3.0,
            {"blocked": "filter or coil blocked", "clear": "clean, air moves"},
            {"blocked": {"low_airflow": 8.0, "*": 0.7}, "clear": {"low_airflow": 0.15}},
            needs_running=False,
        ),
        Check(
            "condenser_face",
            "Look at the outdoor coil and its fan, and feel for its own warm air coming back.",
            "Outdoor coil",
            3.0,
            {"starved": "dirty, blocked or recirculating", "clear": "clean, cool air in, fan right"},
            {"starved": {"condenser_air": 8.0, "*": 0.7}, "clear": {"condenser_air": 0.1}},
        ),
        Check(
            "drier_drop",
            "Feel or clamp the liquid line before and after the drier and along its length.",
            "Along the liquid line",
            4.0,
            {"drop": "3 °F or more colder after it", "even": "no difference"},
            {"drop": {"liquid_restriction": 12.0, "*": 0.6}, "even": {"liquid_restriction": 0.1}},
        ),
        Check(
            "bulb",
            "Check the valve's bulb: tight, insulated, at the right place; warm it in the hand.",
            "The valve's bulb",
            6.0,
            {"loose": "loose or bare", "no_answer": "tight, but warming it changes nothing", "answers": "tight, and suction answers"},
            {
                "loose": {"valve_flooding": 10.0, "*": 0.7},
                "no_answer": {"valve_starving": 5.0, "valve_flooding": 3.0, "*": 0.6},
                "answers": {"valve_starving": 0.2, "valve_flooding": 0.15},
            },
        ),
        Check(
            "orifice_size",
            "Compare the orifice with the size on the outdoor unit.",
            "The orifice",
            15.0,
            {"small": "smaller, or dirt in it", "large": "larger, or not seated", "right": "right and clean"},
            {
                "small": {"orifice_small": 15.0, "*": 0.4},
                "large": {"orifice_large": 15.0, "*": 0.4},
                "right": {"orifice_small": 0.05, "orifice_large": 0.05},
            },
            needs_running=False,
        ),
        Check(
            "standing",
            "Switch off, let it equalize, and compare the pressure with saturation at the coldest part.",
            "Standing pressure",
            15.0,
            {"below": "below saturation", "at": "at saturation", "above": "above saturation"},
            {
                "below": {"undercharge": 20.0, "*": 0.15},
                "at": {"non_condensables": 0.1, "other_refrigerant": 0.2},
                "above": {"non_condensables": 12.0, "other_refrigerant": 8.0, "*": 0.4},
            },
            needs_running=False,
        ),
        Check(
            "reversing_ports",
            "Clamp the reversing valve's suction port from the coil and its common suction port.",
            "Reversing valve, coil side to compressor side",
            5.0,
            {"warmer": "5 °F or more warmer at the compressor side", "even": "no difference"},
            {"warmer": {"reversing_leak": 12.0, "*": 0.6}, "even": {"reversing_leak": 0.1}},
        ),
        Check(
            "load_flow",
            "Check what loads the evaporator: fan or loop pump, its amps and flow.",
            "What loads the evaporator",
            3.0,
            {"weak": "too little air or fluid moves", "right": "amps and flow are right"},
            {"weak": {"low_airflow": 8.0, "*": 0.7}, "right": {"low_airflow": 0.15}},
            needs_running=False,
        ),
        Check(
            "pump_down",
            "Shut the liquid valve and see whether the compressor pulls the low side down, and holds it.",
            "Liquid valve shut, the compressor",
            10.0,
            {"weak": "does not pull down, or rises at once", "strong": "pulls down and holds"},
            {"weak": {"compressor_leak": 10.0, "reversing_leak": 3.0, "*": 0.5}, "strong": {"compressor_leak": 0.1}},
        ),
    )
}

# Pumping down is refused on some units (an open low side, a coil too small for the charge), so it is offered last.
DANGEROUS = frozenset({"pump_down"})


SPEAKS_FOR, SPEAKS_AGAINST = 1.5, 0.5


def factor(check: Check, result: str, cause: str) -> float:
    """What a check's result does to a cause's weight; 1 where it says nothing, or could not be done."""
    row = check.factors.get(result, {})
    return row.get(cause, row.get("*", 1.0))


def spoken(cause: str, checks: Mapping[str, str]) -> tuple[tuple[Message, ...], tuple[Message, ...]]:
    """What the checks done say for a cause and against it; a result that hardly moves it is not a reason."""
    speaks_for, against = [], []
    for check_id, result in checks.items():
        check, moved = CHECKS[check_id], factor(CHECKS[check_id], result, cause)
        if moved > SPEAKS_FOR:
            speaks_for.append(headline("{check}: {result}.", check=check.about, result=check.results[result]))
        elif moved < SPEAKS_AGAINST:
            against.append(headline("{check}: {result}.", check=check.about, result=check.results[result]))
    return tuple(speaks_for), tuple(against)
