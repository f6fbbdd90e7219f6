"""What becomes of a weighed charge on the running unit: rig units with their weather and instruments' errors, trimmed as Yoshi says.

Used by `weigh_in_study.py`. A unit is a rig as large as its true charge; gauges are off by up to 1 psi and clamps and
air probes by up to 1 °F the whole job long; the weather drifts from reading to reading. A fifth carry another fault,
which nobody knows. All of it is a guess (common practice, no source), and the rig is a model.
"""

import random
from collections import Counter
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from typing import Any

from yoshi_core.job import documents
from yoshi_core.job.evaluate import evaluate
from yoshi_core.profile.profile import Profile
from yoshi_core.properties.atmosphere import SEA_LEVEL_PA
from yoshi_core.rig.design import Plate, design
from yoshi_core.rig.solve import solve
from yoshi_core.rig.unit import Faults, State, Weather
from yoshi_core.units.quantities import FAHRENHEIT_K, OZ_KG, PSI_PA, ZERO_FAHRENHEIT_K

WELL = Faults()
NOW = datetime(2026, 6, 18, 15, 11, tzinfo=UTC)
REFRIGERANTS = ("R-410A", "R-22", "R-407C", "R-454B")
FAULTS = ("dirty_condenser", "low_airflow", "liquid_restriction", "compressor_leak")
FAULTY, MOST_READINGS = 0.2, 7
GAUGE_PSI, CLAMP_F, SCALE_KG = 1.0, 1.0, 0.5 * OZ_KG


@dataclass(frozen=True)
class Errors:
    """What each instrument is off by on this job: psi and °F."""

    suction: float
    liquid: float
    suction_line: float
    liquid_line: float
    wet: float
    outdoor: float


@dataclass(frozen=True)
class Proof:
    """How it ended: `word` of the last verdict and the rule that spoke, charge over the true one less one, steps made."""

    word: str
    rule: str
    share: float
    steps: int


def errors(dice: random.Random) -> Errors:
    psi, clamp = (lambda: dice.uniform(-GAUGE_PSI, GAUGE_PSI)), (lambda: dice.uniform(-CLAMP_F, CLAMP_F))
    return Errors(psi(), psi(), clamp(), clamp(), clamp(), clamp())


def prove(true_kg: float, said_kg: float, inside_kg: float, fault: str, dice: random.Random) -> Proof:
    """A charge of `inside_kg` in a unit that wants `true_kg`, of which the record says `said_kg` went in and were planned."""
    metering = dice.choice(("orifice", "txv"))
    refrigerant = dice.choice(REFRIGERANTS)
    plate = sized(Plate(refrigerant=refrigerant, metering=metering), true_kg)
    unit = design(plate)
    well = solve(unit, plate.weather, WELL)
    off = errors(dice)
    outdoor, wet = dice.uniform(65.0, 105.0), dice.uniform(58.0, 71.0)
    severity = dice.uniform(0.4, 0.7)
    rows: dict[str, Any] = {}
    step_kg = moved = 0.0
    steps = 0
    word = rule = ""
    for n in range(1, MOST_READINGS + 1):
        outdoor, wet = outdoor + dice.uniform(-0.7, 0.7), wet + dice.uniform(-0.3, 0.3)
        faults = replace(WELL, charge_share=(inside_kg + moved) / true_kg, **({fault: severity} if fault else {}))
        air = replace(plate.weather, outdoor_k=_k(outdoor), indoor_wet_bulb_k=_k(wet))
        now = solve(unit, air, faults)
        if now.name != "running":
            return Proof("does not run", "", (inside_kg + moved) / true_kg - 1.0, steps)
        rows[f"r{n}"] = {**_read(now, air, off, outdoor, wet), **_step(step_kg)}
        found = evaluate(_job(refrigerant, metering, said_kg, well.subcooling_k, rows), Profile(), NOW).step("verify")
        word = found.verdict.word
        rule = next((r.rule_id for r in found.verdict.reasons if r.word == word != "Holds"), "")
        advised = found.figure("trim_step")
        if word != "Wait" or advised is None:
            break
        step_kg = advised.amount.value * (1.0 if advised.label == "add next" else -1.0)
        moved += step_kg + dice.uniform(-1.0, 1.0) * SCALE_KG
        steps += 1
    return Proof(word, rule, (inside_kg + moved) / true_kg - 1.0, steps)


