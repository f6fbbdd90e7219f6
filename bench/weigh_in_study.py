"""What Yoshi's questions are worth: generated weigh-ins played with instrument error and the common slips, with and without them.

    python bench/weigh_in_study.py [JOBS]      writes bench/results/weigh_in.json with seed and the code's hash

A job has a true plate, line and cylinder. A technician copies them, sometimes wrongly, weighs to the mark Yoshi gives
on a scale with its step and limit, with a hose that keeps something and a hand that is late. Half of them weigh the
hose and measure the line; the others guess half an ounce and pace. Where Yoshi refuses a scale or calls it
coarse a finer one is taken. A fifth of the cylinders are nearly used up, so that what stays in them binds: where Yoshi says so before
it is opened a second one is fetched. Without questions he goes on; with them he reads again what was asked about, and
gets it right. Air conditioners are then run on the rig and trimmed as Yoshi says: see `weigh_in_proof.py`.
Distributions stand below; they are guesses (common practice, no source), not a survey.
"""

import json
import random
import sys
from collections import Counter
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT / "core"), str(ROOT / "bench")]

from stamp import code_stamp
from weigh_in_proof import FAULTS, FAULTY, Proof, prove, told

from yoshi_core.job import documents
from yoshi_core.job.evaluate import Findings, evaluate
from yoshi_core.profile.profile import Profile
from yoshi_core.rig.cylinder import Cylinder
from yoshi_core.units.quantities import FOOT_M, LB_KG, OZ_KG

SEED, JOBS = 11, 5000
RESULTS = ROOT / "bench" / "results" / "weigh_in.json"
NOW = datetime(2026, 6, 18, 15, 11, tzinfo=UTC)
KINDS = ("split", "heat_pump", "packaged", "ductless", "vehicle")
SLIPS = ("pound-ounce", "kilograms as pounds", "metres as feet", "lengths swapped", "digits swapped", "tare of another cylinder")
SLIP_SHARE, OTHER_FIGURE, ON_RECORD = 0.25, 0.6, 0.5
LEAN_SHARE, WATER_KG, KELVIN = 0.2, 26.2 * LB_KG, 295.0
ON_THE_RIG = frozenset({"split", "heat_pump", "packaged"})
COARSE_KG, FINE_KG = 0.5 * OZ_KG, 0.002
VEHICLE_TOLERANCE_KG = 0.025
RIGHT_SHARE = 0.02


@dataclass(frozen=True)
class Truth:
    """The job as it really is, masses in kg, lengths in m."""

    kind: str
    plate_kg: float
    included_m: float
    length_m: float
    allowance_kg_m: float
    tare_kg: float
    gross_kg: float
    hose_kg: float
    other_figure: bool
    on_record: bool
    careful: bool

    @property
    def total_kg(self) -> float:
        return self.plate_kg + max(self.length_m - self.included_m, 0.0) * self.allowance_kg_m


@dataclass(frozen=True)
class Copied:
    """What was written down of it, as text; `slip` names the mistake."""

    charge: str
    included: str
    length: str
    tare: str
    hose: str
    slip: str = ""


def truth(dice: random.Random) -> Truth:
    kind = dice.choice(KINDS)
    ounces = dice.randint(16, 40) if kind == "vehicle" else dice.randint(30, 260)
    lineless = kind in {"packaged", "vehicle"}
    included = 0.0 if lineless else dice.choice((15, 25, 30)) * FOOT_M
    length = 0.0 if lineless else max(included, dice.uniform(15, 90) * FOOT_M)
    tare = dice.uniform(7.5, 9.5) * LB_KG
    allowance = 0.0 if lineless else dice.choice((0.22, 0.4, 0.6)) * OZ_KG / FOOT_M
    hose = dice.uniform(0.0, 1.0) * OZ_KG
    total = ounces * OZ_KG + max(length - included, 0.0) * allowance
    lean = dice.random() < LEAN_SHARE
    return Truth(
        kind,
        ounces * OZ_KG,
        included,
        length,
        allowance,
        tare,
        tare + (total + dice.uniform(0.3, 3.0) * LB_KG if lean else dice.uniform(21, 25) * LB_KG),
        hose,
        dice.random() < OTHER_FIGURE,
        dice.random() < ON_RECORD,
        dice.random() < 0.5,
    )


