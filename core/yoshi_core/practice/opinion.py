"""The rig's opinion on a real job: the few made-up units that would read so, and what each would read with so much more in it.

Never a verdict of the job. How blunt it is was measured on the rig itself (`bench/what_fits_study.py`), not on units that stand somewhere.
"""

import json
from dataclasses import fields
from datetime import datetime

from yoshi_core.diagnosis.observed import derive
from yoshi_core.document.model import Job
from yoshi_core.document.sheets import value_of
from yoshi_core.errors import OutOfRange
from yoshi_core.frozen import dataclass
from yoshi_core.job.evaluate import evaluate
from yoshi_core.message import Message
from yoshi_core.practice.asked import asked_of
from yoshi_core.practice.exercise import FORMAT, VERSION
from yoshi_core.practice.fits import TURNED, Asked, Fit, after, fits
from yoshi_core.profile.profile import Profile
from yoshi_core.rig.design import TON_W
from yoshi_core.rig.unit import Faults
from yoshi_core.running.targets import superheat_target_k
from yoshi_core.steps.plates import current_plate
from yoshi_core.units.display import Amount
from yoshi_core.units.quantities import FAHRENHEIT_K, ZERO_FAHRENHEIT_K

NEAR, PARTLY = 1.0, 2.0
BLUNT_K = 3.0 * FAHRENHEIT_K  # 96 in 100 additions on the rig were told nearer than that
MOST_SHARE = 1.0


@dataclass(frozen=True)
class Candidate:
    """A made-up unit that reads so: its cause, how likely among those tried, what is inside and what that is off by, kg, how well it fits.

    `grave` says how grave the fault is, where that is a share; `text` is the unit as an exercise, to stand in front of. Superheat and subcooling, K, are what it would read, now and after the addition.
    """

    cause: str
    label: str
    share: float
    fit: str
    charge_kg: float
    off_kg: float
    grave: float | None
    superheat_k: float
    subcooling_k: float
    then_superheat_k: float | None
    then_subcooling_k: float | None
    text: str


@dataclass(frozen=True)
class Opinion:
    """What the rig says to a job's last reading. `judges` is superheat or subcooling, by which its target and tolerance are, K; `blunt_k` how near it tells."""

    candidates: tuple[Candidate, ...]
    tried: int
    added_kg: float
    most_kg: float
    step_kg: float | None
    judges: str
    read_superheat_k: float | None
    read_subcooling_k: float | None
    target_k: float | None
    tolerance_k: float
    blunt_k: float
    note: Message


def opinion(job: Job, profile: Profile, now: datetime, added_kg: float = 0.0) -> Opinion:
    """The opinion, with `added_kg` put in. Raises `InvalidInput` where too little was read, `OutOfRange` for more than the charge."""
    asked = asked_of(job, profile, now)
    most = MOST_SHARE * asked.charge_kg
    if not -most <= added_kg <= most:
        raise OutOfRange(
            "What is put in is up to the whole charge, {most}.", words={"most": Amount(most, "mass")}, path="/add", value=added_kg
        )
    found = fits(asked)
    seen = derive(asked.observed)
    altitude_m = value_of(current_plate(job).altitude) or 0.0
    valve = asked.observed.family == "valve"
    step = evaluate(job, profile, now).step("verify").figure("trim_step") if job.kind != "quick" else None
    return Opinion(
        tuple(_candidate(fit, asked, added_kg, altitude_m) for fit in found),
        len(TURNED),
        added_kg,
        most,
        None if step is None else step.amount.value,
        "subcooling" if valve else "superheat",
        seen.superheat_k,
        seen.subcooling_k,
        _target_k(asked, valve=valve),
        profile.value("verify.subcooling_tolerance" if valve else "verify.superheat_tolerance"),
        BLUNT_K,
        _note(found),
    )


def _candidate(fit: Fit, asked: Asked, added_kg: float, altitude_m: float) -> Candidate:
    then = after(fit, asked.observed, added_kg)
    name = TURNED[fit.cause][0] if fit.cause in TURNED else ""
    grave = None if name in {"", "charge_share"} else float(getattr(fit.faults, name))
    return Candidate(
        fit.cause,
        fit.label,
        fit.share,
        "well" if fit.off < NEAR else "partly" if fit.off < PARTLY else "badly",
        fit.charge_kg,
        fit.charge_kg - asked.charge_kg,
        grave,
        fit.state.superheat_k,
        fit.state.subcooling_k,
        then.superheat_k,
        then.subcooling_k,
        _as_exercise(fit, altitude_m),
    )


def _as_exercise(fit: Fit, altitude_m: float) -> str:
    """The made-up unit as an exercise: its fault hidden in it, a full cylinder and one to recover into in the van."""
    unit, weather = fit.unit, fit.weather
    hidden = {item.name: value for item in fields(Faults) if (value := getattr(fit.faults, item.name)) != item.default}

    def degrees(kelvin: float) -> str:
        return f"{(kelvin - ZERO_FAHRENHEIT_K) / FAHRENHEIT_K:.1f} °F"

    air = degrees(weather.outdoor_k)
    plain = {
        "format": FORMAT,
        "version": VERSION,
        "name": f"Like the job: {fit.label}"[:120],
        "group": "Mine",
        "aim": "Bring it right, and see what it reads on the way",
        "unit": {
            "refrigerant": unit.refrigerant,
            "tons": round(unit.capacity_w / TON_W, 3),
            "charge": f"{unit.charge_kg:.4f} kg",
            "metering": unit.metering,
        },
        "weather": {
            "outdoor": air,
            "indoor": degrees(weather.indoor_k),
            "indoor_wet_bulb": degrees(weather.indoor_wet_bulb_k),
            "altitude": f"{altitude_m:.0f} m",
        },
        "hidden": hidden,
        "van": {
            "cylinders": {
                "14": {
                    "gross": f"{4.08 + 2.5 * unit.charge_kg + 2.0:.3f} kg",
                    "tare": "4.08 kg",
                    "water_capacity": f"{3.5 * unit.charge_kg + 6.0:.1f} kg",
                    "temperature": air,
                },
                "R3": {"gross": "12 kg", "tare": "11.8 kg", "water_capacity": f"{3.0 * unit.charge_kg + 15.0:.1f} kg", "temperature": air},
            }
        },
        "limits": {"time": "180 min", "refrigerant": f"{1.5 * unit.charge_kg:.3f} kg"},
    }
    return json.dumps(plain, ensure_ascii=False, indent=1)


def _target_k(asked: Asked, *, valve: bool) -> float | None:
    observed = asked.observed
    if valve:
        return observed.subcooling_target_k
    if observed.return_wet_bulb_k is None or observed.outdoor_k is None:
        return None
    try:
        return superheat_target_k(observed.return_wet_bulb_k, observed.outdoor_k)
    except OutOfRange:
        return None  # weather in which no superheat target applies


def _note(found: tuple[Fit, ...]) -> Message:
    if found and found[0].off >= PARTLY:
        return Message("None of them reads much like yours. Look at the readings again before any of this is believed.")
    if len(found) > 1 and found[1].share > 0.6 * found[0].share:
        return Message("Two of them read nearly alike. What tells them apart is a look, not refrigerant.")
    return Message("One of them reads more like yours than the others. It is still a made-up unit.")