def sized(plate: Plate, charge_kg: float) -> Plate:
    """A plate as large as its charge wants: a ton for every two pounds, the line shorter or longer with it."""
    size = charge_kg / plate.charge_kg
    return replace(
        plate, charge_kg=charge_kg, capacity_w=plate.capacity_w * size, line_m=plate.line_m * min(size, 2.0), oil_kg=plate.oil_kg * size
    )


def _k(fahrenheit: float) -> float:
    return fahrenheit * FAHRENHEIT_K + ZERO_FAHRENHEIT_K


def _f(kelvin: float) -> float:
    return (kelvin - ZERO_FAHRENHEIT_K) / FAHRENHEIT_K


def _read(now: State, air: Weather, off: Errors, outdoor: float, wet: float) -> dict[str, str]:
    return {
        "suction_pressure": f"{(now.suction_pa - SEA_LEVEL_PA) / PSI_PA + off.suction:.1f} psig",
        "liquid_pressure": f"{(now.liquid_pa - SEA_LEVEL_PA) / PSI_PA + off.liquid:.1f} psig",
        "suction_line": f"{_f(now.suction_k) + off.suction_line:.1f} °F",
        "liquid_line": f"{_f(now.liquid_k) + off.liquid_line:.1f} °F",
        "return_wet_bulb": f"{wet + off.wet:.1f} °F",
        "outdoor": f"{outdoor + off.outdoor:.1f} °F",
        "return_air": f"{_f(air.indoor_k):.1f} °F",
        "supply": f"{_f(now.supply_k):.1f} °F",
    }


def _step(step_kg: float) -> dict[str, str]:
    if step_kg == 0.0:
        return {}
    return {"added": f"{step_kg / OZ_KG:.2f} oz"} if step_kg > 0 else {"removed": f"{-step_kg / OZ_KG:.2f} oz", "cylinder": "R4"}


def _job(refrigerant: str, metering: str, said_kg: float, subcooling_k: float | None, rows: dict[str, Any]) -> Any:
    plate = {
        "refrigerant": refrigerant, "kind": "packaged", "metering": metering, "altitude": "0 m", "factory_charge": f"{said_kg:.4f} kg",
        "pairing_proven": True, "pairing_by": "only", "listed": True, "room_volume": "400 m3", "room_area": "150 m2", "mounting": "ceiling",
    }  # fmt: skip
    if subcooling_k is not None:
        plate["subcooling_target"] = f"{round(subcooling_k / FAHRENHEIT_K)} °F"
    draw = {"gross_start": f"{said_kg + 10:.4f} kg", "tare": "4 kg", "hose_loss": "0 g", "gross_end": "10 kg"}
    run = {"mode": "cooling", "run_in": "20 min", "filter_ok": True, "coils_ok": True, "doors_ok": True, "load_ok": True, "readings": rows}
    sheets = {"identify": plate, "weigh_in": {"system_state": "empty", "draws": {"d1": draw}}, "verify": run}
    return documents.load_job({"id": "study", "steps": {name: {"runs": [{"sheet": sheet}]} for name, sheet in sheets.items()}})


def told(rows: list[tuple[float, Proof]]) -> dict[str, Any]:
    """What is published of many: how they ended, and how far from the true charge before and after."""
    words = Counter(proof.word if proof.word != "Stop" else f"Stop: {proof.rule}" for _, proof in rows)
    before = sorted(abs(share) for share, _ in rows)
    after = sorted(abs(proof.share) for _, proof in rows)
    moved = [abs(proof.share - share) for share, proof in rows]
    return {
        "n": len(rows),
        "ended": {word: count / len(rows) for word, count in words.most_common(8)},
        "within_2_percent_before": sum(size <= 0.02 for size in before) / len(rows),
        "within_2_percent_after": sum(size <= 0.02 for size in after) / len(rows),
        "error_of_95_before": before[int(0.95 * len(rows))],
        "error_of_95_after": after[int(0.95 * len(rows))],
        "charge_left_alone": sum(size <= 0.001 for size in moved) / len(rows),
        "steps_each": sum(proof.steps for _, proof in rows) / len(rows),
    }