def pounds_ounces(kg: float) -> str:
    ounces = round(kg / OZ_KG, 1)
    return f"{int(ounces // 16)} lb {ounces % 16:.1f} oz"


def copied(job: Truth, dice: random.Random) -> Copied:
    """As it stands, lengths measured to a quarter foot or paced to two feet; a quarter of the jobs with one slip."""
    length = max(job.length_m + dice.uniform(-1, 1) * (0.25 if job.careful else 2.0) * FOOT_M, job.included_m or 0.0)
    right = Copied(
        pounds_ounces(job.plate_kg),
        f"{job.included_m / FOOT_M:.0f} ft",
        f"{length / FOOT_M:.1f} ft",
        pounds_ounces(job.tare_kg),
        f"{job.hose_kg / OZ_KG if job.careful else 0.5:.1f} oz",
    )
    if dice.random() >= SLIP_SHARE:
        return right
    slip = dice.choice(SLIPS)
    pounds = job.plate_kg / LB_KG
    if slip == "pound-ounce":
        wrong = f"{int(pounds)} lb {round((pounds % 1) * 10)} oz"
        return replace(right, charge=wrong, slip=slip) if wrong != right.charge else right
    if slip == "kilograms as pounds":
        return replace(right, charge=f"{job.plate_kg:.2f} lb", slip=slip)
    if slip == "metres as feet" and job.length_m:
        return replace(right, length=f"{job.length_m:.0f} ft", slip=slip)
    if slip == "lengths swapped" and job.length_m > job.included_m + 1.0:
        return replace(right, length=right.included, included=right.length, slip=slip)
    if slip == "digits swapped":
        text = f"{pounds:.1f}"
        wrong = text[::-1] if len(text) == 3 else f"{text[1]}{text[0]}{text[2:]}"
        return replace(right, charge=f"{wrong} lb", slip=slip) if wrong != text else right
    if slip == "tare of another cylinder":
        return replace(right, tare=pounds_ounces(max(job.tare_kg + dice.choice((-1, 1)) * dice.uniform(1, 18) * LB_KG, LB_KG)), slip=slip)
    return right


def judged(job: Truth, entries: Copied, draws: list[dict[str, str]], step_kg: float) -> Findings:
    plate: dict[str, Any] = {
        "refrigerant": "R-134a" if job.kind == "vehicle" else "R-410A", "kind": job.kind, "metering": "txv", "altitude": "0 m",
        "factory_charge": entries.charge, "pairing_proven": True, "pairing_by": "only",
    }  # fmt: skip
    if job.length_m:
        allowance = f"{job.allowance_kg_m * FOOT_M / OZ_KG:.2f} oz/ft"
        plate |= {"included_length": entries.included, "lines": {"l1": {"length": entries.length, "allowance": allowance}}}
    if job.other_figure:
        plate["factory_charge_other"] = f"{job.plate_kg / OZ_KG:.0f} oz"
    circuit: dict[str, Any] = {}
    if job.on_record:
        lines = {"lines": {"l1": {"length": f"{job.length_m / FOOT_M:.1f} ft"}}} if job.length_m else {}
        circuit = {"circuit": {"id": "C", "name": "C", "plate": {"factory_charge": pounds_ounces(job.plate_kg), **lines}}}
    if job.kind == "vehicle":
        plate["tolerance"] = f"{VEHICLE_TOLERANCE_KG * 1e3:.0f} g"
    weigh = {
        "system_state": "empty",
        "scale_step": f"{step_kg * 1e3:.3f} g",
        "draws": {f"d{n}": draw for n, draw in enumerate(draws, 1)},
    }
    steps = {"identify": {"runs": [{"sheet": plate}]}, "weigh_in": {"runs": [{"sheet": weigh}]}}
    return evaluate(documents.load_job({"id": "study", "steps": steps, **circuit}), Profile(), NOW)


def first_draw(job: Truth, entries: Copied, gross_kg: float | None = None) -> dict[str, str]:
    gross = pounds_ounces(job.gross_kg) if gross_kg is None else f"{gross_kg:.6f} kg"
    return {"gross_start": gross, "tare": entries.tare, "hose_loss": entries.hose, "water_capacity": f"{WATER_KG:.3f} kg"}


def scale_for(job: Truth, entries: Copied) -> float:
    """The step of the scale that is taken: the coarse one, unless Yoshi refuses it or calls it coarse."""
    step = judged(job, entries, [first_draw(job, entries)], COARSE_KG).step("weigh_in")
    return FINE_KG if any(reason.rule_id in {"critical.scale_share", "weigh_in.coarse"} for reason in step.verdict.reasons) else COARSE_KG


def says_short(found: Findings) -> bool:
    return any(reason.rule_id == "weigh_in.short" for reason in found.step("weigh_in").verdict.reasons)


def asks(found: Findings) -> bool:
    """Whether Yoshi asks, refuses or warns before the valve is opened; what is said of every job is none."""
    plain = {"identify.complete", "weigh_in.vacuum", "weigh_in.short"}
    for name in ("identify", "weigh_in"):
        step = found.step(name)
        if step.questions or step.problems:
            return True
        if any(reason.word in {"Stop", "Wait"} and reason.rule_id not in plain for reason in step.verdict.reasons):
            return True
    return False


def cylinder_of(job: Truth, net_kg: float) -> Cylinder:
    return Cylinder("R-134a" if job.kind == "vehicle" else "R-410A", net_kg, job.tare_kg, WATER_KG, KELVIN, KELVIN)


def is_short(job: Truth) -> bool:
    """Whether the first cylinder, in truth, has not enough that leaves it as liquid."""
    cylinder = cylinder_of(job, job.gross_kg - job.tare_kg)
    heel = cylinder.volume_m3 * cylinder.known.saturated(cylinder.known.dew_pressure_pa(KELVIN)).vapor_kg_m3
    return cylinder.net_kg - heel < job.total_kg + job.hose_kg


def weighed(job: Truth, entries: Copied, dice: random.Random, *, heed: bool) -> tuple[float, float] | None:
    """What reaches the system in kg, and what was planned, when the technician closes at Yoshi's marks; None where there are none.

    `heed`: where Yoshi says it will run short, a full cylinder of the same make is fetched before the first is opened.
    """
    scale_kg = scale_for(job, entries)
    bias = dice.uniform(-1, 1) * scale_kg
    nets = [job.gross_kg - job.tare_kg]
    draws = [first_draw(job, entries, _reads(job.gross_kg, bias, scale_kg, dice))]
    found = judged(job, entries, draws, scale_kg)
    planned = found.step("weigh_in").figure("to_weigh")
    if heed and says_short(found):
        nets.append(24.0 * LB_KG)
        draws.append(first_draw(job, entries, _reads(job.tare_kg + nets[1], bias, scale_kg, dice)))
    got = 0.0
    for n, net in enumerate(nets):
        figure = judged(job, entries, draws, scale_kg).step("weigh_in").figure("close_at")
        if figure is None or planned is None:
            return None if n == 0 else (got, planned.amount.value if planned else 0.0)
        cylinder, drawn = cylinder_of(job, net), 0.0
        flow = dice.uniform(0.002, 0.008)
        while cylinder.has_liquid and _reads(cylinder.gross_kg, bias, scale_kg, dice) > figure.amount.value:
            cylinder.step(1.0, out_kg_s=flow)
            drawn += flow
        drawn += dice.uniform(0.0, 1.0) * flow if cylinder.has_liquid else 0.0
        got += max(drawn - job.hose_kg, 0.0)
        draws[n]["gross_end"] = f"{_reads(job.tare_kg + net - drawn, bias, scale_kg, dice):.6f} kg"
    return got, planned.amount.value if planned else 0.0


def _reads(gross_kg: float, bias_kg: float, step_kg: float, dice: random.Random) -> float:
    return round((gross_kg + bias_kg + dice.uniform(-0.5, 0.5) * step_kg) / step_kg) * step_kg


def total_of(job: Truth, entries: Copied) -> float | None:
    """The total that is planned from what was written down."""
    figure = judged(job, entries, [first_draw(job, entries)], COARSE_KG).step("identify").figure("total")
    return None if figure is None else figure.amount.value


def worth(share: float) -> bool:
    return abs(share) > 0.015


def play(jobs: int, seed: int) -> dict[str, Any]:
    """Everything that is published."""
    dice = random.Random(seed)
    clean, short = Counter[str](), Counter[str]()
    errors: dict[str, list[float]] = {"careful": [], "guessed": [], "without": [], "with": []}
    slips: dict[str, Counter[str]] = {name: Counter() for name in SLIPS}
    proofs: dict[str, list[tuple[float, Proof]]] = {"right": [], "wrong": [], "faulty": []}
    for _ in range(jobs):
        job = truth(dice)
        entries = copied(job, dice)
        right = replace(copied(job, random.Random(0)), slip="")
        found = judged(job, entries, [first_draw(job, entries)], scale_for(job, entries))
        asked = asks(found)
        got = weighed(job, entries, dice, heed=True)
        share = None if got is None else got[0] / job.total_kg - 1.0
        if not entries.slip:
            clean["jobs"] += 1
            clean["asked"] += asked
            short["short"] += is_short(job)
            short["said"] += is_short(job) and says_short(found)
            short["said of enough"] += says_short(found) and not is_short(job)
            if got is not None and share is not None:
                errors["careful" if job.careful else "guessed"].append(share)
                _run(job, got, share, proofs, dice)
            continue
        row = slips[entries.slip]
        row["jobs"] += 1
        planned = total_of(job, entries)
        matters = planned is None or worth(planned / job.total_kg - 1.0) or (entries.slip == SLIPS[-1] and (share is None or worth(share)))
        row["matters"] += matters
        row["caught"] += asked and matters
        second = job.other_figure or job.on_record
        row["second figure"] += second and matters
        row["caught with a second figure"] += second and matters and asked
        blind = weighed(job, entries, dice, heed=False)
        if blind is not None:
            errors["without"].append(blind[0] / job.total_kg - 1.0)
        if got is not None and share is not None and 0.03 <= abs(share) <= 0.2 and job.kind in ON_THE_RIG:
            proofs["wrong"].append((share, prove(job.total_kg, got[1], got[0], "", dice)))
        again = weighed(job, right if asked else entries, dice, heed=True)
        if again is not None:
            errors["with"].append(again[0] / job.total_kg - 1.0)
    return {
        "no slip": {"jobs": clean["jobs"], "false_alarms": clean["asked"] / clean["jobs"]},
        "no slip, hose weighed and line measured": _spread(errors["careful"]),
        "no slip, hose guessed and line paced": _spread(errors["guessed"]),
        "cylinder nearly used up": dict(short),
        "slips": {name: dict(row) for name, row in slips.items()},
        "a slip, without questions": _spread(errors["without"]),
        "a slip, with questions": _spread(errors["with"]),
        "run, weighed right": told(proofs["right"]),
        "run, weighed wrong by 3 to 20 %": told(proofs["wrong"]),
        "run, weighed right, another fault": told(proofs["faulty"]),
    }


def _run(job: Truth, got: tuple[float, float], share: float, proofs: dict[str, list[tuple[float, Proof]]], dice: random.Random) -> None:
    """The unit run and trimmed; every fifth has another fault."""
    if job.kind not in ON_THE_RIG or abs(share) > RIGHT_SHARE:
        return
    fault = dice.choice(FAULTS) if dice.random() < FAULTY else ""
    proofs["faulty" if fault else "right"].append((share, prove(job.total_kg, got[1], got[0], fault, dice)))


def _spread(errors: list[float]) -> dict[str, float]:
    sizes = sorted(abs(error) for error in errors)
    return {
        "n": len(sizes),
        "median_error": sizes[len(sizes) // 2],
        "error_of_95": sizes[int(0.95 * len(sizes))],
        "within_2_percent": sum(size <= RIGHT_SHARE for size in sizes) / len(sizes),
    }


def main() -> None:
    jobs = int(sys.argv[1]) if len(sys.argv) > 1 else JOBS
    found = play(jobs, SEED)
    print(json.dumps(found, indent=1))
    if jobs == JOBS:
        RESULTS.write_text(json.dumps({"seed": SEED, "jobs": JOBS, "code": code_stamp(__file__), **found}, indent=1) + "\n")


if __name__ == "__main__":
    main()
